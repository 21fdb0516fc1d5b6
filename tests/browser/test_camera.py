"""The camera at the table, in a browser whose camera is a film of the drawn table."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page, expect

from hollowstack.standins.skerry.photograph import View
from hollowstack.standins.table.film import film, notices
from tests.browser.conftest import sign_in, watched
from tests.live import Live, until

PAGES = 5


@pytest.fixture(scope="module")
def live(tmp_path_factory: pytest.TempPathFactory, worked: Path) -> Iterator[Live]:
    made = Live(tmp_path_factory.mktemp("camera") / "data", worked=worked)
    yield made
    made.stop()


@pytest.fixture(scope="module")
def table(chromium: Callable[..., Browser], tmp_path_factory: pytest.TempPathFactory) -> Iterator[Browser]:
    """A browser that sees a table on which page after page is laid."""
    file = tmp_path_factory.mktemp("film") / "table.mjpeg"
    film(file, notices(PAGES), View(size_px=(1280, 720), fills=0.9, lean=(6.0, 3.0), turned_deg=1.0), still_s=4.0)
    made = chromium("--use-fake-device-for-media-stream", f"--use-file-for-fake-video-capture={file}")
    yield made
    made.close()


@contextmanager
def at_table(table: Browser, live: Live, *, leave: bool = True, noisy: bool = False) -> Iterator[Page]:
    with watched(table, live, noisy=noisy) as page:
        if leave:
            page.context.grant_permissions(["camera"])
        sign_in(page)
        yield page


def choose_camera(page: Page) -> None:
    page.get_by_role("button", name="Camera at the table").click()


def says(page: Page, words: str) -> None:
    expect(page.get_by_test_id("camera-says")).to_contain_text(words, timeout=60_000)


def new_stack(live: Live, name: str) -> int:
    number: int = live.call("POST", "/api/v1/stacks", {"name": name})["id"]
    return number


def test_five_pages_without_a_touch(table: Browser, live: Live):
    with at_table(table, live) as page:
        page.goto("/new")
        choose_camera(page)
        # The first of them begins the stack; the camera stays open while it gets its address.
        expect(page.get_by_test_id("camera-count")).to_contain_text(f"{PAGES} pictures", timeout=120_000)
        number = int(page.url.split("/stacks/")[1].split("/")[0])
        page.get_by_role("button", name="Close the camera").click()
        expect(page.get_by_test_id("camera-says")).to_have_count(0)
        until(lambda: len(live.pages(number)) >= PAGES, 30, "five pages")
        until(lambda: live.settled(number), 120, "them to be worked through")
        pages = live.pages(number)[:PAGES]
        assert [row["source"] for row in pages] == [f"page {count:03}.png" for count in range(1, PAGES + 1)]
        assert {row["origin"] for row in pages} == {"camera"}
        # Judged as photographs are, cut out of the table, made flat.
        assert all(row["faults"] is not None for row in pages)
        assert all("cut-off" not in {fault["check"] for fault in row["faults"]} for row in pages)


def test_by_hand_and_what_cannot_be_sent_is_kept(table: Browser, live: Live):
    number = new_stack(live, "Table, by hand")
    with at_table(table, live, noisy=True) as page:
        page.goto(f"/stacks/{number}/intake")
        choose_camera(page)
        page.get_by_role("button", name="By itself").click()
        says(page, "It lies well. Capture it.")
        page.keyboard.press("t")
        page.route("**/api/v1/stacks/*/uploads", lambda route: route.abort())
        page.keyboard.press("c")
        expect(page.get_by_role("alert").filter(has_text="1 picture could not be sent")).to_be_visible(timeout=30_000)
        assert live.pages(number) == []
        page.unroute("**/api/v1/stacks/*/uploads")
        page.get_by_role("button", name="Send again").click()
        until(lambda: len(live.pages(number)) == 1, 30, "the picture")
        until(lambda: live.settled(number), 60, "it to be worked through")
        (row,) = live.pages(number)
        # Upright as it was seen: the view was turned by a quarter.
        assert row["original_px"][0] < row["original_px"][1]
        expect(page.get_by_test_id("camera-count")).to_contain_text("1 picture")
        for scheme in ("light", "dark"):
            page.emulate_media(color_scheme=scheme)
            assert Axe().run(page).response["violations"] == []
        # The camera is pulled out.
        page.evaluate("document.querySelector('video').srcObject.getVideoTracks()[0].dispatchEvent(new Event('ended'))")
        expect(page.get_by_text("The camera was taken away.")).to_be_visible()
        page.get_by_role("button", name="Open the camera again").click()
        says(page, "Capture it.")


def test_one_picture_takes_the_place_of_a_page(table: Browser, live: Live, chosen: list[Path]):
    number = live.take_in("Table, again", chosen[:2])
    until(lambda: live.settled(number), 90, "the pages to be worked through")
    first, second = (row["id"] for row in live.pages(number))
    with at_table(table, live) as page:
        page.goto(f"/stacks/{number}/intake")
        choose_camera(page)
        page.get_by_role("button", name="By itself").click()
        says(page, "It lies well.")
        page.get_by_role("combobox", name="Goes in").click()
        page.get_by_role("option", name="in place of page 1").click()
        page.keyboard.press("c")
        until(lambda: live.pages(number)[0]["source"].startswith("page 001."), 30, "the picture in its place")
        assert [row["id"] for row in live.pages(number)] == [first, second]
        expect(page.get_by_role("combobox", name="Goes in")).to_contain_text("at the end")


def test_no_camera_says_why_and_what_to_do(table: Browser, browser: Browser, live: Live):
    with at_table(table, live, leave=False) as page:
        page.goto("/new")
        choose_camera(page)
        expect(page.get_by_role("alert")).to_contain_text("was not given leave to use the camera")
    with watched(browser, live) as page:
        sign_in(page)
        page.goto("/new")
        page.context.grant_permissions(["camera"])
        choose_camera(page)
        expect(page.get_by_role("alert")).to_contain_text("This machine has no camera.")
        page.get_by_role("button", name="Close the camera").click()
        page.add_init_script("Object.defineProperty(navigator, 'mediaDevices', { value: undefined })")
        page.reload()
        choose_camera(page)
        expect(page.get_by_role("alert")).to_contain_text("secure addresses only (https)")
