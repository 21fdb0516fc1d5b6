"""Order slips: saved capture jobs, and what follows a capture that was started by one."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F, Max, Q, QuerySet

from hollowstack.core.arrange.order import DocumentRule
from hollowstack.core.page.aside import COVER_SHEET
from hollowstack.core.settings.original import Original
from hollowstack.core.settings.treatment import with_documents
from hollowstack.server.capture import runs, station_list
from hollowstack.server.capture.answers import NOTHING_SAID, Answers, Asked, original_of, require_answers
from hollowstack.server.capture.models import OrderSlip, Run, Station
from hollowstack.server.capture.paper import path_of
from hollowstack.server.capture.settings import CaptureSettings, jobs_for
from hollowstack.server.capture.slip_names import naming_of, title_of
from hollowstack.server.dispatch.deliveries import DispatchAsked, dispatch
from hollowstack.server.dispatch.destinations import present
from hollowstack.server.documents.models import Document
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import counts_of
from hollowstack.server.stacks.services import create_stack, treatment_json
from hollowstack.server.treatments import versions

_OF_THE_MOMENT: dict[str, Any] = {"frames": [], "turn": 0, "place": "end", "page": None, "sheets": None, "half": ""}
"""Settings that belong to what lies there now, and not on a slip."""
MOST_SLIP_NAME, MOST_NAMING = 80, 120
GONE = "The station of this order slip is no longer here: open the slip, and choose another one."


@dataclass(frozen=True)
class Job:
    """What an order slip says."""

    name: str
    station: int
    settings: CaptureSettings
    treatment: str
    documents: DocumentRule
    naming: str = ""
    asks: tuple[Asked, ...] = ()
    original: Original = field(default_factory=Original)
    shared: bool = True
    send_to: tuple[int, ...] = ()
    """Destinations that what is bound is sent to."""


def seen_by(user: User | None) -> QuerySet[OrderSlip]:
    """The slips that somebody sees: those that are shared, and their own."""
    mine = Q(by=user) if user is not None else Q()
    return OrderSlip.objects.filter(Q(shared=True) | Q(by=None) | mine)


def save(job: Job, user: User | None) -> OrderSlip:
    """Keep a capture job under a name of its own: none that is kept is written over.

    Raises:
        Refused: The name or the naming will not do, another slip has that name, or the station cannot do it.
    """
    fields = _checked(job)
    with transaction.atomic():
        _refuse_taken(OrderSlip.objects.all(), fields["name"])
        last = OrderSlip.objects.aggregate(last=Max("position"))["last"]
        return OrderSlip.objects.create(**fields, by=user, position=0 if last is None else last + 1)


def change(slip_id: int, job: Job, user: User | None) -> OrderSlip:
    """Say something else on a slip, or name it otherwise. Raises Refused as ``save`` does, OrderSlip.DoesNotExist."""
    fields = _checked(job)
    with transaction.atomic():
        slip = seen_by(user).get(pk=slip_id)
        _refuse_taken(OrderSlip.objects.exclude(pk=slip_id), fields["name"])
        if fields["shared"] != slip.shared and slip.by_id is not None and (user is None or slip.by_id != user.pk):
            raise Refused("Only whoever made this slip can share it, or keep it to themselves.")
        for name, value in fields.items():
            setattr(slip, name, value)
        slip.save(update_fields=list(fields))
    return slip


def copy(slip_id: int, user: User | None) -> OrderSlip:
    """Another slip that says the same, behind it. Raises OrderSlip.DoesNotExist."""
    with transaction.atomic():
        slip = seen_by(user).get(pk=slip_id)
        taken = set(OrderSlip.objects.values_list("name", flat=True))
        base = f"{slip.name[: MOST_SLIP_NAME - 10]}, copy"
        name = next(one for one in (base, *(f"{base} {number}" for number in range(2, 1000))) if one not in taken)
        OrderSlip.objects.filter(position__gt=slip.position).update(position=F("position") + 1)
        slip.pk, slip.name, slip.by, slip.used, slip.position = None, name, user, 0, slip.position + 1
        slip.save(force_insert=True)
    return slip


def arrange(order: list[int], user: User | None) -> None:
    """Put the slips that they see into an order; those that are not named come behind, as they were."""
    with transaction.atomic():
        known = {slip.pk for slip in seen_by(user)}
        named = [pk for pk in dict.fromkeys(order) if pk in known]
        rest = [pk for pk in OrderSlip.objects.values_list("pk", flat=True) if pk not in set(named)]
        for position, pk in enumerate([*named, *rest]):
            OrderSlip.objects.filter(pk=pk).update(position=position)


def start(slip_id: int, user: User | None, answers: Answers = NOTHING_SAID) -> Run:
    """Capture as a slip says into a new stack; when all is corrected and read it is bound.

    Raises:
        Refused: Something that it asks for was not said, or the station is gone, at work, or cannot do it.
    """
    with transaction.atomic():
        slip = OrderSlip.objects.get(pk=slip_id)
        if slip.station is None:
            raise Refused(GONE)
        require_answers(slip, answers)
        OrderSlip.objects.filter(pk=slip.pk).update(used=F("used") + 1)
        title = title_of(slip, answers)
        stack = create_stack(title, user, slip.treatment)
        treatment = with_documents(versions.latest(slip.treatment), rule_of(slip))
        original = original_of(slip, answers).model_dump(mode="json", exclude_defaults=True)
        Stack.objects.filter(pk=stack.pk).update(treatment=treatment_json(treatment), original=original)
        run = runs.start(stack.pk, slip.station.pk, CaptureSettings.model_validate(slip.settings), user)
        run.bind_as, run.send_to = title, slip.send_to
        run.save(update_fields=["bind_as", "send_to"])
    return run


def bind_what_is_ready() -> None:
    """Bind the stacks of finished captures that are to be bound, where all pages are worked through, and send them on."""
    for run in Run.objects.filter(state=Run.State.DONE).exclude(bind_as="").select_related("by"):
        counts = counts_of(run.stack_id)
        if counts.ready + counts.aside + counts.failed < counts.pages or _has_new_cover_sheet(run.stack_id):
            continue
        problem = ""
        with transaction.atomic():
            try:
                documents = ask_to_bind(run.stack_id, run.bind_as, run.by)
            except Refused as error:
                problem = str(error)
            else:
                problem = _send_on(run, documents)
            Run.objects.filter(pk=run.pk).update(bind_as="", send_to=[], problem=problem)


def _has_new_cover_sheet(stack_id: int) -> bool:
    """Whether pages may be on their way to the stack whose cover sheet lies on them."""
    return Page.objects.filter(stack=stack_id, removed=False, aside=COVER_SHEET, cover_sheet=None).exists()


def _send_on(run: Run, documents: Sequence[Document]) -> str:
    """Send what was bound where the slip says; why some of it was not sent, or nothing."""
    there = set(present().filter(pk__in=run.send_to).values_list("pk", flat=True))
    gone = len(set(run.send_to)) - len(there)
    said = "" if not gone else f"It is bound, but {gone_words(gone)}."
    if not there:
        return said
    asked = DispatchAsked(documents=tuple(one.pk for one in documents), destinations=tuple(sorted(there)))
    try:
        dispatch(asked, run.by)
    except Refused as error:
        return f"It is bound, but was not sent: {error}"
    return said


def gone_words(destinations: int) -> str:
    """That so many destinations of a slip, at least one, are not there any more."""
    return "a destination of the slip is gone" if destinations == 1 else f"{destinations} destinations of the slip are gone"


def rule_of(slip: OrderSlip) -> DocumentRule:
    """Where documents begin in what a slip captures."""
    return DocumentRule(slip.new_document_after, slip.pages_a_document)  # type: ignore[arg-type]


def _checked(job: Job) -> dict[str, Any]:
    """A job as the fields of a slip. Raises Refused."""
    name, naming = " ".join(job.name.split()), " ".join(job.naming.split())
    if not name:
        raise Refused("An order slip needs a name: give it one.")
    if len(name) > MOST_SLIP_NAME or len(naming) > MOST_NAMING:
        raise Refused("The name is too long: 80 letters are the most, and 120 for the naming of stacks.")
    with_documents(versions.latest(job.treatment), job.documents)
    station = Station.objects.get(pk=job.station)
    kept = job.settings.model_copy(update=_OF_THE_MOMENT)
    jobs_for(kept, station_list.capabilities_of(station), path_of(station, kept.source))
    asks, send_to = list(dict.fromkeys(job.asks)), list(dict.fromkeys(job.send_to))
    if gone := len(send_to) - present().filter(pk__in=send_to).count():
        raise Refused(f"{gone_words(gone)}: choose others.".capitalize())
    return {
        "name": name,
        "station": station,
        "settings": kept.model_dump(),
        "treatment": job.treatment,
        "new_document_after": job.documents.after,
        "pages_a_document": job.documents.pages,
        "naming": naming_of(naming, name, asks),
        "asks": asks,
        "original": job.original.model_dump(mode="json", exclude_defaults=True),
        "shared": job.shared,
        "send_to": send_to,
    }


def _refuse_taken(among: QuerySet[OrderSlip], name: str) -> None:
    if among.filter(name=name).exists():
        raise Refused(
            f"Another order slip is called {name}: give this one a name of its own, or open that one to change it."
        )
