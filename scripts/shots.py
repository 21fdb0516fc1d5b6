"""The screenshots in docs/screenshots, taken anew from the demo's data: ``make shots``."""

import re
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tests.browser.conftest import FLAGS
from tests.live import PASSWORD, USER, Live, until

ROOT = Path(__file__).resolve().parents[1]
SHOTS, DEMO = ROOT / "docs" / "screenshots", ROOT / "demo" / "skerry-light"
PHOTOGRAPHS = ROOT / "demo" / "photographs"


def main() -> None:
    SHOTS.mkdir(exist_ok=True)
    live = Live(Path(tempfile.mkdtemp(prefix="hollowstack-shots-")), stations=True)
    files = sorted(file for file in DEMO.iterdir() if not file.name.startswith("."))
    try:
        live.take_in("Watch logs, June 1927", [file for file in files if file.name.startswith("02")])
        stack = live.take_in("Skerry Light papers, box 27", files)
        until(lambda: live.settled(stack), 300, "the stack to be finished")
        live.call("POST", f"/api/v1/stacks/{stack}/documents", {"title": "Skerry Light papers, box 27"})
        until(lambda: live.call("GET", f"/api/v1/stacks/{stack}/documents")[0]["state"] == "bound", 60, "the document")
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=live.address)
            page.set_default_timeout(60_000)

            def shoot(name: str) -> None:
                page.wait_for_timeout(1200)
                page.screenshot(path=SHOTS / f"{name}.png")

            page.goto("/")
            page.get_by_label("Password").wait_for()
            shoot("sign-in")
            page.get_by_label("User name").fill(USER)
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.get_by_role("link", name="New stack").wait_for()
            shoot("shelf")
            page.goto("/people")
            page.get_by_role("button", name="Make a link").click()
            shoot("people")
            page.goto("/new")
            page.get_by_label("Files", exact=True).set_input_files(files)
            page.get_by_label("Name of the stack").fill("Skerry Light papers, box 28")
            shoot("new-stack")
            page.goto(f"/stacks/{stack}")
            page.get_by_role("list", name="Pages").wait_for()
            shoot("stack")
            page.get_by_role("list", name="Pages").get_by_role("button").nth(8).click()
            page.keyboard.press("Enter")
            shoot("page")
            page.goto(f"/stacks/{stack}/bind")
            page.get_by_role("link", name="Download").wait_for()
            shoot("bind")
            bench(live, page, stack, shoot)
            arrange(live, page, stack, shoot)
            intake(live, page, shoot)
            browser.close()
    finally:
        live.stop()


def bench(live: Live, page: Page, stack: int, shoot: Callable[[str], None]) -> None:
    """Original and corrected side by side; by curtain with the loupe; corners and tone; treatments."""
    log = live.pages(stack)[9]["id"]
    page.goto(f"/stacks/{stack}/bench/{log}")
    page.get_by_test_id("tilt").wait_for()
    shoot("bench")
    page.keyboard.press("c")
    page.keyboard.press("m")
    page.mouse.move(430, 330)
    shoot("bench-curtain")
    for key in ("m", "c", "c", "q"):
        page.keyboard.press(key)
    page.get_by_label("Strengthen faint text").fill("35")
    page.get_by_label("Brightness").fill("-20")
    shoot("bench-corners")
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^As planned")).click()
    storm = next(row["id"] for row in live.pages(stack) if row["source"].startswith("08"))
    page.goto(f"/stacks/{stack}/bench/{storm}")
    page.get_by_test_id("tilt").wait_for()
    page.keyboard.press("Shift+O")
    page.get_by_test_id("region").first.wait_for(state="attached")
    shoot("bench-regions")
    page.goto("/treatments/faint%20typescript")
    page.get_by_role("figure").first.get_by_role("img").wait_for()
    shoot("treatments")


def arrange(live: Live, page: Page, stack: int, shoot: Callable[[str], None]) -> None:
    """Pages chosen, with what can be done to them; facing pages with the history."""
    page.goto(f"/stacks/{stack}")
    page.get_by_role("list", name="Pages").get_by_role("button").first.wait_for()
    for key in ("h", "ArrowRight", "ArrowRight", "Shift+ArrowRight", "Shift+ArrowRight"):
        page.keyboard.press(key)
    shoot("arrange")
    for key in ("x", "End", "v", "Home", "k", "f", "f", "h", "h"):
        page.keyboard.press(key)
        page.wait_for_timeout(300)
    shoot("arrange-facing")
    page.keyboard.press("f")


def intake(live: Live, page: Page, shoot: Callable[[str], None]) -> None:
    """The glass with frames, a load that has jammed, and leaves before they are applied."""
    until(lambda: len(live.call("GET", "/api/v1/stations")) == 3, 60, "the stations")
    stack = live.call("POST", "/api/v1/stacks", {"name": "Register of stores, 1927"})["id"]
    live.control(0, load="photographs", speed=0)
    page.goto(f"/stacks/{stack}/intake")
    page.get_by_role("button", name="Look").click()
    page.get_by_role("button", name="Frame 2").focus()
    shoot("intake-glass")
    live.control(1, load="register-8", speed=0, jam_after=6)
    page.get_by_role("button", name="Feeder One").click()
    page.get_by_label("Sides").select_option("apart")
    page.get_by_label("Sheets").fill("8")
    page.get_by_role("button", name="Capture fronts").click()
    page.get_by_role("button", name="Go on G").wait_for()
    page.wait_for_timeout(4000)
    shoot("intake-load")
    live.control(1, clear=True)
    page.get_by_role("button", name="Go on G").click()
    page.get_by_role("button", name="Next load").wait_for()
    live.control(1, load="register-8", flipped=True, pick=list(range(7)))
    page.get_by_label("Sheets").fill("")
    page.get_by_role("button", name="Capture backs").click()
    page.get_by_role("listitem", name="Sheet 8").get_by_role("button", name="No back").click()
    until(lambda: live.counts(stack)["measured"] == 15, 120, "the pages to be measured")
    shoot("intake-leaves")
    files(live, page, shoot)


def files(live: Live, page: Page, shoot: Callable[[str], None]) -> None:
    """Photographs looked at as they arrive; fronts, of which one is marked as having no back."""
    stack = live.call("POST", "/api/v1/stacks", {"name": "Notices, photographed"})["id"]
    page.goto(f"/stacks/{stack}/intake")
    page.get_by_role("radio", name="Files").click()
    page.locator("input[aria-label='Files']").first.set_input_files(sorted(PHOTOGRAPHS.glob("*.jpg")))
    until(lambda: live.counts(stack)["measured"] == 4, 120, "the photographs to be measured")
    page.get_by_role("region", name="Verdict on notice 3").scroll_into_view_if_needed()
    shoot("intake-photographs")
    page.get_by_role("radio", name="Stations").click()
    stack = live.call("POST", "/api/v1/stacks", {"name": "Register of stores, 1928"})["id"]
    live.control(1, load="register-8", speed=0)
    page.goto(f"/stacks/{stack}/intake")
    page.get_by_role("button", name="Capture fronts").click()
    page.get_by_role("button", name="Next load").click()
    until(lambda: live.counts(stack)["measured"] == 8, 120, "the fronts to be measured")
    page.get_by_role("button", name="Sheet 8 has no back").click()
    shoot("intake-backs")


if __name__ == "__main__":
    main()
