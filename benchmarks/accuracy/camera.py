"""A page before a camera: its corners in every frame in which it is whole, and in which frames it was taken."""

import random
from dataclasses import replace
from typing import NamedTuple, get_args

import cv2
import numpy as np

from benchmarks.accuracy.truth import PAPERS, Row, in_parallel
from hollowstack.core.measure.capture_quality.live import look, softness
from hollowstack.core.measure.capture_quality.release import Watch, signature_of, watched
from hollowstack.core.measure.layout.live_outline import LONGEST_PX, live_outline
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Pixels, as_pixels
from hollowstack.standins.skerry.paper import Image3, Wear, worn
from hollowstack.standins.skerry.photograph import TABLES, Table, View, laid, seen
from hollowstack.standins.skerry.poster import poster, station_view
from hollowstack.standins.skerry.specimens import LAYOUTS
from hollowstack.standins.table.scene import AWAY, Moment, Scene, laying

ALL_TABLES: tuple[Table, ...] = get_args(Table)
STEP_S = 0.1
WITHIN = 0.01
"""Of the frame's diagonal."""
_BAD = {"moves", "blurred", "cut off", "none", "dark", "hand", "reflection"}
_DYES = ((120, 150, 90), (60, 80, 120), (210, 120, 80), (40, 40, 44))


class Stream(NamedTuple):
    """What became of a stream: errors of whole pages, bad frames and those of them at which one was taken, pages taken."""

    errors: list[float]
    bad: int
    released_bad: int
    pages: int
    taken: int


def streamed(seed: int) -> Stream:
    """Two pages laid well, and one between them that is first spoiled and then put right."""
    chance = random.Random(seed)
    pages = [_sheet(seed * 7 + number, chance) for number in range(3)]
    turn = chance.choice((0, 90)) if seed % 3 else 0
    base = Moment(1, (0, 0), turn)
    spoiled = {
        "cut off": replace(base, shift=(chance.choice((-0.3, 0.3)), 0.0)),
        "blurred": replace(base, blur_px=chance.uniform(2.4, 5.0)),
        "dark": replace(base, exposure=chance.uniform(0.12, 0.3)),
        "reflection": replace(base, glare=chance.uniform(0.15, 0.4)),
    }[chance.choice(("cut off", "blurred", "blurred", "dark", "reflection"))]
    moments = [
        *laying(0, 9, turned_deg=turn + chance.uniform(-3, 3)),
        replace(spoiled, shift=AWAY, frames=4),
        replace(spoiled, hand=0.8, frames=2),
        replace(spoiled, frames=8),
        replace(spoiled, frames=3),
        replace(base, frames=9),
        replace(base, frames=4),
        *laying(2, 9, turned_deg=turn),
    ]
    view = View(
        size_px=(1280, 720) if seed % 3 else (720, 1280), fills=chance.uniform(0.65, 0.9),
        lean=(chance.uniform(-12, 12), chance.uniform(-8, 8)), table=ALL_TABLES[seed % len(ALL_TABLES)],
        turned_deg=chance.uniform(-4, 4), shadow=chance.uniform(0, 0.3), exposure=chance.uniform(0.75, 0.95),
    )  # fmt: skip
    scene = Scene(pages, moments, view, tremble_px=chance.choice((0.0, 0.0, 0.6)), seed=seed)
    watch, errors, bad, released_bad = Watch(), [], 0, 0
    taken: set[int] = set()
    for number, frame in enumerate(scene.frames()):
        small = _reduced(frame.pixels)
        sight = look(small, watch.quad)
        quad = sight.outline.quad if sight.outline else None
        scale = frame.pixels.shape[1] / small.shape[1]
        gray = as_pixels(cv2.cvtColor(frame.pixels, cv2.COLOR_RGB2GRAY))
        watch, _, release = watched(
            watch,
            number * STEP_S,
            sight,
            None if quad is None else signature_of(as_pixels(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY)), quad),
            lambda quad=quad, gray=gray, scale=scale: quad and softness(gray, Quad.of(quad.array() * scale)),
        )
        if not frame.faults & {"none", "cut off", "hand", "moves", "dark"}:
            errors.append(_off(quad, frame.quad, scale, frame.pixels))
        bad += bool(frame.faults & _BAD)
        released_bad += release and bool(frame.faults & _BAD)
        if release and not frame.faults:
            taken.add(frame.page)
    return Stream(errors, bad, released_bad, len(pages), len(taken))


def hard(seed: int) -> tuple[str, float] | None:
    """The kind of a page that does not look like one, and its worst corner; None where it is not whole."""
    chance = random.Random(seed)
    kind = ("poster", "photograph", "photograph with a border", "dyed paper", "things on the table")[seed % 5]
    rng = np.random.default_rng(seed)
    if kind == "poster":
        surface = worn(poster(random.Random(seed)), (240, 238, 231), Wear(0.3, 0.2, 1), rng)
    elif kind.startswith("photograph"):
        gray = 255 * np.asarray(station_view(random.Random(seed), 1500, 1000), np.float32)
        surface = np.repeat(gray[..., None], 3, axis=2)
        if kind.endswith("border"):
            surface = cv2.copyMakeBorder(surface, 50, 50, 50, 50, cv2.BORDER_CONSTANT, value=(238, 235, 228))
    else:
        dye = chance.choice(_DYES) if kind == "dyed paper" else (240, 238, 231)
        surface = worn(LAYOUTS[chance.choice(sorted(LAYOUTS))](random.Random(seed)), dye, Wear(0.3, 0.2, 1), rng)
    size = (1280, 720) if seed % 3 else (720, 1280)
    scale = min(1.0, 1600 / max(surface.shape[:2]))
    surface = np.asarray(cv2.resize(surface, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA), np.float32)
    view = View(
        size_px=size, fills=chance.uniform(0.6, 0.9), lean=(chance.uniform(-15, 15), chance.uniform(-10, 10)),
        table=ALL_TABLES[seed // 5 % len(ALL_TABLES)], turned_deg=chance.choice((0, 0, 90, 270)) + chance.uniform(-8, 8),
        shadow=chance.uniform(0, 0.4), exposure=chance.uniform(0.6, 0.95),
    )  # fmt: skip
    table = TABLES[view.table](*size, rng)
    if kind == "things on the table":
        for _ in range(3):
            at, long, thin = (chance.uniform(0, size[0]), chance.uniform(0, size[1])), chance.uniform(0.15, 0.5), chance.choice((12, 18, 60, 160))  # fmt: skip
            box = cv2.boxPoints((at, (long * size[0], thin), chance.uniform(0, 180))).astype(np.int32)
            cv2.fillPoly(
                table, [box], chance.choice(((30, 30, 34), (200, 40, 40), (235, 232, 222), (220, 200, 60))), cv2.LINE_AA
            )
    picture, quad = laid(surface, view, table)
    picture = seen(picture, quad, view) + rng.normal(0, view.noise, picture.shape).astype(np.float32)
    pixels = as_pixels(np.clip(picture + 0.5, 0, 255).astype(np.uint8))
    if not ((quad.array() >= 3) & (quad.array() <= np.array(size) - 3)).all():
        return None
    small = _reduced(pixels)
    found = live_outline(small).outline
    return kind, _off(found.quad if found else None, quad, size[0] / small.shape[1], pixels)


def rows(seed: int, each: int) -> list[Row]:
    """Corners, what is taken and what is not, on streams; corners of pages that do not look like pages."""
    streams: list[Stream] = list(in_parallel(streamed, range(seed, seed + each)))
    errors = np.array([error for stream in streams for error in stream.errors])
    bad, wrong = sum(stream.bad for stream in streams), sum(stream.released_bad for stream in streams)
    pages, taken = sum(stream.pages for stream in streams), sum(stream.taken for stream in streams)
    others = [result for result in in_parallel(hard, range(seed, seed + 10 * each)) if result is not None]
    for kind in sorted({kind for kind, _ in others}):
        mine = np.array([error for one, error in others if one == kind])
        print(f"         corners of {kind:26} {100 * (mine <= WITHIN).mean():.0f} % within 1 %, of {len(mine)}")
    unlike = np.array([error for _, error in others])
    held = 1 - wrong / max(1, bad)
    return [
        Row(
            "corners before the camera",
            f"{100 * (errors <= WITHIN).mean():.1f} % within 1 % of the diagonal, of {len(errors)} frames",
            "≥ 95 % of frames with the whole page",
            bool((errors <= WITHIN).mean() >= 0.95),
        ),
        Row(
            "not taken while moving, blurred or cut off",
            f"{100 * held:.2f} % of {bad} such frames",
            "≥ 99 %",
            held >= 0.99,
        ),
        Row("pages that lay well, taken by themselves", f"{taken} of {pages}", "≥ 90 %", taken >= 0.9 * pages),
        Row(
            "corners of pages that do not look like one",
            f"{100 * (unlike <= WITHIN).mean():.1f} % within 1 %, of {len(unlike)}",
            "≥ 80 %",
            bool((unlike <= WITHIN).mean() >= 0.8),
        ),
    ]


def _sheet(seed: int, chance: random.Random) -> Image3:
    layout, paper = chance.choice(sorted(LAYOUTS)), PAPERS[chance.choice(list(PAPERS))]
    return worn(LAYOUTS[layout](random.Random(seed)), paper, Wear(0.3, 0.2, 1), np.random.default_rng(seed))


def _reduced(pixels: Pixels) -> Pixels:
    scale = LONGEST_PX / max(pixels.shape[:2])
    return np.ascontiguousarray(as_pixels(cv2.resize(pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)))


def _off(found: Quad | None, truth: Quad, scale: float, pixels: Pixels) -> float:
    """The worst corner as a share of the frame's diagonal; infinite where no page was found."""
    if found is None:
        return float("inf")
    corners = found.array() * scale
    apart = [float(np.hypot(*(np.roll(corners, turn, axis=0) - truth.array()).T).max()) for turn in range(4)]
    return min(apart) / float(np.hypot(*pixels.shape[:2]))
