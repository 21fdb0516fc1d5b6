"""Sizes of paper by name, and the nearest one to a page that was measured.

Source:
    ISO 216:2007 (series A and B), ISO 269:1985 (envelopes; the C series and DL), ANSI/ASME Y14.1 (sizes A to E), and
    the North American office sizes Letter and Legal (common practice; Letter is ANSI A).
"""

from typing import NamedTuple

from hollowstack.core.page.errors import PaperError


class PaperSize(NamedTuple):
    """A sheet upright, in mm."""

    name: str
    width_mm: float
    height_mm: float
    standard: str


_INCH = 25.4


def _iso(series: str, width: int, height: int, last: int, standard: str) -> list[PaperSize]:
    """A series: each size is the one before it cut across its length, rounded down to a whole mm."""
    sizes = []
    for number in range(last + 1):
        sizes.append(PaperSize(f"{series}{number}", width, height, standard))
        width, height = height // 2, width
    return sizes


PAPER_SIZES: tuple[PaperSize, ...] = (
    *_iso("A", 841, 1189, 10, "ISO 216"),
    *_iso("B", 1000, 1414, 10, "ISO 216"),
    *_iso("C", 917, 1297, 10, "ISO 269"),
    PaperSize("DL", 110, 220, "ISO 269"),
    PaperSize("Letter", 8.5 * _INCH, 11 * _INCH, "ANSI A"),
    PaperSize("Legal", 8.5 * _INCH, 14 * _INCH, "common practice"),
    PaperSize("Tabloid", 11 * _INCH, 17 * _INCH, "ANSI B"),
    PaperSize("ANSI C", 17 * _INCH, 22 * _INCH, "ANSI/ASME Y14.1"),
    PaperSize("ANSI D", 22 * _INCH, 34 * _INCH, "ANSI/ASME Y14.1"),
    PaperSize("ANSI E", 34 * _INCH, 44 * _INCH, "ANSI/ASME Y14.1"),
)
"""All that are known, series by series and the largest first."""
_BY_NAME = {size.name.casefold(): size for size in PAPER_SIZES}


def paper_size(name: str) -> PaperSize:
    """A size by its name, in any case. Raises PaperError where there is none."""
    try:
        return _BY_NAME[name.strip().casefold()]
    except KeyError:
        raise PaperError(f"There is no paper size “{name}”: choose A4, Letter or another that has a name.") from None


def nearest_size(width_mm: float, height_mm: float, within: float = 0.02) -> PaperSize | None:
    """The size whose sides both differ from a page's by no more than a share, upright or on its side; the nearest one."""
    short, long = sorted((width_mm, height_mm))
    best, least = None, within
    for size in PAPER_SIZES:
        away = max(abs(short / size.width_mm - 1), abs(long / size.height_mm - 1))
        if away <= least:
            best, least = size, away
    return best
