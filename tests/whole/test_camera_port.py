"""The browser looks at a camera's frames by a port of core's rules: on the same frames both say the same."""

import random

import cv2
import numpy as np
import pytest

from hollowstack.core.measure.capture_quality.live import look, softness
from hollowstack.core.measure.capture_quality.release import Watch, signature_of, watched
from hollowstack.core.page.geometry import Quad
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.photograph import Table, View
from hollowstack.standins.skerry.specimens import LAYOUTS
from hollowstack.standins.table.scene import Frame, Moment, Scene, laying
from tests.port import Shown, answers, reduced

STEP_S = 0.15


def scene(table: Table, size: tuple[int, int], seed: int) -> list[Frame]:
    """Two pages laid, one of them dark, out of focus and with a reflection on it for a while."""
    pages = [
        worn(LAYOUTS[layout](random.Random(seed)), (240, 238, 231), Wear(0.3, 0.2, 1), np.random.default_rng(seed))
        for layout in ("prose", "ledger")
    ]
    spoiled = [
        Moment(1, blur_px=3.2, frames=2), Moment(1, exposure=0.2, frames=2), Moment(1, glare=0.3, frames=2), Moment(1, (0.4, 0.0), frames=2)
    ]  # fmt: skip
    moments = [*laying(0, 6, fps=4), *spoiled, *laying(1, 6, fps=4, turned_deg=90)]
    return list(Scene(pages, moments, View(size_px=size, fills=0.75, table=table, lean=(8, -4)), seed=seed).frames())


def core_says(frames: list[Frame]) -> list[tuple[str, bool, np.ndarray | None]]:
    watch, said = Watch(), []
    for number, frame in enumerate(frames):
        small = reduced(frame.pixels)
        sight = look(small, watch.quad)
        gray, sharp = (cv2.cvtColor(one, cv2.COLOR_RGB2GRAY) for one in (small, frame.pixels))
        quad = sight.outline.quad if sight.outline else None
        scale = frame.pixels.shape[1] / small.shape[1]
        watch, word, taken = watched(
            watch,
            number * STEP_S,
            sight,
            None if quad is None else signature_of(gray, quad),
            lambda quad=quad, sharp=sharp, scale=scale: quad and softness(sharp, Quad.of(quad.array() * scale)),
        )
        corners = None if quad is None else quad.array() / [small.shape[1], small.shape[0]]
        said.append((word, taken, corners))
    return said


@pytest.mark.parametrize(
    ("table", "size", "seed"), [("oak", (1280, 720), 3), ("white", (720, 1280), 4), ("checked", (1280, 720), 5)]
)
def test_both_say_the_same_of_every_frame(table: Table, size: tuple[int, int], seed: int):
    frames = scene(table, size, seed)
    mine = core_says(frames)
    theirs = answers(Shown(frame.pixels, number * STEP_S, first=number == 0) for number, frame in enumerate(frames))
    assert len(theirs) == len(frames)
    words = [(word, answer["said"]) for (word, _, _), answer in zip(mine, theirs, strict=True)]
    # A limit met to a hair may fall to either side; no more than one frame in fifty does.
    assert sum(one != other for one, other in words) <= len(frames) // 50, words
    assert [taken for _, taken, _ in mine] == [answer["release"] for answer in theirs]
    assert sum(taken for _, taken, _ in mine) >= 1
    for (_, _, corners), answer in zip(mine, theirs, strict=True):
        assert (corners is None) == ("quad" not in answer)
        if corners is not None:
            assert np.median(np.abs(corners - np.array(answer["quad"]))) <= 0.005
