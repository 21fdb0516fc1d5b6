"""What is known of a page image once it has been measured, as plain data."""

from pydantic import BaseModel, ConfigDict

from hollowstack.core.measure.capture_quality.photograph import Photograph
from hollowstack.core.measure.capture_quality.scan import Quality
from hollowstack.core.measure.content.regions import Region
from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.geometry import Point, Quad, Turn
from hollowstack.core.page.paper_map import PaperMap

MEASURE_VERSION = 16
"""Raised whenever a change here may change a figure; part of the key of stored measurements."""

SIDES = ("left", "top", "right", "bottom")


class Measurements(BaseModel):
    """What was measured on one page image; lengths in pixels of the image as captured."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    size_px: tuple[int, int]
    """Width and height as captured, with square pixels."""
    stretch: tuple[float, float] = (1.0, 1.0)
    """By how much longer pixels of the file were made across and down for that."""
    ppi: tuple[float, float] | None
    """Resolution to reckon with; None where neither the file gives it nor the page tells."""
    ppi_said: tuple[float, float] | None = None
    """Resolution as the file gives it."""
    true_ppi: float | None = None
    """What paper size and letters make of it."""
    ppi_confidence: float = 1.0
    """How sure that is, 0 to 1."""
    page_quad: Quad
    """The page's corners in the image as captured, top-left first as captured."""
    bright_quad: Quad
    """Within ``page_quad``, where no shadow of an edge or gutter lies any more."""
    lid_seen: bool
    """Whether any surround shows beside the page."""
    edges_confidence: float
    """0 to 1."""
    turn: Turn
    """Clockwise quarter turn that would make the page upright."""
    turn_confidence: float
    """0 where nothing tells; from ``SURE_OF_TURN`` on it is sure."""
    skew_deg: float
    """Tilt of the upright page; positive where lines fall to the right."""
    skew_confidence: float
    """0 to 1."""
    ink_percent: float
    """Marked share of the page's area; 0 on a blank page."""
    marks: int
    """Separate pieces of ink."""
    colour: ColourMode
    """The least colour mode that keeps what is there."""
    dyed: bool
    """Whether the paper itself has a colour that is not ageing's."""
    coloured_percent: float
    """Share of the page whose colour stands out."""
    midtone_percent: float
    """Share of the page in half-tones."""
    paper: tuple[int, ...]
    """Commonest value of bare paper, gray or R, G, B."""
    ink: int
    """Gray of its darkest writing: the value a fiftieth of the inked pixels lie below."""
    ink_limit: float = 0.6
    """Share of bare paper's light that parts its ink from its paper best."""
    gray_limit: int = 127
    """Gray value of the image that parts dark from light best."""
    noise: float = 0.0
    """Standard deviation of the image's grain, in gray values."""
    separator: bool = False
    """Whether it is a separator sheet."""
    cover: str = ""
    """Of a cover sheet, whose papers lie under it, as its code says it; empty where it is none."""
    mean: tuple[int, ...] = ()
    """Mean of the whole page, gray or R, G, B."""
    text_quad: Quad | None = None
    """The level rectangle around its text, in the order of the image as captured; None where there is hardly any."""
    neighbour: tuple[str, ...] = ()
    """Sides on which the strip of a neighbouring page lies beyond the fold, outside ``page_quad``."""
    rim_sides: tuple[str, ...] = ()
    """Sides of ``page_quad`` that were found by themselves: what lies beyond is no page, but they are no edge of paper."""
    print_outline: tuple[Point, ...] = ()
    """Convex outline of all that is printed or written within ``page_quad``; empty on a bare page."""
    two_valued: bool = False
    """Whether the image has two tones only, as a fax or a bitonal scan has."""
    inverse: bool = False
    """Whether it is white on black; everything else was measured on its negative."""
    pale_share: float = 0.0
    """Share of its letters that are pale at their darkest."""
    letter_px: float | None = None
    """Height of small letters in pixels of the image; None where there are too few to tell."""
    regions: tuple[Region, ...] = ()
    """What lies on the page besides paper, in pixels of the image as captured."""
    paper_map: PaperMap | None = None
    """Its bare paper, place by place; None for an image of two tones or white on black."""
    paper_range: float = 1.0
    """Light of the darkest parts of its paper over that of the lightest, away from the edges."""
    torn: tuple[Point, ...] = ()
    """Corners at which a piece of the page is missing."""
    border_ink: tuple[Quad, ...] = ()
    """Places along the border where something is written that clearing would take."""
    cut_off: tuple[Quad, ...] = ()
    """Writing that runs off the image."""
    meets_edge: tuple[Quad, ...] = ()
    """Writing that ends at the page's own edge, where something else begins: something may lie on it there."""
    streaks: tuple[Quad, ...] = ()
    """Thin lines from one end of the image to the other, as dirt on the glass draws."""
    covered: tuple[int, ...] = ()
    """Places in ``regions`` of what lies on writing."""
    pale_traces: Quad | None = None
    """On a bare page, where something too pale for ink may stand; None where nothing tells."""
    perceptual_hash: str = ""
    """Signs by which another image of the same page is known."""
    gutter: tuple[Point, Point] | None = None
    """The fold between two facing pages, from its top to its bottom for the reader; None on a single page."""
    gutter_confidence: float = 0.0
    """Share of the page's height at which the fold is seen on one line."""
    quality: Quality | None = None
    """How well a scan's writing was captured; None for a photograph."""
    photograph: Photograph | None = None
    """How good a photograph it is; None where it is none."""

    @property
    def lies_between(self) -> bool:
        """Whether it is no page of anything, but a sheet that lies between papers."""
        return self.separator or self.cover != ""
