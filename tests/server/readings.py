"""Pages whose words are given: what the step of reading leaves of them, gathered."""

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest

from hollowstack.core.ocr.model import Line, Reading, Word, block_of
from hollowstack.core.read.looks import looks_of
from hollowstack.core.run.steps import LOOKS, READING
from hollowstack.server.reading import gathering
from hollowstack.server.stacks.models import Page
from hollowstack.server.storage import places
from tests.server.conftest import walk

SIZE = (1000, 1400)
PICTURE = np.full((SIZE[1], SIZE[0]), 240, np.uint8)
"""The page that all of them are: words that are drawn alike lie in the same columns."""
for _at in range(9):
    _strokes = np.random.default_rng(_at).permutation(np.repeat([30, 240], 5)).repeat(8)
    for _row in range(12):
        PICTURE[100 + 60 * _row : 130 + 60 * _row, 20 + 110 * _at : 100 + 110 * _at] = _strokes


def box_of(line: int, at: int) -> tuple[int, int, int, int]:
    return (20 + 110 * at, 100 + 60 * line, 100 + 110 * at, 130 + 60 * line)


def word(text: str, line: int, at: int, doubt: float = 0.02, *others: str) -> Word:
    return Word(text=text, box=box_of(line, at), confidence=100 * (1 - doubt), doubt=doubt, alternatives=others)


@pytest.fixture
def written(pages: Callable[[int], list[Page]], settings: Any, tmp_path: Any) -> Callable[..., list[Page]]:
    """Pages of one line each, read as they are given: a word is a text, or a text with its doubt and what else it may be."""
    settings.DATA = tmp_path

    def make(*lines: list[Any]) -> list[Page]:
        made = []
        for page, line in zip((walk(page) for page in pages(len(lines))), lines, strict=True):
            read(page, line)
            made.append(page)
        while gathering.gather_some():
            pass
        return made

    return make


def read(page: Page, line: list[Any]) -> None:
    """What the step of reading leaves of a page."""
    keep(page, line_of(line))


def line_of(line: list[Any]) -> Reading:
    return lines_of(line)


def lines_of(*lines: list[Any]) -> Reading:
    made = []
    for row, line in enumerate(lines):
        words = [
            word(one, row, at) if isinstance(one, str) else word(one[0], row, at, *one[1:]) for at, one in enumerate(line)
        ]
        made += [Line(words=words, baseline=(20, 130 + 60 * row, 900, 130 + 60 * row))] if words else []
    return Reading(language="eng", size_px=SIZE, blocks=[block_of(made)] if made else [])


def keep(page: Page, reading: Reading) -> None:
    assert page.reading_id is not None
    folder = places.result_path("read", page.reading_id)
    folder.mkdir(parents=True, exist_ok=True)
    (folder / READING).write_text(reading.model_dump_json())
    (folder / LOOKS).write_bytes(looks_of(reading, PICTURE).tobytes())
