"""How many errors are expected in a text against how many there are, on pages of every wear; error rates by layout."""

from collections import defaultdict

import numpy as np
from scipy.stats import spearmanr

from benchmarks.accuracy.reading_pages import LAYOUTS, Read, read_one, tasks
from benchmarks.accuracy.truth import Row, in_parallel
from hollowstack.core.read.doubts import DOUBTFUL, expected_errors

PAGES = 40
_READABLE = 0.3
"""Of a page with more errors nobody uses the text: whether it is four or nine in ten of its characters, no confidence tells."""


def rows(seed: int, each: int) -> list[Row]:
    """Forty pages where ten of each kind are asked for."""
    count = max(12, PAGES * each // 10)
    pages: list[Read] = [page for page in in_parallel(read_one, tasks(seed, count)) if page.words]
    true = np.array([page.cer for page in pages])
    found = [expected_errors(page.reading) for page in pages]
    said = np.array([one.rate for one in found])
    for layout in LAYOUTS:
        mine = [page for page in pages if page.layout == layout]
        if mine:
            cer, wer = np.mean([page.cer for page in mine]), np.mean([page.wer for page in mine])
            print(f"         {layout:12} pages {len(mine):3}, CER {100 * cer:5.1f} %, WER {100 * wer:5.1f} %")
    away = 100 * float(np.abs(true - said).mean())
    readable = true < _READABLE
    nearly = 100 * float(np.abs(true - said)[readable].mean())
    rank = float(spearmanr(true, said).statistic)
    within = [abs(one.rate - cer) <= 1.96 * one.spread / one.characters for one, cer in zip(found, true, strict=True)]
    wrong, flagged, both = _flagged(pages)
    asked = f"{100 * both / wrong:.0f} %; {100 * both / flagged:.0f} % of those asked are wrong"
    return [
        Row("expected character errors, off by", f"{away:.2f} points on {len(pages)} pages", "≤ 1.5 points", away <= 1.5),
        Row(
            f"… on pages with fewer than {100 * _READABLE:.0f} % of them",
            f"{nearly:.2f} points on {readable.sum()} pages",
            "≤ 1.5 points",
            nearly <= 1.5,
        ),
        Row("expected character errors, ranking", f"Spearman {rank:.3f}", "≥ 0.85", rank >= 0.85),
        Row("truth within the interval", f"{100 * np.mean(within):.0f} % of pages", "≥ 90 %", bool(np.mean(within) >= 0.9)),
        Row("wrong words that are asked about", asked, "≥ 75 %", both >= 0.75 * wrong),
    ]


def _flagged(pages: list[Read]) -> tuple[int, int, int]:
    """Wrong words, doubtful words, and those that are both."""
    told: dict[tuple[bool, bool], int] = defaultdict(int)
    for page in pages:
        for word, truth in page.words:
            told[word.text != truth, word.doubt >= DOUBTFUL] += 1
    return told[True, True] + told[True, False], told[True, True] + told[False, True], told[True, True]
