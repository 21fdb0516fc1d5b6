"""What a bound page is made of, to be looked at part by part."""

from dataclasses import replace
from typing import Literal, NamedTuple

from hollowstack.core.bind.codecs import decode_encoded
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.composing import compose
from hollowstack.core.bind.layers.parts import Layered, Patch
from hollowstack.core.page.raster import Pixels

PartKind = Literal["page", "ink", "paper", "pictures"]

_PACKED = {
    "DCTDecode": "JPEG", "JPXDecode": "JPEG 2000", "FlateDecode": "Deflate", "JBIG2Decode": "JBIG2",
    "CCITTFaxDecode": "Group 4",
}  # fmt: skip


class Part(NamedTuple):
    """A part of a bound page; ``share`` is its resolution as a share of the page's."""

    kind: PartKind
    bytes: int
    packed_as: str
    share: float


def parts_of(page: EncodedImage | Layered) -> list[Part]:
    """A page's one image, or its layers from the ink down; only such as it has."""
    if isinstance(page, EncodedImage):
        return [Part("page", page.bytes, _PACKED[page.filter], 1.0)]
    found = []
    if page.ink is not None:
        tint = page.ink.tint.bytes if isinstance(page.ink.tint, EncodedImage) else 0
        found.append(Part("ink", page.ink.stencil.bytes + tint, _PACKED[page.ink.stencil.filter], 1.0))
    fine = [patch for patch in page.patches if _is_fine(patch)]
    coarse = [patch for patch in page.patches if not _is_fine(patch)]
    kinds: tuple[tuple[PartKind, list[Patch]], ...] = (("pictures", fine), ("paper", coarse))
    for kind, patches in kinds:
        if patches or kind == "paper":
            share = min((patch.image.size_px[0] / patch.box.size[0] for patch in patches), default=1.0)
            packed = _PACKED[patches[0].image.filter] if patches else "one tone"
            found.append(Part(kind, sum(patch.image.bytes for patch in patches), packed, share))
    return found


def show_part(page: EncodedImage | Layered, kind: PartKind) -> Pixels:
    """The pixels of a part by itself, on white what is not all of the page. Raises ValueError for a part that it has not."""
    if kind not in {part.kind for part in parts_of(page)}:
        raise ValueError(f"This page has no {kind}.")
    if isinstance(page, EncodedImage):
        return decode_encoded(page)
    white = (255,) * len(page.paper)
    match kind:
        case "ink":
            return compose(replace(page, paper=white, patches=()))
        case "pictures":
            return compose(replace(page, paper=white, ink=None, patches=tuple(filter(_is_fine, page.patches))))
        case _:
            return compose(replace(page, ink=None, patches=tuple(patch for patch in page.patches if not _is_fine(patch))))


def _is_fine(patch: Patch) -> bool:
    """Whether a patch is as fine as the page: a picture, and not its ground."""
    return patch.image.size_px == patch.box.size
