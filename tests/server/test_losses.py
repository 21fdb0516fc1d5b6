"""Nothing that came is lost: two at once, a full disk, a damaged file, several threads of one worker."""

import errno
import io
import os
import threading
import time
import zipfile
from types import SimpleNamespace

import pytest

from hollowstack.server.engine import remote
from hollowstack.server.intake import archives, batches
from hollowstack.server.stacks.models import Upload
from hollowstack.server.storage import places, room
from hollowstack.server.storage.masters import Kept, keep_master
from hollowstack.server.storage.spools import spooled
from tests.server.conftest import answer
from tests.server.test_uploads import announce, patch, take_in

NAMES = [f"{number:02d}.jpg" for number in range(8)]


def box() -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        for name in NAMES:
            archive.writestr(name, b"\xff\xd8\xff" + name.encode() * 30)
    return packed.getvalue()


@pytest.fixture
def sent(client, stack) -> int:
    """A ZIP file that has come whole and is not taken in yet."""
    upload = answer(announce(client, stack, ("box.zip", len(box()))))[0]["id"]
    patch(client, upload, box(), 0)
    return int(upload)


def names(stack) -> list[str]:
    return [page.source.name for page in stack.pages.filter(removed=False).order_by("position")]


def test_two_people_unpack_the_same_archive_at_once(client, stack, sent, user, monkeypatch):
    """One of them is done while the other is still reading."""
    other = answer(announce(client, stack, ("box.zip", len(box()))))[0]["id"]
    patch(client, other, box(), 0)
    add, within = batches.add_files, []

    def meanwhile(*args, **more):
        if not within:
            within.append(True)
            assert len(answer(take_in(client, other, "true"))["pages"]) == len(NAMES)
        return add(*args, **more)

    monkeypatch.setattr(archives.batches, "add_files", meanwhile)
    taken = answer(take_in(client, sent, "true"))
    assert (len(taken["pages"]), taken["left_out"]) == (len(NAMES), [])
    assert names(stack) == NAMES * 2


def full_after(monkeypatch, count: int) -> None:
    """The disk takes so many files more."""
    sync, left = os.fsync, [count]

    def full(handle: int) -> None:
        left[0] -= 1
        if left[0] < 0:
            raise OSError(errno.ENOSPC, "No space left on device")
        sync(handle)

    monkeypatch.setattr(os, "fsync", full)


def test_a_disk_that_fills_while_an_archive_is_unpacked_loses_none_of_it(client, stack, sent, monkeypatch):
    with monkeypatch.context() as here:
        full_after(here, 5)
        refused = take_in(client, sent)
        assert refused.status_code == 507
        assert "no room" in answer(refused)["detail"]
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/uploads"))[0]["received"] == len(box())
    # What came before it stays and is not doubled.
    assert answer(take_in(client, sent))["left_out"] == []
    assert names(stack) == NAMES
    assert not Upload.objects.exists()


def test_a_piece_that_a_full_disk_has_not_taken_has_not_come(client, stack, monkeypatch):
    data = b"\xff\xd8\xff" + b"a page " * 40
    upload = answer(announce(client, stack, ("a.jpg", len(data))))[0]["id"]
    patch(client, upload, data[:100], 0)
    with monkeypatch.context() as here:
        here.setattr("hollowstack.server.intake.uploads.os.fsync", full_disk)
        assert patch(client, upload, data[100:], 100).status_code == 507
    offset = answer(client.get(f"/api/v1/stacks/{stack.pk}/uploads"))[0]["received"]
    assert offset == 100
    assert patch(client, upload, data[offset:], offset).status_code == 204
    assert take_in(client, upload).status_code == 201


def full_disk(handle: int) -> None:
    raise OSError(errno.ENOSPC, "No space left on device")


def test_another_fault_of_the_machine_is_no_full_disk(client, sent, monkeypatch):
    def broken(handle: int) -> None:
        raise OSError(errno.EIO, "Input/output error")

    monkeypatch.setattr(os, "fsync", broken)
    refused = take_in(client, sent)
    assert (refused.status_code, answer(refused)["code"]) == (503, "storage")
    assert "Input/output error" in answer(refused)["detail"]
    assert refused.headers["Content-Type"] == "application/problem+json"


def kept(data: bytes) -> Kept:
    with spooled(io.BytesIO(data)) as spool:
        return keep_master(spool)


@pytest.mark.parametrize("damage", [lambda data: data[:100], lambda data: data[:-1] + b"?", lambda data: b""])
def test_a_damaged_master_is_healed_when_its_file_comes_again(db, settings, damage):
    data = b"\xff\xd8\xff" + b"a page " * 400
    sha256 = kept(data).sha256
    path = places.master_path(sha256)
    path.chmod(0o644)
    path.write_bytes(damage(data))
    assert kept(data) == (sha256, len(data), True)
    assert path.read_bytes() == data
    assert not list((settings.DATA / "uploads").glob("spool-*"))


def test_threads_of_one_worker_take_turns(monkeypatch):
    """Each gets the answer to its own question."""
    under_way = []

    class Slow:
        def run(self, seconds, function, number):
            under_way.append(number)
            time.sleep(0.02)
            alone = under_way == [number]
            under_way.remove(number)
            return {"number": number, "alone": alone}

    monkeypatch.setattr(remote, "_worker", Slow())
    made: dict[int, object] = {}

    def ask(number: int) -> None:
        made[number] = remote.work("bind", str(number), (number,), 5.0).body

    threads = [threading.Thread(target=ask, args=(number,)) for number in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert made == {number: {"number": number, "alone": True} for number in range(6)}


def test_files_that_the_disk_has_no_room_for_are_refused_before_they_come(client, stack, monkeypatch):
    monkeypatch.setattr(room.shutil, "disk_usage", lambda _: SimpleNamespace(free=301_000_000))
    assert announce(client, stack, ("a.jpg", 1_000_000)).status_code in {200, 201}
    refused = announce(client, stack, ("a.jpg", 600_000), ("b.jpg", 600_000))
    assert (refused.status_code, "301 MB" in answer(refused)["detail"]) == (507, True)
