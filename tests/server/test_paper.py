"""How paper goes into a station: said by somebody, or shown by a test sheet; and what is captured by it."""

from dataclasses import replace
from itertools import product
from pathlib import Path

import pytest

from hollowstack.core.page.paper_path import CORNERS, GUIDES, PaperPath
from hollowstack.server.capture import paper, runs, station_list
from hollowstack.server.capture.escl import ScanSettings
from hollowstack.server.capture.models import Run, Station
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.capture.test_sheet import try_sheet
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.services import create_stack
from hollowstack.standins.station.bundles import bundles
from hollowstack.standins.station.device import MODELS, Device, Order, Unfit
from hollowstack.standins.station.server import Station as Simulated
from hollowstack.standins.station.server import _obey as obey
from tests.server.stations import capture, station_of

GLASS, ONE, TWO = MODELS


@pytest.fixture
def simulated():
    made = []

    def start(model, **control) -> Simulated:
        station = Simulated(model)
        station.start()
        obey(station, {"speed": 0, **control})
        made.append(station)
        return station

    yield start
    for station in made:
        station.shutdown()
        station.server_close()


def tried(station: Simulated, source, laid):
    return try_sheet(station_of(station).pk, source, laid)


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("face", "edge", "place"),
    [("up", "top", "left"), ("up", "bottom", "middle"), ("up", "left", "middle"), ("up", "right", "middle")],
)
def test_a_test_sheet_shows_face_edge_and_guides_of_a_feeder(simulated, face, edge, place):
    station = simulated(replace(ONE, feeder_path=PaperPath(face, edge, place)), load="test-sheet", laid="up top")
    shown = tried(station, "feeder", "up")
    assert (shown.path.face, shown.path.edge) == (face, edge)
    # On its side in the image its guides cannot be told.
    assert shown.sure == (edge in {"top", "bottom"})
    assert shown.path.place == place


@pytest.mark.django_db
@pytest.mark.parametrize("place", GUIDES)
def test_where_the_other_side_is_captured_the_sheet_is_turned_over_once(simulated, place):
    station = simulated(replace(ONE, feeder_path=PaperPath("down", "bottom", place)), load="test-sheet", laid="up top")
    first = tried(station, "feeder", "up")
    assert first.path is None
    assert "its printed side down" in first.sentence
    obey(station, {"load": "test-sheet", "laid": "down top"})
    assert tried(station, "feeder", "down").path == PaperPath("down", "bottom", place)


@pytest.mark.django_db
@pytest.mark.parametrize("face", ["up", "down"])
def test_a_feeder_of_both_sides_needs_no_turning_over(simulated, face):
    station = simulated(replace(TWO, feeder_path=PaperPath(face, "top", "right")), load="test-sheet", laid="up top")
    assert tried(station, "feeder", "up").path == PaperPath(face, "top", "right")


@pytest.mark.django_db
@pytest.mark.parametrize(("place", "edge"), [*product(CORNERS, ["top", "bottom"])])
def test_on_a_glass_it_shows_the_corner_of_the_mark(simulated, place, edge):
    path = PaperPath("down", edge, place)
    station = simulated(replace(GLASS, glass_path=path), load="test-sheet", laid="down top")
    shown = tried(station, "platen", "down")
    assert shown.path == path
    assert shown.sure


@pytest.mark.django_db
def test_nothing_of_a_test_sheet_stays_and_the_station_is_free_again(simulated, settings):
    station = simulated(TWO, load="test-sheet", laid="up top")
    assert tried(station, "feeder", "up").path is not None
    assert not [*Path(settings.DATA, "uploads").glob("test-sheet*")]
    assert not Run.objects.exists()
    assert station.device.busy is None


@pytest.mark.django_db
def test_a_glass_on_which_no_test_sheet_lies_and_an_empty_feeder_say_so(simulated):
    shown = tried(simulated(GLASS, load="photographs"), "platen", "down")
    assert shown.path is None
    assert "printed side down" in shown.sentence
    with pytest.raises(Refused, match="feeder is empty"):
        tried(simulated(ONE), "feeder", "up")
    with pytest.raises(Refused, match="no glass"):
        tried(simulated(TWO), "platen", "down")


@pytest.mark.django_db
def test_a_station_at_work_is_not_disturbed_by_a_test_sheet(simulated):
    station = simulated(ONE, load="register-8")
    stack = create_stack("Register", None)
    runs.start(stack.pk, station_of(station).pk, CaptureSettings(source="feeder"), None)
    with pytest.raises(Refused, match="not finished"):
        tried(station, "feeder", "up")


@pytest.mark.django_db
def test_what_is_said_of_a_source_is_kept_and_nothing_that_cannot_be(simulated):
    station = station_of(simulated(ONE))
    assert paper.path_of(station, "feeder") is None
    path = PaperPath("down", "bottom", "right")
    kept = paper.keep(station.pk, "feeder", path)
    assert paper.path_of(Station.objects.get(pk=kept.pk), "feeder") == path
    with pytest.raises(Refused, match="where the guides"):
        paper.keep(station.pk, "feeder", PaperPath("down", "top", "back left"))
    with pytest.raises(Refused, match="at which corner"):
        paper.keep(station.pk, "platen", path)


@pytest.mark.django_db
@pytest.mark.parametrize(("face", "place"), [*product(("up", "down"), GUIDES)])
def test_guides_that_the_station_tells_of_are_proposed(simulated, face, place):
    station = station_of(simulated(replace(ONE, feeder_path=PaperPath(face, "top", place))))
    told = station_list.capabilities_of(station)
    seen = place if face == "up" else {"left": "right", "right": "left"}.get(place, place)
    assert told.guides == seen
    assert paper.proposed(told, "feeder") == PaperPath("up", "top", seen)
    assert paper.proposed(told, "platen") == PaperPath("down", "top", "back right")


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("place", ["left", "right"])
def test_paper_of_a_size_is_captured_where_the_guides_hold_it(simulated, place):
    station = simulated(replace(ONE, feeder_path=PaperPath("down", "top", place)), load="register")
    stack = create_stack("Register", None)
    paper.keep(station_of(station).pk, "feeder", PaperPath("down", "top", place))
    capture(station, stack, paper=(176.0, 250.0), ppi=75)
    for image in station.device.truth:
        (sheet,) = image["sheets"]
        xs = [x / 75 * 25.4 for x, _ in sheet["quad_px"]]
        assert min(xs) == pytest.approx(0, abs=2.5)
        assert max(xs) == pytest.approx(176, abs=2.5)


def test_a_page_that_is_laid_in_upside_down_comes_so_and_its_back_is_seen_through_the_same_edges():
    device = Device(TWO, lambda _: None, lambda: 0.0)
    leaves = bundles()["register"][1][:1]
    device.load(leaves, laid=("up", "left"))
    front, back = device._lies(TWO.feeder_path, back=False), device._lies(TWO.feeder_path, back=True)
    assert front == (False, 270)
    assert back == (True, 90)


@pytest.mark.django_db
def test_over_http_it_is_asked_kept_and_tried(client, simulated):
    station = simulated(ONE, load="test-sheet", laid="down top")
    row = station_of(station)
    path = {"face": "down", "edge": "top", "place": "middle"}
    shown = client.post(
        f"/api/v1/stations/{row.pk}/paper/feeder/test-sheet", {"laid": "down"}, content_type="application/json"
    )
    assert shown.json()["path"] == path
    kept = client.put(f"/api/v1/stations/{row.pk}/paper/feeder", path, content_type="application/json").json()
    assert kept["feeder"]["paper"] == path
    assert kept["feeder"]["slow_pace"] is None
    refused = client.put(
        f"/api/v1/stations/{row.pk}/paper/platen", {**path, "place": "middle"}, content_type="application/json"
    )
    assert refused.status_code == 422
    sheet = client.get("/api/v1/test-sheet?size=A6")
    assert sheet["Content-Type"] == "application/pdf"
    assert sheet.content.startswith(b"%PDF")


def test_delicate_sheets_are_fed_more_slowly_into_files_no_larger():
    slept: list[float] = []
    files: list[int] = []
    device = Device(TWO, slept.append, lambda: 0.0)
    order = Order("Feeder", False, "Grayscale8", 75, "image/jpeg", (0, 0, 2480, 3508))
    for slow in (False, True):
        device.load(bundles()["letters"][1])
        job = device.start(replace(order, slow=slow))
        while (image := device.next_image(job.number)) is not None:
            files.append(len(image))
            device.taken(job.number)
    assert len(files) == 8
    assert files[4:] == files[:4]
    assert all(slow > 2 * usual for usual, slow in zip(slept[1:4], slept[5:], strict=True))


def test_a_station_that_cannot_feed_slowly_does_not(simulated):
    with pytest.raises(Unfit):
        Device(ONE, lambda _: None, lambda: 0.0).start(
            Order("Feeder", False, "RGB24", 75, "image/jpeg", (0, 0, 99, 99), True)
        )


@pytest.mark.django_db
def test_stations_say_whether_they_can_feed_slowly_and_are_told_to(simulated):
    slow, usual = simulated(TWO, load="letters"), simulated(ONE)
    assert station_list.capabilities_of(station_of(slow)).slow_feed
    assert not station_list.capabilities_of(station_of(usual)).slow_feed
    with station_list.talk_to(slow.address, 5) as client:
        client.start(ScanSettings("Feeder", False, "Grayscale8", 75, "image/jpeg", (0, 0, 210, 297), slow=True))
    assert slow.device.busy.order.slow
