"""Simulated stations, and captures with them carried out here and now."""

import threading
from collections.abc import Iterator

import pytest
from PIL import Image

from hollowstack.server.capture import runs, station_list
from hollowstack.server.capture.executor import Carrier
from hollowstack.server.capture.models import Run, Station
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.services import order_of
from hollowstack.server.storage import places
from hollowstack.standins.station.device import MODELS
from hollowstack.standins.station.server import Station as Simulated
from hollowstack.standins.station.server import _obey as obey

Manner = dict[str, float | bool]
MANNERS: dict[str, Manner] = {"well": {}, "trying": {"slow_s": 0.05, "silent_s": 0.05, "stale": True}}
"""How stations behave: as they should; or slow, silent in between, and not to be believed about what they hold."""


@pytest.fixture
def manner() -> Manner:
    """Capture tests are run in every manner (``conftest.pytest_generate_tests``), all others in this one."""
    return MANNERS["well"]


@pytest.fixture
def glass(manner: Manner) -> Iterator[Simulated]:
    yield from _started(0, "photographs", manner)


@pytest.fixture
def feeder(manner: Manner) -> Iterator[Simulated]:
    yield from _started(1, "register-8", manner)


@pytest.fixture
def two_sided(manner: Manner) -> Iterator[Simulated]:
    yield from _started(2, "register-8", manner)


def _started(model: int, bundle: str, manner: Manner) -> Iterator[Simulated]:
    made = Simulated(MODELS[model])
    made.start()
    obey(made, {"load": bundle, "speed": 0, **manner})
    yield made
    made.shutdown()
    made.server_close()


def capture(simulated: Simulated, stack, patience: float = 30, **settings) -> Run:
    """Ask for a capture and carry it out here and now."""
    station = station_of(simulated)
    wish = CaptureSettings.model_validate({"ppi": 75, "source": "feeder", **settings})
    return carry(runs.start(stack.pk, station.pk, wish, None), patience)


def station_of(simulated: Simulated) -> Station:
    return Station.objects.filter(address=simulated.address).first() or station_list.add_station(simulated.address)


def carry(run: Run, patience: float = 30) -> Run:
    # Nothing but the run itself: it closes its thread's connection, as in a process of its own.
    thread = threading.Thread(target=Carrier(run.pk, patience).work)
    thread.start()
    thread.join(60)
    assert not thread.is_alive()
    return Run.objects.get(pk=run.pk)


def delivered(simulated: Simulated) -> list[tuple[str, bool]]:
    return [(sheet["name"], sheet["back"]) for image in simulated.device.truth for sheet in image["sheets"]]


def sizes(stack) -> list[tuple[int, int]]:
    masters = [Page.objects.get(pk=pk).source.master_id for pk in order_of(stack.pk)]
    found = []
    for sha256 in masters:
        with Image.open(places.master_path(sha256)) as image:
            found.append(image.size)
    return found
