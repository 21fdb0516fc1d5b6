"""The steps of a page as the engine runs them: small results back, files in a folder that is there whole or not at all."""

import json
import pickle
import shutil
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import numpy as np
import pikepdf
import pytest
from PIL import Image

from hollowstack.core.bind import lossy
from hollowstack.core.measure import Measurements
from hollowstack.core.page.errors import DamagedResultError, DecodeError, ReadError
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run import steps
from hollowstack.core.run.binding import BindOrder
from hollowstack.core.settings.treatment import Treatment

ORDER = BindOrder(title="Box", created=datetime(2026, 3, 1, 9, tzinfo=UTC)).model_dump(mode="json")


@pytest.fixture(scope="module")
def master(tmp_path_factory: pytest.TempPathFactory, typed_page) -> Path:
    path = tmp_path_factory.mktemp("master") / "page.png"
    Image.fromarray(typed_page(lines=8, skew=1.2).pixels).save(path, dpi=(150, 150))
    return path


@pytest.fixture(scope="module")
def measured(master: Path, tmp_path_factory: pytest.TempPathFactory) -> tuple[dict[str, Any], Path]:
    folder = tmp_path_factory.mktemp("measured") / "ab" / "cd"
    return steps.measure_step(str(master), 0, str(folder)), folder


def plan_for(measured: dict[str, Any], **wanted: Any) -> dict[str, Any]:
    found = Measurements.model_validate(measured["measurements"])
    return plan_page(found, Treatment(**wanted)).model_dump(mode="json")


def names(folder: Path) -> set[str]:
    return {path.name for path in folder.iterdir()}


def test_a_master_is_counted_and_says_where_it_comes_from(master):
    assert steps.expand(str(master)) == {"frames": 1, "origin": {"taken": None, "device": "", "photographed": False}}


def test_measuring_leaves_a_picture_for_the_browser(measured, master):
    result, folder = measured
    assert set(result) == {"measurements", "seconds"}
    assert json.dumps(result)
    assert names(folder) == {"view.jpg", "thumb.webp"}
    with Image.open(folder / "view.jpg") as view, Image.open(master) as image:
        assert view.size == image.size
    with Image.open(folder / "thumb.webp") as thumb:
        assert max(thumb.size) == 400
    assert folder.stat().st_mode & 0o777 == 0o755


@pytest.mark.parametrize(
    ("colour", "most", "filter_", "view"),
    [
        ("grey", 0, "DCTDecode", "view.jpg"),
        ("grey", 10**7, "JPXDecode", "view.jpg"),
        ("bitonal", 0, "JBIG2Decode", "view.png"),
    ],
)
def test_the_clean_page_is_shown_as_it_is_bound(measured, master, tmp_path, monkeypatch, colour, most, filter_, view):
    monkeypatch.setattr(lossy, "_MOST_PIXELS", most)
    clean = steps.render_step(str(master), 0, plan_for(measured[0], colour=colour), str(tmp_path / "clean"))
    assert clean["filter"] == filter_
    assert clean["bytes"] == (tmp_path / "clean" / "image").stat().st_size
    assert names(tmp_path / "clean") == {"image", view, "thumb.webp"}
    with Image.open(tmp_path / "clean" / view) as shown:
        assert shown.size == tuple(clean["size_px"])
    if filter_ == "DCTDecode":
        assert (tmp_path / "clean" / view).read_bytes() == (tmp_path / "clean" / "image").read_bytes()
    else:
        with Image.open(tmp_path / "clean" / view) as shown:
            ink = np.asarray(shown.convert("L")) < 128
        assert 0.001 < ink.mean() < 0.2


def test_the_whole_way_by_steps(measured, master, tmp_path):
    plan = plan_for(measured[0])
    clean = steps.render_step(str(master), 0, plan, str(tmp_path / "clean"))
    read = steps.read_step(str(master), 0, plan, "eng", str(tmp_path / "read"))
    assert read["words"] > 40
    assert read["mean_confidence"] > 60
    page = {"folder": str(tmp_path / "clean"), "clean": clean, "ppi": plan["ppi"]}
    page |= {"reading": str(tmp_path / "read"), "read": read, "master": "ab" * 32}
    done = steps.bind_step([page, page | {"reading": None}], str(tmp_path / "out" / "box.pdf"), ORDER)
    assert done["pages"] == 2
    assert done["bytes"] == (tmp_path / "out" / "box.pdf").stat().st_size
    with pikepdf.open(tmp_path / "out" / "box.pdf") as pdf:
        assert [b"Tj" in p.Contents.read_bytes() for p in pdf.pages] == [True, False]


@pytest.fixture(scope="module")
def worked(measured, master, tmp_path_factory: pytest.TempPathFactory) -> tuple[dict[str, Any], dict[str, Any], Path]:
    """A clean page and its reading, with the folder that they lie in."""
    root, plan = tmp_path_factory.mktemp("worked"), plan_for(measured[0])
    clean = steps.render_step(str(master), 0, plan, str(root / "clean"))
    return clean, steps.read_step(str(master), 0, plan, "eng", str(root / "read")), root


@pytest.mark.parametrize(("folder", "name"), [("clean", "image"), ("read", "reading.json")])
@pytest.mark.parametrize("damage", [lambda file: file.unlink(), lambda file: file.write_bytes(file.read_bytes()[:-3])])
def test_what_is_bound_is_what_was_made(worked, tmp_path, folder, name, damage):
    clean, read, root = worked
    shutil.copytree(root, tmp_path, dirs_exist_ok=True)
    page = {"folder": str(tmp_path / "clean"), "clean": clean, "ppi": [150.0, 150.0]}
    page |= {"reading": str(tmp_path / "read"), "read": read, "master": "ab" * 32}
    damage(tmp_path / folder / name)
    with pytest.raises(DamagedResultError) as said:
        steps.bind_step([page], str(tmp_path / "box.pdf"), ORDER)
    assert (said.value.key, said.value.kind) == (folder, "storage")
    assert pickle.loads(pickle.dumps(said.value)).key == folder
    assert not (tmp_path / "box.pdf").exists()


def test_what_fails_leaves_no_folder(measured, master, tmp_path):
    plan = plan_for(measured[0])
    damaged = tmp_path / "half.png"
    damaged.write_bytes(master.read_bytes()[:9000])
    with pytest.raises(DecodeError):
        steps.measure_step(str(damaged), 0, str(tmp_path / "store" / "measured"))
    steps.render_step(str(master), 0, plan, str(tmp_path / "store" / "clean"))
    with pytest.raises(ReadError):
        steps.read_step(str(master), 0, plan, "xyz", str(tmp_path / "store" / "read"))
    assert names(tmp_path / "store") == {"clean"}


def test_a_stop_while_writing_leaves_the_former_result(measured, master, tmp_path, monkeypatch):
    plan = plan_for(measured[0])
    folder = tmp_path / "store" / "clean"
    steps.render_step(str(master), 0, plan, str(folder))
    before = (folder / "image").read_bytes()

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(steps, "_write_thumb", full)
    with pytest.raises(OSError, match="No space"):
        steps.render_step(str(master), 0, plan, str(folder))
    assert (folder / "image").read_bytes() == before
    assert names(tmp_path / "store") == {"clean"}
    monkeypatch.undo()
    steps.render_step(str(master), 0, plan, str(folder))
    assert (folder / "image").read_bytes() == before
