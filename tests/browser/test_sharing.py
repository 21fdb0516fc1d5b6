"""A link to a document: given and withdrawn by somebody here, looked at and taken by somebody without an account."""

from pathlib import Path
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import watched
from tests.live import Live, until

PASSWORD = "lamp on the rock"


@pytest.fixture
def stack(live: Live, skerry: Path) -> int:
    """A letter, bound."""
    made = live.take_in("Box 27, shared", [skerry / "01 letter 1a.jpg"])
    until(lambda: live.settled(made), 120, "the page to be worked on")
    documents = f"/api/v1/stacks/{made}/documents"
    live.call("POST", documents, {"title": "A letter to be shared"})
    until(lambda: all(one["state"] == "bound" for one in live.call("GET", documents)), 60, "the document to be bound")
    return made


def test_given_looked_at_taken_and_withdrawn(signed_in: Page, browser: Browser, live: Live, stack: int) -> None:
    page = signed_in
    page.goto(f"/stacks/{stack}/dispatch")
    links = page.get_by_role("region", name="Links")
    links.get_by_role("button", name="New link …").press("Enter")
    page.get_by_role("radio", name="Look at its pages, and take the file").check()
    page.get_by_label("Password; empty for none").fill(PASSWORD)
    page.get_by_label("For whom").fill("The reading room")
    page.keyboard.press("Enter")
    row = links.get_by_role("listitem")
    expect(row).to_contain_text("for The reading room")
    expect(row).to_contain_text("not opened yet")
    address = row.get_by_role("link", name="Open the link").get_attribute("href") or ""

    with watched(browser, live) as stranger:
        stranger.goto(urlsplit(address).path)
        stranger.get_by_label("Password").fill("another one")
        stranger.keyboard.press("Enter")
        expect(stranger.get_by_role("alert")).to_contain_text("The password is not right: try again.")
        stranger.get_by_label("Password").fill(PASSWORD)
        stranger.keyboard.press("Enter")
        expect(stranger.get_by_role("heading", name="A letter to be shared")).to_be_visible()
        shown = stranger.get_by_role("img", name="Page 1")
        expect(shown).to_be_visible()
        stranger.wait_for_function("() => document.querySelector('img')?.naturalWidth > 1000")
        with stranger.expect_download() as download:
            stranger.get_by_role("link", name="Take it").click()
        assert Path(download.value.path()).read_bytes().startswith(b"%PDF")
        # Nothing else is open to whoever has a link.
        assert stranger.request.get(f"{live.address}/api/v1/stacks").status == 401

        page.reload()
        expect(row).to_contain_text("opened 1 time · taken 1 time")
        row.get_by_role("button", name="Withdraw the link to A letter to be shared").press("Enter")
        expect(row).to_contain_text("withdrawn")
        stranger.reload()
        expect(stranger.get_by_role("heading", name="This link leads nowhere")).to_be_visible()
        expect(stranger.get_by_role("alert")).to_contain_text("This link was withdrawn")


def test_words_and_description_are_put_right_through_a_link(
    signed_in: Page, browser: Browser, live: Live, stack: int
) -> None:
    page = signed_in
    page.goto(f"/stacks/{stack}/dispatch")
    links = page.get_by_role("region", name="Links")
    links.get_by_role("button", name="New link …").click()
    page.get_by_role("radio", name="All that, and put its words and description right").check()
    page.get_by_label("For whom").fill("The reading room")
    page.keyboard.press("Enter")
    row = links.get_by_role("listitem").filter(has_text="look, take and put right")
    address = row.get_by_role("link", name="Open the link").get_attribute("href") or ""

    with watched(browser, live) as stranger:
        stranger.goto(urlsplit(address).path)
        stranger.get_by_role("button", name="Words of page 1").click()
        stranger.get_by_role("button", name="Trustees", exact=True).first.click()
        stranger.get_by_label("Instead of Trustees").fill("Commissioners")
        stranger.keyboard.press("Escape")
        expect(stranger.get_by_label("Instead of Trustees")).to_have_count(0)
        stranger.get_by_role("button", name="Trustees", exact=True).first.click()
        stranger.get_by_label("Instead of Trustees").fill("Commissioners")
        stranger.keyboard.press("Enter")
        expect(stranger.get_by_role("button", name="Commissioners", exact=True)).to_be_visible()
        stranger.get_by_role("button", name="What is said of it").click()
        stranger.get_by_label("Date").fill("1927-02-11")
        stranger.keyboard.press("Tab")
        until(
            lambda: "1927-02-11" in str(live.call("GET", f"/api/v1/stacks/{stack}/descriptions")["documents"]),
            30, "the date to be kept",
        )  # fmt: skip

    # It is a change like any other: told with who may have done it, found by search, undone.
    page.reload()
    expect(row).to_contain_text("put right 2 times")
    (change, *_) = live.call("GET", f"/api/v1/stacks/{stack}/changes")["changes"]
    assert change["what"] == "Put “Trustees” right: “Commissioners”, by a link for The reading room"
