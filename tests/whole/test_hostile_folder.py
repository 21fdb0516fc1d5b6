"""Sixty hostile files in one folder: the good ones are bound, every other one gets a sentence, and the run ends."""

import io
import json
import os
import struct
import subprocess
import sys
import zlib
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pikepdf
import pytest
from PIL import Image

from hollowstack.standins.skerry.notices import REPORT
from hollowstack.standins.skerry.sheet import Sheet, fitted

ODD_NAMES = (
    "-rf.png", "line\nbreak.png", "tab\there.png", "quote\"'`.png", "emoji 🐧.png", "שלום.png", "percent %20.png", "a" * 250 + ".png",
    " leading.png", "trailing .png", "UPPER.PNG", "no extension", "two.tif.png", "semi;colon&amp.png", "dollar$HOME.png",
)  # fmt: skip


@pytest.fixture(scope="module")
def good() -> bytes:
    """A small page of print."""
    sheet = Sheet(100, 140, 150.0)
    for number, text in enumerate(fitted(sheet, " ".join(REPORT), "OldStandardTT-Regular", 11, 80)[:18]):
        sheet.print(10, 14 + 6.5 * number, text, "OldStandardTT-Regular", 11)
    ((_, layer),) = sheet.layers.items()
    buffer = io.BytesIO()
    Image.fromarray(255 - np.asarray(layer)).save(buffer, "PNG", dpi=(150, 150))
    return buffer.getvalue()


def png_of(width: int, height: int, data: bytes = b"") -> bytes:
    """A PNG that says it is so large."""
    chunks = [(b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)), (b"IDAT", data), (b"IEND", b"")]
    body = b"".join(struct.pack(">I", len(d)) + n + d + struct.pack(">I", zlib.crc32(n + d)) for n, d in chunks)
    return b"\x89PNG\r\n\x1a\n" + body


def pixels(width: int, height: int, kind: str = "PNG", **how: object) -> bytes:
    buffer = io.BytesIO()
    values = np.random.default_rng(1).integers(0, 256, (height, width, 3)).astype(np.uint8)
    Image.fromarray(values).save(buffer, kind, **how)
    return buffer.getvalue()


def endless_tiff() -> bytes:
    """A directory that names itself as the next one."""
    return (
        struct.pack("<2sHI", b"II", 42, 8)
        + struct.pack("<H", 1)
        + struct.pack("<HHII", 256, 4, 1, 10)
        + struct.pack("<I", 8)
    )


def locked_pdf() -> bytes:
    buffer = io.BytesIO()
    pdf = pikepdf.Pdf.new()
    pdf.add_blank_page()
    pdf.save(buffer, encryption=pikepdf.Encryption(owner="a", user="b"))
    return buffer.getvalue()


def looping_pdf() -> bytes:
    """A page whose form draws itself."""
    buffer = io.BytesIO()
    pdf = pikepdf.Pdf.new()
    page = pdf.add_blank_page(page_size=(200, 300))
    form = pdf.make_stream(b"/F Do", Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Form, BBox=[0, 0, 200, 300])
    form.Resources = pikepdf.Dictionary(XObject=pikepdf.Dictionary(F=form))
    page.Resources = pikepdf.Dictionary(XObject=pikepdf.Dictionary(F=form))
    page.Contents = pdf.make_stream(b"/F Do")
    pdf.save(buffer)
    return buffer.getvalue()


BROKEN: dict[str, Callable[[bytes], bytes]] = {
    "empty.png": lambda _: b"",
    "text.jpg": lambda _: b"Dear Mr. Harrow, this is a letter.",
    "signature alone.png": lambda _: b"\x89PNG\r\n\x1a\n",
    "cut short.png": lambda good: good[: len(good) // 2],
    "cut short.jpg": lambda _: pixels(300, 400, "JPEG")[:9000],
    "cut short.webp": lambda _: pixels(300, 400, "WEBP")[:5000],
    "cut short.jp2": lambda _: pixels(300, 400, "JPEG2000")[:9000],
    "cut short.tif": lambda _: pixels(300, 400, "TIFF")[:9000],
    "cut short.bmp": lambda _: pixels(300, 400, "BMP")[:9000],
    "bomb.png": lambda _: png_of(60_000, 60_000, zlib.compress(bytes(10_000_000))),
    "endless width.png": lambda _: png_of(2**31 - 1, 1),
    "no pixels.png": lambda _: png_of(0, 0),
    "garbage.png": lambda good: good[:100] + bytes(range(256)) * 20 + good[100:200],
    "endless.tif": lambda _: endless_tiff(),
    "locked.pdf": lambda _: locked_pdf(),
    "half.pdf": lambda _: locked_pdf()[:200],
    "not one.pdf": lambda _: b"%PDF-1.7\n%%EOF",
    "page.html": lambda _: b"<html><body>page</body></html>",
    "archive.zip.png": lambda _: b"PK\x03\x04" + bytes(200),
    "program.png": lambda _: b"\x7fELF" + bytes(2000),
    "noise.tif": lambda _: np.random.default_rng(2).bytes(20_000),
    "noise.pdf": lambda _: b"%PDF-1.4" + np.random.default_rng(3).bytes(20_000),
}
ODD: dict[str, Callable[[], bytes]] = {
    "one pixel.png": lambda: pixels(1, 1),
    "one row.png": lambda: pixels(2000, 1),
    "strip.png": lambda: pixels(6000, 40),
    "tall strip.png": lambda: pixels(40, 6000),
    "nine rows.png": lambda: pixels(2000, 9, dpi=(300, 300)),
    "oblong.png": lambda: pixels(300, 150, dpi=(204, 98)),
    "nonsense ppi.png": lambda: pixels(300, 400, dpi=(1, 20_000)),
    "animated.webp": lambda: pixels(200, 300, "WEBP"),
    "gray.png": lambda: pixels(300, 400),
    "looping.pdf": looping_pdf,
}
"""Whatever becomes of these, bound, aside or failed: each has its entry, and a sentence where it failed."""


def test_sixty_hostile_files(tmp_path: Path, good: bytes):
    box, out = tmp_path / "box", tmp_path / "out"
    box.mkdir()
    plain = [f"good {number}.png" for number in range(8)]
    names = [*plain, *ODD_NAMES]
    for name in names:
        (box / name).write_bytes(good)
    latin = os.fsencode(box) + b"/latin-\xe9.png"
    Path(os.fsdecode(latin)).write_bytes(good)
    for name, make in BROKEN.items():
        (box / name).write_bytes(make(good))
    for name, draw in ODD.items():
        (box / name).write_bytes(draw())
    os.mkfifo(box / "pipe.png")
    (box / "loop.png").symlink_to(box / "loop.png")
    (box / "nowhere.png").symlink_to(box / "not there")
    (box / "folder.png").mkdir()
    count = len(list(box.iterdir()))
    assert count >= 60
    words = ["process", str(box), "--out", str(out), "--no-ocr", "--workers", "2", "--name", "box"]
    done = subprocess.run([sys.executable, "-m", "hollowstack.cli", *words], capture_output=True, timeout=600, check=False)
    assert done.returncode == 1, done.stderr.decode()[-2000:]
    said = json.loads((out / "report.json").read_text(encoding="utf-8"))
    by = {Path(page["source"]).name: page for page in said["pages"]}
    assert len(by) == count
    for name in [*names, "latin-\\xe9.png"]:
        assert by[name]["status"] == "bound", (name, by[name])
    for name in [*BROKEN, "pipe.png", "loop.png", "nowhere.png", "folder.png"]:
        assert by[name]["status"] == "failed", (name, by[name])
    for name in by:
        error = by[name]["error"]
        assert (error is not None) == (by[name]["status"] == "failed")
        assert error is None or (error.endswith(".") and "\n" not in error and "Traceback" not in error), error
    with pikepdf.open(out / "box.pdf") as pdf:
        assert len(pdf.pages) == sum(page["status"] == "bound" for page in said["pages"])
