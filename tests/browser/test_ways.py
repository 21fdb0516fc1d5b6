"""The whole way of the demo by keyboard alone, by mouse alone, and by touch where paper and pages are in hand."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, CDPSession, Page, expect

from tests.browser.conftest import sign_in, watched
from tests.browser.hands import bound, cells, meanwhile, pick, station
from tests.live import PASSWORD, USER, Live, until

GLASS, _, _ = range(3)


@pytest.fixture(scope="module")
def live(tmp_path_factory: pytest.TempPathFactory, worked: Path) -> Iterator[Live]:
    made = Live(tmp_path_factory.mktemp("ways") / "data", worked=worked, stations=True)
    until(lambda: len(made.call("GET", "/api/v1/stations")) == 3, 60, "the stations to be there")
    made.say_how_paper_goes_in()
    yield made
    made.stop()


def tab_to(page: Page, name: str | re.Pattern[str], role: str = "button") -> None:
    """Press Tab until that has the keyboard."""
    wanted = page.get_by_role(role, name=name)  # type: ignore[arg-type]
    for _ in range(80):
        page.keyboard.press("Tab")
        if wanted.count() and wanted.first.evaluate("element => element === document.activeElement"):
            return
    raise AssertionError(f"Tab does not lead to {name}")


def test_by_keyboard_alone(browser: Browser, live: Live):
    """From the door to a bound document, without ever touching the mouse."""
    live.control(GLASS, load="photographs", speed=0)
    with watched(browser, live) as page:
        keys = page.keyboard
        page.goto("/")
        expect(page.get_by_label("User name")).to_be_focused()
        keys.type(USER)
        keys.press("Tab")
        keys.type(PASSWORD)
        keys.press("Enter")
        page.get_by_role("link", name="New stack").wait_for()
        keys.press("n")
        page.get_by_role("region", name="Order slip").wait_for()
        # The slip's sentence: the resolution, by its list.
        tab_to(page, re.compile("^Resolution"), "combobox")
        keys.press("Enter")
        expect(page.get_by_role("option", name="300 ppi")).to_be_focused()
        for ppi in (200, 150):
            keys.press("ArrowUp")
            expect(page.get_by_role("option", name=re.compile(rf"^{ppi} ppi"))).to_be_focused()
        keys.press("Enter")
        expect(page.get_by_test_id("slip")).to_contain_text("at 150 ppi")
        keys.press("l")
        frames = page.get_by_role("button", name=re.compile(r"^Frame \d"))
        expect(frames).to_have_count(3)
        tab_to(page, re.compile("^Frame 1"))
        keys.press("ArrowRight")
        keys.press("c")
        expect(page.get_by_role("region", name="Load")).to_contain_text("Finished", timeout=90_000)
        page.wait_for_url(re.compile(r"/stacks/\d+/intake"))
        stack = int(page.url.split("/")[-2])
        keys.press("Escape")
        expect(cells(page)).to_have_count(3)
        until(lambda: live.settled(stack), 120, "the photographs to be finished")
        # Put in another order, one corrected by hand, one held aside and taken back.
        keys.press("x")
        keys.press("End")
        keys.press("v")
        keys.press("Home")
        keys.press("e")
        page.get_by_test_id("tilt").wait_for()
        keys.press("t")
        keys.press("Shift+ArrowRight")
        keys.press("Escape")
        keys.press("Escape")
        cells(page).first.wait_for()
        keys.press("a")
        expect(page.get_by_role("radio", name="Aside 1")).to_be_visible()
        keys.press("z")
        expect(page.get_by_role("radio", name="Aside 0")).to_be_visible()
        # Everything by name: the palette leads to binding.
        keys.press("Control+k")
        keys.type("bind")
        keys.press("Enter")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        until(lambda: live.settled(stack), 120, "what was corrected to be finished")
        tab_to(page, re.compile("^Bind as"))
        expect(page.get_by_role("button", name=re.compile("^Bind as"))).not_to_have_attribute("aria-disabled", "true")
        keys.press("Enter")
        expect(bound(page).get_by_role("link", name=re.compile("^Download"))).to_be_visible(timeout=60_000)
        keys.press("Escape")
        keys.press("Escape")
        expect(page).to_have_url(re.compile("/$"))


def test_by_mouse_alone(browser: Browser, live: Live):
    live.control(GLASS, load="photographs", speed=0)
    with watched(browser, live) as page:
        sign_in(page)
        page.get_by_role("link", name="New stack").click()
        station(page, "Glass A4").click()
        pick(page, "Resolution", re.compile("^150 ppi"))
        page.get_by_role("button", name="First look").click()
        expect(page.get_by_role("button", name=re.compile(r"^Frame \d"))).to_have_count(3)
        page.get_by_role("button", name="Capture 3 frames").click()
        expect(page.get_by_role("region", name="Load")).to_contain_text("Finished", timeout=90_000)
        page.wait_for_url(re.compile(r"/stacks/\d+/intake"))
        stack = int(page.url.split("/")[-2])
        page.get_by_role("button", name="Back to the glass").click()
        page.get_by_role("navigation", name="Steps").get_by_role("link").nth(1).click()
        expect(cells(page)).to_have_count(3)
        until(lambda: live.settled(stack), 120, "the photographs to be finished")
        cells(page).first.click(button="right")
        page.get_by_role("menuitem", name="Turn to the right").click()
        page.get_by_role("tab", name="History").click()
        expect(page.get_by_role("list", name="History")).to_contain_text("Turned 1 page to the right")
        page.get_by_role("button", name="Undo").click()
        page.get_by_role("tab", name="Page").click()
        page.get_by_role("button", name="Correct", exact=True).click()
        page.get_by_role("radio", name="Curtain").click()
        curtain = page.get_by_role("slider", name="Curtain").bounding_box()
        assert curtain
        page.mouse.move(curtain["x"] + 12, curtain["y"] + 200)
        page.mouse.down()
        page.mouse.move(curtain["x"] - 120, curtain["y"] + 200, steps=4)
        page.mouse.up()
        expect(page.get_by_role("slider", name="Curtain")).not_to_have_attribute("aria-valuenow", "50")
        page.get_by_role("link", name=re.compile("^Bind")).click()
        page.get_by_role("button", name=re.compile("^Bind as")).click()
        expect(bound(page).get_by_role("link", name=re.compile("^Download"))).to_be_visible(timeout=60_000)


class Finger:
    """One finger, or two, on the glass of the screen."""

    def __init__(self, page: Page) -> None:
        self._line: CDPSession = page.context.new_cdp_session(page)
        self._page = page

    def drag(self, x: float, y: float, dx: float, dy: float) -> None:
        self._touch("touchStart", [(x, y)])
        for step in range(1, 6):
            self._touch("touchMove", [(x + dx * step / 5, y + dy * step / 5)])
        self._touch("touchEnd", [])

    def pinch(self, x: float, y: float, wide: float) -> None:
        self._touch("touchStart", [(x - 20, y), (x + 20, y)])
        for step in range(1, 6):
            by = 20 + (wide - 20) * step / 5
            self._touch("touchMove", [(x - by, y), (x + by, y)])
        self._touch("touchEnd", [])

    def _touch(self, kind: str, points: list[tuple[float, float]]) -> None:
        places = [{"x": x, "y": y, "id": at} for at, (x, y) in enumerate(points)]
        self._line.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": places})
        self._page.wait_for_timeout(16)


@pytest.fixture
def touched(browser: Browser, live: Live) -> Iterator[Page]:
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=live.address, has_touch=True)
    context.set_default_timeout(20_000)
    page = context.new_page()
    sign_in(page)
    yield page
    context.close()


def test_frames_by_finger(touched: Page, live: Live):
    page, finger = touched, Finger(touched)
    live.control(GLASS, load="", speed=0)
    stack = live.call("POST", "/api/v1/stacks", {"name": "By finger"})["id"]
    page.goto(f"/stacks/{stack}/intake")
    station(page, "Glass A4").tap()
    box = page.locator("svg[viewBox='0 0 216 297']").bounding_box()
    assert box
    mm = box["width"] / 216
    finger.drag(box["x"] + 20 * mm, box["y"] + 20 * mm, 100 * mm, 80 * mm)
    frame = page.get_by_role("button", name=re.compile(r"^Frame 1"))
    expect(frame).to_have_accessible_name("Frame 1, 100 × 80 mm")
    # Its right side, taken hold of a little beside the mark: fingers are not sharp.
    finger.drag(box["x"] + 123 * mm, box["y"] + 62 * mm, 20 * mm, 0)
    expect(frame).to_have_accessible_name("Frame 1, 120 × 80 mm")


def test_the_bench_by_finger(touched: Page, live: Live, skerry):
    page, finger = touched, Finger(touched)
    stack = live.take_in("Under fingers", [skerry / "01 letter 1a.jpg"])
    until(lambda: live.settled(stack), 120, "the page to be finished")
    one = live.pages(stack)[0]["id"]
    page.goto(f"/stacks/{stack}/bench/{one}")
    page.get_by_test_id("tilt").wait_for()
    bench = page.get_by_test_id("bench").bounding_box()
    assert bench
    before = page.get_by_test_id("zoom").inner_text()
    finger.pinch(bench["x"] + 200, bench["y"] + 200, 90)
    expect(page.get_by_test_id("zoom")).not_to_have_text(before)
    picture = page.get_by_role("img", name="Page 1 as captured")
    stood = picture.bounding_box()
    finger.drag(bench["x"] + 200, bench["y"] + 250, 60, 40)
    assert picture.bounding_box() != stood
    page.wait_for_timeout(500)  # as long as a hand takes: a touch at once is none of its own to the browser
    page.get_by_role("button", name="Whole page").tap()
    expect(page.get_by_test_id("zoom")).to_have_text(before)
    page.get_by_role("radio", name="Corners").tap()
    corner = page.get_by_role("button", name="top left corner").bounding_box()
    assert corner
    finger.drag(corner["x"] + 14, corner["y"] + 14, 30, 30)
    found = lambda: live.call("GET", f"/api/v1/pages/{one}")["override"].get("quad")  # noqa: E731
    meanwhile(page, found, 30, "the corner to be saved")
