"""The whole way for one page.

Every step is a plain function of paths and plain data, fit to run in another process or on another machine.
"""

import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import NamedTuple

from hollowstack.core.check import Read, check_page
from hollowstack.core.check.finding import Finding
from hollowstack.core.decode import decode
from hollowstack.core.decode.origin import origin_of
from hollowstack.core.measure import Measurements, measure
from hollowstack.core.ocr.reading import Reading
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.page_group import PageGroup
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page, split_overrides
from hollowstack.core.run.clock import Clock
from hollowstack.core.run.encoding import encode_page
from hollowstack.core.run.guarding import render_guarded
from hollowstack.core.run.keeping import Encoded
from hollowstack.core.run.reading import read_rendered
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment


@dataclass(frozen=True, slots=True)
class PageResult:
    """All that came of one page; ``image`` and ``reading`` are None where it is aside."""

    measurements: Measurements
    plan: Plan
    image: Encoded | None
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
    page_group: PageGroup | None = None,
) -> list[PageResult]:
    """The page of a frame, or the two that it shows; arguments and errors as of ``process_page``."""
    opened = _opened(path, frame, known)
    return [
        _processed(opened, treatment, language, override, page_group)
        for override in split_overrides(opened.known.found, treatment)
    ]


def process_page(
    path: Path,
    frame: int,
    treatment: Treatment,
    language: str | None,
    override: Override | None = None,
    known: Known | None = None,
    page_group: PageGroup | None = None,
) -> PageResult:
    """From a frame of a file to what is bound of it.

    Args:
        path: The master.
        frame: 0-based page within it.
        treatment: What is wanted.
        language: To read in; None leaves reading out.
        override: The page's departure from the treatment.
        known: What was measured on it already; None measures it now.
        page_group: The common shape of the pages that it is bound with, where they are to be uniform.

    Raises:
        DecodeError: The master cannot be decoded whole.
        ReadError: A language model is missing.
    """
    return _processed(_opened(path, frame, known), treatment, language, override, page_group)


class _Opened(NamedTuple):
    """An image of a file, what is measured on it, and how long decoding took."""

    path: Path
    frame: int
    image: Raster
    known: Known
    seconds: float


def _opened(path: Path, frame: int, known: Known | None) -> _Opened:
    clock = Clock()
    with clock.step("decode"):
        image = decode(path, frame)
    if known is None:
        with clock.step("measure"):
            found = measure(image, photographed=origin_of(path).photographed)
        known = Known(found, clock.seconds["measure"])
    return _Opened(path, frame, image, known, clock.seconds["decode"])


def _processed(
    opened: _Opened, treatment: Treatment, language: str | None, override: Override | None, page_group: PageGroup | None
) -> PageResult:
    """From a decoded and measured image to what is bound of it."""
    image, known = opened.image, opened.known
    clock = Clock()
    clock.seconds["decode"], clock.seconds["measure"] = opened.seconds, known.seconds
    found = known.found if override is None or override.split is None else known.found.model_copy(update={"gutter": None})
    plan = plan_page(found, treatment, override, page_group=page_group)
    encoded, reading = None, None
    looks: tuple[Finding, ...] = ()
    if plan.aside is None:
        made = render_guarded(image, plan, lambda page, how: encode_page(page, how, opened.path, opened.frame, image), clock)
        page, plan, looks, encoded = made
        with clock.step("read"):
            reading = read_rendered(image, plan, language, page) if language else None
    sure = Read.of(reading) if reading else None
    findings = [*check_page(found, plan, sure), *looks]
    return PageResult(found, plan, encoded, reading, findings, clock.seconds)
