"""Where a page begins on one side of its image, and an image laid so that a side is on the left."""

from dataclasses import dataclass
from typing import Literal, NamedTuple, TypeVar

import numpy as np
import numpy.typing as npt

from hollowstack.core.page.raster import Pixels

Mask = npt.NDArray[np.bool_]
Floats = npt.NDArray[np.float64]
Values = TypeVar("Values", bound=np.generic)


class Cut(NamedTuple):
    """Where the page begins on one side: depth in pixels from the rim = ``offset + slope * place along``; and why."""

    offset: float
    slope: float
    kind: Literal["lid", "neighbour"]

    def depth(self, length: int) -> float:
        """How deep it is in the middle of a side of some length."""
        return self.offset + self.slope * length / 2

    def within(self, inner: "Cut") -> "Cut":
        """The cut that another one makes, which was found in what this one leaves."""
        kind: Literal["lid", "neighbour"] = "neighbour" if "neighbour" in (self.kind, inner.kind) else "lid"
        return Cut(self.offset + inner.offset, self.slope + inner.slope, kind)


@dataclass(frozen=True, slots=True)
class SideView:
    """An image laid so that one of its sides is on the left: rows run along it, columns inwards."""

    dark: Mask
    light: Pixels
    colour: Pixels | None
    """Difference between the channels; None for a gray image."""
    usual: float
    """Gray of its paper."""
    px_mm: float
    bitonal: bool

    def beyond(self, cut: Cut) -> "SideView":
        """The same without what a cut takes, its line on the left now; what is missing on the right is bare paper."""
        rows, cols = self.dark.shape
        depth = np.clip(np.ceil(cut.offset + cut.slope * (np.arange(rows) + 0.5)), 0, cols - 1).astype(np.int64)
        places = np.arange(cols)[None, :] + depth[:, None]
        missing = places >= cols
        places[missing] = 0

        def moved(values: npt.NDArray[Values], bare: int) -> npt.NDArray[Values]:
            found = np.take_along_axis(values, places, axis=1)
            found[missing] = bare
            return found

        colour = None if self.colour is None else moved(self.colour, 0)
        return SideView(
            moved(self.dark, 0), moved(self.light, round(self.usual)), colour, self.usual, self.px_mm, self.bitonal
        )


def laid(values: npt.NDArray[Values], side: int) -> npt.NDArray[Values]:
    """The image turned so that a side (0 left, 1 top, 2 right, 3 bottom) is on the left."""
    upright = values if side in (0, 2) else values.T
    return np.ascontiguousarray(upright[:, ::-1] if side >= 2 else upright)
