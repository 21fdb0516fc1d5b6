"""What will be done to one page. ``plan_page`` decides; ``render`` obeys."""

import numpy as np

from hollowstack.core.imaging.noise import smoothing_mm
from hollowstack.core.measure import SURE_OF_TURN, Measurements
from hollowstack.core.page.aside import COVER_SHEET, SEPARATOR_SHEET, AsideReason
from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.geometry import Quad, Turn
from hollowstack.core.page.raster import ASSUMED_PPI, MM_PER_INCH
from hollowstack.core.plan.outline import Outline, find_outline, scaled
from hollowstack.core.plan.page_group import PageGroup
from hollowstack.core.plan.pictures import picture_share
from hollowstack.core.plan.plan import Plan, Tone, TwoTones
from hollowstack.core.plan.tilt import measured_tilt
from hollowstack.core.settings.override import Override, Split
from hollowstack.core.settings.treatment import Treatment

SURE_OF_FOLD = 0.8
"""Share of a spread's height at which its fold is seen, from which it is split unasked."""
_LEAST_SKEW_DEG = 0.03
"""Below this a page is left as it lies: no eye sees it, and a page that is not resampled stays exact."""

_ALL_PICTURE = 0.6
"""Share of the page from which a picture is all of it, and what would be taken for paper is its lights."""
_DARK_PAPER = 60
"""Gray of a page's paper below which it is not evened: its noise would be brought up with it."""
_PALE_SHARE, _PALE_GRAIN = 0.2, (0.93, 0.98)
"""Share of pale letters from which a page's tones are taken for grain only next to paper: its writing would go with it."""
_DIVIDER_LIGHT, _DIVIDER_HUE = 165, 40
"""Gray below which paper without a hue is no white paper that has aged; the difference of channels that is a hue."""
_HUE = 8
"""Difference between the channels of a page's mean from which it is no grey."""
_LEAST_BLANK_MM = 15.0
"""A page whose shorter side is below this has no room to tell marks from its own edges: it is never blank."""
_PATTERN_PERCENT = 2.0
"""Ink on a page without text from which it is a pattern."""
_LEAST_INK_LIMIT = 0.42
_MOST_INK_LIMIT = 0.8
"""Shares of bare paper's light between which ink ends: a nearly bare page has no second peak in its tones to go by."""
_SOFT_PICTURE = 0.62
"""Light of the darkest parts of a page's paper over that of its lightest, below which it is no shade but a picture."""


def plan_page(
    found: Measurements,
    treatment: Treatment,
    override: Override | None = None,
    *,
    fed: bool = False,
    page_group: PageGroup | None = None,
) -> Plan:
    """Decide what is done to a page.

    Args:
        found: What was measured on it.
        treatment: The stack's.
        override: The page's own departures, which win.
        fed: Whether the image came from a document feeder.
        page_group: The common shape of the stack's pages on this side of the leaf, if it is known.
    """
    wish = override or Override()
    turn = _turn(found, treatment, wish)
    skew = _skew(found, treatment, wish, turn)
    clearing = _clearing(treatment, wish, fed=fed)
    outline = find_outline(found, treatment, wish, turn, skew, page_group, clearing=clearing)
    colour = _colour(found, treatment, wish)
    outline = _at_resolution(outline, treatment, colour)
    even = treatment.even_tone if wish.even_tone is None else wish.even_tone
    tone = _tone(found, asked_for=bool(wish.even_tone)) if even else None
    faint = treatment.reduce_show_through if wish.reduce_show_through is None else wish.reduce_show_through
    clear = _clear(found, wish, outline, clearing=clearing)
    return Plan(
        turn=turn,
        skew_deg=0.0 if outline.by_corners else skew,
        quad=outline.quad,
        size_px=outline.size_px,
        ppi=(round(outline.ppi[0], 2), round(outline.ppi[1], 2)),
        colour=colour,
        tone=tone,
        clear_outside=clear,
        protected=found.border_ink if clear is not None and wish.plain is None else (),
        paper=_paper(found),
        paper_map=found.paper_map if tone is not None or colour == "bitonal" else None,
        two_tones=_two_tones(found, treatment) if colour == "bitonal" else None,
        reduce_show_through=faint,
        icc=treatment.calibration.icc if treatment.calibration and colour == "colour" else "",
        balance=None if tone or colour != "colour" else _balance(found, treatment),
        by_hand=any(
            value is not None for value in (wish.colour, wish.even_tone, wish.clear, wish.plain, wish.quad, wish.crop)
        ),
        keeps_surround=not (treatment.crop if wish.crop is None else wish.crop),
        cut_on_purpose=bool(found.neighbour or wish.split or wish.quad or found.photograph),
        inverse=found.inverse,
        letter_px=_letter_px(found, outline),
        adjust=wish.adjust or treatment.adjust,
        jpeg_quality=treatment.jpeg_quality,
        packing=treatment.bitonal_packing,
        layers=treatment.layers,
        lossless=treatment.lossless,
        aside=_aside(found, treatment, wish),
    )


def _letter_px(found: Measurements, outline: Outline) -> float | None:
    """Letters as high as the output page's resolution makes them."""
    if found.letter_px is None:
        return None
    across, down = found.ppi or (ASSUMED_PPI, ASSUMED_PPI)
    return round(found.letter_px * sum(outline.ppi) / (across + down), 1)


def split_overrides(found: Measurements, treatment: Treatment, override: Override | None = None) -> list[Override]:
    """The halves of an image that shows two facing pages, left one first; the override as it is where it is not to be split.

    Args:
        found: What was measured on it.
        treatment: The stack's.
        override: The page's own departures; one that says how the page lies, or that it is split already, is left alone.
    """
    wish = override or Override()
    settled = wish.split or wish.quad or wish.turn is not None
    if settled or not treatment.split_facing or found.gutter is None or found.gutter_confidence < SURE_OF_FOLD:
        return [wish]
    start, end = found.gutter
    return [wish.model_copy(update={"split": Split(start=start, end=end, keep=side)}) for side in ("left", "right")]


def _paper(found: Measurements) -> tuple[int, ...]:
    """The paper's tone in the image itself."""
    return tuple(255 - value for value in found.paper) if found.inverse else found.paper


def _two_tones(found: Measurements, treatment: Treatment) -> TwoTones:
    if found.two_valued:
        return TwoTones(method="middle", despeckle=False)
    method = "global" if found.inverse else treatment.bitonal_method
    limits = {
        "evened": min(max(found.ink_limit, _LEAST_INK_LIMIT), _MOST_INK_LIMIT),
        "global": round(found.gray_limit / 255, 3),
    }
    return TwoTones(
        method=method,
        despeckle=treatment.despeckle,
        limit=limits.get(method),
        smooth_mm=smoothing_mm(found.noise),
    )


def _turn(found: Measurements, treatment: Treatment, wish: Override) -> Turn:
    measured: Turn = found.turn if treatment.turn_upright and found.turn_confidence >= SURE_OF_TURN else 0
    return measured if wish.turn is None else wish.turn


def _skew(found: Measurements, treatment: Treatment, wish: Override, turn: Turn) -> float:
    if wish.quad is not None:
        return 0.0
    if wish.skew is not None:
        return wish.skew
    skew = measured_tilt(found, turn).degrees if treatment.level else 0.0
    return 0.0 if abs(skew) < _LEAST_SKEW_DEG else skew


def _at_resolution(outline: Outline, treatment: Treatment, colour: ColourMode) -> Outline:
    if treatment.target_ppi is not None:
        outline = scaled(outline, treatment.target_ppi, enlarge=treatment.enlarge)
    if colour == "bitonal" and treatment.bitonal_ppi is not None and sum(outline.ppi) / 2 < treatment.bitonal_ppi:
        outline = scaled(outline, treatment.bitonal_ppi, enlarge=True)
    return outline


def _clearing(treatment: Treatment, wish: Override, *, fed: bool) -> bool:
    """Whether borders are to be cleared: pages from a feeder have none, and clearing could only spoil them."""
    if wish.clear is not None:
        return wish.clear
    return treatment.clear_surround == "always" or (treatment.clear_surround == "by source" and not fed)


def _clear(found: Measurements, wish: Override, outline: Outline, *, clearing: bool) -> Quad | None:
    """Outside of what everything is painted as paper; None where the page is left as it is."""
    if clearing and wish.plain is not None:
        return wish.plain
    if wish.quad is not None or not found.lid_seen:
        return None  # whoever sets corners says by them where the page ends
    if clearing and not outline.by_corners:
        return found.bright_quad
    # A page that was given a size or a margin beyond its own edge must not show the lid there.
    return found.page_quad if outline.grown else None


def _colour(found: Measurements, treatment: Treatment, wish: Override) -> ColourMode:
    if wish.colour:
        return wish.colour
    if treatment.colour != "auto" and treatment.colour != "as it came":
        return treatment.colour
    if found.two_valued:
        return "bitonal"
    if treatment.colour == "as it came":
        return "grey" if len(found.paper) == 1 else "colour"
    if _is_pattern(found):
        # Neither writing nor bare paper: a sky, a cover, a sheet of card. Its tones are all there is of it.
        return (
            "colour" if len(found.paper) == 3 and (found.dyed or found.coloured_percent > 0 or _has_hue(found)) else "grey"
        )
    enough = min(found.ppi or (ASSUMED_PPI, ASSUMED_PPI)) >= treatment.bitonal_from
    return "grey" if found.colour == "bitonal" and not enough else found.colour


def _tone(found: Measurements, *, asked_for: bool) -> Tone | None:
    """Paper evened to white, or to its own colour where it is dyed; None where there is no paper to go by: on a page that is
    all picture, white on black, or as dark. Unless asked for."""
    if found.two_valued or found.inverse:
        return None
    if not asked_for and (picture_share(found) > _ALL_PICTURE or min(found.paper) < _DARK_PAPER or _is_pattern(found)):
        return None
    if found.dyed and any(region.coloured or region.level > 1 for region in found.regions):
        return None  # by paper of one colour, what is of another would change its hue
    level = max(found.paper)
    # Darkened with restraint: pushed to full black, the ink's own grain would stand out.
    ink = max(0.0, min(0.3, found.ink / level - 0.12))
    grain = _PALE_GRAIN if found.pale_share >= _PALE_SHARE else (0.84, 0.95)
    return Tone(
        ink=round(ink, 3), grain=grain, paper=tuple(round(v * 250 / level) for v in found.paper) if found.dyed else (255,)
    )


def _has_hue(found: Measurements) -> bool:
    """Whether the page as a whole has a colour."""
    return max(found.mean, default=0) - min(found.mean, default=0) >= _HUE


def _is_pattern(found: Measurements) -> bool:
    """Whether a page without text is more than paper: a sky, a marbled endpaper, a dyed divider."""
    return found.text_quad is None and (found.ink_percent > _PATTERN_PERCENT or not is_bare_paper(found))


def _balance(found: Measurements, treatment: Treatment) -> tuple[float, float, float] | None:
    """Factors that make neutral what the treatment takes for neutral; none of them brightens beyond white.

    Source:
        Grey world: G. Buchsbaum, A spatial processor model for object colour perception, J. Franklin Institute 310 (1980).
    """
    base = {"as captured": (), "paper white": found.paper, "grey world": found.mean}[treatment.balance]
    if len(base) != 3:
        return None
    factors = max(base) / np.maximum(np.array(base, float), 1)
    red, green, blue = (round(float(v), 4) for v in np.clip(factors / factors.max(), 0.4, 1.0))
    return red, green, blue


def _aside(found: Measurements, treatment: Treatment, wish: Override) -> AsideReason | None:
    if wish.aside is not None:
        return wish.reason if wish.aside else None
    if found.separator:
        return SEPARATOR_SHEET
    if found.cover:
        return COVER_SHEET
    across, down = found.ppi or (ASSUMED_PPI, ASSUMED_PPI)
    large = min(found.size_px[0] / across, found.size_px[1] / down) * MM_PER_INCH >= _LEAST_BLANK_MM
    bare = large and not found.border_ink and found.ink_percent < treatment.blank_below and is_bare_paper(found)
    return "blank" if treatment.hold_blanks and bare else None


def is_bare_paper(found: Measurements) -> bool:
    """Whether what a page without marks shows is paper: a dyed divider, an endpaper or a sky is more than that."""
    if found.dyed or found.inverse or found.paper_range < _SOFT_PICTURE:
        return False
    return max(found.paper) - min(found.paper) >= _DIVIDER_HUE or max(found.paper) >= _DIVIDER_LIGHT
