"""Words over a page, in its pixels: they go with every picture that is taken out of a copy."""

import math

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw

from hollowstack.core.access.order import Watermark
from hollowstack.core.bind.lettering import by_font, length
from hollowstack.core.page.raster import Raster, as_pixels

_ACROSS = 0.8
"""Share of the page's diagonal that words across it take."""
_ALONG = 0.9
_EDGE_MM = 6.0
_EDGE_SIZE_MM = 4.0
_LARGEST_MM = 30.0


def with_watermark(page: Raster, mark: Watermark) -> Raster:
    """The same page with words over it: ink and paper darken or lighten alike, so that both show through."""
    text = " ".join(mark.text.split())
    if not text:
        return page
    shade = _shade(text, mark, page)[..., None] if not page.is_gray else _shade(text, mark, page)
    values = page.pixels.astype(np.float32)
    # Towards black on what is light, towards white on what is dark: it is seen on pictures and solids, too.
    towards = np.where(values > 110, 0, 255).astype(np.float32)
    return Raster(as_pixels((values + (towards - values) * shade * mark.strength).round().astype(np.uint8)), page.ppi)


def _shade(text: str, mark: Watermark, page: Raster) -> npt.NDArray[np.float32]:
    """(rows, cols), 0 to 1: where the letters are."""
    width, height = page.width, page.height
    across = mark.place == "across"
    room = _ACROSS * math.hypot(width, height) if across else _ALONG * width
    size = float(page.px(_LARGEST_MM if across else _EDGE_SIZE_MM))
    size = max(6.0, min(size, size * room / max(1.0, length(text, size, bold=True))))
    drawn = _drawn(text, size)
    sheet = Image.new("L", (width, height), 0)
    if across:
        turned = drawn.rotate(math.degrees(math.atan2(height, width)), expand=True, resample=Image.Resampling.BICUBIC)
        sheet.paste(turned, ((width - turned.width) // 2, (height - turned.height) // 2))
    else:
        edge = page.px(_EDGE_MM)
        down = edge if mark.place == "head" else height - edge - drawn.height
        sheet.paste(drawn, ((width - drawn.width) // 2, max(0, down)))
    return np.asarray(sheet, np.float32) / np.float32(255)


def _drawn(text: str, size: float) -> Image.Image:
    image = Image.new("L", (max(1, math.ceil(length(text, size, bold=True))), math.ceil(1.4 * size)), 0)
    draw, left = ImageDraw.Draw(image), 0.0
    for piece, font in by_font(text, size, bold=True):
        draw.text((left, round(1.05 * size)), piece, fill=255, font=font, anchor="ls")
        left += font.getlength(piece)
    return image
