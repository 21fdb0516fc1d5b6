"""Reading a planned page: the corrected page or the image as it came, whichever the engine is surer of."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from hollowstack.core.ocr.lighting import evenly_lit
from hollowstack.core.ocr.model import Box
from hollowstack.core.ocr.reading import Reading, read_page
from hollowstack.core.ocr.rows import read_figures, read_rows
from hollowstack.core.page.geometry import Transform
from hollowstack.core.page.raster import ASSUMED_PPI, Pixels, Raster, as_pixels
from hollowstack.core.plan.plan import Plan
from hollowstack.core.read.doubts import with_doubts, with_second_look
from hollowstack.core.read.in_pictures import without_pictures
from hollowstack.core.read.not_words import without_marks
from hollowstack.core.read.order import in_reading_order, with_line
from hollowstack.core.read.proposing import guess_language
from hollowstack.core.read.unread import lone_figures, rows_of, unread_letters, unread_rows
from hollowstack.core.render import render_for_reading

_ASKEW_DEG = 2.0
"""Tilt up to which the OCR engine reads lines as well as level ones."""
_WELL, _FEW_WORDS = 80.0, 5
"""Mean confidence and number of words of a reading that another try would hardly better."""
_UNSURE = 40.0
_BETTER = 1.08


def read_rendered(image: Raster, plan: Plan, language: str, page: Raster | None = None) -> Reading:
    """Read the clean page of an image, one in two tones as it is before them; words lie where they lie on the bound page.

    Where the engine is unsure, it is given the image as it came, too, and the reading of which it is surer is kept; what the
    other one holds where they differ is an alternative.

    Args:
        image: The page as captured.
        plan: What is done to it.
        language: Models to use.
        page: The clean page, where it is at hand.

    Raises:
        ReadError: A language model is missing.
    """

    return read_with_ground(image, plan, language, page).reading


class ReadPage(NamedTuple):
    """A reading, and the page that its words lie on: in gray, before two tones, dark on light."""

    reading: Reading
    ground: Pixels


def read_with_ground(image: Raster, plan: Plan, language: str, page: Raster | None = None) -> ReadPage:
    """As ``read_rendered``, with the page on which the words are to be found."""
    clean = page if page is not None and plan.colour != "bitonal" else render_for_reading(image, plan)
    clean = Raster(as_pixels(255 - clean.pixels), clean.ppi) if plan.inverse else clean
    gray = clean.gray()

    def corrected() -> Reading:
        return _read_in_any_light(gray, language, plan.letter_px)

    def untouched() -> Reading:
        return _read_as_it_came(image, plan, language)

    # Two tones lose nothing by lying a little askew, and something by being resampled.
    crisp = plan.two_tones is not None and plan.two_tones.method == "middle" and abs(plan.skew_deg) < _ASKEW_DEG
    first, other = (untouched, corrected) if crisp else (corrected, untouched)
    reading = first()
    if not _reads_well(reading):
        again = other()
        kept, second = (again, reading) if _worth(again) > _BETTER * _worth(reading) else (reading, again)
        reading = with_second_look(kept, second)
    reading = without_pictures(without_marks(reading), gray.pixels)
    reading = _with_rows(reading, gray, language, plan.letter_px)
    guess = guess_language(reading, gray)
    return ReadPage(with_doubts(in_reading_order(reading.model_copy(update={"guess": guess}))), gray.pixels)


def _with_rows(reading: Reading, gray: Raster, language: str, letter_px: float | None) -> Reading:
    """With rows of letters that the engine passed over, read one by one; what it makes nothing of is counted."""
    letters = unread_letters(gray.pixels, reading, letter_px)
    if letters is None:
        return reading
    reading = _with_numbers(reading, gray, language, lone_figures(letters, reading))
    rows = rows_of(letters)
    if not rows:
        return reading
    blocks = list(reading.blocks)
    for line in read_rows(gray, [row.box for row in rows], language):
        blocks = with_line(blocks, line)
    more = without_pictures(without_marks(reading.model_copy(update={"blocks": blocks})), gray.pixels)
    left = unread_rows(gray.pixels, more, letter_px)
    return more.model_copy(update={"unread": sum(row.letters for row in left)})


def _with_numbers(reading: Reading, gray: Raster, language: str, figures: Sequence[Box]) -> Reading:
    """With page numbers of a figure or two that stand alone, passed over or left out; what is none stays as it is."""
    if not reading.words:
        return reading
    first, last = min(word.box[1] for word in reading.words), max(word.box[3] for word in reading.words)
    again = {word.box for word in reading.left_out if word.text.isdigit() and (word.box[3] <= first or word.box[1] >= last)}
    blocks = list(reading.blocks)
    left_out = list(reading.left_out)
    places = [*figures, *sorted(again)]
    if not places:
        return reading
    for place, line in zip(places, read_figures(gray, places, language), strict=True):
        if line is not None:
            blocks = with_line(blocks, line)
            left_out = [word for word in left_out if word.box != place]
    return reading.model_copy(update={"blocks": blocks, "left_out": left_out})


def _read_in_any_light(gray: Raster, language: str, letter_px: float | None) -> Reading:
    """Pages whose light was not evened, as there are pictures on them, are read in even light, too: either may be better."""
    reading = read_page(gray, language, letter_px)
    even = evenly_lit(gray.pixels, letter_px)
    if even is None:
        return reading
    again = read_page(Raster(even, gray.ppi), language, letter_px)
    return again if _worth(again) > _worth(reading) else reading


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
    reading = read_page(turned, language, denoise=False)
    back = Transform.turn(plan.turn, image.width, image.height).inverse()
    onto = back.then(Transform.onto(plan.quad, *plan.size_px))
    return reading.moved(onto, plan.size_px).model_copy(update={"as_captured": True})
