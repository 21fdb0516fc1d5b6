"""From sign-in to a downloaded PDF, through the interface alone; then the PDF is looked into."""

import re
import subprocess
from pathlib import Path

import pikepdf
import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import bound
from tests.reference.conftest import validator

__all__ = ["validator"]


@pytest.fixture(scope="module", autouse=True)
def _needs_pages(skerry: Path) -> None:
    assert skerry


def rename(page: Page, name: str) -> None:
    """Write another name over that of the stack."""
    page.get_by_role("heading", level=1).get_by_role("button").click()
    page.get_by_label("Name of the stack").fill(name)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text(name)


def test_the_whole_way(signed_in: Page, chosen: list[Path], tmp_path: Path, validator):
    page = signed_in
    page.get_by_role("link", name="New stack").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Stack of")  # a name is proposed
    page.get_by_label("Files", exact=True).first.set_input_files(chosen)
    expect(page.get_by_text("6/6 files added")).to_be_visible()
    expect(page.get_by_role("list", name="Files being added").get_by_text("added")).to_have_count(6)
    rename(page, "Letters and cards")
    page.get_by_role("link", name="Open the stack").click()

    # Live, without reloading: seven pages of which one fails and one is blank.
    grid = page.get_by_role("listbox", name="Pages")
    expect(grid.get_by_role("option")).to_have_count(7, timeout=60_000)
    expect(page.get_by_role("radio", name="Failed 1")).to_be_visible(timeout=90_000)
    expect(page.get_by_role("radio", name="Aside 1")).to_be_visible(timeout=90_000)
    expect(page.get_by_role("navigation", name="Steps")).to_contain_text("Text read5", timeout=120_000)

    # What failed and why.
    page.get_by_role("radio", name="Failed 1").click()
    expect(grid.get_by_role("option")).to_have_count(1)
    expect(page.get_by_role("complementary", name="Measured")).to_contain_text("The image is incomplete")

    # What is aside, why, and back.
    page.get_by_role("radio", name="Aside 1").click()
    grid.get_by_role("option").first.click()
    expect(page.get_by_role("complementary", name="Measured")).to_contain_text("Aside: blank.")
    page.get_by_role("button", name="Back into the stack").click()
    expect(page.get_by_role("radio", name="Aside 0")).to_be_visible()
    page.get_by_role("radio", name="All 7").click()
    grid.get_by_role("option", name=re.compile("^Page 2,")).click()
    expect(page.get_by_role("button", name="Hold aside")).to_be_visible()
    page.keyboard.press("a")
    expect(page.get_by_role("radio", name="Aside 1")).to_be_visible()

    # One page large, in words and figures.
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(r"/pages/\d+$"))
    expect(page.get_by_test_id("zoom")).to_have_text(re.compile(r"^1\d%$"))
    page.keyboard.press("1")
    expect(page.get_by_test_id("zoom")).to_have_text("100%")
    measured = page.get_by_role("complementary", name="Measured")
    expect(measured).to_contain_text(re.compile(r"levelled by −1\.\d\d°"))
    expect(measured).to_contain_text("300 ppi")
    expect(page.get_by_role("radio", name="Corrected")).to_be_checked()
    page.keyboard.press("o")
    expect(page.get_by_role("radio", name="Original")).to_be_checked()
    page.keyboard.press("Escape")

    # Bound, downloaded, looked into.
    page.keyboard.press("b")
    expect(page.get_by_label("Failed pages")).to_contain_text("07 log 161.jpg")
    page.get_by_label("Title").fill("Letters & cards, 1927")
    page.get_by_role("button", name="Bind as PDF/A-2u").click()
    row = bound(page).first
    expect(row).to_contain_text("5 pages", timeout=60_000)
    expect(row).to_contain_text("PDF/A-2u")
    with page.expect_download() as caught:
        row.get_by_role("link", name="Download").click()
    assert caught.value.suggested_filename == "Letters & cards, 1927.pdf"
    caught.value.save_as(tmp_path / "a.pdf")
    assert validator(tmp_path / "a.pdf") == "ok"
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        assert len(pdf.pages) == 5
        assert str(pdf.docinfo.Title) == "Letters & cards, 1927"
    text = subprocess.run(["pdftotext", str(tmp_path / "a.pdf"), "-"], capture_output=True, text=True, check=True).stdout
    for word in ("biscuit", "barograph", "CONSTANT", "rollers"):
        assert word.lower() in text.lower()


def test_solids_a_photograph_and_a_dyed_sheet_go_the_whole_way(signed_in: Page, skerry: Path, tmp_path: Path, validator):
    """What lies on a page besides text: seen as regions, said by the guard to be there, and bound as it is."""
    page = signed_in
    page.get_by_role("link", name="New stack").click()
    sheets = [skerry / "08 storm warning.jpg", skerry / "09 divider.jpg"]
    page.get_by_label("Files", exact=True).first.set_input_files(sheets)
    page.wait_for_url(re.compile(r"/stacks/\d+/intake"))
    page.get_by_role("link", name="Open the stack").click()
    expect(page.get_by_role("navigation", name="Steps")).to_contain_text("Text read2", timeout=120_000)
    expect(page.get_by_role("radio", name="Aside 0")).to_be_visible()
    stack = page.url
    measured = page.get_by_role("complementary", name="Measured")
    expect(measured).to_contain_text("Content lost", timeout=60_000)
    expect(measured).to_contain_text("0.000%")

    page.get_by_role("listbox", name="Pages").get_by_role("option").first.click()
    page.keyboard.press("e")
    page.get_by_test_id("tilt").wait_for()
    page.keyboard.press("Shift+O")
    kinds = page.get_by_test_id("region")
    expect(kinds.first).to_be_attached()
    shown = {kinds.nth(index).get_attribute("data-kind") for index in range(kinds.count())}
    assert {"picture", "solid", "text"} <= shown

    page.goto(stack)
    expect(page.get_by_role("listbox", name="Pages")).to_be_visible()
    page.keyboard.press("b")
    page.get_by_label("Title").fill("Storm")
    page.get_by_role("button", name="Bind as PDF/A-2u").click()
    row = bound(page).first
    expect(row).to_contain_text("2 pages", timeout=60_000)
    with page.expect_download() as caught:
        row.get_by_role("link", name="Download").click()
    caught.value.save_as(tmp_path / "a.pdf")
    assert validator(tmp_path / "a.pdf") == "ok"
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        divider = pikepdf.PdfImage(pdf.pages[1].Resources.XObject.Im).as_pil_image().convert("RGB").resize((1, 1))
        red, green, blue = divider.getpixel((0, 0))
        assert green > red + 20
        assert green > blue


def test_a_wrong_password_is_said_and_the_name_kept(page: Page):
    page.goto("/")
    page.get_by_label("User name").fill("keeper")
    page.get_by_label("Password").fill("wrong")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("do not belong together")
    expect(page.get_by_label("User name")).to_have_value("keeper")


def test_signing_out_ends_at_the_door(signed_in: Page):
    signed_in.get_by_role("button", name="keeper").click()
    signed_in.get_by_role("menuitem", name="Sign out").click()
    expect(signed_in.get_by_label("Password")).to_be_visible()


def test_an_empty_stack_says_so(signed_in: Page):
    signed_in.goto("/?named=Empty+box")
    signed_in.get_by_role("link", name=re.compile("Empty box")).click()
    expect(signed_in.get_by_text("No pages yet")).to_be_visible()
    signed_in.keyboard.press("b")
    bind = signed_in.get_by_role("button", name="Bind as PDF/A-2u")
    expect(bind).to_be_disabled()
    expect(bind).to_have_accessible_description("There is no page to bind.")


def test_dropping_files(signed_in: Page):
    page = signed_in
    page.goto("/new")
    drop = page.evaluate_handle(
        """() => { const data = new DataTransfer();
        for (const name of ['page 10.png', 'page 9.png', '.hidden']) data.items.add(new File(['x'], name)); return data; }"""
    )
    page.get_by_role("region", name="Order slip").wait_for()
    # Two quick drops go into one stack, and none of them is lost.
    for _ in range(2):
        page.dispatch_event("main", "drop", {"dataTransfer": drop})
    page.wait_for_url(re.compile(r"/stacks/\d+/intake"))
    rows = page.get_by_role("list", name="Files being added").get_by_role("listitem")
    expect(rows).to_have_count(4)
    expect(rows.first).to_contain_text("page 9.png")
    expect(rows.first).to_contain_text("not an image or PDF")
    page.get_by_role("button", name="Skip page 9.png").first.click()
    expect(rows).to_have_count(3)


def test_an_upload_that_is_refused_says_why_and_the_rest_goes_on(signed_in: Page, tmp_path: Path, skerry: Path):
    (tmp_path / "empty.jpg").touch()
    (tmp_path / "letter.txt").write_text("Dear Mr. Harrow")
    page = signed_in
    page.goto("/new")
    page.get_by_label("Files", exact=True).first.set_input_files(
        [tmp_path / "empty.jpg", tmp_path / "letter.txt", skerry / "04 card 41.jpg"]
    )
    page.wait_for_url(re.compile(r"/stacks/\d+/intake"))
    rename(page, "x" * 200)
    expect(page.get_by_role("alert").first).to_contain_text("The file is empty")
    expect(page.get_by_role("alert").last).to_contain_text("not an image or PDF")
    expect(page.get_by_text("1/3 files added, 2 not")).to_be_visible()
    page.get_by_role("link", name="Open the stack").click()
    expect(page.get_by_role("navigation", name="Steps")).to_contain_text("Text read1", timeout=60_000)


def test_no_such_stack(signed_in: Page):
    signed_in.goto("/stacks/4711")
    expect(signed_in.get_by_role("alert")).to_contain_text("no such thing")
