"""A stack of thousands of pages as the server would tell it, laid over a real one: nothing is worked on for it."""

import json
from typing import Any

from playwright.sync_api import Page, Route

from tests.live import Live


def many_pages(page: Page, live: Live, stack: int, count: int) -> None:
    """Answer for the pages of a stack with so many rows, each a copy of one of its own."""
    own = live.call("GET", f"/api/v1/stacks/{stack}/pages?since=0")
    rows = [_row(own["pages"][at % len(own["pages"])], at) for at in range(count)]
    told = {**own, "order": [row["id"] for row in rows], "pages": rows, "counts": _counts(own["counts"], count)}
    body = json.dumps(told)
    unchanged = json.dumps({**told, "order": None, "pages": []})

    def answer(route: Route) -> None:
        route.fulfill(content_type="application/json", body=body if route.request.url.endswith("since=0") else unchanged)

    page.route(f"**/stacks/{stack}/pages?since=*", answer)
    page.route("**/api/v1/pages/*", lambda route: route.fulfill(content_type="application/json", body=_known(live, own)))


def _row(row: dict[str, Any], at: int) -> dict[str, Any]:
    return {**row, "id": 1_000_000 + at, "source": f"leaf {at + 1:04}.jpg", "skew_deg": (at % 40) / 20 - 1}


def _counts(counts: dict[str, int], count: int) -> dict[str, int]:
    return {name: count if name in ("pages", "opened", "measured", "corrected", "read", "ready") else 0 for name in counts}


def _known(live: Live, own: dict[str, Any]) -> str:
    return json.dumps(live.call("GET", f"/api/v1/pages/{own['pages'][0]['id']}"))
