"""Draw, wear and scan the Skerry Light papers into a folder: ``python -m hollowstack.standins.skerry.make DIR``."""

import argparse
import io
import json
import random
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import asdict, dataclass
from multiprocessing import get_context
from pathlib import Path
from typing import Literal

import cv2
import numpy as np
import pikepdf
from PIL import Image

from hollowstack.standins.skerry import cards, invoice, letters, logbook, notices, poster
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Capture, Glass, scan
from hollowstack.standins.skerry.sheet import Colour, Sheet

CREAM: Colour = (244, 238, 222)
WHITE: Colour = (240, 238, 231)
PINK: Colour = (243, 202, 200)
BUFF: Colour = (238, 226, 196)
GREEN: Colour = (104, 158, 118)
Kind = Literal["tiff", "jpeg", "png", "multi", "pdf", "cut"]


@dataclass(frozen=True, slots=True)
class Side:
    """One page to make: what is on it, what is behind it, how it is worn and captured."""

    draw: Callable[[random.Random], Sheet]
    paper: Colour
    wear: Wear
    glass: Glass
    back: Callable[[random.Random], Sheet] | None = None
    mode: Literal["colour", "grey", "bitonal"] = "colour"
    blank: bool = False


@dataclass(frozen=True, slots=True)
class Output:
    """A file to make from one or more pages."""

    name: str
    kind: Kind
    sides: tuple[Side, ...]
    quality: int = 88


def outputs(rng: random.Random) -> list[Output]:
    """The demo's files in the order of their names. Tilts differ with the seed."""
    made: list[Output] = []
    letter_wear = Wear(age=0.5, foxing=0.25, folds=2, holes=True, fade=0.06, show_through=0.8)
    for number, (skew, turn) in enumerate(((1.3, 0), (-2.1, 180), (0.7, 0), (-0.9, 90))):
        front = Glass(skew=skew + rng.uniform(-0.3, 0.3), turn=turn, holes=True, lid=52)  # type: ignore[arg-type]
        made.append(Output(f"01 letter {number + 1}a.jpg", "jpeg", (Side(_Letter(number), CREAM, letter_wear, front),)))
        behind = Glass(skew=-skew + rng.uniform(-0.3, 0.3), lid=52, holes=False)
        back = Side(_Blank(210, 297), CREAM, letter_wear, behind, back=_Letter(number), blank=True, mode="grey")
        made.append(Output(f"01 letter {number + 1}b.jpg", "jpeg", (back,)))
    for day in range(4):
        verso = day % 2 == 1
        glass = Glass(
            skew=rng.uniform(-1.6, 1.6), margins_mm=(9, 7, 12, 8) if verso else (11, 6, 8, 10), lid=22,
            gutter="right" if verso else "left",
        )  # fmt: skip
        wear = Wear(age=0.55, foxing=0.45, fade=0.12, show_through=0.9)
        made.append(
            Output(f"02 log {day + 157:03d}.jpg", "jpeg", (Side(_Log(day), CREAM, wear, glass, back=_Log((day + 1) % 4)),))
        )
    glass = Glass(skew=0.8 + rng.uniform(-0.3, 0.3), margins_mm=(5, 6, 5, 8), lid=30)
    made.append(Output("03 invoice 2260.png", "png", (Side(invoice.invoice, PINK, Wear(0.25, 0.2, 2, fade=0.08), glass),)))
    for number in range(4):
        glass = Glass(skew=rng.uniform(-3, 3), margins_mm=(9, 8, 11, 9), lid=34)
        made.append(Output(f"04 card {number + 41}.jpg", "jpeg", (Side(_Card(number), BUFF, Wear(0.3, 0.35), glass),)))
    plain = Wear(age=0.1, foxing=0.08, fade=0.0)
    sides = tuple(
        Side(_Report(n), WHITE, plain, Glass(skew=rng.uniform(-0.8, 0.8), noise=3), mode="bitonal")
        for n in range(len(notices.report_pages()))
    )
    made.append(Output("05 report on the lantern.tif", "multi", sides))
    sides = tuple(
        Side(
            _Notice(n),
            WHITE,
            Wear(0.35, 0.2, 1),
            Glass(skew=rng.uniform(-1.2, 1.2), margins_mm=(6, 6, 6, 6), lid=205),
            mode="grey",
        )
        for n in range(3)
    )
    made.append(Output("06 notices.pdf", "pdf", sides))
    glass = Glass(skew=0.4, margins_mm=(9, 7, 12, 8), lid=22, gutter="right")
    made.append(Output("07 log 161.jpg", "cut", (Side(_Log(3), CREAM, Wear(0.5, 0.4), glass),)))
    glass = Glass(skew=1.1, margins_mm=(8, 7, 9, 8), lid=40)
    made.append(Output("08 storm warning.jpg", "jpeg", (Side(poster.poster, CREAM, Wear(0.35, 0.2, 1, fade=0.05), glass),)))
    made.append(Output("09 divider.jpg", "jpeg", (Side(poster.divider, GREEN, Wear(0.15, 0.1, fade=0.0), Glass(lid=52)),)))
    return made


@dataclass(frozen=True)
class _Letter:
    number: int

    def __call__(self, rng: random.Random) -> Sheet:
        return letters.letter(self.number, rng)


@dataclass(frozen=True)
class _Log:
    day: int

    def __call__(self, rng: random.Random) -> Sheet:
        return logbook.log_page(self.day, self.day + 157, rng)


@dataclass(frozen=True)
class _Card:
    number: int

    def __call__(self, rng: random.Random) -> Sheet:
        return cards.card(self.number, rng)


@dataclass(frozen=True)
class _Report:
    number: int

    def __call__(self, rng: random.Random) -> Sheet:
        return notices.report_pages()[self.number]


@dataclass(frozen=True)
class _Notice:
    number: int

    def __call__(self, rng: random.Random) -> Sheet:
        return notices.notice(self.number, rng)


@dataclass(frozen=True)
class _Blank:
    width_mm: float
    height_mm: float

    def __call__(self, rng: random.Random) -> Sheet:
        return letters.blank(self.width_mm, self.height_mm)


def capture(side: Side, seed: int) -> Capture:
    """Draw, wear and scan one page."""
    chance, noise = random.Random(seed), np.random.default_rng(seed)
    sheet = side.draw(chance)
    back = side.back(random.Random(seed + 1)) if side.back else None
    surface = worn(sheet, side.paper, side.wear, noise, back)
    return scan(surface, sheet.words, side.glass, sheet.ppi, noise)


def truth_of(side: Side, made: Capture) -> dict[str, object]:
    """What is known of a page because it was drawn."""
    return {
        "blank": side.blank,
        "tilt_deg": round(made.skew, 4),
        "turn_deg": made.turn,
        "quad_px": [[round(x, 2), round(y, 2)] for x, y in made.quad],
        "words": [asdict(word) for word in made.words],
    }


def make(folder: Path, seed: int = 1927, workers: int = 2) -> list[Path]:
    """Make every file of the papers, and ``truth.json`` beside their folder's files as ``.truth.json``."""
    folder.mkdir(parents=True, exist_ok=True)
    todo = [(folder, output, seed * 1000 + index * 10) for index, output in enumerate(outputs(random.Random(seed)))]
    truth: dict[str, object] = {}
    with ProcessPoolExecutor(workers, mp_context=get_context("spawn")) as pool:
        for (_, output, _), pages in zip(todo, pool.map(_make_one, todo), strict=True):
            truth[output.name] = pages
    (folder / ".truth.json").write_text(json.dumps(truth), encoding="utf-8")
    return [folder / output.name for _, output, _ in todo]


def _make_one(task: tuple[Path, Output, int]) -> list[dict[str, object]]:
    folder, output, seed = task
    cv2.setNumThreads(1)
    made = [capture(side, seed + index) for index, side in enumerate(output.sides)]
    images = [_toned(capture_.pixels, side.mode) for capture_, side in zip(made, output.sides, strict=True)]
    path = folder / output.name
    part = path.with_name("." + path.name)
    _write(output, images, part)
    part.replace(path)
    return [truth_of(side, capture_) for side, capture_ in zip(output.sides, made, strict=True)]


def _toned(pixels: np.ndarray[tuple[int, ...], np.dtype[np.uint8]], mode: str) -> Image.Image:
    image = Image.fromarray(pixels)
    if mode == "colour":
        return image
    gray = image.convert("L")
    return gray if mode == "grey" else gray.point(lambda v: 255 if v > 150 else 0).convert("1")


def _write(output: Output, images: list[Image.Image], path: Path) -> None:
    first, dpi = images[0], (300, 300)
    if output.kind in {"jpeg", "cut"}:
        buffer = io.BytesIO()
        first.save(buffer, "JPEG", quality=output.quality, dpi=dpi, subsampling=0)
        data = buffer.getvalue()
        path.write_bytes(data if output.kind == "jpeg" else data[: len(data) * 2 // 3])
    elif output.kind == "png":
        first.save(path, "PNG", dpi=dpi, compress_level=4)
    elif output.kind == "multi":
        first.save(path, "TIFF", save_all=True, append_images=images[1:], compression="group4", dpi=dpi)
    else:
        _write_pdf(images, path)


def _write_pdf(images: list[Image.Image], path: Path) -> None:
    """A plain PDF of scans as an office copier makes it: one JPEG a page."""
    pdf = pikepdf.Pdf.new()
    for image in images:
        buffer = io.BytesIO()
        image.save(buffer, "JPEG", quality=85)
        width, height = image.width / 300 * 72, image.height / 300 * 72
        stream = pikepdf.Stream(
            pdf, buffer.getvalue(), Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Image, Width=image.width,
            Height=image.height, ColorSpace=pikepdf.Name.DeviceGray, BitsPerComponent=8, Filter=pikepdf.Name.DCTDecode,
        )  # fmt: skip
        page = pdf.add_blank_page(page_size=(width, height))
        page.Resources = pikepdf.Dictionary(XObject=pikepdf.Dictionary(Scan=pdf.make_indirect(stream)))
        page.Contents = pdf.make_stream(f"q {width:.3f} 0 0 {height:.3f} 0 0 cm /Scan Do Q".encode())
    pdf.save(path, deterministic_id=True)


def main() -> None:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path)
    parser.add_argument("--seed", type=int, default=1927)
    parser.add_argument("--workers", type=int, default=2)
    words = parser.parse_args()
    for path in make(words.folder, words.seed, words.workers):
        print(path)


if __name__ == "__main__":
    main()
