"""From whatever a file stores to 8-bit sRGB or gray."""

import io
from functools import lru_cache
from typing import cast

import cv2
import numpy as np
from PIL import Image, ImageCms

from hollowstack.core.page.raster import Pixels, as_pixels

_SRGB = ImageCms.createProfile("sRGB")
_FLOATING_WHITE = 1.05
"""Floating samples whose lights lie below this run from 0 to 1."""
_LINEAR_FROM = 12
"""Difference from sRGB, in 8-bit steps, by which a profile means something else than sRGB, whatever its name."""


def to_pixels(image: Image.Image, *, white_is_zero: bool = False) -> Pixels:
    """Decoded pixels of a Pillow image as gray or RGB in sRGB; an embedded ICC profile is honoured.

    Transparency is laid on white paper. 16-bit and floating samples are brought to 8 bits.

    Args:
        image: Decoded or not.
        white_is_zero: Whether its deep samples still run from white to black; those of 8 bits Pillow has put right.

    Raises:
        OSError: The data are cut short or damaged.
    """
    image.load()
    deep = image.mode.startswith(("I", "F"))
    if image.mode in {"RGBA", "LA", "PA", "La", "RGBa"} or ("transparency" in image.info and not deep):
        image = _on_paper(image)
    if deep:
        values = np.asarray(image)
        samples = eight_bits(values)
        if isinstance(clear := image.info.get("transparency"), int):
            samples = np.where(values == clear, np.uint8(255), samples)  # PNG 3rd edition, 11.3.1.1: one gray is see-through
        shallow = Image.fromarray(255 - samples if white_is_zero else samples)
        shallow.info = image.info
        return _managed(shallow)
    if image.mode in {"1", "L"}:
        return _managed(image if image.mode == "L" else image.convert("L"))
    if image.mode == "P":
        image = image.convert("RGB")
    pixels = _managed(image)
    # A page stored as three equal channels is a gray page: a third of the work from here on.
    if pixels.ndim == 3 and is_gray(pixels):
        return np.ascontiguousarray(pixels[..., 1])
    return pixels


def _on_paper(image: Image.Image) -> Image.Image:
    rgba = image.convert("RGBA")
    paper = Image.new("RGBA", rgba.size, "white")
    flat = Image.alpha_composite(paper, rgba).convert("RGB")
    flat.info = {k: v for k, v in image.info.items() if k == "icc_profile"}
    return flat


def over_white(pixels: Pixels, opacity: Pixels) -> Pixels:
    """Gray or RGB pixels on white paper, as opaque as 8-bit samples of the same size say."""
    seen = opacity.astype(np.float32)[..., None] if pixels.ndim == 3 else opacity.astype(np.float32)
    return as_pixels((255.5 - (255.0 - pixels) * seen / 255).astype(np.uint8))


def eight_bits(samples: np.ndarray[tuple[int, ...], np.dtype[np.generic]]) -> Pixels:
    """Samples of any depth as 8-bit ones: 16-bit scaled by 257, floating by 1 or their maximum."""
    if samples.dtype == np.uint8:
        return as_pixels(samples)
    if np.issubdtype(samples.dtype, np.floating):
        known = np.nan_to_num(samples, nan=0.0, posinf=0.0, neginf=0.0)
        # White is 1, or what the file's lights have: a few hot pixels say nothing of it.
        lights = float(np.quantile(known.ravel()[:: max(1, known.size // 1_000_000)], 0.999)) if known.size else 1.0
        top = 1.0 if lights <= _FLOATING_WHITE else lights
        return as_pixels(np.clip(known / top * 255 + 0.5, 0, 255).astype(np.uint8))
    # 16-bit samples come in 16 or 32-bit containers; 257 = 65535 / 255.
    return as_pixels(((np.clip(samples, 0, 65535).astype(np.uint32) + 128) // 257).astype(np.uint8))


def _managed(image: Image.Image) -> Pixels:
    """Through the embedded profile to sRGB where there is one that says something else."""
    profile = image.info.get("icc_profile")
    if profile:
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            if not _is_srgb(profile):
                done = ImageCms.profileToProfile(
                    image, source, _SRGB, ImageCms.Intent.RELATIVE_COLORIMETRIC, outputMode="RGB",
                    flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
                )  # fmt: skip
                pixels = as_pixels(np.asarray(cast("Image.Image", done)))
                return np.ascontiguousarray(pixels[..., 1]) if image.mode == "L" else pixels
        except (ImageCms.PyCMSError, OSError):
            pass  # a profile that does not fit its image says nothing about it
    if image.mode not in {"L", "RGB"}:
        image = image.convert("RGB")
    return as_pixels(np.asarray(image))


def is_gray(pixels: Pixels) -> bool:
    """Whether the three channels of an RGB image are equal everywhere."""
    probe = pixels[:: max(1, pixels.shape[0] // 64), :: max(1, pixels.shape[1] // 64)]
    if not (np.array_equal(probe[..., 0], probe[..., 1]) and np.array_equal(probe[..., 1], probe[..., 2])):
        return False
    red, green, blue = cv2.split(pixels)
    return bool(cv2.norm(red, green, cv2.NORM_INF) == 0 and cv2.norm(green, blue, cv2.NORM_INF) == 0)


@lru_cache(maxsize=16)
def _is_srgb(profile: bytes) -> bool:
    """Whether a profile does to colours what sRGB does; told by some colours that go through it, not by its name."""
    source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
    if source.profile.xcolor_space.strip() != "RGB":
        return False
    steps = np.array([0, 64, 128, 192, 255], np.uint8)
    probe = np.stack(np.meshgrid(steps, steps, steps), axis=-1).reshape(1, -1, 3)
    done = ImageCms.profileToProfile(
        Image.fromarray(probe), source, _SRGB, ImageCms.Intent.RELATIVE_COLORIMETRIC, outputMode="RGB",
        flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
    )  # fmt: skip
    return int(np.abs(np.asarray(cast("Image.Image", done)).astype(int) - probe).max()) < _LINEAR_FROM
