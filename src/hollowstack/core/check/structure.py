"""What is to be seen of a page whatever its light: its structure against what lies around, and its image laid over it."""

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import Pixels, Raster, as_pixels
from hollowstack.core.plan.plan import Plan

DARKEST_LIGHT = 64
"""Gray that is never divided by less: the grain of a black lid would be structure."""
AROUND_MM, NEARBY_MM = 1.6, 40.0
"""How wide what lies around a place is, for its structure and for its light."""

Floats = npt.NDArray[np.float32]
Mask = npt.NDArray[np.bool_]
Box = tuple[int, int, int, int]


def laid_over(image: Raster, plan: Plan, size: tuple[int, int], ppi: float) -> tuple[Pixels, Mask]:
    """The image as captured where the clean page lies, and where there is any of it.

    Args:
        image: As captured, gray or colour.
        plan: What was done to it.
        size: Width and height of the reduced clean page.
        ppi: Its resolution.
    """
    small = image.downsampled(2 * ppi)
    scale = np.diag([small.width / image.width, small.height / image.height, 1.0])
    half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    matrix = np.linalg.inv(half) @ scale @ Transform.onto(plan.quad, *size).inverse().matrix @ half
    calm = cv2.blur(small.pixels, (2, 2))
    how = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    laid = cv2.warpPerspective(calm, matrix, size, flags=how, borderMode=cv2.BORDER_REPLICATE)
    whole = np.full(calm.shape[:2], 255, np.uint8)
    there = cv2.warpPerspective(whole, matrix, size, flags=how, borderMode=cv2.BORDER_CONSTANT)
    inner = cv2.erode(there, np.ones((5, 5), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0)
    return as_pixels(laid), np.asarray(inner > 250)


def reduced_size(plan: Plan, ppi: float) -> tuple[int, int]:
    """Width and height of a clean page at another resolution."""
    mean = sum(plan.ppi) / 2
    width, height = (max(8, round(v * ppi / mean)) for v in plan.size_px)
    return width, height


def relative_light(gray: Pixels, px_mm: float) -> Floats:
    """Light as a share of the lightest nearby."""
    values = cv2.GaussianBlur(gray, (0, 0), 0.8)
    step = 4
    coarse = values[::step, ::step]
    reach = max(3, round(NEARBY_MM * px_mm / step) | 1)
    light = cv2.dilate(cv2.medianBlur(np.ascontiguousarray(coarse), 3), np.ones((reach, reach), np.uint8))
    light = cv2.GaussianBlur(light, (0, 0), reach / 3)
    whole = cv2.resize(light, values.shape[::-1], interpolation=cv2.INTER_LINEAR)
    return np.asarray(np.minimum(values.astype(np.float32) / np.maximum(whole, DARKEST_LIGHT), 1.0), np.float32)


def detail_of(relative: Floats, px_mm: float) -> Floats:
    """How much darker (below 0) or lighter each place is than what lies around it."""
    return np.asarray(relative - cv2.GaussianBlur(relative, (0, 0), AROUND_MM * px_mm), np.float32)


def nearby(detail: Floats) -> Floats:
    """The most structure within a pixel or two: things may have moved by as much."""
    return np.asarray(cv2.dilate(np.abs(detail), np.ones((5, 5), np.uint8)), np.float32)


def cleared_by(plan: Plan, size: tuple[int, int], px_mm: float) -> Mask:
    """What a plan paints over, with a rim, on a clean page reduced to some size."""
    if plan.clear_outside is None:
        return np.zeros(size[::-1], np.bool_)
    outside = np.ones(size[::-1], np.uint8)
    onto = Transform.onto(plan.quad, *size)
    cv2.fillConvexPoly(outside, np.rint(onto.quad(plan.clear_outside).array()).astype(np.int32), 0)
    reach = 2 * round(1.2 * px_mm) + 1
    return np.asarray(cv2.dilate(outside, np.ones((reach, reach), np.uint8)) > 0)


def box_in_image(box: tuple[float, float, float, float], size: tuple[int, int], plan: Plan, image: Raster) -> Box:
    """The upright box in the image as captured (left, top, width, height) around a box (left, top, right, bottom) of the
    reduced clean page."""
    corners = Transform.onto(plan.quad, *size).inverse().quad(Quad.rectangle(*box)).array()
    corners = np.clip(corners, 0, (image.width, image.height))
    (left, top), (right, bottom) = corners.min(axis=0), corners.max(axis=0)
    return int(left), int(top), max(1, int(right - left)), max(1, int(bottom - top))
