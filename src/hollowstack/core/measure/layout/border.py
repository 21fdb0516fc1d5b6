"""What is written where a border would be cleared, or runs off the page: ink near the four sides."""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.imaging.histogram import quantile
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import Pixels, Raster, as_pixels

_WITHIN_MM = 3.0
"""How far inside the border's inner line a stroke that crosses it is looked for."""
_ALONG_MM = 7.0
"""Longer than a letter is wide: what is dark for longer along the side is shadow, not ink."""
_INK = 0.74
_SEEN = 0.22
"""Below this share of the paper's brightness nothing can be told from the bar."""
_RIM_MM = 0.7
"""Next to the edge itself its raggedness looks like ink."""
_LEAST_MM, _LETTER_MM = 0.6, 12.0
_BEYOND_MM = 3.0
"""How far beyond the page's edge a stretch goes on whose writing meets the bar."""
_SOFT_MM, _LIT, _ABOVE_LID = 0.9, 0.8, 1.3
"""A soft shade is at least so deep, darker than that share of the paper, and so many times as light as what lies beyond."""
_RULE_MM = 0.5
"""A line that is no thicker and runs straight out of the image is ruled: paper is printed so, and nothing is lost."""
_CUT_MM = 0.5
"""Ink that comes so near the edge of an image without a surround goes on beyond it."""
_AT_RIM_MM = 1.2
"""A side so near the image's own is that."""
_MEETS_WITHIN_MM, _MEETS_DEEP_MM, _MEETS_GAP_MM, _MEETING = 1.3, 6.0, 14.0, 4
"""Writing ends at an edge where so many pieces of it begin so near it, no farther apart than the third along it."""
_AROUND_MM = 1.0
_SHORTEST_MM = 8.0
_END_MM = 2.0
"""Left out at both ends of a side, where the sides next to it bring their own edges in."""

Span = tuple[float, float, float, float]
"""From, to, along a side; from, to, inward."""
Mask = npt.NDArray[np.bool_]
Vector = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class BorderInk:
    """``protected``: places in the cleared border where something is written; ``cut``: writing that runs off the image;
    ``meets_edge``: writing that ends at the edge of the page, beyond which something else lies."""

    protected: tuple[Quad, ...]
    cut: tuple[Quad, ...]
    meets_edge: tuple[Quad, ...] = ()


def find_border_ink(page: Raster, quad: Quad, bright: Quad, *, lid: bool) -> BorderInk:
    """Ink along the four sides of a page.

    Each side is looked at as a strip that runs along it. The strip's shade is what stays when strokes are closed away along
    the side: a closing leaves a shade that rises or falls as it is, so a gutter that lies askew is no ink, and letters
    within it are.

    Args:
        page: Gray, 100 to 200 ppi, as captured.
        quad: The page's corners in its pixels.
        bright: Where the border gives way to plain paper.
        lid: Whether a surround was seen; without one, only cut writing is looked for.

    Source:
        Closing along a line as an estimate of shade: Serra 1982; the figures are common practice, no source.
    """
    paper = float(quantile(page.pixels, 0.8)[0])
    protected: list[Quad] = []
    cut: list[Quad] = []
    meets: list[Quad] = []
    px_mm = page.px(25.4) / 25.4
    for side in range(4):
        start, along, inward, length, depth = _side(quad, bright, side, _END_MM * px_mm)
        if length < _SHORTEST_MM * px_mm:
            continue
        out = round(_BEYOND_MM * px_mm) if lid else 0
        high = max(4, out + round(depth + _WITHIN_MM * px_mm))
        strip, back = _strip(page.pixels, start - inward * out, along, inward, (length, high))
        if not lid or _at_rim(quad, side, page, px_mm):
            # Beside a lid that is seen on other sides only, a side may still end at the image.
            rim, back_there = (strip, back) if not lid else _strip(page.pixels, start, along, inward, (length, high))
            cut += [back_there.quad(box) for box in _cut_off(rim, px_mm)]
        if not lid:
            continue
        if not _at_rim(quad, side, page, px_mm):
            inner, back_in = _strip(page.pixels, start, along, inward, (length, round(_MEETS_DEEP_MM * px_mm)))
            meets += [back_in.quad(box) for box in _meeting(inner, px_mm)]
        if (soft := _soft(strip, out, px_mm, paper)) or depth > _RIM_MM * px_mm:
            protected += [back.quad(box) for box in _crossing(strip, out, depth, px_mm, paper, soft=soft)]
    return BorderInk(tuple(protected), tuple(cut), tuple(meets))


def _side(quad: Quad, bright: Quad, side: int, end: float) -> tuple[Vector, Vector, Vector, int, float]:
    """Where a side begins, its directions along and inward, its length and the depth of its border, in pixels.

    It goes as far as its border has plain paper beside it: what lies in a corner belongs to the deeper of two borders.
    """
    here, there = quad.array()[side], quad.array()[(side + 1) % 4]
    inner = bright.array()[[side, (side + 1) % 4]]
    along = (there - here) / max(1e-6, float(np.hypot(*(there - here))))
    inward = np.array([-along[1], along[0]])
    if float(np.dot(quad.array().mean(axis=0) - here, inward)) < 0:
        inward = -inward
    first, last = (float(np.dot(corner - here, along)) for corner in inner)
    depth = float(np.mean([np.dot(corner - here, inward) for corner in inner]))
    first, last = first + end, last - end
    return here + along * first, along, inward, round(last - first), max(0.0, depth)


def _strip(pixels: Pixels, start: Vector, along: Vector, inward: Vector, size: tuple[int, int]) -> tuple[Pixels, Transform]:
    """The side lying flat, the page's edge on top; and the way back into the image."""
    length, high = size
    end = start + along * length
    source = Quad.of(np.array([start, end, end + inward * high, start + inward * high]))
    onto = Transform.onto(source, length, high)
    half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    matrix = np.linalg.inv(half) @ onto.matrix @ half
    strip = cv2.warpPerspective(pixels, matrix, size, flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return as_pixels(strip), onto.inverse()


def _ink(strip: Pixels, px_mm: float) -> tuple[Mask, Pixels]:
    wide = max(3, round(_ALONG_MM * px_mm) | 1)
    calm = cv2.medianBlur(strip, 3)
    shade = cv2.morphologyEx(calm, cv2.MORPH_CLOSE, np.ones((1, wide), np.uint8), borderType=cv2.BORDER_REPLICATE)
    return np.asarray(calm < _INK * shade.astype(np.float32), dtype=np.bool_), as_pixels(shade)


def _soft(strip: Pixels, out: int, px_mm: float, paper: float) -> bool:
    """Whether the page darkens slowly towards this side, as it does where it bends down into a binding."""
    middle = np.median(strip, axis=1)
    beyond = float(np.median(middle[: max(1, out // 2)]))  # a lid that is grey and no shade, or the dark of the binding
    between = (middle > max(_SEEN * paper, _ABOVE_LID * beyond)) & (middle < _LIT * paper)
    return bool(between.sum() > _SOFT_MM * px_mm)


def _crossing(strip: Pixels, out: int, depth: float, px_mm: float, paper: float, *, soft: bool) -> list[Quad]:
    """Stretches of the border in which something is written, to behind the border's inner line.

    Row ``out`` of the strip is the page's edge, beyond which a soft shade may still show something. Where writing meets the
    bar itself, the stretch goes on beyond the edge.
    """
    ink, shade = _ink(strip, px_mm)
    ink &= shade > _SEEN * paper
    edge = out + round(_RIM_MM * px_mm)
    if not soft:
        ink[:edge] = False  # lid and paper meet here, raggedly
    inner = out + depth + 0.5 * px_mm
    boxes: list[Span] = []
    for left, top, wide, high, area in _pieces(ink):
        big = max(wide, high) >= _LEAST_MM * px_mm and area >= (0.3 * px_mm) ** 2
        meets = top <= edge + 1
        at_an_end = left == 0 or left + wide == strip.shape[1]  # a wedge of lid beside a page that lies askew
        if big and top < inner and not at_an_end and not (meets and wide > _LETTER_MM * px_mm):
            boxes.append((left, left + wide, 0 if meets else edge, max(inner, top + high)))
    around = _AROUND_MM * px_mm
    return [
        Quad.rectangle(max(0, start - around), high, min(strip.shape[1], end + around), low + around)
        for start, end, high, low in _joined(boxes, 3 * px_mm)
    ]


def _cut_off(strip: Pixels, px_mm: float) -> list[Quad]:
    """Strokes that touch the edge and are no longer than letters along it."""
    ink, _ = _ink(strip, px_mm)
    rim = max(1, round(_CUT_MM * px_mm))
    found: list[Span] = [
        (left, left + wide, 0, top + high)
        for left, top, wide, high, area in _pieces(ink)
        if top < rim
        and high >= 2 * rim
        and wide <= _ALONG_MM * px_mm
        and area >= (0.4 * px_mm) ** 2
        and not (wide <= _RULE_MM * px_mm and top + high >= strip.shape[0] - 1)
    ]
    return [Quad.rectangle(start, high, end, low) for start, end, high, low in _joined(found, 6 * px_mm)]


def _at_rim(quad: Quad, side: int, page: Raster, px_mm: float) -> bool:
    """Whether a side of the page is the image's own."""
    ends = quad.array()[[side, (side + 1) % 4]]
    near = _AT_RIM_MM * px_mm
    (left, top), (right, bottom) = ends.min(axis=0), ends.max(axis=0)
    return bool(right <= near or bottom <= near or left >= page.width - near or top >= page.height - near)


def _meeting(strip: Pixels, px_mm: float) -> list[Quad]:
    """Stretches along a page's edge at which letters end: a text's own margin is wider than that everywhere."""
    ink, _ = _ink(strip, px_mm)
    rim = round(_MEETS_WITHIN_MM * px_mm)
    found: list[Span] = [
        (left, left + wide, 0, top + high)
        for left, top, wide, high, area in _pieces(ink)
        if top <= rim and top + high >= rim + _LEAST_MM * px_mm and wide <= _ALONG_MM * px_mm and area >= (0.4 * px_mm) ** 2
    ]
    joined = [(span, sum(span[0] <= one[0] <= span[1] for one in found)) for span in _joined(found, _MEETS_GAP_MM * px_mm)]
    return [Quad.rectangle(start, high, end, low) for (start, end, high, low), many in joined if many >= _MEETING]


def _pieces(ink: Mask) -> list[list[int]]:
    _, _, stats, _ = cv2.connectedComponentsWithStats(ink.astype(np.uint8), connectivity=8)
    return [[int(v) for v in row] for row in stats[1:]]


def _joined(spans: list[Span], gap: float) -> list[Span]:
    """Stretches along a side that lie no farther apart than a gap, as one; as high and as low as the whole of them."""
    joined: list[Span] = []
    for start, end, high, low in sorted(spans):
        if joined and start - joined[-1][1] <= gap:
            first, last, top, bottom = joined[-1]
            joined[-1] = (first, max(last, end), min(top, high), max(bottom, low))
        else:
            joined.append((start, end, high, low))
    return joined
