"""By keyboard alone: a sample drawn, gone through, given back and put right, accepted, signed, reopened; the record fetched."""

import json
import re
from pathlib import Path

import pikepdf
import pytest
from playwright.sync_api import Page, expect

from tests.live import Live, until


@pytest.fixture
def stack(live: Live, skerry: Path) -> int:
    """Three cards, on which nothing is found that waits."""
    made = live.take_in("Box 27, cards", [skerry / f"04 card {number}.jpg" for number in (41, 42, 43)])
    until(lambda: live.settled(made), 120, "the pages to be worked on")
    plan = f"/api/v1/stacks/{made}/plan"
    until(lambda: live.call("GET", plan)["to_do"] == [], 60, "them to be checked, with nothing found")
    return made


def test_a_sample_is_drawn_gone_through_and_signed_by_keyboard_alone(signed_in: Page, stack: int, tmp_path: Path):
    page = signed_in
    page.goto(f"/stacks/{stack}")
    expect(page.get_by_role("listbox", name="Pages")).to_be_visible()
    page.keyboard.press("q")
    expect(page.get_by_role("heading", name="Nothing waits for a look")).to_be_visible()
    page.keyboard.press("s")
    expect(page.get_by_role("heading", name=re.compile("All 3 pages are looked at"))).to_be_visible()
    expect(page.get_by_text("No sample was accepted yet: draw one.")).to_be_visible()

    # Drawn, and one page of it is bad: with what is wrong in words it goes back.
    page.keyboard.press("d")
    looked = page.get_by_test_id("looked")
    expect(looked).to_have_text("0 of 3")
    page.keyboard.press("f")
    expect(looked).to_have_text("1 of 3")
    page.keyboard.press("m")
    page.keyboard.type("too dark")
    page.keyboard.press("Enter")
    expect(looked).to_have_text("2 of 3")
    expect(page.get_by_text("1 of 2 pages that were looked at is bad")).to_be_visible()
    page.keyboard.press("r")
    expect(page.get_by_text("1 finding waits for somebody")).to_be_visible()

    # It is a finding now, put right on the bench, from which one comes back.
    page.keyboard.press("q")
    expect(page.get_by_role("heading", name="Found bad in the sample")).to_be_visible()
    expect(page.get_by_test_id("finding")).to_contain_text("too dark")
    page.keyboard.press("e")
    expect(page).to_have_url(re.compile(r"/bench/\d+/move/inspect$"))
    page.keyboard.press("Escape")
    expect(page).to_have_url(re.compile(r"/inspect/\d+$"))
    expect(page.get_by_test_id("finding")).to_contain_text("too dark")
    page.keyboard.press("f")
    expect(page.get_by_role("heading", name="Nothing waits for a look")).to_be_visible()

    # Drawn again, all good, accepted and signed.
    page.keyboard.press("s")
    expect(page.get_by_role("button", name="Draw the sample")).to_be_enabled()
    page.keyboard.press("d")
    for number in range(3):
        expect(looked).to_have_text(f"{number} of 3")
        page.keyboard.press("f")
    expect(looked).to_have_text("3 of 3")
    expect(page.get_by_role("button", name="Accept the lot")).to_be_enabled()
    page.keyboard.press("d")
    expect(page.get_by_role("button", name="Sign for this stack")).to_be_enabled()
    page.keyboard.press("Shift+s")
    expect(page.get_by_role("heading", name="keeper signed for this stack")).to_be_visible()

    # The record, as a document and as data.
    with page.expect_download() as coming:
        page.get_by_role("link", name="Record as PDF/A").press("Enter")
    coming.value.save_as(tmp_path / "record.pdf")
    with pikepdf.open(tmp_path / "record.pdf") as record:
        assert record.docinfo["/Title"] == "Inspection record: Box 27, cards"
    with page.expect_download() as coming:
        page.get_by_role("link", name="Record as JSON").press("Enter")
    coming.value.save_as(tmp_path / "record.json")
    assert json.loads((tmp_path / "record.json").read_text())["signed"]["by"] == "keeper"

    # A change is refused, and says what to do.
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    expect(page.get_by_role("listbox", name="Pages")).to_be_visible()
    expect(page.get_by_text(re.compile("keeper signed for this stack on .*: it is closed to changes"))).to_be_visible()
    page.keyboard.press("r")
    expect(page.get_by_text(re.compile("reopen it under Sample")).first).to_be_visible()

    # Reopened with a reason, it can be changed.
    page.goto(f"/stacks/{stack}/sample")
    field = page.get_by_label("Why it is opened again")
    field.focus()
    page.keyboard.type("Card 42 is upside down")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Sign for this stack")).to_be_visible()
    expect(page.get_by_text("Card 42 is upside down")).to_be_visible()


def test_what_was_said_is_taken_back_and_pages_are_gone_back_to(signed_in: Page, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/sample")
    expect(page.get_by_role("button", name="Draw the sample")).to_be_enabled()
    page.keyboard.press("d")
    looked = page.get_by_test_id("looked")
    expect(looked).to_have_text("0 of 3")
    page.keyboard.press("c")
    page.keyboard.press("Escape")  # what is wrong is not kept
    expect(looked).to_have_text("0 of 3")
    page.keyboard.press("c")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 of them critically: the lot is not accepted")).to_be_visible()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("button", name="Page 1, Critical defect")).to_have_attribute("aria-current", "true")
    page.keyboard.press("z")
    expect(looked).to_have_text("0 of 3")
    expect(page.get_by_text("No page is looked at yet; none may be bad.")).to_be_visible()
