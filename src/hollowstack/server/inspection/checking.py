"""Checking pages once they have ended somewhere, and stacks once their pages have: findings are kept to be gone through.

A page is checked again after each of its changes, and its stack's pages together after that, or when one has moved.
"""

import hashlib
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import F, Q
from django.db.models.functions import Coalesce

from hollowstack.core.check import Finding as Found
from hollowstack.core.check.kinds import KINDS
from hollowstack.core.check.stack import Fellow, check_stack
from hollowstack.core.check.twice import Looks
from hollowstack.core.ocr.model import moved_box
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import MM_PER_INCH
from hollowstack.server.inspection.lots import page_state
from hollowstack.server.inspection.models import Finding, PageFacts, StackCheck
from hollowstack.server.inspection.sampling import BAD
from hollowstack.server.stacks.bulk import save_pages
from hollowstack.server.stacks.models import Page, Stack, Verdict
from hollowstack.server.stacks.overview import asks_turn, error_of, findings_of, plan_done, starts_of, with_results
from hollowstack.server.stacks.services import next_change, treatment_of
from hollowstack.server.stacks.standing import WAITING

_SOME = 5
"""Words named in a sentence."""
AT_ONCE = 20
"""Pages checked in one go: for so long nobody else writes."""
_NAMED = 10_000
"""SQLite takes so many values in one question."""
_Told = tuple[int | None, Found, str, list[int] | None]
"""Where it shows, what it is, what it judges, and its spot on the corrected page."""


def check_some() -> bool:
    """Check some pages that have changed since, or else a stack's pages together; whether there was anything to do."""
    if pages := _changed():
        with transaction.atomic():
            for page in pages:
                _check(page)
        return True
    stacks = Stack.objects.annotate(
        done=Coalesce("checked_together__done", 0), wanted=Coalesce("checked_together__wanted", 0)
    )
    stack = stacks.filter(Q(wanted__gt=F("done")) | Q(order_change__gt=F("done"))).first()
    if stack is None:
        return False
    check_together(stack)
    return True


def _changed() -> list[Page]:
    """Some pages that have changed since they were checked.

    Those of the stack that somebody looks at first, then from the stack on in which the last ones were.
    """
    changed = Q(facts__isnull=True) | Q(facts__checked__lt=F("change"))
    waiting = Page.objects.filter(changed, removed=False, to_plan=False).exclude(state__in=WAITING)
    # By their numbers first: mostly there is none, and all that is known of them is a question as long as a page.
    ids = waiting.order_by("stack_id").values_list("pk", flat=True)
    opened = Stack.objects.exclude(opened_at=None).order_by("-opened_at").values_list("pk", flat=True).first()
    if opened and (some := list(ids.filter(stack_id=opened)[:AT_ONCE])):
        return _with_all(some)
    some = list(ids.filter(stack_id__gte=_last.stack)[:AT_ONCE])
    if not some and _last.stack:
        some = list(ids[:AT_ONCE])
    pages = _with_all(some) if some else []
    _last.stack = pages[-1].stack_id if pages else 0
    return pages


def _with_all(ids: Sequence[int]) -> list[Page]:
    """Pages with all that a check of them asks for."""
    known = with_results(Page.objects.filter(pk__in=ids))
    return list(known.select_related("stack", "facts", "text", "source__batch").order_by("stack_id"))


@dataclass
class _Last:
    """The stack in which pages were checked last: of many that are new, those before it are not passed each time."""

    stack: int = 0


_last = _Last()


def _check(page: Page) -> None:
    """Keep what is worth a look on a page, and what it is known by."""
    PageFacts(page=page, checked=page.change, **_known_by(page)).save()
    StackCheck.objects.update_or_create(stack_id=page.stack_id, defaults={"wanted": page.change})
    _keep(
        page.stack_id,
        page.pk,
        [(page.pk, told, basis(page, told), on_clean(page, told.spot)) for told in _told(page)],
        together=False,
    )
    _have_changed(page.stack_id, count_open([page.pk]))


def _have_changed(stack_id: int, pages: Sequence[int]) -> None:
    """Pages of which other things wait are other rows in lists; by that alone they need not be checked again."""
    if not pages:
        return
    number = next_change(stack_id)
    for first in range(0, len(pages), _NAMED):
        some = pages[first : first + _NAMED]
        Page.objects.filter(pk__in=some).update(change=number)
        PageFacts.objects.filter(page__in=some).update(checked=number)


def _told(page: Page) -> list[Found]:
    """What is worth a look on a page by itself."""
    if error := error_of(page):
        return [Found(check="failed", verdict="fail", value=None, limit=None, message=error)]
    found = [Found.model_validate(one) for one in findings_of(page) if one["verdict"] != "pass"]
    if page.aside:
        return [one for one in found if one.check == "blank" and page.aside == "blank"]
    if page.source.master.damaged_at is not None:
        message = "The file of this page is damaged on the disk: add the same file again, and it is put right."
        found.append(Found(check="storage", verdict="fail", value=None, limit=None, message=message))
    record = page.source.batch.record
    if record.get("instead") is not None or record.get("place") == "instead":
        message = "This image took the place of an earlier one: look whether it will do."
        found.append(Found(check="new image", verdict="review", value=None, limit=None, message=message))
    return [*found, *_lost_words(page), *_found_bad(page)]


def _lost_words(page: Page) -> Iterable[Found]:
    """What hands had put right and finds no place any more in the page's text, as it was gathered last."""
    gathered = getattr(page, "text", None)
    lost = [page.words[key] for key in gathered.lost if key in page.words] if gathered is not None else []
    if not lost:
        return
    texts = [one.get("after") or one.get("before", "") for one in lost[:_SOME]]
    named = ", ".join(f"“{text}”" for text in texts if text)
    more = "" if len(lost) <= _SOME else f" and {len(lost) - _SOME} more"
    what = f": {named}{more}" if named else ""
    message = f"Put right by hand, and without a place in the text as it was read last{what}."
    yield Found(check="lost words", verdict="review", value=len(lost), limit=0, message=message)


def _found_bad(page: Page) -> Iterable[Found]:
    """What an inspector found on the page as it is now, where the lot went back to the technician for it."""
    looks = page.looks.filter(sample__returned=True, worst__in=BAD, judged=page_state(page)).select_related("by")
    for one in looks.order_by("-pk")[:1]:
        by = one.by.get_username() if one.by else "The inspector"
        message = f"{by} found a {one.worst} defect in the sample" + (f": {one.note}" if one.note else ".")
        yield Found(check="inspected", verdict="fail", value=None, limit=None, message=message)


def basis(page: Page, told: Found) -> str:
    """Names what a finding of a page judges, by which a verdict on it stands or falls."""
    rests_on: Sequence[Any] = (told.message,)
    match KINDS[told.check].ground:
        case "capture":
            rests_on = (page.source.master_id, page.frame, told.spot)
        case "clean page":
            rests_on = (page.rendered_id, told.spot)
        case "text":
            rests_on = (page.reading_id,)
    return hashlib.sha256(repr((told.check, *rests_on)).encode()).hexdigest()


def on_clean(page: Page, spot: tuple[int, int, int, int] | None) -> list[int] | None:
    """Where a spot of the image as captured lies on the corrected page; None where there is none, or it was cut away."""
    plan = plan_done(page)
    if spot is None or plan is None:
        return None
    left, top, wide, high = spot
    onto = Transform.onto(Quad.of(plan["quad"]), *plan["size_px"])
    box = moved_box((left, top, left + wide, top + high), onto, tuple(plan["size_px"]))
    return None if box is None else [box[0], box[1], box[2] - box[0], box[3] - box[1]]


def _known_by(page: Page) -> dict[str, Any]:
    """What the page is known by among its fellows; nothing where it is held aside or failed."""
    if page.aside or page.state == Page.State.FAILED:
        return {"image": "", "bits": "", "sketch": "", "numbers": []}
    measured = page.measured.body if page.measured is not None else None
    read = (page.reading.body if page.reading is not None else None) or {}
    plan = plan_done(page)
    asks = "turn" not in page.override and asks_turn(page)
    # The halves of a split image share its bytes, and are measured as one.
    whole = "split" not in page.override
    return {
        "image": f"{page.source.master_id}:{page.frame}" if whole else "",
        "bits": str(measured["measurements"].get("perceptual_hash", "")) if measured and whole else "",
        "sketch": read.get("sketch", ""),
        "numbers": read.get("numbers", []),
        "turn": plan["turn"] if plan and not asks else None,
        "asks_turn": asks,
        "size_mm": [px / ppi * MM_PER_INCH for px, ppi in zip(plan["size_px"], plan["ppi"], strict=True)] if plan else None,
    }


def check_together(stack: Stack) -> None:
    """Keep what is worth a look when the pages of a stack are seen together."""
    pages = list(stack.pages.filter(removed=False).select_related("facts"))
    with transaction.atomic():
        _keep(stack.pk, None, _among(stack, pages), together=True)
        changed = count_open([page.pk for page in pages])
        _have_changed(stack.pk, changed)
        check, _ = StackCheck.objects.get_or_create(stack=stack)
        check.done = max(stack.change, stack.order_change, check.wanted)
        check.save(update_fields=["done"])


def _among(stack: Stack, pages: Sequence[Page]) -> list[_Told]:
    starts = starts_of(pages, treatment_of(stack).documents)
    known = [(place, page) for place, page in enumerate(pages, 1) if not page.aside and hasattr(page, "facts")]
    fellows = [_fellow(place, page, starts=page.pk in starts) for place, page in known]
    made: list[_Told] = []
    for at, told in check_stack(fellows):
        page = known[at][1]
        made.append((page.pk, told, basis(page, told), None))
    return [*made, *((None, told, basis_of_stack(told), None) for told in _counts(stack))]


def basis_of_stack(told: Found) -> str:
    """Names what a finding of a whole stack judges."""
    return hashlib.sha256(repr((told.check, told.message)).encode()).hexdigest()


def _fellow(place: int, page: Page, *, starts: bool) -> Fellow:
    facts: PageFacts = page.facts
    size = None if facts.size_mm is None else (float(facts.size_mm[0]), float(facts.size_mm[1]))
    looks = Looks(facts.image, facts.bits, facts.sketch)
    return Fellow(place, looks, facts.numbers, size, facts.turn, facts.asks_turn, starts)


def _counts(stack: Stack) -> Iterable[Found]:
    """Batches whose number of sheets was given, against what came."""
    for batch in stack.batches.filter(taken_back=False):
        if not (sheets := batch.record.get("sheets")):
            continue
        expected = sheets * (2 if batch.record.get("two_sided") else 1)
        came = batch.sources.count()
        if came != expected:
            station = batch.record["station"]
            message = f"{came} images came from {station} where {sheets} sheets should have given {expected}."
            yield Found(check="count", verdict="review", value=came, limit=expected, message=message)


def _keep(stack_id: int, page_id: int | None, told: Sequence[_Told], *, together: bool) -> None:
    """Put findings in the place of those there were, of a page by itself or of a stack's pages together."""
    former = Finding.objects.filter(stack_id=stack_id, together=together)
    (former if page_id is None else former.filter(page_id=page_id)).delete()
    Finding.objects.bulk_create(
        Finding(
            stack_id=stack_id,
            page_id=page,
            kind=found.check,
            verdict=found.verdict,
            value=found.value,
            limit=found.limit,
            message=found.message[:400],
            spot=found.spot,
            clean_spot=clean,
            judged=judged,
            together=together,
        )
        for page, found, judged, clean in told
    )


def count_open(pages: Sequence[int]) -> list[int]:
    """Count the findings of pages on which nobody has given a verdict; returns the pages where that changed."""
    return [page for first in range(0, len(pages), _NAMED) for page in _count_open(pages[first : first + _NAMED])]


def _count_open(pages: Sequence[int]) -> list[int]:
    found = Finding.objects.filter(page__in=pages).values_list("page_id", "kind", "judged")
    given = set(Verdict.objects.filter(page__in=pages).values_list("page_id", "kind", "judged"))
    counts = dict.fromkeys(pages, 0)
    for row in found:
        counts[row[0]] += row not in given
    known = Page.objects.filter(pk__in=pages).only("open_findings")
    changed = [page for page in known if page.open_findings != counts[page.pk]]
    for page in changed:
        page.open_findings = counts[page.pk]
    save_pages(changed, ["open_findings"])
    return [page.pk for page in changed]
