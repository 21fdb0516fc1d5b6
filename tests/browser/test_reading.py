"""Text put right by keyboard alone: once, everywhere it stands; undone, done again, kept; found, bound, written out."""

import re
import subprocess
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import sign_in
from tests.live import Live, until

NAME, PUT = "Merriwether", "Meriwhether"
OFTEN = "Trustees"
"""More than once on a page."""


@pytest.fixture(scope="module")
def stack(live: Live, skerry: Path) -> int:
    """Four letters of one secretary, and a page of the log, much of which is doubtful."""
    files = [skerry / f"01 letter {number}a.jpg" for number in (1, 2, 3, 4)]
    made = live.take_in("Letters of the secretary", [*files, skerry / "02 log 157.jpg"])
    until(lambda: live.settled(made), 300, "the pages to be read")
    until(lambda: live.call("GET", f"/api/v1/stacks/{made}/doubts"), 30, "their words to be gathered")
    return made


def texts(live: Live, stack: int) -> str:
    return live.call("GET", f"/api/v1/stacks/{stack}/text").decode()


def field(page: Page):
    return page.get_by_role("textbox", name="The word")


def press(page: Page, *keys: str) -> None:
    for key in keys:
        page.keyboard.press(key)


def test_a_doubtful_word_at_a_time(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/text")
    worst, second = live.call("GET", f"/api/v1/stacks/{stack}/doubts")[:2]
    expect(field(page)).to_have_value(worst["text"])
    head = page.get_by_role("heading", name=re.compile("doubtful words? of"))
    left = int(head.inner_text().split()[0].replace(",", ""))
    expect(page.get_by_test_id("place")).to_have_text(f"1 of {left}")

    page.keyboard.type("Lantern")  # whoever types means the word in hand
    expect(field(page)).to_have_value("Lantern")
    expect(page.get_by_test_id("line")).to_contain_text("Lantern")
    press(page, "Enter")
    expect(field(page)).to_have_value(second["text"])  # the next one is there
    expect(head).to_contain_text(str(left - 1))
    until(lambda: "Lantern" in texts(live, stack), 30, "the word to be put right")

    press(page, "Delete")
    expect(head).to_contain_text(str(left - 2))
    press(page, "-")
    expect(head).to_contain_text(str(left - 3))
    until(lambda: "[illegible]" in texts(live, stack), 30, "the word to be called illegible")

    for _ in range(3):
        press(page, "Control+z")
    expect(head).to_contain_text(str(left))
    expect(field(page)).to_have_value(worst["text"])
    assert "Lantern" not in texts(live, stack)


def test_a_suggestion_and_the_words_before_and_after(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/text")
    rows = live.call("GET", f"/api/v1/stacks/{stack}/doubts")
    at = next(at for at, row in enumerate(rows) if row["suggestions"])
    expect(field(page)).to_have_value(rows[0]["text"])
    press(page, *["ArrowDown"] * (at + 1), "ArrowUp")
    expect(field(page)).to_have_value(rows[at]["text"])
    expect(page.get_by_test_id("place")).to_contain_text(f"{at + 1} of")
    wanted = rows[at]["suggestions"][0]
    expect(page.get_by_role("button", name=wanted, exact=False).first).to_be_visible()
    press(page, "1")
    until(lambda: wanted in texts(live, stack), 30, "the suggestion to be taken")
    press(page, "Control+z")


def test_what_is_looked_for_is_gone_through_hit_by_hit(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/text")
    expect(field(page)).to_be_visible()
    holds = [hit["page"] for hit in live.call("GET", f"/api/v1/stacks/{stack}/found?words={OFTEN}")]
    counts = [len(live.call("GET", f"/api/v1/pages/{one}/found?words={OFTEN}")) for one in holds]
    assert len(holds) > 1
    assert max(counts) > 1
    press(page, "/")
    page.keyboard.type(OFTEN)
    told = page.get_by_role("search").get_by_role("status")
    expect(told).to_contain_text("pages")
    for count in (*counts, counts[0]):  # behind the last page comes the first again
        for at in range(1, count + 1):
            press(page, "Enter")
            expect(told).to_contain_text(f"{at} of {count} here")
    press(page, *["Shift+Enter"] * counts[0])
    expect(told).to_contain_text(f"{counts[-1]} of {counts[-1]} here")  # from the last one back


def test_a_name_put_right_on_all_pages_undone_done_again_and_kept(signed_in: Page, live: Live, stack: int, tmp_path: Path):
    page = signed_in
    page.goto(f"/stacks/{stack}/text")
    expect(field(page)).to_be_visible()
    count = texts(live, stack).count(NAME)
    assert count >= 3

    press(page, "/")
    page.keyboard.type(NAME)
    expect(page.get_by_text(re.compile(r"^\d+ pages$"))).to_be_visible()
    press(page, "Enter")
    expect(field(page)).to_have_value(re.compile(NAME))
    same = page.get_by_role("button", name=re.compile(r"^Put all \d+ right"))
    expect(same).to_be_visible()
    alike = int(re.findall(r"\d+", same.inner_text())[0])
    press(page, "Escape")  # the search is put away; the word stays in hand
    page.keyboard.type(PUT)
    press(page, "Shift+Enter")
    until(lambda: texts(live, stack).count(PUT) == alike, 30, "all of them to be put right")
    assert texts(live, stack).count(NAME) == count - alike

    press(page, "Control+z")
    until(lambda: texts(live, stack).count(NAME) == count, 30, "all of them to be undone in one go")
    press(page, "Control+Shift+z")
    until(lambda: texts(live, stack).count(PUT) == alike, 30, "all of them to be done again")
    page.reload()
    expect(field(page)).to_be_visible()
    assert texts(live, stack).count(PUT) == alike

    # A page levelled otherwise on the bench is read again, and keeps the word.
    first = next(one["id"] for one in live.pages(stack) if PUT in live.call("GET", f"/api/v1/pages/{one['id']}")["text"])
    change = live.call("GET", f"/api/v1/stacks/{stack}/pages")["change"]
    doing = {"do": "correct", "pages": [first], "correction": {"skew": 1.1}}
    live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": change, "doing": doing})
    until(lambda: live.settled(stack), 120, "the page to be read again")
    until(lambda: PUT in (live.call("GET", f"/api/v1/pages/{first}")["text"] or ""), 30, "its word to be there")

    # It is found, and stands in the PDF and in ALTO.
    found = live.call("GET", f"/api/v1/stacks/{stack}/found?words={PUT}")
    assert first in [hit["page"] for hit in found]
    assert f'CONTENT="{PUT}' in live.call("GET", f"/api/v1/stacks/{stack}/text?form=alto").decode()
    (document,) = live.call("POST", f"/api/v1/stacks/{stack}/documents", {"title": "Letters"})
    address = f"/api/v1/documents/{document['id']}"
    until(lambda: live.call("GET", address)["state"] == "bound", 120, "the document to be bound")
    file = tmp_path / "letters.pdf"
    file.write_bytes(live.call("GET", f"{address}/file"))
    told = subprocess.run(["pdftotext", str(file), "-"], check=True, capture_output=True, text=True).stdout
    assert told.count(PUT) == alike


def test_the_word_list_by_key(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/text")
    row = next(row for row in live.call("GET", f"/api/v1/stacks/{stack}/doubts") if row["text"].isalpha())
    expect(field(page)).to_be_visible()
    while field(page).input_value() != row["text"]:
        before = field(page).input_value()
        press(page, "ArrowDown")
        expect(field(page)).not_to_have_value(before)
    press(page, "+")
    until(lambda: live.call("GET", f"/api/v1/stacks/{stack}/word-list") == [row["text"]], 30, "the word to be listed")
    left = [one["text"] for one in live.call("GET", f"/api/v1/stacks/{stack}/doubts")]
    assert row["text"] not in left
    page.get_by_role("button", name="Word list 1").click()
    box = page.get_by_role("textbox", name="One word a line")
    expect(box).to_have_value(row["text"])
    box.fill("")
    page.get_by_role("button", name="Save 0 words").click()
    until(lambda: live.call("GET", f"/api/v1/stacks/{stack}/word-list") == [], 30, "the list to be empty again")


def test_a_block_left_out_and_another_order(signed_in: Page, live: Live, stack: int):
    page = signed_in
    first = live.pages(stack)[0]["id"]
    words = live.call("GET", f"/api/v1/pages/{first}/words")
    assert len(words["blocks"]) > 2
    page.goto(f"/stacks/{stack}/text/{first}")
    expect(page.get_by_role("img", name="Page 1, corrected")).to_be_visible()
    press(page, "F7")
    blocks = page.get_by_role("option")
    expect(blocks).to_have_count(len(words["blocks"]))
    last = blocks.last.inner_text().split("\n")[-1]
    press(page, *["ArrowDown"] * (len(words["blocks"]) - 1), *["Shift+ArrowUp"] * (len(words["blocks"]) - 1), "Enter")
    begins = last.split()[0]
    until(lambda: live.call("GET", f"/api/v1/pages/{first}")["text"].startswith(begins), 30, "the other order")
    press(page, "F6")
    area = page.get_by_test_id("marking").bounding_box()
    assert area is not None
    page.mouse.move(area["x"] + 5, area["y"] + 5)
    page.mouse.down()
    page.mouse.move(area["x"] + area["width"] - 5, area["y"] + area["height"] - 5, steps=4)
    page.mouse.up()
    until(lambda: live.call("GET", f"/api/v1/pages/{first}")["text"] == "", 30, "all of it to be left out")
    press(page, "Control+z")
    press(page, "Control+z")
    until(lambda: live.call("GET", f"/api/v1/pages/{first}/words")["blocks"] == words["blocks"], 30, "both to be undone")


def test_whoever_may_only_look(page: Page, live: Live, stack: int):
    sign_in(page, "visitor")
    page.goto(f"/stacks/{stack}/text")
    expect(field(page)).to_be_disabled()
    expect(page.get_by_text("You may look at the text, and not put it right.")).to_be_visible()
