"""Where pages stand, kept in their rows: told by which of the named results there are."""

from collections.abc import Mapping
from typing import NamedTuple

from django.db.models import QuerySet

from hollowstack.server.results.models import Result
from hollowstack.server.stacks.bulk import save_pages
from hollowstack.server.stacks.models import Page

WAITING = (Page.State.OPEN, Page.State.MEASURE, Page.State.CORRECT, Page.State.READ)
"""States of a page that is still to be worked on."""
NAMED = {"expand": "opened_id", "measure": "measured_id", "render": "rendered_id", "read": "reading_id"}
"""The field of a page that names a step's result."""
STEP_OF = dict(zip(WAITING, NAMED, strict=True))
"""The step that a waiting page waits for."""
_AT_ONCE = 2000
"""Pages whose results are asked for in one question: four times as many keys, and SQLite takes 32,766."""
_OVER = (Result.State.MADE, Result.State.FAILED)


class Named(NamedTuple):
    """What a page names, and what else says where it stands."""

    opened: str | None
    measured: str | None
    rendered: str | None
    reading: str | None
    """Null where it is not to be read now."""
    aside: str = ""
    to_plan: bool = False


def stand(page: Named, results: Mapping[str | None, str]) -> tuple[Page.State, int]:
    """Where a page stands, and how many steps have been made of it or have failed for good.

    Args:
        page: What it names.
        results: The states of results that are made or have failed for good, by their keys.
    """
    opened, measured, rendered, reading = (results.get(key) for key in page[:4])
    made, failed = Result.State.MADE, Result.State.FAILED
    state = next(
        state
        for state, holds in (
            (Page.State.FAILED, opened == failed),
            (Page.State.OPEN, page.measured is None or opened != made),
            (Page.State.FAILED, measured == failed),
            (Page.State.MEASURE, measured != made),
            (Page.State.FAILED, not page.to_plan and failed in (rendered, reading)),
            (Page.State.CORRECT, page.to_plan or rendered != made),
            (Page.State.ASIDE, page.aside != ""),
            (Page.State.READY, page.reading is None or reading == made),
            (Page.State.READ, True),
        )
        if holds
    )
    steps = (page.measured is not None and opened, measured, not page.to_plan and rendered, reading)
    return state, next((number for number, over in enumerate(steps) if not over), len(steps))


def settle(pages: QuerySet[Page]) -> None:
    """Bring the state of pages up to date, after what they name or what there is has changed; in the same transaction."""
    rows = list(pages.order_by().values_list("pk", "state", "passed", *NAMED.values(), "aside", "to_plan"))
    for first in range(0, len(rows), _AT_ONCE):
        some = rows[first : first + _AT_ONCE]
        keys = {key for row in some for key in row[3:7] if key}
        over = Result.objects.filter(key__in=keys, state__in=_OVER)
        results: dict[str | None, str] = dict(over.values_list("key", "state"))
        changed = []
        for pk, was, had, *named in some:
            state, passed = stand(Named(*named), results)
            if (state, passed) != (was, had):
                changed.append(Page(pk=pk, state=state, passed=passed))
        if changed:
            save_pages(changed, ["state", "passed"])
