"""Part of ``make bench``: from a key on the bench to the picture on the screen, in milliseconds, on pages of the demo."""

import sys
import tempfile
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tests.browser.conftest import FLAGS
from tests.live import Live, looking, until

DEMO = Path(__file__).resolve().parents[1] / "demo" / "skerry-light"
FILES = ["01 letter 1a.jpg", "02 log 157.jpg", "05 report on the lantern.tif"]
LIMIT_MS = 150
CHANGES = 40
WATCH = """() => {
    const image = document.querySelector('section[aria-label=Corrected] img');
    const start = performance.now();
    window.shownAfter = null;
    const observer = new MutationObserver(() => {
        observer.disconnect();
        image.decode().then(() => requestAnimationFrame(() => { window.shownAfter = performance.now() - start; }));
    });
    observer.observe(image, { attributes: true, attributeFilter: ['src'] });
}"""


def timed(page: Page) -> list[float]:
    """Milliseconds from each of some nudges of the tilt to the page as it is then."""
    took: list[float] = []
    for number in range(CHANGES):
        page.evaluate(WATCH)
        page.keyboard.press("ArrowRight" if number % 8 < 4 else "ArrowLeft")
        until(lambda: page.evaluate("() => window.shownAfter") is not None, 5, "the preview")
        took.append(page.evaluate("() => window.shownAfter"))
    return sorted(took)


def main() -> None:
    live = Live(Path(tempfile.mkdtemp(prefix="hollowstack-bench-")))
    try:
        stack = live.take_in("Preview", [DEMO / name for name in FILES])
        until(lambda: live.settled(stack), 120, "the pages to be finished")
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = looking(browser, live)
            for row, name in zip(live.pages(stack), FILES, strict=False):
                page.goto(f"/stacks/{stack}/bench/{row['id']}")
                page.get_by_test_id("tilt").wait_for()
                page.wait_for_timeout(1500)
                page.keyboard.press("t")
                page.keyboard.press("ArrowRight")
                page.wait_for_timeout(300)
                took = timed(page)
                p95 = took[int(0.95 * len(took)) - 1]
                verdict = "reached" if p95 <= LIMIT_MS else "NOT YET"
                middle = took[len(took) // 2]
                print(
                    f"{verdict:8} preview of {name:32} median {middle:4.0f} ms, 95 % within {p95:4.0f} ms   limit: {LIMIT_MS} ms"
                )
            browser.close()
    finally:
        live.stop()


if __name__ == "__main__":
    main()
