"""``hollowstack process`` by its contract: the files it writes, every field of the report, the exit status."""

import json
import os
import shutil
import signal
import subprocess
import sys
import zipfile
from pathlib import Path
from typing import Any

import numpy as np
import pikepdf
import pytest
from PIL import Image

from hollowstack.cli import main

SEED = "2026-03-01T09:00:00Z"
ENTRY = {
    "source", "frame", "source_sha256", "status", "reason", "error", "source_size_px", "source_ppi", "orientation_deg",
    "skew_deg", "quad_px", "output_size_px", "output_ppi", "colour_mode", "ocr", "findings", "bytes", "seconds",
}  # fmt: skip


@pytest.fixture(scope="module")
def drawn(tmp_path_factory: pytest.TempPathFactory, typed_page) -> Path:
    folder = tmp_path_factory.mktemp("drawn")
    for number, lines in ((1, 8), (2, 0), (10, 12)):
        page = typed_page(lines=lines, skew=0.7)
        Image.fromarray(page.pixels).save(folder / f"page {number}.png", dpi=(150, 150))
    (folder / ".hidden.png").write_bytes(b"no")
    return folder


@pytest.fixture
def scans(tmp_path: Path, drawn: Path) -> Path:
    return shutil.copytree(drawn, tmp_path / "box")


def report(out: Path) -> dict[str, Any]:
    return json.loads((out / "report.json").read_text(encoding="utf-8"))


def run(*words: object) -> int:
    one = () if "--workers" in words else ("--workers", 1)  # each takes a while to begin
    return main(["process", *(str(word) for word in (*words, *one))])


def test_a_folder_in_natural_order(scans: Path, tmp_path: Path, capsys):
    out = tmp_path / "out"
    assert run(scans, "--out", out, "--seed-time", SEED) == 0
    said = report(out)
    assert said["schema"] == "hollowstack.report/1"
    assert set(said) == {"schema", "document", "seconds", "workers", "pages"}
    assert set(said["document"]) == {"path", "bytes", "sha256", "conformance", "pages"}
    assert [Path(page["source"]).name for page in said["pages"]] == ["page 1.png", "page 2.png", "page 10.png"]
    assert [page["status"] for page in said["pages"]] == ["bound", "aside", "bound"]
    assert said["pages"][1]["reason"] == "blank"
    for page in said["pages"]:
        assert set(page) == ENTRY
        assert set(page["seconds"]) == {"decode", "measure", "render", "read", "encode"}
    first = said["pages"][0]
    assert first["source"] == str(scans / "page 1.png")
    assert first["skew_deg"] == pytest.approx(0.7, abs=0.1)
    assert first["source_ppi"] == pytest.approx([150, 150])
    assert set(first["ocr"]) == {"language", "words", "mean_confidence", "text"}
    assert "keeper" in first["ocr"]["text"]
    assert {"check", "verdict", "value", "limit", "message"} == set(first["findings"][0])
    printed = capsys.readouterr()
    assert printed.out.split("\n") == [str(out / "box.pdf"), str(out / "report.json"), ""]
    assert printed.err.startswith("1/3 ")
    with pikepdf.open(out / "box.pdf") as pdf:
        assert len(pdf.pages) == said["document"]["pages"] == 2


@pytest.mark.parametrize("workers", [1, 2])
def test_same_bytes_every_time(scans: Path, tmp_path: Path, workers: int):
    for name in ("a", "b"):
        assert run(scans, "--out", tmp_path / name, "--seed-time", SEED, "--workers", 1 if name == "a" else workers) == 0
    assert (tmp_path / "a/box.pdf").read_bytes() == (tmp_path / "b/box.pdf").read_bytes()


def test_a_bad_file_fails_alone(scans: Path, tmp_path: Path):
    data = (scans / "page 1.png").read_bytes()
    (scans / "page 3.png").write_bytes(data[: len(data) // 2])
    (scans / "page 4.png").mkdir()
    (scans / "page 5.txt").write_text("not a picture")
    assert run(scans, "--out", tmp_path / "out", "--no-ocr") == 1
    pages = report(tmp_path / "out")["pages"]
    failed = [page for page in pages if page["status"] == "failed"]
    assert [Path(page["source"]).name for page in failed] == ["page 3.png", "page 4.png", "page 5.txt"]
    assert all(page["error"].endswith(".") and page["ocr"] is None for page in failed)
    assert failed[0]["source_size_px"] == [874, 1240]  # its header still tells
    assert failed[1]["source_size_px"] is None
    assert all(set(page) == ENTRY for page in pages)


def test_nothing_bound(tmp_path: Path):
    Image.fromarray(np.full((1200, 900), 240, np.uint8)).save(tmp_path / "blank.png", dpi=(150, 150))
    assert run(tmp_path / "blank.png", "--out", tmp_path / "out") == 3
    assert report(tmp_path / "out")["document"] is None
    assert list((tmp_path / "out").glob("*.pdf*")) == []


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (["--lang", "xyz"], "xyz"),
        (["--treatment", "golden"], "golden"),
        (["--treatment", "none.json"], "none.json"),
        (["--workers", "0"], "--workers"),
        (["--seed-time", "yesterday"], "--seed-time"),
        (["--name", "../up"], "--name"),
    ],
)
def test_wrong_usage(scans: Path, tmp_path: Path, capsys, words: list[str], says: str):
    assert run(scans, "--out", tmp_path / "out", *words) == 2
    assert says in capsys.readouterr().err
    assert not (tmp_path / "out").exists()


def test_unknown_words_are_wrong_usage(scans: Path, tmp_path: Path):
    with pytest.raises(SystemExit) as ended:
        run(scans, "--out", tmp_path / "out", "--polish")
    assert ended.value.code == 2


def test_no_such_input(tmp_path: Path, capsys):
    assert run(tmp_path / "none.png", "--out", tmp_path / "out") == 2
    assert "none.png" in capsys.readouterr().err


def test_treatment_file_and_name(scans: Path, tmp_path: Path):
    settings = tmp_path / "mine.json"
    settings.write_text(
        json.dumps({"schema": "hollowstack.treatment/1", "name": "mine", "hold_blanks": False, "colour": "grey"})
    )
    assert run(scans, "--out", tmp_path / "out", "--treatment", settings, "--name", "Box 27", "--no-ocr") == 0
    said = report(tmp_path / "out")
    assert {page["colour_mode"] for page in said["pages"]} == {"grey"}
    assert said["document"]["pages"] == 3
    assert said["document"]["path"].endswith("Box 27.pdf")


def test_a_setting_that_is_none_is_said(scans: Path, tmp_path: Path, capsys):
    (tmp_path / "mine.json").write_text('{"sharpen": 3}')
    assert run(scans, "--out", tmp_path / "out", "--treatment", tmp_path / "mine.json") == 2
    assert "sharpen" in capsys.readouterr().err


def test_multi_page_files_expand_in_place(skerry: Path, tmp_path: Path):
    for name in ("04 card 41.jpg", "05 report on the lantern.tif"):
        shutil.copy(skerry / name, tmp_path / name)
    inputs = [tmp_path / "05 report on the lantern.tif", tmp_path / "04 card 41.jpg"]
    assert run(*inputs, "--out", tmp_path / "out", "--no-ocr", "--seed-time", SEED) == 0
    said = report(tmp_path / "out")
    assert [(Path(p["source"]).name, p["frame"]) for p in said["pages"]] == [
        ("05 report on the lantern.tif", 0),
        ("05 report on the lantern.tif", 1),
        ("04 card 41.jpg", 0),
    ]
    assert said["document"]["path"].endswith("05 report on the lantern.pdf")


def test_ctrl_c_leaves_nothing_half_done(scans: Path, tmp_path: Path):
    for number in range(20, 40):  # more than are done before the signal comes, on a busy machine too
        shutil.copy(scans / "page 1.png", scans / f"page {number}.png")
    command = [str(Path(sys.executable).parent / "hollowstack"), "process", str(scans), "--out", str(tmp_path / "out")]
    # A shell has what it starts in the background ignore the signal, and tests may run there.
    running = subprocess.Popen(
        command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True, start_new_session=True, preexec_fn=_heeds_ctrl_c
    )
    assert running.stderr is not None
    running.stderr.readline()  # the first page is done
    os.killpg(running.pid, signal.SIGINT)
    _, said = running.communicate(timeout=20)
    assert running.returncode == 130, said
    assert "stopped" in said
    assert "Traceback" not in said
    assert not list((tmp_path / "out").glob("*.pdf*"))


def _heeds_ctrl_c() -> None:
    signal.signal(signal.SIGINT, signal.SIG_DFL)


def test_it_runs_as_a_command_from_any_folder(scans: Path, tmp_path: Path):
    command = [str(Path(sys.executable).parent / "hollowstack"), "process", "box", "--out", "out", "--no-ocr"]
    done = subprocess.run(command, cwd=tmp_path, capture_output=True, text=True, env={**os.environ}, check=False)
    assert done.returncode == 0, done.stderr
    assert done.stdout == f"out{os.sep}box.pdf\nout{os.sep}report.json\n"
    assert report(tmp_path / "out")["pages"][0]["source"] == f"box{os.sep}page 1.png"


def test_uniform_pages_have_one_size_on_the_command_line_too(tmp_path: Path, typed_page):
    folder = tmp_path / "volume"
    folder.mkdir()
    for number in range(1, 6):
        page = typed_page(lines=6, margins_mm=(4 + number, 5, 6, 5), lid=30)
        Image.fromarray(page.pixels[:, 2 * number :]).save(folder / f"page {number}.png", dpi=(150, 150))
    (folder / "page 6.png").write_bytes(b"no image")
    assert run(folder, "--out", tmp_path / "out", "--treatment", "bound volume", "--no-ocr", "--workers", 2) == 1
    pages = report(tmp_path / "out")["pages"]
    assert [page["status"] for page in pages] == ["bound"] * 5 + ["failed"]
    assert len({tuple(page["output_size_px"]) for page in pages[:5]}) == 1
    assert all(page["seconds"]["measure"] > 0 for page in pages[:5])


def test_a_page_that_no_pdf_can_hold_fails_alone(scans: Path, tmp_path: Path):
    strip = np.where(np.arange(2000) % 40 < 20, 30, 235).astype(np.uint8)
    Image.fromarray(np.tile(strip, (9, 1))).save(scans / "page 3.png", dpi=(300, 300))
    assert run(scans, "--out", tmp_path / "out", "--no-ocr") == 1
    said = report(tmp_path / "out")
    failed = next(page for page in said["pages"] if page["status"] == "failed")
    assert failed["source"].endswith("page 3.png")
    assert "too small for a PDF" in failed["error"]
    assert failed["source_size_px"] == [2000, 9]
    assert said["document"]["pages"] == 2


def test_a_name_of_any_bytes_goes_the_whole_way(scans: Path, tmp_path: Path, capsys):
    (scans / "page 1.png").rename(os.fsdecode(os.fsencode(scans) + b"/latin-\xe9.png"))
    out = os.fsdecode(os.fsencode(tmp_path) + b"/out-\xff")
    assert run(scans, "--out", out, "--no-ocr") == 0
    said = json.loads((Path(out) / "report.json").read_text(encoding="utf-8"))
    assert Path(said["pages"][0]["source"]).name == "latin-\\xe9.png"
    assert said["document"]["path"].endswith("out-\\xff/box.pdf")


def test_pipes_and_loops_are_refused_in_a_sentence(scans: Path, tmp_path: Path):
    os.mkfifo(scans / "page 0.png")
    (scans / "page 4.png").symlink_to(scans / "page 4.png")
    assert run(scans, "--out", tmp_path / "out", "--no-ocr") == 1
    errors = [page["error"] for page in report(tmp_path / "out")["pages"] if page["status"] == "failed"]
    assert len(errors) == 2
    assert all(error.endswith(".") and ":" in error for error in errors)


def test_facing_pages_are_two_entries_left_one_first(tmp_path: Path, typed_page):
    halves = [typed_page(lines=lines).pixels for lines in (14, 11)]
    spread = np.hstack(halves).astype(np.float32)
    from_fold = np.abs(np.arange(spread.shape[1]) - halves[0].shape[1])
    spread *= (1 - 0.45 * np.exp(-((from_fold / 20.0) ** 2)))[None, :, None]
    Image.fromarray(spread.astype(np.uint8)).save(tmp_path / "spread.png", dpi=(150, 150))
    assert run(tmp_path / "spread.png", "--out", tmp_path / "out", "--no-ocr", "--export", "bag") == 0
    with zipfile.ZipFile(tmp_path / "out" / "spread.bag.zip") as bag:  # one master, of two pages
        assert [name for name in bag.namelist() if "/masters/" in name] == ["spread/data/masters/0001 spread.png"]
        assert bag.read("spread/data/mets.xml").count(b'TYPE="page"') == 2
    left, right = report(tmp_path / "out")["pages"]
    assert (left["frame"], right["frame"]) == (0, 0)
    assert max(x for x, _ in left["quad_px"]) <= halves[0].shape[1] + 12
    assert min(x for x, _ in right["quad_px"]) >= halves[0].shape[1] - 12
    alone = tmp_path / "alone"
    assert run(tmp_path / "spread.png", "--out", alone, "--no-ocr", "--treatment", "as-captured") == 0
    assert len(report(alone)["pages"]) == 1


def test_every_page_has_the_guards_finding(scans: Path, tmp_path: Path):
    assert run(scans, "--out", tmp_path / "out", "--no-ocr") == 0
    for page in report(tmp_path / "out")["pages"]:
        found = [finding for finding in page["findings"] if finding["check"] == "content"]
        assert len(found) == (page["status"] == "bound")
        assert all(finding["verdict"] == "pass" and finding["value"] == 0 for finding in found)


def test_other_forms_are_written_beside_the_document(scans: Path, tmp_path: Path, capsys):
    assert run(scans, "--out", tmp_path, "--export", "docx,tiff,bag", "--name", "Box") == 0
    report = json.loads((tmp_path / "report.json").read_text())
    made = {one["form"]: one for one in report["exports"]}
    assert set(made) == {"docx", "tiff", "bag"}
    for suffix in (".docx", ".tiff", ".bag.zip"):
        file = tmp_path / f"Box{suffix}"
        assert str(file) in capsys.readouterr().out or file.exists()
    assert made["tiff"]["bytes"] == (tmp_path / "Box.tiff").stat().st_size
    with zipfile.ZipFile(tmp_path / "Box.bag.zip") as bag:
        masters = [bag.read(name) for name in bag.namelist() if "/masters/" in name]
    assert masters == [(scans / name).read_bytes() for name in ("page 1.png", "page 10.png")]


def test_a_form_that_has_no_room_for_the_document_stops_nothing_and_is_said(scans: Path, tmp_path: Path, capsys):
    assert run(scans, "--out", tmp_path, "--export", "xlsx,txt", "--name", "Box") == 1
    assert "xlsx: There is no table on these pages" in capsys.readouterr().err
    assert (tmp_path / "Box.txt").exists()
    assert (tmp_path / "Box.pdf").exists()
    assert not (tmp_path / "Box.xlsx").exists()


def test_a_form_that_nobody_knows_is_refused_before_work_begins(scans: Path, tmp_path: Path, capsys):
    assert run(scans, "--out", tmp_path, "--export", "docx,doc") == 2
    assert "--export takes some of" in capsys.readouterr().err
