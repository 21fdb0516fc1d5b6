"""The words of a page laid invisibly over their places, and the page under them."""

import math
from collections.abc import Iterator, Sequence

from hollowstack.core.bind.drawing import number
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
        parts.append("BT 3 Tr")
        for block in reading.blocks:
            for line in block.lines:
                if tags is None:
                    parts += _line(line, reading.size_px, size_pt, font)
                    continue
                for told in cells_of(line) if block.kind == "table" else [line]:
                    parts += tags.said(block, told, list(_line(told, reading.size_px, size_pt, font)))
        parts.append("ET")
    return "\n".join(parts).encode("ascii")


def _line(line: Line, size_px: tuple[int, int], size_pt: tuple[float, float], font: TextFont) -> Iterator[str]:
    """Each word on its line's baseline, as long as its box, followed by a space in the same string."""
    per_px = (size_pt[0] / size_px[0], size_pt[1] / size_px[1])
    space, last = font.encode(" "), len(line.words) - 1
    for index, word in enumerate(line.words):
        code = font.encode(word.text)
        if not code:
            continue
        length, size, (c, s, x, y) = _place(word, line, per_px, size_pt[1])
        stretch = 100 * length / (len(code) / 2 * WIDTH / 1000 * size)
        # Viewers that go by the text's own spaces find word ends too.
        text = code + space if index < last else code
        turned = "1 0 0 1" if s == 0 else f"{number(c)} {number(s)} {number(-s)} {number(c)}"
        yield f"/F {size:.2f} Tf {stretch:.1f} Tz {turned} {x:.2f} {y:.2f} Tm <{text.hex()}> Tj"


def _place(
    word: Word, line: Line, per_px: tuple[float, float], page_height: float
) -> tuple[float, float, tuple[float, float, float, float]]:
    """Length of a word and size of its font in points; cosine and sine of its turn, and where it begins."""
    left, top, right, bottom = word.box
    x1, y1, x2, y2 = line.baseline
    across, down = x2 - x1, y2 - y1
    if abs(down) > abs(across) and bottom - top > right - left:
        # A line that runs up or down the page: letters stand on its right side, or hang from its left.
        turn = 1.0 if down < 0 else -1.0
        size = max(_LEAST_PX, (right - left) * 1000 / ASCENT) * per_px[0]
        corner = (right, bottom) if down < 0 else (left, top)
        place = (corner[0] * per_px[0], page_height - corner[1] * per_px[1])
        return (bottom - top) * per_px[1], size, (0.0, turn, *place)
    slope = down / across if abs(across) > 1 else 0.0
    level = abs(slope) <= _STEEPEST
    angle = math.atan(-slope) if level else 0.0
    base = y1 + slope * ((left + right) / 2 - x1)
    if not level or not top + _LEAST_PX < base <= bottom + (bottom - top):
        base = float(bottom)  # odd lines: the box alone is to be trusted
    # From the word's top to just below the baseline, so that its box in any viewer is the ink's.
    size = max(_LEAST_PX, (base - top) * 1000 / ASCENT) * per_px[1]
    return (
        (right - left) * per_px[0],
        size,
        (math.cos(angle), math.sin(angle), left * per_px[0], page_height - base * per_px[1]),
    )
