"""Pictures on a page: what is measured of them and is none of the writing's, and tones that they have lost."""

from hollowstack.core.check.border import box_of
from hollowstack.core.check.finding import Finding
from hollowstack.core.check.reading import READ_SHARP, Read, few_and_well
from hollowstack.core.measure import Measurements
from hollowstack.core.page.raster import ASSUMED_PPI, MM_PER_INCH
from hollowstack.core.plan.pictures import PICTURES, SOLIDS

_MOSTLY_PICTURE = 0.2
"""Share of the page in pictures from which, where little is written, the pictures' own edges and tones are measured."""


def is_of_picture(finding: Finding, found: Measurements, read: Read | None) -> bool:
    """Whether a finding of a page's writing is one of the pictures on it."""
    if finding.verdict == "pass" or finding.check not in {"sharpness", "even light", "contrast", "grain"}:
        return False
    if read is not None and read.sure_words >= READ_SHARP:
        return False
    # Where the little that is written is read well, a woodcut or a printed solid is a picture as well.
    kinds = PICTURES | SOLIDS if read is not None and few_and_well(read) else PICTURES
    across, down = found.ppi or (ASSUMED_PPI, ASSUMED_PPI)
    page_mm2 = found.size_px[0] / across * found.size_px[1] / down * MM_PER_INCH**2
    return sum(one.area_mm2 for one in found.regions if one.kind in kinds) >= _MOSTLY_PICTURE * page_mm2


_CLIPPED, _CLIPPED_MM2 = 0.2, 400.0
"""Share of a picture that is pure white or black, and the least picture that is looked at (common practice, no source)."""


def check_clipped(found: Measurements) -> list[Finding]:
    """The worst of the pictures whose tones are lost at an end of the scale."""
    pictures = [one for one in found.regions if one.kind == "picture" and one.area_mm2 >= _CLIPPED_MM2]
    worst = max(pictures, key=lambda one: one.clipped, default=None)
    if worst is None or worst.clipped <= _CLIPPED:
        return []
    message = f"{worst.clipped:.0%} of this picture is pure white or black: recapture it with less contrast."
    spot = box_of(worst.outline, found.size_px)
    return [Finding(check="clipped", verdict="review", value=worst.clipped, limit=_CLIPPED, message=message, spot=spot)]
