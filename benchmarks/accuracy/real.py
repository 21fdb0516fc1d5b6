"""Real pages with truths set down by hand, where their folder is there (``HOLLOWSTACK_REAL_PAGES``, or beside the project).

The pages are from the general image library Leptonica 1.82.0 (folder prog/ of its source package, BSD-like licence). The
yardstick is Tesseract's own PDF of the untouched pages.
"""

import importlib
import json
import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

from benchmarks.accuracy.truth import Row

FOLDER = Path(os.environ.get("HOLLOWSTACK_REAL_PAGES", Path(__file__).resolve().parents[3] / "shared" / "real"))


def rows(seed: int, each: int) -> list[Row]:
    """Page by page and in total; ``seed`` and ``each`` do not matter here."""
    del seed, each
    if not (FOLDER / "truth.json").exists():
        print(f"         real pages: there is no folder {FOLDER.name} with pages and truths; left out")
        return []
    sys.path.insert(0, str(FOLDER))
    score, baseline = (importlib.import_module(name) for name in ("score", "baseline"))
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder)
        start = time.perf_counter()
        command = [sys.executable, "-m", "hollowstack.cli", "process", str(FOLDER / "pages"), "--out", str(out)]
        subprocess.run([*command, "--name", "real"], check=False, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        wall = time.perf_counter() - start
        report = json.loads((out / "report.json").read_text())
        base = baseline.measure(out / "baseline.json")
        found, said = score.score(report, base, out / "real.pdf", wall)
        print(*(f"         {line}" for line in said), sep="\n")
        texts = {Path(page["source"]).name: (page.get("ocr") or {}).get("text") or "" for page in report["pages"]}
        below = _below(score, texts, {name: page["text"] for name, page in base["pages"].items()})
    return [*_told(found, below), *_geometry(found)]


def _below(score: Any, texts: dict[str, str], base: dict[str, str]) -> list[str]:
    """Passages of which the untouched page gives more words."""
    pairs = zip(score.passages(texts), score.passages(base), strict=True)
    return [
        f"{ours['file']} {ours['recall']:.3f} < {theirs['recall']:.3f}"
        for ours, theirs in pairs
        if ours["recall"] < theirs["recall"]
    ]


def _told(found: dict[str, Any], below: list[str]) -> list[Row]:
    turned, of = found["orientation_right"], found["orientation_of"]
    kept, pages = found["content_kept"], found["content_of"]
    words = f"words {found['recall']:.3f}, CER {found['cer']:.3f} (yardstick {found['base_recall']:.3f}, {found['base_cer']:.3f})"
    return [
        Row("real pages: turned right", f"{turned} of {of}", "all", turned == of),
        Row("real pages: print kept", f"{kept} of {pages}", "all", kept == pages),
        Row("real pages: spread split", "no" if found["spread_unsplit"] else "yes", "yes", not found["spread_unsplit"]),
        Row("real pages: single ones split", str(found["wrongly_split"]), "0", not found["wrongly_split"]),
        Row("real pages: passages below the yardstick", f"{words}; {len(below)}: {'; '.join(below)}", "none", not below),
    ]


def _geometry(found: dict[str, Any]) -> list[Row]:
    dark, strip = found["dark_left_mean"], found["neighbour_left_mean"]
    mean, worst, ratio = found["skew_mean"], found["skew_worst"], found["bytes_ratio"]
    return [
        Row("real pages: dark surroundings left", f"{100 * dark:.0f} %", "≤ 5 %", dark <= 0.05),
        Row("real pages: neighbour's strip left", f"{100 * strip:.0f} %", "≤ 15 %", strip <= 0.15),
        Row("real pages: tilt", f"mean {mean:.3f}°, worst {worst:.2f}°", "≤ 0.08°, ≤ 0.3°", mean <= 0.08 and worst <= 0.3),
        Row("real pages: bytes against the yardstick", f"{ratio:.2f}", "≤ 0.6", ratio <= 0.6),
    ]
