"""A sheet to draw on, in millimetres: ink as one coverage layer a colour, and the truth of every word."""

import random
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw, ImageFont

Colour = tuple[int, int, int]
Layer = npt.NDArray[np.float32]

BLACK: Colour = (34, 32, 36)
BLUE_BLACK: Colour = (38, 44, 78)
RED: Colour = (158, 38, 34)
VIOLET: Colour = (88, 52, 120)
PENCIL: Colour = (104, 102, 104)
MM_PER_POINT = 25.4 / 72
_FONTS = Path(__file__).parent / "fonts"


@dataclass(frozen=True, slots=True)
class TrueWord:
    """A word and its ink box (left, top, right, bottom) in pixels of the unworn sheet."""

    text: str
    box: tuple[float, float, float, float]


@dataclass
class Sheet:
    """One side of a leaf. ``layers`` holds coverage, 0 to 1, of each ink colour."""

    width_mm: float
    height_mm: float
    ppi: float = 300.0
    layers: dict[Colour, Image.Image] = field(default_factory=dict)
    words: list[TrueWord] = field(default_factory=list)

    @property
    def size(self) -> tuple[int, int]:
        """Width and height in pixels."""
        return self.px(self.width_mm), self.px(self.height_mm)

    def px(self, mm: float) -> int:
        """Millimetres in whole pixels."""
        return round(mm * self.ppi / 25.4)

    def pen(self, colour: Colour) -> ImageDraw.ImageDraw:
        """To draw with an ink; values are coverage, 0 to 255."""
        if colour not in self.layers:
            self.layers[colour] = Image.new("L", self.size, 0)
        return ImageDraw.Draw(self.layers[colour])

    def font(self, name: str, points: float) -> ImageFont.FreeTypeFont:
        """A shipped font at a size."""
        return _font(name, round(points * MM_PER_POINT * self.ppi / 25.4))

    def print(
        self, x: float, y: float, text: str, font: str, points: float, colour: Colour = BLACK,
        anchor: str = "ls", strength: int = 255,
    ) -> float:  # fmt: skip
        """Set a line of type with its baseline at (x, y) mm; returns where it ends, in mm."""
        face = self.font(font, points)
        left, base = self.px(x), self.px(y)
        total = face.getlength(text)
        left -= round(total * {"l": 0.0, "m": 0.5, "r": 1.0}[anchor[0]])
        pen = self.pen(colour)
        for start, word in _words(text):
            at = left + face.getlength(text[:start])
            pen.text((at, base), word, font=face, fill=strength, anchor="ls")
            self._note(word, pen.textbbox((at, base), word, font=face, anchor="ls"))
        return (left + total) * 25.4 / self.ppi

    def type(self, x: float, y: float, text: str, rng: random.Random, colour: Colour = BLACK, strength: int = 235) -> None:
        """Strike a line on a typewriter, ten characters an inch: each lands a little off and inks a little differently."""
        face = self.font("CourierPrime-Regular", 12)
        pitch, base = self.ppi / 10, float(self.px(y))
        pen = self.pen(colour)
        for start, word in _words(text):
            boxes = []
            for index, char in enumerate(word, start):
                dx, dy = rng.gauss(0, 0.35), _type_bar(char) + rng.gauss(0, 0.4)
                at = (self.px(x) + index * pitch + dx, base + dy)
                force = max(120, min(255, round(strength + _type_bar(char) * 9 + rng.gauss(0, 13))))
                pen.text(at, char, font=face, fill=force, anchor="ls")
                boxes.append(pen.textbbox(at, char, font=face, anchor="ls"))
            lows, highs = np.min(boxes, axis=0), np.max(boxes, axis=0)
            self.words.append(TrueWord(word, (float(lows[0]), float(lows[1]), float(highs[2]), float(highs[3]))))

    def write(
        self,
        x: float,
        y: float,
        text: str,
        rng: random.Random,
        points: float = 17,
        colour: Colour = BLUE_BLACK,
        strength: int = 225,
    ) -> float:
        """Write by hand: words wander about the line. Returns where it ends, in mm."""
        face = self.font("LaBelleAurore-Regular", points)
        pen, at = self.pen(colour), float(self.px(x))
        for word in text.split(" "):
            base = self.px(y) + rng.gauss(0, 0.9)
            pen.text((at, base), word, font=face, fill=max(140, min(255, round(strength + rng.gauss(0, 12)))), anchor="ls")
            self._note(word, pen.textbbox((at, base), word, font=face, anchor="ls"))
            at += face.getlength(word) + face.getlength(" ") * rng.uniform(0.95, 1.3)
        return at * 25.4 / self.ppi

    def _note(self, word: str, box: tuple[float, float, float, float]) -> None:
        left, top, right, bottom = box
        self.words.append(TrueWord(word, (float(left), float(top), float(right), float(bottom))))

    def rule(
        self, x1: float, y1: float, x2: float, y2: float, colour: Colour = BLACK, mm: float = 0.18, strength: int = 210
    ) -> None:
        """A ruled line."""
        points = [(self.px(x1), self.px(y1)), (self.px(x2), self.px(y2))]
        self.pen(colour).line(points, fill=strength, width=max(1, self.px(mm)))

    def block(self, x1: float, y1: float, x2: float, y2: float, colour: Colour = BLACK, strength: int = 245) -> None:
        """A solid area."""
        self.pen(colour).rectangle([self.px(x1), self.px(y1), self.px(x2), self.px(y2)], fill=strength)

    def tone(self, x: float, y: float, coverage: Layer, colour: Colour = BLACK) -> None:
        """A picture in continuous tone, its top left corner at (x, y) mm; one pixel of it is one of the sheet."""
        self.pen(colour)
        self.layers[colour].paste(Image.fromarray(np.rint(coverage * 255).astype(np.uint8)), (self.px(x), self.px(y)))


def wrapped(text: str, columns: int) -> list[str]:
    """A paragraph broken at a number of characters, as a typist would."""
    lines, line = [], ""
    for word in text.split():
        if line and len(line) + 1 + len(word) > columns:
            lines.append(line)
            line = word
        else:
            line = f"{line} {word}".strip()
    return [*lines, line] if line else lines


def fitted(sheet: Sheet, text: str, font: str, points: float, width_mm: float) -> list[str]:
    """A paragraph broken to a width in a font."""
    face, most = sheet.font(font, points), sheet.px(width_mm)
    lines, line = [], ""
    for word in text.split():
        longer = f"{line} {word}".strip()
        if line and face.getlength(longer) > most:
            lines.append(line)
            line = word
        else:
            line = longer
    return [*lines, line] if line else lines


def _words(text: str) -> list[tuple[int, str]]:
    found, start = [], 0
    for part in text.split(" "):
        if part:
            found.append((start, part))
        start += len(part) + 1
    return found


def _type_bar(char: str) -> float:
    """Each letter's bar is bent its own way, the same all through a letter."""
    return ((ord(char) * 7919) % 11 - 5) / 4


@cache
def _font(name: str, pixels: int) -> ImageFont.FreeTypeFont:
    # Without kerning: that is a library's which not every machine has, and the pages are to be the same everywhere.
    return ImageFont.truetype(str(_FONTS / f"{name}.ttf"), pixels, layout_engine=ImageFont.Layout.BASIC)
