"""The stations on the list: added, described, spoken to, forgotten."""

from dataclasses import asdict
from itertools import chain, count
from typing import Any

from django.db import transaction
from django.db.models import Q
from pydantic import TypeAdapter

from hollowstack.server.capture.addresses import allowed
from hollowstack.server.capture.escl import Capabilities, EsclClient, StationError
from hollowstack.server.capture.models import FoundStation, Run, Station
from hollowstack.server.errors import Refused

_LOOK_SECONDS = 4.0
MOST_NAME = 80
"""Letters of a station's name, and of its place."""
_CAPABILITIES = TypeAdapter(Capabilities)


def add_station(address: str, name: str = "", place: str = "") -> Station:
    """A station by its address. Raises Refused where nothing there speaks eSCL.

    No two go by one name: a second one is told by its place, or by a number.
    """
    address = address.strip().rstrip("/")
    if not address.startswith(("http://", "https://")):
        address = f"http://{address}"
    address = address.removesuffix("/eSCL")
    if Station.objects.filter(address=address).exists():
        raise Refused("That station is on the list already.")
    try:
        with talk_to(address, _LOOK_SECONDS) as client:
            can = client.capabilities()
    except StationError:
        # One sentence whatever is there instead: an address that is tried tells nothing of what else it does.
        raise Refused("No station answers there: check its power, its cable and its address.") from None
    place = " ".join(place.split())[:MOST_NAME]
    with transaction.atomic():
        return Station.objects.create(
            name=free_name(name.strip()[:MOST_NAME] or can.name, place),
            place=place,
            uuid=can.uuid,
            address=address,
            capabilities=asdict(can),
        )


def free_name(name: str, place: str = "") -> str:
    """The name, or one made of it that no station has yet."""
    taken = {one.casefold() for one in Station.objects.values_list("name", flat=True)}
    numbered = (f"{name[: MOST_NAME - 4]} {number}" for number in count(2))
    named = [name, *([f"{name}, {place}"[:MOST_NAME]] if place else [])]
    return next(one for one in chain(named, numbered) if one.casefold() not in taken)


def add_found(found_id: int) -> Station:
    """A station that was found, onto the list; one that is on it already is spoken to at its new address from now on.

    Raises:
        Refused: It cannot be spoken to, or is on the list as it is.
    """
    found = FoundStation.objects.get(pk=found_id)
    if found.problem:
        raise Refused(found.problem)
    known = known_as(found)
    if known is None:
        return add_station(found.address, found.name, found.place)
    if known.address == found.address:
        raise Refused("That station is on the list already.")
    with transaction.atomic():
        refuse_at_work(known)
        Station.objects.filter(pk=known.pk).update(address=found.address)
    return Station.objects.get(pk=known.pk)


def known_as(found: FoundStation) -> Station | None:
    """The station on the list that a found one is: by its address, or by what tells it from all others."""
    same = Q(address=found.address) | (Q(uuid=found.uuid) if found.uuid else Q())
    return Station.objects.filter(same).order_by("pk").first()


def identify(station_id: int) -> bool:
    """Have a device show which one it is; False where it knows no way. Raises Refused where it may not be spoken to."""
    station = Station.objects.get(pk=station_id)
    message = f"{station.name}: this one"
    with talk_to(station.address, _LOOK_SECONDS) as client:
        return client.identify(message)


def describe_station(station_id: int, name: str | None, place: str | None) -> Station:
    """Give a station a name and a place of one's own. Raises Refused where the name is empty, or another has it."""
    with transaction.atomic():
        station = Station.objects.get(pk=station_id)
        if name is not None:
            station.name = " ".join(name.split())[:MOST_NAME]
            if not station.name:
                raise Refused("A station needs a name: give it one.")
            if Station.objects.exclude(pk=station_id).filter(name__iexact=station.name).exists():
                raise Refused(f"Another station is called {station.name}: give this one a name of its own.")
        if place is not None:
            station.place = " ".join(place.split())[:MOST_NAME]
        station.save(update_fields=["name", "place"])
    return station


def talk_to(address: str, patience: float) -> EsclClient:
    """A station at an address, if the server may go there. Raises Refused."""
    place = allowed(address)
    return EsclClient(place.root, host=place.host, patience=patience)


def forget_station(station_id: int) -> Station:
    """Take a station off the list; what was captured with it stays. Raises Refused while a capture needs it."""
    with transaction.atomic():
        station = Station.objects.get(pk=station_id)
        refuse_at_work(station)
        station.delete()
    return station


def refuse_at_work(station: Station) -> None:
    """Raises Refused where a capture at a station is not finished."""
    if Run.objects.filter(station=station, state__in=Run.UNFINISHED).exists():
        raise Refused("This station has a capture that is not finished: finish or cancel that one first.")


def capabilities_of(station: Station) -> Capabilities:
    """What a station said it can do."""
    return capabilities_in(station.capabilities)


def capabilities_in(told: Any) -> Capabilities:
    """Capabilities as they are kept."""
    return _CAPABILITIES.validate_python(told)
