"""What can be laid in a station: bundles of the Skerry Light papers, and any image file."""

import functools
import io
import math
import random
from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
import pypdfium2
from PIL import Image

from hollowstack.core.bind.path_sheet import path_sheet
from hollowstack.core.bind.separator_sheet import separator_sheet
from hollowstack.standins.skerry import cards, letters
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.sheet import BLACK, BLUE_BLACK, RED, Sheet, fitted

Surface = npt.NDArray[np.uint8]
Painter = Callable[[float, int], Surface]
"""Draws one side at a resolution (ppi) and seed, as (rows, cols, 3), which nobody changes."""
_COARSE_PPI = 100


@dataclass(frozen=True, slots=True)
class Leaf:
    """One sheet: its size, what is on its front, and on its back where there is anything."""

    name: str
    width_mm: float
    height_mm: float
    front: Painter
    back: Painter | None = None


def bundles() -> dict[str, tuple[str, list[Leaf]]]:
    """By key: what is said of them, and their leaves."""
    return {
        "photographs": ("Three photographs", [_photograph(n) for n in range(3)]),
        "register": ("Register of stores, 20 sheets written on both sides", [_register(n) for n in range(20)]),
        "register-8": ("Register of stores, 8 sheets, the last one blank behind", [_register(n, last=8) for n in range(8)]),
        "letters": ("Four letters, blank behind", [_letter(n) for n in range(4)]),
        "cases": ("Two letters, a separator sheet, a letter", [_letter(0), _letter(1), _separator(), _letter(2)]),
        "mixed": ("Letters and cards of several sizes", [_letter(0), _card(0), _register(2), _card(1), _card(2)]),
        "test-sheet": ("A test sheet, printed on A5", [_test_sheet()]),
        "strip": ("Barograph strip of one week, 1.5 m", [_strip()]),
    }


def from_file(data: bytes, name: str = "a file") -> Leaf:
    """Any image as a sheet of its own size, by the resolution in the file; 300 ppi where it has none."""
    with Image.open(io.BytesIO(data)) as image:
        ppi = float(image.info.get("dpi", (300, 300))[0]) or 300.0
        pixels = np.asarray(image.convert("RGB"))
    height, width = (size / ppi * 25.4 for size in pixels.shape[:2])

    def paint(at: float, seed: int) -> Surface:
        size = (max(1, round(width * at / 25.4)), max(1, round(height * at / 25.4)))
        shrinks = at < ppi
        drawn = cv2.resize(pixels, size, interpolation=cv2.INTER_AREA if shrinks else cv2.INTER_CUBIC)
        return np.asarray(drawn, np.uint8)

    return Leaf(name, width, height, paint)


def _kept(paint: Painter) -> Painter:
    """What is drawn coarsely is drawn once: it is small, and the same sheets are laid in again and again."""
    once = functools.lru_cache(maxsize=8)(paint)
    return lambda ppi, seed: once(ppi, seed) if ppi <= _COARSE_PPI else paint(ppi, seed)


@functools.cache
def blank(width_mm: float, height_mm: float) -> Painter:
    """The bare back of a sheet."""

    def paint(ppi: float, seed: int) -> Surface:
        return _paper(Sheet(width_mm, height_mm, ppi), seed)

    return _kept(paint)


def _paper(sheet: Sheet, seed: int, base: tuple[int, int, int] = (242, 236, 221), age: float = 0.35) -> Surface:
    surface = worn(sheet, base, Wear(age=age, foxing=0.2, fade=0.05), np.random.default_rng(seed))
    return np.clip(surface, 0, 255).astype(np.uint8)


def _scaled(draw: Callable[[random.Random], Sheet], base: tuple[int, int, int]) -> Painter:
    """A sheet that is drawn at its own resolution, at another."""

    def paint(ppi: float, seed: int) -> Surface:
        sheet = draw(random.Random(seed))
        surface = _paper(sheet, seed, base)
        size = (max(1, round(sheet.width_mm * ppi / 25.4)), max(1, round(sheet.height_mm * ppi / 25.4)))
        way = cv2.INTER_AREA if ppi < sheet.ppi else cv2.INTER_CUBIC
        return np.asarray(cv2.resize(surface, size, interpolation=way), np.uint8)

    return _kept(paint)


@functools.cache
def _letter(number: int) -> Leaf:
    painter = _scaled(lambda rng: letters.letter(number, rng), (244, 238, 222))
    return Leaf(f"letter {number + 1}", 210, 297, painter)


@functools.cache
def _separator() -> Leaf:
    """A separator sheet as it came from the printer."""
    return _printed(separator_sheet("A4"), "separator sheet")


@functools.cache
def _test_sheet() -> Leaf:
    """A test sheet as it came from the printer."""
    return _printed(path_sheet("A5"), "test sheet")


def _printed(pdf: bytes, name: str) -> Leaf:
    with pypdfium2.PdfDocument(pdf) as document:
        printed = document[0].render(scale=300 / 72).to_pil()
    buffer = io.BytesIO()
    printed.save(buffer, "PNG", dpi=(300, 300))
    return from_file(buffer.getvalue(), name)


@functools.cache
def _card(number: int) -> Leaf:
    return Leaf(f"card {number + 41}", 127, 76, _scaled(lambda rng: cards.card(number, rng), (238, 226, 196)))


_STORES = (
    ("Colza oil, two-gallon cans", 14), ("Wicks, three-ring", 36), ("Lamp glasses", 9), ("Cotton waste, pounds", 20),
    ("Soft soap, kegs", 2), ("Coal, hundredweight", 31), ("Fog signal charges", 144), ("Flags, sets", 1),
    ("Ship's biscuit, tins", 48), ("Tea, pounds", 12), ("Lime juice, bottles", 18), ("Rope, fathoms", 60),
    ("Whitewash, buckets", 7), ("Notepaper, quires", 3), ("Onions, strings", 5), ("Lemons", 0),
)  # fmt: skip
_REMARKS = (
    "Landed dry, which is worth recording.", "One can short and signed for as one can short.",
    "The cutter could not lie alongside and the rest is promised for Thursday.", "Counted twice by candle.",
    "The mice have had their tenth.", "Received with thanks and without the onions.",
)  # fmt: skip


def _register(number: int, last: int = 0) -> Leaf:
    """Pages 2n + 1 and 2n + 2 of the register; ``last`` is the sheet whose back is blank."""
    front, back = 2 * number + 1, 2 * number + 2
    behind = None if last == number + 1 else _entry(back)
    return Leaf(f"register {front}", 176, 250, _entry(front), behind)


@functools.cache
def _entry(page: int) -> Painter:
    def paint(ppi: float, seed: int) -> Surface:
        rng = random.Random(1000 + page)
        sheet = Sheet(176, 250, ppi)
        verso = page % 2 == 0
        sheet.print(88, 22, "REGISTER OF STORES LANDED", "OldStandardTT-Bold", 14, BLACK, "ms")
        sheet.print(88, 29, f"week {page} of the year 1927", "OldStandardTT-Italic", 11, BLACK, "ms")
        y: float = 44.0
        for item, count in rng.sample(_STORES, 9):
            sheet.rule(22, y + 2, 154, y + 2, BLUE_BLACK, 0.12, 90)
            sheet.print(24, y, item, "GoudyBookletter1911-Regular", 13)
            sheet.print(150, y, str(count + rng.randrange(6)), "OldStandardTT-Regular", 13, BLACK, "rs")
            y += 10.5
        y += 8
        text = " ".join(rng.sample(_REMARKS, 4))
        for line in fitted(sheet, text, "GoudyBookletter1911-Regular", 13, 126):
            sheet.print(24, y, line, "GoudyBookletter1911-Regular", 13)
            y += 7.4
        sheet.print(24 if verso else 152, 238, str(page), "OldStandardTT-Regular", 13, BLACK, "ls" if verso else "rs")
        sheet.rule(70, 226, 106, 226, RED, 0.3)
        return _paper(sheet, 500 + page)

    return _kept(paint)


def _photograph(number: int) -> Leaf:
    """A print with a white border: sea, sky, and the light upon its rock."""
    width, height = ((110, 80), (80, 110), (112, 78))[number]

    def paint(ppi: float, seed: int) -> Surface:
        rng = np.random.default_rng(70 + number)
        px = ppi / 25.4
        rows, cols = round(height * px), round(width * px)
        down, across = np.mgrid[0:rows, 0:cols].astype(np.float32)
        y, x = down / rows, across / cols
        horizon = 0.62
        sky = 0.9 - 0.35 * y + 0.05 * _soft(rng, rows, cols, 7)
        sea = 0.42 - 0.1 * (y - horizon) + 0.05 * _soft(rng, rows, cols, 40, flat=6)
        tone = np.where(y < horizon + 0.004 * np.sin(x * 40), sky, sea)
        at = (0.32, 0.55, 0.7)[number]
        rock = y > horizon - 0.08 + 1.5 * (x - at) ** 2 + 0.012 * _soft(rng, rows, cols, 30)
        tone = np.where(rock, 0.2 + 0.05 * _soft(rng, rows, cols, 60), tone)
        wide = 0.022 + 0.02 * np.clip((y - 0.2) / 0.4, 0, 1)
        tower = (np.abs(x - at) < wide * height / width) & (y > 0.2) & (y < horizon - 0.02)
        bands = np.where((y * 11).astype(int) % 2 == 0, 0.86, 0.3)
        tone = np.where(tower, bands - 0.12 * (x - at) / 0.04, tone)
        lamp = (np.abs(x - at) < 0.02 * height / width) & (y > 0.15) & (y <= 0.2)
        tone = np.where(lamp, 0.98, tone)
        sepia = np.clip(tone, 0.05, 1)[..., None] * np.array([228, 206, 172], np.float32)
        print_ = cv2.GaussianBlur(sepia, (0, 0), 0.35 * px / 4 + 0.3) + rng.normal(0, 3, (rows, cols, 1))
        border = round(4 * px)
        picture = np.full((rows, cols, 3), (243, 240, 232), np.float32)
        inside = slice(border, -border)
        picture[inside, inside] = print_[inside, inside]
        return np.clip(picture, 0, 255).astype(np.uint8)

    return Leaf(f"photograph {number + 1}", width, height, paint)


def _soft(rng: np.random.Generator, rows: int, cols: int, cells: int, flat: int = 1) -> npt.NDArray[np.float32]:
    small = rng.standard_normal((cells * flat, cells), dtype=np.float32)
    return np.asarray(cv2.resize(small, (cols, rows), interpolation=cv2.INTER_CUBIC), np.float32)


@functools.cache
def _strip() -> Leaf:
    """A week of the barograph: a ruled roll with one inked line."""
    width, height = 100.0, 1500.0
    days = ("MON", "TUE", "WED", "THU", "FRI", "SAT", "SUN")

    def paint(ppi: float, seed: int) -> Surface:
        sheet = Sheet(width, height, ppi)
        for step in range(17):
            x = 10 + step * 5
            sheet.rule(x, 5, x, height - 5, RED, 0.25 if step % 4 == 0 else 0.12, 120)
        for hour in range(0, 7 * 24 + 1, 2):
            down = 30 + hour * (height - 60) / 168
            sheet.rule(10, down, 90, down, RED, 0.3 if hour % 24 == 0 else 0.1, 120)
            if hour % 24 == 12:
                sheet.print(94, down, days[hour // 24], "LeagueGothic-Regular", 12, RED, "ms")
        points = []
        for step in range(1400):
            at = step * 168 / 1399
            pressure = 45 + 16 * math.sin(at / 23) + 7 * math.sin(at / 9.1 + 1) + 1.2 * math.sin(at * 1.7)
            points.append((sheet.px(10 + pressure), sheet.px(30 + at * (height - 60) / 168)))
        sheet.pen(BLUE_BLACK).line(points, fill=230, width=max(1, sheet.px(0.35)))
        return _paper(sheet, seed, (244, 240, 228), age=0.1)

    return Leaf("barograph strip", width, height, _kept(paint))
