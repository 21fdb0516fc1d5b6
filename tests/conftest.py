"""What all tests share: the demo's pages with their truth, and small pages drawn on the spot."""

import json
import random
import shutil
from collections.abc import Callable
from pathlib import Path
from typing import Any

import hypothesis
import numpy as np
import pytest

from hollowstack.core.page.raster import Raster
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Capture, Glass, scan
from hollowstack.standins.skerry.sheet import Sheet, wrapped
from tests.examples import SOUGHT, about

# How long a test takes says something of the machine, and nothing of the code. The examples are the same in every run, so
# that a failure is the change's own; `make properties` looks for new ones.
_UNTIMED = {"deadline": None, "suppress_health_check": [hypothesis.HealthCheck.too_slow]}
hypothesis.settings.register_profile("same", derandomize=True, **_UNTIMED)
hypothesis.settings.register_profile("new", max_examples=about(100), print_blob=True, **_UNTIMED)
hypothesis.settings.load_profile("new" if SOUGHT else "same")
DEMO = Path(__file__).parents[1] / "demo" / "skerry-light"
CREAM = (244, 238, 222)
PROSE = (
    "The keeper wrote down wind and weather at every turn of the watch, and in the margin whatever else there was: a seal, a "
    "sail, a sound from the rocks. Nobody had asked for it and nobody took it out again. "
)


def pytest_unconfigure() -> None:
    """The data folder goes when the databases in it are closed."""
    from django.conf import settings

    if "hollowstack-tests-" in str(settings.DATA):
        shutil.rmtree(settings.DATA, ignore_errors=True)


@pytest.fixture(scope="session")
def skerry() -> Path:
    """The demo's folder of scans."""
    assert DEMO.is_dir(), "run `make test`, which draws the demo's pages"
    return DEMO


@pytest.fixture(scope="session")
def truth(skerry: Path) -> dict[str, list[dict[str, Any]]]:
    """What is known of the demo's pages because they were drawn: by file name, a list over its pages."""
    return json.loads((skerry / ".truth.json").read_text(encoding="utf-8"))


def typed_sheet(lines: int = 14, *, ppi: float = 150, seed: int = 5, width: float = 148, height: float = 210) -> Sheet:
    """A typed half sheet."""
    rng, sheet = random.Random(seed), Sheet(width, height, ppi)
    for number, line in enumerate(wrapped(PROSE * 8, 46)[:lines]):
        sheet.type(14, 24 + number * 8, line, rng)
    return sheet


def captured(
    sheet: Sheet, glass: Glass | None = None, wear: Wear | None = None, *, paper: tuple[int, int, int] = CREAM, back: Sheet | None = None,
    seed: int = 3,
) -> Capture:  # fmt: skip
    """A sheet worn and laid on the glass."""
    rng = np.random.default_rng(seed)
    surface = worn(sheet, paper, wear or Wear(age=0.3, foxing=0.1), rng, back)
    return scan(surface, sheet.words, glass or Glass(), sheet.ppi, rng)


@pytest.fixture(scope="session")
def typed_page() -> Callable[..., Raster]:
    """Makes rasters of typed pages: ``typed_page(tilt=1.5, margins_mm=…)``."""

    def make(lines: int = 14, **glass: Any) -> Raster:
        made = captured(typed_sheet(lines), Glass(**glass))
        return Raster(made.pixels, (150.0, 150.0))

    return make
