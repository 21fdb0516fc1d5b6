"""The drawing instructions of a page: its image, and its words laid invisibly over their places."""

import math

from hollowstack.core.bind.font import ASCENT, WIDTH, TextFont
from hollowstack.core.ocr.model import Line, Reading

_LEAST_PX = 3.0
_STEEPEST = 0.2
"""Slope up to which a baseline is believed; text lines of a levelled page lie flat."""


def page_content(size_pt: tuple[float, float], reading: Reading | None, font: TextFont) -> bytes:
    """Image over the whole page, then text in rendering mode 3 (neither filled nor stroked).

    Args:
        size_pt: Page width and height in points.
        reading: Words in pixels of the same page; None without.
        font: Takes note of the characters used.

    Returns:
        A content stream (ISO 32000-1, 8 and 9). Resources: image /Im, font /F.
    """
    width, height = size_pt
    parts = [f"q {_n(width)} 0 0 {_n(height)} 0 0 cm /Im Do Q"]
    if reading and reading.lines:
        per_px = (width / reading.size_px[0], height / reading.size_px[1])
        parts.append("BT 3 Tr")
        parts += [piece for line in reading.lines for piece in _line(line, per_px, height, font)]
        parts.append("ET")
    return "\n".join(parts).encode("ascii")


def _line(line: Line, per_px: tuple[float, float], page_height: float, font: TextFont) -> list[str]:
    """Each word on its line's baseline, as wide as its box, followed by a space in the same string."""
    x1, y1, x2, y2 = line.baseline
    slope = (y2 - y1) / (x2 - x1) if abs(x2 - x1) > 1 else 0.0
    level = abs(slope) <= _STEEPEST
    angle = math.atan(-slope) if level else 0.0
    c, s = math.cos(angle), math.sin(angle)
    pieces = []
    for index, word in enumerate(line.words):
        left, top, right, bottom = word.box
        base = y1 + slope * ((left + right) / 2 - x1)
        if not level or not top + _LEAST_PX < base <= bottom + (bottom - top):
            base = float(bottom)  # upright or odd lines: the box alone is to be trusted
        # From the word's top to just below the baseline, so that its box in any viewer is the ink's.
        size = max(_LEAST_PX, (base - top) * 1000 / ASCENT) * per_px[1]
        code = font.encode(word.text)
        if not code:
            continue
        stretch = 100 * (right - left) * per_px[0] / (len(code) / 2 * WIDTH / 1000 * size)
        # Viewers that go by the text's own spaces find word ends too.
        text = code + font.encode(" ") if index + 1 < len(line.words) else code
        matrix = f"{_n(c)} {_n(s)} {_n(-s)} {_n(c)} {_n(left * per_px[0])} {_n(page_height - base * per_px[1])} Tm"
        pieces.append(f"/F {_n(size)} Tf {_n(stretch)} Tz {matrix} <{text.hex().upper()}> Tj")
    return pieces


def _n(value: float) -> str:
    """A number as PDF writes it, without exponent or needless digits."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text in {"", "-0"} else text
