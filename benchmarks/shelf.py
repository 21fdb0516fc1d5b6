"""The shelf with 5,000 stacks: how long its parts take over HTTP, and how long until it stands on screen.

Stacks lie where the engine would have put them; server, database and browser are the real ones.
"""

import argparse
import statistics
import sys
from pathlib import Path

from playwright.sync_api import Page as Tab
from playwright.sync_api import sync_playwright

from benchmarks.queries import DATA, fill

# Behind the line above, which names the data folder and starts Django.
from django.core.management import call_command  # isort: skip
from django.db.models import F  # isort: skip
from django.utils import timezone  # isort: skip

from benchmarks.asking import asked_for
from benchmarks.checked import all_checked
from hollowstack.core.run.keys import versions
from hollowstack.server.collections import tree
from hollowstack.server.engine.models import Heartbeat
from hollowstack.server.search.models import Indexed
from hollowstack.server.shelf.asking import SORTS, STATES
from hollowstack.server.stacks.models import Page, Stack
from tests.browser.conftest import FLAGS, sign_in
from tests.live import Live

PAGES, BOXES, TIMES = 4, 50, 20
LIMIT_MS = 1000.0
_STANDS = """() => {
    const first = document.querySelector('[data-place="0"]');
    return first !== null && first.textContent.trim() !== '';
}"""
_AT_END = '(place) => document.querySelector(`[data-place="${place}"]`) === document.activeElement'


def made_up(count: int) -> None:
    """So many stacks with names, filed in boxes."""
    call_command("migrate", verbosity=0)
    stacks = fill(count, PAGES, worked=True)
    top = tree.create(tree.Told("Skerry Light", "fonds"))
    boxes = [tree.create(tree.Told(f"Box {number}", "box", "", top.pk)) for number in range(1, BOXES + 1)]
    for number, stack in enumerate(stacks):
        stack.name, stack.collection = f"Papers of the keepers, part {number + 1}", boxes[number % BOXES]
    Stack.objects.bulk_update(stacks, ["name", "collection"], batch_size=500)
    # Or the engine would put all of it into the index, or plan it anew, while it is measured.
    Indexed.objects.bulk_create(Indexed(stack=stack, change=stack.change) for stack in Stack.objects.all())
    Page.objects.update(indexed=F("reading_id"))
    all_checked()
    Heartbeat.objects.update_or_create(pk=1, defaults={"beat_at": timezone.now(), "versions": versions()})


def main() -> int:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--stacks", type=int, default=5_000)
    given = parser.parse_args()
    made_up(given.stacks)
    live = Live(DATA)
    try:
        box = live.call("GET", "/api/v1/collections")[1]["id"]
        addresses = {
            **{f"first part, sorted: {sort}": f"/api/v1/stacks?sort={sort}" for sort in SORTS},
            **{f"first part, at: {at}": f"/api/v1/stacks?at={at}" for at in STATES},
            "far down": f"/api/v1/stacks?start={given.stacks - 120}",
            "a collection": f"/api/v1/stacks?collection={box}",
            "how many of each": "/api/v1/shelf",
            "the tree": "/api/v1/collections",
        }
        asked = {what: lambda _, address=address: live.call("GET", address) for what, address in addresses.items()}
        asked_for(asked, TIMES, LIMIT_MS)
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=live.address)
            page.set_default_timeout(60_000)
            page.goto("/")
            sign_in(page)
            shown = {"shelf stands, from nothing": opened, "its last stack, by key": at_end}
            for what, measure in shown.items():
                times = [measure(page, given.stacks) for _ in range(TIMES)]
                said = "reached" if (p95 := statistics.quantiles(times, n=20)[-1]) <= LIMIT_MS else "NOT YET"
                print(
                    f"{said:8} {what:36} median {statistics.median(times):6.1f} ms, p95 {p95:6.1f} ms   limit: {LIMIT_MS:.0f} ms"
                )
            browser.close()
    finally:
        live.stop()
    return 0


def opened(page: Tab, _count: int) -> float:
    """Milliseconds from asking for the page until its first stack is there."""
    page.goto("/", wait_until="commit")
    page.wait_for_function(_STANDS, polling="raf")
    return float(page.evaluate("() => performance.now()"))


def at_end(page: Tab, count: int) -> float:
    """Milliseconds from the key until the last stack has the keyboard; the demo's empty box is one more."""
    page.locator('[data-place="0"]').focus()
    start = float(page.evaluate("() => performance.now()"))
    page.keyboard.press("End")
    page.wait_for_function(_AT_END, arg=count, polling="raf")
    taken = float(page.evaluate("() => performance.now()")) - start
    page.keyboard.press("Home")
    page.wait_for_function(_AT_END, arg=0, polling="raf")
    return taken


if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
    sys.exit(main())
