"""A stack of 2,000 pages in the browser: how long it takes to open, how smoothly it scrolls, how long a move of 500 takes,
and setting something on all of them.

The pages' results are made up and lie in the database as if the engine had made them; server, database and browser are the real ones.
"""

import argparse
import os
import statistics
import sys
import tempfile
import time
from pathlib import Path

from playwright.sync_api import sync_playwright

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
DATA = Path(tempfile.mkdtemp(prefix="hollowstack-arrange-"))
os.environ.update(HOLLOWSTACK_DATA=str(DATA), DJANGO_SETTINGS_MODULE="hollowstack.server.config.settings")

import django

django.setup()

from django.core.management import call_command
from PIL import Image, ImageDraw

from benchmarks.load import frames
from hollowstack.core.measure import Measurements
from hollowstack.core.run.keys import expand_key, measure_key
from hollowstack.core.run.steps import THUMB
from hollowstack.server.intake import batches
from hollowstack.server.results.models import Result
from hollowstack.server.stacks import planning, services
from hollowstack.server.stacks.models import Master, Page, Source, Stack
from hollowstack.server.stacks.standing import settle
from hollowstack.server.storage import places
from tests.browser.conftest import FLAGS
from tests.live import Live, looking
from tests.server.conftest import CLEAN, MEASURED, READ


def made_up(count: int) -> Stack:
    """A stack whose pages have all been worked through."""
    call_command("migrate", verbosity=0)
    stack = services.create_stack("Two thousand", None)
    batch = batches.open_batch(stack.pk, None)
    found = Measurements.model_validate(MEASURED)
    treatment = services.treatment_of(stack)
    names = [f"{number + 1:064x}" for number in range(count)]
    Master.objects.bulk_create(Master(sha256=name, bytes=1000) for name in names)
    Source.objects.bulk_create(
        Source(stack=stack, batch=batch, index=n, master_id=name, name=f"page {n + 1:04d}.jpg")
        for n, name in enumerate(names)
    )
    pages = [
        Page(
            stack=stack,
            source=source,
            position=source.index << 20,
            opened_id=expand_key(source.master_id),
            measured_id=measure_key(source.master_id, 0),
        )
        for source in Source.objects.filter(batch=batch).select_related("stack")
    ]
    results = []
    for page in pages:
        planning.plan(page, treatment, found)
        page.change = 1
        steps = {"expand": (page.opened_id, {"frames": 1}), "measure": (page.measured_id, {"measurements": MEASURED})}
        steps |= {"render": (page.rendered_id, CLEAN), "read": (page.reading_id, READ)}
        results += [Result(key=key, step=step, body=body) for step, (key, body) in steps.items()]
    Page.objects.bulk_create(pages)
    Result.objects.bulk_create(results)
    settle(stack.pages.all())
    Stack.objects.filter(pk=stack.pk).update(change=1, order_change=1)
    for number, page in enumerate(pages):
        for step, key in (("measure", page.measured_id), ("render", page.rendered_id)):
            folder = places.result_path(step, key)
            folder.mkdir(parents=True)
            _thumb(number).save(folder / THUMB, quality=80)
    return stack


def _thumb(number: int) -> Image.Image:
    image = Image.new("L", (260, 364), 248)
    pen = ImageDraw.Draw(image)
    for line in range(30):
        pen.line((24, 30 + line * 11, 60 + (number * 37 + line * 53) % 176, 30 + line * 11), fill=60, width=3)
    return image


def _change(live: Live, stack: Stack, doing: dict[str, object]) -> float:
    """Seconds until a change is saved."""
    now = live.call("GET", f"/api/v1/stacks/{stack.pk}/pages?since=1")
    start = time.perf_counter()
    live.call("POST", f"/api/v1/stacks/{stack.pk}/changes", {"seen": now["change"], "doing": doing})
    return time.perf_counter() - start


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--pages", type=int, default=2000)
    parser.add_argument("--times", type=int, default=5)
    words = parser.parse_args()
    stack = made_up(words.pages)
    live = Live(DATA)
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = looking(browser, live)
            opened = []
            for _ in range(words.times + 1):
                page.goto("/")
                page.get_by_role("link", name="New stack").wait_for()
                start = time.perf_counter()
                page.goto(f"/stacks/{stack.pk}")
                page.wait_for_function(
                    "() => [...document.querySelectorAll('[role=listbox] img')].filter((one) => one.complete && one.naturalWidth).length >= 10"
                )
                opened.append(time.perf_counter() - start)
            print(
                f"{words.pages} pages: opened first in {opened[0]:.2f} s, then in {statistics.median(opened[1:]):.2f} s (limit 1.5), slowest {max(opened[1:]):.2f} s"
            )
            for size in ("S", "M", "L"):
                page.get_by_role("button", name="Layout").click()
                page.get_by_role("radio", name=size, exact=True).click()
                page.keyboard.press("Escape")
                page.wait_for_timeout(600)
                print(f"scrolling, size {size}: {frames(page)} (limit 50 frames a second)")
            moves = []
            for number in range(words.times):
                order = live.call("GET", f"/api/v1/stacks/{stack.pk}/pages")["order"]
                doing = {"do": "move", "pages": order[100 + number : 600 + number], "after": order[-1 - number]}
                moves.append(_change(live, stack, doing))
            print(
                f"a move of 500 pages saved in {1000 * statistics.median(moves):.0f} ms, slowest {1000 * max(moves):.0f} ms (limit 300 ms)"
            )
            browser.close()
        everyone = live.call("GET", f"/api/v1/stacks/{stack.pk}/pages")["order"]
        tone = {"do": "correct", "pages": everyone, "correction": {"adjust": {"gamma": 1.2}}}
        print(f"tone set on {len(everyone)} pages in {_change(live, stack, tone):.2f} s", end=", ")
        print(f"another treatment for them in {_change(live, stack, {'do': 'treat', 'treatment': 'bound volume'}):.2f} s")
    finally:
        live.stop()


if __name__ == "__main__":
    main()
