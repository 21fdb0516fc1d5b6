"""By keyboard alone: three documents out of one stack, described, numbered, looked at layer by layer, bound in two ways, checked."""

import re
import subprocess
import zipfile
from pathlib import Path

import bagit
import docx
import pikepdf
import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import bound
from tests.live import Live, until
from tests.reference.conftest import validator

__all__ = ["validator"]


@pytest.fixture
def stack(live: Live, skerry: Path) -> int:
    """A letter of one page, another, and a card: three documents."""
    names = ("01 letter 1a.jpg", "01 letter 2a.jpg", "04 card 41.jpg")
    made = live.take_in("Box 27, described", [skerry / name for name in names])
    until(lambda: live.settled(made), 120, "the pages to be worked on")
    pages = [row["id"] for row in live.pages(made)]
    doing = {"do": "break", "pages": pages[1:], "on": True}
    live.call("POST", f"/api/v1/stacks/{made}/changes", {"seen": 10**6, "doing": doing})
    return made


def test_described_numbered_bound_and_checked_by_keyboard_alone(signed_in: Page, stack: int, tmp_path: Path, validator):
    page = signed_in
    page.goto(f"/stacks/{stack}/bind")
    expect(page.get_by_role("heading", name="3 documents, 3 pages")).to_be_visible()

    # The second letter is described, and numbered in roman figures.
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("Page 2, shown as 1")).to_be_visible()
    title = page.get_by_label("Title", exact=True)
    title.focus()
    page.keyboard.press("Control+a")
    page.keyboard.type("Letter on the storm")
    page.keyboard.press("Tab")
    page.keyboard.type("A. Merriwether; E. Harrow")
    page.keyboard.press("Tab")
    page.keyboard.type("winter of 1927")
    page.keyboard.press("Tab")
    expect(page.get_by_role("list", name="Documents to come")).to_contain_text("described")
    page.get_by_role("tab", name="Describe").focus()
    page.keyboard.press("n")
    page.get_by_role("combobox", name="Numbered").focus()
    page.keyboard.press("i")
    page.get_by_label("First number").focus()
    page.keyboard.press("Control+a")
    page.keyboard.type("4")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Page 2, shown as iv")).to_be_visible()

    # Its layers lie apart at a key.
    page.get_by_role("tab", name="Numbers").focus()
    page.keyboard.press("l")
    expect(page.get_by_role("img", name="Ink of page 2")).to_be_visible()
    expect(page.get_by_role("img", name="Paper of page 2")).to_be_visible()
    page.keyboard.press("l")
    expect(page.get_by_role("img", name="Page 2 as it is bound")).to_be_visible()

    # Bound compact, and as a preservation copy with its structure.
    page.keyboard.press("Shift+B")
    expect(bound(page)).to_have_count(3)
    expect(bound(page).filter(has_text="PDF/A-2u")).to_have_count(3, timeout=60_000)
    page.get_by_role("combobox", name="Made as").focus()
    page.keyboard.press("p")
    expect(page.get_by_role("combobox", name="Made as")).to_contain_text("Preservation")
    expect(page.get_by_label("Forecast")).to_contain_text("about", timeout=120_000)
    page.get_by_role("combobox", name="Kind of PDF/A").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("option", name="PDF/A-2u")).to_be_focused()
    # Letter by letter would do too, but a list forgets what was typed a second ago, and a busy machine types slowly.
    for kind in ("PDF/A-2b", "PDF/A-2a"):
        page.keyboard.press("ArrowDown")
        expect(page.get_by_role("option", name=kind)).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("combobox", name="Kind of PDF/A")).to_contain_text("PDF/A-2a")
    page.get_by_role("tab", name="Bound").focus()
    page.keyboard.press("Shift+B")
    expect(bound(page).filter(has_text="PDF/A-2a")).to_have_count(3, timeout=120_000)

    # Every clause that was checked is told.
    page.get_by_role("button", name="What was checked of Letter on the storm").first.press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text(re.compile(r"All \d+ clauses"))
    expect(page.get_by_role("cell", name="6.2.4", exact=True)).to_be_visible()
    page.keyboard.press("Escape")

    # Downloaded: valid, described, its words at their places.
    for number, flavour in enumerate(("PDF/A-2a", "PDF/A-2u")):
        with page.expect_download() as caught:
            page.get_by_role("link", name="Download Letter on the storm").nth(number).press("Enter")
        caught.value.save_as(tmp_path / "a.pdf")
        assert validator(tmp_path / "a.pdf", flavour) == "ok"
        with pikepdf.open(tmp_path / "a.pdf") as pdf, pdf.open_metadata() as xmp:
            assert xmp["dc:title"] == "Letter on the storm"
            assert xmp["dc:creator"] == ["A. Merriwether", "E. Harrow"]
            assert xmp["dc:coverage"] == "winter of 1927"
            assert pdf.pages[0].label == "iv"
        text = subprocess.run(["pdftotext", str(tmp_path / "a.pdf"), "-"], capture_output=True, text=True, check=True).stdout
        assert "Principal Keeper" in text


def test_given_out_in_other_forms_by_keyboard_alone(signed_in: Page, live: Live, stack: int, tmp_path: Path):
    page = signed_in
    page.goto(f"/stacks/{stack}/bind")
    expect(page.get_by_role("heading", name="3 documents, 3 pages")).to_be_visible()
    page.keyboard.press("k")
    page.keyboard.press("Shift+E")
    expect(bound(page).first).to_contain_text("docx")
    with page.expect_download(timeout=60_000) as caught:
        page.get_by_role("link", name=re.compile("^Download Box 27, described, 1 of 3")).press("Enter", timeout=60_000)
    assert caught.value.suggested_filename == "Box 27, described, 1 of 3.docx"
    caught.value.save_as(tmp_path / "letter.docx")
    text = "\n".join(one.text for one in docx.Document(str(tmp_path / "letter.docx")).paragraphs)
    assert "Principal Keeper" in text
    # A form that has no room for what is there says so, and is no file.
    page.get_by_role("combobox", name="Export as").focus()
    page.keyboard.press("x")
    expect(page.get_by_role("combobox", name="Export as")).to_contain_text("XLSX")
    page.get_by_role("tab", name="Bound").focus()
    page.keyboard.press("Shift+E")
    expect(page.get_by_role("alert")).to_contain_text("There is no table on these pages", timeout=60_000)
    # All of it in a bag, with its masters.
    page.get_by_role("combobox", name="Export as").focus()
    page.keyboard.press("b")
    page.get_by_role("combobox", name="Of", exact=True).focus()
    page.keyboard.press("Enter")
    last = page.get_by_role("option", name="All 3 documents as one")
    expect(page.get_by_role("option", name="This document")).to_be_focused()
    page.keyboard.press("End")
    expect(last).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("combobox", name="Of", exact=True)).to_contain_text("All 3 documents as one")
    page.get_by_role("tab", name="Bound").focus()
    page.keyboard.press("Shift+E")
    with page.expect_download(timeout=60_000) as caught:
        page.get_by_role("link", name="Download Box 27, described", exact=True).press("Enter", timeout=60_000)
    caught.value.save_as(tmp_path / "bag.zip")
    with zipfile.ZipFile(tmp_path / "bag.zip") as bag:
        bag.extractall(tmp_path)
    bag = bagit.Bag(str(tmp_path / "Box 27, described"))
    assert bag.validate()
    assert len([name for name in bag.payload_files() if "/masters/" in name]) == 3


def test_what_a_press_leaves_behind_is_bound(signed_in: Page, live: Live, stack: int):
    """A title typed and not yet left is that of the document, though the next press is on Bind."""
    page = signed_in
    page.goto(f"/stacks/{stack}/bind")
    page.get_by_role("checkbox", name="All pages as one document").click()
    page.get_by_label("Title", exact=True).fill("All of it")
    page.get_by_role("button", name="Bind as PDF/A-2u").click()
    expect(bound(page).first).to_contain_text("All of it")
    expect(bound(page).first).to_contain_text("3 pages")


def test_whoever_may_only_look_changes_nothing(signed_in: Page, live: Live, stack: int):
    live.call("PATCH", f"/api/v1/stacks/{stack}/binding", {"profile": "compact"})
    page = signed_in
    page.route("**/api/v1/session", lambda route: route.fulfill(json={**route.fetch().json(), "rights": ["look"]}))
    page.goto(f"/stacks/{stack}/bind")
    expect(page.get_by_role("button", name=re.compile("^Bind 3"))).to_have_accessible_description(
        "Only technicians and administrators bind."
    )
    expect(page.get_by_label("Title", exact=True)).to_be_disabled()
    expect(page.get_by_role("combobox", name="Made as")).to_be_disabled()
