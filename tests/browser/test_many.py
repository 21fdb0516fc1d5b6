"""Two thousand pages: the grid, the fore-edge and keys are as quick to use as with ten."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import cells, chosen, meanwhile
from tests.browser.many import many_pages
from tests.live import Live, until

COUNT = 2000


@pytest.fixture(scope="module")
def stack(live: Live, skerry: Path) -> int:
    made = live.take_in("Of thousands", [skerry / "01 letter 1a.jpg", skerry / "04 card 41.jpg"])
    until(lambda: live.settled(made), 120, "two pages to be finished")
    return made


@pytest.fixture
def many(signed_in: Page, live: Live, stack: int) -> Page:
    many_pages(signed_in, live, stack, COUNT)
    signed_in.goto(f"/stacks/{stack}")
    cells(signed_in).first.wait_for()
    return signed_in


def test_only_what_is_seen_exists(many: Page):
    assert cells(many).count() < 60
    assert many.evaluate("document.querySelectorAll('*').length") < 900
    expect(many.get_by_role("radio", name="All 2,000")).to_be_checked()


def test_keys_and_the_fore_edge_reach_every_page(many: Page):
    page = many
    page.keyboard.press("End")
    expect(chosen(page)).to_have_accessible_name(re.compile("^Page 2000,"))
    expect(chosen(page)).to_be_in_viewport()
    page.keyboard.press("Home")
    expect(chosen(page)).to_have_accessible_name(re.compile("^Page 1,"))
    page.keyboard.press("Control+a")
    expect(page.get_by_text("2,000 pages chosen").first).to_be_visible()
    edge = page.get_by_role("slider", name="Fore-edge")
    box = edge.bounding_box()
    assert box
    edge.click(position={"x": 40, "y": box["height"] / 2})
    expect(edge).to_have_attribute("aria-valuetext", re.compile(r"^Page (99\d|100\d) of 2000"))
    expect(chosen(page)).to_be_in_viewport()


def test_scrolling_goes_on_while_pages_change_places(many: Page):
    page = many
    page.get_by_role("listbox", name="Pages").hover()
    page.mouse.wheel(0, 60_000)
    meanwhile(page, lambda: page.get_by_role("option", name=re.compile(r"^Page \d{3,4},")).count(), 30, "later pages")
    assert cells(page).count() < 60


def test_pages_are_found_by_a_word_of_them(many: Page, stack: int):
    page = many
    page.route("**/preview", lambda route: route.fulfill(status=503, body="busy"))
    page.goto("/treatments/everyday")
    page.get_by_role("combobox", name=re.compile("^Pages of")).click()
    page.get_by_role("option", name="Of thousands").click()
    page.get_by_role("figure").nth(1).get_by_role("button").click()
    field = page.get_by_role("combobox", name="Another page")
    field.fill("leaf 1742")
    expect(page.get_by_role("option")).to_have_count(1)
    page.keyboard.press("Enter")
    expect(page.get_by_role("figure").nth(1).get_by_role("button")).to_contain_text("1742")
