"""``make bench``: seconds a page for each step, against the physical floor and against Tesseract alone, in one run.

The floor is what the libraries need for the bare physics of a page: decode, one bicubic warp, one JPEG encode. Ratios hold
across machines, seconds do not. Memory is the peak of a process that did nothing else. Needs nothing but the demo's pages.
"""

import argparse
import io
import multiprocessing
import resource
import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from PIL import Image

from hollowstack.core.bind.codecs import decode_encoded
from hollowstack.core.decode import decode
from hollowstack.core.measure import measure
from hollowstack.core.ocr.engine import set_page, text_engine
from hollowstack.core.run.clock import Clock
from hollowstack.core.run.pipeline import process_page
from hollowstack.core.settings.treatment import Treatment

DEMO = Path(__file__).parents[1] / "demo" / "skerry-light"
PAGES = [
    ("typed letter, colour A4", "01 letter 1a.jpg", 0),
    ("watch log, colour, lid", "02 log 157.jpg", 0),
    ("invoice, colour PNG", "03 invoice 2260.png", 0),
    ("index card", "04 card 41.jpg", 0),
    ("report, bitonal G4", "05 report on the lantern.tif", 0),
    ("notice, grey PDF", "06 notices.pdf", 0),
]


def timed(function: Callable[[], Any], runs: int) -> float:
    """Median seconds."""
    took = []
    for _ in range(runs):
        start = time.perf_counter()
        function()
        took.append(time.perf_counter() - start)
    return statistics.median(took)


def floor(path: Path, frame: int, runs: int) -> float:
    """Decode, one bicubic warp of the whole image, one JPEG encode: by the libraries alone."""
    image = decode(path, frame).pixels
    height, width = image.shape[:2]
    turn = cv2.getRotationMatrix2D((width / 2, height / 2), 1.0, 1.0)

    def encode() -> None:
        Image.fromarray(image).save(io.BytesIO(), "JPEG", quality=50, progressive=True, subsampling=2)

    return (
        timed(lambda: decode(path, frame), runs)
        + timed(lambda: cv2.warpAffine(image, turn, (width, height), flags=cv2.INTER_CUBIC), runs)
        + timed(encode, runs)
    )


def tesseract_alone(pixels: np.ndarray, ppi: float, runs: int) -> float:
    """The engine on the same clean page, without anything around it."""
    engine = text_engine("eng")
    gray = pixels if pixels.ndim == 2 else cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY)

    def read() -> None:
        set_page(engine, gray, ppi)
        engine.Recognize()
        engine.Clear()

    return timed(read, runs)


def peak_mb(path: str, frame: int, ocr: bool) -> float:
    """Peak resident memory of a fresh process that works on one page."""
    with multiprocessing.get_context("spawn").Pool(1) as pool:
        return pool.apply(_work, (path, frame, ocr))


def _work(path: str, frame: int, ocr: bool) -> float:
    process_page(Path(path), frame, Treatment(), "eng" if ocr else None)
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--runs", type=int, default=3)
    runs = parser.parse_args().runs
    cv2.setNumThreads(1)
    process_page(DEMO / PAGES[3][1], 0, Treatment(), "eng")  # load models and code
    print(
        f"{'page':<26}{'decode':>8}{'measure':>9}{'render':>8}{'encode':>8}{'read':>8}{'floor':>8}{'no OCR/floor ≤2':>16}{'read/OCR':>10}{'kB':>6}"
    )
    for label, name, frame in PAGES:
        path = DEMO / name
        took: dict[str, list[float]] = {step: [] for step in Clock.STEPS}
        for _ in range(runs):
            made = process_page(path, frame, Treatment(), "eng")
            for step, seconds in made.seconds.items():
                took[step].append(seconds)
        middle = {step: statistics.median(seconds) for step, seconds in took.items()}
        bare = floor(path, frame, runs)
        assert made.image is not None
        alone = tesseract_alone(decode_encoded(made.image), made.plan.ppi[0], runs)
        without = sum(seconds for step, seconds in middle.items() if step != "read")
        print(
            f"{label:<26}{middle['decode']:>8.2f}{middle['measure']:>9.2f}{middle['render']:>8.2f}{middle['encode']:>8.2f}"
            f"{middle['read']:>8.2f}{bare:>8.2f}{without / bare:>16.2f}{middle['read'] / alone:>10.2f}{made.image.bytes / 1000:>6.0f}"
        )
    image = decode(DEMO / PAGES[0][1])
    print(f"measuring a colour A4 page at 300 ppi: {timed(lambda: measure(image), runs):.2f} s")
    print(f"peak memory, colour A4 at 300 ppi: {peak_mb(str(DEMO / PAGES[0][1]), 0, False):.0f} MB without OCR", end=", ")
    print(f"{peak_mb(str(DEMO / PAGES[0][1]), 0, True):.0f} MB with")
    strip_line()


def strip_line() -> None:
    """A recorder strip of 1.6 m goes the whole way, reading included."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "strip.tif"
        with multiprocessing.get_context("spawn").Pool(1) as pool:  # drawing it must not count
            width, height = pool.apply(draw_strip, (str(path),))
        start = time.perf_counter()
        peak = peak_mb(str(path), 0, True)
        took = time.perf_counter() - start
    print(f"strip of 1.6 m at 300 ppi, {width} × {height} px, the whole way: {took:.0f} s, {peak:.0f} MB (limit 1500)")


def draw_strip(path: str) -> tuple[int, int]:
    """A curve over ruled paper, with hours written along it, in colour on a dark surround; returns its size in pixels."""
    rng = np.random.default_rng(4)
    width, height, edge = 2500, 18_900, 90
    strip = np.full((height, width, 3), 34, np.uint8)
    strip[edge:-edge, edge:-edge] = (236, 231, 214)
    for row in range(edge + 200, height - edge, 157):
        cv2.line(strip, (edge, row), (width - edge, row), (196, 186, 160), 2)
        cv2.putText(strip, f"{row // 157 % 24} h", (edge + 40, row - 12), cv2.FONT_HERSHEY_SIMPLEX, 1.4, (60, 52, 48), 3)
    rows = np.arange(edge + 100, height - edge - 100, 8)
    along = width / 2 + np.cumsum(rng.normal(0, 6, len(rows))) * 0.9 + 200 * np.sin(rows / 900)
    curve = np.column_stack([np.clip(along, edge + 300, width - edge - 100), rows]).astype(np.int32)
    cv2.polylines(strip, [curve], False, (70, 40, 110), 5, cv2.LINE_AA)
    for top in range(0, height, 2000):  # in parts, so that drawing needs little more than the strip itself
        part = strip[top : top + 2000]
        part[:] = np.clip(part + rng.normal(0, 2.5, (*part.shape[:2], 1)), 0, 255)
    Image.fromarray(strip).save(path, compression="tiff_lzw", dpi=(300, 300))
    return width, height


if __name__ == "__main__":
    main()
