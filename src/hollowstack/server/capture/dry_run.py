"""A slip tried dry: what it would do, and what stands against it, without a sheet moved."""

from dataclasses import dataclass

from hollowstack.server.capture import slips, station_list
from hollowstack.server.capture.answers import Answers, require_answers
from hollowstack.server.capture.escl import StationError
from hollowstack.server.capture.models import OrderSlip, Run
from hollowstack.server.capture.paper import path_of
from hollowstack.server.capture.settings import CaptureSettings, jobs_for
from hollowstack.server.capture.slip_names import title_of
from hollowstack.server.capture.standing import standing
from hollowstack.server.dispatch.destinations import present
from hollowstack.server.errors import NoRoom, Refused
from hollowstack.server.storage.room import require_room
from hollowstack.server.treatments import versions

_LOOK_SECONDS = 4.0


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing that was looked at: whether it is well, and a sentence."""

    well: bool
    sentence: str


def try_dry(slip: OrderSlip, answers: Answers) -> list[Finding]:
    """Everything that starting it would come upon, in the order in which it would; nothing is changed."""
    return [_station(slip), _paper(slip), _room(), _treatment(slip), _name(slip, answers), *_destinations(slip)]


def _station(slip: OrderSlip) -> Finding:
    if slip.station is None:
        return Finding(False, slips.GONE)
    settings = CaptureSettings.model_validate(slip.settings)
    try:
        jobs_for(settings, station_list.capabilities_of(slip.station), path_of(slip.station, settings.source))
        station_list.refuse_at_work(slip.station)
    except Refused as error:
        return Finding(False, str(error))
    return Finding(True, f"{slip.station.name} can do what is asked of it.")


def _paper(slip: OrderSlip) -> Finding:
    """How the station stands now, and whether paper lies in it."""
    if slip.station is None:
        return Finding(False, "Without a station there is no paper to look for.")
    try:
        with station_list.talk_to(slip.station.address, _LOOK_SECONDS) as client:
            status = client.status()
    except (StationError, Refused) as error:
        return Finding(False, f"{slip.station.name}: {error}")
    run = Run.objects.filter(station=slip.station, state__in=Run.UNFINISHED).last()
    words, advice = standing(status, run)
    if not words.startswith("ready"):
        return Finding(False, f"{slip.station.name} is {words}. {advice}".strip())
    if slip.settings.get("source") == "feeder" and "empty" in words:
        return Finding(False, f"The feeder of {slip.station.name} is empty: lay the paper in before you start.")
    return Finding(True, f"{slip.station.name} is ready.")


def _room() -> Finding:
    try:
        require_room()
    except NoRoom as error:
        return Finding(False, str(error))
    return Finding(True, "There is room for what comes.")


def _treatment(slip: OrderSlip) -> Finding:
    try:
        treatment = versions.latest(slip.treatment)
    except Refused as error:
        return Finding(False, str(error))
    rule = slips.rule_of(slip)
    return Finding(True, f"{versions.titled(treatment)} corrects the pages; a new document begins after {rule.words}.")


def _destinations(slip: OrderSlip) -> list[Finding]:
    """Where it is sent afterwards: a destination that is gone, or did not work when it was tried."""
    there = present().in_bulk(slip.send_to)
    found = [Finding(True, f"What is bound goes to {one.name}.") for one in there.values() if not one.tried_said]
    found += [
        Finding(False, f"{one.name} did not work when it was tried: {one.tried_said}")
        for one in there.values()
        if one.tried_said
    ]
    if gone := len(slip.send_to) - len(there):
        found.append(Finding(False, f"{slips.gone_words(gone)}: open it, and choose others.".capitalize()))
    return found


def _name(slip: OrderSlip, answers: Answers) -> Finding:
    try:
        require_answers(slip, answers)
    except Refused:
        return Finding(True, "What it asks for is asked when it starts, before the first sheet.")
    return Finding(True, f"The stack will be called “{title_of(slip, answers)}”, and is bound under that title.")
