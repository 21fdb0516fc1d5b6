"""What a page needs to be kept in: two tones, grey, or colour."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from hollowstack.core.imaging.background import background_of, normalised_by
from hollowstack.core.imaging.paper_surface import PaperSurface, fit_paper
from hollowstack.core.imaging.registration import registered
from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.raster import Pixels, Raster, as_pixels, is_two_valued

_PPI = 100.0
_SAMPLE = 11
"""Of so many pixels one says what hue the paper has."""
_CHROMA = 14.0
"""CIE C* by which a mark must differ from its paper to be coloured; fringes of a scanner stay below after averaging."""
_COLOURED_MM2 = 2.5
_PIECE_MM2 = 0.5
"""Least area of a coloured piece, and of all together."""
_PAPER_CHROMA, _WHITE = 7.5, 240
"""CIE C* from which paper that is not yellow is dyed, as light as white paper is captured: a sensor's cast over that stays
below, and is the weaker in a darker image."""
_YELLOW = (45.0, 115.0)
"""Hue angles (CIE h, degrees) of aged paper: no colour however strong."""
_SALMON, _SALMON_CHROMA = 58.0, 22.0
"""Below this angle paper as strong in colour as that is dyed: brown wrapping paper, the reddest that age makes, is at 65 and
more, and foxing reddens pale paper alone."""
_MIDTONE_PERCENT = 0.05
_TONE_PPI = 150.0
"""Fine enough for a thin ruled line to be seen as dark as it is."""
_DARK, _LIGHT = 0.62, 0.82
"""Evened gray between which a stroke is a half-tone: pencil, not print."""
_BLACK, _BLACKER = 0.16, 0.05
"""Light of an area, as a share of the paper's, up to which it is black as ink is; and how much lighter than the page's own
ink it may be."""
_CONTENT_SHARE = 0.01
_LUMA = (0.299, 0.587, 0.114)
_EDGE_MM = 2.0
_PICTURE_MM = 4.0
"""Area over half-perimeter from which a piece is no stroke but a picture, if enough of it is half-tone."""


@dataclass(frozen=True, slots=True)
class ColourContent:
    """``content`` is the least mode that keeps what is there; the two percentages say why."""

    content: ColourMode
    dyed: bool
    coloured_percent: float
    midtone_percent: float
    paper: tuple[int, ...]


def measure_colour(
    page: Raster, surface: PaperSurface | None = None, regions: Sequence[Region] | None = None, ink: int = 0
) -> ColourContent:
    """Colour content of a page that was already cut to its edges.

    Coloured marks, and paper dyed any hue but that of ageing, ask for colour; half-tones away from the rims of dark
    strokes (pencil, photographs), pictures, and areas that are neither paper nor as black as ink ask for grey; all else is
    two tones.

    Args:
        page: Gray or colour.
        surface: Its paper; None fits it here.
        regions: What was found on the page; None takes all that is neither paper nor writing for tones.
        ink: Gray of its darkest writing, 0 to 255.

    Source:
        CIE 1976 L*a*b* (ISO/CIE 11664-4:2019) by OpenCV; the limits are ours, set on drawn pages.
    """
    small = page.reduced(_PPI)
    surface = surface or fit_paper(page)
    paper = surface.typical
    gray = small.gray()
    midtone = _midtone_percent(page.gray(), surface.gray().level)
    coloured, dyed = (0.0, False) if page.is_gray else _coloured(small, paper)
    black = max(_BLACK, ink / max(max(paper), 1) + _BLACKER)
    if regions is None:
        areas = float(surface.content.mean()) > _CONTENT_SHARE
    else:
        areas = any(_needs_tones(region, black) for region in regions)
    mm2 = (small.px(25.4) / 25.4) ** 2
    if dyed or coloured / mm2 >= _COLOURED_MM2:
        content: ColourMode = "colour"
    elif is_two_valued(page.pixels) or (midtone < _MIDTONE_PERCENT and not areas):
        content = "bitonal"
    else:
        content = "grey"
    return ColourContent(content, dyed, round(100 * coloured / gray.pixels.size, 3), round(midtone, 3), paper)


def _needs_tones(region: Region, black: float) -> bool:
    """Whether an area would be lost in two tones: a picture, or a flat area that is neither paper nor as dark as ink."""
    if region.kind in {"picture", "half-tone"}:
        return True
    return region.kind in {"solid", "fill", "inverse"} and region.level > black


def _coloured(small: Raster, paper: tuple[int, ...]) -> tuple[float, bool]:
    """Pixels whose hue stands out from the paper, and whether the paper itself is dyed."""
    calm = cv2.GaussianBlur(registered(small).pixels, (3, 3), 0)
    gray = small.gray().pixels
    level = round(float(np.dot(paper, _LUMA)))
    some, its_gray = calm.reshape(-1, 3)[::_SAMPLE], gray.ravel()[::_SAMPLE].astype(np.int16)
    background = some[np.abs(its_gray - level) <= 12]
    paper_a, paper_b = _middle_hue(background) if len(background) else (0.0, 0.0)
    lab = cv2.cvtColor(calm, cv2.COLOR_RGB2LAB)
    # One place of the table for each pair of 8-bit a* and b*: far faster than the same sums for each pixel.
    _, a, b = cv2.split(lab)
    away = as_pixels(np.take(_stands_out(paper_a, paper_b), a.astype(np.uint16) * np.uint16(256) + b))
    # Grain and fringes are scattered; a stamp, a signature or a ruled line hangs together.
    count, _, stats, _ = cv2.connectedComponentsWithStats(away, connectivity=8)
    areas = stats[1:, cv2.CC_STAT_AREA] if count > 1 else np.zeros(0, np.int32)
    solid = areas[areas >= _PIECE_MM2 * (small.px(25.4) / 25.4) ** 2]
    if len(background) and (lighter := _WHITE / max(*paper, 1)) > 1:
        paper_a, paper_b = _middle_hue(np.minimum(background * np.float32(lighter), 255).astype(np.uint8))
    chroma, paper_hue = float(np.hypot(paper_a, paper_b)), float(np.degrees(np.arctan2(paper_b, paper_a)) % 360)
    aged = (_SALMON if chroma >= _SALMON_CHROMA else _YELLOW[0]) < paper_hue < _YELLOW[1]
    dyed = chroma > _PAPER_CHROMA and not aged
    return float(solid.sum()), dyed


def _middle_hue(pixels: Pixels) -> tuple[float, float]:
    """Median a* and b* of some pixels (n, 3)."""
    lab = cv2.cvtColor(pixels[:, None].astype(np.float32) / 255, cv2.COLOR_RGB2LAB)
    return float(np.median(lab[..., 1])), float(np.median(lab[..., 2]))


def _stands_out(paper_a: float, paper_b: float) -> Pixels:
    """1 for each pair of 8-bit a* and b* that is a colour of its own on a paper, by 256 times the first and the second."""
    a, b = np.meshgrid(np.arange(-128.0, 128), np.arange(-128.0, 128), indexing="ij")
    chroma, hue = np.hypot(a, b), np.degrees(np.arctan2(b, a)) % 360
    # Ageing and grime differ along the yellow axis only, and lie in the paper's own direction or towards neutral.
    aged = ((hue > _YELLOW[0]) & (hue < _YELLOW[1]) & (chroma < 45)) | (chroma < 7)
    return as_pixels((np.hypot(a - paper_a, b - paper_b) > _CHROMA) & ~aged).ravel()


def _midtone_percent(gray: Raster, paper: Pixels) -> float:
    """Share of the page in strokes or areas that never become dark: pencil, half-tones, wash; in percent.

    Judged piece by piece, because the rim of every dark stroke is a half-tone too. Long ruled lines do not count.
    """
    fine = gray.reduced(_TONE_PPI)
    edge = fine.px(_EDGE_MM)
    light = normalised_by(fine.pixels, background_of(fine, paper))[edge : fine.height - edge, edge : fine.width - edge]
    if light.size == 0:
        return 0.0
    count, labels, stats, _ = cv2.connectedComponentsWithStats(as_pixels((light < _LIGHT).astype(np.uint8)), connectivity=8)
    dark = np.bincount(labels[light < _DARK], minlength=count)
    area = stats[:, cv2.CC_STAT_AREA]
    wide, high = stats[:, cv2.CC_STAT_WIDTH], stats[:, cv2.CC_STAT_HEIGHT]
    span, thickness = np.maximum(wide, high), area / np.maximum(wide + high, 1)
    between = np.bincount(labels[(light >= _DARK) & (light < _LIGHT)], minlength=count)
    picture = (thickness > fine.px(_PICTURE_MM)) & (between > 0.2 * area)
    soft = picture | ((dark < 0.2 * area) & (span >= fine.px(0.8)) & ~((span > fine.px(40)) & (thickness < fine.px(0.8))))
    soft[0] = False
    return 100 * float(area[soft].sum()) / light.size
