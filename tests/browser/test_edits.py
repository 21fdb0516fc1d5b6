"""No edit is lost or sticks: slow and refused answers, lost ones, a dropped line, reloads in the middle, filters with keys."""

import json
import re
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Dialog, Page, Request, Route, expect

from tests.browser.conftest import sign_in, watched
from tests.browser.hands import cells, chosen, meanwhile, pick
from tests.live import Live, until

SLOW_MS = 1500


@pytest.fixture
def stack(live: Live, chosen_files: list[Path]) -> int:
    """Four pages, measured and corrected."""
    made = live.take_in("To be edited", chosen_files)
    until(lambda: live.settled(made), 180, "the pages to be finished")
    return made


@pytest.fixture(scope="session")
def chosen_files(skerry: Path) -> list[Path]:
    return [skerry / name for name in ("01 letter 1a.jpg", "01 letter 2a.jpg", "04 card 41.jpg")]


def on_bench(page: Page, live: Live, stack: int, number: int = 1) -> int:
    made = live.pages(stack)[number - 1]["id"]
    page.goto(f"/stacks/{stack}/bench/{made}")
    page.get_by_test_id("tilt").wait_for()
    return int(made)


def override(live: Live, page_id: int) -> dict[str, Any]:
    found = live.call("GET", f"/api/v1/pages/{page_id}")["override"]
    return {name: value for name, value in found.items() if value is not None}


def history(live: Live, stack: int) -> list[str]:
    rows = live.call("GET", f"/api/v1/stacks/{stack}/changes")["changes"]
    return [row["what"] for row in rows if row["state"] == "done" and not row["what"].startswith("Added")]


def slowly(page: Page, ms: int = SLOW_MS) -> None:
    """Every change takes its time to be answered."""

    def wait(route: Route) -> None:
        if route.request.method == "POST":
            page.wait_for_timeout(ms)
        route.continue_()

    page.route("**/changes", wait)


def first(page: Page, does: Callable[[Route], None]) -> list[Request]:
    """The first change is met so, all after it as they are; returns what was asked."""
    asked: list[Request] = []

    def meet(route: Route) -> None:
        if route.request.method != "POST":
            return route.continue_()
        asked.append(route.request)
        return does(route) if len(asked) == 1 else route.continue_()

    page.route("**/changes", meet)
    return asked


def saved(page: Page) -> None:
    expect(page.get_by_text("Saving …")).to_have_count(0)


def corner_in_hand(page: Page) -> tuple[float, float]:
    """Take hold of a corner on the bench; returns where the pointer is."""
    page.keyboard.press("q")
    box = page.get_by_role("button", name="top left corner").bounding_box()
    assert box
    x, y = box["x"] + 14, box["y"] + 14
    page.mouse.move(x, y)
    page.mouse.down()
    return x, y


def test_two_edits_in_the_air_are_both_saved_and_both_undone(signed_in: Page, live: Live, stack: int):
    page = signed_in
    one = on_bench(page, live, stack)
    slowly(page)
    with page.expect_request("**/changes"):
        page.get_by_role("slider", name="Brightness").press("PageUp")
    pick(page, "Colour", "grey")  # before the answer to the first
    meanwhile(page, lambda: {"adjust", "colour"} <= set(override(live, one)), 30, "both to be saved")
    saved(page)
    page.unroute_all()
    page.keyboard.press("z")
    page.keyboard.press("z")
    meanwhile(page, lambda: not {"adjust", "colour"} & set(override(live, one)), 30, "both to be undone")


def test_what_is_refused_goes_back_and_is_said(signed_in: Page, live: Live, stack: int):
    page = signed_in
    one = on_bench(page, live, stack)
    problem = {"detail": "Somebody else has changed this page in the meantime: look at it again.", "code": "conflict"}
    first(page, lambda route: route.fulfill(status=409, body=json.dumps(problem)))
    before = page.get_by_test_id("tilt").inner_text()
    page.keyboard.press("t")
    page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_test_id("tilt")).not_to_have_text(before)
    expect(page.get_by_text("Somebody else has changed this page").first).to_be_visible()
    expect(page.get_by_test_id("tilt")).to_have_text(before)
    saved(page)
    # Hands go on: the next one is saved.
    page.keyboard.press("Shift+ArrowRight")
    meanwhile(page, lambda: "skew" in override(live, one), 30, "the next edit to be saved")


def test_while_the_server_is_away_edits_wait_and_say_so(signed_in: Page, live: Live, stack: int):
    page = signed_in
    one = on_bench(page, live, stack)
    asked = first(page, lambda route: route.fulfill(status=503, body="busy"))
    page.keyboard.press("t")
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("What you did is kept, and sent again.")).to_be_visible()
    meanwhile(page, lambda: "skew" in override(live, one), 30, "the edit to be saved")
    saved(page)
    assert len(asked) == 2
    assert len({json.loads(request.post_data or "")["nonce"] for request in asked}) == 1


@pytest.mark.parametrize("when", ["it waits", "it is sent again"])
def test_whoever_closes_the_page_while_edits_wait_is_asked(signed_in: Page, live: Live, stack: int, when: str):
    """Also while the answer to the second try is still to come: it may be the same as that to the first."""
    page = signed_in
    one = on_bench(page, live, stack)
    tries: list[Route] = []
    asked: list[str] = []

    def busy(route: Route) -> None:
        tries.append(route)
        if len(tries) == 1 or when == "it waits":
            route.fulfill(status=503, body="busy")

    def stay(dialog: Dialog) -> None:
        asked.append(dialog.type)
        dialog.dismiss()

    page.route("**/changes", busy)
    page.keyboard.press("t")
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("What you did is kept, and sent again.")).to_be_visible()
    if when == "it is sent again":
        meanwhile(page, lambda: len(tries) == 2, 30, "it to be sent again")
    page.once("dialog", stay)
    page.evaluate("location.reload()")
    meanwhile(page, lambda: asked == ["beforeunload"], 30, "the browser to ask")
    if when == "it is sent again":
        tries[1].fulfill(status=503, body="busy")
    page.unroute_all()
    meanwhile(page, lambda: "skew" in override(live, one), 30, "the edit to be saved")
    saved(page)
    # With nothing waiting, nothing is asked.
    page.once("dialog", stay)
    page.reload()
    page.get_by_test_id("tilt").wait_for()
    assert asked == ["beforeunload"]


def test_a_change_whose_answer_was_lost_is_done_once(browser: Browser, live: Live, stack: int):
    """Turned by a quarter, sent again, and still turned by a quarter."""
    with watched(browser, live, noisy=True) as page:
        sign_in(page)
        _lost_answer(page, live, stack)


def _lost_answer(page: Page, live: Live, stack: int) -> None:
    page.goto(f"/stacks/{stack}")
    cells(page).first.wait_for()

    def lose(route: Route) -> None:
        route.fetch()
        route.abort()

    asked = first(page, lose)
    page.keyboard.press("r")
    meanwhile(page, lambda: len(asked) == 2, 30, "it to be sent again")
    meanwhile(page, lambda: history(live, stack) == ["Turned 1 page to the right"], 30, "one change")
    plan = live.call("GET", f"/api/v1/pages/{live.pages(stack)[0]['id']}")["override"]
    assert plan["turn"] in (90, 180)
    page.wait_for_timeout(600)
    assert history(live, stack) == ["Turned 1 page to the right"]


@pytest.mark.parametrize("leaving", ["reload", "next page", "shelf"])
def test_whoever_leaves_at_once_leaves_it_saved(signed_in: Page, live: Live, stack: int, leaving: str):
    page = signed_in
    one = on_bench(page, live, stack)
    page.keyboard.press("t")
    page.keyboard.press("Shift+ArrowRight")
    if leaving == "reload":
        page.reload()
    elif leaving == "next page":
        page.keyboard.press("PageDown")
    else:
        page.get_by_role("link", name="Shelf").click()
    meanwhile(page, lambda: "skew" in override(live, one), 30, "the edit to be saved")


def test_an_undo_outlives_the_page_that_asks_for_it(signed_in: Page, live: Live, stack: int):
    page = signed_in
    one = on_bench(page, live, stack)
    page.get_by_role("slider", name="Brightness").press("PageUp")
    meanwhile(page, lambda: "adjust" in override(live, one), 30, "the edit to be saved")
    saved(page)
    page.once("dialog", lambda dialog: dialog.accept())  # asked only where the list has not come so far yet
    page.keyboard.press("z")
    page.reload()
    meanwhile(page, lambda: "adjust" not in override(live, one), 30, "it to be undone")


def test_an_undo_whose_answer_was_lost_takes_back_no_more(browser: Browser, live: Live, stack: int):
    with watched(browser, live, noisy=True) as page:
        sign_in(page)
        page.goto(f"/stacks/{stack}")
        cells(page).first.wait_for()
        for key in ("r", "l"):
            page.keyboard.press(key)
        both = ["Turned 1 page to the left", "Turned 1 page to the right"]
        meanwhile(page, lambda: history(live, stack) == both, 30, "both changes")
        asked: list[Request] = []

        def lose_first(route: Route) -> None:
            asked.append(route.request)
            if len(asked) > 1:
                return route.continue_()
            route.fetch()
            return route.abort()

        page.route("**/changes/last", lose_first)
        page.keyboard.press("z")
        meanwhile(page, lambda: len(asked) == 2, 30, "it to be sent again")
        page.wait_for_timeout(600)
        assert history(live, stack) == both[1:]


def test_a_slow_pull_is_one_change(signed_in: Page, live: Live, stack: int):
    page = signed_in
    one = on_bench(page, live, stack)
    x, y = corner_in_hand(page)
    page.mouse.move(x + 20, y + 10, steps=4)
    page.wait_for_timeout(900)  # longer than hands are still between two changes
    assert "quad" not in override(live, one)
    page.mouse.move(x + 40, y + 30, steps=4)
    page.mouse.up()
    meanwhile(page, lambda: "quad" in override(live, one), 30, "the corner to be saved")
    assert len(history(live, stack)) == 1


def test_a_reload_in_the_middle_of_a_drag_keeps_what_was_dragged(signed_in: Page, live: Live, stack: int):
    page = signed_in
    one = on_bench(page, live, stack)
    x, y = corner_in_hand(page)
    page.mouse.move(x + 40, y + 30, steps=4)
    page.reload()
    meanwhile(page, lambda: "quad" in override(live, one), 30, "the corner to be saved")
    page.mouse.up()
    page.get_by_test_id("tilt").wait_for()
    expect(page.get_by_text("Corners are set by hand")).to_be_visible()


def test_a_key_that_is_held_turns_once(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}")
    cells(page).first.wait_for()
    for _ in range(5):
        page.keyboard.down("r")
    page.keyboard.up("r")
    meanwhile(page, lambda: history(live, stack), 30, "the turn")
    page.wait_for_timeout(800)
    assert history(live, stack) == ["Turned 1 page to the right"]


def test_keys_do_nothing_to_pages_that_a_filter_hides(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}")
    cells(page).nth(2).click()
    page.get_by_role("radio", name="Failed 0").click()
    expect(page.get_by_text("No page is among these.")).to_be_visible()
    for key in ("a", "r", "x", "k", "Delete", "e", "Enter"):
        page.keyboard.press(key)
    page.wait_for_timeout(500)
    assert history(live, stack) == []
    expect(page).to_have_url(re.compile(rf"/stacks/{stack}$"))
    page.get_by_role("radio", name="All 3").click()
    expect(chosen(page)).to_have_count(1)


def test_single_pages_are_picked_by_key(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}")
    cells(page).first.click()
    for key in ("Control+ArrowRight", "Control+ArrowRight", " "):
        page.keyboard.press(key)
    expect(chosen(page)).to_have_count(2)
    expect(chosen(page).last).to_have_accessible_name(re.compile("^Page 3,"))
    expect(page.get_by_text("2 pages chosen").first).to_be_visible()
    page.keyboard.press(" ")
    expect(chosen(page)).to_have_count(1)


def test_a_dropped_line_comes_back_and_says_so_truthfully(browser: Browser, live: Live, stack: int):
    with watched(browser, live, noisy=True) as page:
        sign_in(page)
        page.route("**/events", lambda route: route.fulfill(status=502, body="Bad gateway"))
        page.goto(f"/stacks/{stack}")
        cells(page).first.wait_for()
        said = page.get_by_text("The line to the server is lost")
        expect(said).to_be_visible()
        # What is done meanwhile is done, and seen.
        page.keyboard.press("k")
        expect(page.get_by_role("option", name=re.compile("^Page 1,.*document begins"))).to_be_visible()
        page.unroute_all()
        expect(said).to_have_count(0)
        # What somebody else does comes by itself again.
        theirs = {"do": "break", "pages": [live.pages(stack)[2]["id"]], "on": True}
        live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": 10**6, "doing": theirs})
        expect(page.get_by_role("option", name=re.compile("^Page 3,.*document begins"))).to_be_visible()


def test_a_list_that_changes_all_the_time_is_shown_all_the_same(signed_in: Page, live: Live, stack: int):
    """Answers of 700 ms, changes each 350 ms: nothing was ever shown, and twenty questions were asked in seven seconds.

    One question is asked after the other, however slow the machine is.
    """
    page = signed_in
    asked: list[float] = []

    def wait(route: Route) -> None:
        asked.append(0)
        page.wait_for_timeout(700)
        route.continue_()

    page.goto(f"/stacks/{stack}")
    cells(page).first.wait_for()
    page.route("**/pages?since=*", wait)
    ids = [row["id"] for row in live.pages(stack)]
    began = time.monotonic()
    for turn in range(60):
        doing = {"do": "break", "pages": [ids[0]], "on": turn % 2 == 0}
        live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": 10**6, "doing": doing})
        page.wait_for_timeout(350)
        if turn >= 12 and len(asked) >= 3:
            break
    assert len(asked) >= 3
    assert page.get_by_role("option").count() == 3
    assert len(asked) <= (time.monotonic() - began) / 0.7 + 2


def test_a_fault_in_one_part_leaves_the_others_alive(browser: Browser, live: Live, stack: int):
    with watched(browser, live, noisy=True) as page:
        sign_in(page)
        page.route(
            "**/findings", lambda route: route.fulfill(status=200, content_type="application/json", body='{"no": "list"}')
        )
        page.goto(f"/stacks/{stack}")
        cells(page).first.wait_for()
        page.get_by_role("tab", name="Checks").click()
        expect(page.get_by_role("alert")).to_contain_text("cannot be shown")
        expect(page.get_by_role("alert")).to_contain_text("nothing is lost")
        expect(page.get_by_role("navigation", name="Steps")).to_be_visible()
        expect(page.get_by_role("slider", name="Fore-edge")).to_be_visible()
        page.unroute_all()
        expect(cells(page)).to_have_count(3)
        page.get_by_role("alert").get_by_role("button", name="Try again").click()
        expect(page.get_by_role("complementary", name="Checks")).to_contain_text("Nothing to look at")


def test_a_drag_before_the_first_page_of_a_filter_is_not_the_front_of_the_stack(signed_in: Page, live: Live, stack: int):
    page = signed_in
    ids = [row["id"] for row in live.pages(stack)]
    mark = {"do": "rescan", "pages": ids[1:], "why": "soft"}
    live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": 10**6, "doing": mark})
    page.goto(f"/stacks/{stack}")
    page.get_by_role("radio", name="To recapture 2").click()
    last = cells(page).nth(1).bounding_box()
    front = cells(page).nth(0).bounding_box()
    assert last
    assert front
    page.mouse.move(last["x"] + 60, last["y"] + 60)
    page.mouse.down()
    page.mouse.move(front["x"] + 4, front["y"] + 60, steps=6)
    page.mouse.up()
    meanwhile(
        page,
        lambda: [row["id"] for row in live.pages(stack)] == [ids[0], ids[2], ids[1]],
        30,
        "the page behind the hidden one",
    )


def test_edits_of_a_treatment_outlive_leaving_it(signed_in: Page):
    page = signed_in
    page.goto("/treatments/everyday")
    contrast = page.get_by_role("slider", name="Contrast")
    contrast.press("PageUp")
    now = contrast.get_attribute("aria-valuenow")
    page.keyboard.press("Escape")
    expect(page).to_have_url(re.compile("/$"))
    page.goto("/treatments/everyday")
    expect(contrast).to_have_attribute("aria-valuenow", now or "")
    expect(page.get_by_text("Changes are kept in this browser")).to_be_visible()
    page.get_by_role("button", name="Discard changes").click()
    expect(contrast).to_have_attribute("aria-valuenow", "0")


def test_a_required_figure_can_be_emptied_and_written_anew(signed_in: Page):
    page = signed_in
    page.goto("/treatments/everyday")
    field = page.get_by_label("JPEG quality")
    field.fill("")
    expect(field).to_have_value("")
    expect(field).to_have_attribute("aria-invalid", "true")
    field.fill("70")
    expect(field).to_have_attribute("aria-invalid", "false")
    field.fill("")
    field.blur()
    expect(field).to_have_value("70")
    page.get_by_role("button", name="Discard changes").click()


def test_the_zoom_stays_from_page_to_page_and_keys_move_the_view(signed_in: Page, live: Live, stack: int):
    page = signed_in
    one = live.pages(stack)[0]["id"]
    for place in ("pages", "bench"):
        page.goto(f"/stacks/{stack}/{place}/{one}")
        zoom = page.get_by_test_id("zoom")
        expect(zoom).to_have_text(re.compile(r"\d%$"))
        page.keyboard.press("1")
        expect(zoom).to_have_text("100%")
        layer = page.get_by_role("img", name=re.compile("^Page 1")).first
        before = layer.bounding_box()
        page.keyboard.press("Control+ArrowRight")
        meanwhile(page, lambda layer=layer, before=before: layer.bounding_box() != before, 30, "the view to move")
        page.keyboard.press("PageDown" if place == "bench" else "ArrowRight")
        page.get_by_role("img", name=re.compile("^Page 2")).first.wait_for()
        expect(zoom).to_have_text("100%")
        page.keyboard.press("0")
        expect(zoom).not_to_have_text("100%")


def test_tiles_lie_at_fixed_places(signed_in: Page, live: Live, stack: int):
    """Whoever looks elsewhere and back again fetches nothing twice."""
    page = signed_in
    fetched: list[str] = []
    page.on("request", lambda request: fetched.append(request.url) if re.search(r"/iiif/.*/\d+,\d+,", request.url) else None)
    page.goto(f"/stacks/{stack}/pages/{live.pages(stack)[0]['id']}")
    page.get_by_test_id("zoom").wait_for()
    page.keyboard.press("1")
    meanwhile(page, lambda: fetched, 30, "tiles")
    page.wait_for_timeout(600)
    regions = {re.search(r"/(\d+),(\d+),\d+,\d+/", url).groups() for url in fetched}  # type: ignore[union-attr]
    assert all(int(side) % 512 == 0 for region in regions for side in region)
    page.keyboard.press("Control+ArrowRight")
    page.wait_for_timeout(500)
    page.keyboard.press("Control+ArrowLeft")
    page.wait_for_timeout(500)
    assert len(fetched) == len(set(fetched))
