"""A station's pace, learned from what it captured here."""

import pytest

from hollowstack.server.capture import learning
from hollowstack.server.capture.models import Run, Station
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.intake import batches
from hollowstack.server.stacks.models import Page
from tests.server.conftest import MEASURED, sha

CAN = {"width_mm": 216.0, "height_mm": 297.0, "resolutions": [300], "colours": [], "formats": []}


@pytest.fixture
def station(db) -> Station:
    learning._known.clear()
    can = {"name": "Glass", "platen": CAN, "feeder": None, "two_sided": False, "uuid": ""}
    return Station.objects.create(name="Glass", address="http://127.0.0.1:9", capabilities=can)


@pytest.fixture
def captured(stack, user, station):
    """Makes a capture of one image that took so long, measured or not yet."""
    made = iter(range(1000))

    def make(seconds: float, *, measured: bool = True, **more: object) -> Run:
        batch = batches.open_batch(stack.pk, user)
        page = batches.add_file(batch.pk, batches.Coming(0, "page 001.jpg", sha(next(made)), 500_000))
        record([Outcome("expand", page.opened_id, {"frames": 1}, "")])
        page = Page.objects.get(pk=page.pk)
        if measured:
            record([Outcome("measure", page.measured_id, {"measurements": MEASURED}, "")])
        fields = {"settings": {"source": "platen", "colour": "colour"}, "received": 1, "jobs": 1, "seconds": seconds}
        return Run.objects.create(stack=stack, by=user, station=station, batch=batch, state="done", **fields | more)

    return make


def test_it_is_learned_from_measured_captures_alone(station, captured):
    common = learning.pace_of(station, "platen")
    assert common.captures == 0
    captured(60.0, measured=False)
    assert learning.pace_of(station, "platen") == common
    for _ in range(3):
        captured(60.0)
    slow = learning.pace_of(station, "platen")
    assert slow.captures == 3
    assert slow.job_s + slow.image_s + 1.4 * slow.megapixel_s > 40
    assert slow.pixel_bytes["colour"] < common.pixel_bytes["colour"]
    assert learning.pace_of(station, "feeder").captures == 0


def test_slow_feeding_has_a_pace_of_its_own(station, captured):
    feeder = {"source": "feeder", "colour": "colour"}
    usual, slow = learning.pace_of(station, "feeder"), learning.pace_of(station, "slow feeder")
    assert slow.image_s > usual.image_s
    captured(300.0, settings={**feeder, "slow": True})
    assert learning.pace_of(station, "feeder") == usual
    assert learning.pace_of(station, "slow feeder").captures == 1
    # What was captured before there was a choice says nothing of it, and was at the usual pace.
    captured(3.0, settings=feeder)
    captured(3.0, settings={**feeder, "slow": False})
    assert learning.pace_of(station, "feeder").captures == 2
    assert learning.pace_of(station, "slow feeder").captures == 1


@pytest.mark.parametrize("more", [{"jobs": 0}, {"seconds": 0.0}])
def test_what_was_not_carried_out_in_one_go_teaches_nothing(station, captured, more):
    captured(**{"seconds": 60.0} | more)
    assert learning.pace_of(station, "platen").captures == 0


def test_nothing_is_worked_out_again_until_there_is_news(station, captured, monkeypatch):
    captured(60.0)
    first = learning.pace_of(station, "platen")
    monkeypatch.setattr(learning, "learned", lambda *_: pytest.fail("worked out again"))
    assert learning.pace_of(station, "platen") is first


def test_what_is_learned_is_told_with_the_station(client, station, captured):
    captured(60.0)
    (told,) = client.get("/api/v1/stations").json()
    assert told["platen"]["pace"]["captures"] == 1
    assert told["feeder"] is None
