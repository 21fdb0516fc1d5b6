"""The screenshots in docs/screenshots, taken anew from the demo's data: ``make shots``."""

import sys
import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tests.browser.conftest import FLAGS
from tests.live import PASSWORD, USER, Live, until

ROOT = Path(__file__).resolve().parents[1]
SHOTS, DEMO = ROOT / "docs" / "screenshots", ROOT / "demo" / "skerry-light"


def main() -> None:
    SHOTS.mkdir(exist_ok=True)
    live = Live(Path(tempfile.mkdtemp(prefix="hollowstack-shots-")))
    files = sorted(file for file in DEMO.iterdir() if not file.name.startswith("."))
    try:
        live.take_in("Watch logs, June 1927", [file for file in files if file.name.startswith("02")])
        stack = live.take_in("Skerry Light papers, box 27", files)
        until(lambda: live.settled(stack), 300, "the stack to be finished")
        live.call("POST", f"/api/stacks/{stack}/documents", {"title": "Skerry Light papers, box 27"})
        until(lambda: live.call("GET", f"/api/stacks/{stack}/documents")[0]["state"] == "bound", 60, "the document")
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=live.address)

            def shoot(name: str) -> None:
                page.wait_for_timeout(1200)
                page.screenshot(path=SHOTS / f"{name}.png")

            page.goto("/")
            page.get_by_label("Password").wait_for()
            shoot("sign-in")
            page.get_by_label("Name").fill(USER)
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.get_by_role("link", name="New stack").wait_for()
            shoot("shelf")
            page.goto("/new")
            page.get_by_label("Files", exact=True).set_input_files(files)
            page.get_by_label("Name of the stack").fill("Skerry Light papers, box 28")
            shoot("new-stack")
            page.goto(f"/stacks/{stack}")
            page.get_by_role("list", name="Pages").wait_for()
            shoot("stack")
            page.keyboard.press("o")
            shoot("stack-original")
            page.keyboard.press("o")
            page.get_by_role("list", name="Pages").get_by_role("button").nth(8).click()
            page.keyboard.press("Enter")
            shoot("page")
            page.keyboard.press("1")
            shoot("page-1-to-1")
            page.goto(f"/stacks/{stack}/bind")
            page.get_by_role("link", name="Download").wait_for()
            shoot("bind")
            browser.close()
    finally:
        live.stop()


if __name__ == "__main__":
    main()
