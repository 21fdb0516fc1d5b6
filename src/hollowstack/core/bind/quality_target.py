"""The quality target as a PDF to print: captured, it tells how well a station sees."""

import math

from hollowstack.core.bind.printed_code import printed_code
from hollowstack.core.bind.printed_page import POINT, line_of_text, printed_page
from hollowstack.core.calibrate import target_sheet as sheet
from hollowstack.core.calibrate.colorimetry import srgb_from_lab

_BAR_WIDE, _BAR_LONG = 1.0, 10.0
_EDGE_GREY = 0.25
"""Of the dark squares: not black, so that no printer spreads them, and no station clips them."""
_WORDS = (
    (12.0, "Quality target"),
    (8.0, "Print it at its true size on heavy white paper. Capture it as pages are captured, and open it in"),
    (8.0, "the stack: its figures say how well the station sees. Measured with a photospectrometer, its"),
    (8.0, "patches A1 to E6 (from the left, row by row) say how true the colours are."),
)


def quality_target() -> bytes:
    """One page of PDF, A4: four codes, thirty patches, five squares askew, a scale."""
    high = sheet.SIZE_MM[1]
    parts = []
    for number, (left, top) in enumerate(sheet.CODES_MM, 1):
        parts.append(printed_code(f"{sheet.CODE}{number}", left * POINT, (high - top) * POINT, sheet.CODE_MM * POINT))
    parts += [_patch(at) for at in range(len(sheet.NAMES))]
    parts += [_square(x, y) for x, y in sheet.EDGES_MM]
    parts += _scale()
    y = (high - 200.0) * POINT
    for points, line in _WORDS:
        parts.append(line_of_text(line, 60.0 * POINT, y, points))
        y -= points + 5
    return printed_page("Quality target", (sheet.SIZE_MM[0] * POINT, high * POINT), parts)


def _patch(at: int) -> str:
    row, col = divmod(at, sheet.COLS)
    left = sheet.PATCHES_MM[0] + col * sheet.PATCH_MM
    bottom = sheet.SIZE_MM[1] - sheet.PATCHES_MM[1] - (row + 1) * sheet.PATCH_MM
    red, green, blue = srgb_from_lab(sheet.NOMINAL_LAB[at : at + 1])[0]
    side = sheet.PATCH_MM * POINT
    return f"{red:.4f} {green:.4f} {blue:.4f} rg {left * POINT:.2f} {bottom * POINT:.2f} {side:.2f} {side:.2f} re f 0 g"


def _square(x: float, y: float) -> str:
    """A dark square askew by some degrees, clockwise as one looks at it."""
    turn, half = math.radians(sheet.EDGE_DEG), sheet.EDGE_MM / 2
    corners = []
    for away_x, away_y in ((-1, -1), (1, -1), (1, 1), (-1, 1)):
        across = x + half * (away_x * math.cos(turn) - away_y * math.sin(turn))
        down = y + half * (away_x * math.sin(turn) + away_y * math.cos(turn))
        corners.append((across * POINT, (sheet.SIZE_MM[1] - down) * POINT))
    path = " ".join(f"{px:.3f} {py:.3f} {'l' if at else 'm'}" for at, (px, py) in enumerate(corners))
    return f"{_EDGE_GREY} g {path} f 0 g"


def _scale() -> list[str]:
    """Two upright bars and two that lie, whose middles are known."""
    width, height = sheet.SIZE_MM
    bars = [(x - _BAR_WIDE / 2, height / 2 - _BAR_LONG / 2, _BAR_WIDE, _BAR_LONG) for x in sheet.ACROSS_MM]
    bars += [(width / 2 - _BAR_LONG / 2, y - _BAR_WIDE / 2, _BAR_LONG, _BAR_WIDE) for y in sheet.DOWN_MM]
    return [
        f"{x * POINT:.2f} {(sheet.SIZE_MM[1] - y - high) * POINT:.2f} {wide * POINT:.2f} {high * POINT:.2f} re f"
        for x, y, wide, high in bars
    ]
