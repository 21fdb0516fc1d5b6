"""Stations and captures: from a simulated station over real HTTP into a stack, and all that can go wrong between."""

import asyncio
import errno
import os
import threading
import time
from collections.abc import Iterator
from types import SimpleNamespace

import httpx
import pytest
from PIL import Image

from hollowstack.server.capture import ending, prescan, services
from hollowstack.server.capture.escl import EsclClient, ScanSettings, StationError
from hollowstack.server.capture.escl.messages import NotEscl, Status, read_capabilities
from hollowstack.server.capture.executor import Carrier
from hollowstack.server.capture.models import Run, Station
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.errors import NoRoom, Refused
from hollowstack.server.stacks import bin, history
from hollowstack.server.stacks.models import Batch, Page, Source
from hollowstack.server.stacks.services import order_of
from hollowstack.server.storage import places, room
from hollowstack.standins.station.device import MODELS
from hollowstack.standins.station.server import Station as Simulated
from hollowstack.standins.station.server import _obey as obey
from tests.live import until
from tests.server.conftest import walk

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def glass() -> Iterator[Simulated]:
    yield from _started(0, "photographs")


@pytest.fixture
def feeder() -> Iterator[Simulated]:
    yield from _started(1, "register-8")


@pytest.fixture
def two_sided() -> Iterator[Simulated]:
    yield from _started(2, "register-8")


def _started(model: int, bundle: str) -> Iterator[Simulated]:
    made = Simulated(MODELS[model])
    made.start()
    obey(made, {"load": bundle, "speed": 0})
    yield made
    made.shutdown()
    made.server_close()


def capture(simulated: Simulated, stack, patience: float = 30, **settings) -> Run:
    """Ask for a capture and carry it out here and now."""
    station = station_of(simulated)
    wish = CaptureSettings.model_validate({"ppi": 75, "source": "feeder", **settings})
    return carry(services.start(stack.pk, station.pk, wish, None), patience)


def station_of(simulated: Simulated) -> Station:
    return Station.objects.filter(address=simulated.address).first() or services.add_station(simulated.address)


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


def test_a_load_of_the_feeder(feeder, stack):
    run = capture(feeder, stack, name="register")
    assert (run.state, run.received, run.problem) == ("done", 8, "")
    pages = Page.objects.filter(stack=stack)
    assert [page.source.name for page in pages] == [f"register {n:03d}.jpg" for n in range(1, 9)]
    assert delivered(feeder) == [(f"register {2 * n + 1}", False) for n in range(8)]
    record = pages[0].source.batch.record
    assert (record["station"], record["ppi"], record["colour"]) == ("Feeder One", 75, "colour")


def test_every_image_is_as_large_as_its_paper(two_sided, stack):
    obey(two_sided, {"load": "mixed"})
    capture(two_sided, stack)
    found = sizes(stack)
    expected = [(round((w + 4) / 25.4 * 75), round((h + 4) / 25.4 * 75)) for w, h in ((210, 297), (127, 76), (176, 250))]
    assert found[:3] == expected


def test_both_sides(two_sided, stack):
    run = capture(two_sided, stack, two_sided=True)
    assert (run.state, run.received) == ("done", 16)
    assert delivered(two_sided)[:4] == [
        ("register 1", False),
        ("register 1", True),
        ("register 3", False),
        ("register 3", True),
    ]


@pytest.mark.parametrize("two", [False, True])
def test_a_jam_and_on_from_that_sheet_without_doubles_or_gaps(two_sided, stack, two):
    obey(two_sided, {"jam_after": 6})
    run = capture(two_sided, stack, two_sided=two)
    assert (run.state, run.problem.split(":")[0]) == ("stopped", "A sheet is jammed at sheet 7")
    assert len(order_of(stack.pk)) == run.received == (12 if two else 6)
    with pytest.raises(Refused, match="not finished"):
        capture(two_sided, stack)
    obey(two_sided, {"clear": True})
    services.go_on(run.pk)
    run = carry(run)
    assert (run.state, run.received) == ("done", 16 if two else 8)
    names = [name for name, back in delivered(two_sided) if not back]
    assert names == [f"register {2 * n + 1}" for n in range(8)]


def test_a_double_feed_is_told_by_the_station(two_sided, stack):
    obey(two_sided, {"double_feed_at": 3})
    run = capture(two_sided, stack)
    assert run.problem.startswith("Two sheets went in at once at sheet 3")
    assert run.received == 2


def test_a_double_feed_is_told_by_the_count(feeder, stack):
    obey(feeder, {"double_feed_at": 3})
    run = capture(feeder, stack, sheets=8)
    assert run.state == "stopped"
    assert "7 of 8 sheets came" in run.problem
    assert services.finish(run.pk).state == "done"
    assert len(order_of(stack.pk)) == 7


def test_an_empty_feeder_can_be_filled(feeder, stack):
    obey(feeder, {"load": ""})
    run = capture(feeder, stack)
    assert (run.state, run.problem) == ("stopped", "The feeder is empty: lay the paper in, then go on.")
    obey(feeder, {"load": "register-8", "pick": [0, 1]})
    services.go_on(run.pk)
    assert carry(run).received == 2


def test_frames_on_the_glass_become_pages(glass, stack):
    frames = [(61, 46, 110, 80, 0.0), (160, 61, 80, 110, 8.5)]
    run = capture(glass, stack, source="platen", frames=frames)
    assert (run.state, run.received) == ("done", 2)
    first, second = (Page.objects.get(pk=pk) for pk in order_of(stack.pk))
    assert sizes(stack)[0] == (round(110 / 25.4 * 75), round(80 / 25.4 * 75))
    assert first.override == {}
    page = walk(second, size_px=list(sizes(stack)[1]))
    assert page.plan["size_px"] == pytest.approx([80 / 25.4 * 75, 110 / 25.4 * 75], abs=2)


@pytest.mark.parametrize(
    ("settings", "says"),
    [
        ({"source": "platen", "frames": [(50, 50, 0, 80, 0)]}, "too small to capture"),
        ({"source": "platen", "frames": [(500, 50, 40, 80, 0)]}, "beside the glass"),
        ({"source": "platen", "paper": (0, 297)}, "no size"),
        ({"source": "platen", "ppi": 77}, "cannot capture at 77 ppi"),
        ({"source": "feeder"}, "no feeder"),
        ({"source": "platen", "two_sided": True}, "captures one side"),
        ({"source": "platen", "place": "after", "page": 4711}, "no longer in the stack"),
    ],
)
def test_what_cannot_be_captured_is_said(glass, stack, settings, says):
    with pytest.raises(Refused, match=says):
        capture(glass, stack, **settings)
    assert Run.objects.count() == 0


def test_inserted_behind_a_page(glass, feeder, stack):
    capture(feeder, stack)
    before = order_of(stack.pk)
    capture(glass, stack, source="platen", place="after", page=before[2])
    after = order_of(stack.pk)
    assert [*after[:3], *after[4:]] == before


def test_the_page_it_was_to_come_behind_has_gone(glass, feeder, stack):
    capture(feeder, stack)
    page = order_of(stack.pk)[2]
    station = services.add_station(glass.address)
    wish = CaptureSettings(source="platen", ppi=75, place="after", page=page)
    run = services.start(stack.pk, station.pk, wish, None)
    Page.objects.filter(pk=page).update(removed=True)
    run = carry(run)
    assert (run.state, run.received) == ("stopped", 0)
    assert "is gone" in run.problem


def test_a_station_that_a_capture_needs_is_not_forgotten(two_sided, stack):
    obey(two_sided, {"jam_after": 1})
    run = capture(two_sided, stack)
    with pytest.raises(Refused, match="not finished"):
        services.forget_station(run.station_id)
    services.finish(run.pk)
    services.forget_station(run.station_id)
    assert Run.objects.get(pk=run.pk).station is None


def test_captured_again_in_place(glass, feeder, stack):
    capture(feeder, stack)
    order = order_of(stack.pk)
    page = Page.objects.get(pk=order[2])
    Page.objects.filter(pk=page.pk).update(rescan="out of focus")
    former = page.source_id
    run = capture(glass, stack, source="platen", place="instead", page=page.pk)
    assert run.state == "done"
    assert order_of(stack.pk) == order
    page.refresh_from_db()
    assert (page.rescan, page.source_id != former) == ("", True)
    assert Source.objects.filter(pk=former).exists()  # the old one stays on record
    history.undo(stack.pk, history.next_to_undo(stack).pk)
    page.refresh_from_db()
    assert (page.rescan, page.source_id) == ("out of focus", former)


def test_what_is_discarded_lies_in_the_bin_and_can_be_taken_back(two_sided, stack):
    obey(two_sided, {"jam_after": 3})
    run = capture(two_sided, stack)
    came = order_of(stack.pk)
    assert len(came) == 3
    services.cancel(run.pk)
    run = carry(run)
    assert (run.state, run.received, order_of(stack.pk)) == ("cancelled", 0, [])
    assert run.outcome == "Discarded: 3 pages lie in the bin for 30 days."
    assert [page.pk for page in bin.deleted_pages()] == came
    history.undo(stack.pk, history.next_to_undo(stack).pk)
    assert order_of(stack.pk) == came
    with pytest.raises(Refused, match="over"):
        services.cancel(run.pk)


def test_cancelled_in_the_middle(two_sided, stack):
    obey(two_sided, {"speed": 4})
    station = services.add_station(two_sided.address)
    run = services.start(stack.pk, station.pk, CaptureSettings(source="feeder", ppi=150), None)
    carrier = threading.Thread(target=Carrier(run.pk, 30).work)
    carrier.start()
    deadline = time.monotonic() + 20
    while not Run.objects.get(pk=run.pk).received and time.monotonic() < deadline:
        time.sleep(0.02)
    services.cancel(run.pk)
    carrier.join(20)
    assert Run.objects.get(pk=run.pk).state == "cancelled"
    assert order_of(stack.pk) == []
    assert two_sided.device.busy is None


def test_discarded_before_anything_came(two_sided, stack):
    station = services.add_station(two_sided.address)
    obey(two_sided, {"offline": True})
    run = carry(services.start(stack.pk, station.pk, CaptureSettings(source="feeder"), None), 1)
    services.cancel(run.pk)
    run = carry(run, 1)
    assert (run.state, run.outcome) == ("cancelled", "Discarded: nothing had come.")
    assert Batch.objects.count() == 0


def in_the_middle(simulated: Simulated, stack, after: int, **settings) -> tuple[Run, threading.Thread]:
    """A capture that has brought so many images and goes on, carried out in a thread."""
    obey(simulated, {"speed": 4})
    wish = CaptureSettings.model_validate({"source": "feeder", "ppi": 150, **settings})
    run = services.start(stack.pk, station_of(simulated).pk, wish, None)
    carrier = threading.Thread(target=Carrier(run.pk, 30).work)
    carrier.start()
    until(lambda: Run.objects.get(pk=run.pk).received >= after, 20, "images to come")
    return run, carrier


def test_a_load_is_paused_and_goes_on_with_the_next_sheet(feeder, stack):
    run, carrier = in_the_middle(feeder, stack, 2)
    services.pause(run.pk)
    carrier.join(20)
    run.refresh_from_db()
    assert run.state == "stopped"
    assert run.problem == f"Paused before sheet {run.received + 1}: go on when you are ready, or keep what came."
    assert feeder.device.busy is not None  # the sheets are still its own
    with pytest.raises(Refused, match="nothing to pause"):
        services.pause(run.pk)
    obey(feeder, {"speed": 0})
    services.go_on(run.pk)
    run = carry(run)
    assert (run.state, run.received, run.outcome) == ("done", 8, "")
    assert [name for name, _ in delivered(feeder)] == [f"register {2 * n + 1}" for n in range(8)]


def test_a_paused_load_whose_station_has_let_it_go_begins_anew_at_the_next_sheet(feeder, stack):
    run, carrier = in_the_middle(feeder, stack, 2)
    services.pause(run.pk)
    carrier.join(20)
    obey(feeder, {"speed": 0})
    feeder.device.cancel(1)
    services.go_on(run.pk)
    run = carry(run)
    assert (run.state, run.received) == ("done", 8)
    assert [name for name, _ in delivered(feeder)] == [f"register {2 * n + 1}" for n in range(8)]


@pytest.mark.parametrize(("sheets", "said"), [(8, " of 8 images came"), (None, " images came")])
def test_a_load_is_ended_and_kept(feeder, stack, sheets, said):
    run, carrier = in_the_middle(feeder, stack, 2, sheets=sheets)
    services.finish(run.pk)
    carrier.join(20)
    run.refresh_from_db()
    assert (run.state, run.problem) == ("done", "")
    assert run.outcome.startswith(f"Ended early at sheet {run.received + 1}: {run.received}{said}")
    assert len(order_of(stack.pk)) == run.received >= 2
    assert feeder.device.busy is None
    with pytest.raises(Refused, match="over"):
        services.finish(run.pk)


def test_ended_before_the_capture_process_has_begun(feeder, stack):
    run = services.start(stack.pk, station_of(feeder).pk, CaptureSettings(source="feeder"), None)
    services.finish(run.pk)
    run = carry(run)
    assert (run.state, run.received, feeder.device.jobs) == ("done", 0, {})
    assert run.outcome == "Ended early at sheet 1: 0 images came, and what came is in the stack."


def test_a_load_that_stopped_is_kept_and_said_to_be_a_part(feeder, stack):
    obey(feeder, {"jam_after": 3})
    run = capture(feeder, stack, sheets=8)
    assert services.finish(run.pk).outcome.startswith("Ended early at sheet 4: 3 of 8 images came")


def test_all_that_was_counted_came_though_somebody_had_to_keep_it(feeder, stack):
    run = capture(feeder, stack, sheets=8)
    assert (run.state, run.outcome) == ("done", "")
    Run.objects.filter(pk=run.pk).update(state="stopped")
    assert services.finish(run.pk).outcome == ""


def test_a_load_cancelled_at_the_station_is_told_as_that(feeder, stack):
    run, carrier = in_the_middle(feeder, stack, 2)
    feeder.device.cancel(1)
    carrier.join(20)
    run.refresh_from_db()
    assert run.state == "stopped"
    assert run.problem.startswith(f"Somebody cancelled the capture at the station, at sheet {run.received + 1}:")


def test_a_frame_cancelled_at_the_station_is_captured_when_one_goes_on(glass, stack, monkeypatch):
    """Images and frames stay together: the second frame's image is that of the second frame."""
    frames = [[60.0, 60.0, 90.0, 60.0, 0.0], [150.0, 60.0, 60.0, 60.0, 0.0], [60.0, 150.0, 40.0, 60.0, 0.0]]
    real, cancelled = glass.device.next_image, []

    def next_image(number: int) -> bytes | None:
        if number == 2 and not cancelled:
            cancelled.append(number)
            glass.device.cancel(number)
        return real(number)

    monkeypatch.setattr(glass.device, "next_image", next_image)
    run = capture(glass, stack, source="platen", frames=frames)
    assert (run.state, run.received) == ("stopped", 1)
    assert run.problem.startswith("Somebody cancelled the capture at the station: frame 2 of 3 did not come.")
    services.go_on(run.pk)
    run = carry(run)
    assert (run.state, run.received) == ("done", 3)
    assert [wide for wide, _ in sizes(stack)] == pytest.approx([90 / 25.4 * 75, 60 / 25.4 * 75, 40 / 25.4 * 75], abs=2)


def test_a_process_that_died_between_two_frames_goes_on_with_the_second(glass, stack):
    """The job of the first was still written down, and its image is in already."""
    frames = [[60.0, 60.0, 90.0, 60.0, 0.0], [150.0, 60.0, 60.0, 60.0, 0.0]]
    first = capture(glass, stack, source="platen", frames=frames[:1])
    done = f"{glass.address}/eSCL/ScanJobs/1"
    Run.objects.filter(pk=first.pk).update(state="running", job=done, settings={**first.settings, "frames": frames})
    run = carry(Run.objects.get(pk=first.pk))
    assert (run.state, run.received, run.problem) == ("done", 2, "")
    assert [wide for wide, _ in sizes(stack)] == pytest.approx([90 / 25.4 * 75, 60 / 25.4 * 75], abs=2)


def test_a_station_that_is_done_and_gave_nothing(feeder, stack, monkeypatch):
    def nothing(number: int) -> None:
        feeder.device.jobs[number].state = "Completed"
        feeder.device.tray = []

    monkeypatch.setattr(feeder.device, "next_image", nothing)
    run = capture(feeder, stack)
    assert (run.state, run.received) == ("stopped", 0)
    assert run.problem.startswith("The station is done and gave no image")


def test_paper_that_is_left_is_spoken_of(feeder, stack, monkeypatch):
    real = feeder.device.next_image

    def two_at_a_time(number: int) -> bytes | None:
        job = feeder.device.jobs[number]
        if job.made == 2:
            job.state = "Completed"
        return real(number)

    monkeypatch.setattr(feeder.device, "next_image", two_at_a_time)
    run = capture(feeder, stack)
    assert (run.state, run.received) == ("stopped", 2)
    assert "says that paper is left in it" in run.problem
    for _ in range(3):
        services.go_on(run.pk)
        run = carry(run)
    assert (run.state, run.received) == ("done", 8)


@pytest.mark.parametrize(
    ("came", "laid", "says"),
    [
        (8, None, ""), (8, 8, ""), (7, 8, "7 of 8 sheets came"), (9, 8, "9 sheets came where 8 were counted: count"),
        (8, 16, "half as many: if sides"), (16, 8, "twice as many: if sides"), (0, 8, "gave no image"), (0, None, "gave no image"),
        (15, 8, "15 sheets came where 8"), (1, 2, "half as many"),
    ],
)  # fmt: skip
def test_what_came_is_held_against_what_was_counted(came, laid, says):
    status = Status("Idle", "ScannerAdfEmpty", {"1": "Completed"})
    said = ending.of_load(status, "http://a/eSCL/ScanJobs/1", ending.Load(came, laid, two_sided=False))
    assert says in said
    assert bool(said) == bool(says)


@pytest.mark.parametrize(
    ("feeder_says", "job", "says"),
    [
        ("ScannerAdfEmpty", "", ""), ("ScannerAdfLoaded", "", "says that paper is left"), ("ScannerAdfEmpty", "Canceled", "Somebody cancelled"),
        ("ScannerAdfLoaded", "Canceled", "Somebody cancelled"), ("ScannerAdfEmpty", "Aborted", "gave up at sheet 4"),
        ("ScannerAdfJam", "Aborted", "A sheet is jammed at sheet 4"), ("ScannerAdfJam", "Canceled", "A sheet is jammed"),
    ],
)  # fmt: skip
def test_how_a_load_ended_is_told_as_what_it_was(feeder_says, job, says):
    said = ending.of_load(Status("Idle", feeder_says, {"7": job}), "http://a/7/", ending.Load(3, None, two_sided=False))
    assert says in said
    assert bool(said) == bool(says)


@pytest.mark.parametrize(
    ("fault", "says"),
    [
        ({"cut_short": 3}, "stopped in the middle of a page"),
        ({"nonsense": True}, "does not speak eSCL"),
        ({"offline": True}, "cannot be reached"),
        ({"hang": True}, "does not answer"),
    ],
)
def test_a_station_that_misbehaves_stops_the_run_with_one_sentence(two_sided, stack, fault, says):
    services.add_station(two_sided.address)
    obey(two_sided, fault)
    run = capture(two_sided, stack, patience=1)
    assert run.state == "stopped"
    assert says in run.problem
    obey(two_sided, {"nonsense": False, "offline": False, "hang": False})
    services.go_on(run.pk)
    run = carry(run)
    assert (run.state, run.received) == ("done", 8)
    assert [name for name, _ in delivered(two_sided)] == [f"register {2 * n + 1}" for n in range(8)]


def test_warming_up_is_waited_for(feeder, stack):
    obey(feeder, {"warm_up_s": 1.5})
    with EsclClient(feeder.address) as client:
        assert services.standing(client.status(), None)[0] == "warming up"
    assert capture(feeder, stack).received == 8


@pytest.mark.parametrize("whole", [True, False])
def test_an_image_that_had_come_when_the_process_died(feeder, stack, settings, whole):
    """Whole, it is taken in; torn, the station is still holding it. Either way each comes in once."""
    station = services.add_station(feeder.address)
    run = services.start(stack.pk, station.pk, CaptureSettings(source="feeder", ppi=75, colour="grey"), None)
    spool = settings.DATA / "uploads" / f"run-{run.pk}-0"
    with EsclClient(feeder.address) as client:
        job = client.start(ScanSettings("Feeder", False, "Grayscale8", 75, "image/jpeg", (0, 0, 216, 356)))
        client.next_document(job, spool)
    data = spool.read_bytes()
    part = spool.with_name(f"{spool.name}.{len(data)}.part")
    spool.unlink()
    if whole:
        part.write_bytes(data)
    else:
        feeder.device.jobs[1].held, feeder.device.jobs[1].made = data, 0
        part.write_bytes(data[:100])
    Run.objects.filter(pk=run.pk).update(job=job)
    run = carry(run)
    assert (run.state, run.received) == ("done", 8)
    masters = [Page.objects.get(pk=pk).source.master_id for pk in order_of(stack.pk)]
    assert len(set(masters)) == 8
    assert places.master_path(masters[0]).read_bytes() == data


@pytest.mark.parametrize("address", ["http://127.0.0.1:9", "not an address", "http://[::1", "file:///etc/passwd"])
def test_an_address_without_a_station(db, address):
    with pytest.raises(Refused, match=r"answers there|no address"):
        services.add_station(address)


def test_a_bomb_in_the_capabilities_is_refused(monkeypatch, feeder):
    from hollowstack.standins.station import escl as simulated

    bomb = '<!DOCTYPE b [<!ENTITY a "aaaaaaaaaa"><!ENTITY c "&a;&a;&a;&a;">]><scan>&c;</scan>'
    monkeypatch.setattr(simulated, "capabilities", lambda *_: bomb)
    with EsclClient(feeder.address) as client, pytest.raises(StationError, match="does not speak eSCL"):
        client.capabilities()


def test_a_station_cannot_send_us_to_another_host():
    """Of the address that a job is given only the path counts."""
    asked = []

    def answer(request: httpx.Request) -> httpx.Response:
        asked.append(str(request.url))
        if request.method == "POST":
            return httpx.Response(201, headers={"Location": "http://elsewhere.example/eSCL/ScanJobs/7?to=other#part"})
        return httpx.Response(404)

    client = EsclClient("http://192.0.2.7")
    client._http = httpx.Client(transport=httpx.MockTransport(answer))
    job = client.start(ScanSettings("Platen", False, "Grayscale8", 300, "image/jpeg", (0.0, 0.0, 100.0, 100.0)))
    assert job == "http://192.0.2.7/eSCL/ScanJobs/7"
    assert asked == ["http://192.0.2.7/eSCL/ScanJobs"]


@pytest.mark.parametrize(
    ("status", "words"),
    [
        (Status("Idle", "ScannerAdfLoaded", {}), "ready"),
        (Status("Idle", "ScannerAdfEmpty", {}), "ready, feeder empty"),
        (Status("Processing", "ScannerAdfLoaded", {}), "capturing"),
        (Status("Testing", "", {}), "warming up"),
        (Status("Stopped", "", {}), "stopped"),
        (Status("Down", "", {}), "stopped"),
        (Status("Processing", "ScannerAdfJam", {}), "jam"),
        (Status("Idle", "ScannerAdfMultipickDetected", {}), "double feed"),
        (Status("Idle", "ScannerAdfHatchOpen", {}), "feeder stopped"),
        (StationError("nonsense", "It speaks something else."), "not a station"),
        (StationError("unreachable", "It does not answer."), "offline"),
    ],
)
def test_how_a_station_stands_is_said_in_a_word_or_two(status, words):
    assert services.standing(status, None)[0] == words


def test_in_the_place_of_a_page_one_image_is_captured(two_sided, stack, pages):
    (page,) = pages(1)
    station = services.add_station(two_sided.address)
    wish = CaptureSettings(source="feeder", ppi=75, place="instead", page=page.pk)
    with pytest.raises(Refused, match="one image"):
        services.start(stack.pk, station.pk, wish, None)


def test_a_station_without_a_glass_shows_no_first_look(feeder):
    station = services.add_station(feeder.address)
    station.capabilities["platen"] = None
    with pytest.raises(StationError, match="no glass"):
        prescan.begin(station)


def test_an_answer_to_another_question_is_none():
    with pytest.raises(NotEscl):
        read_capabilities(b'<a:ScannerStatus xmlns:a="http://schemas.hp.com/imaging/escl/2011/05/03"/>')
    with pytest.raises(NotEscl):
        read_capabilities(b"<html><body>Sign in</body></html>")


@pytest.mark.parametrize("fails", [0, 2, 5])
def test_a_disk_that_fills_stops_the_feeder_and_loses_no_sheet(two_sided, stack, settings, tmp_path, monkeypatch, fails):
    """The sheet that was under way lies in its spool; the next one is not asked for before there is room."""
    settings.DATA = tmp_path
    sync, left = os.fsync, [fails]

    def full(handle: int) -> None:
        left[0] -= "/spool-" in os.readlink(f"/proc/self/fd/{handle}")
        if left[0] < 0:
            raise OSError(errno.ENOSPC, "No space left on device")
        sync(handle)

    with monkeypatch.context() as here:
        here.setattr(os, "fsync", full)
        run = capture(two_sided, stack)
    assert (run.state, run.received) == ("stopped", fails)
    assert "no room" in run.problem
    fed = len(delivered(two_sided))
    assert fed <= fails + 2
    run = carry(services.go_on(run.pk))
    assert (run.state, run.received) == ("done", len(delivered(two_sided)))
    assert len({Page.objects.get(pk=pk).source.master_id for pk in order_of(stack.pk)}) == run.received


def test_below_a_mark_of_free_space_nothing_is_captured(feeder, stack, monkeypatch):
    monkeypatch.setattr(room.shutil, "disk_usage", lambda _: SimpleNamespace(free=299_000_000))
    with pytest.raises(NoRoom, match="299 MB"):
        capture(feeder, stack)
    assert delivered(feeder) == []


def test_a_run_stops_at_the_mark_before_it_asks_for_a_sheet(feeder, stack, monkeypatch):
    left = [4]

    def usage(folder: object) -> SimpleNamespace:
        left[0] -= 1
        return SimpleNamespace(free=10**10 if left[0] >= 0 else 10**8)

    with monkeypatch.context() as here:
        here.setattr(room.shutil, "disk_usage", usage)
        run = capture(feeder, stack)
    assert (run.state, run.received, "100 MB" in run.problem) == ("stopped", 3, True)
    run = carry(services.go_on(run.pk))
    assert (run.state, run.received) == ("done", 8)


def test_a_first_look_is_begun_by_one_request_and_fetched_once_by_another(client, glass, settings, tmp_path):
    """Looking starts no device: what can be fetched has been begun, by a request that carries the page's own token."""
    settings.DATA = tmp_path
    station = services.add_station(glass.address)
    assert client.get(f"/api/v1/prescans/{'a' * 32}.jpg").status_code == 404
    begun = client.post(f"/api/v1/stations/{station.pk}/prescans")
    assert begun.status_code == 201
    path = prescan.path_of(begun.json()["nonce"])
    assert path is not None
    assert [prescan._taken(path) is None for _ in range(2)] == [False, True]
    assert list(path.parent.iterdir()) == []


def test_a_look_that_nobody_fetched_holds_no_station(glass, stack, settings, tmp_path):
    """Whoever goes to another station before the answer is there leaves one behind."""
    settings.DATA = tmp_path
    station = services.add_station(glass.address)
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
    station = services.add_station(glass.address)
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
    prescan.begin(services.add_station(glass.address))
    prescan.let_go(services.add_station(feeder.address), unclaimed=0.0)
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
    prescan.begin(services.add_station(glass.address))
    settings.STATION_NETWORKS = ()
    prescan.let_go(unclaimed=0.0)
    assert list((tmp_path / "prescans").iterdir()) == []


@pytest.mark.parametrize(("turn", "override"), [(0, {}), (90, {"turn": 90}), (270, {"turn": 270})])
def test_a_page_of_the_glass_is_upright_as_it_was_seen(glass, stack, turn, override):
    capture(glass, stack, source="platen", turn=turn)
    assert Page.objects.get(stack=stack).override == override


def test_a_turned_frame_seen_sideways_is_cut_out_and_turned(glass, stack):
    capture(glass, stack, source="platen", turn=90, frames=[[100.0, 100.0, 80.0, 50.0, 12.0]])
    override = Page.objects.get(stack=stack).override
    assert (override["turn"], len(override["quad"])) == (90, 4)


def test_what_a_feeder_draws_in_is_not_turned(feeder, stack):
    capture(feeder, stack, turn=90)
    assert {str(page.override) for page in Page.objects.filter(stack=stack)} == {"{}"}
