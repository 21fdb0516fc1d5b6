"""Slips that wait at a station: paper laid in, or the device's key, starts them, once for each load."""

from collections.abc import Iterator

import pytest
from django.contrib.auth.models import User

from hollowstack.core.arrange.order import DocumentRule
from hollowstack.server.capture import runs, slips, station_list, waiting
from hollowstack.server.capture.models import OrderSlip, Run, Station, WaitingSlip
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Stack
from hollowstack.standins.station.device import MODELS
from hollowstack.standins.station.server import Station as Simulated
from hollowstack.standins.station.server import _obey as obey
from tests.server.stations import Manner, carry

pytestmark = pytest.mark.django_db(transaction=True)


def started(model: int, manner: Manner) -> Iterator[Simulated]:
    made = Simulated(MODELS[model])
    made.start()
    obey(made, {"load": "", "speed": 0, **manner})
    yield made
    made.shutdown()
    made.server_close()


@pytest.fixture
def feeder(manner: Manner) -> Iterator[Simulated]:
    yield from started(1, manner)


@pytest.fixture
def glass(manner: Manner) -> Iterator[Simulated]:
    yield from started(0, manner)


@pytest.fixture
def mender(db) -> User:
    return User.objects.create_user("mender")


def slip_for(simulated: Simulated, source: str, user: User, name: str = "Letters") -> OrderSlip:
    station = Station.objects.filter(address=simulated.address).first() or station_list.add_station(simulated.address)
    job = slips.Job(name, station.pk, CaptureSettings(source=source, ppi=75), "everyday", DocumentRule("separator sheets"))
    return slips.save(job, user)


def looks(count: int, manner: Manner) -> None:
    """Look so often; where a station tells at first what was true before, once more."""
    for _ in range(count + bool(manner.get("stale"))):
        waiting.look()


def test_paper_laid_in_starts_it_once_for_each_load(feeder, mender, manner):
    slip = slip_for(feeder, "feeder", mender)
    waiting.wait(slip.pk, mender)
    waiting.look()
    assert Run.objects.count() == 0
    obey(feeder, {"load": "letters"})
    looks(1, manner)
    assert Run.objects.count() == 0  # whoever lays it in may still have a hand on it
    waiting.look()
    run = Run.objects.get()
    assert (run.by, run.bind_as, run.state) == (mender, Stack.objects.get().name, "wanted")
    waiting.look()
    assert Run.objects.count() == 1
    carry(run)
    obey(feeder, {"load": "letters"})
    looks(2, manner)
    assert Run.objects.count() == 2
    waiting.no_longer(slip.pk)
    carry(Run.objects.last())
    obey(feeder, {"load": "letters"})
    looks(2, manner)
    assert Run.objects.count() == 2


def test_paper_left_in_after_an_early_end_starts_nothing(feeder, mender, manner):
    waiting.wait(slip_for(feeder, "feeder", mender).pk, mender)
    obey(feeder, {"load": "letters", "jam_after": 2})
    looks(2, manner)
    run = carry(Run.objects.get())
    assert run.state == "stopped"
    waiting.look()
    runs.finish(run.pk)
    obey(feeder, {"clear": True})
    for _ in range(3):
        waiting.look()
    assert Run.objects.count() == 1
    if not manner:  # empty for one look, it may be wrong; for two, the paper is out
        obey(feeder, {"load": ""})
        waiting.look()
        obey(feeder, {"load": "letters"})
        looks(3, manner)
        assert Run.objects.count() == 1
    obey(feeder, {"load": ""})
    looks(2, manner)
    obey(feeder, {"load": "letters"})
    looks(2, manner)
    assert Run.objects.count() == 2


def test_the_key_of_the_device_starts_it_on_the_glass_too(glass, mender):
    waiting.wait(slip_for(glass, "platen", mender).pk, mender)
    obey(glass, {"start": True})
    waiting.look()
    assert Run.objects.count() == 0  # pressed before it was waited for
    obey(glass, {"load": "photographs"})
    waiting.look()
    waiting.look()
    assert Run.objects.count() == 0
    obey(glass, {"start": True})
    waiting.look()
    assert Run.objects.count() == 1
    carry(Run.objects.get())
    waiting.look()
    assert Run.objects.count() == 1


def test_a_key_pressed_while_the_device_is_at_something_else_is_not_lost(glass, mender):
    waiting.wait(slip_for(glass, "platen", mender).pk, mender)
    waiting.look()
    obey(glass, {"start": True, "warm_up_s": 3600})
    waiting.look()
    assert Run.objects.count() == 0
    glass.device.warm_up(-1)
    waiting.look()
    assert Run.objects.count() == 1


def test_what_stands_against_it_is_said_until_the_paper_is_out(feeder, mender, manner, monkeypatch):
    waiting.wait(slip_for(feeder, "feeder", mender).pk, mender)

    def full(*_: object) -> None:
        raise Refused("The disk is nearly full.")

    monkeypatch.setattr(slips, "start", full)
    obey(feeder, {"load": "letters"})
    looks(2, manner)
    assert WaitingSlip.objects.get().problem == "The disk is nearly full."
    obey(feeder, {"load": ""})
    looks(1, manner)
    assert WaitingSlip.objects.get().problem == ""


def test_a_slip_deleted_in_the_moment_it_is_due_starts_nothing_and_stops_nobody(feeder, mender, monkeypatch):
    slip = slip_for(feeder, "feeder", mender)
    waiting.wait(slip.pk, mender)
    obey(feeder, {"load": "letters"})
    waiting.look()
    real = waiting._look_at

    def late(one: WaitingSlip, status: object) -> None:
        OrderSlip.objects.all().delete()
        real(one, status)

    monkeypatch.setattr(waiting, "_look_at", late)
    waiting.look()
    assert (Run.objects.count(), WaitingSlip.objects.count()) == (0, 0)


def test_one_waits_at_each_station_and_a_station_that_is_away_is_waited_for(feeder, mender):
    first, second = slip_for(feeder, "feeder", mender, "Letters"), slip_for(feeder, "feeder", mender, "Ledgers")
    waiting.wait(first.pk, mender)
    waiting.wait(second.pk, mender)
    assert [one.slip_id for one in WaitingSlip.objects.all()] == [second.pk]
    obey(feeder, {"load": "letters", "offline": True})
    waiting.look()
    waiting.look()
    assert Run.objects.count() == 0
    obey(feeder, {"offline": False})
    waiting.look()
    waiting.look()
    assert Run.objects.count() == 1


def test_a_slip_whose_station_is_gone_cannot_wait(feeder, mender):
    slip = slip_for(feeder, "feeder", mender)
    station_list.forget_station(slip.station_id)
    with pytest.raises(Refused, match="no longer here"):
        waiting.wait(slip.pk, mender)


def test_it_is_told_with_the_slip_and_with_the_station(feeder, mender, client):
    slip = slip_for(feeder, "feeder", mender)

    def told() -> tuple[bool, str]:
        (one,) = client.get("/api/v1/order-slips").json()
        (station,) = client.get("/api/v1/stations").json()
        return one["waiting"], station["waiting"]

    assert told() == (False, "")
    assert client.put(f"/api/v1/order-slips/{slip.pk}/waiting").json()["waiting"]
    assert told() == (True, "Letters")
    assert client.delete(f"/api/v1/order-slips/{slip.pk}/waiting").status_code == 204
    assert told() == (False, "")
    assert client.delete("/api/v1/order-slips/999/waiting").status_code == 404
