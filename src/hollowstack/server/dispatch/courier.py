"""Carrying one delivery out: from the document that is ready to the proof that it arrived."""

import logging
from datetime import datetime
from pathlib import Path

from django.conf import settings
from django.db.models import Exists, OuterRef, Q, QuerySet
from django.utils import timezone

from hollowstack.core.page.name_patterns import numbered
from hollowstack.server.dispatch.carriers import (
    Carrier,
    CarrierFault,
    Gone,
    Message,
    Parcel,
    Placed,
    Taken,
    digest_here,
    digest_there,
)
from hollowstack.server.dispatch.course import OPEN, Begun, Differed, Handed, Missed, Proven
from hollowstack.server.dispatch.deliveries import name_of, tell
from hollowstack.server.dispatch.destinations import carrier_of
from hollowstack.server.dispatch.models import Delivery
from hollowstack.server.errors import Refused
from hollowstack.server.results.models import Result
from hollowstack.server.storage import places

_MOST_NUMBER = 999
_DAY = 86_400.0
_OTHER = "What lies there is not what was sent: it was taken away, and is sent anew."
_CHANGED = "What lies there is not what was sent: it is left as it is, and the document is sent anew."
_NOTHING = "It was handed over, and does not lie there: it is sent anew."
log = logging.getLogger("hollowstack.dispatch")


def carry(delivery_id: int) -> None:
    """Take a delivery as far as it goes now. It may be called again after having been cut off anywhere."""
    delivery = Delivery.objects.select_related("document", "destination").get(pk=delivery_id)
    try:
        carrier = carrier_of(delivery.destination)
        if fresh := delivery.state != "proving":
            _send(delivery, carrier)
        _prove(delivery, carrier, fresh=fresh)
    except CarrierFault as fault:
        _tell_if_open(delivery, Missed(fault.said, lasting=fault.lasting))
    except Refused:
        log.info("delivery %d went on by another's hand", delivery_id)
    except Exception as error:
        log.exception("delivery %d", delivery_id)
        _tell_if_open(delivery, Missed(f"The program failed at it ({type(error).__name__}): tell whoever runs the server."))


def _send(delivery: Delivery, carrier: Carrier) -> None:
    file, made = _ready(delivery)
    _tell(delivery, Begun(), sha256=made["sha256"], bytes=made["bytes"])
    _refuse_damaged(file, made["sha256"])
    if delivery.document is not None:
        # Anew by its pattern: the name of the try before may have had a number.
        delivery.name = name_of(delivery, delivery.document)
    name, placed = _put(carrier, _parcel(delivery, file), ask=delivery.destination.clash == "ask")
    _tell(delivery, Handed(), name=name, where=placed.where, answer=placed.answer)


def _put(carrier: Carrier, parcel: Parcel, *, ask: bool) -> tuple[str, Placed]:
    """Under its name, or under the first number behind it that is free."""
    for number in range(1, _MOST_NUMBER + 1):
        name = parcel.name if number == 1 else numbered(parcel.name, number)
        try:
            return name, carrier.put(Parcel(parcel.file, name, parcel.sha256, parcel.mark, parcel.message))
        except Taken:
            if ask:
                raise CarrierFault(
                    f"Something else lies there as {name}: change the pattern of names, or move it away.", lasting=True
                ) from None
    raise CarrierFault(f"All names up to {name} are taken there: change the pattern of names.", lasting=True)


def _prove(delivery: Delivery, carrier: Carrier, *, fresh: bool) -> None:
    """``fresh`` where it was put there this very moment: what lies there later may be somebody else's, and is left alone."""
    now = timezone.now()
    if not carrier.reads_back:
        _tell(delivery, Proven(), proof="answer", arrived_at=now)
        return
    try:
        found = digest_there(carrier, delivery.name)
    except Gone:
        _tell(delivery, Differed(_NOTHING))
        return
    if found != delivery.sha256:
        if fresh:
            carrier.remove(delivery.name)
        _tell(delivery, Differed(_OTHER if fresh else _CHANGED))
        return
    due = now.timestamp() + settings.RECEIPT_DAYS * _DAY if settings.RECEIPT_DAYS else 0.0
    _tell(delivery, Proven(), proof="read", arrived_at=now, check_due=due)


def look_again(delivery_id: int) -> None:
    """Whether what was delivered is still there and whole; what was found is kept, and when it is looked at next."""
    delivery = Delivery.objects.select_related("destination").get(pk=delivery_id)
    now = timezone.now()
    try:
        found = digest_there(carrier_of(delivery.destination), delivery.name)
        missing = "" if found == delivery.sha256 else "It is there, and is not what was delivered any more."
    except Gone:
        missing = "It is not there any more."
    except CarrierFault as fault:
        # That a place does not answer says nothing of what lies there.
        Delivery.objects.filter(pk=delivery_id).update(check_due=now.timestamp() + _HOUR, check_said=fault.said)
        return
    due = now.timestamp() + settings.RECEIPT_DAYS * _DAY if settings.RECEIPT_DAYS else 0.0
    Delivery.objects.filter(pk=delivery_id).update(checked_at=now, missing=missing, check_due=due, check_said="")


_HOUR = 3600.0


def _ready(delivery: Delivery) -> tuple[Path, dict[str, object]]:
    document = delivery.document
    if document is None or document.deleted_at is not None or document.stack.deleted_at is not None:
        raise CarrierFault("The document is gone, or in the bin: take it back, or bind it again.", lasting=True)
    result = Result.objects.filter(key=document.key).first()
    if result is not None and result.body is None and result.state == Result.State.FAILED:
        raise CarrierFault(f"The document could not be bound: {result.error}", lasting=True)
    if result is None or result.body is None:
        raise CarrierFault("The document is not bound yet.")
    return places.document_path(document.key), result.body


def due_ones(now: float) -> QuerySet[Delivery]:
    """Deliveries for which there is something to do now, the longest due first; what is still being bound is waited for."""
    made = Result.objects.filter(key=OuterRef("document__key")).filter(Q(body__isnull=False) | Q(state=Result.State.FAILED))
    gone = Q(document=None) | Q(document__deleted_at__isnull=False)
    wanted = Delivery.objects.filter(state__in=OPEN, held=False, due__lte=now)
    return wanted.filter(Q(state="proving") | gone | Exists(made)).order_by("due", "pk")


def receipts_due(now: float) -> QuerySet[Delivery]:
    """What has arrived and is to be looked at again now, the longest due first."""
    return Delivery.objects.filter(state="arrived", proof="read", check_due__gt=0, check_due__lte=now).order_by("check_due")


def _refuse_damaged(file: Path, sha256: object) -> None:
    try:
        found = digest_here(file)
    except OSError as error:
        raise CarrierFault(f"The document's file cannot be read here ({error.strerror}).") from error
    if found != sha256:
        raise CarrierFault("The document's file is damaged here: bind it again.", lasting=True)


def _parcel(delivery: Delivery, file: Path) -> Parcel:
    message = None
    if told := delivery.message:
        written: datetime = delivery.asked_at
        message = Message(tuple(told["recipients"]), told["subject"], told["text"], written, attached=not told.get("link"))
    return Parcel(file, delivery.name, delivery.sha256, delivery.mark.hex, message)


def _tell(delivery: Delivery, event: object, **also: object) -> None:
    """Of how it stands now: a person may have held it or given it up meanwhile. Raises Refused where they gave it up."""
    delivery.refresh_from_db(fields=[*Delivery.STANDING])
    tell(delivery, event, **also)  # type: ignore[arg-type]


def _tell_if_open(delivery: Delivery, event: Missed) -> None:
    try:
        _tell(delivery, event)
    except Refused:
        log.info("delivery %d was given up meanwhile: %s", delivery.pk, event.said)
