"""Pages of one stack that come into another, as a batch of files that are here already."""

from collections.abc import Mapping, Sequence

from hollowstack.server.intake import batches
from hollowstack.server.stacks import splitting
from hollowstack.server.stacks.models import Batch, Page, Source, Stack, Verdict
from hollowstack.server.stacks.planning import plan_or_mark
from hollowstack.server.stacks.services import next_change, treatment_of

_APART = 1 << 10
"""Positions between two of them."""
_BY_HAND = ("override", "rescan", "language")
"""What was said of a page, and goes with it."""


def carry(pages: Sequence[Page], stack: Stack, came: Batch) -> None:
    """Pages into a stack, behind all that it has, in their order; a document begins with the first.

    What was made of an image is kept by what it is made of: nothing is made twice, unless the stack's treatment is another.
    Call it in a transaction; the pages come with their sources, masters and what they were opened as.

    Args:
        pages: Pages of one batch.
        stack: Where they go.
        came: The batch: who took it in, and with which station and settings.

    Raises Refused where the stack is closed to changes.
    """
    record = {name: value for name, value in came.record.items() if name != "instead"}
    batch = batches.open_batch(stack.pk, came.by, record=record)
    change = next_change(stack.pk, order=True)
    files = {page.source_id: page.source for page in pages}
    sources = {pk: batches.add_source(batch, _coming(file, index)) for index, (pk, file) in enumerate(files.items())}
    made = Page.objects.bulk_create(
        Page(
            stack=stack,
            source=sources[page.source_id],
            frame=page.frame,
            position=batch.base + number * _APART,
            breaks=page.breaks or number == 0,
            words={key: {**word, "count": change} for key, word in page.words.items()},
            change=change,
            edited=change,
            **{name: getattr(page, name) for name in _BY_HAND},
        )
        for number, page in enumerate(pages)
    )
    _carry_verdicts({page.pk: there.pk for page, there in zip(pages, made, strict=True)}, stack)
    _leave_out_others(pages, sources, batch.base, change)
    rows = Page.objects.filter(pk__in=[page.pk for page in made])
    plan_or_mark(stack, list(rows.select_related("source__batch")), [])
    if not treatment_of(came.stack).split_facing:  # where it was, what is one page now was made so by hand
        splitting.split_facing(stack.pk, [page for page in rows.select_related("source", "measured") if not page.override])


def _coming(source: Source, index: int) -> batches.Coming:
    return batches.Coming(index, source.name, source.master_id, source.master.bytes, modified_at=source.modified_at)


def _carry_verdicts(there: Mapping[int, int], stack: Stack) -> None:
    """What somebody found fine on a page is fine there too, as long as it is the same that is found."""
    Verdict.objects.bulk_create(
        Verdict(stack=stack, page_id=there[one.page_id], kind=one.kind, judged=one.judged, by_id=one.by_id, at=one.at)
        for one in Verdict.objects.filter(page__in=there)
        if one.page_id is not None
    )


def _leave_out_others(pages: Sequence[Page], sources: dict[int, Source], position: int, change: int) -> None:
    """Images of the same files that do not come: known to be none of the stack's, should a file be opened anew."""
    come = {(page.source_id, page.frame) for page in pages}
    frames = {page.source_id: page.opened.body["frames"] for page in pages if page.opened and page.opened.body}
    Page.objects.bulk_create(
        Page(stack_id=source.stack_id, source=source, frame=frame, position=position, removed=True, change=change)
        for former, source in sources.items()
        for frame in range(frames.get(former, 0))
        if (former, frame) not in come
    )
