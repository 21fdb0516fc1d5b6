"""Everything geometric: a page's outline in its source image, and the one transform made from it.

A turn, a tilt, the corners of a photographed page, a crop and a scale all end up as one quadrilateral of the source
that becomes the output rectangle, so a page is resampled once. Coordinates as in ``raster``.
"""

import math
from typing import Literal, NamedTuple, Self

import numpy as np
import numpy.typing as npt

Turn = Literal[0, 90, 180, 270]
Matrix = npt.NDArray[np.float64]
FARTHEST_PX = 1e6
"""No corner of a page lies farther from its image's: fifteen times the largest side that is taken in."""


class Point(NamedTuple):
    """A place in an image, in pixels of that image."""

    x: float
    y: float


class Quad(NamedTuple):
    """Four corners in reading order of the upright page: top-left, top-right, bottom-right, bottom-left."""

    top_left: Point
    top_right: Point
    bottom_right: Point
    bottom_left: Point

    @classmethod
    def rectangle(cls, left: float, top: float, right: float, bottom: float) -> Self:
        """An upright rectangle from its sides."""
        return cls(Point(left, top), Point(right, top), Point(right, bottom), Point(left, bottom))

    @classmethod
    def of(cls, points: npt.ArrayLike) -> Self:
        """From any 4 x 2 array of x and y."""
        one, two, three, four = np.asarray(points, dtype=np.float64).reshape(4, 2).tolist()
        return cls(Point(*one), Point(*two), Point(*three), Point(*four))

    def array(self) -> Matrix:
        """As a 4 x 2 array."""
        return np.array(self, dtype=np.float64)

    def is_page(self) -> bool:
        """Whether it can be the outline of a page: convex, in reading order, within reach, and nowhere a mere line."""
        corners = self.array()
        if not np.all(np.isfinite(corners)) or np.abs(corners).max() > FARTHEST_PX:
            return False
        sides = np.roll(corners, -1, axis=0) - corners
        after = np.roll(sides, -1, axis=0)
        return bool(np.all(sides[:, 0] * after[:, 1] - sides[:, 1] * after[:, 0] > 1))

    def area(self) -> float:
        """In square pixels; the shoelace formula."""
        x, y = self.array().T
        return float(abs(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2)


class Transform(NamedTuple):
    """A plane projective map from source pixels to output pixels; ``matrix`` is 3 x 3, acting on (x, y, 1)."""

    matrix: Matrix

    @classmethod
    def onto(cls, quad: Quad, width: float, height: float) -> Self:
        """The map that takes ``quad`` to the rectangle [0, width] x [0, height]."""
        rows, values = [], []
        for (x, y), (u, v) in zip(quad, Quad.rectangle(0, 0, width, height), strict=True):
            rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
            values += [u, v]
        # Four pairs of points settle the eight unknowns exactly (Hartley and Zisserman 2004, 4.1).
        return cls(np.append(np.linalg.solve(np.array(rows), np.array(values)), 1.0).reshape(3, 3))

    @classmethod
    def turn(cls, degrees: Turn, width: float, height: float) -> Self:
        """The clockwise quarter turn of an image of the given size into the frame of the turned image."""
        two_rows: dict[int, list[list[float]]] = {
            0: [[1, 0, 0], [0, 1, 0]],
            90: [[0, -1, height], [1, 0, 0]],
            180: [[-1, 0, width], [0, -1, height]],
            270: [[0, 1, 0], [-1, 0, width]],
        }
        return cls(np.array([*two_rows[degrees], [0, 0, 1]], dtype=np.float64))

    @classmethod
    def rotation(cls, degrees: float, about: Point) -> Self:
        """Clockwise rotation about a point."""
        c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
        x, y = about
        return cls(np.array([[c, -s, x - c * x + s * y], [s, c, y - s * x - c * y], [0, 0, 1]], dtype=np.float64))

    def then(self, later: "Transform") -> "Transform":
        """This map followed by another."""
        return Transform(later.matrix @ self.matrix)

    def inverse(self) -> "Transform":
        """The map back."""
        return Transform(np.asarray(np.linalg.inv(self.matrix), dtype=np.float64))

    def apply(self, points: npt.ArrayLike) -> Matrix:
        """Map an n x 2 array of points."""
        xy = np.asarray(points, dtype=np.float64).reshape(-1, 2)
        h = np.column_stack([xy, np.ones(len(xy))]) @ self.matrix.T
        return np.asarray(h[:, :2] / h[:, 2:], dtype=np.float64)

    def quad(self, quad: Quad) -> Quad:
        """Map a quad's corners, keeping their order."""
        return Quad.of(self.apply(quad.array()))


def turned_size(width: float, height: float, turn: Turn) -> tuple[float, float]:
    """Width and height after a quarter turn."""
    return (height, width) if turn in (90, 270) else (width, height)
