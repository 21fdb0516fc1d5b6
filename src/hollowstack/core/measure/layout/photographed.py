"""Where a page lies in a photograph: by its colour, by its edges, and by what several ways agree in."""

import cv2
import numpy as np

from hollowstack.core.measure.layout.corners import find_corners, settled_corners
from hollowstack.core.measure.layout.edges import Edges, find_edges
from hollowstack.core.measure.layout.live_outline import LONGEST_PX, apart, live_outline
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, Raster, as_pixels

_SURE_BY_COLOUR = 0.9
"""Confidence of edges by colour from which they are gone by."""
_AGREE_PX = 3.0
"""On the small picture: how near edges by colour lie to the outline where they are of the same page."""


def find_photographed(image: Raster) -> Edges:
    """A photographed page.

    Colour tells its edges to a fraction of a pixel, and takes a picture, a dark band or half of an open book for the page,
    or for the table. So the outline that several ways agree in says which page is meant; colour or the steepest edges,
    exactly where it ends.

    Args:
        image: A reduction, gray or colour.
    """
    by_colour = find_edges(image, scanned=False)
    scale = min(1.0, LONGEST_PX / max(image.width, image.height))
    found = live_outline(_small(image.pixels, scale)).outline
    if found is None:
        return by_colour if by_colour.lid and by_colour.confidence >= _SURE_BY_COLOUR else _by_edges(image, by_colour)
    roughly = Quad.of(found.quad.array() / scale)
    alike = by_colour.lid and apart(by_colour.quad, roughly) * scale <= _AGREE_PX
    if alike and by_colour.confidence >= _SURE_BY_COLOUR:
        return by_colour
    exact = settled_corners(image, roughly)
    if exact is None:
        return by_colour if by_colour.lid else _by_edges(image, by_colour)
    return Edges(exact.quad, exact.quad, lid=True, confidence=exact.confidence)


def _by_edges(image: Raster, otherwise: Edges) -> Edges:
    corners = find_corners(image)
    if corners is None:
        return otherwise
    return Edges(corners.quad, corners.quad, lid=True, confidence=corners.confidence)


def _small(pixels: Pixels, scale: float) -> Pixels:
    size = (max(1, round(pixels.shape[1] * scale)), max(1, round(pixels.shape[0] * scale)))
    small = cv2.resize(pixels, size, interpolation=cv2.INTER_AREA) if scale < 1 else pixels
    return np.ascontiguousarray(as_pixels(small if small.ndim == 3 else cv2.cvtColor(small, cv2.COLOR_GRAY2RGB)))
