"""Pages laid on a table one after the other, frame by frame, with what is true of each frame."""

import math
import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np

from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, as_pixels
from hollowstack.standins.skerry.paper import Image3
from hollowstack.standins.skerry.photograph import TABLES, View, laid, seen
from hollowstack.standins.table.hand import with_hand

AWAY = (0.0, 1.5)
"""A shift at which a page is out of the picture."""
_MOVES = 0.0015
"""Share of the diagonal by which what moves has moved from one frame to the next; a hand-held camera trembles less."""
_SOFT_PX, _DARK, _HAND = 2.2, 0.32, 0.02


@dataclass(frozen=True, slots=True)
class Moment:
    """How things lie at one moment; between two of them they pass over into each other."""

    page: int
    shift: tuple[float, float] = (0.0, 0.0)
    turned_deg: float = 0.0
    blur_px: float = 0.7
    exposure: float = 0.86
    glare: float = 0.0
    hand: float = 0.0
    frames: int = 0
    """How many frames it takes to get to the next."""


@dataclass(frozen=True, slots=True)
class Frame:
    """What the camera sees, and what is true of it.

    ``quad`` is where the page lies, also beyond the picture; ``faults`` say why it is not to be taken: "moves", "cut off",
    "blurred", "dark", "reflection", "hand", "none" (no page). ``page`` is its number in the scene.
    """

    pixels: Pixels
    page: int
    quad: Quad
    faults: frozenset[str]


@dataclass(frozen=True, slots=True)
class Scene:
    """A table, a camera and pages; ``tremble_px`` how far a hand-held camera moves from frame to frame."""

    pages: Sequence[Image3]
    moments: Sequence[Moment]
    view: View
    tremble_px: float = 0.0
    side: float = 0.7
    seed: int = 1927

    def frames(self) -> Iterator[Frame]:
        """Every frame, in order; the same ones every time."""
        width, height = self.view.size_px
        rng = np.random.default_rng(self.seed)
        chance = random.Random(self.seed)
        table = TABLES[self.view.table](width, height, rng)
        surfaces = [_as_seen(page, max(width, height)) for page in self.pages]
        before: Quad | None = None
        still: tuple[Moment, Image3, Quad] | None = None
        for now, following in _in_between(self.moments):
            if still is not None and still[0] == now:
                _, picture, quad = still
            else:
                picture, quad = self._drawn(surfaces[now.page], table, now, following)
            still = (now, picture, quad)
            noisy = picture + rng.normal(0, self.view.noise, picture.shape[:2]).astype(np.float32)[..., None]
            pixels = as_pixels(np.clip(noisy + 0.5, 0, 255).astype(np.uint8))
            if self.tremble_px:
                by = [chance.gauss(0, self.tremble_px) for _ in range(2)]
                pixels, quad = _trembled(pixels, quad, by)
            yield Frame(pixels, now.page, quad, self._faults(now, following, quad, before))
            before = quad

    def _drawn(self, surface: Image3, table: Image3, now: Moment, following: Moment) -> tuple[Image3, Quad]:
        """A frame, smeared along the way things move while the shutter is open."""
        moves = _distance(now, following)
        pictures = []
        quad = None
        for part in (-0.4, 0.0, 0.4) if moves else (0.0,):
            here = _between(now, following, part) if part else now
            view = replace(
                self.view, shift=here.shift, turned_deg=self.view.turned_deg + here.turned_deg, blur_px=here.blur_px,
                exposure=here.exposure, glare=here.glare,
            )  # fmt: skip
            picture, at = laid(surface, view, table)
            quad = at if part == 0 else quad
            pictures.append(seen(with_hand(picture, here.hand, self.side), at, view))
        assert quad is not None
        return np.asarray(np.mean(pictures, axis=0), np.float32), quad

    def _faults(self, now: Moment, following: Moment, quad: Quad, before: Quad | None) -> frozenset[str]:
        width, height = self.view.size_px
        corners = quad.array()
        found = set()
        inside = (corners >= 0).all(axis=1) & (corners <= [width, height]).all(axis=1)
        if (corners[:, 1] > height).all() or (corners[:, 1] < 0).all():
            found.add("none")
        elif not inside.all():
            found.add("cut off")
        step = math.inf if before is None else float(np.abs(corners - before.array()).max())
        if step > max(_MOVES * math.hypot(width, height), 5 * self.tremble_px) or _distance(now, following):
            found.add("moves")
        if now.blur_px >= _SOFT_PX:
            found.add("blurred")
        if now.exposure <= _DARK:
            found.add("dark")
        if now.glare > 0:
            found.add("reflection")
        if now.hand > _HAND:
            found.add("hand")
        return frozenset(found)


def laying(
    page: int, still: int, *, fps: int = 10, turned_deg: float = 0.0, at: tuple[float, float] = (0.0, 0.0)
) -> list[Moment]:
    """A page that a hand lays down, that lies for ``still`` frames, and is taken away again."""
    quick = max(2, fps // 2)
    lies = Moment(page, at, turned_deg)
    gone = replace(lies, shift=AWAY, hand=0.0)
    return [
        replace(gone, frames=quick),
        replace(lies, hand=0.8, frames=quick // 2),
        replace(lies, hand=0.0, frames=still),
        replace(lies, hand=0.0, frames=quick // 2),
        replace(lies, hand=0.8, frames=quick),
        gone,
    ]


def _in_between(moments: Sequence[Moment]) -> Iterator[tuple[Moment, Moment]]:
    """How things lie in every frame, and in the next."""
    steps: list[Moment] = []
    for start, end in zip(moments, [*moments[1:], moments[-1]], strict=True):
        steps += [_between(start, end, step / start.frames) for step in range(start.frames)] if start.frames else [start]
    yield from zip(steps, [*steps[1:], steps[-1]], strict=True)


def _between(one: Moment, other: Moment, share: float) -> Moment:
    if one.page != other.page:
        return replace(one, frames=0)

    def part(a: float, b: float) -> float:
        return a + (b - a) * share

    return Moment(
        one.page,
        (part(one.shift[0], other.shift[0]), part(one.shift[1], other.shift[1])),
        part(one.turned_deg, other.turned_deg),
        part(one.blur_px, other.blur_px),
        part(one.exposure, other.exposure),
        part(one.glare, other.glare),
        part(one.hand, other.hand),
    )


def _distance(one: Moment, other: Moment) -> float:
    if one.page != other.page:
        return 0.0
    return max(
        abs(a - b)
        for a, b in zip((*one.shift, one.turned_deg, one.hand), (*other.shift, other.turned_deg, other.hand), strict=True)
    )


def _as_seen(surface: Image3, longest: int) -> Image3:
    """No finer than the camera can see it, so that frames are drawn quickly."""
    scale = longest * 1.2 / max(surface.shape[:2])
    return (
        np.asarray(cv2.resize(surface, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA), np.float32)
        if scale < 1
        else surface
    )


def _trembled(pixels: Pixels, quad: Quad, by: Sequence[float]) -> tuple[Pixels, Quad]:
    move = np.array([[1, 0, by[0]], [0, 1, by[1]]], np.float32)
    rows, cols = pixels.shape[:2]
    moved = cv2.warpAffine(pixels, move, (cols, rows), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT)
    return as_pixels(moved), Quad.of(quad.array() + np.array(by))
