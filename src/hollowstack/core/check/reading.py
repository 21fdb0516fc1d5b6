"""What a reading gives reason to look at, and what it says of the page besides: that it is upright, and sharp enough."""

import math
from statistics import median
from typing import NamedTuple

from hollowstack.core.check.finding import Finding, at_least
from hollowstack.core.check.quality import check_quality
from hollowstack.core.measure import SURE_OF_TURN, Measurements
from hollowstack.core.ocr.model import Guess, Reading, Word
from hollowstack.core.plan.pictures import picture_share
from hollowstack.core.plan.plan import Plan
from hollowstack.core.read.languages import language_name
from hollowstack.core.read.proposing import worth_saying

_NOISE = 45.0
"""Mean word confidence below which a reading is noise, whatever the image (so are those in another script)."""
_LEGIBLE = 70.0
"""Mean word confidence below which a reading is not to be relied on (common practice, no source)."""
_WELL = 85.0
"""Mean word confidence from which on the few words of a page are read well."""
_OF_PICTURE = 80
"""So many specks of a picture look like letters; a page of blurred writing has hundreds (chosen on drawn plates)."""
_PASSED_OVER, _PASSED_SHARE = 100, 0.15
"""So many letters in rows that hold no word, and that share of all, are text that was passed over; fewer are a stamp, a
signature or a note (chosen on drawn pages of every layout)."""
_PICTURED = 0.02
"""Share of a page in pictures from which letters that nobody has read may be theirs."""
_SURE_WORD, _LETTERS = 88.0, 3
_READ_UPRIGHT = 3
"""So many sure words say that a page is upright: upside down none are read, or single ones by chance."""
_MANY_WORDS = 20
"""So many words that are noise are a page that lies on its head or its side, if it is no picture (chosen)."""
READ_SHARP, _SHARE = 12, 0.85
"""So many sure words, that share of all, say that writing is sharp enough, whatever its edges measure."""
_ASKEW_DEG = 0.4
"""Slope of lines of text that everybody sees (common practice, no source)."""
_LONG_LINE, _LONG_SHARE, _LONG_LINES = 4, 0.3, 4
"""Words and share of the page's width from which a line's own slope is known well, and how many such lines it takes."""
_CAPTION, _CAPTION_SHARE = 3, 0.2
"""Sure words, and share of the page's width, from which one line says that a page lies level."""


class Read(NamedTuple):
    """What the checks go by of a reading."""

    words: int
    confidence: float
    """Mean of all words, 0 to 100."""
    as_captured: bool = False
    """Whether the image as it came was read better than the clean page."""
    language: str = ""
    """What it was read in."""
    guess: Guess | None = None
    """What it seems to be written in."""
    sure_words: int = 0
    """Words of letters, at least three, of which the engine is sure: they are upright, and sharp enough."""
    slope_deg: float | None = None
    """By how much its lines still fall to the right; None where there are too few."""
    level_line: bool = False
    """Whether a line of some sure words, a caption say, runs level."""
    unread: int | None = None
    """About how many letters stand where no word was read; None where nobody has counted them."""
    characters: int = 0
    """Of all words that were read."""
    sideways: bool = False
    """Whether most of its words run up or down the page: engines read those, too."""

    @classmethod
    def of(cls, reading: Reading) -> "Read":
        """Of a reading."""
        return cls(
            len(reading.words), reading.mean_confidence, reading.as_captured, reading.language, reading.guess,
            _sure(reading), _slope(reading), _has_level_line(reading), reading.unread,
            sum(len(word.text) for word in reading.words), _runs_sideways(reading),
        )  # fmt: skip


def check_level(read: Read | None) -> list[Finding]:
    """Whether the lines that were read run level: what levelled the page may have gone by the wrong line."""
    if read is None or read.slope_deg is None or abs(read.slope_deg) < _ASKEW_DEG:
        return []
    way, value = "fall" if read.slope_deg > 0 else "rise", abs(read.slope_deg)
    message = f"The lines still {way} by {value:.1f}° to the right: level the page."
    return [Finding(check="askew", verdict="review", value=value, limit=_ASKEW_DEG, message=message)]


def check_reading(found: Measurements, plan: Plan, read: Read) -> list[Finding]:
    """Whether a page was read in its own language, and whether its words can be relied on."""
    if read.guess is not None and worth_saying(read.guess, read.language):
        # How sure the words are says nothing then: they were read in another language.
        seems, was = language_name(read.guess.language), language_name(read.language)
        message = f"It seems to be written in {seems}, and was read as {was}: have it read in {seems}."
        return [Finding(check="language", verdict="review", value=read.guess.sure, limit=None, message=message)]
    return [*_legible(found, plan, read), *_passed_over(found, read)]


def _passed_over(found: Measurements, read: Read) -> list[Finding]:
    """Whether rows of letters stand where no word was read, beside words that were; the dots of pictures look like some."""
    unread = read.unread or 0
    if (
        not read.words
        or picture_share(found) > _PICTURED
        or unread < max(_PASSED_OVER, _PASSED_SHARE * (read.characters + unread))
    ):
        return []
    message = f"About {unread:,} letters stand where no word was read: see what is missing in the text."
    return [Finding(check="unread", verdict="review", value=unread, limit=_PASSED_OVER, message=message)]


def _legible(found: Measurements, plan: Plan, read: Read) -> list[Finding]:
    """Whether the words that were read can be relied on."""
    if read.words:
        how = " of the image as it came, where they are read best" if read.as_captured and not _as_it_came(plan) else ""
        good, bad = f"{read.words} words read{how}.", "The words are uncertain: look whether the page is legible."
        if _NOISE < read.confidence < _LEGIBLE and all(one.verdict == "pass" for one in check_quality(found)):
            # Its image is good: a hand that the engine reads badly, and a person well.
            good = f"{read.words} words read, uncertain though the image is good, as handwriting is."
            return [Finding(check="reading", verdict="pass", value=read.confidence, limit=_LEGIBLE, message=good)]
        return [at_least("reading", read.confidence, _LEGIBLE, good=good, bad=bad)]
    if found.text_quad is None:
        return []
    # Lines that the engine makes nothing of, as on a page too blurred for it to find any; it gives no confidence then.
    message = "There seem to be lines of text, but no word could be read: look whether the page is legible."
    return [Finding(check="reading", verdict="review", value=None, limit=_LEGIBLE, message=message)]


def _as_it_came(plan: Plan) -> bool:
    """Whether the clean page is in the two tones that the image came in: then reading either is the same."""
    return plan.two_tones is not None and plan.two_tones.method == "middle"


def unsure_of_turn(found: Measurements, reading: Read | None) -> bool:
    """Whether nothing on a page tells which way is up; whether that is worth a look, its fellows say (``check.stack``)."""
    if found.marks == 0 or found.lies_between or found.turn_confidence >= SURE_OF_TURN:
        return False
    return reading is None or reading.sure_words < _READ_UPRIGHT


def reads_like_noise(found: Measurements, read: Read | None) -> bool:
    """Whether there is writing enough, of which hardly a word is read, on a page of which nothing else tells the way up."""
    if read is None or not unsure_of_turn(found, read):
        return False
    other_script = read.guess is not None and worth_saying(read.guess, read.language)
    return read.words >= _MANY_WORDS and read.confidence < _NOISE and not other_script


def where_it_reads_well(finding: Finding, read: Read | None) -> Finding:
    """Writing that reads well is sharp enough, whatever its edges measure; on plates and carbon copies they are soft."""
    soft = finding.check == "sharpness" and finding.verdict != "pass"
    if not soft or read is None or not (_reads_well(read) or few_and_well(read)):
        return finding
    return finding.model_copy(update={"verdict": "pass", "spot": None, "message": "Its edges are soft, and it reads well."})


def _reads_well(read: Read) -> bool:
    return read.sure_words >= max(READ_SHARP, _SHARE * read.words)


def few_and_well(read: Read) -> bool:
    """Whether all the writing there is, a caption as a rule, is read well: what is soft on that page is a picture."""
    few = read.sure_words >= 1 and read.words <= READ_SHARP and read.confidence >= _WELL
    return few and read.unread is not None and read.unread <= _OF_PICTURE


def _runs_sideways(reading: Reading) -> bool:
    """Whether most of the words that are long enough to tell are higher than wide."""
    long = [word for word in reading.words if len(word.text) >= _LETTERS]
    return len(long) >= _READ_UPRIGHT and sum(_is_sideways(word) for word in long) > len(long) / 2


def _is_sideways(word: Word) -> bool:
    left, top, right, bottom = word.box
    return bottom - top > right - left


def _slope(reading: Reading) -> float | None:
    """The usual slope of lines of some length, as the engine laid their baselines; in degrees."""
    slopes = []
    for line in reading.lines:
        x1, y1, x2, y2 = line.baseline
        if len(line.words) >= _LONG_LINE and x2 - x1 >= _LONG_SHARE * reading.size_px[0]:
            slopes.append(math.degrees(math.atan2(y2 - y1, x2 - x1)))
    return round(median(slopes), 2) if len(slopes) >= _LONG_LINES else None


def _has_level_line(reading: Reading) -> bool:
    for line in reading.lines:
        x1, y1, x2, y2 = line.baseline
        sure = len(line.words) >= _CAPTION and min(word.confidence for word in line.words) >= _SURE_WORD
        if (
            sure
            and x2 - x1 >= _CAPTION_SHARE * reading.size_px[0]
            and abs(math.degrees(math.atan2(y2 - y1, x2 - x1))) < _ASKEW_DEG
        ):
            return True
    return False


def _sure(reading: Reading) -> int:
    upright = [word for word in reading.words if not _is_sideways(word)]
    return sum(word.confidence >= _SURE_WORD and sum(map(str.isalpha, word.text)) >= _LETTERS for word in upright)
