"""A page in layers: its paper, patches of what lies on that, and ink."""

from dataclasses import dataclass
from typing import NamedTuple

from hollowstack.core.bind.encoded import EncodedImage

Colour = tuple[int, ...]
"""One value for grey, or red, green and blue; 0 to 255."""


class Box(NamedTuple):
    """Part of a page, in its pixels; right and bottom lie beyond it."""

    left: int
    top: int
    right: int
    bottom: int

    @property
    def size(self) -> tuple[int, int]:
        """Width and height."""
        return self.right - self.left, self.bottom - self.top

    @property
    def area(self) -> int:
        """In pixels."""
        return (self.right - self.left) * (self.bottom - self.top)


@dataclass(frozen=True, slots=True)
class Patch:
    """An image in a box, at a resolution of its own."""

    image: EncodedImage
    box: Box


@dataclass(frozen=True, slots=True)
class Ink:
    """Text and line art: a stencil from the page's top left corner, which may hang over its other sides, and what is seen
    through it: one colour, or an image of colours as large as the stencil."""

    stencil: EncodedImage
    tint: EncodedImage | Colour


@dataclass(frozen=True, slots=True)
class Layered:
    """A page, from its paper up."""

    size_px: tuple[int, int]
    gray: bool
    paper: Colour
    patches: tuple[Patch, ...]
    ink: Ink | None

    @property
    def bytes(self) -> int:
        """Of all its data."""
        return sum(len(image.data) for image in self.images)

    def ppi_of(self, size_px: tuple[int, int], ppi: tuple[float, float]) -> tuple[float, float]:
        """Its resolution, from a page's size and resolution, which are its own."""
        return ppi[0] * self.size_px[0] / size_px[0], ppi[1] * self.size_px[1] / size_px[1]

    @property
    def images(self) -> tuple[EncodedImage, ...]:
        """The patches in order, the stencil, the tint."""
        ink = () if self.ink is None else (self.ink.stencil, *_image_of(self.ink.tint))
        return (*(patch.image for patch in self.patches), *ink)


def _image_of(tint: EncodedImage | Colour) -> tuple[EncodedImage, ...]:
    return (tint,) if isinstance(tint, EncodedImage) else ()
