"""Saved settings: how pages are to look, and one page's departures from that."""

from pathlib import Path
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from hollowstack.core.errors import TreatmentError
from hollowstack.core.geometry import Point, Quad, Turn
from hollowstack.core.measure.colour import ColourMode
from hollowstack.core.order import DocumentsAfter

_CONFIG = ConfigDict(frozen=True, extra="forbid", use_attribute_docstrings=True)


class Treatment(BaseModel):
    """A saved set of corrections and checks; a stack has one."""

    model_config = _CONFIG

    schema_: Literal["hollowstack.treatment/1"] = Field("hollowstack.treatment/1", alias="schema")
    name: str = Field("everyday", min_length=1, max_length=80, title="Name")
    turn_upright: bool = Field(True, title="Turn upright")
    """Turn pages upright where the orientation model is sure."""
    level: bool = Field(True, title="Level the tilt")
    """Turn pages so that text lines run level."""
    crop: bool = Field(True, title="Crop to the page")
    """Cut away the lid around the page."""
    clear_surround: bool = Field(True, title="Clear the surround")
    """Paint what still shows of the lid in the paper's own tone."""
    hold_blanks: bool = Field(True, title="Hold blank pages aside")
    """Keep pages without marks out of the output; they stay in view."""
    blank_below: float = Field(0.0015, ge=0, le=5, title="Blank below", json_schema_extra={"unit": "% ink"})
    """A page with less ink than this is blank."""
    new_document_after: DocumentsAfter = Field("separator sheets", title="New document after")
    """Separator sheets always begin one; a blank page can too, or a sheet that is blank on both sides."""
    colour: Literal["auto", "bitonal", "grey", "colour"] = Field("auto", title="Colour")
    """Auto keeps the least that the page needs."""
    bitonal_from: float = Field(240, ge=75, le=1200, title="Bitonal from", json_schema_extra={"unit": "ppi"})
    """Auto keeps pages of a lower resolution in grey: their letters would break up."""
    even_tone: bool = Field(True, title="Even tone")
    """Bring paper towards white and ink towards black."""
    jpeg_quality: int = Field(50, ge=20, le=95, title="JPEG quality")
    """For grey and colour pages; 100 would be near lossless."""


AsideReason = Literal["blank", "by hand", "duplicate", "rejected", "separator"]
"""Why a page is held out of the output."""


class Split(BaseModel):
    """A line across an image that shows two pages, and the one of them that is meant.

    ``line`` goes from ``start`` to ``end`` in pixels of the image as captured; ``keep`` is the side meant, as seen by
    somebody for whom the line points downwards. Turning the page turns the line with it.
    """

    model_config = _CONFIG

    start: Point
    end: Point
    keep: Literal["left", "right"]


class Override(BaseModel):
    """One page's departure from the treatment, made by hand; None is as planned."""

    model_config = _CONFIG

    aside: bool | None = None
    """True holds the page out of the output, False keeps it in even if it is blank."""
    reason: AsideReason = "by hand"
    """Why it is held out, where ``aside`` is true."""
    quad: Quad | None = None
    """The page's corners in pixels of the image as captured, in place of what was measured; nothing is levelled then."""
    split: Split | None = None
    """The image shows two pages, of which this is one."""
    turn: Turn | None = None
    """Clockwise quarter turn in place of the measured one."""
    colour: ColourMode | None = None
    """Colour mode in place of the measured one."""


SHIPPED: dict[str, Treatment] = {
    "everyday": Treatment(name="everyday"),
    "single-sided": Treatment(name="single-sided", hold_blanks=False),
    "as-captured": Treatment(
        name="as-captured", turn_upright=False, level=False, crop=False, clear_surround=False, hold_blanks=False,
        even_tone=False, colour="colour", jpeg_quality=85,
    ),
}  # fmt: skip
"""Treatments that come with the program, by name."""

PURPOSES: dict[str, str] = {
    "everyday": "Level, cropped and evened; blank pages are held aside.",
    "single-sided": "The same, and blank pages stay in.",
    "as-captured": "Nothing is corrected: pages are bound as they came.",
}
"""What each of them is for, in one line."""


def load_treatment(name_or_file: str) -> Treatment:
    """A shipped treatment by name, or one from a JSON file.

    Raises:
        TreatmentError: There is no such treatment, or the file does not describe one.
    """
    if name_or_file in SHIPPED:
        return SHIPPED[name_or_file]
    path = Path(name_or_file)
    if path.suffix.lower() != ".json":
        raise TreatmentError(
            f"There is no treatment “{name_or_file}”: choose from {', '.join(SHIPPED)}, or give a .json file."
        )
    try:
        return Treatment.model_validate_json(path.read_bytes())
    except OSError as error:
        raise TreatmentError(f"The treatment {path} cannot be opened: {error.strerror}.") from None
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the file"
        raise TreatmentError(f"The treatment {path} is not valid: {where}: {first['msg']}.") from None
