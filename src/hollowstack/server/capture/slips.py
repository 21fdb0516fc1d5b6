"""Order slips: saved capture jobs, and what follows a capture that was started by one."""

import re
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F
from django.utils import timezone

from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.capture import services
from hollowstack.server.capture.models import OrderSlip, Run, Station
from hollowstack.server.capture.settings import CaptureSettings, jobs_for
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Stack
from hollowstack.server.stacks.overview import counts_of
from hollowstack.server.stacks.services import MOST_NAME, create_stack, treatment_json
from hollowstack.server.treatments import versions

_FILLED_IN = ("date", "number")
_BRACES = re.compile(r"\{([^{}]*)\}")
_OF_THE_MOMENT: dict[str, Any] = {"frames": [], "turn": 0, "place": "end", "page": None, "sheets": None, "half": ""}
"""Settings that belong to what lies there now, and not on a slip."""


def save(
    name: str,
    station_id: int,
    settings: CaptureSettings,
    treatment: str,
    new_document_after: str,
    naming: str,
    user: User | None,
) -> OrderSlip:
    """Keep a capture job under a name; the one that had that name is written over.

    Raises:
        Refused: The name or the naming will not do, or the station cannot do it.
    """
    name, naming = " ".join(name.split()), " ".join(naming.split())
    if not name:
        raise Refused("An order slip needs a name: give it one.")
    if len(name) > 80 or len(naming) > 120:
        raise Refused("The name is too long: 80 letters are the most, and 120 for the naming of stacks.")
    if unknown := [word for word in _BRACES.findall(naming) if word not in _FILLED_IN]:
        raise Refused(f"“{{{unknown[0]}}}” cannot be filled in: use {{date}} or {{number}}.")
    versions.latest(treatment)
    Treatment.model_validate({"new_document_after": new_document_after})
    station = Station.objects.get(pk=station_id)
    kept = settings.model_copy(update=_OF_THE_MOMENT)
    jobs_for(kept, services.capabilities_of(station))
    slip, _ = OrderSlip.objects.update_or_create(
        name=name,
        defaults={
            "station": station,
            "settings": kept.model_dump(),
            "treatment": treatment,
            "new_document_after": new_document_after,
            "naming": naming or f"{name} {{date}} {{number}}",
            "by": user,
        },
    )
    return slip


def start(slip_id: int, user: User | None) -> Run:
    """Capture as a slip says into a new stack; when all is corrected and read it is bound.

    Raises:
        Refused: The station is gone, at work, or cannot do it.
    """
    with transaction.atomic():
        slip = OrderSlip.objects.get(pk=slip_id)
        if slip.station is None:
            raise Refused("The station of this order slip is no longer here: add it again and keep the slip once more.")
        OrderSlip.objects.filter(pk=slip.pk).update(used=F("used") + 1)
        title = _filled(slip.naming, slip.used + 1)
        stack = create_stack(title, user, slip.treatment)
        treatment = versions.latest(slip.treatment).model_copy(update={"new_document_after": slip.new_document_after})
        Stack.objects.filter(pk=stack.pk).update(treatment=treatment_json(treatment))
        run = services.start(stack.pk, slip.station.pk, CaptureSettings.model_validate(slip.settings), user)
        run.bind_as = title
        run.save(update_fields=["bind_as"])
    return run


def bind_what_is_ready() -> None:
    """Bind the stacks of finished captures that are to be bound, where all pages are worked through."""
    for run in Run.objects.filter(state=Run.State.DONE).exclude(bind_as="").select_related("by"):
        counts = counts_of(run.stack_id)
        if counts.ready + counts.aside + counts.failed < counts.pages:
            continue
        problem = ""
        with transaction.atomic():
            try:
                ask_to_bind(run.stack_id, run.bind_as, run.by)
            except Refused as error:
                problem = str(error)
            Run.objects.filter(pk=run.pk).update(bind_as="", problem=problem)


def _filled(naming: str, number: int) -> str:
    words = {"date": timezone.localdate().isoformat(), "number": str(number)}
    return _BRACES.sub(lambda found: words[found[1]], naming)[:MOST_NAME]
