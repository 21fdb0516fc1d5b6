"""Single and multi-frame image files, by Pillow but for the TIFFs that it does not read."""

import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from PIL import Image, ImageOps, TiffImagePlugin, UnidentifiedImageError

from hollowstack.core.decode.colour import to_pixels
from hollowstack.core.decode.damage import CUT_SHORT, DAMAGED, TOO_LARGE
from hollowstack.core.decode.deep import deep_page, deep_pages, page_numbers
from hollowstack.core.decode.limits import check_size
from hollowstack.core.decode.sniff import Format
from hollowstack.core.decode.turns import SIDEWAYS, TURN
from hollowstack.core.page.errors import DecodeError
from hollowstack.core.page.raster import Raster

# Our own limits are checked before decoding, so Pillow's guess at a bomb would only double them.
Image.MAX_IMAGE_PIXELS = None

PILLOW_NAMES: dict[Format, str] = {
    "TIFF": "TIFF", "PNG": "PNG", "JPEG": "JPEG", "JPEG 2000": "JPEG2000", "WebP": "WEBP", "BMP": "BMP",
}  # fmt: skip
"""What Pillow calls the formats."""
_SIGNS_OF_A_CUT = ("truncated", "broken data", "decoder error", "read error", "eof")
_PHOTOMETRIC = 262
_PLAUSIBLE_PPI = (10.0, 20_000.0)


def count_frames(path: Path, kind: Format) -> int:
    """How many images a file holds. Raises DecodeError where it cannot be opened."""
    if kind == "TIFF" and (count := deep_pages(path)):
        return count
    with _opened(path, kind) as image:
        if kind == "TIFF" and (places := page_numbers(path)) is not None:
            return len(places)
        # Animated WebP and PNG hold moving pictures, and a JPEG's further frames are previews: their first is the page.
        return int(getattr(image, "n_frames", 1)) if kind == "TIFF" else 1


def decode_frame(path: Path, kind: Format, frame: int) -> Raster:
    """One frame as a raster, after its EXIF turn.

    Raises:
        DecodeError: Damaged, cut short, too large, or stored in a way that is not understood.
    """
    if kind == "TIFF" and (deep := deep_page(path, frame)) is not None:
        return _decoded(deep, deep.getexif().get(TURN, 1))
    with _opened(path, kind) as image:
        places = page_numbers(path) if kind == "TIFF" else None
        at = places[frame] if places is not None and frame < len(places) else frame
        if at:
            try:
                image.seek(at)
            except EOFError:
                raise DecodeError(f"The file has no image {frame + 1}.") from None
        check_size(image.width, image.height)
        size = (image.width, image.height)
        try:
            turn = image.getexif().get(TURN, 1)
            size = size[::-1] if turn in SIDEWAYS else size
            return _decoded(image, turn)
        except (OSError, SyntaxError, EOFError) as error:
            raise DecodeError(_sentence(kind, error), size) from None


def _decoded(image: Image.Image, turn: int) -> Raster:
    """The pixels after the EXIF turn, with their resolution."""
    ppi = _ppi(image)
    white_is_zero = isinstance(image, TiffImagePlugin.TiffImageFile) and image.tag_v2.get(_PHOTOMETRIC) == 0
    if turn in range(2, 9):
        image.load()
        image = ImageOps.exif_transpose(image)
        if ppi and turn in SIDEWAYS:
            ppi = (ppi[1], ppi[0])
    return Raster(to_pixels(image, white_is_zero=white_is_zero), ppi)


@contextmanager
def _opened(path: Path, kind: Format) -> Iterator[Image.Image]:
    """The file opened as what its signature says; every way a library has to say "damaged" becomes one sentence."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(path, formats=[PILLOW_NAMES[kind]]) as image:
                yield image
    except DecodeError:
        raise
    except UnidentifiedImageError:
        what = f"The file starts like a {kind} but cannot be read as one"
        raise DecodeError(f"{what}: it may be cut short; copy or scan it again.") from None
    except MemoryError:
        raise DecodeError(TOO_LARGE) from None
    except DAMAGED as error:
        raise DecodeError(_sentence(kind, error)) from None


def _sentence(kind: Format, error: Exception) -> str:
    """What a library's complaint means for the operator."""
    text = str(error).lower()
    if isinstance(error, EOFError) or any(word in text for word in _SIGNS_OF_A_CUT):
        return CUT_SHORT
    return f"The {kind} image is damaged or stored in an unknown way ({error}): save it again."


def _ppi(image: Image.Image) -> tuple[float, float] | None:
    """Resolution as the file gives it; None where it gives none, or one that no device has."""
    if isinstance(image, TiffImagePlugin.TiffImageFile) and image.tag_v2.get(282) is None:
        return None
    value = image.info.get("dpi")
    if value and _invented(image):
        return None
    if not value:
        exif = image.getexif()
        if 282 not in exif or exif.get(296, 2) == 1:
            return None
        scale = 2.54 if exif.get(296) == 3 else 1.0
        value = (float(exif[282]) * scale, float(exif.get(283, exif[282])) * scale)
    if isinstance(image, TiffImagePlugin.TiffImageFile) and image.tag_v2.get(296) == 1:
        return None  # the unit "none" gives only the shape of a pixel (TIFF 6.0, section 8)
    try:
        x, y = float(value[0]), float(value[1])
    except (TypeError, ValueError, ZeroDivisionError, IndexError):
        return None
    low, high = _PLAUSIBLE_PPI
    # PNG and BMP count pixels a metre, so 300 ppi comes back as 299.9994.
    x, y = (round(v) if abs(v - round(v)) < 0.02 else v for v in (x, y))
    return (x, y) if low <= x <= high and low <= y <= high else None


def _invented(image: Image.Image) -> bool:
    """Whether a resolution is the library's own: it gives 72 for a JPEG with EXIF that says none there nor in JFIF."""
    if image.format != "JPEG" or image.info.get("jfif_unit") in {1, 2}:
        return False
    return 282 not in image.getexif()
