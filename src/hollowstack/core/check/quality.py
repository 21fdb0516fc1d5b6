"""What the measurements of a scan's writing give reason to look at, each with the spot that shows it."""

from hollowstack.core.check.finding import Check, Finding, Verdict
from hollowstack.core.measure import Measurements
from hollowstack.core.measure.capture_quality.photograph import Box

# Set on drawn pages so that what the OCR engine can no longer read is flagged (``make accuracy``, row "legibility").
_SHARP_MM = 0.87
_SOFT_MM, _STANDS_OUT = 1.1, 0.33
"""Edges may be as soft as the first where ink stands out by the second: its strokes have not run into their paper then."""
_COARSE_PX = 3.6
"""Edges no wider than this are as sharp as the image's own pixels, however large those are on paper."""
_MOTION_BLUR, _MOTION_BLUR_MM = 1.85, 0.62
_FAINT = 0.145
_WASHED_OUT, _WASHED_PERCENT = 0.53, 80.0
_NOISE, _CLEAR = 0.19, 3.0
_DARKEST = 0.18
_DARK_PAPER = 0.4
"""Of the paper itself, away from edges: good scans of the real pages have 0.54 and more."""
_SHINES_THROUGH, _HIDDEN = 8.0, 0.11
"""From the second on, grain cannot be told from what shines through."""
_LETTER_PX = 4.6


def check_quality(found: Measurements) -> list[Finding]:
    """Sharpness, contrast, grain, light, show-through and the size of letters; nothing for a photograph or a blank page."""
    scan = found.quality
    if scan is None or found.marks == 0:
        return []
    if (
        scan.contrast is None
        or scan.edge_mm is None
        or scan.edge_px is None
        or scan.noise is None
        or scan.contrast_to_noise is None
        or scan.motion_blur is None
    ):
        return [_finding("contrast", "review", None, _FAINT, None, _FAINT_WORDS)]
    washed = scan.clipped_percent > _WASHED_PERCENT
    findings = [
        _most("sharpness", scan.edge_mm, _widest_edge(scan.edge_mm, scan.edge_px, scan.motion_blur, scan.contrast),
              scan.edge_box, "Sharp.", _BLURRED_WORDS),
        _least("contrast", scan.contrast, _WASHED_OUT if washed else _FAINT, scan.contrast_box,
               "Ink stands out from its paper.", _WASHED_WORDS if washed else _FAINT_WORDS),
        _least("even light", *_light(found), None, "Evenly lit.",
               "One part of the page is so dark that writing may be lost in it: capture it again with even light."),
    ]  # fmt: skip
    if scan.noise <= _HIDDEN:
        bad = "The other side shines through: reduce it on the bench, or recapture it with a black sheet behind."
        findings.append(
            _most("show-through", scan.shows_through_percent, _SHINES_THROUGH, None, "Hardly anything shines through.", bad)
        )
    drowned = "Letters drown in the grain of the image: capture it again with more light."
    findings.append(
        _finding("grain", "review", scan.noise, _NOISE, None, drowned) if scan.noise > _NOISE
        else _least("grain", scan.contrast_to_noise, _CLEAR, None, "Letters stand out from the grain.", drowned)
    )  # fmt: skip
    if scan.letter_px is not None:
        bad = f"Small letters are only {scan.letter_px:.0f} pixels high: capture the page at a higher resolution."
        findings.append(_least("letter size", scan.letter_px, _LETTER_PX, None, "Letters have pixels enough.", bad))
    return findings


def _light(found: Measurements) -> tuple[float, float]:
    """The light of the darkest paper over that of the lightest, with its limit: of the fitted paper, where it was fitted."""
    assert found.quality is not None
    if found.quality.darkest < _DARKEST or found.two_valued:
        return found.quality.darkest, _DARKEST
    return found.paper_range, _DARK_PAPER


_BLURRED_WORDS = "The writing is blurred here: capture it again, lying flat and still."
_WASHED_WORDS = "The page is overexposed, and thin strokes are washed out: capture it again darker."
_FAINT_WORDS = "The writing is very faint: strengthen it on the bench, or capture it again darker."


def _widest_edge(edge_mm: float, edge_px: float, motion_blur: float, contrast: float) -> float:
    if edge_px <= _COARSE_PX:
        return max(edge_mm, _SHARP_MM)
    if motion_blur >= _MOTION_BLUR and edge_mm >= _MOTION_BLUR_MM:
        return _MOTION_BLUR_MM
    return _SOFT_MM if contrast >= _STANDS_OUT else _SHARP_MM


def _most(check: Check, value: float, limit: float, spot: Box | None, good: str, bad: str) -> Finding:
    passed = value <= limit
    return _finding(check, "pass" if passed else "review", value, limit, None if passed else spot, good if passed else bad)


def _least(check: Check, value: float, limit: float, spot: Box | None, good: str, bad: str) -> Finding:
    passed = value >= limit
    return _finding(check, "pass" if passed else "review", value, limit, None if passed else spot, good if passed else bad)


def _finding(check: Check, verdict: Verdict, value: float | None, limit: float, spot: Box | None, message: str) -> Finding:
    return Finding(check=check, verdict=verdict, value=value, limit=limit, message=message, spot=spot)
