"""Files into a stack: photographs looked at as they arrive, broken uploads, folders, archives, a watched folder."""

import io
import re
import zipfile
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.hands import bound, pick
from tests.live import Live, until

PHOTOGRAPHS = Path(__file__).parents[2] / "demo" / "photographs"


@pytest.fixture
def stack(signed_in: Page, live: Live) -> int:
    made = live.call("POST", "/api/v1/stacks", {"name": "Files"})["id"]
    signed_in.goto(f"/stacks/{made}/intake")
    signed_in.get_by_role("region", name="Files", exact=True).wait_for()
    return made


def choose(page: Page, *files: Path) -> None:
    page.locator("input[aria-label='Files']").first.set_input_files(files)


def picture(path: Path, shade: int, size: tuple[int, int] = (300, 400)) -> Path:
    path.parent.mkdir(parents=True, exist_ok=True)
    Image.new("L", size, shade).save(path, dpi=(100, 100))
    return path


def test_a_photograph_is_judged_at_once_and_taken_again(signed_in: Page, live: Live, stack: int):
    page = signed_in
    choose(page, PHOTOGRAPHS / "notice 1.jpg", PHOTOGRAPHS / "notice 2, out of focus.jpg")
    good = page.get_by_role("region", name="Verdict on notice 1.jpg")
    expect(good).to_contain_text("Good: sharp", timeout=60_000)
    bad = page.get_by_role("region", name="Verdict on notice 2, out of focus.jpg")
    expect(bad).to_contain_text("The writing is blurred here", timeout=60_000)
    spot = bad.get_by_role("img", name=re.compile("The spot at full size"))
    expect(spot).to_be_visible()
    until(lambda: spot.evaluate("image => image.naturalWidth") == 220, 30, "the spot to be shown")
    expect(page.get_by_text("1 photograph worth taking again")).to_be_visible()
    page.get_by_label("Another photograph in place of notice 2, out of focus.jpg").set_input_files(
        PHOTOGRAPHS / "notice 2, again.jpg"
    )
    expect(page.get_by_text("worth taking again")).to_have_count(0, timeout=60_000)
    assert [row["source"] for row in live.pages(stack)] == ["notice 1.jpg", "notice 2, again.jpg"]
    # The former one stays on record and can be seen; what is known of the master is there.
    until(lambda: live.settled(stack), 120, "the photographs to be worked through")
    page.goto(f"/stacks/{stack}/pages/{live.pages(stack)[1]['id']}")
    panel = page.get_by_role("complementary", name="Measured")
    expect(panel.get_by_role("region", name="Master")).to_contain_text("Port Annet Optical Gallery camera")
    panel.get_by_role("region", name="Earlier images").get_by_role("button").click()
    expect(page.get_by_role("dialog")).to_contain_text("notice 2, out of focus.jpg")
    page.keyboard.press("Escape")
    page.keyboard.press("z")
    expect(panel.get_by_role("region", name="Earlier images")).to_have_count(0)
    until(lambda: live.pages(stack)[1]["source"] == "notice 2, out of focus.jpg", 30, "the former one to be back")


@pytest.fixture
def large(tmp_path: Path) -> Path:
    """Over two of the pieces that files are sent in."""
    rng = np.random.default_rng(5)
    pixels = rng.integers(0, 255, (2600, 2600, 3), dtype=np.uint8)
    Image.fromarray(pixels).save(tmp_path / "strip.tif", dpi=(300, 300))
    return tmp_path / "strip.tif"


def test_a_broken_upload_goes_on_where_it_stopped_after_a_reload(signed_in: Page, live: Live, stack: int, large: Path):
    page = signed_in
    line = page.context.new_cdp_session(page)
    line.send(
        "Network.emulateNetworkConditions",
        {"offline": False, "latency": 0, "downloadThroughput": -1, "uploadThroughput": 5_000_000},
    )
    choose(page, large)
    until(lambda: _received(live, stack) > 0, 30, "the first piece to be there")
    page.reload()
    broken = page.get_by_role("region", name="Interrupted uploads")
    expect(broken).to_contain_text("1 interrupted upload")
    expect(page.get_by_role("navigation", name="Steps")).to_contain_text("Intake0/1")  # counted where the stack is
    stood = _received(live, stack)
    assert 0 < stood < large.stat().st_size
    again: list[int] = []
    page.on(
        "request",
        lambda request: again.append(int(request.headers["upload-offset"])) if request.method == "PATCH" else None,
    )
    choose(page, large)
    expect(page.get_by_text("1/1 files added")).to_be_visible()
    assert again[0] == stood
    (row,) = live.pages(stack)
    assert row["source"] == "strip.tif"
    until(lambda: live.counts(stack)["measured"] == 1, 60, "it to be whole")


def _received(live: Live, stack: int) -> int:
    return sum(one["received"] for one in live.call("GET", f"/api/v1/stacks/{stack}/uploads"))


def test_a_folder_with_a_hidden_file_a_text_and_a_zip(signed_in: Page, live: Live, stack: int, tmp_path: Path):
    page = signed_in
    box = tmp_path / "box 27"
    picture(box / "page 10.png", 210)
    picture(box / "inner" / "page 2.png", 220)
    (box / ".hidden.png").write_bytes(b"x")
    (box / "notes.txt").write_text("Fog till noon.")
    archive = zipfile.ZipFile(box / "more.zip", "w")
    buffer = io.BytesIO()
    Image.new("L", (300, 400), 230).save(buffer, "PNG")
    with archive:
        archive.writestr("sheet.png", buffer.getvalue())
        archive.writestr("../../outside.png", buffer.getvalue())
        archive.writestr("/etc/absolute.png", buffer.getvalue())
    page.locator("input[aria-label='Folder']").first.set_input_files(box)
    expect(page.get_by_text("3/4 files added, 1 not")).to_be_visible()
    notes = page.get_by_role("list", name="Files being added").get_by_role("listitem").filter(has_text="notes.txt")
    expect(notes.get_by_role("alert")).to_contain_text("not an image or PDF")
    notes.get_by_role("button", name="Skip").click()
    expect(notes).to_have_count(0)
    rows = page.get_by_role("list", name="Files being added").get_by_role("listitem")
    told = rows.filter(has_text="more.zip").get_by_role("alert")
    expect(told).to_contain_text("outside.png")
    expect(told).to_contain_text("absolute.png")
    until(lambda: live.settled(stack), 60, "everything to be worked through")
    rows_now = live.pages(stack)
    assert [Path(row["source"]).name for row in rows_now] == ["page 2.png", "sheet.png", "page 10.png"]
    assert "failed" not in {row["state"] for row in rows_now}
    # The same files once more are asked about, and left out.
    page.get_by_role("button", name="Back to the stations").click()
    choose(page, box / "page 10.png")
    expect(page.get_by_role("alert")).to_contain_text("The same file is in the stack already")
    page.get_by_role("button", name="Skip page 10.png").click()
    assert len(live.pages(stack)) == 3
    # All of it can be undone, and done again, from the history.
    page.goto(f"/stacks/{stack}")
    expect(page.get_by_role("listbox", name="Pages").get_by_role("option")).to_have_count(3)
    page.keyboard.press("z")
    page.keyboard.press("z")
    expect(page.get_by_text("No pages yet")).to_be_visible()
    page.keyboard.press("y")
    expect(page.get_by_role("listbox", name="Pages").get_by_role("option")).to_have_count(3)


def test_a_watched_folder(signed_in: Page, live: Live, stack: int, tmp_path: Path):
    page = signed_in
    page.get_by_role("region", name="Files", exact=True).get_by_role("button", name="More …").click()
    watched = page.get_by_role("region", name="Watched folder")
    expect(watched).to_contain_text("Off: nothing comes in by itself.")
    watched.get_by_label("Watch a folder on the server").check()
    expect(watched.get_by_role("status")).to_have_text("0 files added")
    folder = Path(live.call("GET", f"/api/v1/stacks/{stack}/watch")["folder"])
    until(folder.is_dir, 30, "the folder to be there")
    whole = picture(tmp_path / "page.png", 180).read_bytes()
    (folder / "page.png").write_bytes(whole[: len(whole) // 2])
    (folder / "notes.txt").write_text("Fog till noon.")
    expect(watched.get_by_role("list", name="Not added")).to_contain_text("not an image or PDF")
    assert live.pages(stack) == []
    (folder / "page.png").write_bytes(whole)
    expect(watched.get_by_role("status")).to_have_text("1 file added")
    until(lambda: [row["source"] for row in live.pages(stack)] == ["page.png"], 30, "the page to be in")
    watched.get_by_label("Watch a folder on the server").uncheck()
    expect(watched).to_contain_text("Off")


@pytest.fixture
def separated(skerry: Path, live: Live, stack: int) -> int:
    """A letter, its blank back, a separator sheet, a card."""
    load = live.call("POST", f"/api/v1/stacks/{stack}/batches", {})["id"]
    files = [
        (skerry / "01 letter 1a.jpg").read_bytes(),
        (skerry / "01 letter 1b.jpg").read_bytes(),
        live.call("GET", "/api/v1/separator-sheet?paper=A4"),
        (skerry / "04 card 41.jpg").read_bytes(),
    ]
    for index, data in enumerate(files):
        live.call("PUT", f"/api/v1/batches/{load}/files/{index}?name={index + 1}", data)
    until(lambda: live.settled(stack), 120, "the pages to be worked through")
    return stack


def test_separators_and_the_treatment(signed_in: Page, live: Live, separated: int):
    page, stack = signed_in, separated
    page.goto(f"/stacks/{stack}")
    grid = page.get_by_role("listbox", name="Pages")
    expect(grid.get_by_role("option", name=re.compile("^Page 3,.*aside: separator"))).to_be_visible()
    expect(grid.get_by_role("option", name=re.compile("^Page 4,.*document begins"))).to_be_visible()
    page.keyboard.press("n")
    pick(page, "Treatment", "single-sided")
    until(lambda: live.pages(stack)[1]["aside"] == "", 30, "the blank back to be kept")
    pick(page, "A new document after", "separators and blank pages")
    page.get_by_test_id("stack-line").get_by_role("button", name="More …").click()
    expect(page.get_by_text("Every blank page begins one too")).to_be_visible()
    with page.expect_download() as caught:
        page.get_by_role("link", name="Letter", exact=True).click()
    assert caught.value.suggested_filename == "separator sheet Letter.pdf"
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    page.keyboard.press("z")
    page.keyboard.press("z")
    until(lambda: live.pages(stack)[1]["aside"] == "blank", 30, "the treatment to be the former one")
    until(lambda: live.settled(stack), 60, "the stack to be settled")
    page.keyboard.press("b")
    page.get_by_label("Title").fill("The letter")
    page.get_by_role("button", name="Bind 2 documents").click()
    rows = bound(page)
    expect(rows).to_have_count(2)
    expect(rows.filter(has_text="1 page")).to_have_count(2, timeout=60_000)


def test_a_printed_cover_sheet_files_what_comes_in_behind_it(signed_in: Page, skerry: Path, live: Live, stack: int):
    page = signed_in
    letters = live.call("POST", "/api/v1/stacks", {"name": "Letters of the keeper"})["id"]
    page.goto(f"/stacks/{letters}/cover-sheet")
    expect(page.get_by_role("img", name="Code by which this sheet is recognised")).to_be_visible()
    printed = page.pdf(format="A4")
    load = live.call("POST", f"/api/v1/stacks/{stack}/batches", {})["id"]
    files = {
        "a.jpg": (skerry / "04 card 41.jpg").read_bytes(),
        "b.pdf": printed,
        "c.jpg": (skerry / "01 letter 1a.jpg").read_bytes(),
    }
    for index, (name, data) in enumerate(files.items()):
        live.call("PUT", f"/api/v1/batches/{load}/files/{index}?name={name}", data)
    page.goto(f"/stacks/{stack}")
    grid = page.get_by_role("listbox", name="Pages")
    sheet = grid.get_by_role("option", name=re.compile("^Page 2,.*aside: cover sheet"))
    until(lambda: len(live.pages(letters)) == 1, 120, "what came behind the sheet to be filed")
    expect(sheet).to_be_visible()
    expect(grid.get_by_role("option")).to_have_count(2)
    sheet.click()
    expect(page.get_by_text("1 page behind it was filed under “Letters of the keeper”.")).to_be_visible()
    page.get_by_role("link", name="Open that stack").click()
    expect(page.get_by_role("option", name=re.compile("^Page 1,"))).to_be_visible()
    assert [row["source"] for row in live.pages(letters)] == ["c.jpg"]
