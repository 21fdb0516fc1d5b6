"""Samples: drawn from a lot, gone through page by page, and decided on."""

import secrets
from collections import Counter
from collections.abc import Sequence
from typing import Literal, NamedTuple, cast

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from hollowstack.core.check.sampling import Aql, Level, Plan, Severity, draw_sample, sampling_plan
from hollowstack.core.check.switching import Lot, Standing, standing
from hollowstack.server.errors import Conflict, Refused
from hollowstack.server.inspection.lots import InLot, earlier_lots, page_state, pages_of, source_of, to_do_first
from hollowstack.server.inspection.models import Look, Sample
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import next_change, refuse_closed

Worst = Literal["", "minor", "major", "critical"]
"""The class of a page's worst defect. Major ones make it bad; one critical page is enough that the lot is not accepted;
minor ones are on record, and borne (classes after MIL-STD-105E, 2.2 to 2.4; what they do to the lot: common practice)."""
Then = Literal["accept", "whole", "return"]
"""Accept the lot; not accept it, and go through all of it; not accept it, and give it back with the list."""
BAD: tuple[Worst, ...] = ("major", "critical")


class Proposed(NamedTuple):
    """How a lot would be looked at."""

    lot: int
    plan: Plan
    source: str
    standing: Standing
    earlier: int
    """Lots of the same source that were decided under the same plan before."""
    to_do: list[str]


class Progress(NamedTuple):
    """How far a sample has been gone through."""

    looked: int
    left: list[int]
    """Pages that nobody has looked at, or that have changed since."""
    gone: int
    """Pages that were drawn, and are no longer in the stack's output: another sample is to be drawn then."""
    counted: dict[Worst, int]
    bad: int
    may_accept: bool
    may_reject: bool
    sentence: str


def propose(stack: Stack, first: int | None, level: Level, aql: Aql) -> Proposed:
    """How a lot would be looked at. Raises Refused where no document begins with the page ``first``."""
    pages = pages_of(stack, first)
    source = source_of(pages)
    earlier = earlier_lots(source, level, aql)
    now = standing([_lot(sample) for sample in earlier], level, aql)
    return Proposed(
        len(pages),
        _plan(len(pages), level, aql, now),
        source,
        now,
        len(earlier),
        to_do_first(stack, pages, whole=first is None),
    )


def _plan(pages: int, level: Level, aql: Aql, now: Standing) -> Plan:
    if pages < 2:
        return Plan("", pages, 0, 1)
    plan = sampling_plan(pages, level, aql, now.severity)
    # Where too many lots of a source were not accepted, a sample is not enough until something is done about it.
    return plan._replace(size=pages) if now.stopped else plan


def _lot(sample: Sample) -> Lot:
    """What a lot came to when it was presented first: one that was gone through whole had not been accepted."""
    if sample.everything:
        return Lot(len(sample.lot), sample.reject, cast("Severity", sample.severity), False)
    bad = sample.looks.filter(worst__in=BAD).count()
    accepted = sample.state == Sample.State.ACCEPTED
    return Lot(len(sample.lot), bad, cast("Severity", sample.severity), accepted)


def draw(stack_id: int, user: User, first: int | None, level: Level, aql: Aql) -> Sample:
    """Draw a sample; one that is open is withdrawn for it.

    Raises:
        Refused: Something is to be done first, or the stack is signed for.
    """
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        refuse_closed(stack)
        asked = propose(stack, first, level, aql)
        if asked.to_do:
            raise Refused(asked.to_do[0])
        stack.samples.filter(state=Sample.State.OPEN).update(state=Sample.State.WITHDRAWN, decided_at=timezone.now())
        pages = pages_of(stack, first)
        seed = secrets.randbits(48)
        drawn = [pages[place].pk for place in draw_sample(len(pages), asked.plan.size, seed)]
        sample = Sample.objects.create(
            stack=stack, by=user, first=first, source=asked.source, level=level, aql=aql, severity=asked.standing.severity,
            letter=asked.plan.letter, accept=asked.plan.accept, reject=asked.plan.reject, seed=seed,
            lot=[(page.pk, page_state(page)) for page in pages], drawn=drawn,
        )  # fmt: skip
        next_change(stack_id)
    return sample


def look(sample_id: int, user: User, page_id: int, worst: Worst, note: str, seen: str | None) -> Look:
    """Say how good a page of a sample is.

    Args:
        sample_id: The sample.
        user: Who looks.
        page_id: One of its pages.
        worst: Class of its worst defect.
        note: What is wrong, in words.
        seen: Key of the clean image that was before somebody's eyes.

    Raises:
        Conflict: The page has changed in the meantime, or the sample is decided.
        Refused: The page is none of the sample.
    """
    with transaction.atomic():
        sample = _open(sample_id)
        if page_id not in sample.drawn:
            raise Refused("This page is not in the sample: look at those that were drawn.")
        page = Page.objects.get(pk=page_id)
        if page.rendered_id != seen or page.removed or page.aside:
            raise Conflict("This page has changed in the meantime: look at it again, it is up to date now.")
        said = {"worst": worst, "note": " ".join(note.split()), "judged": page_state(page), "by": user}
        row, _ = Look.objects.update_or_create(sample=sample, page=page, defaults=said)
        next_change(sample.stack_id)
    return row


def forget(sample_id: int, page_id: int) -> None:
    """Take back what was said of a page. Raises Conflict where the sample is decided."""
    with transaction.atomic():
        sample = _open(sample_id)
        sample.looks.filter(page=page_id).delete()
        next_change(sample.stack_id)


def _open(sample_id: int) -> Sample:
    sample = Sample.objects.select_related("stack").get(pk=sample_id, stack__deleted_at=None)
    refuse_closed(sample.stack)
    if sample.state != Sample.State.OPEN:
        raise Conflict("This sample is decided, or another one was drawn: look at that one.")
    return sample


def plan_of(sample: Sample) -> Plan:
    """The plan that a sample goes by."""
    return Plan(sample.letter, len(sample.drawn), sample.accept, sample.reject)


def progress_of(sample: Sample) -> Progress:
    """How far a sample has been gone through, and what follows by then."""
    pages = Page.objects.defer("plan", "override").in_bulk(sample.drawn)
    standing_looks = [one for one in sample.looks.all() if one.judged == _state_now(pages.get(one.page_id))]
    counted = Counter(cast("Worst", one.worst) for one in standing_looks)
    seen = {one.page_id for one in standing_looks}
    left = [page for page in sample.drawn if page not in seen]
    bad = sum(counted[worst] for worst in BAD)
    rejected = counted["critical"] > 0 or bad >= sample.reject
    accepted = not left and not rejected
    if sample.everything:
        # All pages are looked at and put right: none may be left that is bad.
        accepted, rejected = not left and bad == 0, bad > 0
    gone = sum(_state_now(pages.get(page)) == "" for page in left)
    return Progress(
        len(seen), left, gone, dict(counted), bad, accepted, rejected, _sentence(sample, counted, bad, len(left))
    )


def _state_now(page: Page | None) -> str:
    return page_state(page) if page is not None and not page.removed and not page.aside else ""


def _sentence(sample: Sample, counted: Counter[Worst], bad: int, left: int) -> str:
    """What the figures come to, by the plan."""
    may_be = f"up to {sample.accept} may be" if sample.accept else "none may be"
    if left == len(sample.drawn):
        return f"No page is looked at yet; {'none may be' if sample.everything else may_be} bad."
    so_far = f"{bad} of {len(sample.drawn) - left} pages that were looked at {'is' if bad == 1 else 'are'} bad"
    if sample.everything:
        return f"{so_far}; all {len(sample.drawn)} are gone through, and none may be."
    if counted["critical"]:
        return f"{so_far}, {counted['critical']} of them critically: the lot is not accepted."
    if bad >= sample.reject:
        return f"{so_far}; from {sample.reject} on the lot is not accepted."
    if not left and bad > sample.accept:
        # Only reduced plans have room between their two numbers (MIL-STD-105E, 4.10.1.4).
        return f"{so_far}: the lot is accepted, and the next one is looked at by a normal plan."
    return f"{so_far}; {may_be}."


def decide(sample_id: int, user: User, then: Then) -> Sample:
    """Decide on a lot by its sample.

    Raises:
        Refused: The plan says otherwise, or pages are still to be looked at.
        Conflict: It is decided already.
    """
    with transaction.atomic():
        sample = _open(sample_id)
        now = progress_of(sample)
        if then == "accept":
            _require(now, sample)
        elif not now.may_reject:
            raise Refused(f"The plan does not say so: {now.sentence}")
        if then == "whole":
            sample.everything, sample.drawn = True, [page for page, _ in sample.lot]
        else:
            sample.state = Sample.State.ACCEPTED if then == "accept" else Sample.State.REJECTED
            sample.returned = then == "return"
            sample.decided_at, sample.decided_by = timezone.now(), user
        sample.save()
        number = next_change(sample.stack_id)
        if then == "return":
            # What is bad comes up among the findings: these pages are checked again.
            Page.objects.filter(looks__sample=sample, looks__worst__in=BAD).update(change=number)
    return sample


def _require(now: Progress, sample: Sample) -> None:
    if now.may_accept:
        return
    if now.left:
        many = len(now.left)
        raise Refused(f"{many} page{' is' if many == 1 else 's are'} still to be looked at before the lot can be accepted.")
    raise Refused(f"The plan does not allow it: {now.sentence}")


def changed_outside(sample: Sample, now: Sequence[InLot]) -> int:
    """How many pages of a lot are other ones than when its sample was drawn, and were not looked at as they are now."""
    then = dict(map(tuple, sample.lot))
    looked = dict(sample.looks.values_list("page_id", "judged"))
    return sum(state not in {then.get(page), looked.get(page)} for page, state in now)
