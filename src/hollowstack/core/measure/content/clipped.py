"""How much of a picture has lost its tones at an end of the scale: what is pure white or black there holds nothing more."""

from collections.abc import Sequence

import cv2
import numpy as np

from hollowstack.core.imaging.histogram import quantile
from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.raster import Raster

_WHITE, _BLACK = 254, 1
"""From and up to which a gray value is the scale's own end."""
_UNCLIPPED_PAPER = 250
"""Gray up to which the page's paper keeps its tone: where it is whiter, the white of a picture may be paper."""


def with_clipped(regions: Sequence[Region], page: Raster, factor: float) -> tuple[Region, ...]:
    """Regions with the share of every picture, 0 to 1, that is pure white or pure black.

    Args:
        regions: Outlines in pixels of the image as captured.
        page: The image, or a reduction of it.
        factor: By which that is reduced.

    Source:
        Common practice, no source.
    """
    pictures = [at for at, region in enumerate(regions) if region.kind == "picture"]
    if not pictures:
        return tuple(regions)
    gray = page.gray().pixels
    white = _WHITE if quantile(gray, 0.8)[0] <= _UNCLIPPED_PAPER else 256
    ends = (gray >= white) | (gray <= _BLACK)
    found = list(regions)
    for at in pictures:
        inside = np.zeros(gray.shape, np.uint8)
        cv2.fillPoly(inside, [np.rint(np.array(regions[at].outline) / factor).astype(np.int32)], 1)
        count = int(np.count_nonzero(inside))
        share = float(np.count_nonzero(ends & (inside > 0))) / count if count else 0.0
        found[at] = regions[at].model_copy(update={"clipped": round(share, 3)})
    return tuple(found)
