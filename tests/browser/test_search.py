"""By keyboard alone: a word put right is found across everything, seen in the picture of its line, and opened on its page."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.live import Live, until


@pytest.fixture(scope="module")
def stack(live: Live, skerry: Path) -> int:
    made = live.take_in("Box 27, searched", [skerry / "01 letter 1a.jpg", skerry / "04 card 41.jpg"])
    until(lambda: live.settled(made), 300, "the pages to be read")
    until(lambda: live.call("GET", f"/api/v1/stacks/{made}/doubts"), 30, "their words to be gathered")
    return made


def field(page: Page):
    return page.get_by_role("combobox", name="Search everything")


def test_a_word_put_right_is_found_a_second_later_and_opened_on_its_page(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/text")
    word = page.get_by_role("textbox", name="The word")
    expect(word).not_to_have_value("")
    page.keyboard.type("Grimsholm")
    page.keyboard.press("Enter")
    expect(word).not_to_have_value("Grimsholm")

    page.keyboard.press("Control+Shift+F")
    expect(field(page)).to_be_focused()
    page.wait_for_timeout(1000)
    page.keyboard.type("grimsholm")
    hit = page.get_by_role("group", name="Pages").get_by_role("option")
    expect(hit).to_have_count(1)
    expect(hit).to_have_attribute("aria-selected", "true")
    picture = hit.get_by_role("img")
    expect(picture).to_have_attribute("alt", re.compile("Grimsholm"))
    until(lambda: picture.evaluate("image => image.complete && image.naturalWidth > 200"), 30, "the picture of the line")

    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(rf"/stacks/{stack}/text/\d+\?find=grimsholm"))
    expect(page.get_by_test_id("line")).to_contain_text("Grimsholm")
    expect(page.get_by_label("Find in the stack")).to_have_value("grimsholm")
    expect(page.get_by_text("1 of 1 here")).to_be_visible()
    page.go_back()
    expect(field(page)).to_have_value("grimsholm")  # and what was found is there again
    expect(hit).to_have_count(1)


def test_from_the_shelf_with_nothing_found_and_a_slip_forgiven(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto("/")
    page.get_by_role("heading", name="Shelf").wait_for()
    page.keyboard.press("/")
    page.keyboard.type("Trusteess")
    expect(page.get_by_text("No stack is like that")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Nothing holds that")).to_be_visible()
    page.keyboard.press("Tab")
    page.get_by_role("button", name="Forgive a slip in each word").press("Enter")
    expect(page.get_by_role("status").filter(has_text="also looked for trustees")).to_be_visible()
    expect(page.get_by_role("option").first).to_be_visible()
    expect(page.get_by_role("checkbox", name="Forgive a slip")).to_be_checked()


def test_stacks_are_found_by_name_filtered_and_refused_questions_are_explained(signed_in: Page, live: Live, stack: int):
    page = signed_in
    until(lambda: live.call("GET", "/api/v1/search?q=searched")["things"], 30, "the stack to be found by its name")
    page.goto("/search?q=searched")
    thing = page.get_by_role("group", name="By name or description").get_by_role("option")
    expect(thing).to_have_count(1)
    page.get_by_role("radio", name="Pages").click()
    expect(page.get_by_role("heading", name="Nothing holds that")).to_be_visible()
    page.get_by_role("button", name="Search without the filter").click()
    expect(thing).to_have_count(1)
    field(page).press("Enter")
    expect(page).to_have_url(re.compile(rf"/stacks/{stack}$"))
    page.goto("/search")
    expect(field(page)).to_be_focused()
    page.keyboard.type("-oil")
    expect(page.get_by_role("alert")).to_contain_text("Say a word that is to be there, too")
    page.keyboard.press("Escape")
    expect(page.get_by_text("words that begin so")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page).to_have_url(re.compile(r"/$"))


def test_many_names_leave_room_for_the_pages_and_are_all_there_one_step_away(signed_in: Page, live: Live, stack: int):
    page = signed_in
    made = [live.call("POST", "/api/v1/stacks", {"name": f"Minutes of the Trustees, {1921 + at}"})["id"] for at in range(6)]
    until(lambda: len(live.call("GET", "/api/v1/search?q=trustees")["things"]) == 6, 30, "the stacks to be found")
    page.goto("/search?q=trustees")
    things = page.get_by_role("group", name="By name or description").get_by_role("option")
    expect(things).to_have_count(5)
    expect(things.last).to_have_text("Show 2 more")
    expect(page.get_by_role("group", name="Pages").get_by_role("option").first).to_be_in_viewport()
    expect(page.get_by_role("status").filter(has_text=re.compile(r"^6 by name or description, \d+ pages?"))).to_be_visible()
    for at in range(1, 5):
        page.keyboard.press("ArrowDown")
        expect(things.nth(at)).to_have_attribute("aria-selected", "true")
    page.keyboard.press("Enter")
    expect(things).to_have_count(6)
    expect(things.nth(4)).to_have_attribute("aria-selected", "true")  # the first that was not there
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(rf"/stacks/({'|'.join(map(str, made))})$"))


def test_a_year_that_is_none_is_said_and_filters_nothing(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto("/search?q=the")
    page.get_by_role("option").first.wait_for()
    year = page.get_by_role("textbox", name="From year")
    year.fill("19")
    year.blur()
    expect(year).to_have_attribute("aria-invalid", "true")
    expect(page).not_to_have_url(re.compile("from="))
    year.fill("2050")
    expect(page).to_have_url(re.compile("from=2050"))
    expect(page.get_by_role("heading", name="Nothing holds that")).to_be_visible()
