"""A browser, and the real program with pages in it."""

import os
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from tests.live import PASSWORD, USER, Live
from tests.worked import worked as worked_in

# Playwright runs its own event loop beside Django's checks for one; these tests never touch the database here.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
# A machine that measures pages with all its cores answers late.
expect.set_options(timeout=30_000)
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
]  # fmt: skip


# Scans of the demo that more than one test takes in.
COMMON = [
    *("01 letter 1a.jpg", "01 letter 1b.jpg", "01 letter 2a.jpg", "01 letter 3a.jpg", "04 card 41.jpg"),
    *("05 report on the lantern.tif", "07 log 161.jpg"),
]


@pytest.fixture(scope="session")
def worked(tmp_path_factory: pytest.TempPathFactory, skerry: Path) -> Path:
    """A data folder in which pages that many tests take in are made, shared by all processes of the run."""
    base = tmp_path_factory.getbasetemp()
    run = base.parent if "PYTEST_XDIST_WORKER" in os.environ else base
    return worked_in(run, [skerry / name for name in COMMON])


@pytest.fixture(scope="session")
def live(tmp_path_factory: pytest.TempPathFactory, worked: Path) -> Iterator[Live]:
    data = tmp_path_factory.mktemp("live") / "data"
    made = Live(
        data, worked=worked, HOLLOWSTACK_DELIVERY_NETWORKS="127.0.0.0/8", HOLLOWSTACK_DELIVERY_SECONDS="0.5",
        HOLLOWSTACK_DELIVERY_CERTIFICATES=str(data / "mail.pem"),
    )  # fmt: skip
    yield made
    made.stop()


@pytest.fixture(scope="session")
def chromium() -> Iterator[Callable[..., Browser]]:
    """Starts browsers, with what is said to them besides the usual."""
    with sync_playwright() as playwright:
        yield lambda *more: playwright.chromium.launch(executable_path="/usr/bin/chromium", args=[*FLAGS, *more])


@pytest.fixture(scope="session")
def browser(chromium: Callable[..., Browser]) -> Iterator[Browser]:
    made = chromium()
    yield made
    made.close()


def _is_refusal(text: str) -> bool:
    """Chromium notes every answer over 399 in the console; those are answers, and shown as such."""
    said = "Failed to load resource: the server responded with a status of "
    return text.startswith((f"{said}4", f"{said}503", f"{said}507"))


def sign_in(page: Page, name: str = USER) -> None:
    """Through the door, to the shelf."""
    page.goto("/")
    page.get_by_label("User name").fill(name)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("button", name=name).wait_for()


@contextmanager
def watched(browser: Browser, live: Live, *, noisy: bool = False) -> Iterator[Page]:
    """A fresh tab at 1280 × 800; an error in its console fails the test, unless faults are made on purpose."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=live.address, accept_downloads=True)
    context.set_default_timeout(20_000)
    made = context.new_page()
    troubles: list[str] = []
    made.on("pageerror", lambda error: troubles.append(str(error)))
    made.on(
        "console", lambda said: troubles.append(said.text) if said.type == "error" and not _is_refusal(said.text) else None
    )
    yield made
    made.unroute_all(behavior="ignoreErrors")  # what is still held back is of no interest any more
    context.close()
    assert noisy or troubles == []


@pytest.fixture
def page(browser: Browser, live: Live) -> Iterator[Page]:
    with watched(browser, live) as made:
        yield made


@pytest.fixture
def signed_in(page: Page, live: Live) -> Page:
    """On the shelf, with a session that was not typed at the door."""
    page.context.add_cookies([{"name": "sessionid", "value": live.new_session(), "url": live.address}])
    page.goto("/")
    page.get_by_role("button", name=USER).wait_for()
    return page


@pytest.fixture(scope="session")
def chosen(skerry: Path) -> list[Path]:
    """A few of the demo's files: two letters, a blank back, a card, two report pages, one that is cut short."""
    names = [
        "01 letter 1a.jpg",
        "01 letter 1b.jpg",
        "01 letter 2a.jpg",
        "04 card 41.jpg",
        "05 report on the lantern.tif",
        "07 log 161.jpg",
    ]
    return [skerry / name for name in names]
