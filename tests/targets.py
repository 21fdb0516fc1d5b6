"""The quality target as stations of known faults would capture it."""

from functools import cache

import cv2
import numpy as np
import pypdfium2

from hollowstack.core.bind.quality_target import quality_target
from hollowstack.core.calibrate.colorimetry import linear_from_srgb
from hollowstack.core.page.raster import Raster


@cache
def _printed() -> np.ndarray:
    """In light, at 600 ppi."""
    page = pypdfium2.PdfDocument(quality_target())[0]
    return linear_from_srgb(page.render(scale=600 / 72).to_numpy()[..., 2::-1] / 255).astype(np.float32)


def captured(
    *, blur: float = 0.6, noise: float = 0.5, aside: float = 0.0, stretch: float = 1.0, falls: float = 0.0,
    turn: int | None = None,
) -> Raster:  # fmt: skip
    """The target at 300 ppi.

    ``blur`` in pixels; ``noise`` in 8-bit steps; red lies so many pixels ``aside``; columns are ``stretch``ed; light ``falls``
    by a share from left to right.
    """
    random = np.random.default_rng(1)
    light = _printed()
    high, wide = light.shape[:2]
    light = cv2.warpAffine(
        light, cv2.getRotationMatrix2D((wide / 2, high / 2), 0.7, 1.0), (wide, high), flags=cv2.INTER_CUBIC,
        borderValue=(1, 1, 1),
    )  # fmt: skip
    light = cv2.GaussianBlur(light, (0, 0), 2 * blur)
    light = cv2.resize(light, (round(wide / 2 * stretch), high // 2), interpolation=cv2.INTER_AREA)
    if aside:
        light[..., 0] = cv2.warpAffine(
            light[..., 0], np.float32([[1, 0, aside], [0, 1, 0]]), light.shape[1::-1], flags=cv2.INTER_CUBIC,
            borderMode=cv2.BORDER_REPLICATE,
        )  # fmt: skip
    light = np.clip(light * (1 - falls * np.linspace(0, 1, light.shape[1]))[None, :, None], 0, 1)
    values = 255 * np.where(light <= 0.0031308, light * 12.92, 1.055 * light ** (1 / 2.4) - 0.055)
    pixels = np.clip(np.round(values + random.normal(0, noise, values.shape)), 0, 255).astype(np.uint8)
    return Raster(np.ascontiguousarray(pixels if turn is None else cv2.rotate(pixels, turn)), (300.0, 300.0))
