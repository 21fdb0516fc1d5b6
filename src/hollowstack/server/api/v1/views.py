"""The pages of a stack as the API shows them."""

from collections.abc import Iterator, Sequence
from datetime import timedelta
from typing import Any

from django.utils import timezone

from hollowstack.core.arrange.order import document_starts
from hollowstack.core.check.border import box_of
from hollowstack.core.check.photograph import PHOTOGRAPH_CHECKS
from hollowstack.core.check.sequence import number_words
from hollowstack.core.page.geometry import Quad
from hollowstack.core.settings.override import Correction, Override
from hollowstack.server.api.v1.records import formers_of, record_of
from hollowstack.server.api.v1.schemas import Fault, Origin, PageOut, PageRow, PagesOut, Shown
from hollowstack.server.engine.models import Heartbeat
from hollowstack.server.errors import Refused
from hollowstack.server.inspection.judging import waiting_on
from hollowstack.server.reading.laid import laid_text
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import (
    counts_of,
    error_of,
    findings_of,
    plan_done,
    state_of,
    trouble_of,
    verdict_of,
    with_results,
)
from hollowstack.server.stacks.services import order_of, treatment_of

_ALIVE = timedelta(seconds=16)
_MOST_KNOWN_ROWS = 50_000
_known_rows: dict[tuple[int, int], PageRow] = {}
"""By page and its count of changes: opening a long stack again costs nearly nothing."""
_known_starts: dict[int, tuple[int, list[int]]] = {}
"""By stack, with its count of changes."""
_MOST_STARTS = 20_000


def pages_out(stack: Stack, since: int) -> PagesOut:
    """The pages of a stack that changed after a count."""
    changed = dict(stack.pages.filter(change__gt=since, removed=False).values_list("pk", "change"))
    return PagesOut(
        change=stack.change,
        order=order_of(stack.pk) if stack.order_change > since or since == 0 else None,
        starts=_starts(stack),
        counts=counts_of(stack.pk),
        pages=_rows(stack, changed),
        engine=engine_alive(),
    )


def _starts(stack: Stack) -> list[int]:
    """The pages with which documents begin; of a stack that has not changed they are known."""
    known = _known_starts.get(stack.pk)
    if known is not None and known[0] == stack.change:
        return known[1]
    rows = list(stack.pages.filter(removed=False).values_list("pk", "breaks", "aside"))
    places = document_starts([row[1:] for row in rows], treatment_of(stack).documents)
    starts = sorted(rows[place][0] for place in places)
    if len(_known_starts) >= _MOST_STARTS:
        _known_starts.clear()
    _known_starts[stack.pk] = stack.change, starts
    return starts


def _rows(stack: Stack, wanted: dict[int, int]) -> list[PageRow]:
    """Rows of pages by their counts of changes; every change of what is in a row raises its page's count.

    A page that has changed since it was counted comes as it is now: the order told with these rows names it too.
    """
    missing = [pk for pk, change in wanted.items() if (pk, change) not in _known_rows]
    found: dict[tuple[int, int], PageRow] = {}
    if missing:
        frames = _frames(stack)
        for pages in _batched(missing, 10_000):  # SQLite takes so many values in one question
            for page in with_results(Page.objects.filter(pk__in=pages).order_by()):
                found[page.pk, page.change] = page_row(page, frames.get(page.source_id, 1))
        if len(_known_rows) + len(found) > _MOST_KNOWN_ROWS:
            _known_rows.clear()
        _known_rows.update(found)
    fresh = {row.id: row for row in found.values()}
    return [row for key in wanted.items() if (row := fresh.get(key[0]) or _known_rows.get(key)) is not None]


def page_out(page: Page) -> PageOut:
    """All that is known of one page."""
    body = page.measured.body if page.measured is not None else None
    return PageOut.model_validate(
        {
            "row": page_row(page, page.source.pages.count()),
            # What the paper is like, place by place, is for those who render; nobody looks at it here.
            "measurements": {**body["measurements"], "paper_map": None} if body else None,
            "plan": {**done, "paper_map": None} if (done := plan_done(page)) else None,
            "override": Override.model_validate(page.override),
            "findings": findings_of(page),
            "waiting": waiting_on(page),
            "master_sha256": page.source.master_id,
            "master_bytes": page.source.master.bytes,
            "text": _text(page),
            "record": record_of(page),
            "formers": formers_of(page),
        }
    )


def _text(page: Page) -> str | None:
    """What was read on a page and put right; None where it was not read, or its reading is being made again."""
    if page.reading is None or not page.reading.body:
        return None
    try:
        return laid_text(page).reading.text
    except Refused:
        return None


def page_row(page: Page, frames: int) -> PageRow:
    """A page in the list of its stack."""
    measured = page.measured.body if page.measured is not None else None
    clean = page.rendered.body if page.rendered is not None else None
    read = page.reading.body if page.reading is not None else None
    done = plan_done(page)
    return PageRow(
        id=page.pk,
        change=page.change,
        source=page.source.name,
        frame=page.frame,
        frames=frames,
        state=state_of(page),
        verdict=verdict_of(page),
        aside=page.aside,
        error=error_of(page),
        trouble=trouble_of(page),
        breaks=page.breaks,
        rescan=page.rescan,
        split="split" in page.override,
        own=[name for name in page.override if name in Correction.model_fields],
        origin=_origin(page),
        original=page.measured_id if measured else None,
        clean=page.rendered_id if clean else None,
        original_px=tuple(measured["measurements"]["size_px"]) if measured else None,
        clean_px=tuple(clean["size_px"]) if clean else None,
        height_mm=height_mm(page),
        tone=tone(page),
        turn=done["turn"] if done else None,
        outline=[(round(x, 1), round(y, 1)) for x, y in done["quad"]] if done else None,
        printed=number_words(read["numbers"][0]) if read and read.get("numbers") else "",
        traces=_traces(measured["measurements"]) if measured and page.aside == "blank" else None,
        skew_deg=measured["measurements"]["skew_deg"] if measured else None,
        ink_percent=measured["measurements"]["ink_percent"] if measured else None,
        colour=done["colour"] if done else None,
        language=page.language,
        words=read["words"] if read else None,
        confidence=read["mean_confidence"] if read else None,
        bytes=clean["bytes"] if clean else None,
        shows=_shows(measured["measurements"]) if measured else [],
        faults=_faults(page) if measured and measured["measurements"].get("photograph") else None,
    )


def _traces(found: dict[str, Any]) -> tuple[int, int, int, int] | None:
    quad = found.get("pale_traces")
    return box_of(Quad.of(quad), tuple(found["size_px"])) if quad else None


_PICTURE_MM2 = 900.0
"""A picture smaller than 3 cm on each side is a stamp or a vignette."""


def _shows(found: dict[str, Any]) -> list[Shown]:
    """What is worth knowing of a page while its paper is at hand."""
    pictures = sum(one["area_mm2"] for one in found.get("regions", ()) if one["kind"] in {"picture", "half-tone"})
    told: dict[Shown, bool] = {
        "picture": pictures >= _PICTURE_MM2,
        "colour": found["colour"] == "colour",
        "missing corner": bool(found.get("torn")),
    }
    return [name for name, is_so in told.items() if is_so]


def _faults(page: Page) -> list[Fault]:
    """What is wrong with a photograph, with the spots that show it."""
    return [
        Fault(check=one["check"], message=one["message"], spot=one["spot"])
        for one in findings_of(page)
        if one["verdict"] != "pass" and one["check"] in PHOTOGRAPH_CHECKS
    ]


def _origin(page: Page) -> Origin:
    match page.source.batch.record.get("source"):
        case "platen":
            return "platen"
        case "feeder":
            return "feeder"
    origin = ((page.opened.body or {}) if page.opened is not None else {}).get("origin", {})
    return "camera" if origin.get("photographed") else "file"


def engine_alive() -> bool:
    """Whether the engine has given a sign of life lately."""
    return Heartbeat.objects.filter(beat_at__gt=timezone.now() - _ALIVE).exists()


def _frames(stack: Stack) -> dict[int, int]:
    counted: dict[int, int] = {}
    for source in stack.pages.values_list("source_id", flat=True):
        counted[source] = counted.get(source, 0) + 1
    return counted


def height_mm(page: Page) -> float:
    """The height of the page as it will be, in mm; 0 while it is not known."""
    plan = plan_done(page)
    return round(plan["size_px"][1] / plan["ppi"][1] * 25.4, 1) if plan else 0.0


def tone(page: Page) -> int:
    """How light the page is on the whole: its paper, darkened by its ink."""
    if page.measured is None or page.measured.body is None:
        return 128
    found = page.measured.body["measurements"]
    paper, ink_percent = found["paper"], float(found["ink_percent"])
    return round(float(sum(paper)) / len(paper) - min(90.0, ink_percent * 6))


def _batched(items: Sequence[int], size: int) -> Iterator[Sequence[int]]:
    for start in range(0, len(items), size):
        yield items[start : start + size]
