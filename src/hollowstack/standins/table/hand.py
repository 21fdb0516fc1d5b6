"""A hand that lays a page: a forearm and fingers that come in from the near side, with their shadow."""

import cv2
import numpy as np

from hollowstack.standins.skerry.paper import Image3

_SLEEVE, _SKIN = (58, 66, 84), (196, 152, 124)
_FINGERS = (-0.062, -0.022, 0.02, 0.06)
"""Across the palm, as shares of the picture's longer side."""


def with_hand(picture: Image3, reach: float, side: float) -> Image3:
    """The picture with a hand in it.

    Args:
        picture: Float32 RGB, 0 to 255.
        reach: How far it has come in: 0 not at all, 1 to the picture's middle.
        side: Where it comes in at the lower rim, 0 left to 1 right.
    """
    if reach <= 0:
        return picture
    rows, cols = picture.shape[:2]
    long = max(rows, cols)
    tip = np.array([cols * (0.5 + 0.6 * (side - 0.5)), rows * (1 - 0.5 * reach)])
    elbow = np.array([cols * side, rows * (1.35 - 0.5 * reach)])
    along = (elbow - tip) / np.hypot(*(elbow - tip))
    across = np.array([-along[1], along[0]])
    skin, sleeve = np.zeros((rows, cols), np.uint8), np.zeros((rows, cols), np.uint8)
    for at in _FINGERS:
        start = tip + across * at * long * 1.15 - along * 0.02 * long * (1 - abs(at) * 8)
        _stroke(skin, start, tip + across * at * long * 0.75 + along * 0.12 * long, 0.027 * long)
    _stroke(skin, tip + along * 0.13 * long, tip + along * 0.2 * long, 0.13 * long)
    _stroke(sleeve, tip + along * 0.28 * long, elbow + along * long, 0.16 * long)
    cover = cv2.GaussianBlur(np.maximum(skin, sleeve), (0, 0), 1.2).astype(np.float32) / 255
    shade = cv2.GaussianBlur(np.roll(cover, (round(0.012 * long), round(0.016 * long)), axis=(0, 1)), (0, 0), 0.014 * long)
    colour = np.where(sleeve[..., None] > 0, np.array(_SLEEVE, np.float32), np.array(_SKIN, np.float32))
    # Skin is round: lighter along its middle.
    depth = cv2.distanceTransform((skin > 0).astype(np.uint8), cv2.DIST_L2, 3)[..., None]
    colour = colour * (0.82 + 0.2 * np.clip(depth / (0.016 * long), 0, 1))
    shaded = picture * (1 - 0.4 * shade * (1 - cover))[..., None]
    return np.asarray(shaded + (colour - shaded) * cover[..., None], np.float32)


def _stroke(layer: np.ndarray, start: np.ndarray, end: np.ndarray, width: float) -> None:
    a, b = ((round(float(x)), round(float(y))) for x, y in (start, end))
    cv2.line(layer, a, b, 255, max(1, round(width)), cv2.LINE_AA)
