"""The largest page images that are taken in, checked before any pixel is decoded."""

from hollowstack.core.page.errors import DecodeError

MAX_PIXELS = 500_000_000
MAX_SIDE = 65_000


def check_size(width: int, height: int) -> None:
    """Refuse an image that is too large, or has no pixels at all.

    Raises:
        DecodeError: Over 500 megapixels, over 65,000 pixels on a side, or empty.
    """
    if width < 1 or height < 1:
        raise DecodeError("The image has no pixels: scan it again.")
    if max(width, height) > MAX_SIDE:
        raise DecodeError(f"The image is {width} × {height} pixels; the most on a side is {MAX_SIDE:,}: scan it in parts.")
    if width * height > MAX_PIXELS:
        raise DecodeError(
            f"The image has {width * height / 1e6:,.0f} megapixels; the most is {MAX_PIXELS // 10**6}: "
            "scan it at a lower resolution or in parts."
        )
