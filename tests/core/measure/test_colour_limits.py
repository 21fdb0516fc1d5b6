"""What mode a page needs, from both sides of what tells pencil, pictures, dyes and stains from ink on paper."""

import cv2
import numpy as np
import pytest

from hollowstack.core.imaging.paper_surface import fit_paper
from hollowstack.core.measure.content.colour import measure_colour
from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.geometry import Quad
from hollowstack.core.page.raster import Raster

PPI = 150.0
MM = PPI / 25.4
SIZE = (round(210 * MM), round(148 * MM))
WHITE = (236, 236, 234)


def from_lab(lightness: float, a: float, b: float) -> tuple[int, int, int]:
    """CIE L*a*b* as 8-bit sRGB, by OpenCV."""
    colour = cv2.cvtColor(np.array([[[lightness, a, b]]], np.float32), cv2.COLOR_LAB2RGB)[0, 0] * 255
    return tuple(int(v) for v in np.clip(np.rint(colour), 0, 255))  # type: ignore[return-value]


def sheet(paper: tuple[int, int, int] = WHITE) -> np.ndarray:
    """Black lines of words on paper."""
    page = np.full((*SIZE, 3), paper, np.uint8)
    for row in range(150, 900, 40):
        for left in range(80, 760, 24):
            page[row : row + 14, left : left + 5] = page[row : row + 4, left : left + 14] = (20, 20, 20)
    return page


def found(page: np.ndarray, regions: tuple[Region, ...] = (), ink: int = 20):
    raster = Raster(page, (PPI, PPI))
    return measure_colour(raster, fit_paper(raster), regions, ink)


def spot(page: np.ndarray, colour: tuple[int, int, int], side_mm: float) -> np.ndarray:
    """A square in the lower margin."""
    side = round(side_mm * MM)
    page[1050 : 1050 + side, 300 : 300 + side] = colour
    return page


def test_ink_on_paper_needs_two_tones():
    assert found(sheet()).content == "bitonal"
    assert found(sheet((226, 214, 180))).content == "bitonal"


@pytest.mark.parametrize(
    ("chroma", "side", "colour"), [(40, 2.2, True), (40, 1.0, False), (11, 4.0, False), (20, 4.0, True)]
)
def test_a_coloured_mark_is_so_large_and_so_coloured(chroma, side, colour):
    """Blue and green, so that no hue of ageing is met."""
    for a, b in ((0.3, -1.0), (-1.0, 0.2)):
        stretch = chroma / np.hypot(a, b)
        made = found(spot(sheet(), from_lab(55, a * stretch, b * stretch), side))
        assert (made.content == "colour") == colour
        assert (made.coloured_percent > 0) == (colour or (chroma > 14 and side >= 1))


@pytest.mark.parametrize(("hue", "colour"), [(80, False), (100, False), (35, True), (130, True), (280, True)])
def test_stains_have_the_hues_of_ageing(hue, colour):
    angle = np.radians(hue)
    page = spot(sheet(), from_lab(60, 38 * np.cos(angle), 38 * np.sin(angle)), 6.0)
    assert (found(page).content == "colour") == colour


@pytest.mark.parametrize(
    ("chroma", "hue", "dyed"),
    [(9.5, 250, True), (5.5, 250, False), (9.5, 20, True), (30, 90, False), (20, 50, False), (20, 125, True)],
)
def test_paper_is_dyed_where_it_is_neither_white_nor_yellow(chroma, hue, dyed):
    angle = np.radians(hue)
    made = found(sheet(from_lab(88, chroma * np.cos(angle), chroma * np.sin(angle))))
    assert made.dyed == dyed
    assert (made.content == "colour") == dyed


@pytest.mark.parametrize(("tone", "content"), [(0.7, "grey"), (0.5, "bitonal"), (0.9, "bitonal")])
def test_pencil_is_neither_dark_nor_faint(tone, content):
    page = sheet()
    for row in (1050, 1080):
        cv2.putText(
            page, "see over", (200, row), cv2.FONT_HERSHEY_SCRIPT_SIMPLEX, 1.2, tuple(int(v * tone) for v in WHITE), 3
        )
    assert found(page).content == content


def test_a_long_thin_rule_is_no_pencil():
    page = sheet()
    page[1000:1003, 80:760] = [int(v * 0.7) for v in WHITE]
    assert found(page).content == "bitonal"
    page[1000:1012, 80:760] = [int(v * 0.7) for v in WHITE]
    assert found(page).content == "grey"


def area(kind: str, level: float) -> Region:
    about = {"certainty": 1.0, "spread": 0.1, "coloured": False, "area_mm2": 400.0}
    return Region(kind=kind, outline=tuple(Quad.rectangle(9, 9, 90, 90)), level=level, **about)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("region", "ink", "content"),
    [
        (area("picture", 0.5), 20, "grey"), (area("half-tone", 0.1), 20, "grey"), (area("solid", 0.15), 20, "bitonal"),
        (area("solid", 0.17), 20, "grey"), (area("solid", 0.3), 60, "bitonal"), (area("solid", 0.32), 60, "grey"),
        (area("fill", 0.9), 20, "grey"), (area("inverse", 0.1), 20, "bitonal"), (area("text", 0.5), 20, "bitonal"),
    ],
)  # fmt: skip
def test_areas_need_grey_unless_they_are_as_black_as_ink(region, ink, content):
    assert found(sheet(), (region,), ink).content == content


@pytest.mark.parametrize(
    ("paper", "dyed"),
    [
        ((149, 168, 172), True),  # as blue as a light sheet of (221, 249, 255), in a darker image
        ((213, 220, 225), False),  # a sensor's cast
        ((128, 132, 135), False),
        ((237, 172, 149), True),  # salmon
        ((198, 166, 124), False),  # brown wrapping paper
        ((232, 205, 190), False),  # reddened by age
    ],
)
def test_dyed_is_told_from_aged_and_from_a_cast_however_dark_the_image(paper, dyed):
    assert found(np.full((*SIZE, 3), paper, np.uint8)).dyed == dyed
