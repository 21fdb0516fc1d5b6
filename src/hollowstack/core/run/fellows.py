"""The pages of a run seen together: what shows only among their fellows goes to the report of the page where it shows."""

from collections import Counter
from collections.abc import Sequence

from hollowstack.core.arrange.order import DocumentRule, document_starts
from hollowstack.core.check import Read, unsure_of_turn
from hollowstack.core.check.sequence import number_candidates
from hollowstack.core.check.stack import Fellow, check_stack
from hollowstack.core.check.twice import Looks
from hollowstack.core.page.raster import MM_PER_INCH
from hollowstack.core.read.same_text import text_sketch
from hollowstack.core.run.pipeline import PageResult
from hollowstack.core.run.report import PageReport

Done = tuple[PageReport, PageResult | None]
"""What came of a page: its entry, and the page itself unless it failed."""


def among_fellows(done: Sequence[Done], rule: DocumentRule) -> list[Done]:
    """The same with findings of numbers missing, doubled, out of place, pages there twice, and odd sizes."""
    starts = set(document_starts([(False, entry.reason or "") for entry, _ in done], rule))
    images = Counter((entry.source, entry.frame) for entry, _ in done)
    kept: list[int] = []
    fellows: list[Fellow] = []
    for place, (entry, result) in enumerate(done):
        if result is not None and result.image is not None:
            kept.append(place)
            # The halves of a split image share its bytes, and are measured as one.
            whole = images[entry.source, entry.frame] == 1
            image = f"{entry.source_sha256}:{entry.frame}" if whole else ""
            fellows.append(fellow_of(place, image, result, starts=place in starts))
    out = list(done)
    for at, finding in check_stack(fellows):
        entry, result = out[kept[at]]
        out[kept[at]] = entry.model_copy(update={"findings": [*entry.findings, finding]}), result
    return out


def fellow_of(place: int, image: str, result: PageResult, *, starts: bool = False) -> Fellow:
    """What a page is known by among its fellows: ``place`` from 0, ``image`` its bytes, empty where they show two pages."""
    reading, (width, height), ppi = result.reading, result.plan.size_px, result.plan.ppi
    looks = Looks(
        image=image,
        bits=result.measurements.perceptual_hash if image else "",
        sketch=text_sketch(reading) if reading else "",
    )
    numbers = number_candidates(reading) if reading else []
    size_mm = (width / ppi[0] * MM_PER_INCH, height / ppi[1] * MM_PER_INCH)
    asks = unsure_of_turn(result.measurements, Read.of(reading) if reading else None)
    return Fellow(place + 1, looks, numbers, size_mm, None if asks else result.plan.turn, asks, starts)
