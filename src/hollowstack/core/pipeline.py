"""The whole way for one page, and its single steps for those who keep their results.

Every step is a plain function of paths and plain data, fit to run in another process or on another machine.
"""

import hashlib
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import NamedTuple

import numpy as np

from hollowstack.core.bind.codecs import ENCODE_VERSION, EncodedImage, encode
from hollowstack.core.check import Finding, check_page
from hollowstack.core.check.content import content_finding
from hollowstack.core.check.guard import guard, milder
from hollowstack.core.decode import DECODE_VERSION, decode
from hollowstack.core.decode.origin import origin_of
from hollowstack.core.fellows import Fellows
from hollowstack.core.geometry import Transform
from hollowstack.core.measure import MEASURE_VERSION, Measurements, measure
from hollowstack.core.plan import Plan, plan_page, split_overrides
from hollowstack.core.raster import ASSUMED_PPI, Raster, as_pixels
from hollowstack.core.read import READ_VERSION, Reading, read_page
from hollowstack.core.render import RENDER_VERSION, render, render_for_reading
from hollowstack.core.treatment import Override, Treatment

_MOST_STEPS = 2
_ASKEW_DEG = 2.0
"""Tilt up to which the OCR engine reads lines as well as level ones."""
_WELL, _FEW_WORDS = 80.0, 5
"""Mean confidence and number of words of a reading that another try would hardly better."""
_UNSURE = 40.0
_BETTER = 1.08


@dataclass(frozen=True, slots=True)
class PageResult:
    """All that came of one page; ``image`` and ``reading`` are None where it is aside."""

    measurements: Measurements
    plan: Plan
    image: EncodedImage | None
    reading: Reading | None
    findings: list[Finding]
    seconds: dict[str, float] = field(default_factory=dict)


class Known(NamedTuple):
    """What was measured on a page already, and how long that took."""

    found: Measurements
    seconds: float


def measure_page(path: Path, frame: int) -> Known:
    """Measure a frame of a file by itself. Raises DecodeError."""
    image, photographed = decode(path, frame), origin_of(path).photographed
    start = time.perf_counter()
    return Known(measure(image, photographed=photographed), round(time.perf_counter() - start, 4))


def process_pages(
    path: Path,
    frame: int,
    treatment: Treatment,
    language: str | None,
    known: Known | None = None,
    fellows: Fellows | None = None,
) -> list[PageResult]:
    """The page of a frame, or the two that it shows; arguments and errors as of ``process_page``."""
    image, known, decoding = _opened(path, frame, known)
    return [
        _processed(image, known, decoding, treatment, language, override, fellows)
        for override in split_overrides(known.found, treatment)
    ]


def process_page(
    path: Path,
    frame: int,
    treatment: Treatment,
    language: str | None,
    override: Override | None = None,
    known: Known | None = None,
    fellows: Fellows | None = None,
) -> PageResult:
    """From a frame of a file to what is bound of it.

    Args:
        path: The master.
        frame: 0-based page within it.
        treatment: What is wanted.
        language: To read in; None leaves reading out.
        override: The page's departure from the treatment.
        known: What was measured on it already; None measures it now.
        fellows: The common shape of the pages that it is bound with, where they are to be uniform.

    Raises:
        DecodeError: The master cannot be decoded whole.
        ReadError: A language model is missing.
    """
    image, known, decoding = _opened(path, frame, known)
    return _processed(image, known, decoding, treatment, language, override, fellows)


def _opened(path: Path, frame: int, known: Known | None) -> tuple[Raster, Known, float]:
    """The image, what is measured on it, and how long decoding took."""
    clock = Clock()
    with clock.step("decode"):
        image = decode(path, frame)
    if known is None:
        with clock.step("measure"):
            found = measure(image, photographed=origin_of(path).photographed)
        known = Known(found, clock.seconds["measure"])
    return image, known, clock.seconds["decode"]


def _processed(
    image: Raster, known: Known, decoding: float, treatment: Treatment, language: str | None, override: Override | None,
    fellows: Fellows | None,
) -> PageResult:  # fmt: skip
    """From a decoded and measured image to what is bound of it."""
    clock = Clock()
    clock.seconds["decode"], clock.seconds["measure"] = decoding, known.seconds
    found = known.found if override is None or override.split is None else known.found.model_copy(update={"gutter": None})
    plan = plan_page(found, treatment, override, fellows=fellows)
    encoded, reading, content = None, None, None
    if plan.aside is None:
        with clock.step("render"):
            page, plan, content = render_guarded(image, plan)
        with clock.step("encode"):
            encoded = encode(page, plan.colour, plan.jpeg_quality)
        with clock.step("read"):
            reading = read_rendered(image, plan, language, page) if language else None
    sure = (len(reading.words), reading.mean_confidence) if reading else None
    findings = [*check_page(found, plan, sure), *([] if content is None else [content])]
    return PageResult(found, plan, encoded, reading, findings, clock.seconds)


def render_guarded(image: Raster, plan: Plan) -> tuple[Raster, Plan, Finding]:
    """The clean page, held against its master; where something is lost, by the next milder plan, twice at most.

    Args:
        image: The page as captured.
        plan: What is to be done. What was set by hand is done whatever it loses.

    Returns:
        The page, the plan that made it, and what the guard says of it.
    """
    page = render(image, plan)
    guarded = guard(image, plan, page)
    steps: tuple[str, ...] = ()
    best = (guarded, page, plan, steps)
    while not guarded.passes and guarded.kind is not None and len(steps) < _MOST_STEPS and not plan.by_hand:
        step = milder(plan, guarded.kind, (image.width, image.height))
        if step is None:
            break
        plan, name = step
        steps = (*steps, name)
        page = render(image, plan)
        guarded = guard(image, plan, page)
        if guarded.percent < best[0].percent:
            best = (guarded, page, plan, steps)
    guarded, page, plan, steps = best
    return page, plan, content_finding(guarded, steps, by_hand=plan.by_hand)


class Clock:
    """Seconds spent in each step."""

    STEPS = ("decode", "measure", "render", "read", "encode")

    def __init__(self) -> None:
        self.seconds = dict.fromkeys(self.STEPS, 0.0)

    @contextmanager
    def step(self, name: str) -> Iterator[None]:
        """Time what happens inside."""
        start = time.perf_counter()
        try:
            yield
        finally:
            self.seconds[name] = round(self.seconds[name] + time.perf_counter() - start, 4)


def read_rendered(image: Raster, plan: Plan, language: str, page: Raster | None = None) -> Reading:
    """Read the clean page of an image, one in two tones as it is before them; words lie where they lie on the bound page.

    Where the engine is unsure, it is given the image as it came, too, and the reading of which it is surer is kept.

    Args:
        image: The page as captured.
        plan: What is done to it.
        language: Models to use.
        page: The clean page, where it is at hand.

    Raises:
        ReadError: A language model is missing.
    """

    def corrected() -> Reading:
        clean = page if page is not None and plan.colour != "bitonal" else render_for_reading(image, plan)
        clean = Raster(as_pixels(255 - clean.pixels), clean.ppi) if plan.inverse else clean
        return read_page(clean, language, plan.letter_px)

    def untouched() -> Reading:
        return _read_as_it_came(image, plan, language)

    # Two tones lose nothing by lying a little askew, and something by being resampled.
    crisp = plan.two_tones is not None and plan.two_tones.method == "middle" and abs(plan.tilt_deg) < _ASKEW_DEG
    first, other = (untouched, corrected) if crisp else (corrected, untouched)
    reading = first()
    if _reads_well(reading):
        return reading
    again = other()
    return again if _worth(again) > _BETTER * _worth(reading) else reading


def _reads_well(reading: Reading) -> bool:
    """Whether there is nothing to be hoped from another try."""
    return len(reading.words) >= _FEW_WORDS and reading.mean_confidence >= _WELL


def _worth(reading: Reading) -> float:
    """Characters read, as far as the engine is sure of them."""
    return sum(len(word.text) * max(0.0, word.confidence - _UNSURE) for word in reading.words)


def _read_as_it_came(image: Raster, plan: Plan, language: str) -> Reading:
    """What the engine reads of the untouched image, turned upright; its words laid where they lie on the clean page."""
    gray = image.gray().pixels
    pixels = np.rot90(255 - gray if plan.inverse else gray, -plan.turn // 90)
    # The engine goes by the pixels it sees; what files say of their resolution has misled it more often than not.
    turned = Raster(as_pixels(np.ascontiguousarray(pixels)), (ASSUMED_PPI, ASSUMED_PPI))
    reading = read_page(turned, language, degrain=False)
    back = Transform.turn(plan.turn, image.width, image.height).inverse()
    onto = back.then(Transform.onto(plan.quad, *plan.size_px))
    return reading.moved(onto, plan.size_px)


def expand_key(master_sha256: str) -> str:
    """Key of how many pages a master holds."""
    return _key("expand", DECODE_VERSION, master_sha256)


def measure_key(master_sha256: str, frame: int) -> str:
    """Key of the measurements of a frame."""
    return _key("measure", DECODE_VERSION, MEASURE_VERSION, master_sha256, frame)


def render_key(master_sha256: str, frame: int, plan: Plan) -> str:
    """Key of a clean page."""
    return _key("render", DECODE_VERSION, RENDER_VERSION, ENCODE_VERSION, master_sha256, frame, plan.digest())


def read_key(clean_key: str, language: str) -> str:
    """Key of the reading of a clean page."""
    return _key("read", READ_VERSION, clean_key, language)


def _key(*parts: object) -> str:
    return hashlib.sha256("\n".join(str(p) for p in parts).encode()).hexdigest()
