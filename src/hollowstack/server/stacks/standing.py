"""Where pages stand, kept in their rows: derived by the database from which of the named results there are."""

from django.db.models import Case, Exists, OuterRef, Q, QuerySet, Value, When

from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page

WAITING = (Page.State.OPEN, Page.State.MEASURE, Page.State.CORRECT, Page.State.READ)
"""States of a page that is still to be worked on."""
NAMED = {"expand": "opened_id", "measure": "measured_id", "render": "rendered_id", "read": "reading_id"}
"""The field of a page that names a step's result."""
STEP_OF = dict(zip(WAITING, NAMED, strict=True))
"""The step that a waiting page waits for."""


def _is(name: str, *states: Result.State) -> Exists:
    return Exists(Result.objects.filter(key=OuterRef(f"{name}_id"), state__in=states))


def _made(name: str) -> Exists:
    return _is(name, Result.State.MADE)


def _failed(name: str) -> Exists:
    return _is(name, Result.State.FAILED)


def _over(name: str) -> Exists:
    return _is(name, Result.State.MADE, Result.State.FAILED)


def settle(pages: QuerySet[Page]) -> None:
    """Bring the state of pages up to date, after what they name or what there is has changed; in the same transaction."""
    planned = Q(to_plan=False)
    pages.order_by().update(
        state=Case(
            When(_failed("opened"), then=Value(Page.State.FAILED)),
            When(Q(measured_id__isnull=True) | ~_made("opened"), then=Value(Page.State.OPEN)),
            When(_failed("measured"), then=Value(Page.State.FAILED)),
            When(~_made("measured"), then=Value(Page.State.MEASURE)),
            When(planned & (_failed("rendered") | _failed("reading")), then=Value(Page.State.FAILED)),
            When(~planned | ~_made("rendered"), then=Value(Page.State.CORRECT)),
            When(~Q(aside=""), then=Value(Page.State.ASIDE)),
            # Without a reading named it is not to be read now.
            When(Q(reading_id__isnull=True) | _made("reading"), then=Value(Page.State.READY)),
            default=Value(Page.State.READ),
        ),
        passed=Case(
            When(Q(measured_id__isnull=True) | ~_over("opened"), then=Value(0)),
            When(~_over("measured"), then=Value(1)),
            When(~planned | ~_over("rendered"), then=Value(2)),
            When(~_over("reading"), then=Value(3)),
            default=Value(4),
        ),
    )
