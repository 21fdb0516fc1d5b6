"""How large a document is likely to be: from a sample of its pages, packed as all of them would be."""

from collections.abc import Hashable, Mapping, Sequence
from math import log
from typing import NamedTuple

SAMPLE = 16
"""Pages that are packed to tell how large all are."""
PAGE_BYTES, WORD_BYTES, DOCUMENT_BYTES = 1200, 10, 8500
"""What a page, a word and a document take besides images: within 8 % of what that is in the demo's document, and in one of
26 real pages."""
_OTHER_KIND = 3.0
"""How far apart pages of two kinds are taken to be, where twice the bytes are 0.7 apart."""


class Weighed(NamedTuple):
    """A page as far as it is known: of which kind it is, how many bytes it has now, and how many pixels."""

    kind: Hashable
    bytes: int
    pixels: int


def choose_sample(pages: Sequence[Weighed], most: int = SAMPLE) -> list[int]:
    """Places of pages that stand for all: each the one that is least like those before it, the largest first.

    So pages unlike all others, by which a size is mostly missed, are in it.

    Source:
        T. F. Gonzalez, Clustering to minimize the maximum intercluster distance, 1985: farthest-first traversal.
    """
    if len(pages) <= most:
        return list(range(len(pages)))
    chosen = [max(range(len(pages)), key=lambda at: (pages[at].bytes, -at))]
    far = [_apart(page, pages[chosen[0]]) for page in pages]
    while len(chosen) < most:
        chosen.append(max(range(len(pages)), key=lambda at: (far[at], -at)))
        far = [min(before, _apart(page, pages[chosen[-1]])) for before, page in zip(far, pages, strict=True)]
    return sorted(chosen)


def estimated_bytes(pages: Sequence[Weighed], sampled: Mapping[int, int]) -> list[int]:
    """Bytes of each page, from some: it takes for its pixels what the page of the sample takes that is most like it.

    Args:
        pages: All of them.
        sampled: Bytes by place of those that were packed; at least one.
    """
    found = []
    for place, page in enumerate(pages):
        like = place if place in sampled else min(sampled, key=lambda one: (_apart(page, pages[one]), one))
        found.append(round(sampled[like] * page.pixels / max(1, pages[like].pixels)))
    return found


def _apart(one: Weighed, other: Weighed) -> float:
    """How unlike two pages are: by the logarithms of their bytes and pixels, and by kind."""
    by_bytes = log(max(1, one.bytes) / max(1, other.bytes))
    by_pixels = log(max(1, one.pixels) / max(1, other.pixels))
    return abs(by_bytes) + abs(by_pixels) + (0.0 if one.kind == other.kind else _OTHER_KIND)


def beside_images(pages: int, words: int) -> int:
    """What a document takes besides its images."""
    return DOCUMENT_BYTES + pages * PAGE_BYTES + words * WORD_BYTES
