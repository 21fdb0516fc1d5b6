"""An encoded page as a result folder keeps it: one file with its data, one behind the other, and what to make of them."""

import base64
from typing import Any

from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.parts import Box, Ink, Layered, Patch

Encoded = EncodedImage | Layered


def data_of(page: Encoded) -> bytes:
    """All its data: an image's own, or those of its patches in order, of the stencil and of the tint."""
    return page.data if isinstance(page, EncodedImage) else b"".join(image.data for image in page.images)


def described(page: Encoded) -> dict[str, Any]:
    """What it takes to make the page of its data again; profiles are kept beside them."""
    if isinstance(page, EncodedImage):
        return _image(page)
    ink = page.ink
    tint = None if ink is None else ink.tint
    return {
        "filter": "layers",
        "size_px": page.size_px,
        "gray": page.gray,
        "layers": {
            "paper": page.paper,
            "patches": [{**_image(patch.image), "box": patch.box} for patch in page.patches],
            "stencil": None if ink is None else _image(ink.stencil),
            "tint": _image(tint) if isinstance(tint, EncodedImage) else tint,
        },
    }


def restored(data: bytes, told: dict[str, Any], icc: bytes = b"") -> Encoded:
    """The page, of its data and what was told of it."""
    layers = told.get("layers")
    if layers is None:
        return _restored(data, told, icc)
    at = 0

    def next_image(of: dict[str, Any]) -> EncodedImage:
        nonlocal at
        at += of["bytes"]
        return _restored(data[at - of["bytes"] : at], of)

    patches = tuple(Patch(next_image(one), Box(*one["box"])) for one in layers["patches"])
    ink = None
    if layers["stencil"] is not None:
        stencil, tint = next_image(layers["stencil"]), layers["tint"]
        ink = Ink(stencil, next_image(tint) if isinstance(tint, dict) else tuple(tint))
    return Layered(tuple(told["size_px"]), told["gray"], tuple(layers["paper"]), patches, ink)


def _image(image: EncodedImage) -> dict[str, Any]:
    return {
        "filter": image.filter,
        "size_px": image.size_px,
        "gray": image.gray,
        "black_is_one": image.black_is_one,
        "palette": base64.b64encode(image.palette).decode(),
        "bytes": len(image.data),
    }


def _restored(data: bytes, told: dict[str, Any], icc: bytes = b"") -> EncodedImage:
    palette = base64.b64decode(told.get("palette", ""))
    return EncodedImage(
        told["filter"], data, tuple(told["size_px"]), told["gray"], icc, told.get("black_is_one", False), palette
    )
