"""Inspection over HTTP: what is worth a look in a stack, with the verdicts that were given on it."""

from datetime import datetime
from typing import Literal, NamedTuple, cast

from django.db.models import F, QuerySet
from django.http import HttpResponse
from pydantic import BaseModel, TypeAdapter

from hollowstack.core.check.finding import Check
from hollowstack.core.check.kinds import KINDS, Remedy, Tool
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.inspection.judging import Judged, verdicts_of
from hollowstack.server.inspection.models import Finding
from hollowstack.server.stacks.models import Stack, Verdict

router = Router(tags=["inspection"])
Spot = tuple[int, int, int, int]
"""Left, top, width, height in pixels."""


class VerdictOut(BaseModel):
    """Who found something fine as it is, and when."""

    by: str
    at: datetime


class FindingOut(BaseModel):
    """Something worth a look."""

    page: int | None
    """Where it shows; null where it concerns the stack."""
    kind: str
    """The name of the check."""
    judged: str
    """Names what it judges: a verdict is given on that."""
    title: str
    message: str
    verdict: Literal["review", "fail"]
    value: float | None
    limit: float | None
    spot: Spot | None
    """On the image as captured; null where it is the whole page."""
    clean_spot: Spot | None
    """On the corrected page."""
    remedy: Remedy
    """What it would take."""
    tool: Tool
    """Of the bench, where that is the remedy."""
    together: bool
    """Whether it shows only among its fellows."""
    fine: VerdictOut | None
    """Null while nobody has found it fine."""


_LIST = TypeAdapter(list[FindingOut])


@router.get("/stacks/{int:stack_id}/findings", response={200: list[FindingOut], 404: Problem})
def list_findings(request: Request, stack_id: int) -> HttpResponse:
    """What is worth a look in a stack, in the order of its pages; what concerns the whole stack comes first."""
    stack = Stack.objects.get(pk=stack_id)
    rows = stack.findings.filter(page__removed=False) | stack.findings.filter(page=None)
    given = verdicts_of(stack)
    told = (_Row(*row) for row in _in_order(rows).values_list(*_Row._fields))
    found = [_out(row, given.get(Judged(row.page_id, row.kind, row.judged))) for row in told]
    # Thousands of rows: written down as they are, not checked against the schema a second time.
    return HttpResponse(_LIST.dump_json(found), content_type="application/json; charset=utf-8")


class _Row(NamedTuple):
    """What is told of a finding: of thousands, no objects are made."""

    page_id: int | None
    kind: str
    judged: str
    message: str
    verdict: str
    value: float | None
    limit: float | None
    spot: list[int] | None
    clean_spot: list[int] | None
    together: bool


def _in_order(rows: QuerySet[Finding]) -> QuerySet[Finding]:
    first = F("page__position").asc(nulls_first=True)
    return rows.order_by(first, "page_id", "together", "pk")


def _spot(kept: list[int] | None) -> Spot | None:
    if kept is None:
        return None
    left, top, wide, high = kept
    return left, top, wide, high


def _out(row: _Row, given: Verdict | None) -> FindingOut:
    kind = KINDS[cast("Check", row.kind)]
    return FindingOut.model_construct(
        page=row.page_id,
        kind=row.kind,
        judged=row.judged,
        title=kind.title,
        message=row.message,
        verdict="fail" if row.verdict == "fail" else "review",
        value=row.value,
        limit=row.limit,
        spot=_spot(row.spot),
        clean_spot=_spot(row.clean_spot),
        remedy=kind.remedy,
        tool=kind.tool,
        together=row.together,
        fine=VerdictOut(by=given.by.get_username() if given.by else "", at=given.at) if given else None,
    )
