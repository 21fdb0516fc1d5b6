"""What lies on the glass: one frame for each item of a prescan, as a proposal."""

import math
from typing import NamedTuple

import cv2
import numpy as np

from hollowstack.core.page.raster import Pixels, Raster

_LEAST_MM = 15.0
"""Nothing smaller is an item: dust, or the ruler's edge."""
_APART = 26
"""Gray levels by which an item stands out from the lid."""
_SURROUND_MM = 0.6
"""Kept around an item, so that its edge is seen."""


class Frame(NamedTuple):
    """A rectangle on the glass in mm: its centre, its size, and its clockwise turn in degrees, -45 to 45."""

    x: float
    y: float
    width: float
    height: float
    angle: float


def propose_frames(prescan: Raster) -> list[Frame]:
    """One frame for each item that stands out from the lid, row by row; items that touch come as one.

    Args:
        prescan: A quick look at the glass, gray or colour, with its resolution; 75 ppi is enough.

    The lid's tone is that of most of the border; what differs from it, closed up and filled, is an item. Its frame is the
    least rectangle around it (Freeman and Shapira 1975, as in OpenCV's minAreaRect).
    """
    ppi = prescan.ppi[0] if prescan.ppi else 75.0
    px = ppi / 25.4
    item = _apart(prescan.pixels)
    size = max(3, round(2.5 * px) | 1)
    item = cv2.morphologyEx(item, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    item = cv2.morphologyEx(item, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
    outlines, _ = cv2.findContours(item, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    frames = []
    for outline in outlines:
        (x, y), (width, height), angle = cv2.minAreaRect(cv2.convexHull(outline))
        if min(width, height) < _LEAST_MM * px:
            continue
        # Versions of OpenCV differ in the range of the angle: take the way in which the item lies most nearly straight.
        quarters = round(angle / 90)
        angle -= 90 * quarters
        if quarters % 2:
            width, height = height, width
        spare = 2 * _SURROUND_MM
        frames.append(
            Frame(*(round(v, 2) for v in ((x + 0.5) / px, (y + 0.5) / px, width / px + spare, height / px + spare, angle)))
        )
    return _row_by_row(frames)


def _apart(pixels: Pixels) -> Pixels:
    """Where the picture is unlike the lid, as 0 and 255."""
    image = pixels if pixels.ndim == 3 else pixels[..., None]
    smooth = cv2.GaussianBlur(image, (0, 0), 1.0).reshape(image.shape)
    rim = max(2, min(image.shape[:2]) // 60)
    border = np.concatenate(
        [part.reshape(-1, image.shape[2]) for part in (smooth[:rim], smooth[-rim:], smooth[:, :rim], smooth[:, -rim:])]
    )
    lid = np.median(border, axis=0)
    distance = np.abs(smooth.astype(np.float32) - lid).max(axis=2)
    found: Pixels = np.where(distance > _APART, 255, 0).astype(np.uint8)
    return found


def _row_by_row(frames: list[Frame]) -> list[Frame]:
    """Top to bottom, and from left to right those whose middles are level with each other."""
    rows: list[list[Frame]] = []
    for frame in sorted(frames, key=lambda one: one.y):
        level = [row for row in rows if abs(row[0].y - frame.y) < min(row[0].height, frame.height) / 2]
        if level:
            level[0].append(frame)
        else:
            rows.append([frame])
    return [frame for row in rows for frame in sorted(row, key=lambda one: one.x)]


def bounds(frame: Frame) -> tuple[float, float, float, float]:
    """The upright rectangle around a frame: left, top, width, height in mm."""
    c, s = abs(math.cos(math.radians(frame.angle))), abs(math.sin(math.radians(frame.angle)))
    width, height = frame.width * c + frame.height * s, frame.width * s + frame.height * c
    return frame.x - width / 2, frame.y - height / 2, width, height


def corners(frame: Frame) -> list[tuple[float, float]]:
    """A frame's corners in mm, from its own top-left corner clockwise."""
    c, s = math.cos(math.radians(frame.angle)), math.sin(math.radians(frame.angle))
    w, h = frame.width / 2, frame.height / 2
    return [(frame.x + c * x - s * y, frame.y + s * x + c * y) for x, y in ((-w, -h), (w, -h), (w, h), (-w, h))]
