"""Pages that are there twice: the same image, or one page captured a second time."""

from collections.abc import Sequence
from typing import Literal, NamedTuple

from hollowstack.core.measure.content.perceptual_hash import alike, drawn_apart
from hollowstack.core.read.same_text import resemblance

_NEAR = 0.26
"""Share of their bits in which the looks of two captures of one page differ at most, where their texts agree."""
_NEAR_ALONE = 0.12
"""The same where there is no text to compare."""
_NEAR_DRAWN = 0.5
"""There they differ in no more than this share of the bits that either has set: flat paper, of which most of two drawings,
or of two short notices, is made, is alike on all pages. Measured on real pages, cards, letters and line drawings: of 35
pairs in two tones that were taken for one page 5 are left, and of 45 pages captured twice none is missed."""
_SAME_TEXT = 0.45
"""Share of their text that two readings of one page have in common at least; both are read with errors."""


class Looks(NamedTuple):
    """By what a page is known again."""

    image: str
    """Names the bytes that it was captured as; empty where they are not known."""
    bits: str
    """``measure.content.perceptual_hash`` of the page; empty where it has none."""
    sketch: str
    """``read.same_text`` of its text; empty where there is little."""


class Twice(NamedTuple):
    """The page ``at`` an index is there already, as ``first``."""

    at: int
    first: int
    kind: Literal["same image", "recaptured"]
    share: float | None
    """How much of their text they have in common; None where that was not compared."""


def find_twice(pages: Sequence[Looks]) -> list[Twice]:
    """Pages that are there before, each with the first page that it repeats, in order."""
    found: dict[int, Twice] = {}
    first_of: dict[str, int] = {}
    for at, page in enumerate(pages):
        if not page.image:
            continue
        if page.image in first_of:
            found[at] = Twice(at, first_of[page.image], "same image", None)
        first_of.setdefault(page.image, at)
    for one, other, apart in alike([page.bits for page in pages], _NEAR):
        if other in found or one in found:
            continue
        share = _share(pages[one].sketch, pages[other].sketch)
        if share is None:
            same = apart <= _NEAR_ALONE and drawn_apart(pages[one].bits, pages[other].bits) <= _NEAR_DRAWN
        else:
            same = share >= _SAME_TEXT
        if same:
            found[other] = Twice(other, one, "recaptured", share)
    return [found[at] for at in sorted(found)]


def _share(one: str, other: str) -> float | None:
    """How much two texts have in common; None where neither page has text enough, 0 where only one has."""
    if not one and not other:
        return None
    return float(resemblance(one, [other])[0]) if one and other else 0.0
