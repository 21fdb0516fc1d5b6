"""Stations and captures: from a simulated station over real HTTP into a stack, and all that can go wrong between."""

import errno
import os
from pathlib import Path
from types import SimpleNamespace

import httpx
import pytest

from hollowstack.server.capture import runs, station_list
from hollowstack.server.capture.escl import EsclClient, ScanSettings, StationError
from hollowstack.server.capture.escl.messages import NotEscl, Status, read_capabilities
from hollowstack.server.capture.models import Run
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.capture.standing import standing
from hollowstack.server.errors import NoRoom, Refused
from hollowstack.server.stacks import history
from hollowstack.server.stacks.models import Page, Source
from hollowstack.server.stacks.services import order_of
from hollowstack.server.storage import places, room
from hollowstack.standins.station.server import _obey as obey
from tests.server.conftest import walk
from tests.server.stations import capture, carry, delivered, sizes

pytestmark = pytest.mark.django_db(transaction=True)


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
    runs.go_on(run.pk)
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
    assert runs.finish(run.pk).state == "done"
    assert len(order_of(stack.pk)) == 7


def test_an_empty_feeder_can_be_filled(feeder, stack):
    obey(feeder, {"load": ""})
    run = capture(feeder, stack)
    assert (run.state, run.problem) == ("stopped", "The feeder is empty: lay the paper in, then go on.")
    obey(feeder, {"load": "register-8", "pick": [0, 1]})
    runs.go_on(run.pk)
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
    station = station_list.add_station(glass.address)
    wish = CaptureSettings(source="platen", ppi=75, place="after", page=page)
    run = runs.start(stack.pk, station.pk, wish, None)
    Page.objects.filter(pk=page).update(removed=True)
    run = carry(run)
    assert (run.state, run.received) == ("stopped", 0)
    assert "is gone" in run.problem


def test_a_station_that_a_capture_needs_is_not_forgotten(two_sided, stack):
    obey(two_sided, {"jam_after": 1})
    run = capture(two_sided, stack)
    with pytest.raises(Refused, match="not finished"):
        station_list.forget_station(run.station_id)
    runs.finish(run.pk)
    station_list.forget_station(run.station_id)
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
    station_list.add_station(two_sided.address)
    obey(two_sided, fault)
    # Of a busy machine an image is long in coming: only one that hangs is given up soon.
    run = capture(two_sided, stack, patience=1 if "hang" in fault else 30)
    assert run.state == "stopped"
    assert says in run.problem
    obey(two_sided, {"nonsense": False, "offline": False, "hang": False})
    runs.go_on(run.pk)
    run = carry(run)
    assert (run.state, run.received) == ("done", 8)
    assert [name for name, _ in delivered(two_sided)] == [f"register {2 * n + 1}" for n in range(8)]


def test_warming_up_is_waited_for(feeder, stack):
    obey(feeder, {"warm_up_s": 1.5})
    with EsclClient(feeder.address) as client:
        assert standing(client.status(), None)[0] == "warming up"
    assert capture(feeder, stack).received == 8


def one_image_on(feeder, stack, settings) -> tuple[Run, Path, bytes]:
    """A load whose process has died: its first image has left the station; where it was to lie, and its bytes."""
    station = station_list.add_station(feeder.address)
    run = runs.start(stack.pk, station.pk, CaptureSettings(source="feeder", ppi=75, colour="grey"), None)
    spool = settings.DATA / "uploads" / f"run-{run.pk}-0"
    with EsclClient(feeder.address) as client:
        job = client.start(ScanSettings("Feeder", False, "Grayscale8", 75, "image/jpeg", (0, 0, 216, 356)))
        client.next_document(job, spool)
    data = spool.read_bytes()
    spool.unlink()
    Run.objects.filter(pk=run.pk).update(job=job)
    return run, spool, data


def masters_of(stack) -> list[bytes]:
    return [places.master_path(Page.objects.get(pk=pk).source.master_id).read_bytes() for pk in order_of(stack.pk)]


@pytest.mark.parametrize("whole", [True, False])
def test_an_image_that_had_come_when_the_process_died(feeder, stack, settings, whole):
    """Whole, it is taken in; torn, the station is still holding it. Either way each comes in once."""
    run, spool, data = one_image_on(feeder, stack, settings)
    part = spool.with_name(f"{spool.name}.{len(data)}.part")
    if whole:
        part.write_bytes(data)
    else:
        feeder.device.jobs[1].held, feeder.device.jobs[1].made = data, 0
        part.write_bytes(data[:100])
    run = carry(run)
    assert (run.state, run.received) == ("done", 8)
    masters = masters_of(stack)
    assert (len(set(masters)), masters[0]) == (8, data)


def test_an_image_that_was_handed_out_to_a_process_that_died_is_missed(feeder, stack, settings):
    """It had left the station whole, and nothing of it was on the disk: nobody can ask for it again, but it is counted."""
    run, _, lost = one_image_on(feeder, stack, settings)
    run = carry(run)
    assert (run.state, run.received) == ("stopped", 7)
    assert run.problem.startswith("1 image of this load was lost on the way when the program or the line was interrupted")
    # Its sheet, laid in alone, completes the load.
    obey(feeder, {"load": "register-8"})
    del feeder.device.tray[1:]
    runs.go_on(run.pk)
    run = carry(run)
    assert (run.state, run.received, run.problem) == ("done", 8, "")
    masters = masters_of(stack)
    assert (len(set(masters)), masters[-1]) == (8, lost)


@pytest.mark.parametrize("address", ["http://127.0.0.1:9", "not an address", "http://[::1", "file:///etc/passwd"])
def test_an_address_without_a_station(db, address):
    with pytest.raises(Refused, match=r"answers there|no address"):
        station_list.add_station(address)


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
    assert standing(status, None)[0] == words


def test_in_the_place_of_a_page_one_image_is_captured(two_sided, stack, pages):
    (page,) = pages(1)
    station = station_list.add_station(two_sided.address)
    wish = CaptureSettings(source="feeder", ppi=75, place="instead", page=page.pk)
    with pytest.raises(Refused, match="one image"):
        runs.start(stack.pk, station.pk, wish, None)


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
    run = carry(runs.go_on(run.pk))
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
    run = carry(runs.go_on(run.pk))
    assert (run.state, run.received) == ("done", 8)


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
