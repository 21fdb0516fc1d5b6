"""The colours of a calibrated device, as sRGB has them."""

import base64
import io
from functools import lru_cache

import numpy as np
from PIL import Image, ImageCms

from hollowstack.core.page.raster import Raster, as_pixels


def calibrated(page: Raster, icc: str) -> Raster:
    """A colour page through its device's profile to sRGB; a grey one as it is.

    Args:
        page: In the device's own colours.
        icc: The profile, in base64.

    Source:
        LittleCMS 2, relative colorimetric (ICC.1:2022, 6.2.2).
    """
    if page.is_gray:
        return page
    done = ImageCms.applyTransform(Image.fromarray(page.pixels), _transform(icc))
    return Raster(as_pixels(np.asarray(done)), page.ppi)


@lru_cache(maxsize=8)
def _transform(icc: str) -> ImageCms.ImageCmsTransform:
    device = ImageCms.ImageCmsProfile(io.BytesIO(base64.b64decode(icc)))
    intent = ImageCms.Intent.RELATIVE_COLORIMETRIC
    return ImageCms.buildTransform(device, ImageCms.createProfile("sRGB"), "RGB", "RGB", renderingIntent=intent)
