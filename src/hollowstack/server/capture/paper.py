"""How paper goes into the sources of a station, as somebody has said or a test sheet has shown."""

from dataclasses import asdict

from django.db import transaction
from pydantic import TypeAdapter

from hollowstack.core.page.paper_path import COMMON, PaperPath, Source
from hollowstack.server.capture.escl import Capabilities
from hollowstack.server.capture.models import Station
from hollowstack.server.errors import Refused

_PATH = TypeAdapter(PaperPath)
_PLACES: dict[Source, str] = {"feeder": "say where the guides hold the paper", "platen": "say at which corner the mark is"}


def path_of(station: Station, source: Source) -> PaperPath | None:
    """How paper goes into a source; None where nobody has said so far."""
    told = station.paper.get(source)
    return _PATH.validate_python(told) if told else None


def proposed(can: Capabilities, source: Source) -> PaperPath:
    """What is likely, before anybody has said: as most devices have it, with the guides where the station says they are."""
    common = COMMON[source]
    return PaperPath(common.face, common.edge, can.guides) if source == "feeder" and can.guides else common


def keep(station_id: int, source: Source, path: PaperPath) -> Station:
    """Say how paper goes into a source from now on. Raises Refused where that cannot be said of it."""
    if not path.suits(source):
        raise Refused(f"A {'glass' if source == 'platen' else 'feeder'} is told otherwise: {_PLACES[source]}.")
    with transaction.atomic():
        station = Station.objects.get(pk=station_id)
        station.paper = {**station.paper, source: asdict(path)}
        station.save(update_fields=["paper"])
    return station
