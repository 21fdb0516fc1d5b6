"""What counts as ink on dark, pale and empty pages."""

import numpy as np
import pytest

from hollowstack.core.imaging.ink_limit import PALEST, ink_limit


def page(ink: float | None, noise: float = 0.01) -> np.ndarray:
    """Evened paper with a twentieth of it inked."""
    light = np.random.default_rng(1).normal(1, noise, (400, 300)).astype(np.float32)
    if ink is not None:
        light[::20] = ink
    return light


@pytest.mark.parametrize("ink", [0.1, 0.4, 0.55])
def test_dark_writing_has_the_usual_limit(ink):
    assert ink_limit(page(ink), 0.7) == 0.7


@pytest.mark.parametrize("ink", [0.65, 0.75, 0.82])
def test_pale_writing_is_taken_in_and_paper_is_not(ink):
    assert ink < ink_limit(page(ink), 0.7) <= PALEST


@pytest.mark.parametrize("noise", [0.005, 0.02, 0.04])
def test_an_empty_page_and_what_shines_through_have_no_ink(noise):
    assert ink_limit(page(None, noise), 0.7) == 0.7
    assert ink_limit(page(0.95, 0.005), 0.7) == 0.7


def test_a_snippet_has_a_limit_too():
    assert ink_limit(np.ones((1, 1), np.float32), 0.7) == 0.7
