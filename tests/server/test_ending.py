"""How captures end: paused, ended early, discarded, cancelled at the station; what did not come is said."""

import threading
import time

import pytest

from hollowstack.server.capture import ending, runs, station_list
from hollowstack.server.capture.escl.messages import Status
from hollowstack.server.capture.executor import Carrier
from hollowstack.server.capture.models import Run
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.errors import Refused
from hollowstack.server.stacks import bin, history
from hollowstack.server.stacks.models import Batch
from hollowstack.server.stacks.services import order_of
from hollowstack.standins.station.server import Station as Simulated
from hollowstack.standins.station.server import _obey as obey
from tests.live import until
from tests.server.stations import capture, carry, delivered, sizes, station_of

pytestmark = pytest.mark.django_db(transaction=True)


def test_what_is_discarded_lies_in_the_bin_and_can_be_taken_back(two_sided, stack):
    obey(two_sided, {"jam_after": 3})
    run = capture(two_sided, stack)
    came = order_of(stack.pk)
    assert len(came) == 3
    runs.cancel(run.pk)
    run = carry(run)
    assert (run.state, run.received, order_of(stack.pk)) == ("cancelled", 0, [])
    assert run.outcome == "Discarded: 3 pages lie in the bin for 30 days."
    assert [page.pk for page in bin.deleted_pages()] == came
    history.undo(stack.pk, history.next_to_undo(stack).pk)
    assert order_of(stack.pk) == came
    with pytest.raises(Refused, match="over"):
        runs.cancel(run.pk)


def test_cancelled_in_the_middle(two_sided, stack):
    obey(two_sided, {"speed": 4})
    station = station_list.add_station(two_sided.address)
    run = runs.start(stack.pk, station.pk, CaptureSettings(source="feeder", ppi=150), None)
    carrier = threading.Thread(target=Carrier(run.pk, 30).work)
    carrier.start()
    deadline = time.monotonic() + 20
    while not Run.objects.get(pk=run.pk).received and time.monotonic() < deadline:
        time.sleep(0.02)
    runs.cancel(run.pk)
    carrier.join(20)
    assert Run.objects.get(pk=run.pk).state == "cancelled"
    assert order_of(stack.pk) == []
    assert two_sided.device.busy is None


def test_discarded_before_anything_came(two_sided, stack):
    station = station_list.add_station(two_sided.address)
    obey(two_sided, {"offline": True})
    run = carry(runs.start(stack.pk, station.pk, CaptureSettings(source="feeder"), None), 1)
    runs.cancel(run.pk)
    run = carry(run, 1)
    assert (run.state, run.outcome) == ("cancelled", "Discarded: nothing had come.")
    assert Batch.objects.count() == 0


def in_the_middle(simulated: Simulated, stack, after: int, **settings) -> tuple[Run, threading.Thread]:
    """A capture that has brought so many images and goes on, carried out in a thread."""
    obey(simulated, {"speed": 4})
    wish = CaptureSettings.model_validate({"source": "feeder", "ppi": 150, **settings})
    run = runs.start(stack.pk, station_of(simulated).pk, wish, None)
    carrier = threading.Thread(target=Carrier(run.pk, 30).work)
    carrier.start()
    until(lambda: Run.objects.get(pk=run.pk).received >= after, 20, "images to come")
    return run, carrier


def test_a_load_is_paused_and_goes_on_with_the_next_sheet(feeder, stack):
    run, carrier = in_the_middle(feeder, stack, 2)
    runs.pause(run.pk)
    carrier.join(20)
    run.refresh_from_db()
    assert run.state == "stopped"
    assert run.problem == f"Paused before sheet {run.received + 1}: go on when you are ready, or keep what came."
    assert feeder.device.busy is not None  # the sheets are still its own
    with pytest.raises(Refused, match="nothing to pause"):
        runs.pause(run.pk)
    obey(feeder, {"speed": 0})
    runs.go_on(run.pk)
    run = carry(run)
    assert (run.state, run.received, run.outcome) == ("done", 8, "")
    assert [name for name, _ in delivered(feeder)] == [f"register {2 * n + 1}" for n in range(8)]


def test_a_paused_load_whose_station_has_let_it_go_begins_anew_at_the_next_sheet(feeder, stack):
    run, carrier = in_the_middle(feeder, stack, 2)
    runs.pause(run.pk)
    carrier.join(20)
    obey(feeder, {"speed": 0})
    feeder.device.cancel(1)
    runs.go_on(run.pk)
    run = carry(run)
    assert (run.state, run.received) == ("done", 8)
    assert [name for name, _ in delivered(feeder)] == [f"register {2 * n + 1}" for n in range(8)]


@pytest.mark.parametrize(("sheets", "said"), [(8, " of 8 images came"), (None, " images came")])
def test_a_load_is_ended_and_kept(feeder, stack, sheets, said):
    run, carrier = in_the_middle(feeder, stack, 2, sheets=sheets)
    runs.finish(run.pk)
    carrier.join(20)
    run.refresh_from_db()
    assert (run.state, run.problem) == ("done", "")
    assert run.outcome.startswith(f"Ended early at sheet {run.received + 1}: {run.received}{said}")
    assert len(order_of(stack.pk)) == run.received >= 2
    assert feeder.device.busy is None
    with pytest.raises(Refused, match="over"):
        runs.finish(run.pk)


def test_a_front_whose_back_did_not_come_is_kept(two_sided, stack):
    run = capture(two_sided, stack, two_sided=True)
    Run.objects.filter(pk=run.pk).update(state="finishing", received=15, outcome="")
    run = carry(Run.objects.get(pk=run.pk))
    assert (run.state, run.received, len(order_of(stack.pk))) == ("done", 15, 16)


def test_ended_before_the_capture_process_has_begun(feeder, stack):
    run = runs.start(stack.pk, station_of(feeder).pk, CaptureSettings(source="feeder"), None)
    runs.finish(run.pk)
    run = carry(run)
    assert (run.state, run.received, feeder.device.jobs) == ("done", 0, {})
    assert run.outcome == "Ended early at sheet 1: 0 images came, and what came is in the stack."


def test_a_load_that_stopped_is_kept_and_said_to_be_a_part(feeder, stack):
    obey(feeder, {"jam_after": 3})
    run = capture(feeder, stack, sheets=8)
    assert runs.finish(run.pk).outcome.startswith("Ended early at sheet 4: 3 of 8 images came")


def test_all_that_was_counted_came_though_somebody_had_to_keep_it(feeder, stack):
    run = capture(feeder, stack, sheets=8)
    assert (run.state, run.outcome) == ("done", "")
    Run.objects.filter(pk=run.pk).update(state="stopped")
    assert runs.finish(run.pk).outcome == ""


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
    runs.go_on(run.pk)
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
        runs.go_on(run.pk)
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
    said = ending.of_load(status, "http://a/eSCL/ScanJobs/1", ending.Load(came, laid))
    assert says in said
    assert bool(said) == bool(says)


@pytest.mark.parametrize(
    ("made", "came", "state", "lost"),
    [(8, 7, "Completed", 1), (8, 8, "Completed", 0), (7, 8, "Completed", 0), (8, 7, "Aborted", 0), (8, 7, "", 0)],
)
def test_what_a_station_handed_out_is_held_against_what_came(made, came, state, lost):
    status = Status("Idle", "ScannerAdfEmpty", {"7": state}, made={"7": made})
    assert ending.lost_of(status, "http://a/eSCL/ScanJobs/7/", came) == lost
    assert ending.lost_of(status, "http://a/eSCL/ScanJobs/8", came) == 0  # of which it says nothing


def test_lost_images_are_told_with_what_to_do():
    one, two = (ending.of_lost(number, two_sided=False) for number in (1, 2))
    assert one.startswith(
        "1 image of this load was lost on the way when the program or the line was interrupted: lay its sheet"
    )
    assert two.startswith("2 images of this load were lost on the way")
    assert "lay their sheets in alone and go on (the pages come last), or discard" in two
    # Alone, a sheet would bring the side that is there a second time.
    assert "interrupted: discard what came and load all of it again." in ending.of_lost(1, two_sided=True)


@pytest.mark.parametrize(
    ("feeder_says", "job", "says"),
    [
        ("ScannerAdfEmpty", "", ""), ("ScannerAdfLoaded", "", "says that paper is left"), ("ScannerAdfEmpty", "Canceled", "Somebody cancelled"),
        ("ScannerAdfLoaded", "Canceled", "Somebody cancelled"), ("ScannerAdfEmpty", "Aborted", "gave up at sheet 4"),
        ("ScannerAdfJam", "Aborted", "A sheet is jammed at sheet 4"), ("ScannerAdfJam", "Canceled", "A sheet is jammed"),
    ],
)  # fmt: skip
def test_how_a_load_ended_is_told_as_what_it_was(feeder_says, job, says):
    said = ending.of_load(Status("Idle", feeder_says, {"7": job}), "http://a/7/", ending.Load(3, None))
    assert says in said
    assert bool(said) == bool(says)
