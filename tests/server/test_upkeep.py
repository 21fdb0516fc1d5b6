"""Everything stored is read again and put right; what nothing wants goes, and nothing else does."""

import io
import os
import threading
import time
from datetime import datetime, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

import pytest
from django.core.management import call_command
from django.utils import timezone

from hollowstack.core.run.steps import READING, THUMB
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.engine.management.commands import engine as engine_command
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.engine.wanting import wanted
from hollowstack.server.inspection.checking import check_some
from hollowstack.server.intake import archives, batches
from hollowstack.server.results.models import Result
from hollowstack.server.stacks import bin as trash
from hollowstack.server.stacks.models import Master, Page
from hollowstack.server.storage import locks, places
from hollowstack.server.storage.spools import spooled
from hollowstack.server.upkeep import nightly, verifying
from hollowstack.server.upkeep.collecting import collect
from hollowstack.server.upkeep.models import Round
from hollowstack.server.upkeep.verifying import SHARES, verify
from tests.server.conftest import CLEAN, MEASURED, READ

DATA = b"\xff\xd8\xff and so on"


@pytest.fixture(autouse=True)
def own_folder(settings, tmp_path):
    settings.DATA = tmp_path


def digest(data: bytes) -> str:
    with spooled(io.BytesIO(data)) as spool:
        return spool.sha256


@pytest.fixture
def page(stack) -> Page:
    """A page with all its files, as the steps leave them."""
    with spooled(io.BytesIO(DATA)) as spool:
        sha256, size, _ = archives.keep(spool)
    made = batches.add_file(batches.open_batch(stack.pk, None).pk, batches.Coming(0, "letter.jpg", sha256, size))
    record([Outcome("expand", made.opened_id, {"frames": 1})])
    made.refresh_from_db()
    record([Outcome("measure", made.measured_id, {"measurements": MEASURED})])
    made.refresh_from_db()
    record([Outcome("render", made.rendered_id, {**CLEAN, "sha256": digest(b"image")})])
    record([Outcome("read", made.reading_id, {**READ, "sha256": digest(b"{}")})])
    for step, key, names in (
        ("measure", made.measured_id, ["view.jpg", THUMB]),
        ("render", made.rendered_id, ["image", "view.png", THUMB]),
        ("read", made.reading_id, [READING]),
    ):
        folder = places.result_path(step, key)
        folder.mkdir(parents=True)
        for name in names:
            (folder / name).write_bytes({"image": b"image", READING: b"{}"}.get(name, b"picture"))
    return Page.objects.get(pk=made.pk)


@pytest.fixture
def document(user, stack, page):
    (made,) = ask_to_bind(stack.pk, "Box", user)
    path = places.document_path(made.key)
    path.parent.mkdir(parents=True)
    path.write_bytes(b"%PDF")
    record([Outcome("bind", made.key, {"pages": 1, "bytes": 4, "sha256": digest(b"%PDF"), "seconds": 1.0})])
    return made


def damage() -> list[str]:
    return [look.damage for look in verify() if look.damage]


def spoil(path: Path) -> None:
    path.chmod(0o644)
    path.write_bytes(path.read_bytes()[:-1] + b"?")


def test_what_is_sound_is_left_as_it_is(page, document):
    looks = list(verify())
    assert [look.damage for look in looks if look.damage] == []
    assert len(looks) == 1 + 1 + 5  # the database, the master, four results of the page and the document
    assert wanted(9, frozenset()) == []


@pytest.mark.parametrize("harm", [spoil, Path.unlink])
def test_a_damaged_master_is_named_by_page_and_stack(page, client, stack, harm):
    harm(places.master_path(page.source.master_id))
    (said,) = damage()
    assert "“letter.jpg” in “Box 27”" in said
    assert "add the same file again" in said
    assert Master.objects.get().damaged_at is not None
    while check_some():
        pass
    found = client.get(f"/api/v1/stacks/{stack.pk}/findings").json()
    assert any("damaged" in finding["message"] and finding["page"] == page.pk for finding in found)
    with spooled(io.BytesIO(DATA)) as spool:
        archives.keep(spool)
    assert damage() == []
    assert Master.objects.get().damaged_at is None
    while check_some():
        pass
    found = client.get(f"/api/v1/stacks/{stack.pk}/findings").json()
    assert not any(finding["kind"] == "storage" for finding in found)


@pytest.mark.parametrize(
    ("step", "name", "state"),
    [
        ("measure", THUMB, "measure"),
        ("measure", "view.jpg", "measure"),
        ("render", "image", "correct"),
        ("render", THUMB, "correct"),
        ("render", "view.png", "correct"),
        ("read", READING, "read"),
    ],
)
def test_a_result_that_is_gone_is_made_again(page, step, name, state):
    key = {"measure": page.measured_id, "render": page.rendered_id, "read": page.reading_id}[step]
    (places.result_path(step, key) / name).unlink()
    assert "made again" in damage()[0]
    assert Page.objects.get(pk=page.pk).state == state
    assert [task.key for task in wanted(9, frozenset())] == [key]


@pytest.mark.parametrize(("step", "name"), [("render", "image"), ("read", READING)])
def test_a_result_that_has_changed_is_made_again(page, step, name):
    key = {"render": page.rendered_id, "read": page.reading_id}[step]
    spoil(places.result_path(step, key) / name)
    assert len(damage()) == 1
    assert [task.key for task in wanted(9, frozenset())] == [key]
    assert damage() == []


@pytest.mark.parametrize("harm", [spoil, Path.unlink])
def test_a_damaged_document_is_bound_again(page, document, harm):
    harm(places.document_path(document.key))
    assert "“Box” of “Box 27”" in damage()[0]
    assert [task.step for task in wanted(9, frozenset())] == ["bind"]


def test_a_damaged_document_whose_pages_have_gone_says_so(page, document):
    Page.objects.update(removed=True)
    Result.objects.exclude(step="bind").delete()
    spoil(places.document_path(document.key))
    damage()
    assert "bind the stack again" in Result.objects.get(key=document.key).error


def test_what_failed_has_no_files(page):
    record([Outcome("read", page.reading_id, None, "No.", "page")])
    assert damage() == []


def test_a_disk_that_cannot_be_read_forgets_nothing(page, monkeypatch):
    def broken(path: Path) -> str:
        raise OSError(5, "Input/output error")

    monkeypatch.setattr(verifying, "sha256_of", broken)
    monkeypatch.setattr("hollowstack.server.storage.masters.sha256_of", broken)
    assert len([said for said in damage() if "cannot be read (Input/output error)" in said]) == 3
    assert Page.objects.get(pk=page.pk).state == "ready"


def test_every_night_another_share_and_in_the_end_all(page, document):
    read = [look.what for share in range(SHARES) for look in verify(share)]
    assert sorted(what for what in read if what != "the database") == sorted(look.what for look in list(verify())[1:])


# Collecting


def old(path: Path) -> Path:
    os.utime(path, (time.time() - 90_000,) * 2)
    return path


def test_nothing_that_is_wanted_goes(page, document):
    Result.objects.update(made_at=timezone.now() - timedelta(days=99))
    old(places.master_path(page.source.master_id))
    assert collect().counts == {}
    assert damage() == []


@pytest.mark.parametrize(("days", "goes"), [(6.9, False), (7.1, True)])
def test_results_that_nothing_names_go_after_a_week(page, days, goes):
    key = page.rendered_id
    Page.objects.update(rendered=None, reading=None)
    Result.objects.update(made_at=timezone.now() - timedelta(days=days))
    freed = collect()
    assert Result.objects.filter(key=key).exists() is not goes
    assert places.result_path("render", key).exists() is not goes
    assert freed.bytes == (len(b"image" + b"picture" * 2 + b"{}") if goes else 0)
    assert Result.objects.filter(key=page.measured_id).exists()


def test_all_of_them_go_at_once_where_that_is_asked_for(page, capsys):
    Page.objects.update(rendered=None, reading=None)
    call_command("collect", all=True)
    assert "2 results" in capsys.readouterr().out


def test_a_document_under_way_keeps_what_it_is_bound_of(user, stack, page):
    ask_to_bind(stack.pk, "Box", user)
    Page.objects.update(rendered=None, reading=None)
    collect(timedelta(0))
    assert Result.objects.filter(key=page.rendered_id).exists()


def test_masters_go_with_their_stacks_and_not_before(stack, user, page):
    path = old(places.master_path(page.source.master_id))
    trash.delete_stack(stack.pk, user)
    collect(timedelta(0))
    assert path.exists()
    type(stack).everything.update(deleted_at=timezone.now() - timedelta(days=31))
    freed = collect(timedelta(0))
    assert freed.counts["masters"] == 1
    assert freed.counts["stacks of the bin"] == 1
    assert not path.exists()
    assert not Master.objects.exists()
    assert not any(
        file.is_file() for kind in ("masters", "results") for file in places.spools().parent.joinpath(kind).rglob("*")
    )


def test_a_master_that_has_just_come_stays_though_nothing_holds_it_yet(db):
    with spooled(io.BytesIO(DATA)) as spool:
        sha256 = archives.keep(spool).sha256
    path = old(places.master_path(sha256))
    with spooled(io.BytesIO(DATA)) as spool:
        archives.keep(spool)  # the same file once more, about to be added to a stack
    assert collect().counts == {}
    old(path)
    assert collect().counts == {"masters": 1}
    assert not path.exists()


def test_what_dead_processes_left_goes_after_a_day(page):
    spools = places.spools()
    left = [spools / "spool-abc", spools / "upload-99.part", places.result_path("read", "a" * 64)]
    left += [places.result_path("render", "b" * 64).with_name(".part-xyz"), places.document_path("c" * 64)]
    for path in left:
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(b"x")
    mine = old(spools)
    others = [spools / "run-4-1"]
    others[0].write_bytes(b"x")
    old(others[0])
    assert collect().counts == {}
    for path in left:
        old(path)
    assert collect().counts == {"left-over files": 5}
    assert not any(path.exists() for path in left)
    assert others[0].exists()
    assert mine.exists()


def test_commands_say_what_they_found(page, capsys):
    call_command("verify")
    assert "0 damaged" in capsys.readouterr().out
    spoil(places.master_path(page.source.master_id))
    with pytest.raises(SystemExit):
        call_command("verify")
    assert "1 damaged" in capsys.readouterr().out
    call_command("collect")
    assert "0 bytes freed" in capsys.readouterr().out


# Nights


@pytest.mark.parametrize(
    ("hour", "since_hours", "due"),
    [(2, None, True), (12, None, False), (2, 24, True), (2, 11, False), (12, 24, False), (12, 49, True), (1, 24, True),
     (5, 24, False), (0, 24, False)],
)  # fmt: skip
def test_a_round_is_made_once_a_night(hour, since_hours, due):
    now = datetime(2026, 3, 3, hour, 30, tzinfo=ZoneInfo("Europe/Berlin"))
    last = None if since_hours is None else Round(ended_at=now - timedelta(hours=since_hours))
    assert nightly.is_due(now, last) is due


def test_a_round_reads_the_next_share_and_notes_what_it_found(page, monkeypatch):
    monkeypatch.setattr(nightly, "_REST_SECONDS", 0)
    shares = [nightly.make_round(threading.Event()).share for _ in range(SHARES + 1)]
    assert shares == [*range(SHARES), 0]
    spoil(places.master_path(page.source.master_id))
    found = [nightly.make_round(threading.Event()).damaged for _ in range(SHARES)]
    assert sum(found) == 1
    stopped = threading.Event()
    stopped.set()
    assert nightly.make_round(stopped) is None


# One of each


def test_a_second_process_says_so_and_ends(settings, capsys, monkeypatch):
    second = locks.only_one("engine", 0)
    with locks.only_one("engine", 0), pytest.raises(locks.AlreadyRunning, match=f"process \\({os.getpid()}\\)"), second:
        pytest.fail("two at once")
    with locks.only_one("engine", 0), locks.only_one("capture", 0):
        monkeypatch.setattr(engine_command, "_PATIENCE", 0.0)
        with pytest.raises(SystemExit) as ended:
            call_command("engine", parent=0)
    assert ended.value.code == 2
    with locks.only_one("engine", 0):
        pass


def test_one_that_is_ending_is_waited_for(settings):
    entered = threading.Event()

    def hold() -> None:
        with locks.only_one("engine", 0):
            entered.set()
            time.sleep(0.3)

    thread = threading.Thread(target=hold)
    thread.start()
    entered.wait(5)
    with locks.only_one("engine", 10):
        pass
    thread.join()
    impatient = locks.only_one("engine", 60, given_up=lambda: True)
    with locks.only_one("engine", 0), pytest.raises(locks.AlreadyRunning), impatient:
        pytest.fail("two at once")
