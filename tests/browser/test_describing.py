"""Descriptions of many documents, by keyboard: typed, filled down, taken in from a file that is looked at first, undone."""

import re
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.live import Live, until


@pytest.fixture
def stack(live: Live, skerry: Path) -> int:
    """A box of three documents."""
    names = ("01 letter 1a.jpg", "04 card 41.jpg", "01 letter 2a.jpg")
    made = live.take_in("Box 27, described", [skerry / name for name in names])
    until(lambda: live.settled(made), 300, "the pages to be worked on")
    for page in live.pages(made)[1:]:
        doing = {"do": "break", "pages": [page["id"]], "on": True}
        live.call("POST", f"/api/v1/stacks/{made}/changes", {"seen": 10**6, "doing": doing})
    return made


def said(live: Live, stack: int) -> list[dict[str, Any]]:
    documents = live.call("GET", f"/api/v1/stacks/{stack}/descriptions")["documents"]
    return [{**one["said"]["described"], "title": one["said"]["title"]} for one in documents]


def cell(page: Page, name: str, document: int):
    return page.get_by_role("textbox", name=f"{name} of document {document}", exact=True)


def test_typed_filled_down_and_undone_by_keyboard(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}")
    page.get_by_role("button", name="Layout").wait_for()
    page.keyboard.press("Shift+M")
    cell(page, "Title", 1).focus()
    page.keyboard.type("Letter of February")
    page.keyboard.press("Tab")
    page.keyboard.type("1927")
    page.keyboard.press("Control+Shift+D")
    until(lambda: [one.get("date") for one in said(live, stack)] == ["1927"] * 3, 30, "the date to be filled down")
    page.keyboard.press("ArrowDown")
    expect(cell(page, "Date", 2)).to_be_focused()
    page.keyboard.type("1928-03")
    page.keyboard.press("Escape")  # not meant
    expect(cell(page, "Date", 2)).to_have_value("1927")
    page.keyboard.type("1928-03")
    page.keyboard.press("Enter")
    expect(cell(page, "Date", 3)).to_be_focused()
    until(lambda: said(live, stack)[1]["date"] == "1928-03", 30, "the date to be kept")
    assert said(live, stack)[0] == {"title": "Letter of February", "date": "1927"}
    page.get_by_role("button", name="Undo").click()
    until(lambda: said(live, stack)[1]["date"] == "1927", 30, "the date to be taken back")
    page.reload()
    expect(cell(page, "Title", 1)).to_have_value("Letter of February")
    expect(cell(page, "Title", 2)).to_have_attribute("placeholder", "Box 27, described, 2 of 3")


def test_what_is_being_typed_is_kept_when_the_page_is_closed(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/describe")
    cell(page, "Title", 2).focus()
    page.keyboard.type("Letter of May")
    page.reload()
    expect(cell(page, "Title", 2)).to_have_value("Letter of May")
    page.goto(f"/stacks/{stack}/bind")
    title = page.get_by_label("Title", exact=True)
    expect(title).to_be_visible()
    title.focus()
    page.keyboard.press("Control+a")
    page.keyboard.type("Letter of June")
    page.reload()
    expect(page.get_by_label("Title", exact=True)).to_have_value("Letter of June")
    assert said(live, stack)[0]["title"] == "Letter of June"


def test_a_file_is_looked_at_taken_in_and_undone(signed_in: Page, live: Live, stack: int, tmp_path: Path):
    page = signed_in
    page.goto(f"/stacks/{stack}/describe")
    with page.expect_download() as download:
        page.get_by_role("link", name="CSV", exact=True).click()
    table = Path(download.value.path()).read_text("utf-8-sig").splitlines()
    assert table[0].startswith("document,first page,pages,title,creators")
    assert [line.split(",")[:3] for line in table[1:3]] == [["all", "", "3"], ["1", "1", "1"]]
    file = tmp_path / "box.csv"
    file.write_text("document;title;creator;colour\n2;Card 41;E. Harrow;\n7;Ghost;;\n3;Letter of May;;\n")
    page.get_by_label("CSV file").set_input_files(file)
    sheet = page.get_by_role("dialog", name="What box.csv changes")
    expect(sheet).to_contain_text("2 documents described anew, 1 line not taken")
    expect(sheet).to_contain_text("Columns that mean nothing here: colour")
    expect(sheet.get_by_role("list", name="Lines not taken")).to_contain_text(
        "“7” is none of the documents: there are 3 documents."
    )
    expect(sheet.get_by_role("list", name="What changes").get_by_role("listitem")).to_have_count(2)
    assert said(live, stack) == [{"title": ""}] * 3  # nothing yet
    sheet.get_by_role("button", name="Describe 2 documents so").click()
    expect(cell(page, "Title", 2)).to_have_value("Card 41")
    expect(cell(page, "From", 2)).to_have_value("E. Harrow")
    assert said(live, stack)[1] == {"title": "Card 41", "creators": ["E. Harrow"]}
    page.get_by_role("button", name="Undo").click()
    until(lambda: said(live, stack) == [{"title": ""}] * 3, 30, "the descriptions to be taken back")
    file.write_text("colour\nred\n")
    page.get_by_label("CSV file").set_input_files(file)
    expect(page.get_by_text(re.compile("The first line names no column that is known")).first).to_be_visible()


def test_a_date_found_on_a_page_is_taken_by_a_press_and_a_pattern_made_by_example(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/describe")
    offered = page.get_by_role("region", name="Found on its pages")
    dates = offered.get_by_role("list", name="Dates found").get_by_role("listitem")
    dates.first.wait_for()
    assert said(live, stack)[0] == {"title": ""}  # offered, not taken
    first = dates.first.get_by_role("button")
    value = (first.get_attribute("aria-label") or "").split()[1]
    first.focus()
    page.keyboard.press("Enter")
    expect(cell(page, "Date", 1)).to_have_value(value)
    until(lambda: said(live, stack)[0].get("date") == value, 30, "the date to be kept")

    offered.get_by_role("button", name="Identifiers …").click()
    page.get_by_label("An example").fill("no figures")
    expect(page.get_by_text("has no figures")).to_be_visible()
    page.get_by_label("An example").fill("41/1")
    expect(page.get_by_label("Its pattern")).to_have_value("#/#")
    page.keyboard.press("Enter")
    kept = page.get_by_role("list", name="Patterns that are kept")
    expect(kept).to_contain_text("#/#")
    kept.get_by_role("button", name="Keep the pattern #/# no longer").click()
    expect(kept).to_have_count(0)


def test_what_is_said_of_the_stack_stands_where_documents_say_nothing(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/describe")
    cell(page, "Date", 1).focus()
    page.keyboard.press("ArrowUp")
    of_stack = page.get_by_role("textbox", name="Date of the stack", exact=True)
    expect(of_stack).to_be_focused()
    page.keyboard.type("1927")
    page.keyboard.press("Enter")
    expect(cell(page, "Date", 1)).to_be_focused()
    expect(cell(page, "Date", 1)).to_have_attribute("placeholder", "1927")
    page.keyboard.type("1928")
    page.keyboard.press("Enter")
    until(lambda: said(live, stack)[0].get("date") == "1928", 30, "the date to be kept")
    assert live.call("GET", f"/api/v1/stacks/{stack}/descriptions")["stack"] == {"date": "1927"}
    page.get_by_role("button", name="Undo").click()
    expect(cell(page, "Date", 1)).to_have_value("")
    of_stack.fill("1926")
    page.keyboard.press("Enter")
    expect(cell(page, "Date", 3)).to_have_attribute("placeholder", "1926")
    page.get_by_role("button", name="Undo").click()
    expect(of_stack).to_have_value("1927")
    expect(page.get_by_role("textbox", name="Title of the stack")).to_have_attribute("readonly", "")
