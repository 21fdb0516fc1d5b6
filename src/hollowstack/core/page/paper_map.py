"""A page's paper and content as plain data: small pictures over the whole image as captured, to be kept and handed on."""

import base64

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict

from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import Pixels, as_pixels

LEVEL_CELL_MM = 2.0
"""Distance between two values of the paper: a third of the shortest shade that is worth following."""
CONTENT_CELL_MM = 0.8
"""Distance between two values of what is content and what is not."""


class PaperMap(BaseModel):
    """``level``: the value of bare paper, gray or colour; ``content``: where something other than paper with writing lies
    (empty where nowhere). Both as PNG in base64, spread over an image of ``size_px``."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    size_px: tuple[int, int]
    level: str
    content: str = ""

    @classmethod
    def of(cls, level: Pixels, content: Pixels, size_px: tuple[int, int], mm: tuple[float, float]) -> "PaperMap":
        """From maps of any size over an image of so many pixels and mm."""
        return cls(
            size_px=size_px,
            level=_packed(_shrunk(level, mm, LEVEL_CELL_MM, cv2.INTER_AREA)),
            content=_packed(_shrunk(content, mm, CONTENT_CELL_MM, cv2.INTER_NEAREST)) if content.any() else "",
        )

    def level_on(self, quad: Quad, size: tuple[int, int], channels: int) -> Pixels:
        """The paper of an output page, laid as its quad lies in the image, on a grid of another size.

        Args:
            quad: The output page's corners in pixels of the image.
            size: Columns and rows wanted.
            channels: 1 or 3.
        """
        level = _unpacked(self.level)
        if channels == 1 and level.ndim == 3:
            level = as_pixels(cv2.cvtColor(level, cv2.COLOR_RGB2GRAY))
        elif channels == 3 and level.ndim == 2:
            level = as_pixels(cv2.cvtColor(level, cv2.COLOR_GRAY2RGB))
        return self._laid(level, quad, size, cv2.INTER_LINEAR, cv2.BORDER_REPLICATE)

    def content_on(self, quad: Quad, size: tuple[int, int]) -> Pixels:
        """Where there is content, likewise; 1 or 0."""
        if not self.content:
            return np.zeros(size[::-1], np.uint8)
        return self._laid(_unpacked(self.content), quad, size, cv2.INTER_NEAREST, cv2.BORDER_CONSTANT)

    def scaled(self, factor: float) -> "PaperMap":
        """The same over the image at another size."""
        width, height = self.size_px
        return self.model_copy(update={"size_px": (max(1, round(width * factor)), max(1, round(height * factor)))})

    def _laid(self, values: Pixels, quad: Quad, size: tuple[int, int], how: int, border: int) -> Pixels:
        there = np.diag([values.shape[1] / self.size_px[0], values.shape[0] / self.size_px[1], 1.0])
        to_map = there @ Transform.onto(quad, *size).inverse().matrix
        half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
        matrix = np.linalg.inv(half) @ to_map @ half
        return as_pixels(cv2.warpPerspective(values, matrix, size, flags=how | cv2.WARP_INVERSE_MAP, borderMode=border))


def _shrunk(values: Pixels, mm: tuple[float, float], cell_mm: float, how: int) -> Pixels:
    size = tuple(max(1, min(side, round(length / cell_mm))) for side, length in zip(values.shape[1::-1], mm, strict=True))
    return as_pixels(cv2.resize(values, size, interpolation=how))


def _packed(values: Pixels) -> str:
    if values.ndim == 3:
        values = as_pixels(values[..., ::-1])
    done, data = cv2.imencode(".png", values, [cv2.IMWRITE_PNG_COMPRESSION, 4])
    assert done
    return base64.b64encode(data.tobytes()).decode()


def _unpacked(text: str) -> Pixels:
    values = np.asarray(cv2.imdecode(np.frombuffer(base64.b64decode(text), np.uint8), cv2.IMREAD_UNCHANGED))
    return as_pixels(values[..., ::-1]) if values.ndim == 3 else as_pixels(values)
