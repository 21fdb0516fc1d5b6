"""Recall of the demo's words in the reading of its corrected pages, by kind of page."""

import json
from pathlib import Path

import numpy as np

from benchmarks.accuracy.truth import Row
from hollowstack.core.run.pipeline import process_page
from hollowstack.core.settings.treatment import Treatment

DEMO = Path(__file__).parents[2] / "demo" / "skerry-light"
_PUNCTUATION = ".,:;"


def rows(seed: int, each: int) -> list[Row]:
    """The demo's pages are the same for every seed."""
    truth = json.loads((DEMO / ".truth.json").read_text(encoding="utf-8"))
    shares: dict[str, list[float]] = {}
    for name, pages in truth.items():
        kind = name[3:].split(" ")[0].split(".")[0]
        for frame, known in enumerate(pages):
            if known["blank"] or name.startswith("07"):
                continue
            made = process_page(DEMO / name, frame, Treatment(), "eng")
            assert made.reading is not None
            read = {word.strip(_PUNCTUATION) for word in made.reading.text.split()}
            found = [word["text"].strip(_PUNCTUATION) in read for word in known["words"]]
            shares.setdefault(kind, []).append(float(np.mean(found)))
    said = ", ".join(f"{kind} {100 * np.mean(share):.1f} %" for kind, share in shares.items())
    return [Row("words read of the demo's pages", said, "typed and printed ≥ 95 %", _good(shares))]


def _good(shares: dict[str, list[float]]) -> bool:
    return all(np.mean(shares[kind]) >= 0.95 for kind in ("letter", "report", "notices") if kind in shares)
