"""Single and multi-frame image files, by Pillow; tifffile for the TIFF layouts Pillow does not know."""

import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
import tifffile
from PIL import Image, ImageOps, TiffImagePlugin, UnidentifiedImageError

from hollowstack.core.decode.colour import eight_bits, to_pixels
from hollowstack.core.decode.limits import check_size
from hollowstack.core.decode.sniff import Format
from hollowstack.core.errors import DecodeError
from hollowstack.core.raster import Pixels, Raster

# Our own limits are checked before decoding, so Pillow's guess at a bomb would only double them.
Image.MAX_IMAGE_PIXELS = None

PILLOW_NAMES: dict[Format, str] = {
    "TIFF": "TIFF", "PNG": "PNG", "JPEG": "JPEG", "JPEG 2000": "JPEG2000", "WebP": "WEBP", "BMP": "BMP",
}  # fmt: skip
"""What Pillow calls the formats."""
_SIGNS_OF_A_CUT = ("truncated", "broken data", "decoder error", "read error", "eof")
_SIDEWAYS = range(5, 9)
"""Values of the EXIF orientation tag that exchange width and height."""
_PLAUSIBLE_PPI = (10.0, 20_000.0)


def count_frames(path: Path, kind: Format) -> int:
    """How many images a file holds. Raises DecodeError where it cannot be opened."""
    with _opened(path, kind) as image:
        # Animated WebP and PNG hold moving pictures, and a JPEG's further frames are previews: their first is the page.
        return int(getattr(image, "n_frames", 1)) if kind == "TIFF" else 1


def decode_frame(path: Path, kind: Format, frame: int) -> Raster:
    """One frame as a raster, after its EXIF turn.

    Raises:
        DecodeError: Damaged, cut short, too large, or stored in a way that is not understood.
    """
    with _opened(path, kind) as image:
        if frame:
            try:
                image.seek(frame)
            except EOFError:
                raise DecodeError(f"The file has no image {frame + 1}.") from None
        check_size(image.width, image.height)
        size = (image.width, image.height)
        try:
            turn = image.getexif().get(0x0112, 1)
            size = size[::-1] if turn in _SIDEWAYS else size
            return _decoded(image, turn)
        except (OSError, SyntaxError, EOFError) as error:
            if kind == "TIFF" and "not available" in str(error):
                return Raster(_tifffile_pixels(path, frame), _ppi(image))
            refusal = DecodeError(_sentence(kind, error))
            refusal.size_px = size
            raise refusal from None


def _decoded(image: Image.Image, turn: int) -> Raster:
    """The pixels after the EXIF turn, with their resolution."""
    ppi = _ppi(image)
    if turn in range(2, 9):
        image.load()
        image = ImageOps.exif_transpose(image)
        if ppi and turn in _SIDEWAYS:
            ppi = (ppi[1], ppi[0])
    return Raster(to_pixels(image), ppi)


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
        raise DecodeError("The image does not fit into memory: scan it at a lower resolution or in parts.") from None
    except (OSError, SyntaxError, ValueError, TypeError, IndexError, KeyError, EOFError, RuntimeError) as error:
        raise DecodeError(_sentence(kind, error)) from None


def _sentence(kind: Format, error: Exception) -> str:
    """What a library's complaint means for the operator."""
    text = str(error).lower()
    if isinstance(error, EOFError) or any(word in text for word in _SIGNS_OF_A_CUT):
        return "The image is incomplete, as if the file had been cut short: copy or scan it again."
    return f"The {kind} image is damaged or stored in an unknown way ({error}): save it again."


def _ppi(image: Image.Image) -> tuple[float, float] | None:
    """Resolution as the file gives it; None where it gives none, or one that no device has."""
    if isinstance(image, TiffImagePlugin.TiffImageFile) and image.tag_v2.get(282) is None:
        return None
    value = image.info.get("dpi")
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


def _tifffile_pixels(path: Path, frame: int) -> Pixels:
    """A TIFF that Pillow cannot decode: planar, tiled or deep layouts."""
    with tifffile.TiffFile(path) as tiff:
        page = tiff.pages[frame]
        samples = np.asarray(page.asarray())
    if samples.ndim == 3 and samples.shape[0] in {3, 4} and samples.shape[2] not in {3, 4}:
        samples = np.moveaxis(samples, 0, 2)
    pixels = eight_bits(samples[..., :3] if samples.ndim == 3 else samples)
    return np.ascontiguousarray(pixels if pixels.ndim == 2 or pixels.shape[2] == 3 else pixels[..., 0])
