"""What the measurements of a page give reason to look at. A finding never changes a page."""

from typing import NamedTuple

from hollowstack.core.check.border import box_of, check_border
from hollowstack.core.check.finding import Finding, Verdict
from hollowstack.core.check.photograph import check_photograph
from hollowstack.core.check.quality import check_quality
from hollowstack.core.measure import SURE_OF_TURN, Measurements
from hollowstack.core.ocr.model import Guess, Reading
from hollowstack.core.page.raster import ASSUMED_PPI, MM_PER_INCH
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import sure_of_skew
from hollowstack.core.read.languages import language_name
from hollowstack.core.read.proposing import worth_saying

__all__ = ["Finding", "Read", "Verdict", "check_page", "unsure_of_turn"]

_SURE_OF_EDGES = 0.85
_NOISE = 45.0
"""Mean word confidence below which a reading is noise, whatever the image (so are those in another script)."""
_LEGIBLE = 70.0
"""Mean word confidence below which a reading is not to be relied on (common practice, no source)."""


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

    @classmethod
    def of(cls, reading: Reading) -> "Read":
        """Of a reading."""
        return cls(
            len(reading.words), reading.mean_confidence, reading.as_captured, reading.language, reading.guess, _sure(reading)
        )


def check_page(found: Measurements, plan: Plan, reading: Read | None) -> list[Finding]:
    """All checks of one page, passed ones too, so that a report shows what was looked at.

    Args:
        found: What was measured.
        plan: What is done about it.
        reading: What was read; None where nothing was.
    """
    if found.separator:
        return []
    blank = found.marks == 0
    photo = check_photograph(found)
    findings = photo or [
        _limit(
            "resolution", None if found.ppi is None else min(found.ppi), 150.0,
            good=_resolution_words(found, plan),
            bad="The file does not say its resolution; 300 ppi were taken." if found.ppi is None
            else f"Only {min(found.ppi):g} ppi: small print may not be legible.",
        ),
    ]  # fmt: skip
    if not blank:
        findings += [
            Finding(
                check="orientation", verdict="pass", value=found.turn_confidence, limit=SURE_OF_TURN,
                message=_upright(found, plan, reading),
            ),
            _limit(
                "tilt", found.skew_confidence, sure_of_skew(found),
                good=f"Levelled by {-plan.skew_deg:+.2f}°." if plan.skew_deg else "Level as captured.",
                bad="No clear text lines to level by: look whether it is straight.",
            ),
        ]  # fmt: skip
    if plan.aside == "blank" and found.pale_traces is not None:
        message = "It was held aside as blank, and something very pale may stand here: look whether it does."
        findings.append(
            Finding(
                check="blank",
                verdict="review",
                value=None,
                limit=None,
                message=message,
                spot=box_of(found.pale_traces, found.size_px),
            )
        )
    if not photo:
        quality = [_as_read(one, reading) for one in check_quality(found)]
        findings += [*check_border(found, plan), *(one for one in quality if not _of_picture(one, found, reading))]
    if found.gutter is not None:
        message = "These look like two facing pages: split them, if they are."
        findings.append(Finding(check="facing pages", verdict="review", value=None, limit=None, message=message))
    if found.lid_seen and not photo:
        findings.append(
            _limit(
                "page edges", found.edges_confidence, _SURE_OF_EDGES,
                good="All four edges found.", bad="An edge of the page is uncertain: look whether anything is cut off.",
            )
        )  # fmt: skip
    if reading is not None:
        findings += _check_reading(found, plan, reading)
    return findings


def unsure_of_turn(found: Measurements, reading: Read | None) -> bool:
    """Whether nothing on a page tells which way is up; whether that is worth a look, its fellows say (``check.stack``)."""
    if found.marks == 0 or found.separator or found.turn_confidence >= SURE_OF_TURN:
        return False
    return reading is None or reading.sure_words < _READ_UPRIGHT


def _upright(found: Measurements, plan: Plan, reading: Read | None) -> str:
    if unsure_of_turn(found, reading):
        return "Too little text to tell which way is up: left as captured."
    if found.turn_confidence < SURE_OF_TURN:
        return "Upright, as its words were read."
    return f"Upright after a turn of {plan.turn}°." if plan.turn else "Upright as captured."


def _as_read(finding: Finding, read: Read | None) -> Finding:
    """Writing that reads well is sharp enough, whatever its edges measure; on plates and carbon copies they are soft."""
    soft = finding.check == "sharpness" and finding.verdict != "pass"
    if not soft or read is None or read.sure_words < max(_READ_SHARP, _SHARE * read.words):
        return finding
    return finding.model_copy(update={"verdict": "pass", "spot": None, "message": "Its edges are soft, and it reads well."})


_MOSTLY_PICTURE = 0.2
"""Share of the page in pictures from which, where little is written, the pictures' own edges and tones are measured."""
_PICTURES = frozenset({"picture", "half-tone"})


def _of_picture(finding: Finding, found: Measurements, read: Read | None) -> bool:
    """Whether a finding of a page's writing is one of the pictures on it."""
    if finding.verdict == "pass" or finding.check not in {"sharpness", "even light", "contrast", "grain"}:
        return False
    if read is not None and read.sure_words >= _READ_SHARP:
        return False
    across, down = found.ppi or (ASSUMED_PPI, ASSUMED_PPI)
    page_mm2 = found.size_px[0] / across * found.size_px[1] / down * MM_PER_INCH**2
    return sum(one.area_mm2 for one in found.regions if one.kind in _PICTURES) >= _MOSTLY_PICTURE * page_mm2


_SURE_WORD, _LETTERS = 88.0, 3
_READ_UPRIGHT = 3
"""So many sure words say that a page is upright: upside down none are read, or single ones by chance."""
_READ_SHARP, _SHARE = 12, 0.85
"""So many sure words, that share of all, say that writing is sharp enough, whatever its edges measure."""


def _sure(reading: Reading) -> int:
    return sum(word.confidence >= _SURE_WORD and sum(map(str.isalpha, word.text)) >= _LETTERS for word in reading.words)


def _check_reading(found: Measurements, plan: Plan, read: Read) -> list[Finding]:
    if read.guess is not None and worth_saying(read.guess, read.language):
        # How sure the words are says nothing then: they were read in another language.
        seems, was = language_name(read.guess.language), language_name(read.language)
        message = f"It seems to be written in {seems}, and was read as {was}: have it read in {seems}."
        return [
            Finding(check="language", verdict="review", value=read.guess.sure, limit=None, message=message),
        ]
    if read.words:
        how = " of the image as it came, where they are read best" if read.as_captured and not _as_it_came(plan) else ""
        good, bad = f"{read.words} words read{how}.", "The words are uncertain: look whether the page is legible."
        if _NOISE < read.confidence < _LEGIBLE and all(one.verdict == "pass" for one in check_quality(found)):
            # Its image is good: a hand that the engine reads badly, and a person well.
            good = f"{read.words} words read, uncertain though the image is good, as handwriting is."
            return [Finding(check="reading", verdict="pass", value=read.confidence, limit=_LEGIBLE, message=good)]
        return [_limit("reading", read.confidence, _LEGIBLE, good=good, bad=bad)]
    if found.text_quad is None:
        return []
    # Lines that the engine makes nothing of, as on a page too blurred for it to find any; it gives no confidence then.
    message = "There seem to be lines of text, but no word could be read: look whether the page is legible."
    return [Finding(check="reading", verdict="review", value=None, limit=_LEGIBLE, message=message)]


def _as_it_came(plan: Plan) -> bool:
    """Whether the clean page is in the two tones that the image came in: then reading either is the same."""
    return plan.two_tones is not None and plan.two_tones.method == "middle"


def _resolution_words(found: Measurements, plan: Plan) -> str:
    if found.ppi is not None and plan.ppi[0] > 1.05 * max(found.ppi):
        return f"Enlarged from {found.ppi[0]:g} to {plan.ppi[0]:g} ppi, which adds no detail."
    if found.ppi == found.ppi_said:
        return f"{plan.ppi[0]:g} ppi."
    said = "nothing of its resolution" if found.ppi_said is None else f"{found.ppi_said[0]:g} ppi"
    return f"The file says {said}; by paper size and letters it is {plan.ppi[0]:g} ppi, which is taken."


def _limit(check: str, value: float | None, limit: float, *, good: str, bad: str) -> Finding:
    passed = value is not None and value >= limit
    return Finding(
        check=check, verdict="pass" if passed else "review", value=value, limit=limit, message=good if passed else bad
    )
