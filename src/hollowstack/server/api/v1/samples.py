"""Samples and signatures over HTTP; the rules are in ``inspection``."""

from datetime import datetime
from typing import Annotated, cast

from django.contrib.auth.models import User
from django.http import HttpResponse
from django.utils.http import content_disposition_header
from ninja import Query, Schema, Status
from pydantic import BaseModel, Field

from hollowstack.core.check.sampling import Aql, Level, Plan, Severity, chance_to_pass
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.capture.runs import refuse_open_capture
from hollowstack.server.inspection import records, sampling, signing
from hollowstack.server.inspection.models import Sample, Signature
from hollowstack.server.inspection.sampling import Then, Worst
from hollowstack.server.stacks.models import Stack

router = Router(tags=["inspection"])
_SHARES = [share / 1000 for share in range(0, 201, 4)]
"""Of bad pages, at which the chance to pass is told: up to a fifth."""


class PlanOut(BaseModel):
    """How many pages of a lot are looked at, and how many of them may be bad."""

    letter: str
    """The code letter; empty for a lot of a single page."""
    size: int
    accept: int
    reject: int
    severity: Severity


class ProposedOut(BaseModel):
    """How a lot would be looked at."""

    lot: int
    plan: PlanOut
    source: str
    """Who captured it, and where."""
    earlier: int
    """Lots of that source that were decided under this plan before."""
    stopped: bool
    """Whether so many of them were not accepted that all pages are looked at."""
    curve: list[tuple[float, float]]
    """Shares of bad pages, each with the chance that such a lot passes."""
    to_do: list[str]
    """What is to be done before a sample can be drawn."""


class SampledPageOut(BaseModel):
    """What an inspector said of a page."""

    page: int
    worst: Worst
    note: str
    by: str
    at: datetime
    stands: bool
    """Whether the page is still the one that was looked at."""


class SampleOut(BaseModel):
    """A sample, and how far it has been gone through."""

    id: int
    by: str
    at: datetime
    first: int | None
    """The page with which the document begins that is the lot; null where that is the stack."""
    lot: int
    source: str
    level: Level
    aql: Aql
    plan: PlanOut
    seed: int
    everything: bool
    state: Sample.State
    returned: bool
    decided_by: str
    decided_at: datetime | None
    pages: list[int]
    """Those that are looked at."""
    looks: list[SampledPageOut]
    left: list[int]
    gone: int
    """Pages that were drawn and are no longer in the output: another sample is to be drawn then."""
    bad: int
    may_accept: bool
    may_reject: bool
    sentence: str
    """What the figures come to by the plan."""


class SignatureOut(BaseModel):
    """Who signed for the stack and when, and why it was reopened; empty where it was not."""

    id: int
    by: str
    at: datetime
    reopened_by: str
    reopened_at: datetime | None
    reopened_why: str


class SigningOut(BaseModel):
    """The samples and signatures of a stack, the last ones first."""

    samples: list[SampleOut]
    signatures: list[SignatureOut]
    signed: bool
    signable: bool
    against: list[str]
    """What of its samples stands against signing for it; beside that, what a plan has ``to_do`` is to be done."""


class SampleIn(Schema):
    """Which lot is looked at, and how closely."""

    first: int | None = None
    level: Level = "II"
    aql: Aql = "2.5"


class SampledPageIn(Schema):
    """What is said of a page: the class of its worst defect, or that it is good."""

    worst: Worst
    note: str = Field("", max_length=400)
    seen: str | None
    """Key of the clean page that was looked at."""


class DecisionIn(Schema):
    """What is decided on the lot."""

    then: Then


class ReopenIn(Schema):
    """Why a stack is opened again."""

    why: str


@router.get("/stacks/{int:stack_id}/plan", response={200: ProposedOut, 404: Problem})
def get_plan(request: Request, stack_id: int, asked: Annotated[SampleIn, Query()]) -> ProposedOut:
    """How a stack, or a document of it, would be looked at."""
    found = sampling.propose(Stack.objects.get(pk=stack_id), asked.first, asked.level, asked.aql)
    plan = found.plan
    return ProposedOut(
        lot=found.lot, plan=PlanOut(**plan._asdict(), severity=found.standing.severity), source=found.source,
        earlier=found.earlier, stopped=found.standing.stopped, curve=_curve(plan, found.lot), to_do=found.to_do,
    )  # fmt: skip


def _curve(plan: Plan, lot: int) -> list[tuple[float, float]]:
    """The chance to pass over shares that are whole pages of the lot."""
    if lot < 2:
        return []
    bad = sorted({round(share * lot) for share in _SHARES})
    return [(pages / lot, round(chance_to_pass(plan, pages / lot, lot), 4)) for pages in bad]


@router.get("/stacks/{int:stack_id}/signing", response={200: SigningOut, 404: Problem})
def get_signing(request: Request, stack_id: int) -> SigningOut:
    """The samples of a stack, who signed for it, and what is to be done before somebody can."""
    stack = Stack.objects.get(pk=stack_id)
    samples = stack.samples.exclude(state=Sample.State.WITHDRAWN).select_related("by", "decided_by").order_by("-pk")
    signed = stack.signed_at is not None
    against = signing.Against([], []) if signed else signing.against_signing(stack)
    return SigningOut(
        samples=[_sample(one) for one in samples],
        signatures=[_signature(one) for one in stack.signatures.order_by("-pk")],
        signed=signed,
        signable=not signed and not any(against),
        against=against.samples,
    )


@router.post("/stacks/{int:stack_id}/samples", response={201: SampleOut, 404: Problem})
def create_sample(request: Request, stack_id: int, asked: SampleIn) -> Status[SampleOut]:
    """Draw a sample; one that is open is withdrawn for it."""
    return Status(201, _sample(sampling.draw(stack_id, request.user, asked.first, asked.level, asked.aql)))


@router.put("/samples/{int:sample_id}/looks/{int:page_id}", response={200: SampleOut, 404: Problem, 409: Problem})
def put_look(request: Request, sample_id: int, page_id: int, look: SampledPageIn) -> SampleOut:
    """Say how good a page of a sample is."""
    row = sampling.look(sample_id, request.user, page_id, look.worst, look.note, look.seen)
    return _sample(row.sample)


@router.delete("/samples/{int:sample_id}/looks/{int:page_id}", response={200: SampleOut, 404: Problem, 409: Problem})
def delete_look(request: Request, sample_id: int, page_id: int) -> SampleOut:
    """Take back what was said of a page."""
    sampling.forget(sample_id, page_id)
    return _sample(Sample.objects.get(pk=sample_id))


@router.put("/samples/{int:sample_id}/decision", response={200: SampleOut, 404: Problem, 409: Problem})
def put_decision(request: Request, sample_id: int, decision: DecisionIn) -> SampleOut:
    """Decide on a lot by its sample: it must be what the plan says."""
    return _sample(sampling.decide(sample_id, request.user, decision.then))


@router.post("/stacks/{int:stack_id}/signatures", response={201: SignatureOut, 404: Problem})
def create_signature(request: Request, stack_id: int) -> Status[SignatureOut]:
    """Sign for a stack: it is closed to changes from then on."""
    refuse_open_capture(stack_id)
    return Status(201, _signature(signing.sign(stack_id, request.user)))


@router.post("/stacks/{int:stack_id}/reopening", response={200: SignatureOut, 404: Problem})
def reopen_stack(request: Request, stack_id: int, reopen: ReopenIn) -> SignatureOut:
    """Open a stack again that was signed for; the reason goes on record."""
    return _signature(signing.reopen(stack_id, request.user, reopen.why))


@router.get("/signatures/{int:signature_id}/record.json", response={200: "application/json", 404: Problem})
def get_record_json(request: Request, signature_id: int) -> HttpResponse:
    """All that was known of a stack when it was signed for."""
    signature = _of_present_stack(signature_id)
    return _file(records.as_json(signature), "application/json; charset=utf-8", signature, "json")


@router.get("/signatures/{int:signature_id}/record.pdf", response={200: "application/pdf", 404: Problem})
def get_record_pdf(request: Request, signature_id: int) -> HttpResponse:
    """The same as an archival document."""
    signature = _of_present_stack(signature_id)
    return _file(records.as_pdf(signature), "application/pdf", signature, "pdf")


def _of_present_stack(signature_id: int) -> Signature:
    return Signature.objects.get(pk=signature_id, stack__deleted_at=None)


def _file(data: bytes, kind: str, signature: Signature, suffix: str) -> HttpResponse:
    response = HttpResponse(data, content_type=kind)
    name = f"inspection record {signature.pk}, {signature.record['stack']['name']}.{suffix}"
    response.headers["Content-Disposition"] = content_disposition_header(as_attachment=True, filename=name)
    return response


def _sample(sample: Sample) -> SampleOut:
    now = sampling.progress_of(sample)
    left = set(now.left)
    return SampleOut(
        id=sample.pk, by=_name(sample.by), at=sample.at, first=sample.first, lot=len(sample.lot), source=sample.source,
        level=cast("Level", sample.level), aql=cast("Aql", sample.aql), seed=sample.seed, everything=sample.everything,
        plan=PlanOut(**sampling.plan_of(sample)._asdict(), severity=cast("Severity", sample.severity)),
        state=Sample.State(sample.state), returned=sample.returned, decided_by=_name(sample.decided_by),
        decided_at=sample.decided_at, pages=sample.drawn, left=now.left, gone=now.gone, bad=now.bad,
        may_accept=now.may_accept, may_reject=now.may_reject, sentence=now.sentence,
        looks=[
            SampledPageOut(
                page=one.page_id, worst=cast("Worst", one.worst), note=one.note, by=_name(one.by), at=one.at,
                stands=one.page_id not in left,
            )
            for one in sample.looks.select_related("by").order_by("pk")
        ],
    )  # fmt: skip


def _name(user: User | None) -> str:
    return user.get_username() if user is not None else ""


def _signature(row: Signature) -> SignatureOut:
    return SignatureOut(
        id=row.pk,
        by=row.by,
        at=row.at,
        reopened_by=row.reopened_by,
        reopened_at=row.reopened_at,
        reopened_why=row.reopened_why,
    )
