"""Pages with the words that are on them, in the order in which they are to be read: every layout, every wear."""

import random
from typing import NamedTuple

from rapidfuzz.distance import Levenshtein

from benchmarks.accuracy.degraded import HARMS, Harm, degraded
from benchmarks.accuracy.legibility import SPOILS
from hollowstack.core.measure import measure
from hollowstack.core.ocr.model import Reading, Word
from hollowstack.core.page.geometry import Transform
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.reading import read_rendered
from hollowstack.core.settings.treatment import Treatment

WEARS: dict[str, tuple[Harm, float, float]] = {
    **{name: (harm, 0.3, 1.25) for name, harm in HARMS.items()},
    # As bad as pages get that anybody would still have read.
    **{
        name: (Harm("everyday", {}, {}, SPOILS[name]), 0.02, most)
        for name, most in (("blurred", 0.5), ("moved", 0.4), ("grainy", 0.9), ("coarse", 0.6))
    },
}
"""What happened to a page, with the least and the most of it."""
LAYOUTS = ("prose", "columns", "table", "few lines", "letter", "noted", "tally", "headed", "form", "ledger")


class Read(NamedTuple):
    """A page that was read: what is on it, each word of the reading with what is written there, and how many errors."""

    layout: str
    wear: str
    amount: float
    reading: Reading
    truth: str
    words: list[tuple[Word, str]]
    """Each word read with what is written in its place; empty where nothing is."""
    unread: int
    """Characters of words in whose place nothing was read."""

    @property
    def cer(self) -> float:
        """Character errors a character of the truth, words in order, one space between two."""
        return error_rate(self.truth, " ".join(self.reading.text.split()))

    @property
    def wer(self) -> float:
        """Word errors a word of the truth."""
        said, read = self.truth.split(), self.reading.text.split()
        return Levenshtein.distance(said, read) / len(said)


def error_rate(truth: str, read: str) -> float:
    """Edit distance of characters over the length of the truth."""
    return Levenshtein.distance(truth, read) / max(1, len(truth))


def read_one(task: tuple[str, str, int]) -> Read:
    """Draw, wear, capture, correct and read a page of a layout."""
    layout, wear, seed = task
    harm, least, most = WEARS[wear]
    # More bad pages than good ones: most are read without an error until little is left of them.
    amount = most - (most - least) * random.Random(seed).random() ** 2
    page = degraded(layout, seed, harm, amount)
    scale = page.image.width / page.width
    ppi = 300.0 * scale
    image = Raster(page.image.pixels, (ppi, ppi))
    plan = plan_page(measure(image), Treatment())
    reading = read_rendered(image, plan, "eng")
    onto = Transform.onto(plan.quad, *plan.size_px)
    known = []
    for word in page.words:
        left, top, right, bottom = (value * scale for value in word.box)
        corners = onto.apply([(left, top), (right, top), (right, bottom), (left, bottom)])
        known.append((word.text, (*corners.min(axis=0), *corners.max(axis=0))))
    found: list[tuple[Word, str]] = []
    met: set[int] = set()
    for word in reading.words:
        inside = [at for at, (_, box) in enumerate(known) if _share(word.box, box) > 0.5]
        met.update(inside)
        found.append((word, " ".join(known[at][0] for at in inside)))
    unread = sum(len(text) for at, (text, _) in enumerate(known) if at not in met)
    return Read(layout, wear, amount, reading, page.text, found, unread)


def _share(one, other) -> float:  # type: ignore[no-untyped-def]
    """How much of the smaller of two boxes the other covers."""
    wide = min(one[2], other[2]) - max(one[0], other[0])
    high = min(one[3], other[3]) - max(one[1], other[1])
    if wide <= 0 or high <= 0:
        return 0.0
    least = min((box[2] - box[0]) * (box[3] - box[1]) for box in (one, other))
    return float(wide * high / max(1, least))


def tasks(seed: int, count: int) -> list[tuple[str, str, int]]:
    """Layouts and wears in turn, each combination once before any comes again."""
    both = [(layout, wear) for wear in WEARS for layout in LAYOUTS]
    random.Random(seed).shuffle(both)
    return [(*both[number % len(both)], seed + number) for number in range(count)]
