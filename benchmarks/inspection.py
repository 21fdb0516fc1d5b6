"""Inspecting 2,000 pages with a finding on each: how long each question takes that its views ask.

Pages and findings are made up and lie where the engine would have put them; server and database are the real ones.
"""

import argparse
import time
from collections.abc import Callable
from typing import Any

from benchmarks.arrange import DATA, made_up
from benchmarks.asking import asked_for
from hollowstack.server.inspection.checking import check_some, count_open
from hollowstack.server.inspection.models import Finding, PageFacts
from hollowstack.server.stacks.models import Stack
from tests.live import Live

LIMIT_MS = 150.0
_STARTS = 12.0
"""Seconds in which the engine has started, which keeps the machine busy."""
_KINDS = ("streak", "sharpness", "orientation")


def found(stack: Stack) -> None:
    """A finding on every page, as checking keeps them; pages are not checked again, which would take what is made up away."""
    while check_some():
        pass
    pages = list(stack.pages.values_list("pk", flat=True))
    stack.findings.all().delete()
    Finding.objects.bulk_create(
        Finding(
            stack=stack, page_id=page, kind=_KINDS[number % 3], verdict="review", value=0.4, limit=1.0,
            message="Something is worth a look here: look at it.", spot=[10, 10, 50, 50], judged=f"{number:064x}",
        )
        for number, page in enumerate(pages)
    )  # fmt: skip
    count_open(pages)
    PageFacts.objects.filter(page__in=pages).update(checked=1 << 60)


def main() -> None:
    """Print how long each question takes: median and the slowest of twenty."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--pages", type=int, default=2000)
    parser.add_argument("--questions", type=int, default=40)
    given = parser.parse_args()
    stack = made_up(given.pages)
    found(stack)
    live = Live(DATA)
    try:
        time.sleep(_STARTS)
        _timed(live, stack.pk, given.questions)
    finally:
        live.stop()


def _timed(live: Live, stack: int, count: int) -> None:
    base = f"/api/v1/stacks/{stack}"
    rows: list[dict[str, Any]] = live.call("GET", f"{base}/findings")
    named = [{name: row[name] for name in ("page", "kind", "judged")} for row in rows]

    def judge(first: int, many: int = 1) -> Any:
        doing = {"do": "judge", "findings": named[first : first + many], "fine": True}
        return live.call("POST", f"{base}/changes", {"seen": 1 << 40, "doing": doing})

    asked: dict[str, Callable[[int], Any]] = {
        "all findings": lambda _: live.call("GET", f"{base}/findings"),
        "one found fine": judge,
        "the plan of a sample": lambda _: live.call("GET", f"{base}/plan"),
        "samples and signatures": lambda _: live.call("GET", f"{base}/signing"),
    }
    reached = asked_for(asked, count, LIMIT_MS)
    for first in range(count + 1, len(named), 1_000):
        judge(first, 1_000)
    sample = live.call("POST", f"{base}/samples", {"level": "II", "aql": "2.5"})
    clean = {page["id"]: page["clean"] for page in live.pages(stack)}

    def look(number: int) -> Any:
        page = sample["pages"][number]
        said = {"worst": "", "note": "", "seen": clean[page]}
        return live.call("PUT", f"/api/v1/samples/{sample['id']}/looks/{page}", said)

    more: dict[str, Callable[[int], Any]] = {
        "a page of the sample found good": look,
        "the sample while it is gone through": lambda _: live.call("GET", f"{base}/signing"),
    }
    reached += asked_for(more, count, LIMIT_MS)
    print(f"{reached} of {len(asked) + len(more)} reached")


if __name__ == "__main__":
    main()
