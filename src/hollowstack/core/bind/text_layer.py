"""The words of a page laid invisibly over their places, and the page under them."""

import math
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from hollowstack.core.bind.drawing import number, short
from hollowstack.core.bind.font import ASCENT, WIDTH, TextFont
from hollowstack.core.bind.tags import PageTags
from hollowstack.core.ocr.model import Line, Reading, Word
from hollowstack.core.read.headings import cells_of

_LEAST_PX = 3.0
_STEEPEST = 0.2
"""Slope up to which a baseline is believed; text lines of a levelled page lie flat."""


def page_content(
    size_pt: tuple[float, float],
    drawing: Sequence[str],
    reading: Reading | None,
    font: TextFont,
    tags: PageTags | None = None,
) -> bytes:
    """What is to be seen, then text in rendering mode 3 (neither filled nor stroked).

    Args:
        size_pt: Page width and height in points.
        drawing: Instructions that draw the page.
        reading: Words in pixels of the same page; None without.
        font: Takes note of the characters used.
        tags: Takes note of what stands where, for a document that tells its structure; None without.

    Returns:
        A content stream (ISO 32000-1, 8, 9 and 14.6). Resources: those of the drawing, font /F.
    """
    parts = list(drawing)
    if tags is not None:
        parts = [*tags.seen(size_pt, drawing)]
    if reading and reading.lines:
        pen = _Pen(font)
        parts.append("BT 3 Tr")
        for block in reading.blocks:
            for line in block.lines:
                if tags is None:
                    parts += _line(line, reading.size_px, size_pt, pen)
                    continue
                for told in cells_of(line) if block.kind == "table" else [line]:
                    parts += tags.said(block, told, list(_line(told, reading.size_px, size_pt, pen)))
        parts.append("ET")
    return "\n".join(parts).encode("ascii")


class _Place(NamedTuple):
    """Where a word stands, in points: its length and the size of its font; cosine and sine of its turn; where it begins."""

    length: float
    size: float
    turn: tuple[float, float]
    start: tuple[float, float]


class _Pen:
    """Writes words, and says only what is not so already: a page's words are a third of a small page's bytes.

    Places are rounded to a tenth of a point (0.035 mm), lengths to three tenths at most.

    Source:
        ISO 32000-1:2008, 9.3 (text state) and 9.4.2 (Td moves from where the line began, in the line's own directions).
    """

    def __init__(self, font: TextFont) -> None:
        self._font = font
        self._size, self._stretch = "", ""
        self._turn, self._start = ("", ""), (0.0, 0.0)

    def write(self, text: str, place: _Place, *, space: bool) -> Iterator[str]:
        """A word, and where wanted a space in the same string: viewers that go by the text's own spaces find its end."""
        code = self._font.encode(text)
        if not code:
            return
        size = f"{place.size:.1f}"
        stretch = _stretch(place.length, len(code) // 2 * WIDTH / 1000 * float(size))
        said = []
        if size != self._size:
            said.append(f"/F {short(size)} Tf")
        if stretch != self._stretch:
            said.append(f"{stretch} Tz")
        said.append(self._moved(place))
        self._size, self._stretch = size, stretch
        yield " ".join([*said, f"<{(code + self._font.encode(' ') if space else code).hex()}> Tj"])

    def _moved(self, place: _Place) -> str:
        """To where a word begins: along its line from the word before, or anew."""
        cosine, sine = place.turn
        # A turn that moves the end of a page's width by less than what is rounded is none.
        turn = ("1", "0") if abs(sine) < _NO_TURN and cosine > 0 else (number(cosine), number(sine))
        away = (place.start[0] - self._start[0], place.start[1] - self._start[1])
        c, s = float(turn[0]), float(turn[1])
        along, across = away[0] * c + away[1] * s, away[1] * c - away[0] * s
        if turn == self._turn and abs(across) < _SAME_LINE:
            moved = round(along, 1)
            # From where it is now, not from where it was meant to be: what is rounded does not add up.
            self._start = (self._start[0] + moved * c, self._start[1] + moved * s)
            return f"{short(f'{moved:.1f}')} 0 Td"
        start = [f"{one:.1f}" for one in place.start]
        self._turn, self._start = turn, (float(start[0]), float(start[1]))
        matrix = "1 0 0 1" if turn == ("1", "0") else f"{turn[0]} {turn[1]} {number(-s)} {turn[0]}"
        return f"{matrix} {short(start[0])} {short(start[1])} Tm"


_NO_TURN, _SAME_LINE, _LEAST_OFF = 0.0002, 0.15, 0.15
"""Sine of a turn that is none; points across by which a word lies on the line of the one before; points by which the length
of a word may be off for a shorter number."""


def _stretch(length: float, natural: float) -> str:
    """How a word of a natural length is stretched, in percent."""
    percent = 100 * length / natural
    rounded = round(percent)
    near = rounded > 0 and abs(rounded - percent) / 100 * natural < _LEAST_OFF
    return str(rounded) if near else short(f"{max(percent, 0.1):.1f}")


def _line(line: Line, size_px: tuple[int, int], size_pt: tuple[float, float], pen: _Pen) -> Iterator[str]:
    """Each word on its line's baseline, as long as its box."""
    per_px, last = (size_pt[0] / size_px[0], size_pt[1] / size_px[1]), len(line.words) - 1
    for index, word in enumerate(line.words):
        yield from pen.write(word.text, _place(word, line, per_px, size_pt[1]), space=index < last)


def _place(word: Word, line: Line, per_px: tuple[float, float], page_height: float) -> _Place:
    """On the line's baseline, or where that is odd, on the lower side of the word's own box."""
    left, top, right, bottom = word.box
    x1, y1, x2, y2 = line.baseline
    across, down = x2 - x1, y2 - y1
    if abs(down) > abs(across) and bottom - top > right - left:
        # A line that runs up or down the page: letters stand on its right side, or hang from its left.
        turn = 1.0 if down < 0 else -1.0
        size = max(_LEAST_PX, (right - left) * 1000 / ASCENT) * per_px[0]
        corner = (right, bottom) if down < 0 else (left, top)
        start = (corner[0] * per_px[0], page_height - corner[1] * per_px[1])
        return _Place((bottom - top) * per_px[1], size, (0.0, turn), start)
    slope = down / across if abs(across) > 1 else 0.0
    level = abs(slope) <= _STEEPEST
    angle = math.atan(-slope) if level else 0.0
    base = y1 + slope * ((left + right) / 2 - x1)
    if not level or not top + _LEAST_PX < base <= bottom + (bottom - top):
        base = float(bottom)  # odd lines: the box alone is to be trusted
    # From the word's top to just below the baseline, so that its box in any viewer is the ink's.
    size = max(_LEAST_PX, (base - top) * 1000 / ASCENT) * per_px[1]
    start = (left * per_px[0], page_height - base * per_px[1])
    return _Place((right - left) * per_px[0], size, (math.cos(angle), math.sin(angle)), start)
