"""Stacks as they lie on the shelf: what is in them, what lies on top, what waits for a person."""

from collections.abc import Sequence
from typing import NamedTuple

from django.db.models import Count, Max, Q

from hollowstack.core.settings.original import Original
from hollowstack.server.api.v1.schemas import ClosedOut, EdgeLine, FiledUnder, FirstPage, StackOut, Waits
from hollowstack.server.api.v1.views import height_mm, tone
from hollowstack.server.capture.halves import awaited, backs_of
from hollowstack.server.capture.models import Run
from hollowstack.server.collections.models import Collection
from hollowstack.server.collections.tree import ids_of
from hollowstack.server.dispatch.models import LOST, STUCK, Delivery
from hollowstack.server.documents.models import Document
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.languages import language_of_stack
from hollowstack.server.stacks.models import Change, Page, Stack, Upload
from hollowstack.server.stacks.overview import Counts, counts_of_all, state_of, verdict_of, with_results
from hollowstack.server.stacks.services import order_of, treatment_of

_EDGE_LINES = 160
"""Lines of a fore-edge: of a taller stack, every n-th page is drawn."""
_ON_TOP = 3
_MOST_KNOWN = 20_000
_MOST_HELD = 2000
"""So many results that wait to be tried again are looked up; more of them are one trouble of the whole machine."""


class _Side(NamedTuple):
    """A stack seen from its side, and its first pages."""

    lines: list[EdgeLine]
    step: int
    first: list[FirstPage]


_known: dict[int, tuple[int, _Side]] = {}
"""By stack, with its count of changes."""


def stack_out(stack: Stack) -> StackOut:
    """A stack on the shelf."""
    return stacks_out([stack])[0]


def stacks_out(stacks: Sequence[Stack]) -> list[StackOut]:
    """Stacks on the shelf: what is counted is counted for all of them at once."""
    told = _Told(stacks)
    return [_stack(stack, told) for stack in stacks]


class _Told:
    """What is counted for many stacks at once."""

    def __init__(self, stacks: Sequence[Stack]) -> None:
        ids = [stack.pk for stack in stacks]
        above = {pk for stack in stacks if stack.collection for pk in ids_of(stack.collection)}
        self.collections = dict(Collection.objects.filter(pk__in=above).values_list("pk", "name"))
        self.counts = counts_of_all(ids)
        documents = list(Document.objects.filter(stack_id__in=ids).order_by().values_list("stack_id", "key"))
        sizes = dict(Result.objects.filter(key__in={key for _, key in documents}).values_list("key", "body__bytes"))
        self.documents: dict[int, int] = {}
        self.bytes: dict[int, int] = {}
        for stack_id, key in documents:
            self.documents[stack_id] = self.documents.get(stack_id, 0) + 1
            self.bytes[stack_id] = self.bytes.get(stack_id, 0) + (sizes.get(key) or 0)
        changes = Change.objects.filter(stack_id__in=ids).order_by()
        self.touched = dict(changes.values_list("stack_id").annotate(last=Max("at")))
        uploads = Upload.objects.filter(batch__stack_id__in=ids, batch__taken_back=False).order_by()
        self.expected = dict(uploads.values_list("batch__stack_id").annotate(number=Count("pk")))
        self.stopped = dict(
            Run.objects.filter(stack_id__in=ids, state=Run.State.STOPPED).order_by("pk").values_list("stack_id", "problem")
        )
        self.backs = {pk: backs_of(run) for pk, run in awaited(ids).items()}
        self.held = _held(ids)
        sent = Delivery.objects.filter(document__stack__in=ids, document__deleted_at=None).order_by()
        self.undelivered, self.lost = (
            dict(sent.filter(which).values_list("document__stack").annotate(number=Count("pk"))) for which in (STUCK, LOST)
        )


def _held(ids: Sequence[int]) -> dict[int, int]:
    waiting = Result.objects.filter(state=Result.State.WAITING).values_list("key", flat=True)
    keys = list(waiting[:_MOST_HELD])
    if not keys:
        return {}
    named = Q(opened__in=keys) | Q(measured__in=keys) | Q(rendered__in=keys) | Q(reading__in=keys)
    pages = Page.objects.filter(named, stack_id__in=ids, removed=False).order_by()
    return dict(pages.values_list("stack_id").annotate(number=Count("pk")))


def _stack(stack: Stack, told: _Told) -> StackOut:
    counts, pk = told.counts[stack.pk], stack.pk
    side = _side(stack, counts)
    return StackOut(
        id=pk,
        name=stack.name,
        created_at=stack.created_at,
        language=language_of_stack(stack),
        own_language=bool(stack.language),
        read_later=stack.read_later,
        treatment=stack.treatment["name"],
        treatment_version=stack.treatment.get("version", 0),
        new_document_after=treatment_of(stack).new_document_after,
        pages_a_document=treatment_of(stack).pages_a_document,
        original=Original.model_validate(stack.original),
        change=stack.change,
        counts=counts,
        edge=side.lines,
        documents=told.documents.get(pk, 0),
        bytes=told.bytes.get(pk, 0),
        by=stack.created_by.get_username() if stack.created_by else "",
        touched_at=told.touched.get(pk, stack.created_at),
        first=side.first,
        filed=_filed(stack, told),
        signed=ClosedOut(by=stack.signed_by, at=stack.signed_at) if stack.signed_at else None,
        closed=ClosedOut(by=stack.closed_by, at=stack.closed_at) if stack.closed_at else None,
        waits=Waits(
            review=side.step * sum(line.state == "ready" and line.verdict == "review" for line in side.lines),
            about=side.step > 1,
            failed=counts.failed,
            held=told.held.get(pk, 0),
            expected=told.expected.get(pk, 0),
            stopped=told.stopped.get(pk, ""),
            backs=told.backs.get(pk, 0),
            undelivered=told.undelivered.get(pk, 0),
            lost=told.lost.get(pk, 0),
        ),
    )


def _filed(stack: Stack, told: _Told) -> FiledUnder | None:
    if stack.collection is None:
        return None
    return FiledUnder(id=stack.collection.pk, names=[told.collections[pk] for pk in ids_of(stack.collection)])


def _side(stack: Stack, counts: Counts) -> _Side:
    """A stack from its side; of one that has not changed it is known."""
    known = _known.get(stack.pk)
    if known is not None and known[0] == stack.change:
        return known[1]
    if not counts.pages:
        return _Side([], 1, [])
    order = order_of(stack.pk)
    step = max(1, -(-len(order) // _EDGE_LINES))
    wanted = {*order[::step], *order[:_ON_TOP]}
    pages = {page.pk: page for page in with_results(Page.objects.filter(pk__in=wanted)).order_by()}
    lines = [
        EdgeLine(height_mm=height_mm(page), tone=tone(page), state=state_of(page), verdict=verdict_of(page))
        for pk in order[::step]
        if (page := pages.get(pk)) is not None
    ]
    first = [found for pk in order[:_ON_TOP] if (page := pages.get(pk)) is not None and (found := _picture(page))]
    if len(_known) >= _MOST_KNOWN:
        _known.clear()
    _known[stack.pk] = stack.change, (side := _Side(lines, step, first))
    return side


def _picture(page: Page) -> FirstPage | None:
    """The page as it stands: corrected, or else as it was captured."""
    rendered, measured = page.rendered, page.measured
    if rendered is not None and rendered.body and not page.aside:
        return FirstPage(step="render", key=rendered.key, px=tuple(rendered.body["size_px"]))
    if measured is not None and measured.body:
        return FirstPage(step="measure", key=measured.key, px=tuple(measured.body["measurements"]["size_px"]))
    return None
