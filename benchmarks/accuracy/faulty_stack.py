"""A stack of several documents with faults of every kind set into it, and what is wrong with each page."""

import random
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import cv2
import numpy as np

from benchmarks.accuracy.content_pages import PHOTOGRAPHS, photograph, picture
from benchmarks.accuracy.degraded import shade
from benchmarks.accuracy.truth import PAPERS
from hollowstack.core.page.raster import Pixels
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.readable import READABLE, some
from hollowstack.standins.skerry.scan import Glass, Quarter, scan
from hollowstack.standins.skerry.sheet import BLACK, BLUE_BLACK, PENCIL, RED, Sheet
from hollowstack.standins.skerry.specimens import LAYOUTS

PPI = 300.0
SIZES = ((148, 210), (170, 240), (210, 297))
Draw = Callable[[random.Random], Sheet]


@dataclass
class Leaf:
    """One page to draw: everything is from its seed, so that each process can draw its own."""

    kind: str
    seed: int
    document: int
    number: str = ""
    """Printed on it."""
    size: tuple[float, float] = SIZES[2]
    fault: str = ""
    """What is wrong with it; empty where nothing is."""
    capture: int = 0
    """Another one is another capture of the same sheet."""
    resolution: float = PPI
    says: float | None = PPI


def drawn(leaf: Leaf) -> Pixels:
    """The page as it was captured, RGB."""
    chance = random.Random(leaf.seed)
    sheet = _sheet(leaf, chance)
    rng = np.random.default_rng(leaf.seed + 7919 * leaf.capture)
    wear = Wear(
        age=chance.uniform(0, 0.5), foxing=chance.uniform(0, 0.3), folds=chance.randint(0, 1), fade=chance.uniform(0, 0.2)
    )
    surface = worn(sheet, PAPERS[chance.choice(list(PAPERS)[:3])], wear, rng)
    if leaf.kind == "plate":
        view = photograph(chance.choice(PHOTOGRAPHS))
        wide = sheet.width_mm - 40
        high = min(wide * view.shape[0] / view.shape[1], sheet.height_mm - 70)
        # Lines an inch of a screen; so few that it is a woodcut of black areas; or continuous tone.
        screen = chance.choice((0.5, 65.0, 85.0, 110.0, 133.0, 0.0, 0.0))
        picture(surface, (20, 22, 20 + wide, 22 + high), view, halftone=screen)
    if leaf.fault == "object":
        _object(surface, sheet, chance)
    if leaf.fault == "corner":
        _tear(surface, chance)
    taken = _chance_of_capture(leaf)
    glass = _glass(leaf, taken)
    pixels = scan(surface, sheet.words, glass, PPI, rng).pixels
    pixels = AFTER.get(leaf.fault, lambda page, _chance, _rng: page)(pixels, taken, rng)
    if leaf.resolution != PPI:
        factor = leaf.resolution / PPI
        pixels = cv2.resize(pixels, None, fx=factor, fy=factor, interpolation=cv2.INTER_AREA)
    return pixels


def turned(leaf: Leaf) -> int:
    """How far off upright the page lay, clockwise."""
    return _glass(leaf, _chance_of_capture(leaf)).turn


def _chance_of_capture(leaf: Leaf) -> random.Random:
    return random.Random(leaf.seed * 31 + leaf.capture)


def _sheet(leaf: Leaf, chance: random.Random) -> Sheet:
    if leaf.kind == "card":
        sheet = _card(leaf, chance)
    elif leaf.kind == "receipt":
        sheet = _receipt(chance)
    elif leaf.kind == "plate":
        sheet = Sheet(*leaf.size)
        sheet.print(leaf.size[0] / 2, leaf.size[1] - 30, f"Plate {chance.randint(1, 40)}. " + " ".join(some(chance, 4)),
                    "OldStandardTT-Italic", 11, BLACK, "ms")  # fmt: skip
    elif leaf.kind == "pale":
        sheet = Sheet(*leaf.size)
        top = chance.uniform(30, 200)
        for line in range(chance.randint(1, 4)):
            sheet.write(chance.uniform(20, 60), top + 10 * line, " ".join(some(chance, 4)), chance, 17, PENCIL, 62)
    elif leaf.kind == "blank":
        sheet = Sheet(*leaf.size)
    else:
        sheet = _text(leaf, chance)
    if leaf.number and leaf.kind != "card":
        foot = sheet.height_mm - 9
        sheet.print(sheet.width_mm / 2, foot, leaf.number, "OldStandardTT-Regular", 11, BLACK, "ms")
    return sheet


def _text(leaf: Leaf, chance: random.Random) -> Sheet:
    """A page of a layout, on the paper of its document."""
    drawing: Draw = {**LAYOUTS, **READABLE}[leaf.kind]
    sheet = drawing(chance)
    wide, high = leaf.size
    if (sheet.width_mm, sheet.height_mm) == leaf.size:
        return sheet
    # The same print laid in the middle of another paper, as far as it holds it.
    other = Sheet(wide, high)
    for colour, layer in sheet.layers.items():
        scale = min(1.0, (wide - 8) / sheet.width_mm, (high - 24) / sheet.height_mm)
        size = (round(layer.width * scale), round(layer.height * scale))
        other.pen(colour)
        left = (other.size[0] - size[0]) // 2
        other.layers[colour].paste(layer.resize(size), (left, 0))
    other.words = sheet.words
    return other


def _card(leaf: Leaf, chance: random.Random) -> Sheet:
    """One card of a file, with its own number and words."""
    other = Sheet(127, 76)
    other.rule(0, 14, 127, 14, RED, 0.25, 150)
    other.type(8, 11, " ".join(some(chance, 2))[:24].upper(), chance)
    other.print(119, 11, leaf.number or "7", "OldStandardTT-Bold", 12, RED, "rs")
    for row in range(chance.randint(3, 7)):
        other.rule(0, 20.5 + row * 6.35, 127, 20.5 + row * 6.35, BLUE_BLACK, 0.1, 80)
        other.type(8, 19.6 + row * 6.35, " ".join(some(chance, 5))[:42], chance)
    return other


def _receipt(chance: random.Random) -> Sheet:
    sheet = Sheet(80, chance.uniform(70, 130))
    sheet.print(40, 14, chance.choice(("CHANDLER", "COAL & OIL", "SALTER & SON")), "LeagueGothic-Regular", 18, BLACK, "ms")
    top = 26.0
    while top < sheet.height_mm - 18:
        sheet.print(8, top, " ".join(some(chance, 2))[:22], "CourierPrime-Regular", 9)
        sheet.print(72, top, f"{chance.randint(0, 9)} {chance.randint(0, 19)}", "CourierPrime-Regular", 9, BLACK, "rs")
        top += 6
    return sheet


def _glass(leaf: Leaf, taken: random.Random) -> Glass:
    turn: Quarter = 0
    if leaf.fault == "upright":
        turn = taken.choice((90, 180, 270))
    lid = taken.choice((30, 60, 235))
    margins = tuple(taken.uniform(3, 14) for _ in range(4)) if taken.random() < 0.6 else (0, 0, 0, 0)
    if leaf.fault in {"touched", "corner"}:
        lid, margins = 30, tuple(taken.uniform(4, 10) for _ in range(4))
    return Glass(skew=taken.uniform(-1.6, 1.6), turn=turn, margins_mm=margins, lid=lid)


def _cut_off(pixels: Pixels, chance: random.Random, rng: np.random.Generator) -> Pixels:
    """A side of the page lay beyond the glass, and print with it."""
    rows, cols = pixels.shape[:2]
    side, share = chance.randrange(4), chance.uniform(0.2, 0.3)
    x, y = round(cols * share), round(rows * share)
    return np.ascontiguousarray((pixels[:, x:], pixels[:, : cols - x], pixels[y:], pixels[: rows - y])[side])


def _touched(pixels: Pixels, chance: random.Random, rng: np.random.Generator) -> Pixels:
    """Something dark lies over the side of the page up to its print, as the edge of a folder does."""
    rows, cols = pixels.shape[:2]
    deep = round(chance.uniform(0.17, 0.22) * cols)
    made = pixels.copy()
    noise = rng.normal(28, 3, (rows, deep, 1))
    if chance.random() < 0.5:
        made[:, :deep] = np.clip(noise, 0, 255)
    else:
        made[:, cols - deep :] = np.clip(noise, 0, 255)
    return made


def _streak(pixels: Pixels, chance: random.Random, rng: np.random.Generator) -> Pixels:
    """Dirt on the glass of a feeder: a thin line all down the image, straight though the page is not."""
    made = pixels.astype(np.float32)
    at, wide = round(pixels.shape[1] * chance.uniform(0.25, 0.75)), chance.randint(2, 5)
    made[:, at : at + wide] *= chance.uniform(0.35, 0.6)
    return np.clip(made, 0, 255).astype(np.uint8)


def _object(surface: Any, sheet: Sheet, chance: random.Random) -> None:
    """A slip, a ruler or a finger over print: nothing shows through it."""
    px = sheet.ppi / 25.4
    left, top, _, bottom = chance.choice(sheet.words[len(sheet.words) // 4 : -len(sheet.words) // 4]).box
    middle = (top + bottom) / 2
    kind = chance.choice(("slip", "ruler", "finger"))
    rows, cols = surface.shape[:2]
    lying = np.zeros((rows, cols), np.uint8)
    if kind == "slip":
        x, y = round(max(0, left - 20 * px)), round(middle - 14 * px)
        tone = chance.choice(((246, 226, 120), (250, 250, 248), (190, 214, 236)))
        cv2.rectangle(lying, (x, y), (x + round(55 * px), y + round(30 * px)), 1, -1)
    elif kind == "ruler":
        tone = (196, 168, 118)
        cv2.rectangle(lying, (0, round(middle - 9 * px)), (cols, round(middle + 12 * px)), 1, -1)
    else:
        tone = (214, 168, 142)
        first = min(word.box[0] for word in sheet.words)
        reach = round(first + chance.uniform(12, 30) * px)
        cv2.ellipse(lying, (0, round(middle)), (reach, round(8 * px)), 8, 0, 360, 1, -1)
    light = 1 + 0.03 * cv2.resize(np.random.default_rng(1).normal(0, 1, (9, 7)).astype(np.float32), (cols, rows))
    # Where it lies a little above the paper it throws a shadow.
    shadow = cv2.GaussianBlur(np.roll(lying, (5, 6), axis=(0, 1)).astype(np.float32), (0, 0), 6) * (1 - lying)
    surface *= (1 - 0.3 * shadow)[..., None]
    surface[lying > 0] = (np.array(tone, np.float32) * light[..., None])[lying > 0]


def _tear(surface: Any, chance: random.Random) -> None:
    rows, cols = surface.shape[:2]
    reach_x, reach_y = round(cols * chance.uniform(0.15, 0.28)), round(rows * chance.uniform(0.1, 0.2))
    x, y = chance.choice((0, cols)), chance.choice((0, rows))
    points = np.array([(x, y), (x + (reach_x if x == 0 else -reach_x), y), (x, y + (reach_y if y == 0 else -reach_y))])
    cv2.fillPoly(surface, [points.astype(np.int32)], (30, 30, 30))


def _soft(pixels: Pixels, chance: random.Random, rng: np.random.Generator) -> Pixels:
    return cv2.GaussianBlur(pixels, (0, 0), chance.uniform(4.0, 6.0))


def _smeared(pixels: Pixels, chance: random.Random, rng: np.random.Generator) -> Pixels:
    length = chance.randint(17, 25)
    return cv2.filter2D(pixels, -1, np.ones((1, length) if chance.random() < 0.5 else (length, 1)) / length)


def _faint(pixels: Pixels, chance: random.Random, rng: np.random.Generator) -> Pixels:
    pale = 205 + (pixels.astype(np.float32) - 205) * 0.09
    return np.clip(pale + rng.normal(0, 3, pixels.shape[:2])[..., None], 0, 255).astype(np.uint8)


def _dark(pixels: Pixels, chance: random.Random, rng: np.random.Generator) -> Pixels:
    shaded = shade(pixels, 1.42, rng).astype(np.float32)
    return np.clip(shaded + rng.normal(0, 4, pixels.shape[:2])[..., None], 0, 255).astype(np.uint8)


AFTER: dict[str, Callable[[Pixels, random.Random, np.random.Generator], Pixels]] = {
    "cut off": _cut_off, "touched": _touched, "streak": _streak, "focus": _soft, "smear": _smeared, "contrast": _faint,
    "light": _dark,
}  # fmt: skip
ON_A_PAGE = (
    "cut off",
    "touched",
    "streak",
    "focus",
    "smear",
    "contrast",
    "light",
    "object",
    "corner",
    "upright",
    "resolution",
)
IN_ORDER = ("twice", "missing number", "swapped", "odd size")
_NUMBERED = ("prose", "noted", "headed", "tally", "ledger")
_PRINTED = ("prose", "noted", "headed", "tally")
KINDS = (*ON_A_PAGE, *IN_ORDER, "pale")


def faulty_stack(seed: int, pages: int, each: int) -> list[Leaf]:
    """About so many pages in documents one behind the other, with every kind of fault set in so many times."""
    chance = random.Random(seed)
    leaves: list[Leaf] = []
    while len(leaves) < pages:
        leaves += _document(chance, len({leaf.document for leaf in leaves}), seed + 1000 * len(leaves))
    for _ in range(each):
        for kind in KINDS:
            _set_in(leaves, kind, chance)
    return leaves


def _document(chance: random.Random, number: int, seed: int) -> list[Leaf]:
    kind = chance.choice(("report", "report", "report", "log", "letters", "cards", "receipts", "plates"))
    size = chance.choice(SIZES)
    if kind in {"report", "log", "plates"}:
        first = 1 if kind == "report" else chance.randint(20, 300)
        layouts = {
            "report": ("prose", "noted", "headed", "tally"),
            "log": ("ledger",),
            "plates": ("prose", "plate", "plate"),
        }[kind]
        return [
            Leaf(chance.choice(layouts), seed + at, number, str(first + at), size) for at in range(chance.randint(8, 14))
        ]
    if kind == "letters":
        return [Leaf("letter", seed + at, number) for at in range(chance.randint(1, 4))]
    small = {"cards": ("card", (127.0, 76.0)), "receipts": ("receipt", (80.0, 100.0))}[kind]
    first = chance.randint(10, 300)
    numbers = [str(first + at) if kind == "cards" else "" for at in range(chance.randint(3, 8))]
    return [Leaf(small[0], seed + at, number, text, small[1]) for at, text in enumerate(numbers)]


def _set_in(leaves: list[Leaf], kind: str, chance: random.Random) -> None:
    """One fault at a page that has none, inside of a document that is numbered, and away from all others."""
    marked = {near for at, leaf in enumerate(leaves) if leaf.fault for near in range(at - 2, at + 3)}
    inside = [
        at for at, leaf in enumerate(leaves[:-2])
        if at > 1 and at not in marked and leaf.number and leaf.kind in (_NUMBERED if kind in IN_ORDER else _PRINTED)
        and leaves[at - 2].document == leaf.document == leaves[at + 2].document
    ]  # fmt: skip
    if not inside:
        return  # a short stack is full
    at = chance.choice(inside)
    leaf = leaves[at]
    match kind:
        case "missing number":
            leaves[at + 1] = replace(leaves[at + 1], fault=kind)
            del leaves[at]
        case "swapped":
            leaves[at], leaves[at + 1] = leaves[at + 1], replace(leaf, fault=kind)
        case "twice":
            same = chance.random() < 0.4
            leaves.insert(at + chance.choice((1, 1, 2)), replace(leaf, fault=kind, capture=0 if same else 1))
        case "odd size":
            leaves[at] = replace(leaf, fault=kind, size=(leaf.size[0], leaf.size[1] * 0.68))
        case "pale":
            leaves.insert(at + 1, Leaf("pale", leaf.seed + 500, leaf.document, size=leaf.size, fault=kind))
        case "resolution":
            leaves[at] = replace(leaf, fault=kind, resolution=chance.choice((70.0, 85.0)))
            leaves[at].says = leaves[at].resolution
        case _:
            leaves[at] = replace(leaf, fault=kind)
