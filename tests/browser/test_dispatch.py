"""By keyboard alone: documents sent to a folder, a storage, another machine and people; mishaps overcome; a loss found."""

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.browser.places import FOLDER, NAMES, delivered, kept
from tests.live import Live, until
from tests.server.receivers import Receivers, nothing_goes_wrong, receivers

__all__ = ["nothing_goes_wrong", "receivers"]


@pytest.fixture
def stack(live: Live, skerry: Path) -> int:
    """A letter and a card, bound."""
    made = live.take_in("Box 27, sent", [skerry / "01 letter 1a.jpg", skerry / "04 card 41.jpg"])
    until(lambda: live.settled(made), 120, "the pages to be worked on")
    second = live.pages(made)[1]["id"]
    doing = {"do": "break", "pages": [second], "on": True}
    live.call("POST", f"/api/v1/stacks/{made}/changes", {"seen": 10**6, "doing": doing})
    live.call("POST", f"/api/v1/stacks/{made}/documents", {"title": "Box 27"})
    documents = f"/api/v1/stacks/{made}/documents"
    until(lambda: all(one["state"] == "bound" for one in live.call("GET", documents)), 60, "the documents to be bound")
    return made


@pytest.fixture
def places(live: Live, receivers: Receivers) -> Iterator[dict[str, Any]]:
    """The four destinations, in the data folder of the program."""
    with kept(live, receivers, "browser/{title}") as made:
        yield made


def test_sent_proven_overcome_and_found_again_by_keyboard(
    signed_in: Page, live: Live, stack: int, places: dict[str, Any], receivers: Receivers
) -> None:
    page = signed_in
    page.goto(f"/stacks/{stack}/bind")
    page.get_by_role("tab", name="Describe").focus()
    page.keyboard.press("Shift+J")
    expect(page.get_by_text("Nothing has been sent from this stack")).to_be_visible()
    for name in NAMES.values():
        page.get_by_role("checkbox", name=name).focus()
        page.keyboard.press("Space")
    expect(page.get_by_role("region", name="Harbour trust")).to_contain_text("browser/Box 27, 1 of 2.pdf")

    # The message is seen, and put right, before it goes.
    subject = page.get_by_role("textbox", name="Subject")
    subject.focus()
    page.keyboard.press("Control+a")
    page.keyboard.type("For you: {title}")
    page.keyboard.press("Tab")
    expect(page.get_by_role("region", name="Keeper's post")).to_contain_text("For you: Box 27, 2 of 2")

    receivers.storage.mishaps.ask("corrupts")
    receivers.mail.mishaps.ask("full")
    receivers.sftp.mishaps.ask("password", 2)
    page.get_by_role("checkbox", name="Reading room").focus()
    page.keyboard.press("Shift+S")
    expect(delivered(page, "Reading room", "arrived, read back")).to_have_count(2)
    expect(delivered(page, "Regional store", "arrived, read back")).to_have_count(2)
    expect(delivered(page, "Keeper's post", "taken by the server")).to_have_count(2)
    sent = [one for one in receivers.mail.mails if str(one.message["Subject"]).startswith("For you: Box 27")]
    assert len(sent) == 2

    # Two passwords were refused: they wait for somebody, in words, and are sent again by a key.
    expect(delivered(page, "Harbour trust", "does not take the name and password: put them right")).to_have_count(2)
    again = page.get_by_role("button", name="Send again")
    for left in (1, 0):
        again.first.focus()
        page.keyboard.press("Enter")
        expect(again).to_have_count(left)
    expect(delivered(page, "Harbour trust", "arrived, read back")).to_have_count(2)

    # What is damaged behind the program's back is found when it is looked at again.
    damaged = live.data / "outgoing" / FOLDER / "browser" / "Box 27, 1 of 2.pdf"
    damaged.write_bytes(damaged.read_bytes()[:-1] + b"?")
    page.keyboard.press("Shift+L")
    lost = delivered(page, "Reading room", "is not what was delivered any more")
    expect(lost).to_have_count(1)
    expect(page.get_by_role("region", name="Deliveries and receipts").get_by_role("listitem").first).to_contain_text("lost")
    page.get_by_role("button", name="Receipt of Box 27, 2 of 2, Reading room").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("SHA-256")).to_be_visible()


def test_a_destination_is_made_and_proven(signed_in: Page, live: Live) -> None:
    page = signed_in
    page.goto("/destinations")
    page.get_by_role("button", name="New destination").focus()
    page.keyboard.press("Enter")
    page.get_by_label("Name", exact=True).fill("Upper shelf")
    page.get_by_label("Folder", exact=True).fill("/etc")
    page.get_by_role("button", name="Keep and try").click()
    expect(page.get_by_text(re.compile("Folders may be in .* only"))).to_be_visible()
    expect(page.get_by_label("Name", exact=True)).to_have_value("Upper shelf")
    page.get_by_label("Folder", exact=True).fill(str(live.data / "outgoing" / "upper"))
    page.get_by_role("button", name="Keep and try").click()
    row = page.get_by_role("listitem").filter(has_text="Upper shelf")
    expect(row).to_contain_text("Written, read back, removed: it works")
    row.get_by_role("button", name="Remove").click()
    expect(row).to_have_count(0)
