"""One page's departures from its treatment, made by hand."""

import math
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator

from hollowstack.core.page.aside import AsideReason
from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.geometry import FARTHEST_PX, Point, Quad, Turn
from hollowstack.core.settings.adjustments import Adjustments

_CONFIG = ConfigDict(frozen=True, extra="forbid", use_attribute_docstrings=True)


class Split(BaseModel):
    """A line across an image that shows two pages, and the one of them that is meant.

    ``line`` goes from ``start`` to ``end`` in pixels of the image as captured; ``keep`` is the side meant, as seen by
    somebody for whom the line points downwards. Turning the page turns the line with it.
    """

    model_config = _CONFIG

    start: Point
    end: Point
    keep: Literal["left", "right"]

    @model_validator(mode="after")
    def _is_a_line(self) -> "Split":
        length = math.dist(self.start, self.end)
        if not 1 <= length <= 2 * FARTHEST_PX:
            raise ValueError("The split line has no length: draw it from the top of the fold to its bottom.")
        return self


class Correction(BaseModel):
    """What is done to one page in place of what the treatment and the measurements would have; None is as planned."""

    model_config = _CONFIG

    turn: Turn | None = None
    """Clockwise quarter turn in place of the measured one."""
    skew: float | None = Field(None, ge=-45, le=45)
    """Tilt of the upright page in degrees, in place of the measured one; of no effect where ``quad`` is set."""
    quad: Quad | None = None
    """The page's corners in pixels of the image as captured, in place of what was measured; nothing is levelled then."""
    crop: bool | None = None
    """Whether it is cut to the page."""
    clear: bool | None = None
    """Whether borders are cleared."""
    plain: Quad | None = None
    """Outline of plain paper in pixels of the image as captured, in place of what was measured: outside it is cleared."""
    colour: ColourMode | None = None
    """Colour mode in place of the measured one."""
    even_tone: bool | None = None
    """Whether tone is evened."""
    reduce_show_through: bool | None = None
    """Whether show-through is reduced."""
    adjust: Adjustments | None = None
    """Tone and colour by figures."""

    @field_validator("quad", "plain")
    @classmethod
    def _is_an_outline(cls, value: Quad | None) -> Quad | None:
        if value is not None and not value.is_page():
            raise ValueError("The four corners make no page: set them around it, clockwise from its top left.")
        return value


class Override(Correction):
    """One page's departure from the treatment, made by hand: its correction, and where it belongs."""

    aside: bool | None = None
    """True holds the page out of the output, False keeps it in even if it is blank."""
    reason: AsideReason = "by hand"
    """Why it is held out, where ``aside`` is true."""
    split: Split | None = None
    """The image shows two pages, of which this is one."""
