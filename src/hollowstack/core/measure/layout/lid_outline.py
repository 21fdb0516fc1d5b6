"""Where the page lies by its lid alone: what is connected with the image's rim and has the lid's colour is none of it.

For pages of which a part is no paper: a picture on the upper half, a dark cover with a light label.
"""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.measure.layout.line_fit import Line, corners_of, fit_line
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, as_pixels

LIKE_LID = 20.0
"""How far a pixel of lid lies from the lid's usual colour, in 8-bit steps."""
AGREEING = 0.45
"""Share of a side's points that lie on its line, at least: a picture as dark as the lid lets it in, and frays the side."""
BEYOND = 0.04
"""Share of them that may lie outside it, as page that a cut would take."""
OUTER = 0.6
"""Share of a side's points that its line is fitted to first, the outermost ones."""
LEAST_LID = 0.01
"""Share of the image that is lid, at least."""
LEAST_PAGE = 0.2
"""Share of the image that the page covers, at least: otherwise what is lid and what is page cannot be told."""

Colour = npt.NDArray[np.float32]


def outline_by_lid(pixels: Pixels, lid: Colour) -> tuple[Quad, float] | None:
    """The page's corners in an image, and how well its sides lie on lines; None where the lid does not tell.

    Args:
        pixels: The image reduced to about 60 ppi and smoothed, gray or RGB.
        lid: The lid's usual colour.

    Source:
        Seeded region growing (R. Adams and L. Bischof, IEEE PAMI 16, 1994), with the image's rim as seed.
    """
    rows, cols = pixels.shape[:2]
    values = (pixels if pixels.ndim == 3 else pixels[..., None]).astype(np.float32)
    like = (np.abs(values - lid).max(axis=2) <= LIKE_LID).astype(np.uint8)
    calm = cv2.morphologyEx(like, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8), borderType=cv2.BORDER_REPLICATE)
    count, pieces = cv2.connectedComponents(calm, connectivity=4)
    rim = np.unique(np.concatenate([pieces[:2].ravel(), pieces[-2:].ravel(), pieces[:, :2].ravel(), pieces[:, -2:].ravel()]))
    reaching = np.zeros(count, bool)
    reaching[rim] = True
    reaching[0] = False
    grown = reaching[pieces]
    if grown.mean() < LEAST_LID:
        return None
    page = _largest(as_pixels((~grown).astype(np.uint8)))
    if page is None:
        return None
    lines: list[Line] = []
    agreeing = 1.0
    for side in range(4):
        line, share, beyond = _side(page, side)
        if share < AGREEING or beyond > BEYOND:
            return None
        lines.append(line)
        agreeing = min(agreeing, share)
    frame = Quad.rectangle(0, 0, cols, rows)
    quad = corners_of(lines, np.ones(2), frame)
    return (quad, round(agreeing, 3)) if quad != frame and quad.area() >= LEAST_PAGE * rows * cols else None


def _largest(mask: Pixels) -> Pixels | None:
    """The largest piece with its holes filled and its frays cut; None where there is none."""
    smooth = cv2.morphologyEx(mask, cv2.MORPH_OPEN, np.ones((5, 5), np.uint8), borderType=cv2.BORDER_REPLICATE)
    contours, _ = cv2.findContours(smooth, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not contours:
        return None
    out = np.zeros_like(mask)
    cv2.drawContours(out, [max(contours, key=cv2.contourArea)], -1, 1, cv2.FILLED)
    return out


def _side(page: Pixels, side: int) -> tuple[Line, float, float]:
    """One side of a mask (0 left, 1 top, 2 right, 3 bottom) as a line, and the shares of its points on it and outside."""
    laid = page if side in (0, 2) else page.T
    laid = laid[:, ::-1] if side >= 2 else laid
    where = np.flatnonzero(laid.any(axis=1))
    trim = len(where) // 25  # corners may be rounded
    where = where[trim : len(where) - trim] if len(where) > 2 * trim + 8 else where
    first = laid[where].argmax(axis=1).astype(np.float64)
    if np.median(first) <= 1:
        return ((float(laid.shape[1]), 0.0) if side >= 2 else (0.0, 0.0)), float(np.mean(first <= 3)), 0.0
    # Where the lid's tone goes on into the page points lie farther in: the outer ones are the page's edge.
    outer = first <= np.quantile(first, OUTER)
    (offset, slope), _ = fit_line(where[outer].astype(np.float64) + 0.5, first[outer], tolerance=1.0)
    off = first - offset - slope * (where + 0.5)
    line = (laid.shape[1] - offset, -slope) if side >= 2 else (offset, slope)
    return line, float(np.mean(np.abs(off) <= 2)), float(np.mean(off < -2))
