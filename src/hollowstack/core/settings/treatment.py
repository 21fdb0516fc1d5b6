"""Saved settings: how pages are to look, and one page's departures from that."""

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator
from pydantic.config import JsonDict

from hollowstack.core.arrange.order import DocumentRule, DocumentsAfter
from hollowstack.core.settings.adjustments import Adjustments, Balance, Calibration

_CONFIG = ConfigDict(frozen=True, extra="forbid", use_attribute_docstrings=True)


Clearing = Literal["by source", "always", "never"]
PageSize = Literal["as found", "nearest standard", "uniform"]
BitonalMethod = Literal["evened", "local", "global"]
Packing = Literal["JBIG2", "Group 4"]


def _in(group: str, unit: str = "") -> JsonDict:
    """Under which heading a form shows a setting, and in what unit."""
    return {"group": group, "unit": unit}


class Treatment(BaseModel):
    """A saved set of corrections and checks; a stack has one."""

    model_config = _CONFIG

    schema_: Literal["hollowstack.treatment/1"] = Field("hollowstack.treatment/1", alias="schema")
    name: str = Field("everyday", min_length=1, max_length=80, title="Name")
    version: int = Field(0, ge=0, title="Version")
    """0 as it comes with the program; raised with every version that is saved."""
    purpose: str = Field("", max_length=160, title="Purpose")
    """In one line: for which pages, and why so."""
    turn_upright: bool = Field(True, title="Turn upright", json_schema_extra=_in("Position"))
    """Turn pages upright where the orientation model is sure."""
    level: bool = Field(True, title="Level the tilt", json_schema_extra=_in("Position"))
    """Turn pages so that text lines run level."""
    crop: bool = Field(True, title="Crop to the page", json_schema_extra=_in("Position"))
    """Cut away the lid around the page."""
    clear_surround: Clearing = Field("by source", title="Clear borders and gutter", json_schema_extra=_in("Borders"))
    """Paint what still shows of lid and gutter in the paper's own tone; by source: not on pages from a feeder."""
    page_size: PageSize = Field("as found", title="Page size", json_schema_extra=_in("Position"))
    """The nearest paper size, or one size for the stack with its text in the same place on all pages."""
    margin_mm: float = Field(0, ge=0, le=50, title="Margin", json_schema_extra=_in("Position", "mm"))
    """Paper added all around."""
    split_facing: bool = Field(False, title="Split facing pages", json_schema_extra=_in("Position"))
    """An image that shows two pages is split where their fold is sure; undoing it makes one page of it again."""
    target_ppi: float | None = Field(None, ge=50, le=1200, title="Resolution", json_schema_extra=_in("Image", "ppi"))
    """Pages with more are reduced to it; empty leaves them as they are."""
    enlarge: bool = Field(False, title="Enlarge too", json_schema_extra=_in("Image"))
    """Pages with a lower resolution are brought up to it, which adds no detail."""
    hold_blanks: bool = Field(True, title="Hold blank pages aside", json_schema_extra=_in("Pages"))
    """Keep pages without marks out of the output; they stay in view."""
    blank_below: float = Field(0.0015, ge=0, le=5, title="Blank below", json_schema_extra=_in("Pages", "% ink"))
    """A page with less ink than this is blank."""
    new_document_after: DocumentsAfter = Field(
        "separator sheets", title="New document after", json_schema_extra=_in("Pages")
    )
    """Separator sheets always begin one; a blank page can too, a sheet blank on both sides, or a number of pages."""
    pages_a_document: int = Field(1, ge=1, le=10_000, title="Pages a document", json_schema_extra=_in("Pages"))
    """Where documents are made of a number of pages; 1 makes each page a document of its own."""
    colour: Literal["auto", "bitonal", "grey", "colour", "as it came"] = Field(
        "auto", title="Colour", json_schema_extra=_in("Image")
    )
    """Auto keeps the least that the page needs; as it came keeps the channels that the image has."""
    bitonal_from: float = Field(240, ge=75, le=1200, title="Bitonal from", json_schema_extra=_in("Image", "ppi"))
    """Auto keeps pages of a lower resolution in grey: their letters would break up."""
    bitonal_method: BitonalMethod = Field("evened", title="Bitonal (no greys) by", json_schema_extra=_in("Bitonal"))
    """Evened divides by the paper first; local compares with what lies around; global takes one threshold."""
    bitonal_ppi: float | None = Field(None, ge=200, le=800, title="Bitonal at", json_schema_extra=_in("Bitonal", "ppi"))
    """Pages in two tones are brought up to it while they are still grey, which keeps letters smooth; empty leaves them."""
    bitonal_packing: Packing = Field("JBIG2", title="Packed as", json_schema_extra=_in("Bitonal"))
    """Without loss either way; JBIG2 takes about 0.6 of the bytes, and Group 4 is read by every old viewer."""
    despeckle: bool = Field(True, title="Drop specks", json_schema_extra=_in("Bitonal"))
    """Take specks out of two-toned pages; dots and commas stay."""
    even_tone: bool = Field(True, title="Even out the paper", json_schema_extra=_in("Tone"))
    """Bring paper towards white and ink towards black."""
    reduce_show_through: bool = Field(False, title="Reduce show-through", json_schema_extra=_in("Tone"))
    """Drop what is as faint as the other side shining through; faint pencil may go with it."""
    balance: Balance = Field("as captured", title="White balance", json_schema_extra=_in("Tone"))
    """Of pages whose paper is not evened: by their lightest area, or by the mean of all colours."""
    calibration: Calibration | None = Field(None, title="Calibration", json_schema_extra=_in("Tone"))
    """Of the device that captures these pages, from its image of a colour target."""
    adjust: Adjustments = Field(Adjustments(), title="Tone and colour", json_schema_extra=_in("Tone"))
    """Points, curves and colours by figures."""
    languages: str = Field("eng", max_length=80, title="Languages", json_schema_extra=_in("Text"))
    """Of stacks and pages that have none of their own; several as eng+deu."""
    models: Literal["quick", "thorough"] = Field("quick", title="Models", json_schema_extra=_in("Text"))
    """Thorough ones where they are there: a third slower, and on real pages 1.5 instead of 1.9 wrong letters in 100."""
    lossless: bool = Field(False, title="Keep every pixel", json_schema_extra=_in("Image"))
    """JPEG and Group 4 data of untouched pages are bound as they came, all other pages without loss; makes large files."""
    layers: bool = Field(True, title="Layers", json_schema_extra=_in("Image"))
    """Writing as a stencil over paper and pictures, where that takes less: a fifth of the bytes of a JPEG as a rule. Not for
    photographs, and not where every pixel is kept."""
    jpeg_quality: int = Field(50, ge=20, le=95, title="JPEG quality", json_schema_extra=_in("Image"))
    """For grey and colour pages; 100 would be near lossless."""

    @property
    def documents(self) -> DocumentRule:
        """Where documents begin."""
        return DocumentRule(self.new_document_after, self.pages_a_document)

    @field_validator("clear_surround", mode="before")
    @classmethod
    def _once_yes_or_no(cls, value: Any) -> Any:
        """Treatments saved before the source mattered say true or false."""
        return {True: "by source", False: "never"}.get(value, value) if isinstance(value, bool) else value


def with_documents(treatment: Treatment, rule: DocumentRule) -> Treatment:
    """The same treatment with another rule for where documents begin. Raises ValidationError where it is none."""
    told = {"new_document_after": rule.after, "pages_a_document": rule.pages}
    return Treatment.model_validate({**treatment.model_dump(by_alias=True), **told})
