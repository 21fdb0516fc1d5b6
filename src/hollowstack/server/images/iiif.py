"""IIIF Image API 3.0 requests: the words of a path as what to cut, scale, turn and save. No pixels here.

Source: IIIF Image API 3.0.0, section 4 (image requests) and 5 (image information); compliance level 2.
"""

import re
from typing import Any, Literal

from hollowstack.core.run.pictures import Part

TILE = 512
_MOST_SIDE = 8192
"""Longest side of an answer: a whole strip at full size is asked for in tiles."""


_WHOLE, _DECIMAL = r"\d{1,9}", r"\d{1,9}(?:\.\d{1,9})?"
"""Numbers of no more digits than any image has pixels."""


class BadRequest(ValueError):
    """The request does not follow the standard, or asks for what is not there."""


def parse(region: str, size: str, rotation: str, quality: str, image_format: str, full: tuple[int, int]) -> Part:
    """The words of a request for an image of size ``full``. Raises BadRequest."""
    box = _region(region, full)
    mirror, turn = _rotation(rotation)
    if quality not in {"default", "color", "gray", "bitonal"}:
        raise BadRequest(f"quality {_short(quality)} is none of default, color, gray, bitonal")
    if image_format not in {"jpg", "png", "webp"}:
        raise BadRequest(f"format {_short(image_format)} is none of jpg, png, webp")
    return Part(box, _size(size, box[2:]), mirror, turn, quality, image_format)  # type: ignore[arg-type]


def information(address: str, full: tuple[int, int]) -> dict[str, Any]:
    """The image information document (5.2)."""
    width, height = full
    factors = [1]
    while max(width, height) / factors[-1] > TILE:
        factors.append(factors[-1] * 2)
    return {
        "@context": "http://iiif.io/api/image/3/context.json",
        "id": address,
        "type": "ImageService3",
        "protocol": "http://iiif.io/api/image",
        "profile": "level2",
        "width": width,
        "height": height,
        "maxWidth": _MOST_SIDE,
        "maxHeight": _MOST_SIDE,
        "tiles": [{"width": TILE, "scaleFactors": factors}],
        "extraFormats": ["webp"],
        "extraFeatures": ["mirroring"],
    }


def _region(text: str, full: tuple[int, int]) -> tuple[int, int, int, int]:
    width, height = full
    if text == "full":
        return 0, 0, width, height
    if text == "square":
        side = min(width, height)
        return (width - side) // 2, (height - side) // 2, side, side
    percent = text.startswith("pct:")
    number = _DECIMAL if percent else _WHOLE
    match = re.fullmatch(",".join(4 * [f"({number})"]), text.removeprefix("pct:"))
    if match is None:
        raise BadRequest(f"region {_short(text)} is not full, square, x,y,w,h or pct:x,y,w,h")
    x, y, w, h = (float(v) for v in match.groups())
    if percent:
        x, y, w, h = x * width / 100, y * height / 100, w * width / 100, h * height / 100
    left, top = max(0, round(x)), max(0, round(y))
    right, bottom = min(width, round(x + w)), min(height, round(y + h))
    if w <= 0 or h <= 0 or right <= left or bottom <= top:
        raise BadRequest(f"region {_short(text)} holds nothing of an image of {width} x {height}")
    return left, top, right - left, bottom - top


def _size(text: str, region: tuple[int, int]) -> tuple[int, int]:
    width, height = region
    enlarge = text.startswith("^")
    plain = text.removeprefix("^")
    if plain == "max":
        scale = min(1.0, _MOST_SIDE / max(region))
        return max(1, int(width * scale)), max(1, int(height * scale))
    if match := re.fullmatch(f"pct:({_DECIMAL})", plain):
        scale = float(match[1]) / 100
        wanted = (round(width * scale), round(height * scale))
    elif match := re.fullmatch(f"!({_WHOLE}),({_WHOLE})", plain):
        scale = min(int(match[1]) / width, int(match[2]) / height)
        scale = scale if enlarge else min(1.0, scale)
        wanted = (max(1, round(width * scale)), max(1, round(height * scale))) if scale else (0, 0)
    elif (match := re.fullmatch(f"((?:{_WHOLE})?),((?:{_WHOLE})?)", plain)) and plain != ",":
        w, h = match[1], match[2]
        wanted = (int(w) if w else round(width * int(h) / height), int(h) if h else round(height * int(w) / width))
        wanted = (max(1, wanted[0]) if not w else wanted[0], max(1, wanted[1]) if not h else wanted[1])
    else:
        raise BadRequest(f"size {_short(text)} is not max, w,h, w, ,h, pct:n or !w,h, each with ^ to enlarge")
    if min(wanted) < 1 or max(wanted) > _MOST_SIDE:
        raise BadRequest(f"size {_short(text)} is empty or over {_MOST_SIDE} pixels a side")
    if not enlarge and (wanted[0] > width or wanted[1] > height):
        raise BadRequest(f"size {_short(text)} would enlarge the region: begin it with ^")
    return wanted


def _rotation(text: str) -> tuple[bool, Literal[0, 90, 180, 270]]:
    match = re.fullmatch(f"!?({_DECIMAL})", text)
    degrees = float(match[1]) if match else -1.0
    if degrees not in {0, 90, 180, 270, 360}:
        raise BadRequest(f"rotation {_short(text)} is not a multiple of 90 up to 360")
    return text.startswith("!"), int(degrees) % 360  # type: ignore[return-value]


def _short(text: str) -> str:
    """What was asked for, for a message: no more of it than can be read."""
    return repr(text if len(text) <= 40 else text[:40] + "\u2026")
