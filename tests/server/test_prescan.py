"""First looks over the glass: begun, fetched once, and let go of where nobody fetches them."""

import asyncio
import io
import json
import os
import time

import pytest
from PIL import Image

from hollowstack.core.measure.layout.lid import Lid
from hollowstack.server.capture import prescan, station_list
from hollowstack.server.capture.escl import StationError
from hollowstack.server.capture.models import Station
from hollowstack.server.errors import Refused
from tests.server.stations import capture

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_station_without_a_glass_shows_no_first_look(feeder):
    station = station_list.add_station(feeder.address)
    station.capabilities["platen"] = None
    with pytest.raises(StationError, match="no glass"):
        prescan.begin(station)


def test_a_first_look_is_begun_by_one_request_and_fetched_once_by_another(client, glass, settings, tmp_path):
    """Looking starts no device: what can be fetched has been begun, by a request that carries the page's own token."""
    settings.DATA = tmp_path
    station = station_list.add_station(glass.address)
    assert client.get(f"/api/v1/prescans/{'a' * 32}.jpg").status_code == 404
    begun = client.post(f"/api/v1/stations/{station.pk}/prescans", content_type="application/json")
    assert begun.status_code == 201
    path = prescan.path_of(begun.json()["nonce"])
    assert path is not None
    assert [prescan._taken(path) is None for _ in range(2)] == [False, True]
    assert list(path.parent.iterdir()) == []


def test_a_look_that_nobody_fetched_holds_no_station(glass, stack, settings, tmp_path):
    """Whoever goes to another station before the answer is there leaves one behind."""
    settings.DATA = tmp_path
    station = station_list.add_station(glass.address)
    nonce = prescan.begin(station)
    path = prescan.path_of(nonce)
    assert path is not None
    assert glass.device.busy
    prescan.let_go()
    assert glass.device.busy  # it may still be fetched
    os.utime(path.with_suffix(".job"), times=(time.time() - 31,) * 2)
    prescan.let_go()
    assert not glass.device.busy
    assert list(path.parent.iterdir()) == []
    # A capture waits for none at all.
    prescan.begin(station)
    assert capture(glass, stack, source="platen").state == "done"


def test_a_look_that_was_broken_off_holds_no_station(glass, settings, tmp_path):
    settings.DATA = tmp_path
    station = station_list.add_station(glass.address)
    path = prescan.path_of(prescan.begin(station))
    assert path is not None
    job = prescan._taken(path)
    assert job is not None

    async def broken_off() -> None:
        pieces = prescan._pieces(*job, path)
        assert await anext(pieces)
        prescan.let_go()
        assert not path.with_suffix(".left").exists()  # while it is being looked at, nobody ends it
        await pieces.aclose()

    asyncio.run(broken_off())
    assert path.with_suffix(".left").exists()
    prescan.let_go()
    assert not glass.device.busy
    assert list(path.parent.iterdir()) == []


def test_a_look_at_another_station_is_left_alone(glass, feeder, settings, tmp_path):
    settings.DATA = tmp_path
    prescan.begin(station_list.add_station(glass.address))
    prescan.let_go(station_list.add_station(feeder.address), unclaimed=0.0)
    assert glass.device.busy


@pytest.mark.parametrize("held", ["http://127.0.0.1:1/eSCL/ScanJobs/1", "4711\nhttp://127.0.0.1:1/eSCL/ScanJobs/1"])
def test_what_is_left_of_a_look_at_a_station_that_is_gone_stops_nobody(held, settings, tmp_path):
    """An earlier version wrote the job alone; a station may have been removed since."""
    settings.DATA = tmp_path
    path = prescan.path_of("a" * 32)
    assert path is not None
    left = path.with_suffix(".left")
    left.write_text(held)
    prescan.let_go()
    assert not left.exists()


def test_a_look_at_a_station_that_may_not_be_gone_to_stops_nobody(glass, settings, tmp_path):
    settings.DATA = tmp_path
    prescan.begin(station_list.add_station(glass.address))
    settings.STATION_NETWORKS = ()
    prescan.let_go(unclaimed=0.0)
    assert list((tmp_path / "prescans").iterdir()) == []


def fetched(nonce: str) -> Image.Image:
    """A first look as the browser fetches it, to its end."""
    path = prescan.path_of(nonce)
    assert path is not None
    job = prescan._taken(path)
    assert job is not None

    async def body() -> bytes:
        return b"".join([piece async for piece in prescan._pieces(*job, path)])

    return Image.open(io.BytesIO(asyncio.run(body())))


def look_at(client, station, **body):
    begun = client.post(f"/api/v1/stations/{station.pk}/prescans", json.dumps(body), content_type="application/json")
    assert begun.status_code == 201, begun.json()
    return begun.json()["nonce"]


def test_a_part_is_looked_at_as_finely_as_it_can_be_shown(client, glass, settings, tmp_path):
    settings.DATA = tmp_path
    station = station_list.add_station(glass.address)
    small = fetched(look_at(client, station, part=[10, 20, 80, 60]))
    assert (small.width, small.height) == pytest.approx((80 / 25.4 * 300, 60 / 25.4 * 300), abs=2)
    # Of the whole glass 300 ppi are more than anybody waits for.
    whole = fetched(look_at(client, station, part=[0, 0, 216, 297]))
    assert whole.width == pytest.approx(216 / 25.4 * 200, abs=2)
    # What lies beside the glass is left out.
    beside = fetched(look_at(client, station, part=[180, 260, 90, 90]))
    assert (beside.width, beside.height) == pytest.approx((36 / 25.4 * 300, 37 / 25.4 * 300), abs=2)
    with pytest.raises(Refused, match="too small"):
        prescan.begin(station, (214.0, 10.0, 40.0, 40.0))


def test_an_open_lid_is_told_once_the_glass_is_known_with_its_lid_closed(client, glass, settings, tmp_path):
    settings.DATA = tmp_path
    station = station_list.add_station(glass.address)

    def is_open(*, lid_open: bool) -> bool:
        glass.device.faults = glass.device.faults.model_copy(update={"lid_open": lid_open})
        nonce = look_at(client, station)
        fetched(nonce)
        told = client.get(f"/api/v1/prescans/{nonce}/frames").json()
        again = client.get(f"/api/v1/prescans/{nonce}/frames").json()
        assert lid_open or len(told["frames"]) == len(again["frames"]) == 3
        return bool(told["lid_open"])

    assert [is_open(lid_open=False) for _ in range(3)] == [False] * 3
    assert len(Station.objects.get(pk=station.pk).lid_tones) == 3
    assert is_open(lid_open=True)
    assert not is_open(lid_open=False)


def test_only_the_last_looks_are_remembered(client, glass, settings, tmp_path):
    settings.DATA = tmp_path
    station = station_list.add_station(glass.address)
    for tone in range(12):
        path = prescan.path_of("a" * 32)
        path.with_suffix(".of").write_text(str(station.pk))
        prescan.lid_is_open("a" * 32, Lid(tone, 0))
    assert Station.objects.get(pk=station.pk).lid_tones == [3, 4, 5, 6, 7, 8, 9, 10, 11]
    # A look at a station that is gone, or that nobody knows any more, is judged by itself.
    assert prescan.lid_is_open("b" * 32, Lid(10, 90))
    path.with_suffix(".of").write_text("999")
    assert not prescan.lid_is_open("a" * 32, Lid(200, 0))
