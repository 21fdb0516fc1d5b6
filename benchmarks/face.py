"""The interface: what the first view weighs, what uploads and keys take of the main thread, how soon the next page is seen.

``make bench`` prints it. Pages of a stack of thousands, and the server's part of uploads, are answered for by the test.
"""

import gzip
import json
import math
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import CDPSession, Page, Request, Response, Route, sync_playwright

from tests.browser.conftest import FLAGS, sign_in
from tests.browser.hands import cells
from tests.browser.many import many_pages
from tests.live import Live, until

SKERRY = Path(__file__).resolve().parents[1] / "demo" / "skerry-light"
FILES, PAGES, STEPS, SHOWN = 2000, 2000, 120, 20
MOST = {"first view": 150.0, "upload": 20.0, "arrow key": 16.0, "next page": 100.0}
_SEEN = """(number) => new Promise((resolve) => {
    const look = () => {
        const image = document.querySelector(`img[alt^="Page ${number}"]`);
        if (image && image.complete && image.naturalWidth > 0) resolve(performance.now() - (window.pressedAt ?? 0));
        else requestAnimationFrame(look);
    };
    look();
})"""
"""Milliseconds from the last key until the picture of a page stands on screen."""
_PRESSED = "window.addEventListener('keydown', () => { window.pressedAt = performance.now(); }, true)"


def main() -> int:
    live = Live(Path(tempfile.mkdtemp(prefix="hollowstack-face-")) / "data")
    rows: list[tuple[str, float, str, float]] = []
    try:
        files = sorted(file for file in SKERRY.iterdir() if file.name.startswith(("01", "02")))
        stack = live.take_in("Letters and logs", files)
        until(lambda: live.settled(stack), 300, "the pages to be finished")
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=live.address)
            page.set_default_timeout(60_000)
            line = page.context.new_cdp_session(page)
            line.send("Performance.enable")
            for view, kilobytes in first_views(page, stack).items():
                rows.append((f"{view}, scripts and styles, gzip", kilobytes, "kB", MOST["first view"]))
            for place in ("pages", "bench"):
                rows.append((f"next page shown, {place}, p95", next_page(page, live, stack, place), "ms", MOST["next page"]))
            rows.append((f"main thread a file, of {FILES} uploads", uploads(page, line, stack), "ms", MOST["upload"]))
            rows.append((f"script an arrow key, {PAGES} pages", arrow_key(page, line, live, stack), "ms", MOST["arrow key"]))
            browser.close()
    finally:
        live.stop()
    for what, value, unit, most in rows:
        print(f"{what:48} {value:8.1f} {unit:3} (at most {most:g})")
    return 0


def first_views(page: Page, stack: int) -> dict[str, float]:
    """Kilobytes of script and style, as they travel, until each view stands."""
    taken: list[Response] = []
    page.on("response", lambda one: taken.append(one))

    def weighed(go: Callable[[], object]) -> float:
        taken.clear()
        go()
        page.wait_for_timeout(1500)
        kinds = (one for one in taken if one.request.resource_type in ("script", "stylesheet"))
        return sum(len(gzip.compress(one.body())) for one in kinds) / 1000

    door = weighed(lambda: page.goto("/"))
    sign_in(page)
    return {"door": door, "shelf": weighed(lambda: page.reload()), "stack": weighed(lambda: page.goto(f"/stacks/{stack}"))}


def next_page(page: Page, live: Live, stack: int, place: str) -> float:
    """How long after the key the next page stands on screen, as nineteen of twenty times or better."""
    rows = live.pages(stack)
    page.goto(f"/stacks/{stack}/{place}/{rows[0]['id']}")
    page.evaluate(_PRESSED)
    page.evaluate(_SEEN, 1)
    took = []
    for number in range(2, min(SHOWN, len(rows)) + 1):
        page.wait_for_timeout(900)  # whoever looks at a page looks that long
        page.keyboard.press("ArrowRight")
        took.append(page.evaluate(_SEEN, number))
    return sorted(took)[math.ceil(0.95 * len(took)) - 1]


def uploads(page: Page, line: CDPSession, stack: int) -> float:
    """Main thread time in ms for each of thousands of files, the server answered for."""
    announced: list[dict[str, object]] = []

    def announce(route: Route) -> None:
        if route.request.method == "GET":
            return route.fulfill(content_type="application/json", body="[]")
        wanted = json.loads(route.request.post_data or "{}")["files"]
        announced.extend(
            {**file, "id": at, "batch": 1, "index": at, "received": 0} for at, file in enumerate(wanted, len(announced))
        )
        return route.fulfill(status=201, content_type="application/json", body=json.dumps(announced))

    def piece(route: Route) -> None:
        route.fulfill(**_tus(route.request, announced))  # type: ignore[arg-type]

    page.route(f"**/stacks/{stack}/uploads", announce)
    page.route("**/api/v1/uploads/*", piece)
    page.route(
        "**/take-in?*",
        lambda route: route.fulfill(status=201, content_type="application/json", body='{"pages": [1], "left_out": []}'),
    )
    page.goto(f"/stacks/{stack}/intake")
    page.get_by_role("region", name="Order slip").wait_for()
    folder = Path(tempfile.mkdtemp(prefix="hollowstack-files-"))
    for number in range(FILES):
        (folder / f"leaf {number:04}.jpg").write_bytes(b"\xff\xd8\xff" + bytes(64))
    before = _busy(line)
    page.locator("input[aria-label='Folder']").first.set_input_files(folder)
    page.get_by_text(f"{FILES}/{FILES}").wait_for(timeout=600_000)
    took = _busy(line) - before
    page.unroute_all(behavior="ignoreErrors")
    return 1000 * took / FILES


def _tus(request: Request, announced: list[dict[str, object]]) -> dict[str, object]:
    size = str(announced[int(request.url.rsplit("/", 1)[1])]["bytes"])
    told = {"Tus-Resumable": "1.0.0", "Upload-Length": size}
    if request.method == "HEAD":
        return {"status": 200, "headers": {**told, "Upload-Offset": "0", "Cache-Control": "no-store"}}
    return {"status": 204, "headers": {**told, "Upload-Offset": size}}


def arrow_key(page: Page, line: CDPSession, live: Live, stack: int) -> float:
    """Script time in ms for an arrow key in a grid of thousands."""
    many_pages(page, live, stack, PAGES)
    page.goto(f"/stacks/{stack}")
    cells(page).first.wait_for()
    page.wait_for_timeout(1500)
    before = _metric(line, "ScriptDuration")
    for _ in range(STEPS):
        page.keyboard.press("ArrowRight")
        page.wait_for_timeout(20)
    return 1000 * (_metric(line, "ScriptDuration") - before) / STEPS


def _busy(line: CDPSession) -> float:
    return _metric(line, "TaskDuration")


def _metric(line: CDPSession, name: str) -> float:
    return float(next(one["value"] for one in line.send("Performance.getMetrics")["metrics"] if one["name"] == name))


if __name__ == "__main__":
    sys.exit(main())
