"""Signing for a stack: it is closed to changes then, until it is reopened with a reason; all of it is on record."""

from typing import Any, NamedTuple

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from hollowstack.core.check.finding import Check
from hollowstack.core.check.kinds import KINDS
from hollowstack.server.accounts.record import note
from hollowstack.server.errors import Refused
from hollowstack.server.inspection.lots import InLot, page_state, pages_of, to_do_first
from hollowstack.server.inspection.models import Sample, Signature
from hollowstack.server.inspection.sampling import changed_outside, progress_of
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import next_change

FORM = "Hollow Stack inspection record, 1"
_MOST_WHY = 400


class Against(NamedTuple):
    """What stands against signing for a stack, each as one sentence; nothing where it can be signed for."""

    to_do: list[str]
    """On its pages."""
    samples: list[str]
    """By its samples."""


def against_signing(stack: Stack) -> Against:
    """What stands against signing for a stack."""
    pages = pages_of(stack)
    told: list[str] = []
    if stack.samples.filter(state=Sample.State.OPEN).exists():
        told.append("A sample is open: go through it and decide.")
    lots = _deciding(stack)
    states = [InLot(page.pk, page_state(page)) for page in pages]
    missing = [one for one in states if one.page not in lots]
    if missing:
        told.append(
            "No sample was accepted yet: draw one." if len(missing) == len(states)
            else f"{len(missing):,} pages are in no accepted lot: draw a sample that they are in."
        )  # fmt: skip
    changed = sum(
        changed_outside(sample, [one for one in states if lots.get(one.page) == sample])
        for sample in {sample.pk: sample for sample in lots.values()}.values()
    )
    if changed:
        have = "page has" if changed == 1 else "pages have"
        told.append(f"{changed:,} {have} changed since the sample was drawn: draw another one.")
    return Against(to_do_first(stack, pages, whole=True), told)


def _deciding(stack: Stack) -> dict[int, Sample]:
    """The last accepted lot of each page that is in one; what was not accepted last does not count."""
    found: dict[int, Sample] = {}
    for sample in stack.samples.filter(state__in=[Sample.State.ACCEPTED, Sample.State.REJECTED]).order_by(
        "decided_at", "pk"
    ):
        for page, _ in sample.lot:
            if sample.state == Sample.State.ACCEPTED:
                found[page] = sample
            else:
                found.pop(page, None)
    return found


def sign(stack_id: int, user: User) -> Signature:
    """Sign for a stack. Raises Refused where something stands against it, or it is signed for already."""
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        if stack.signed_at is not None:
            raise Refused(f"{stack.signed_by} has signed for this stack already.")
        against = against_signing(stack)
        if sentences := [*against.to_do, *against.samples]:
            raise Refused(sentences[0])
        now, name = timezone.now(), user.get_username()
        signature = Signature.objects.create(stack=stack, by=name, at=now, record={})
        signature.record = _record(stack, signature)
        signature.save(update_fields=["record"])
        Stack.objects.filter(pk=stack_id).update(signed_at=now, signed_by=name)
        next_change(stack_id)
        note(name, "stack signed for", stack.name)
    return signature


def reopen(stack_id: int, user: User, why: str) -> Signature:
    """Open a stack again that was signed for. Raises Refused without a reason, or where it is open."""
    why = " ".join(why.split())
    if not why:
        raise Refused("Reopening needs a reason: write down why, it goes on record.")
    if len(why) > _MOST_WHY:
        raise Refused(f"The reason has {len(why)} characters; the most is {_MOST_WHY}: shorten it.")
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        if stack.signed_at is None:
            raise Refused("Nobody has signed for this stack: it is open.")
        signature = stack.signatures.filter(reopened_at=None).latest("pk")
        signature.reopened_at, signature.reopened_by, signature.reopened_why = timezone.now(), user.get_username(), why
        signature.save(update_fields=["reopened_at", "reopened_by", "reopened_why"])
        Stack.objects.filter(pk=stack_id).update(signed_at=None, signed_by="")
        next_change(stack_id)
        note(user.get_username(), "stack reopened", f"{stack.name}: {why}")
    return signature


def _record(stack: Stack, signature: Signature) -> dict[str, Any]:
    """All that is known of a stack when it is signed for: samples, verdicts, and what each of its pages is made of."""
    pages = list(stack.pages.filter(removed=False).select_related("source"))
    places = {page.pk: place for place, page in enumerate(pages, 1)}
    accepted = {sample.pk: sample for sample in _deciding(stack).values()}
    return {
        "form": FORM,
        "signature": signature.pk,
        "stack": {"id": stack.pk, "name": stack.name, "pages": len(pages)},
        "signed": {"by": signature.by, "at": signature.at.isoformat()},
        "samples": [_sample(accepted[pk], places) for pk in sorted(accepted)],
        "verdicts": _verdicts(stack, places),
        "pages": [_page(places[page.pk], page) for page in pages],
    }


def _sample(sample: Sample, places: dict[int, int]) -> dict[str, Any]:
    now = progress_of(sample)
    looks = sample.looks.select_related("by").order_by("pk")
    return {
        "lot": "the stack" if sample.first is None else f"the document that begins with page {places.get(sample.first, 0)}",
        "pages": len(sample.lot),
        "source": sample.source,
        "plan": {
            "standard": "ISO 2859-1, single sampling", "level": sample.level, "aql": sample.aql,
            "severity": sample.severity, "letter": sample.letter, "size": len(sample.drawn), "accept": sample.accept,
            "reject": sample.reject, "seed": sample.seed, "all pages after rejection": sample.everything,
        },
        "drawn": {
            "by": _name(sample.by), "at": sample.at.isoformat(), "pages": [places.get(page, 0) for page in sample.drawn],
        },
        "decided": {
            "by": _name(sample.decided_by), "at": sample.decided_at.isoformat() if sample.decided_at else "",
            "what": sample.state, "bad": now.bad, "sentence": now.sentence,
        },
        "looks": [
            {"page": places.get(one.page_id, 0), "worst": one.worst, "note": one.note, "by": _name(one.by),
             "at": one.at.isoformat()}
            for one in looks
        ],
    }  # fmt: skip


def _verdicts(stack: Stack, places: dict[int, int]) -> list[dict[str, Any]]:
    """The findings that somebody found fine as they are, and that still stand."""
    told = {(row.page_id, row.kind, row.judged): row for row in stack.findings.all()}
    found = []
    for verdict in stack.verdicts.select_related("by").order_by("at", "pk"):
        finding = told.get((verdict.page_id, verdict.kind, verdict.judged))
        if finding is None or (finding.page_id is not None and finding.page_id not in places):
            continue
        kind: Check = finding.kind  # type: ignore[assignment]  # kept by the name that it was told under
        found.append(
            {"page": places.get(finding.page_id or 0), "what": KINDS[kind].title, "message": finding.message,
             "by": _name(verdict.by), "at": verdict.at.isoformat()}
        )  # fmt: skip
    return found


def _page(place: int, page: Page) -> dict[str, Any]:
    return {
        "page": place,
        "file": page.source.name,
        "frame": page.frame,
        "sha256": page.source.master_id,
        "aside": page.aside,
        "clean": page.rendered_id or "",
        "read": page.reading_id or "",
        "words put right": len(page.words),
        "state": page_state(page),
    }


def _name(user: User | None) -> str:
    return user.get_username() if user is not None else ""
