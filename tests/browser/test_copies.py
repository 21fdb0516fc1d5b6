"""By keyboard alone: a copy to be looked at, with a word covered, a note, and a password."""

import re
import subprocess
from pathlib import Path
from typing import Any

import pikepdf
import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.hands import bound
from tests.live import Live, until

STEP = 4
"""Pixels of the screen that a mark moves by an arrow."""
SECRET, KEPT = "Merriwether", "Principal"


@pytest.fixture
def stack(live: Live, skerry: Path) -> int:
    made = live.take_in("Box 27, to be looked at", [skerry / "01 letter 1a.jpg", skerry / "04 card 41.jpg"])
    until(lambda: live.settled(made), 120, "the pages to be worked on")
    return made


def word_of(live: Live, page: int, text: str) -> tuple[float, float, float, float]:
    """Where a word stands, in shares of the page."""
    read: dict[str, Any] = live.call("GET", f"/api/v1/pages/{page}/words")
    (box,) = [word["box"] for line in read["lines"] for word in line["words"] if text in word["text"]]
    width, height = read["size_px"]
    return box[0] / width, box[1] / height, box[2] / width, box[3] / height


def pressed(page: Page, key: str, times: int) -> None:
    for _ in range(times):
        page.keyboard.press(key)


def brought_over(page: Page, mark: Locator, word: tuple[float, float, float, float]) -> None:
    """A mark that has the keyboard is moved over a word, and made as large as it is, by the arrows."""
    sheet = page.get_by_role("img", name=re.compile("as it is seen in the access copy")).bounding_box()
    box = mark.bounding_box()
    assert sheet is not None
    assert box is not None
    left, top, right, bottom = (
        sheet["x"] + word[0] * sheet["width"], sheet["y"] + word[1] * sheet["height"],
        sheet["x"] + word[2] * sheet["width"], sheet["y"] + word[3] * sheet["height"],
    )  # fmt: skip
    for by, back, on in ((left - 2 - box["x"], "ArrowLeft", "ArrowRight"), (top - 2 - box["y"], "ArrowUp", "ArrowDown")):
        pressed(page, on if by > 0 else back, round(abs(by) / STEP))
    for by, less, more in (
        (right - left + 5 - box["width"], "ArrowLeft", "ArrowRight"), (bottom - top + 5 - box["height"], "ArrowUp", "ArrowDown"),
    ):  # fmt: skip
        pressed(page, f"Shift+{more if by > 0 else less}", round(abs(by) / STEP))


def test_a_copy_is_covered_noted_locked_and_fetched_by_keyboard_alone(
    signed_in: Page, live: Live, stack: int, tmp_path: Path
):
    page = signed_in
    letter = live.pages(stack)[0]["id"]
    word = word_of(live, letter, SECRET)
    page.goto(f"/stacks/{stack}/bind")
    expect(page.get_by_role("heading", name="1 document, 2 pages")).to_be_visible()
    page.keyboard.press("a")
    expect(page.get_by_role("img", name="Page 1 as it is seen in the access copy")).to_be_visible()

    # A cover is placed, and moved over the name.
    page.keyboard.press("x")
    page.keyboard.press("Enter")
    cover = page.get_by_role("button", name="Cover 1", exact=True)
    expect(cover).to_be_focused()
    brought_over(page, cover, word)
    # A note, and what it says.
    page.keyboard.press("t")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Note 2", exact=True)).to_be_focused()
    page.keyboard.press("Enter")
    page.keyboard.type("Ask the harbour office")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Note 2: Ask the harbour office")).to_be_focused()

    def kept() -> bool:
        marks = live.call("GET", f"/api/v1/stacks/{stack}/binding")["marks"].get(str(letter), [])
        held = [one["box"] for one in marks if one["kind"] == "cover"]
        return any(box[0] < word[0] and box[1] < word[1] and box[2] > word[2] and box[3] > word[3] for box in held)

    until(kept, 30, "the cover to be kept where it was moved to")

    # The second page is left out; it says so.
    page.get_by_role("tab", name="Access").focus()
    page.keyboard.press("ArrowRight")  # goes along the tabs, whose own key it is
    page.keyboard.press("a")
    page.get_by_role("main").focus()
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("img", name="Page 2 as it is seen in the access copy")).to_be_visible()
    page.keyboard.press("o")
    expect(page.get_by_text("Left out of access copies")).to_be_visible()
    expect(page.get_by_role("checkbox", name="Leave this page out")).to_be_checked()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("button", name="Cover 1", exact=True)).to_be_visible()

    page.get_by_label("Password to open").focus()
    page.keyboard.type("open sesame")
    page.get_by_role("checkbox", name="May be printed").focus()
    page.keyboard.press("Space")
    page.keyboard.press("Shift+A")
    expect(bound(page)).to_have_count(1)
    expect(bound(page).first).to_contain_text("opens by password", timeout=60_000)
    expect(bound(page).first).to_contain_text("Access copy")
    page.get_by_role("button", name=re.compile("^What was checked of")).press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text("Nothing is left under any cover, neither seen nor as text")
    page.keyboard.press("Escape")

    with page.expect_download() as caught:
        page.get_by_role("link", name=re.compile("^Download")).press("Enter")
    copy = tmp_path / "copy.pdf"
    caught.value.save_as(copy)
    with pytest.raises(pikepdf.PasswordError):
        pikepdf.open(copy)
    with pikepdf.open(copy, password="open sesame") as pdf:
        assert len(pdf.pages) == 1
        assert not pdf.allow.print_highres
        assert "Left out: page 2." in str(pdf.docinfo.Subject)
        assert [str(one.Contents) for one in pdf.pages[0].Annots] == ["Ask the harbour office"]
        assert "/OutputIntents" not in pdf.Root
    assert "AES" in ran("qpdf", "--password=open sesame", "--show-encryption", str(copy))
    text = ran("pdftotext", "-upw", "open sesame", str(copy), "-")
    assert SECRET not in text
    assert KEPT in text
    # Words that are not covered are found at their places.
    (found,) = re.findall(
        rf'xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">{KEPT}<',
        ran("pdftotext", "-upw", "open sesame", "-bbox", str(copy), "-"),
    )
    there = word_of(live, letter, KEPT)
    with pikepdf.open(copy, password="open sesame") as pdf:
        wide, high = (float(one) for one in pdf.pages[0].MediaBox[2:])
    assert [float(one) for one in found] == pytest.approx(
        [there[0] * wide, there[1] * high, there[2] * wide, there[3] * high], abs=4
    )

    # The page itself stays as it is, and so does what is bound of it.
    page.keyboard.press("Shift+B")
    expect(bound(page).filter(has_text="PDF/A-2u")).to_have_count(1, timeout=60_000)
    with page.expect_download() as caught:
        page.get_by_role("link", name="Download Box 27, to be looked at", exact=True).press("Enter")
    caught.value.save_as(tmp_path / "archive.pdf")
    assert SECRET in ran("pdftotext", str(tmp_path / "archive.pdf"), "-")


def ran(*command: str) -> str:
    return subprocess.run(command, capture_output=True, text=True, check=True).stdout


def test_marks_are_drawn_moved_made_larger_and_taken_away_by_the_pointer(signed_in: Page, live: Live, stack: int):
    page = signed_in
    letter = live.pages(stack)[0]["id"]

    def boxes() -> list[list[float]]:
        return [one["box"] for one in live.call("GET", f"/api/v1/stacks/{stack}/binding")["marks"].get(str(letter), [])]

    def drag(from_: tuple[float, float], to: tuple[float, float]) -> None:
        page.mouse.move(*from_)
        page.mouse.down()
        page.mouse.move((from_[0] + to[0]) / 2, (from_[1] + to[1]) / 2)
        page.mouse.move(*to)
        page.mouse.up()

    page.goto(f"/stacks/{stack}/bind")
    page.get_by_role("tab", name="Access").click()
    sheet = page.get_by_role("img", name="Page 1 as it is seen in the access copy").bounding_box()
    assert sheet is not None
    page.get_by_role("button", name="Frame").click()
    at = (sheet["x"] + 0.2 * sheet["width"], sheet["y"] + 0.2 * sheet["height"])
    drag(at, (at[0] + 0.3 * sheet["width"], at[1] + 0.1 * sheet["height"]))
    frame = page.get_by_role("button", name="Frame 1", exact=True)
    expect(frame).to_be_visible()
    until(lambda: boxes() == [pytest.approx([0.2, 0.2, 0.5, 0.3], abs=0.01)], 30, "the frame to be kept")
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    drag((at[0] + 20, at[1] + 10), (at[0] + 20 + 0.1 * sheet["width"], at[1] + 10))
    until(lambda: boxes() == [pytest.approx([0.3, 0.2, 0.6, 0.3], abs=0.01)], 30, "the frame to be moved")
    box = frame.bounding_box()
    assert box is not None
    corner = (box["x"] + box["width"] - 2, box["y"] + box["height"] - 2)
    drag(corner, (corner[0], corner[1] + 0.1 * sheet["height"]))
    until(lambda: boxes() == [pytest.approx([0.3, 0.2, 0.6, 0.4], abs=0.01)], 30, "the frame to be larger")
    page.get_by_role("button", name="Take away frame 1").click()
    expect(frame).to_have_count(0)
    until(lambda: boxes() == [], 30, "the frame to be gone")


def test_what_cannot_be_made_is_said_and_loses_nothing(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/bind")
    page.get_by_role("tab", name="Access").click()
    page.get_by_label("Password to open").fill("same")
    page.get_by_label("Password to lift what is forbidden").fill("same")
    page.get_by_role("button", name="Make an access copy").click()
    expect(page.get_by_text("The two passwords are the same").first).to_be_visible()
    expect(page.get_by_label("Password to open")).to_have_value("same")
    for number in (1, 2):
        page.get_by_role("checkbox", name="Leave this page out").click()
        expect(page.get_by_role("checkbox", name="Leave this page out")).to_be_checked()
        if number == 1:
            page.evaluate("document.activeElement.blur()")
            page.keyboard.press("ArrowRight")
            expect(page.get_by_role("heading", name="On page 2")).to_be_visible()
    page.get_by_label("Password to lift what is forbidden").fill("")
    page.get_by_role("button", name="Make an access copy").click()
    expect(page.get_by_text("There is no page to copy").first).to_be_visible()
    assert live.call("GET", f"/api/v1/stacks/{stack}/documents") == []
