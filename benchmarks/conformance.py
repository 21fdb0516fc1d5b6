"""Many documents of every flavour through the outside validator and our own check; many pages in two tones through two decoders.

``make conformance``. Prints how many conform by both, and every one that does not; how many pages come back bit for bit. Ends with
status 1 where one does not.
"""

import argparse
import random
import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta, timezone
from itertools import islice
from pathlib import Path
from typing import Any

import numpy as np
from PIL import ImageCms

from hollowstack.core.bind import FLAVOURS, Binding, Bookmark, BoundPage, Description, Flavour, Provenance, bind
from hollowstack.core.bind.attachments import Attachment
from hollowstack.core.bind.codecs import encode, encode_lossless
from hollowstack.core.bind.conformance import check_conformance
from hollowstack.core.bind.description import Event
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.jbig2 import encode_page
from hollowstack.core.bind.jpeg2000 import encode_reversible
from hollowstack.core.bind.labels import LabelRun, page_labels
from hollowstack.core.calibrate.icc import gray_profile, srgb_profile
from hollowstack.core.ocr.model import Block, Line, Reading, Word
from hollowstack.core.page.raster import Raster
from tests.reference.bitmaps import by_jbig2dec, by_pdfium, page_bitmap
from tests.reference.conftest import Validator
from tests.reference.documents import layered
from tests.reference.documents import reading as page_reading

TEXTS = (
    "The keeper wrote", "Größe Übung ß", "ναῦς καὶ φῶς", "маяк и буря", "שלום עולם", "السلام", "港 灯台", "ﬁrst oﬃce", "𝔉𝔯𝔞𝔨𝔱𝔲𝔯 𝄞",
    "()\\ <>[]{}/%", "a\x00b\ufeffc\ufffe", "", "x" * 900, "e\u0301 a\u0308",
)  # fmt: skip
ZONES = (UTC, timezone(-timedelta(hours=3, minutes=30)), timezone(timedelta(hours=14)), timezone(-timedelta(hours=11)))
PPIS = ((300.0, 300.0), (150.0, 150.0), (204.0, 98.0), (600.0, 1200.0), (72.5, 72.4))


def images(rng: np.random.Generator) -> dict[str, EncodedImage]:
    """A small image of each way of packing."""
    colour = rng.integers(0, 256, (120, 90, 3)).astype(np.uint8)
    gray = np.ascontiguousarray(colour[..., 0])
    ink = np.where(gray > 128, 255, 0).astype(np.uint8)
    made = {
        "JPEG, colour": encode(Raster(colour), "colour", 50),
        "JPEG, grey": encode(Raster(gray), "grey", 50),
        "Deflate, colour": encode_lossless(Raster(np.full_like(colour, 200)), "colour"),
        "Deflate, grey": encode_lossless(Raster(np.full_like(gray, 200)), "grey"),
        "JBIG2": encode(Raster(ink), "bitonal", 50),
        "Group 4": encode(Raster(ink), "bitonal", 50, "Group 4"),
    }
    for name, values in (("JPEG 2000, colour", colour), ("JPEG 2000, grey", gray)):
        if (packed := encode_reversible(values)) is not None:
            made[name] = packed
    jpeg = made["JPEG, colour"]
    made["JPEG with a profile"] = EncodedImage("DCTDecode", jpeg.data, jpeg.size_px, gray=False, icc=srgb_profile())
    made["JPEG, grey with a profile"] = EncodedImage(
        "DCTDecode", made["JPEG, grey"].data, jpeg.size_px, gray=True, icc=gray_profile()
    )
    made["JPEG with a newer profile"] = EncodedImage(
        "DCTDecode", jpeg.data, jpeg.size_px, gray=False,
        icc=ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes(),
    )  # fmt: skip
    return made


def reading(rng: random.Random, size_px: tuple[int, int]) -> Reading | None:
    """Words of any script, level, askew or upright; nothing; or nothing read at all."""
    if rng.random() < 0.15:
        return None
    lines = []
    for at in range(rng.randrange(4)):
        words = [
            Word(text=text, box=(5 + 20 * place, 10 + 20 * at, 20 + 20 * place, 24 + 20 * at), confidence=80.0)
            for place, text in enumerate(rng.choice(TEXTS).split(" "))
            if text
        ]
        if words:
            slope = rng.choice((0, 0, 1, -2))
            lines.append(Line(words=words, baseline=(5, 22 + 20 * at, 60, 22 + 20 * at + slope)))
    blocks = [Block(kind=rng.choice(("text", "table")), box=(0, 0, 80, 100), lines=lines)] if lines else []
    if rng.random() < 0.3:
        blocks.append(Block(kind="picture", box=(10, 60, 60, 110)))
    if rng.random() < 0.2:
        tall = Word(text="margin", box=(70, 10, 80, 100), confidence=80.0)
        blocks.append(Block(kind="text", box=(70, 10, 80, 100), lines=[Line(words=[tall], baseline=(79, 100, 79, 10))]))
    return Reading(language=rng.choice(("eng", "deu", "rus", "und")), size_px=size_px, blocks=blocks)


def documents(flavour: Flavour, seed: int) -> Iterator[tuple[str, list[BoundPage], Binding]]:
    """Documents without end, each unlike the one before."""
    rng, kinds = random.Random(seed), images(np.random.default_rng(seed))
    if FLAVOURS[flavour].part == 1:
        kinds.pop("JPEG with a newer profile")  # refused with a sentence: see test_bind
    number = 0
    while True:
        number += 1
        pages: list[BoundPage] = []
        for _ in range(rng.choice((1, 1, 2, 3, 7))):
            if rng.random() < 0.2:
                pages.append(BoundPage(layered(), (150, 150), page_reading()))
            else:
                image = kinds[rng.choice(sorted(kinds))]
                pages.append(BoundPage(image, rng.choice(PPIS), reading(rng, image.size_px)))
        if rng.random() < 0.1 and FLAVOURS[flavour].long_pages:
            long = EncodedImage("DCTDecode", kinds["JPEG, grey"].data, (90, 120), gray=True)
            pages.append(BoundPage(long, (0.3, 0.3), None))
        yield f"{flavour} {number}", labelled(pages, rng), binding(flavour, len(pages), rng)


def labelled(pages: list[BoundPage], rng: random.Random) -> list[BoundPage]:
    style = rng.choice(("arabic", "roman", "ROMAN", "leaves", "text"))
    runs = [LabelRun(0, style, rng.choice(("", "A-", "ü ")), rng.choice((1, 12, 4000)))]  # type: ignore[arg-type]
    labels = page_labels(runs, len(pages))
    return [BoundPage(page.image, page.ppi, page.reading, label) for page, label in zip(pages, labels, strict=True)]


def binding(flavour: Flavour, count: int, rng: random.Random) -> Binding:
    when = datetime(
        rng.randrange(1971, 2090), rng.randrange(1, 13), rng.randrange(1, 29), 23, 59, 1, tzinfo=rng.choice(ZONES)
    )
    said = lambda most: tuple(text for text in rng.sample(TEXTS, rng.randrange(most)) if text.strip("\x00\ufeff\ufffe "))  # noqa: E731
    about = Description(
        rng.choice(TEXTS) or "Untitled", when, rng.choice(("en", "de", "zh-Hans", "he", "und")), said(3), said(4), rng.choice(TEXTS),
        rng.choice(("", "1927", "1927-02", "1927-02-11", "winter of 1927")), rng.choice(("", "SL/27/114")), rng.choice(TEXTS),
    )  # fmt: skip
    origin = None
    if rng.random() < 0.7:
        events = tuple(Event("bound", when, text) for text in said(3))
        origin = Provenance("Hollow Stack", events, tuple(f"{at:064x}" for at in range(count)))
    marks = tuple(Bookmark(rng.choice(TEXTS), rng.randrange(count), rng.randrange(3)) for _ in range(rng.randrange(4)))
    files = [Attachment(f"{name}.txt", b"words", "text/plain", "Data", name) for name in ("ä", "b", "c")[: rng.randrange(4)]]
    return Binding(about, flavour, marks, rng.random() < 0.5, origin, lambda: files)


def large(flavour: Flavour, pages: int) -> tuple[str, list[BoundPage], Binding]:
    """One of very many pages."""
    page = BoundPage(layered(), (150, 150), page_reading())
    about = Description("A whole volume", datetime(2026, 3, 1, tzinfo=UTC))
    return (
        f"{flavour}, {pages} pages",
        labelled([page] * pages, random.Random(1)),
        Binding(about, flavour, mark_headings=True),
    )


def main() -> int:
    """Runs the sweep."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--each", type=int, default=85, help="documents of each flavour")
    parser.add_argument("--pages", type=int, default=2000, help="pages of the large one of each flavour")
    parser.add_argument("--bitmaps", type=int, default=200, help="pages in two tones")
    parser.add_argument("--seed", type=int, default=1)
    told = parser.parse_args()
    tried: Counter[str] = Counter()
    wrong: list[str] = []
    with tempfile.TemporaryDirectory() as folder:
        validator = Validator(Path(folder))
        try:
            for flavour in FLAVOURS:
                some: Any = islice(documents(flavour, told.seed), told.each)
                for name, pages, how in [*some, large(flavour, told.pages)]:
                    file = Path(folder) / "a.pdf"
                    bind(pages, file, how)
                    theirs, ours = validator(file, flavour), check_conformance(file, flavour)
                    tried[flavour] += 1
                    if theirs != "ok" or not ours.holds:
                        wrong.append(f"{name}: {theirs}; {[(one.clause, one.faults[:1]) for one in ours.broken]}")
                print(f"{flavour:10} {tried[flavour]:4} documents", flush=True)
        finally:
            validator.close()
    print(f"{sum(tried.values())} documents, {len(wrong)} that do not conform by both")
    changed = two_tones(told.bitmaps, told.seed)
    print(f"{told.bitmaps} pages by JBIG2 through two decoders, {len(changed)} that do not come back bit for bit")
    print("\n".join([*wrong, *changed]))
    return 1 if wrong or changed else 0


def two_tones(count: int, seed: int) -> list[str]:
    """The pages of so many that one of the decoders gives back otherwise."""
    changed = []
    with tempfile.TemporaryDirectory() as folder:
        for at in range(seed * 1000, seed * 1000 + count):
            page = page_bitmap(at)
            data = encode_page(page)
            for name, back in (("jbig2dec", by_jbig2dec(data, Path(folder))), ("PDFium", by_pdfium(data, page.shape))):
                if not np.array_equal(back, page):
                    changed.append(f"page {at}: {name} gives back other bits")
    return changed


if __name__ == "__main__":
    sys.exit(main())
