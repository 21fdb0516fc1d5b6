"""Traces on a page that was found bare: writing too pale to be told from grain stroke by stroke, and not all of it together.

Pencil that has nearly gone, or a page so faintly captured that nothing passes for ink, leaves fine structure where it stands
and none beside it. What shines through from the other side is soft: it has gone from so fine a scale.
"""

import cv2
import numpy as np

from hollowstack.core.page.raster import Raster

_FINE_PX = 0.9
"""Deviation of the blur that is taken off: what is left is grain, and the edges of strokes."""
_TILE_MM = 9.0
_RIM_MM = 8.0
"""At the rim of a page lie shadows and the edges of paper."""
_BARE = 0.25
"""Share of the tiles, the calmest, that stand for bare paper."""
_STANDS_OUT = 1.16
"""How much more structure than bare paper a tile has in which something stands (measured on drawn pages: bare paper up to
1.10, what shines through too; text at a twelfth of its contrast from 1.6 on)."""
_LEAST_TILES = 2


def pale_traces(page: Raster) -> tuple[int, int, int, int] | None:
    """Where something may stand on a bare page: left, top, width, height in its pixels; None where nothing tells.

    Args:
        page: Gray, 100 to 200 ppi, cut to its edges.

    Source:
        Local standard deviation of a high-pass (common practice, no source).
    """
    px_mm = page.px(1000.0) / 1000.0
    gray = page.pixels.astype(np.float32)
    fine = gray - cv2.GaussianBlur(gray, (0, 0), _FINE_PX)
    rim, tile = round(_RIM_MM * px_mm), max(6, round(_TILE_MM * px_mm))
    inner = fine[rim : fine.shape[0] - rim, rim : fine.shape[1] - rim]
    rows, cols = inner.shape[0] // tile, inner.shape[1] // tile
    if rows < 2 or cols < 2:
        return None
    tiles = inner[: rows * tile, : cols * tile].reshape(rows, tile, cols, tile)
    strength = np.sqrt((tiles**2).mean(axis=(1, 3)))
    marked = (strength > _STANDS_OUT * max(float(np.quantile(strength, _BARE)), 1e-3)).astype(np.uint8)
    count, _, stats, _ = cv2.connectedComponentsWithStats(marked, connectivity=8)
    if count < 2:
        return None
    left, top, wide, high, area = (int(value) for value in stats[1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))])
    if area < _LEAST_TILES:
        return None
    return rim + left * tile, rim + top * tile, wide * tile, high * tile
