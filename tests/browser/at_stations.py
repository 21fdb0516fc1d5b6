"""The program with its simulated stations, a new stack open at its intake, and hands that choose what is captured."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import sign_in, watched
from tests.browser.hands import pick, station, write
from tests.live import Live, until

GLASS, ONE_SIDED, TWO_SIDED = range(3)


@pytest.fixture(scope="module")
def live(tmp_path_factory: pytest.TempPathFactory, worked: Path) -> Iterator[Live]:
    made = Live(tmp_path_factory.mktemp("intake") / "data", worked=worked, stations=True)
    until(lambda: len(made.call("GET", "/api/v1/stations")) == 3, 60, "the stations to be there")
    made.say_how_paper_goes_in()
    yield made
    made.stop()


@pytest.fixture
def page(browser: Browser, live: Live) -> Iterator[Page]:
    with watched(browser, live) as made:
        sign_in(made)
        yield made


@pytest.fixture
def stack(page: Page, live: Live) -> int:
    """A new, empty stack, opened at its intake."""
    made = live.call("POST", "/api/v1/stacks", {"name": "From paper"})["id"]
    page.goto(f"/stacks/{made}/intake")
    station(page, "Glass A4").wait_for()
    return int(made)


def choose(page: Page, name: str, ppi: int, colour: str = "grey", **fields: str) -> None:
    station(page, name).click()
    pick(page, "Resolution", re.compile(rf"^{ppi} ppi"))
    pick(page, "Colour", re.compile(rf"^{colour}"))
    for label, value in fields.items():
        fill(page, label, value)


def fill(page: Page, label: str, value: str) -> None:
    piece, field = {"Name": ("File names begin with",) * 2, "Sheets": ("Sheets", "Sheets expected")}[label]
    write(page, piece, field, value)


def finished(page: Page) -> None:
    expect(page.get_by_role("region", name="Load")).to_contain_text("Finished", timeout=90_000)
