"""Stations that appear by themselves: found without an address, switched off and back, told apart."""

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.browser.conftest import sign_in, watched
from tests.browser.hands import station
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
        until(lambda: len(live.call("GET", "/api/v1/stations")) == 3, 20, "the third to be on the list")

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
        until(lambda: live.control(GLASS)["shown"] == "The old glass: this one", 5, "its panel to show it")
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
