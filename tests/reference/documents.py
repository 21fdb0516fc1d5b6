"""Small documents of every flavour, with all that the binder can put on a page."""

from datetime import UTC, datetime
from pathlib import Path

import numpy as np

from hollowstack.core.bind import Binding, Bookmark, BoundPage, Description, Flavour, Provenance, bind
from hollowstack.core.bind.attachments import Attachment
from hollowstack.core.bind.codecs import encode, encode_indexed, encode_lossless
from hollowstack.core.bind.description import Event
from hollowstack.core.bind.layers.parts import Box, Ink, Layered, Patch
from hollowstack.core.ocr.model import Block, Line, Reading, Word
from hollowstack.core.page.raster import Pixels, Raster

WHEN = datetime(2026, 3, 1, 9, 30, tzinfo=UTC)
ABOUT = Description(
    "Letters of the keeper & <others>", WHEN, "en", ("A. Merriwether", "E. Harrow"), ("lights", "storms & wrecks"),
    "Letters on the storm of the 24th", "1927-02-11", "SL/27/114", "Skerry Light Trust",
)  # fmt: skip
ORIGIN = Provenance(
    "Hollow Stack 1.0", (Event("captured", WHEN), Event("bound", WHEN, "everyday, compact")), ("0" * 64, "a" * 64, "b" * 64),
)  # fmt: skip
SIZE = (600, 800)


def line(text: str, top: int, *, left: int = 60, height: int = 24, step: int = 14) -> Line:
    """Words in a row, each as wide as its letters."""
    words, at = [], left
    for word in text.split(" "):
        words.append(Word(text=word, box=(at, top, at + step * len(word), top + height), confidence=90.0))
        at += step * (len(word) + 1)
    return Line(words=words, baseline=(left, top + height - 4, at, top + height - 4))


def reading() -> Reading:
    """A heading, a paragraph, a table, a picture with its caption."""
    blocks = [
        Block(kind="text", box=(60, 40, 400, 100), lines=[line("The Storm", 40, height=56, step=30)]),
        Block(kind="text", box=(60, 120, 560, 200), lines=[line("I have your letter", 120), line("of the ﬁrst inst.", 160)]),
        Block(kind="table", box=(60, 240, 560, 320), lines=[row("12 h", "NW 7", 240), row("16 h", "NW 9", 280)]),
        Block(kind="picture", box=(100, 360, 500, 600)),
        Block(kind="text", box=(100, 610, 500, 640), lines=[line("The boathouse", 610)]),
    ]
    return Reading(language="eng", size_px=SIZE, blocks=blocks)


def row(first: str, second: str, top: int) -> Line:
    """Two cells of a table, far apart."""
    one, other = line(first, top), line(second, top, left=360)
    return Line(words=[*one.words, *other.words], baseline=(60, top + 20, 500, top + 20))


def pixels() -> Pixels:
    """A page in colour: paper, ink, a picture."""
    rng = np.random.default_rng(7)
    made = np.full((SIZE[1], SIZE[0], 3), (244, 238, 222), np.uint8)
    made[120:200:3, 60:560] = (30, 30, 60)
    made[360:600, 100:500] = rng.integers(0, 256, (240, 400, 3))
    return made


def layered() -> Layered:
    """The same in layers: a patch for the picture, a stencil in two inks."""
    page = pixels()
    ink = np.full((SIZE[1], SIZE[0]), 255, np.uint8)
    ink[120:200:3, 60:560] = 0
    which = np.zeros((SIZE[1], SIZE[0]), np.uint8)
    which[160:] = 1
    tint = encode_indexed(which, np.array([[30, 30, 60], [160, 20, 20]], np.uint8))
    picture = encode(Raster(np.ascontiguousarray(page[360:600, 100:500])), "colour", 60)
    stencil = encode(Raster(ink), "bitonal", 50)
    return Layered(SIZE, False, (244, 238, 222), (Patch(picture, Box(100, 360, 500, 600)),), Ink(stencil, tint))


def pages() -> list[BoundPage]:
    """One in layers, one grey without loss, one in two tones."""
    gray = Raster(np.ascontiguousarray(pixels()[..., 1]))
    bitonal = Raster(np.where(pixels()[..., 0] > 128, 255, 0).astype(np.uint8))
    return [
        BoundPage(layered(), (150, 150), reading(), "i"),
        BoundPage(encode_lossless(gray, "grey"), (150, 150), reading(), "ii"),
        BoundPage(encode(bitonal, "bitonal", 50, "Group 4"), (150, 150), None, "1"),
    ]


def document(path: Path, flavour: Flavour) -> Path:
    """A document of those pages, described, with bookmarks and where it is from."""
    files = [Attachment("text.alto.xml", b"<alto/>", "application/xml", "Alternative", "Its text, with places")]
    how = Binding(
        ABOUT, flavour, (Bookmark("Letter", 0), Bookmark("Enclosure", 2)), mark_headings=True, provenance=ORIGIN,
        attachments=lambda: files,
    )  # fmt: skip
    bind(pages(), path, how)
    return path
