"""The shelf: filed under collections by keyboard, narrowed, sorted, kept as a view; and one of thousands of stacks."""

from collections.abc import Iterator

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import sign_in
from tests.live import USER, Live


@pytest.fixture
def boxes(live: Live) -> Iterator[list[int]]:
    """Three empty stacks."""
    made = [live.call("POST", "/api/v1/stacks", {"name": f"Lamp box {number}"})["id"] for number in (10, 9, 1)]
    yield made
    for stack in made:
        live.call("DELETE", f"/api/v1/stacks/{stack}")


def names(page: Page) -> Locator:
    return page.get_by_role("region", name="Stacks", exact=True).get_by_role("listitem")


def test_filed_narrowed_sorted_and_kept_by_keyboard(signed_in: Page, live: Live, boxes: list[int]) -> None:
    page = signed_in
    page.keyboard.press("/")
    page.keyboard.type("lamp box")
    expect(names(page)).to_have_count(3)
    expect(page).to_have_url(f"{live.address}/?named=lamp+box")

    # A fonds with a series in it.
    page.get_by_role("button", name="Edit collections").focus()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="New at the top").focus()
    page.keyboard.press("Enter")
    page.get_by_label("Name", exact=True).focus()
    page.keyboard.type("Lamp papers")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="New in Lamp papers").focus()
    page.keyboard.press("Enter")
    page.get_by_label("Name", exact=True).focus()
    page.keyboard.type("Oil")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Change Oil").wait_for()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)

    for name in ("Lamp box 9", "Lamp box 10"):
        page.get_by_role("checkbox", name=f"Choose {name}", exact=True).focus()
        page.keyboard.press("Space")
    expect(page.get_by_role("region", name="Chosen stacks")).to_contain_text("2 stacks chosen")
    page.keyboard.press("Shift+U")
    page.get_by_role("combobox", name="Find a collection").wait_for()
    page.keyboard.type("oil")
    page.keyboard.press("Enter")
    expect(page.get_by_text("2 stacks filed under Lamp papers › Oil.").first).to_be_visible()
    expect(names(page).filter(has_text="Lamp papers › Oil")).to_have_count(2)

    # What is empty alone is deleted; a refusal is said.
    page.get_by_role("button", name="Edit collections").click()
    page.get_by_role("button", name="Delete Oil").click()
    expect(page.get_by_text("2 stacks are filed under Oil: file them elsewhere first.").first).to_be_visible()
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("button", name="Lamp papers 2", exact=True).press("Enter")
    expect(names(page)).to_have_count(2)
    page.get_by_role("combobox", name="First").click()
    page.get_by_role("option", name="By name").click()
    expect(names(page)).to_contain_text(["Lamp box 9", "Lamp box 10"])
    page.get_by_role("button", name="Keep this view …").click()
    page.get_by_label("Name", exact=True).fill("Lamps by name")
    page.keyboard.press("Enter")
    view = page.get_by_role("region", name="Your views").get_by_role("button", name="Lamps by name", exact=True)
    view.wait_for()
    page.goto("/")
    view.click()
    expect(names(page)).to_contain_text(["Lamp box 9", "Lamp box 10"])
    page.get_by_role("button", name="Keep the view Lamps by name no longer").click()
    expect(view).to_have_count(0)


def test_the_stack_opened_last_lies_first(signed_in: Page, live: Live, boxes: list[int]) -> None:
    page = signed_in
    page.goto(f"/stacks/{boxes[0]}")
    page.get_by_role("link", name="Shelf").click()
    expect(names(page).first).to_contain_text("Lamp box 10")


def test_one_of_many_is_reached_by_key_and_few_are_drawn(signed_in: Page, live: Live) -> None:
    page = signed_in
    many = [live.call("POST", "/api/v1/stacks", {"name": f"Gannet crate {number:03}"})["id"] for number in range(150)]
    try:
        page.goto("/?named=Gannet+crate&sort=name")
        expect(page.get_by_role("status").filter(has_text="150 stacks")).to_be_visible()
        first = page.get_by_role("link", name="Gannet crate 000")
        first.focus()
        page.keyboard.press("End")
        expect(page.get_by_role("link", name="Gannet crate 149")).to_be_focused()
        assert names(page).count() < 40
        page.keyboard.press("ArrowUp")
        expect(page.get_by_role("link", name="Gannet crate 148")).to_be_focused()
        page.keyboard.press("Home")
        expect(first).to_be_focused()
        page.get_by_role("radio", name="Cards").click()
        expect(first).to_be_visible()
        assert names(page).count() < 60
    finally:
        for stack in many:
            live.call("DELETE", f"/api/v1/stacks/{stack}")


def test_stacks_are_closed_and_reopened_by_key(signed_in: Page, live: Live, boxes: list[int]) -> None:
    page = signed_in
    page.goto("/?named=lamp+box")
    page.get_by_role("checkbox", name="Choose Lamp box 9", exact=True).focus()
    page.keyboard.press("Space")
    page.keyboard.press("Shift+W")
    expect(page.get_by_text("1 stack closed.").first).to_be_visible()
    expect(names(page).filter(has_text="Lamp box 9")).to_contain_text("closed today")

    page.get_by_role("link", name="Lamp box 9").click()
    expect(page.get_by_text("keeper closed this stack")).to_be_visible()
    page.get_by_role("button", name="Reopen it").click()
    expect(page.get_by_text("keeper closed this stack")).to_have_count(0)
    assert live.call("GET", f"/api/v1/stacks/{boxes[1]}")["closed"] is None

    page.goto(f"/stacks/{boxes[1]}/intake")
    page.get_by_test_id("stack-line").get_by_role("button", name="More …").click()
    page.get_by_role("button", name="Close the stack").click()
    expect(page.get_by_text("keeper closed this stack")).to_be_visible()
    page.goto("/?named=lamp+box&at=closed")
    page.get_by_role("checkbox", name="Choose Lamp box 9", exact=True).check()
    page.get_by_role("button", name="Reopen").click()
    expect(page.get_by_text("No stack is like that")).to_be_visible()


def test_after_a_session_has_ended_the_shelf_stands_again_once_one_has_signed_in(
    signed_in: Page, live: Live, boxes: list[int]
) -> None:
    """Its first stacks are asked for ahead: that they were refused then says nothing about later."""
    page = signed_in
    expect(names(page).filter(has_text="Lamp box")).to_have_count(3)
    page.context.clear_cookies()
    with page.expect_response(lambda answer: "/api/v1/stacks?" in answer.url) as asked:
        page.reload()
    assert asked.value.status == 401
    page.get_by_label("User name").wait_for()
    expect(page.get_by_text("signed in")).to_have_count(0)
    sign_in(page)
    expect(names(page).filter(has_text="Lamp box")).to_have_count(3)
    # From then on nothing is asked for before somebody is known.
    page.get_by_role("button", name=USER).click()
    page.get_by_role("menuitem", name="Sign out").click()
    page.get_by_label("User name").wait_for()
    early: list[str] = []
    page.on("request", lambda request: early.append(request.url) if "/api/v1/stacks" in request.url else None)
    page.reload()
    page.get_by_label("User name").wait_for()
    assert early == []
