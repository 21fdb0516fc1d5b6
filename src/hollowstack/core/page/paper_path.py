"""How paper goes into a source of a capture device, and where it then lies in the image.

Seen by somebody who stands before the source and looks the way the paper travels; on a glass, towards its back. A page that
is laid so comes upright. Edges are those of the page as it is read: its top edge is that above its first line.
"""

from dataclasses import dataclass
from typing import Literal

Source = Literal["platen", "feeder"]
Face = Literal["up", "down"]
Edge = Literal["top", "right", "bottom", "left"]
Place = Literal["left", "middle", "right", "back left", "back right", "front left", "front right"]
GUIDES: tuple[Place, ...] = ("left", "middle", "right")
CORNERS: tuple[Place, ...] = ("back left", "back right", "front left", "front right")
EDGES: tuple[Edge, ...] = ("top", "right", "bottom", "left")
"""Clockwise, as the page is read."""
_AHEAD, _RIGHT, _BEHIND, _LEFT = range(4)
_DIRECTIONS = {"left": _LEFT, "right": _RIGHT, "back": _AHEAD, "front": _BEHIND}


@dataclass(frozen=True, slots=True)
class PaperPath:
    """How paper goes into one source."""

    face: Face
    """The side that is captured lies so."""
    edge: Edge
    """The edge of the page that goes in first, or lies towards the back of the glass."""
    place: Place
    """In a feeder, where the guides hold the paper; on a glass, the corner at which the mark is."""

    def suits(self, source: Source) -> bool:
        """Whether it can be said of that source: guides are a feeder's, a corner is a glass's."""
        return self.place in (GUIDES if source == "feeder" else CORNERS)


COMMON: dict[Source, PaperPath] = {
    "platen": PaperPath("down", "top", "back right"),
    "feeder": PaperPath("up", "top", "middle"),
}
"""What is proposed where nothing is known (common practice, no source)."""


def edge_at(face: Face, ahead: Edge, direction: int) -> Edge:
    """The edge of a page that lies in a direction, in quarter turns clockwise from ahead, as it lies seen from above."""
    clockwise = 1 if face == "up" else -1
    return EDGES[(EDGES.index(ahead) + clockwise * direction) % 4]


def offset_mm(
    path: PaperPath | None, source: Source, bed: tuple[float, float], size: tuple[float, float]
) -> tuple[float, float]:
    """Where paper of a size begins in a source's scanning area, from its upper left corner as the image is seen.

    Args:
        path: How paper goes in; None where nobody has said: then a feeder's paper runs along the middle, and a glass's
            lies in the upper left.
        source: Glass or feeder.
        bed: Width and height of the scanning area in mm.
        size: Those of the paper, no larger than the bed.
    """
    spare = bed[0] - size[0], bed[1] - size[1]
    if path is None or path.place == "middle":
        return (spare[0] / 2, 0.0) if source == "feeder" else (0.0, 0.0)
    x = y = 0.0
    for word in path.place.split():
        edge = edge_at(path.face, path.edge, _DIRECTIONS[word])
        x = spare[0] if edge == "right" else x
        y = spare[1] if edge == "bottom" else y
    return x, y


def place_of(
    source: Source, face: Face, ahead: Edge, bed: tuple[float, float], box: tuple[float, float, float, float]
) -> Place | None:
    """Where the guides or the mark must be, by where a sheet lies in the image of a whole scanning area.

    Args:
        source: Glass or feeder.
        face: The side that was captured lay so.
        ahead: The edge of an upright page that goes in first.
        bed: Width and height of the scanning area in mm.
        box: Left, top, right and bottom of the sheet in mm.

    Returns:
        None where that cannot be told: a sheet as wide as the area lies the same wherever the guides are.
    """
    gaps: dict[Edge, float] = {"left": box[0], "top": box[1], "right": bed[0] - box[2], "bottom": bed[1] - box[3]}
    left, right = (gaps[edge_at(face, ahead, side)] for side in (_LEFT, _RIGHT))
    across = _nearer(left, right)
    if source == "feeder":
        guides: dict[int, Place] = {-1: "left", 0: "middle", 1: "right"}
        # Turned on its side in the image, it lies across where the image is as long as a sheet may be.
        unknown = ahead in {"left", "right"} or left + right < _LEAST_ROOM_MM
        return None if unknown else guides[across]
    back, front = (gaps[edge_at(face, ahead, side)] for side in (_AHEAD, _BEHIND))
    along = _nearer(back, front)
    corners: dict[tuple[int, int], Place] = {
        (-1, -1): "back left", (-1, 1): "back right", (1, -1): "front left", (1, 1): "front right",
    }  # fmt: skip
    return corners.get((along, across))


_LEAST_ROOM_MM = 12.0
"""With less room than that beside a sheet, a few millimetres of play say nothing about guides."""
_MIDDLE = 0.25
"""A sheet runs along the middle where the gaps at its sides differ by less than this share of both."""


def _nearer(one: float, other: float) -> int:
    """-1 where the first gap is the smaller one, 1 where it is the larger one, 0 where they are about the same."""
    if abs(one - other) <= _MIDDLE * (one + other):
        return 0
    return -1 if one < other else 1
