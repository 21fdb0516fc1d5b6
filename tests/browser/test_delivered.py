"""The whole way from described paper to proven files: described by a table, bound, sent in one press, with every mishap."""

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from hollowstack.standins.receivers.mishaps import MISHAPS
from tests.browser.places import FOLDER, NAMES, delivered, kept
from tests.live import Live, until
from tests.server.receivers import Receivers, nothing_goes_wrong, receivers

__all__ = ["nothing_goes_wrong", "receivers"]
FILES = ("01 letter 1a.jpg", "04 card 41.jpg", "01 letter 2a.jpg")
TABLE = """document,title,date,identifier
1,Oil for the lamp,1927-02,SL/27/1
2,Card 41,1912,SL/27/41
3,The fog signal,1927-05,SL/27/2
"""
TITLES = ("Card 41", "Oil for the lamp", "The fog signal")
SENT_TO = ("folder", "storage", "mail")


@pytest.fixture
def stack(live: Live, skerry: Path) -> int:
    """A box of three documents, not described."""
    made = live.take_in("Box 27, the whole way", [skerry / name for name in FILES])
    until(lambda: live.settled(made), 300, "the pages to be worked on")
    for page in live.pages(made)[1:]:
        doing = {"do": "break", "pages": [page["id"]], "on": True}
        live.call("POST", f"/api/v1/stacks/{made}/changes", {"seen": 10**6, "doing": doing})
    return made


@pytest.fixture
def places(live: Live, receivers: Receivers) -> Iterator[dict[str, Any]]:
    with kept(live, receivers, "way/{identifier} {title}") as made:
        yield made


def settled(live: Live, stack: int) -> list[dict[str, Any]] | None:
    """The deliveries of a stack once all of them have arrived or wait for somebody."""
    told = live.call("GET", f"/api/v1/deliveries?stack={stack}")
    found: list[dict[str, Any]] = told["deliveries"]
    return found if all(one["state"] in {"arrived", "stuck"} for one in found) else None


def test_described_bound_sent_proven_and_a_damage_found(
    signed_in: Page, live: Live, stack: int, places: dict[str, Any], receivers: Receivers, tmp_path: Path
) -> None:
    page = signed_in
    file = tmp_path / "box 27.csv"
    file.write_text(TABLE)
    page.goto(f"/stacks/{stack}/describe")
    page.get_by_label("CSV file").set_input_files(file)
    page.get_by_role("button", name="Describe 3 documents so").click()
    expect(page.get_by_role("textbox", name="Title of document 3", exact=True)).to_have_value("The fog signal")

    page.goto(f"/stacks/{stack}/bind")
    page.get_by_role("button", name="Bind 3 documents").click()
    documents = f"/api/v1/stacks/{stack}/documents"

    def bound() -> list[str]:
        return sorted(one["title"] for one in live.call("GET", documents) if one["state"] == "bound")

    until(lambda: bound() == sorted(TITLES), 120, "the documents to be bound under their titles")

    page.keyboard.press("Shift+J")
    for kind in SENT_TO:
        page.get_by_role("checkbox", name=NAMES[kind]).check()
    expect(page.get_by_role("region", name=NAMES["folder"])).to_contain_text("way/SL_27_1 Oil for the lamp.pdf")
    asked = {
        receivers.storage: ("corrupts", "drops", "password"),
        receivers.mail: ("refuses", "full", "slow"),
    }
    assert {one for mishaps in asked.values() for one in mishaps} == set(MISHAPS)
    for receiver, mishaps in asked.items():
        for one in mishaps:
            receiver.mishaps.ask(one)
    page.get_by_role("checkbox", name=NAMES["folder"]).focus()
    page.keyboard.press("Shift+S")

    # Each mishap is overcome, or put before somebody in words, who sends again.
    said: set[str] = set()
    for _ in range(8):
        until(lambda: len(settled(live, stack) or ()) == 9, 60, "nine deliveries to come to an end")
        stuck = [one for one in settled(live, stack) or () if one["state"] == "stuck"]
        said |= {one["said"] for one in stuck}
        if not stuck:
            break
        again = page.get_by_role("button", name="Send again")
        expect(again).to_have_count(len(stuck))
        again.first.click()
        expect(again).to_have_count(len(stuck) - 1)
    assert [receiver.mishaps.asked for receiver in asked] == [{}, {}], "each of them happened"
    assert said, "a refused password waits for somebody"
    assert all(re.search(r"[a-z].*[.!]$", words) and "Error" not in words for words in said), said
    for kind, words in (
        ("folder", "arrived, read back"),
        ("storage", "arrived, read back"),
        ("mail", "taken by the server"),
    ):
        expect(delivered(page, NAMES[kind], words)).to_have_count(3)
    subjects = sorted(str(one.message["Subject"]) for one in receivers.mail.mails)
    assert [one for one in subjects if one in TITLES] == list(TITLES), "no mail came twice"

    # One file is damaged behind the program's back; the next look at the receipts finds that one, and only that one.
    damaged = live.data / "outgoing" / FOLDER / "way" / "SL_27_41 Card 41.pdf"
    damaged.write_bytes(damaged.read_bytes()[:-1] + b"?")
    page.keyboard.press("Shift+L")
    expect(delivered(page, "Card 41", "is not what was delivered any more")).to_have_count(1)
    expect(delivered(page, NAMES["folder"], "arrived, read back")).to_have_count(2)
    page.goto("/?at=undelivered")
    shelf = page.get_by_role("region", name="Stacks", exact=True)
    expect(shelf.get_by_role("listitem").filter(has_text="the whole way")).to_contain_text("1 delivered document lost since")

    # Two pages alone go along another time.
    page.goto(f"/stacks/{stack}/dispatch")
    page.get_by_role("button", name="Some pages …").click()
    page.get_by_label("Pages", exact=True).fill("9")
    expect(page.get_by_role("dialog")).to_contain_text("There is no page 9")
    page.get_by_label("Pages", exact=True).fill("1, 3")
    page.keyboard.press("Enter")
    expect(page.get_by_role("checkbox", name="Box 27, the whole way, pages 1, 3")).to_be_checked()
    page.get_by_role("checkbox", name=NAMES["folder"]).check()
    page.keyboard.press("Shift+S")
    expect(delivered(page, NAMES["folder"], "arrived, read back")).to_have_count(3, timeout=60_000)
