"""Watched folders: complete files come in once, everything else is said in one sentence and nothing is lost."""

import json
import shutil
import zipfile

import pytest
from PIL import Image

from hollowstack.server.capture import watching
from hollowstack.server.capture.models import Watch
from hollowstack.server.intake import quotas
from tests.server.conftest import answer
from tests.server.test_losses import full_after


@pytest.fixture(autouse=True)
def _incoming(settings, tmp_path):
    settings.INCOMING = tmp_path / "incoming"


@pytest.fixture
def folder(stack):
    watching.switch(stack.pk, None, on=True)
    return watching.folder_of(stack.pk)


@pytest.fixture
def watcher():
    made = watching.Watcher(steady=0, stuck=0)
    yield made
    made.close()


def names(stack) -> list[str]:
    return [page.source.name for page in stack.pages.all()]


def put(folder, name: str, shade: int = 200):
    Image.new("L", (40, 60), shade).save(folder / name, "PNG")
    return folder / name


def look(watcher, times: int = 2) -> None:
    """DuplicateFile: once to see a file, once to see that it has not changed."""
    for _ in range(times):
        watcher.look()


def test_off_by_default(client, stack, watcher):
    said = answer(client.get(f"/api/v1/stacks/{stack.pk}/watch"))
    assert (said["on"], said["taken"], said["notes"]) == (False, 0, [])
    watching.folder_of(stack.pk).mkdir(parents=True)
    put(watching.folder_of(stack.pk), "a.png")
    look(watcher)
    assert names(stack) == []


def test_files_come_in_in_the_order_of_their_names(client, stack, watcher):
    answer(client.put(f"/api/v1/stacks/{stack.pk}/watch", json.dumps({"on": True}), content_type="application/json"))
    folder = watching.folder_of(stack.pk)
    for number in (10, 2, 1):
        put(folder, f"page {number}.png", number)
    look(watcher)
    assert names(stack) == ["page 1.png", "page 2.png", "page 10.png"]
    assert sorted(path.name for path in (folder / "taken").iterdir()) == ["page 1.png", "page 10.png", "page 2.png"]
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/watch"))["taken"] == 3
    put(folder, "page 3.png", 3)
    look(watcher)
    assert names(stack)[-1] == "page 3.png"


def test_a_file_that_grows_is_waited_for(stack, folder, watcher, tmp_path):
    data = put(tmp_path, "a.png").read_bytes()
    for end in (10, 60, len(data) - 1):
        (folder / "a.png").write_bytes(data[:end])
        watcher.look()
        assert names(stack) == []
    (folder / "a.png").write_bytes(data)
    look(watcher)
    assert names(stack) == ["a.png"]


def test_a_file_that_never_completes_is_said_and_the_others_go_on(stack, folder, watcher):
    path = put(folder, "broken.png")
    path.write_bytes(path.read_bytes()[:-8])
    put(folder, "whole.png", 9)
    look(watcher)
    assert names(stack) == ["whole.png"]
    (note,) = Watch.objects.get().notes
    assert note == {
        "name": "broken.png", "gone": False,
        "sentence": "It has stopped growing and is not complete: copy it again, or take it away.",
    }  # fmt: skip
    path.unlink()
    watcher.look()
    assert Watch.objects.get().notes == []


def test_hidden_files_texts_folders_and_links(stack, folder, watcher, tmp_path):
    put(folder, ".hidden.png")
    (folder / "notes.txt").write_text("Fog till noon.")
    (folder / "more").mkdir()
    (folder / "link.png").symlink_to(put(tmp_path, "elsewhere.png"))
    put(folder, "page.png", 7)
    look(watcher)
    assert names(stack) == ["page.png"]
    notes = {note["name"]: note["sentence"] for note in Watch.objects.get().notes}
    assert notes.keys() == {"notes.txt", "more", "link.png"}
    assert "not an image or PDF" in notes["notes.txt"]
    assert (folder / "left out" / "notes.txt").read_text() == "Fog till noon."
    assert (folder / ".hidden.png").exists()
    assert (folder / "link.png").is_symlink()


def test_the_same_file_twice_is_left_out_with_a_sentence(stack, folder, watcher):
    put(folder, "a.png")
    look(watcher)
    put(folder, "b.png")
    look(watcher)
    assert names(stack) == ["a.png"]
    assert "as “a.png”" in Watch.objects.get().notes[0]["sentence"]
    assert (folder / "left out" / "b.png").exists()


def test_killed_between_taking_in_and_moving(stack, folder, watcher):
    put(folder, "a.png")
    look(watcher)
    shutil.move(folder / "taken" / "a.png", folder / "a.png")
    again = watching.Watcher(steady=0)
    look(again)
    again.close()
    assert names(stack) == ["a.png"]
    assert (folder / "taken" / "a.png").exists()


def test_the_same_name_again_keeps_both(stack, folder, watcher):
    for shade in (1, 2):
        put(folder, "a.png", shade)
        look(watcher)
    assert names(stack) == ["a.png", "a.png"]
    assert sorted(path.name for path in (folder / "taken").iterdir()) == ["a (2).png", "a.png"]


def test_an_archive_that_a_full_disk_broke_off_goes_on_where_it_was(stack, folder, watcher, monkeypatch):
    """What is in already is not spoken of as left out."""
    with zipfile.ZipFile(folder / "box.zip", "w") as archive:
        for number in range(5):
            archive.writestr(f"{number}.jpg", b"\xff\xd8\xff" + bytes([number]) * 90)
    with monkeypatch.context() as here:
        full_after(here, 3)
        look(watcher)
        assert "no room" in Watch.objects.get(stack=stack).notes[0]["sentence"]
    assert (folder / "box.zip").exists()
    look(watcher)
    assert names(stack) == [f"{number}.jpg" for number in range(5)]
    assert (folder / watching.TAKEN / "box.zip").exists()
    assert Watch.objects.get(stack=stack).notes == []


def test_what_is_more_than_a_stack_may_hold_waits_in_its_folder(stack, folder, watcher, settings, monkeypatch):
    data = put(folder, "a.png").read_bytes()
    monkeypatch.setattr(quotas, "_GB", len(data) - 1)
    settings.STACK_GB = 1
    look(watcher)
    told = Watch.objects.get(stack=stack).notes[0]["sentence"]
    assert told.startswith("This stack may hold 1 GB")
    assert told.endswith("It comes in once there is more.")
    assert (folder / "a.png").read_bytes() == data
    assert names(stack) == []
    monkeypatch.setattr(quotas, "_GB", len(data))
    look(watcher)
    assert names(stack) == ["a.png"]
    assert Watch.objects.get(stack=stack).notes == []
