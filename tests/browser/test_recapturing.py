"""By keyboard alone: a bad capture is marked, captured anew at a station, and its finding closes by what is measured then."""

import re
from pathlib import Path

import pytest
from PIL import Image, ImageFilter
from playwright.sync_api import Page, expect

from tests.browser.at_stations import GLASS, finished, live, page
from tests.browser.hands import station
from tests.live import Live, until

__all__ = ["live", "page"]


@pytest.fixture
def stack(live: Live, skerry: Path, tmp_path: Path) -> int:
    """A letter that was captured out of focus."""
    soft = tmp_path / "01 letter 1a.jpg"
    Image.open(skerry / "01 letter 1a.jpg").filter(ImageFilter.GaussianBlur(5)).save(soft, quality=90, dpi=(300, 300))
    made = live.take_in("Box 27", [soft])
    until(lambda: live.settled(made), 120, "the page to be worked on")
    until(lambda: "sharpness" in checks(live, made), 30, "it to be found soft")
    return made


def checks(live: Live, stack: int) -> set[str]:
    return {one["kind"] for one in live.call("GET", f"/api/v1/stacks/{stack}/findings") if one["fine"] is None}


def test_a_soft_page_is_captured_anew_and_its_finding_closes(page: Page, live: Live, stack: int):
    live.control(GLASS, load="letters", pick=[1], speed=0)
    page.goto(f"/stacks/{stack}/inspect")
    expect(page.get_by_role("heading", name="The writing is soft here")).to_be_visible()
    page.keyboard.press("g")
    expect(page.get_by_text("1 page is to recapture.")).to_be_visible()

    # On to Intake, where it is on the list, and the next capture takes its place.
    page.keyboard.press("Escape")
    expect(page.get_by_role("listbox", name="Pages")).to_be_visible()
    page.keyboard.press("n")
    station(page, "Glass A4").wait_for()
    button = page.get_by_role("region", name="To recapture").get_by_role("button", name="Page 1")
    button.press("Enter")
    expect(page.get_by_test_id("slip")).to_contain_text("puts it in place of page 1")
    page.keyboard.press("l")
    expect(page.get_by_role("button", name=re.compile(r"^Frame \d"))).to_have_count(1)
    page.keyboard.press("c")
    finished(page)
    until(lambda: live.pages(stack)[0]["rescan"] == "" and live.settled(stack), 120, "the new image to be worked on")
    until(lambda: checks(live, stack) == {"new image"}, 60, "what was soft to be closed, and the new image to be told")

    # It comes up once for a look, with nothing else.
    page.goto(f"/stacks/{stack}/inspect")
    expect(page.get_by_role("heading", name="Recaptured")).to_be_visible()
    expect(page.get_by_test_id("place")).to_have_text("1 of 1")
    page.keyboard.press("f")
    expect(page.get_by_role("heading", name="Nothing waits for a look")).to_be_visible()
    page.reload()
    expect(page.get_by_role("heading", name="Nothing waits for a look")).to_be_visible()
    assert len(live.pages(stack)) == 1
