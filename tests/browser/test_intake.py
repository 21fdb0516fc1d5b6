"""From paper to pages in the browser: the glass, a feeder that jams, a long strip, a page captured again, and binding."""

import re
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page, Route, expect

from tests.browser.at_stations import GLASS, ONE_SIDED, TWO_SIDED, choose, fill, finished, live, page, stack
from tests.browser.conftest import sign_in, watched
from tests.browser.hands import bound, pick, station
from tests.live import Live, until

__all__ = ["live", "page", "stack"]


def test_three_photographs_off_the_glass(page: Page, live: Live, stack: int):
    live.control(GLASS, load="photographs", speed=0)
    choose(page, "Glass A4", 150, "colour")
    page.get_by_role("button", name="First look").click()
    frames = page.get_by_role("button", name=re.compile(r"^Frame \d"))
    expect(frames).to_have_count(3)
    # A fourth drawn by key, made absurd, is refused in words; deleted, it is gone.
    keys = page.keyboard
    keys.press("m")
    expect(frames).to_have_count(4)
    for _ in range(14):
        keys.press("Control+Shift+ArrowLeft")
    capture = page.get_by_role("button", name=re.compile("^Capture"))
    expect(capture).to_be_disabled()
    expect(capture).to_have_accessible_description(re.compile("too small to capture"))
    keys.press("Delete")
    expect(frames).to_have_count(3)
    expect(page.get_by_test_id("estimate")).to_contain_text("3 images")
    keys.press("c")
    finished(page)
    until(lambda: live.counts(stack)["corrected"] == 3, 90, "the photographs to be corrected")
    truth = [sheet for image in live.control(GLASS)["delivered"] for sheet in image["sheets"]]
    assert {sheet["name"] for sheet in truth} == {"photograph 1", "photograph 2", "photograph 3"}
    found = [row["clean_px"] for row in live.pages(stack)]
    for (width, height), (w, h) in zip(found, ((110, 80), (80, 110), (112, 78)), strict=True):
        assert (width, height) == pytest.approx(((w + 1.2) / 25.4 * 150, (h + 1.2) / 25.4 * 150), abs=12)


def test_frames_by_mouse(page: Page, live: Live, stack: int):
    live.control(GLASS, load="", speed=0)
    choose(page, "Glass A4", 75)
    pick(page, "What is captured", re.compile("^A5"))
    expect(page.get_by_test_id("cut-off")).to_be_visible()
    plane = page.locator("svg[viewBox='0 0 216 297']")
    box = plane.bounding_box()
    assert box
    mm = box["width"] / 216

    def drag(x1: float, y1: float, x2: float, y2: float) -> None:
        page.mouse.move(box["x"] + x1 * mm, box["y"] + y1 * mm)
        page.mouse.down()
        page.mouse.move(box["x"] + x2 * mm, box["y"] + y2 * mm, steps=5)
        page.mouse.up()

    frame = page.get_by_role("button", name=re.compile(r"^Frame 1"))
    drag(20, 20, 120, 100)
    expect(frame).to_have_accessible_name("Frame 1, 100 × 80 mm")
    drag(120, 60, 140, 60)  # its right side
    expect(frame).to_have_accessible_name("Frame 1, 120 × 80 mm")
    drag(20, 20, 30, 40)  # its top-left corner
    expect(frame).to_have_accessible_name("Frame 1, 110 × 60 mm")
    drag(85, 31, 125, 71)  # its handle for turning
    expect(frame).to_have_attribute("transform", re.compile(r"^rotate\([1-9]"))
    page.keyboard.press("t")  # the view turned, frames go along
    expect(page.get_by_role("button", name=re.compile(r"^Frame"))).to_have_count(1)


def test_a_bundle_of_two_sided_sheets_by_the_one_sided_feeder_with_a_jam(page: Page, live: Live, stack: int):
    live.control(ONE_SIDED, load="register-8", speed=0, jam_after=3)
    choose(page, "Feeder One", 75, Name="fronts", Sheets="8")
    pick(page, "Sides", "the fronts, then the backs")
    page.get_by_role("button", name="Capture the fronts").click()
    expect(page.get_by_role("alert")).to_contain_text("jammed at sheet 4: clear the path, reload from sheet 4, and go on")
    expect(station(page, "Feeder One")).to_contain_text("jam at sheet 4")
    assert len(live.pages(stack)) == 3
    live.control(ONE_SIDED, clear=True)
    page.get_by_role("button", name="Go on").click()
    finished(page)
    live.control(ONE_SIDED, load="register-8", flipped=True)
    page.get_by_role("button", name="Next load").click()
    fill(page, "Name", "backs")
    page.get_by_role("button", name="Capture the backs").click()
    leaves = page.get_by_role("list", name="Leaves in order").get_by_role("listitem")
    expect(leaves).to_have_count(8, timeout=90_000)
    serious = [
        (v["id"], [n["html"] for n in v["nodes"]])
        for v in Axe().run(page).response["violations"]
        if v["impact"] in {"serious", "critical"}
    ]
    assert serious == []
    page.get_by_role("button", name="Put in this order").click()
    until(lambda: live.pages(stack)[1]["source"].startswith("backs 008"), 30, "the leaves to be in order")
    names = [row["source"].removesuffix(".jpg") for row in live.pages(stack)]
    assert names == [f"{half} {n:03d}" for sheet in range(1, 9) for half, n in (("fronts", sheet), ("backs", 9 - sheet))]
    truth = [sheet["name"] for image in live.control(ONE_SIDED)["delivered"] for sheet in image["sheets"]]
    assert truth == [f"register {2 * n + 1}" for n in [*range(8), *range(7, -1, -1)]]
    # Put in order, the bundle is bound.
    until(lambda: live.settled(stack), 240, "the stack to be finished")
    page.goto(f"/stacks/{stack}/bind")
    page.get_by_role("button", name="Bind as PDF/A-2u").click()
    row = bound(page).first
    expect(row).to_contain_text("15 pages", timeout=60_000)


def test_a_long_strip_and_a_page_captured_again_in_place(page: Page, live: Live, stack: int):
    live.control(TWO_SIDED, load="strip", speed=0)
    choose(page, "Feeder Two", 75)
    pick(page, "What is captured", re.compile("^long"))
    page.get_by_role("button", name=re.compile("^Capture$")).click()
    finished(page)
    until(lambda: live.counts(stack)["corrected"] == 1, 90, "the strip to be corrected")
    width, height = live.pages(stack)[0]["clean_px"]
    assert (width, height) == pytest.approx((100 / 25.4 * 75, 1500 / 25.4 * 75), abs=25)
    # Marked in the stack, it is on the list here, and what is captured now takes its place.
    before = live.pages(stack)[0]
    page.goto(f"/stacks/{stack}")
    page.get_by_role("listbox", name="Pages").get_by_role("option").first.wait_for()
    page.keyboard.press("g")
    until(lambda: live.pages(stack)[0]["rescan"], 30, "the page to be marked")
    page.keyboard.press("n")
    page.get_by_role("region", name="To recapture").get_by_role("button", name="Page 1").click()
    expect(station(page, "Glass A4")).to_have_attribute("aria-pressed", "true")  # the feeder cannot do it
    live.control(GLASS, load="letters", pick=[1], speed=0)
    expect(page.get_by_test_id("slip")).to_contain_text("puts it in place of page 1")
    pick(page, "Resolution", re.compile("^75 ppi"))
    page.get_by_role("button", name=re.compile("^Capture$")).click()
    finished(page)
    until(lambda: live.counts(stack)["measured"] == 1, 60, "the new image to be measured")
    (after,) = live.pages(stack)
    assert (after["id"], after["rescan"]) == (before["id"], "")
    assert after["original_px"] != before["original_px"]


def test_what_is_discarded_is_said_to_lie_in_the_bin(page: Page, live: Live, stack: int):
    live.control(TWO_SIDED, load="register", speed=2)
    choose(page, "Feeder Two", 150)
    page.get_by_role("button", name=re.compile("^Capture$")).click()
    until(lambda: len(live.pages(stack)) >= 2, 60, "the first pages to come")
    page.get_by_role("button", name="Discard this load").click()
    expect(page.get_by_role("region", name="Load")).to_contain_text("in the bin for 30 days")
    assert live.call("GET", f"/api/v1/stacks/{stack}/pages")["order"] == []
    page.goto("/bin")
    expect(page.get_by_role("region", name="Pages")).to_contain_text("From paper")


def test_a_load_is_paused_gone_on_with_and_ended_early_by_key(page: Page, live: Live, stack: int):
    live.control(ONE_SIDED, load="register", speed=3)
    choose(page, "Feeder One", 150, Sheets="20")
    load = page.get_by_role("region", name="Load")
    page.keyboard.press("c")
    until(lambda: len(live.pages(stack)) >= 2, 60, "the first pages to come")
    page.keyboard.press("p")
    expect(load.get_by_role("alert")).to_contain_text("Paused before sheet")
    expect(load).to_contain_text(re.compile(r"20 sheets laid in · \d+ of 20 images came"))
    came = len(live.pages(stack))
    page.wait_for_timeout(1500)
    assert len(live.pages(stack)) == came
    page.keyboard.press("g")
    until(lambda: len(live.pages(stack)) > came, 60, "more pages to come")
    page.keyboard.press("k")
    expect(load.get_by_role("status")).to_have_text(re.compile(r"Ended early at sheet \d+: \d+ of 20 images came"))
    assert 0 < len(live.pages(stack)) < 20


def test_a_load_cancelled_at_the_station_is_told_as_that(page: Page, live: Live, stack: int):
    live.control(ONE_SIDED, load="register", speed=3)
    choose(page, "Feeder One", 150)
    page.keyboard.press("c")
    until(lambda: len(live.pages(stack)) >= 1, 60, "the first page to come")
    live.control(ONE_SIDED, cancel=True)
    expect(page.get_by_role("region", name="Load").get_by_role("alert")).to_contain_text(
        "Somebody cancelled the capture at the station"
    )
    page.keyboard.press("k")
    expect(page.get_by_role("region", name="Load").get_by_role("status")).to_contain_text("Ended early")


def test_what_a_station_is_at_is_said(page: Page, live: Live, stack: int):
    live.control(ONE_SIDED, load="")
    station(page, "Feeder One").click()
    expect(station(page, "Feeder One")).to_contain_text("ready, feeder empty")
    live.control(ONE_SIDED, offline=True)
    expect(station(page, "Feeder One")).to_contain_text("offline")
    expect(page.get_by_role("region", name="Order slip")).to_contain_text("check its power, its cable and its address")
    live.control(ONE_SIDED, offline=False)
    page.get_by_role("button", name="Stations …").click()
    page.get_by_label("Another one, by its address").fill(live.address)
    page.keyboard.press("Enter")
    expect(page.get_by_text("No station answers there").first).to_be_visible()


def test_killed_in_the_middle_of_a_load(page: Page, live: Live, stack: int, tmp_path: Path):
    """Neither the capture process nor the server's engine takes a page with it, and none comes in twice."""
    live.control(TWO_SIDED, load="register", speed=3)
    before = len(live.control(TWO_SIDED)["delivered"])
    choose(page, "Feeder Two", 150)
    page.get_by_role("button", name=re.compile("^Capture$")).click()
    until(lambda: len(live.pages(stack)) >= 3, 60, "the first pages to come")
    live.process_of("capture").kill()
    live.process_of("engine").kill()
    until(lambda: len(live.pages(stack)) == 20, 90, "the whole bundle to be in")
    finished(page)
    delivered = live.control(TWO_SIDED)["delivered"][before:]
    assert [image["sheets"][0]["name"] for image in delivered] == [f"register {2 * n + 1}" for n in range(20)]


def test_a_mixed_bundle_whose_backs_come_only_from_chosen_leaves(page: Page, live: Live, stack: int):
    live.control(ONE_SIDED, load="register-8", speed=0)
    choose(page, "Feeder One", 75, Name="fronts", Sheets="8")
    pick(page, "Sides", "the fronts, then the backs")
    page.get_by_role("button", name="Capture the fronts").click()
    finished(page)
    page.keyboard.press("n")
    which = page.get_by_role("region", name="Which sheets have a back")
    for sheet in (3, 8):
        which.get_by_role("button", name=f"Sheet {sheet} has no back").click()
    expect(which.get_by_role("status")).to_have_text(
        "Take out sheets 3, 8, turn the other 6 over together, and lay them in."
    )
    live.control(ONE_SIDED, load="register-8", pick=[0, 1, 3, 4, 5, 6], flipped=True)
    fill(page, "Name", "backs")
    fill(page, "Sheets", "")
    page.get_by_role("button", name="Capture the backs").click()
    leaves = page.get_by_role("list", name="Leaves in order").get_by_role("listitem")
    expect(leaves).to_have_count(8, timeout=90_000)
    expect(leaves.nth(2)).to_contain_text("no back")
    page.get_by_role("button", name="Put in this order").click()
    until(lambda: live.pages(stack)[1]["source"].startswith("backs"), 30, "the leaves to be in order")
    names = [row["source"].removesuffix(".jpg") for row in live.pages(stack)]
    backs = iter(range(6, 0, -1))
    expected = [
        name
        for sheet in range(1, 9)
        for name in (f"fronts {sheet:03d}", *([] if sheet in {3, 8} else [f"backs {next(backs):03d}"]))
    ]
    assert names == expected


def test_another_station_starts_no_lamp_and_gets_no_late_picture(page: Page, live: Live, stack: int):
    """A first look that is slow belongs to the station it was asked of."""
    live.control(GLASS, load="photographs", speed=0)
    looks: list[str] = []

    def slowly(route: Route) -> None:
        looks.append(route.request.url)
        page.wait_for_timeout(1500)
        route.continue_()

    page.route("**/prescans", slowly)
    station(page, "Glass A4").click()
    page.keyboard.press("l")
    station(page, "Feeder One").click()
    page.wait_for_timeout(2500)
    station(page, "Glass A4").click()
    page.wait_for_timeout(800)
    assert len(looks) == 1
    expect(page.get_by_role("img", name="First look at the glass")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile(r"^Frame \d"))).to_have_count(0)


def test_a_capture_in_the_place_of_a_page_is_one_and_no_more(page: Page, live: Live, stack: int, skerry: Path):
    other = live.take_in("Another box", [skerry / "01 letter 1a.jpg"])
    live.call("POST", f"/api/v1/stacks/{stack}/batches", {})
    live.control(GLASS, load="letters", pick=[0], speed=0)
    choose(page, "Glass A4", 75)
    page.keyboard.press("c")
    finished(page)
    page.keyboard.press("n")
    pick(page, "Goes in", re.compile("in place of page 1"))
    page.keyboard.press("c")
    finished(page)
    assert len(live.pages(stack)) == 1
    page.keyboard.press("n")
    expect(page.get_by_test_id("slip")).to_contain_text("puts it at the end")
    page.goto(f"/stacks/{other}/intake")
    expect(page.get_by_test_id("slip")).to_contain_text("puts it at the end")


def test_keys_capture_only_what_is_before_ones_eyes(page: Page, live: Live, stack: int, tmp_path: Path):
    """Over the list of files, C captures nothing."""
    live.control(GLASS, load="letters", pick=[0], speed=0)
    choose(page, "Glass A4", 75)
    (tmp_path / "notes.txt").write_text("Fog till noon.")
    page.locator("input[aria-label='Files']").first.set_input_files(tmp_path / "notes.txt")
    expect(page.get_by_role("region", name="Files on their way")).to_be_visible()
    page.keyboard.press("c")
    page.wait_for_timeout(800)
    assert live.call("GET", f"/api/v1/stacks/{stack}/runs") == []
    page.keyboard.press("s")
    page.keyboard.press("c")
    finished(page)


def test_fronts_today_and_backs_after_a_restart_on_another_screen(browser: Browser, page: Page, live: Live, stack: int):
    live.control(ONE_SIDED, load="register-8", speed=0)
    choose(page, "Feeder One", 75, Name="ledger", Sheets="8")
    pick(page, "Sides", "the fronts, then the backs")
    page.get_by_role("button", name="Capture the fronts").click()
    finished(page)
    page.keyboard.press("n")
    page.get_by_role("button", name="Sheet 3 has no back").click()
    until(lambda: live.call("GET", f"/api/v1/stacks/{stack}")["waits"]["backs"] == 7, 30, "the mark to be kept")
    page.goto("about:blank")
    live.restart()
    with watched(browser, live, noisy=True) as other:
        sign_in(other)
        expect(other.get_by_role("link", name=re.compile("From paper")).first).to_contain_text("7 backs still to come")
        other.goto(f"/stacks/{stack}/intake")
        slip = other.get_by_role("region", name="Order slip")
        expect(slip).to_contain_text("7 backs of 8 sheets captured with Feeder One are still to come.")
        slip.get_by_role("button", name="Capture them").click()
        which = other.get_by_role("region", name="Which sheets have a back")
        expect(which.get_by_role("status")).to_contain_text("Take out sheet 3, turn the other 7 over together")
        # One sheet stayed in the hand: it is missed.
        live.control(ONE_SIDED, load="register-8", pick=[0, 1, 3, 4, 5, 6], flipped=True)
        other.get_by_role("button", name="Capture the backs").click()
        load = other.get_by_role("region", name="Load")
        expect(load.get_by_role("alert")).to_contain_text("6 of 7 sheets came")
        live.control(ONE_SIDED, load="register-8", pick=[7], flipped=True)
        other.keyboard.press("g")
        expect(other.get_by_role("list", name="Leaves in order").get_by_role("listitem")).to_have_count(8, timeout=60_000)
        other.get_by_role("button", name="Put in this order").click()
        until(lambda: live.call("GET", f"/api/v1/stacks/{stack}")["waits"]["backs"] == 0, 30, "nothing to be waited for")


def test_ten_pages_off_the_glass_with_ten_presses_of_one_key(page: Page, live: Live, stack: int):
    live.control(GLASS, load="letters", pick=[0], speed=0)
    choose(page, "Glass A4", 75)
    page.keyboard.press("m")
    expect(page.get_by_role("button", name=re.compile(r"^Frame 1"))).to_be_visible()
    page.keyboard.press("t")
    for number in range(1, 11):
        live.control(GLASS, load="letters", pick=[number % 4])
        expect(page.get_by_role("button", name=re.compile("^Capture")).first).to_be_enabled()
        page.keyboard.press("c")
        until(lambda expected=number: len(live.pages(stack)) == expected, 30, f"page {number} to come")
        finished(page)
    page.keyboard.press("n")
    # What was drawn for the first is there for the eleventh.
    expect(page.get_by_role("button", name=re.compile(r"^Frame 1"))).to_be_visible()
    until(lambda: live.counts(stack)["corrected"] == 10, 90, "the pages to be corrected")
    wide, high = live.pages(stack)[0]["clean_px"]
    assert wide > high  # a frame higher than wide, turned as it was seen


def test_a_look_that_finds_nothing_says_so_and_captures_all_the_same(page: Page, live: Live, stack: int):
    live.control(GLASS, load="", speed=0)
    choose(page, "Glass A4", 75)
    page.keyboard.press("l")
    expect(page.get_by_role("region", name="Glass")).to_contain_text("Nothing was found there. Is the paper on the glass")
    page.keyboard.press("c")
    finished(page)
    assert len(live.pages(stack)) == 1


def test_loose_guides_are_told_while_the_bundle_is_at_hand(page: Page, live: Live, stack: int):
    live.control(ONE_SIDED, load="register-8", speed=0, skew_deg=7)
    choose(page, "Feeder One", 150)
    page.keyboard.press("c")
    finished(page)
    load = page.get_by_role("region", name="Load")
    expect(load).to_contain_text(re.compile(r"Sheets come in tilted, by up to \d\.\d°.*Set the guides snug"), timeout=60_000)
    live.control(ONE_SIDED, skew_deg=0)
