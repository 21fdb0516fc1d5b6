"""``make load``: a stack of 500 pages taken in, worked through and bound while somebody looks at it.

The pages are the demo's, drawn with other seeds and captured again and again: other tilts, light and grain. Prints time a page, the memory of each
process early and late, and the browser's own frame times while it scrolls during the work.
"""

import argparse
import statistics
import tempfile
import time
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

import cv2
import numpy as np
import psutil
from PIL import Image
from playwright.sync_api import Page, sync_playwright

from hollowstack.standins.skerry.make import make
from tests.browser.conftest import FLAGS
from tests.live import Live, looking

SEEDS = 4
# Scrolls for three seconds and keeps the time between the browser's own frames.
SCROLL = """async () => {
  const list = document.querySelector('[role=listbox]').parentElement.parentElement;
  const times = []; let last = performance.now(); const end = last + 3000; let down = 1;
  while (performance.now() < end) {
    await new Promise(requestAnimationFrame);
    const now = performance.now(); times.push(now - last); last = now;
    list.scrollTop += 40 * down;
    if (list.scrollTop + list.clientHeight >= list.scrollHeight - 2) down = -1;
    if (list.scrollTop <= 0) down = 1;
  }
  return times;
}"""


def pages_in(folder: Path, count: int) -> list[Path]:
    """Files with about ``count`` pages: the demo drawn with a few seeds, and its sheets captured again and again."""
    drawn: list[Path] = []
    for seed in range(5000, 5000 + SEEDS):
        where = folder / str(seed)
        drawn += (
            sorted(p for p in where.iterdir() if p.name[0] != ".") if (where / ".truth.json").exists() else make(where, seed)
        )
    sheets = [path for path in drawn if path.suffix in {".jpg", ".png"} and not path.name.startswith("07")]
    again = [(path, folder / f"again-{n}" / f"{path.parent.name} {path.stem}.jpg", n) for n in range(99) for path in sheets]
    again = again[: count - 23 * SEEDS]
    with ProcessPoolExecutor(mp_context=get_context("spawn")) as pool:
        return drawn + list(pool.map(captured_again, again, chunksize=8))


def captured_again(task: tuple[Path, Path, int]) -> Path:
    """The same sheet put on the glass once more: other tilt, other light, other grain."""
    source, target, number = task
    if not target.exists():
        cv2.setNumThreads(1)
        rng = np.random.default_rng(number * 7919 + sum(source.name.encode()))
        with Image.open(source) as image:
            pixels = np.asarray(image.convert("RGB"))
        rows, cols = pixels.shape[:2]
        turn = cv2.getRotationMatrix2D((cols / 2, rows / 2), float(rng.uniform(-0.8, 0.8)), 1.0)
        turned = cv2.warpAffine(pixels, turn, (cols, rows), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
        lit = turned * rng.uniform(0.93, 1.03) + rng.normal(0, 1.5, (rows, cols, 1)).astype(np.float32)
        target.parent.mkdir(parents=True, exist_ok=True)
        Image.fromarray(np.clip(lit, 0, 255).astype(np.uint8)).save(target, quality=88, dpi=(300, 300))
    return target


def frames(page: Page) -> str:
    times = page.evaluate(SCROLL)
    return f"{1000 / statistics.mean(times):.0f} frames a second, 95 % within {sorted(times)[int(len(times) * 0.95)]:.0f} ms"


def memory(live: Live) -> dict[str, int]:
    """Resident megabytes by role."""
    engine = live.engine()
    roles = {
        "server": [psutil.Process(live.process.pid)],
        "engine": [engine] if engine else [],
        "cluster workers": live.cluster_workers(),
        "page workers": live.page_workers(),
    }
    return {role: sum(p.memory_info().rss for p in some) // 2**20 for role, some in roles.items()}


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--pages", type=int, default=500)
    parser.add_argument("--folder", type=Path, default=Path(tempfile.gettempdir()) / "hollowstack-load")
    words = parser.parse_args()
    files = pages_in(words.folder, words.pages)
    data = Path(tempfile.mkdtemp(prefix="hollowstack-load-data-"))
    live = Live(data)
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = looking(browser, live)
            start = time.monotonic()
            stack = live.take_in("Five hundred", files)
            print(f"taken in: {len(files)} files in {time.monotonic() - start:.0f} s", flush=True)
            page.goto(f"/stacks/{stack}")
            page.get_by_role("listbox", name="Pages").wait_for()
            told = 0
            while not live.settled(stack):
                time.sleep(5)
                counts = live.counts(stack)
                done = counts["measured"] + counts["corrected"] + counts["read"]
                if done >= told:
                    told = done + counts["pages"] // 2
                    print(f"{counts} {memory(live)} MB; {frames(page)}", flush=True)
            took = time.monotonic() - start
            counts = live.counts(stack)
            print(f"worked through: {counts} in {took:.0f} s, {took / counts['pages']:.2f} s a page; {memory(live)} MB")
            begin = time.monotonic()
            page.goto(f"/stacks/{stack}")
            page.get_by_role("option").first.wait_for()
            print(f"opened again in {time.monotonic() - begin:.2f} s; {frames(page)}")
            begin = time.monotonic()
            live.call("POST", f"/api/v1/stacks/{stack}/documents", {"title": "Five hundred"})
            while (document := live.call("GET", f"/api/v1/stacks/{stack}/documents")[0])["state"] == "binding":
                time.sleep(0.3)
            print(
                f"bound: {document['pages']} pages, {document['bytes'] / 1e6:.1f} MB, "
                f"{document['bytes'] / document['pages'] / 1000:.0f} kB a page, in {time.monotonic() - begin:.0f} s; {memory(live)} MB"
            )
            browser.close()
    finally:
        live.stop()


if __name__ == "__main__":
    main()
