"""What pages take once they are bound, and what that costs: layers against one JPEG, JBIG2 against Group 4, words kept.

Of the demo's pages and of the real ones, where those are at hand. Bytes are what they are on any machine; seconds and
megapixels a second are this one's.
"""

import os
import statistics
import time
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

import numpy as np
from skimage.metrics import structural_similarity

from hollowstack.core.bind.codecs import decode_encoded, encode
from hollowstack.core.bind.encoded import TWO_TONES
from hollowstack.core.bind.layers.composing import compose
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.bind.two_tones import encode_two_tones
from hollowstack.core.decode import decode
from hollowstack.core.measure import measure
from hollowstack.core.ocr.reading import read_page
from hollowstack.core.page.errors import DecodeError
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.plan import Plan
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.render import render
from hollowstack.core.run.encoding import encode_page
from hollowstack.core.settings.treatment import Treatment

DEMO = Path(__file__).parents[1] / "demo" / "skerry-light"
REAL = Path(os.environ.get("HOLLOWSTACK_REAL_PAGES", Path(__file__).parents[2] / "shared" / "real")) / "pages"
_SURE = 88.0
_SEEN_PPI = 150.0
"""Resolution at which likeness is told: a page on a screen."""


class Clean(NamedTuple):
    """A clean page, what it was made by, and where it comes from."""

    name: str
    path: Path
    image: Raster
    page: Raster
    plan: Plan


def clean_pages(folder: Path) -> Iterator[Clean]:
    """Every page of a folder's images that is bound."""
    for path in sorted(folder.glob("[!.]*.*")):
        if path.suffix.lower() not in {".jpg", ".png", ".tif"}:
            continue
        try:
            image = decode(path)
        except DecodeError:
            continue  # the demo has a file that was cut short
        plan = plan_page(measure(image), Treatment())
        if plan.aside is None:
            yield Clean(path.name, path, image, render(image, plan), plan)


def words_kept(clean: Clean, shown: np.ndarray) -> float:
    """How many of the words that are read of the clean page for sure are read of the bound one."""
    sure = [word.text for word in read_page(clean.page.gray()).words if word.confidence >= _SURE and len(word.text) > 2]
    found = [word.text for word in read_page(Raster(shown, clean.page.ppi).gray()).words]
    return sum(word in found for word in sure) / len(sure) if sure else 1.0


def likeness(clean: Clean, shown: np.ndarray) -> float:
    """Structural similarity of the whole page, where it is not bare paper."""
    pages = [Raster(one, clean.page.ppi).reduced(_SEEN_PPI).gray().pixels for one in (clean.page.pixels, shown)]
    _, each = structural_similarity(*pages, full=True, gaussian_weights=True, sigma=1.5, use_sample_covariance=False)
    written = np.abs(pages[0].astype(int) - int(np.median(pages[0]))) > 40
    return float(each[written].mean()) if written.any() else 1.0


def main() -> None:
    """Print a row a page, then the sums."""
    encode_two_tones(np.full((40, 40), 255, np.uint8), "JBIG2")  # compiled before anything is timed
    for title, folder in (("the demo's pages", DEMO), ("real pages", REAL)):
        if folder.is_dir():
            print(f"\n{title:34} {'one image':>10} {'bound':>9} {'share':>6} {'s':>6} {'words':>6} {'likeness':>8}")
            _pages(folder)


def _pages(folder: Path) -> None:
    colour: list[int] = []
    took: list[float] = []
    tones, faxes, pixels, packed = 0, 0, 0, 0.0
    for clean in clean_pages(folder):
        start = time.perf_counter()
        made = encode_page(clean.page, clean.plan, clean.path, 0, clean.image)
        seconds = time.perf_counter() - start
        if not isinstance(made, Layered) and made.filter in TWO_TONES:
            fax = encode_two_tones(clean.page.pixels, "Group 4").bytes
            tones, faxes, pixels, packed = tones + made.bytes, faxes + fax, pixels + clean.page.pixels.size, packed + seconds
            print(f"{clean.name:34} {fax:>10,} {made.bytes:>9,} {made.bytes / fax:>6.2f} {seconds:>6.2f}")
            continue
        whole = encode(clean.page, clean.plan.colour, clean.plan.jpeg_quality).bytes
        shown = compose(made) if isinstance(made, Layered) else decode_encoded(made)
        kind = "" if isinstance(made, Layered) else "  one image"
        print(
            f"{clean.name:34} {whole:>10,} {made.bytes:>9,} {made.bytes / whole:>6.2f} {seconds:>6.2f} "
            f"{words_kept(clean, shown):>6.3f} {likeness(clean, shown):>8.3f}{kind}"
        )
        colour.append(made.bytes)
        took.append(seconds)
    if colour:
        print(f"grey and colour: median {statistics.median(colour) / 1000:.1f} kB, {statistics.median(took):.2f} s a page")
    if faxes:
        rate = pixels / 1e6 / packed
        print(f"two tones: {tones / faxes:.3f} of Group 4, {rate:.1f} megapixels a second, decoded again and compared")


if __name__ == "__main__":
    main()
