"""How much of a page is picture."""

from hollowstack.core.measure import Measurements
from hollowstack.core.page.raster import ASSUMED_PPI, MM_PER_INCH

PICTURES = frozenset({"picture", "half-tone"})
"""Kinds of regions that are continuous tone, or stand for it."""
SOLIDS = frozenset({"solid", "inverse"})
"""Kinds that a woodcut, a poster, a cover is made of."""


def more_picture_than_text(found: Measurements) -> bool:
    """Whether pictures, solids and white on black cover more of a page than its text does."""
    pictures = sum(region.area_mm2 for region in found.regions if region.kind in PICTURES | SOLIDS)
    return pictures > sum(region.area_mm2 for region in found.regions if region.kind == "text")


def picture_share(found: Measurements) -> float:
    """Share of a page, 0 to 1, that is continuous tone."""
    across, down = (MM_PER_INCH / v for v in found.ppi or (ASSUMED_PPI, ASSUMED_PPI))
    page_mm2 = found.page_quad.area() * across * down
    return sum(region.area_mm2 for region in found.regions if region.kind in PICTURES) / max(page_mm2, 1.0)
