"""For eyes and hands of every kind: axe finds nothing at all, in any view and state; names, focus, zoom and motion."""

import re
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import sign_in, watched
from tests.browser.hands import cells, station
from tests.live import Live, until

GLASS, FEEDER, _ = range(3)
State = Callable[[Page, Live, int], None]


@pytest.fixture(scope="module")
def live(tmp_path_factory: pytest.TempPathFactory, worked: Path) -> Iterator[Live]:
    made = Live(tmp_path_factory.mktemp("access") / "data", worked=worked, stations=True)
    until(lambda: len(made.call("GET", "/api/v1/stations")) == 3, 60, "the stations to be there")
    made.say_how_paper_goes_in()
    yield made
    made.stop()


@pytest.fixture(scope="module")
def stack(live: Live, skerry: Path) -> int:
    """A letter, its blank back, a card, a page that failed."""
    names = ("01 letter 1a.jpg", "01 letter 1b.jpg", "04 card 41.jpg", "07 log 161.jpg")
    made = live.take_in("Of every kind", [skerry / name for name in names])
    until(lambda: live.settled(made), 180, "the stack to be finished")
    live.call("POST", f"/api/v1/stacks/{made}/documents", {"title": "Of every kind"})
    return made


def violations(page: Page, *rules: str) -> list[tuple[str, list[str]]]:
    """What axe finds, by all of its rules or some."""
    found = Axe().run(page, options={"runOnly": list(rules)} if rules else None).response["violations"]
    return [(one["id"], [node["html"][:160] for node in one["nodes"]]) for one in found]


def grid(page: Page, live: Live, stack: int) -> None:
    page.goto(f"/stacks/{stack}")
    cells(page).first.wait_for()


def keyed(*keys: str) -> State:
    def state(page: Page, live: Live, stack: int) -> None:
        grid(page, live, stack)
        for key in keys:
            page.keyboard.press(key)

    return state


def tab(name: str) -> State:
    def state(page: Page, live: Live, stack: int) -> None:
        grid(page, live, stack)
        page.get_by_role("tab", name=name).click()

    return state


def bench(*keys: str) -> State:
    def state(page: Page, live: Live, stack: int) -> None:
        page.goto(f"/stacks/{stack}/bench/{live.pages(stack)[0]['id']}")
        page.get_by_test_id("tilt").wait_for()
        for key in keys:
            page.keyboard.press(key)

    return state


def binding(*keys: str) -> State:
    def state(page: Page, live: Live, stack: int) -> None:
        at("/stacks/{stack}/bind")(page, live, stack)
        page.get_by_role("region", name="Forecast").wait_for()
        for key in keys:
            page.keyboard.press(key)

    return state


def at(address: str, *keys: str) -> State:
    def state(page: Page, live: Live, stack: int) -> None:
        page.goto(address.format(stack=stack))
        page.get_by_role("button", name="keeper").wait_for()
        page.wait_for_timeout(400)
        for key in keys:
            page.keyboard.press(key)

    return state


def menu(page: Page, live: Live, stack: int) -> None:
    grid(page, live, stack)
    cells(page).nth(2).click(button="right")


def of_user(page: Page, live: Live, stack: int) -> None:
    at("/")(page, live, stack)
    page.get_by_role("button", name="keeper").click()


def layout(page: Page, live: Live, stack: int) -> None:
    grid(page, live, stack)
    page.get_by_role("button", name="Layout").click()


def nothing_shown(page: Page, live: Live, stack: int) -> None:
    grid(page, live, stack)
    page.get_by_role("radio", name="To recapture 0").click()


def failed_page(page: Page, live: Live, stack: int) -> None:
    page.goto(f"/stacks/{stack}/pages/{live.pages(stack)[3]['id']}")
    page.get_by_text("This page failed").wait_for()


def glass(page: Page, live: Live, stack: int) -> None:
    live.control(GLASS, load="photographs", speed=0)
    page.goto(f"/stacks/{stack}/intake")
    station(page, "Glass A4").click()
    page.keyboard.press("l")
    expect(page.get_by_role("button", name=re.compile(r"^Frame \d"))).to_have_count(3)
    page.keyboard.press("m")


def word_open(page: Page, live: Live, stack: int) -> None:
    page.goto(f"/stacks/{stack}/intake")
    page.get_by_role("combobox", name=re.compile("^Resolution")).click()
    page.get_by_role("option").first.wait_for()


def slip_sheet(page: Page, live: Live, stack: int) -> None:
    page.goto(f"/stacks/{stack}/intake")
    page.get_by_role("button", name="Keep as a slip").click()


def more_of_stack(page: Page, live: Live, stack: int) -> None:
    page.goto(f"/stacks/{stack}/intake")
    page.get_by_test_id("stack-line").get_by_role("button", name="More …").click()


def asked_to_delete(page: Page, live: Live, stack: int) -> None:
    more_of_stack(page, live, stack)
    page.get_by_role("button", name="Delete the stack …").click()


def load(page: Page, live: Live, stack: int) -> None:
    live.control(FEEDER, load="register", speed=0, jam_after=2)
    made = live.call("POST", "/api/v1/stacks", {"name": "Jammed"})["id"]
    page.goto(f"/stacks/{made}/intake")
    station(page, "Feeder One").click()
    expect(page.get_by_role("button", name=re.compile("^Capture"))).to_be_enabled()
    page.keyboard.press("c")
    expect(page.get_by_role("alert")).to_contain_text("jammed", timeout=60_000)
    live.control(FEEDER, clear=True)


def feeder(page: Page, live: Live, stack: int) -> None:
    page.goto("/new")
    station(page, "Feeder One").click()


def files(page: Page, live: Live, stack: int) -> None:
    page.goto("/new")
    page.locator("input[aria-label='Files']").first.set_input_files(
        [{"name": "notes.txt", "mimeType": "text/plain", "buffer": b"Fog."}]
    )
    expect(page.get_by_role("alert").first).to_contain_text("not an image")


def text(*keys: str) -> State:
    def go(page: Page, live: Live, stack: int) -> None:
        page.goto(f"/stacks/{stack}/text")
        page.get_by_test_id("line").or_(page.get_by_text("No doubtful word is left")).first.wait_for()
        for key in keys:
            page.keyboard.press(key)

    return go


def a_new_destination(page: Page, live: Live, stack: int) -> None:
    """The form of one, with all that mail takes."""
    at("/destinations")(page, live, stack)
    page.get_by_role("button", name="New destination").click()
    page.get_by_role("combobox", name="Kind").click()
    page.get_by_role("option", name="E-mail").click()
    expect(page.get_by_label("Mail server")).to_be_visible()


def a_new_link(page: Page, live: Live, stack: int) -> None:
    at("/stacks/{stack}/dispatch")(page, live, stack)
    new = page.get_by_role("button", name="New link …")
    if new.is_enabled():
        new.click()
        page.get_by_label("For whom").wait_for()


def collections(page: Page, live: Live, stack: int) -> None:
    at("/")(page, live, stack)
    page.get_by_role("button", name="Edit collections").click()
    page.get_by_role("button", name="New at the top").click()


STATES: dict[str, State] = {
    "shelf": at("/"),
    "shelf, menu of the user": of_user,
    "new stack": at("/new"),
    "new stack, feeder": feeder,
    "files that were refused": files,
    "grid": grid,
    "grid, all chosen and cut": keyed("Control+a", "x"),
    "grid, nothing shown": nothing_shown,
    "grid, menu": menu,
    "grid, layout": layout,
    "keys": keyed("?"),
    "palette": keyed("Control+k"),
    "arrange": tab("Arrange"),
    "checks": tab("Checks"),
    "history": tab("History"),
    "page": keyed("Enter"),
    "page, at 1:1": keyed("Enter", "1"),
    "page that failed": failed_page,
    "bench": bench(),
    **{f"bench, {tool}": bench(key) for tool, key in (("level", "t"), ("corners", "q"), ("borders", "d"), ("split", "s"))},
    "bench, curtain": bench("c"),
    "bench, single": bench("c", "c"),
    "bench, loupe and regions": bench("m", "Shift+O"),
    "bench, applying": bench("t", "ArrowRight", "w"),
    "intake, glass": glass,
    "intake, a word open": word_open,
    "intake, a slip to keep": slip_sheet,
    "intake, more of the stack": more_of_stack,
    "intake, asked to delete": asked_to_delete,
    "a load that stopped": load,
    "text": text(),
    "text, finding": text("/"),
    "text, an area": text("F6"),
    "text, its order": text("F7"),
    "bind": at("/stacks/{stack}/bind"),
    "bind, access": binding("a", "x", "Enter"),
    "bind, other forms": binding("k"),
    "treatments": at("/treatments/index%20cards"),
    "people": at("/people"),
    "account": at("/account"),
    "dispatch": at("/stacks/{stack}/dispatch"),
    "descriptions": at("/stacks/{stack}/describe"),
    "search": at("/search"),
    "search, found": at("/search?q=the", "ArrowDown"),
    "search, by name": at("/search?q=kind"),
    "search, nothing found": at("/search?q=nowhere&from=1900"),
    "dispatch, a new link": a_new_link,
    "collections": collections,
    "destinations": at("/destinations"),
    "a new destination": a_new_destination,
    "bin": at("/bin"),
    "no such stack": at("/stacks/4711"),
}


NAMES = list(STATES)
AT_ONCE = 14


@pytest.mark.parametrize("first", range(0, len(NAMES), AT_ONCE), ids=NAMES[::AT_ONCE])
def test_axe_finds_nothing_in_any_state_by_light_or_dark(browser: Browser, live: Live, stack: int, first: int):
    """Many in one tab, so that signing in once is enough for them; all of them would take a busy machine longer than a test may."""
    found = {}
    with watched(browser, live, noisy=True) as page:

        def look(name: str) -> None:
            page.wait_for_timeout(300)
            # In the dark, all but the colours is as it was.
            for chrome, rules in (("light", ()), ("dark", ("color-contrast", "link-in-text-block"))):
                page.emulate_media(color_scheme=chrome, reduced_motion="reduce")  # type: ignore[arg-type]
                page.wait_for_timeout(150)  # colours are where they go to
                found[f"{name}, {chrome}"] = violations(page, *rules)

        page.goto("/")
        page.get_by_label("Password").wait_for()
        if first == 0:
            look("sign in")
        sign_in(page)
        for name in NAMES[first : first + AT_ONCE]:
            STATES[name](page, live, stack)
            look(name)
    told = [f"{name}: {rule} {where}" for name, broken in found.items() for rule, where in broken]
    assert not told, "\n".join(told)


def test_what_is_heard_in_the_grid(browser: Browser, live: Live, stack: int):
    """Names, places and states, from the tree that screen readers read."""
    with watched(browser, live) as page:
        sign_in(page)
        grid(page, live, stack)
        expect(page.get_by_role("listbox", name="Pages")).to_match_aria_snapshot(
            """
            - listbox "Pages":
              - option "Page 1, 01 letter 1a.jpg, ready" [selected]
              - 'option "Page 2, 01 letter 1b.jpg, aside: blank"'
              - option /Page 3, 04 card 41.jpg, ready/
              - option "Page 4, 07 log 161.jpg, failed"
            """
        )
        third = cells(page).nth(2)
        expect(third).to_have_attribute("aria-posinset", "3")
        expect(third).to_have_attribute("aria-setsize", "4")
        edge = page.get_by_role("slider", name="Fore-edge")
        expect(edge).to_have_attribute("aria-valuetext", "Page 1 of 4, ready")
        page.keyboard.press("End")
        expect(edge).to_have_attribute("aria-valuetext", "Page 4 of 4, failed")
        expect(page.get_by_role("navigation", name="Steps").get_by_role("link")).to_have_count(6)
        page.keyboard.press("Home")
        page.keyboard.press("Enter")
        gone_to = page.get_by_role("status", name="Page", exact=True)
        expect(gone_to).to_have_text("Page 1 of 4, ready")
        page.keyboard.press("ArrowRight")
        expect(gone_to).to_have_text("Page 2 of 4, aside")


def test_the_slip_is_heard_as_a_sentence_of_controls(browser: Browser, live: Live, stack: int):
    with watched(browser, live) as page:
        sign_in(page)
        glass(page, live, stack)
        slip = page.get_by_role("region", name="Order slip")
        for name in ("Station: Glass A4", "What is captured: 4 frames", "Resolution: 300 ppi", "Goes in: at the end"):
            expect(slip.get_by_role("combobox", name=name)).to_be_visible()
        frame = page.get_by_role("button", name=re.compile("^Frame 4"))
        expect(frame).to_be_focused()
        expect(frame).to_have_accessible_description(re.compile("turned 0.0°. Arrow keys move it"))
        # Deleted, the hand is on the one before it: the focus is never lost.
        page.keyboard.press("Delete")
        expect(page.get_by_role("button", name=re.compile("^Frame 3"))).to_be_focused()


@pytest.mark.parametrize(
    ("address", "title"),
    [
        ("/", "Shelf · Hollow Stack"), ("/treatments", "Treatments · Hollow Stack"), ("/people", "People · Hollow Stack"),
        ("/new", "New stack · Hollow Stack"), ("/stacks/{stack}", "Of every kind · Hollow Stack"), ("/bin", "Bin · Hollow Stack"),
        ("/stacks/{stack}/bind", "Of every kind · Hollow Stack"),
    ],
)  # fmt: skip
def test_every_view_has_its_title_one_heading_and_the_keyboard(browser: Browser, live: Live, stack: int, address, title):
    with watched(browser, live) as page:
        sign_in(page)
        page.goto(address.format(stack=stack))
        expect(page).to_have_title(title)
        expect(page.get_by_role("heading", level=1)).to_have_count(1)
        page.keyboard.press("Tab")
        assert page.evaluate("document.activeElement !== document.body")


def test_a_new_view_has_the_keyboard_and_the_contents_can_be_gone_to(browser: Browser, live: Live, stack: int):
    with watched(browser, live) as page:
        sign_in(page)
        page.get_by_role("link", name=re.compile("Of every kind")).click()
        cells(page).first.wait_for()
        until(lambda: page.evaluate("document.activeElement.id") == "main", 30, "the keyboard to be in the view")
        page.get_by_role("link", name="Shelf").focus()
        page.keyboard.press("Shift+Tab")
        contents = page.get_by_role("link", name="To the contents")
        expect(contents).to_be_focused()
        box = contents.bounding_box()
        assert box
        assert box["height"] >= 20
        page.keyboard.press("Enter")
        until(lambda: page.evaluate("document.activeElement.id") == "main", 30, "the keyboard to be in the view again")


def test_escape_from_a_tool_leaves_the_focus_where_it_is_seen(browser: Browser, live: Live, stack: int):
    with watched(browser, live) as page:
        sign_in(page)
        bench("q")(page, live, stack)
        expect(page.get_by_role("button", name="top left corner")).to_be_focused()
        page.keyboard.press("Escape")
        until(lambda: page.evaluate("document.activeElement !== document.body"), 30, "the focus not to be lost")


OUTSIDE = """() => [...document.querySelectorAll('body *')]
    .filter((one) => one.checkVisibility() && one.getBoundingClientRect().right > innerWidth + 1)
    .map((one) => `${one.tagName} ${one.className} ${one.getBoundingClientRect().right}`)"""


@pytest.mark.parametrize("zoom", [2, 4])
@pytest.mark.parametrize("view", ["grid", "bench", "intake, glass", "bind", "bind, access", "shelf", "treatments"])
def test_enlarged_nothing_lies_outside(browser: Browser, live: Live, stack: int, view: str, zoom: int):
    """At 200 and 400 % of 1280 × 800 everything is reached by scrolling one way (WCAG 2.2, 1.4.10)."""
    with watched(browser, live) as page:
        sign_in(page)
        STATES[view](page, live, stack)
        page.set_viewport_size({"width": 1280 // zoom, "height": 800 // zoom})
        page.wait_for_timeout(400)
        assert page.evaluate("document.documentElement.scrollWidth - innerWidth") <= 1, page.evaluate(OUTSIDE)
        if view in ("grid", "bench"):
            last = page.get_by_role("tab", name="History")
            last.scroll_into_view_if_needed()
            expect(last).to_be_in_viewport()


def test_text_of_twice_the_size_is_laid_out_with_it(browser: Browser, live: Live, stack: int):
    """Sizes are in rem: whoever has set larger text gets larger controls too."""
    with watched(browser, live) as page:
        sign_in(page)
        grid(page, live, stack)
        button = page.get_by_role("button", name="Hold aside")
        before = button.bounding_box()
        page.evaluate("document.documentElement.style.fontSize = '200%'")
        after = button.bounding_box()
        assert before
        assert after
        assert after["height"] == pytest.approx(2 * before["height"], rel=0.05)


def test_targets_are_large_enough_for_fingers(browser: Browser, live: Live, stack: int):
    """WCAG 2.2, 2.5.8: 24 by 24 CSS pixels; what has a label is touched by that too."""
    script = """() => [...document.querySelectorAll('button, a[href], [role=slider], [role=checkbox], [role=radio]')]
        .filter((one) => one.checkVisibility({ visibilityProperty: true }) && !one.closest('p') && !one.labels?.length)
        .map((one) => [one.getBoundingClientRect(), one.ariaLabel || one.textContent])
        .filter(([box]) => box.width > 1 && box.height > 1 && Math.min(box.width, box.height) < 24)
        .map(([box, name]) => `${name}: ${box.width} x ${box.height}`)"""
    with watched(browser, live) as page:
        sign_in(page)
        for name in ("shelf", "grid", "bench, corners", "intake, glass", "bind"):
            STATES[name](page, live, stack)
            page.wait_for_timeout(300)
            assert page.evaluate(script) == [], name


def test_who_wants_no_motion_gets_none(browser: Browser, live: Live):
    with watched(browser, live) as page:
        page.emulate_media(reduced_motion="reduce")
        page.goto("/")
        page.get_by_label("Password").wait_for()
        page.evaluate("document.body.insertAdjacentHTML('beforeend', '<i id=probe class=animate-pulse></i>')")
        seconds = page.evaluate("parseFloat(getComputedStyle(document.getElementById('probe')).animationDuration)")
        assert seconds < 0.001
