"""Stations that appear by themselves: found without an address, switched off and back, told apart."""

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.browser.conftest import sign_in, watched
from tests.browser.hands import pick, station
from tests.live import Live, until

GLASS, ONE_SIDED, TWO_SIDED = range(3)


@pytest.fixture(scope="module")
def live(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Live]:
    made = Live(tmp_path_factory.mktemp("found") / "data", stations=True, HOLLOWSTACK_FIND_STATIONS="true")
    yield made
    made.stop()


def found(page: Page, live: Live, number: int) -> Locator:
    """A station of this program among all that are found: others may announce theirs on the same machine."""
    cards = page.get_by_role("list", name="Found on the network").get_by_role("listitem")
    return cards.filter(has_text=live.stations[number].removeprefix("http://"))


def test_found_added_by_one_key_switched_off_and_back_and_told_apart(browser: Browser, live: Live):
    with watched(browser, live) as page:
        sign_in(page)
        page.goto("/new")
        glass, one_sided, two_sided = (found(page, live, number) for number in (GLASS, ONE_SIDED, TWO_SIDED))
        expect(glass).to_contain_text("by the window · glass", timeout=30_000)
        expect(two_sided).to_contain_text("by the door · feeder, both sides")

        live.control(GLASS, power="off")
        expect(glass).to_have_count(0, timeout=30_000)
        live.control(GLASS, power="on")
        expect(glass).to_have_count(1, timeout=30_000)

        one_sided.get_by_role("button", name="Add").focus()
        page.keyboard.press("Enter")
        expect(station(page, "Feeder One")).to_contain_text("by the door")
        expect(one_sided).to_have_count(0)
        glass.get_by_role("button", name="Add").click()
        expect(station(page, "Glass A4")).to_contain_text("ready")
        # One key adds the first that is there.
        page.keyboard.press("o")
        until(lambda: len(live.call("GET", "/api/v1/stations")) == 3, 60, "the third to be on the list")

        page.get_by_role("button", name="Stations …").click()
        glass = page.get_by_role("listitem", name="Glass A4")
        glass.get_by_label("Name").fill("Feeder One")
        glass.get_by_label("Where it stands").focus()
        expect(page.get_by_text("Another station is called Feeder One").first).to_be_visible()
        expect(glass.get_by_label("Name")).to_have_value("Glass A4")
        glass.get_by_label("Name").fill("The old glass")
        glass.get_by_label("Name").press("Enter")
        old = page.get_by_role("listitem", name="The old glass")
        old.get_by_label("Where it stands").fill("at the back")
        old.get_by_label("Where it stands").press("Enter")
        old.get_by_role("button", name="Which one is it?").click()
        expect(old.get_by_role("status")).to_have_text("It shows its name now: look for it at the device.")
        until(lambda: live.control(GLASS)["shown"] == "The old glass: this one", 30, "its panel to show it")
        page.keyboard.press("Escape")
        expect(station(page, "The old glass")).to_contain_text("at the back")
        expect(page.get_by_role("button", name=re.compile("^Station: "))).to_have_count(0)


def test_one_whose_cable_is_pulled_is_said_to_be_silent(browser: Browser, live: Live):
    with watched(browser, live) as page:
        sign_in(page)
        page.goto("/new")
        for one in live.call("GET", "/api/v1/stations"):  # by the test before
            live.call("DELETE", f"/api/v1/stations/{one['id']}")
        two = page.get_by_role("list", name="Found on the network").get_by_role("listitem").filter(has_text="Feeder Two")
        expect(found(page, live, TWO_SIDED)).to_be_visible()
        live.control(TWO_SIDED, offline=True)
        silent = two.filter(has_text="It announces itself, and does not answer").first
        expect(silent).to_be_visible(timeout=40_000)
        expect(silent.get_by_role("button", name="Add")).to_have_count(0)
        live.control(TWO_SIDED, offline=False)
        expect(found(page, live, TWO_SIDED).get_by_role("button", name="Add")).to_be_visible(timeout=40_000)


def test_how_paper_goes_in_is_asked_once_and_shown_by_a_test_sheet(browser: Browser, live: Live):
    with watched(browser, live) as page:
        sign_in(page)
        for one in live.call("GET", "/api/v1/stations"):  # by the tests before
            live.call("DELETE", f"/api/v1/stations/{one['id']}")
        added = live.call("POST", "/api/v1/stations", {"address": live.stations[ONE_SIDED]})
        live.control(ONE_SIDED, load="test-sheet", laid="up top", speed=0)
        stack = live.call("POST", "/api/v1/stacks", {"name": "The first capture"})["id"]
        page.goto(f"/stacks/{stack}/intake")
        station(page, "Feeder One").click()
        page.keyboard.press("c")
        question = page.get_by_role("dialog", name="How does paper go in at Feeder One?")
        expect(question).to_contain_text("Nobody has said so far")
        question.get_by_role("button", name="Capture the test sheet").click()
        expect(question).to_contain_text("lay it in with its printed side down", timeout=30_000)
        expect(question.get_by_role("radio", name="Face up")).to_be_checked()
        live.control(ONE_SIDED, load="test-sheet", laid="down top")
        question.get_by_role("button", name="Capture the test sheet").click()
        expect(question).to_contain_text("The test sheet was read", timeout=30_000)
        expect(question.get_by_role("radio", name="Face down")).to_be_checked()
        said = "Lay sheets in face down, top edge first, the guides snug against them in the middle."
        expect(question.get_by_role("img", name=said)).to_be_visible()

        live.control(ONE_SIDED, load="letters")
        question.get_by_role("button", name="Keep, and capture").click()
        expect(page.get_by_role("region", name="Load")).to_contain_text("Finished", timeout=90_000)
        assert live.counts(stack)["pages"] == 4
        page.keyboard.press("n")
        feeder = page.get_by_role("region", name="Feeder")
        expect(feeder.get_by_role("img", name=said)).to_be_visible()
        live.control(ONE_SIDED, load="letters")
        page.keyboard.press("c")
        expect(page.get_by_role("region", name="Load")).to_contain_text("4 images came", timeout=90_000)
        (kept,) = live.call("GET", "/api/v1/stations")
        assert kept["id"] == added["id"]
        assert kept["feeder"]["paper"] == {"face": "down", "edge": "top", "place": "middle"}


def test_whoever_does_not_want_to_say_is_not_asked_again(browser: Browser, live: Live):
    with watched(browser, live) as page:
        sign_in(page)
        live.call("POST", "/api/v1/stations", {"address": live.stations[TWO_SIDED]})
        stack = live.call("POST", "/api/v1/stacks", {"name": "Put off"})["id"]
        page.goto(f"/stacks/{stack}/intake")
        station(page, "Feeder Two").click()
        # It can feed slowly, and says so in the line.
        pick(page, "Pace", re.compile("slowly"))
        pick(page, "Resolution", re.compile("^75 ppi"))
        live.control(TWO_SIDED, load="letters", speed=0)
        page.keyboard.press("c")
        page.get_by_role("button", name="Capture without saying").click()
        expect(page.get_by_role("region", name="Load")).to_contain_text("Finished", timeout=90_000)
        (run,) = live.call("GET", f"/api/v1/stacks/{stack}/runs")
        assert run["settings"]["slow"]
        page.reload()
        live.control(TWO_SIDED, load="letters")
        station(page, "Feeder Two").click()
        page.keyboard.press("c")
        expect(page.get_by_role("region", name="Load")).to_be_visible()
        expect(page.get_by_role("dialog")).to_have_count(0)
