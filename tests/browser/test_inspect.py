"""Findings gone through by keyboard alone: fine, tried again, held aside, captured again, deleted, undone."""

import re
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from tests.live import Live, until


@pytest.fixture
def stack(live: Live, skerry: Path, tmp_path: Path) -> int:
    """Two letters, one of them captured a second time, and a page of the log that is cut short."""
    again = tmp_path / "01 letter 3a.jpg"
    Image.open(skerry / "01 letter 1a.jpg").save(again, quality=85, dpi=(300, 300))
    names = ("01 letter 1a.jpg", "01 letter 2a.jpg", "07 log 161.jpg")
    made = live.take_in("Box 27", [*(skerry / name for name in names[:2]), again, skerry / names[2]])
    until(lambda: live.settled(made), 120, "the pages to be worked on")
    until(lambda: len(live.call("GET", f"/api/v1/stacks/{made}/findings")) == 2, 30, "them to be checked")
    return made


def test_findings_are_gone_through_by_keyboard_alone(signed_in: Page, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}")
    expect(page.get_by_role("listbox", name="Pages")).to_be_visible()
    page.keyboard.press("q")
    expect(page.get_by_role("heading", name="Captured twice")).to_be_visible()
    expect(page.get_by_test_id("place")).to_have_text("1 of 2")

    # Back and forth, and what follows is listed.
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("heading", name="The page failed")).to_be_visible()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("heading", name="Captured twice")).to_be_visible()

    # Fine as it is, and undone: it waits again.
    page.keyboard.press("f")
    expect(page.get_by_role("heading", name="The page failed")).to_be_visible()
    expect(page.get_by_test_id("place")).to_have_text("1 of 1")
    page.keyboard.press("z")
    expect(page.get_by_test_id("place")).to_have_text(re.compile("of 2"))

    # Held aside as a double; the page that failed is captured again.
    page.goto(f"/stacks/{stack}/inspect")
    expect(page.get_by_role("heading", name="Captured twice")).to_be_visible()
    page.keyboard.press("a")
    expect(page.get_by_role("heading", name="The page failed")).to_be_visible()
    page.keyboard.press("g")
    expect(page.get_by_role("heading", name="Nothing waits for a look")).to_be_visible()
    expect(page.get_by_text("1 page is to recapture.")).to_be_visible()
    page.get_by_role("link", name="Rescan slip to print").press("Enter")
    expect(page.get_by_text("1 page of 4 to recapture")).to_be_visible()
    expect(page.get_by_role("main")).to_contain_text("07 log 161.jpg")
    page.keyboard.press("Escape")
    expect(page.get_by_role("heading", name="Nothing waits for a look")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page).to_have_url(re.compile(rf"/stacks/{stack}$"))


def test_a_page_that_failed_is_tried_again_or_deleted(signed_in: Page, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/inspect")
    expect(page.get_by_role("heading", name="Captured twice")).to_be_visible()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("heading", name="The page failed")).to_be_visible()
    expect(page.get_by_role("button", name="Fine as it is")).to_be_disabled()
    page.keyboard.press("e")
    expect(page.get_by_text("Tried again: 1 page.", exact=True)).to_be_visible()
    expect(page.get_by_role("heading", name="The page failed")).to_be_visible()
    page.keyboard.press("Delete")
    expect(page.get_by_role("heading", name="Captured twice")).to_be_visible()
    expect(page.get_by_test_id("place")).to_have_text("1 of 1")


def test_on_a_sheet_one_look_judges_many(signed_in: Page, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}")
    pages = page.get_by_role("listbox", name="Pages").get_by_role("option")
    expect(pages).to_have_count(4)
    page.get_by_role("button", name="Sheets").click()
    page.get_by_role("button", name=re.compile("^First pages")).click()
    page.keyboard.press("Escape")
    expect(pages).to_have_count(1)
    # What is done to pages is done from here, too.
    pages.first.click()
    page.keyboard.press("a")
    expect(pages.first).to_have_attribute("aria-label", re.compile("aside"))
    page.get_by_role("button", name="Sheets").click()
    page.get_by_role("button", name=re.compile("^First pages")).click()
    expect(page.get_by_role("listbox", name="Pages").get_by_role("option")).to_have_count(4)
