"""Tone and colour by figures: what an operator sets, for a treatment or for one page."""

import base64
import io
from typing import Literal

from PIL import ImageCms
from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator
from pydantic.config import JsonDict

Balance = Literal["as captured", "paper white", "grey world"]
_PERCENT: JsonDict = {"unit": "%"}
_LEAST_SPAN = 5.0


class Adjustments(BaseModel):
    """All at rest by default: then nothing is done. Tones run from 0 % (black) to 100 % (white, or the paper's own tone)."""

    model_config = ConfigDict(frozen=True, extra="forbid", use_attribute_docstrings=True)

    black: float = Field(0, ge=0, le=90, title="Black point", json_schema_extra=_PERCENT)
    """This tone and darker becomes black."""
    white: float = Field(100, ge=10, le=100, title="White point", json_schema_extra=_PERCENT)
    """This tone and lighter becomes white."""
    gamma: float = Field(1, ge=0.2, le=5, title="Middle tones")
    """Above 1 the middle tones become lighter, below it darker."""
    brightness: float = Field(0, ge=-100, le=100, title="Brightness", json_schema_extra=_PERCENT)
    """Lighter or darker, black and white staying what they are."""
    contrast: float = Field(0, ge=-100, le=100, title="Contrast", json_schema_extra=_PERCENT)
    """Middle tones spread or drawn together."""
    strengthen: float = Field(0, ge=0, le=100, title="Strengthen faint text", json_schema_extra=_PERCENT)
    """Faint strokes are darkened towards the strong ones; bare paper is left alone."""
    sharpen: float = Field(0, ge=0, le=100, title="Sharpen", json_schema_extra=_PERCENT)
    """Edges become steeper, without light or dark seams along them."""
    saturation: float = Field(0, ge=-100, le=100, title="Saturation", json_schema_extra=_PERCENT)
    """Colours fuller or paler; −100 leaves grey."""
    warmth: float = Field(0, ge=-100, le=100, title="Warmth", json_schema_extra=_PERCENT)
    """Towards amber, or towards blue."""
    tint: float = Field(0, ge=-100, le=100, title="Tint", json_schema_extra=_PERCENT)
    """Towards green, or towards magenta."""

    @model_validator(mode="after")
    def _in_order(self) -> "Adjustments":
        if self.white - self.black < _LEAST_SPAN:
            raise ValueError(f"the white point must lie at least {_LEAST_SPAN:g} % above the black point")
        return self

    @property
    def at_rest(self) -> bool:
        """Whether nothing is to be done."""
        return self == Adjustments()


class Calibration(BaseModel):
    """How a device sees colour, and how far off its colours were and are now: CIEDE2000, mean and worst of the patches."""

    model_config = ConfigDict(frozen=True, extra="forbid", use_attribute_docstrings=True)

    name: str = Field(min_length=1, max_length=80)
    """The device's."""
    icc: str = Field(max_length=200_000)
    """Its ICC profile, in base64."""
    before: tuple[float, float]
    after: tuple[float, float]
    patches: int

    @field_validator("icc")
    @classmethod
    def _is_a_profile(cls, value: str) -> str:
        """A treatment may come from a file that anybody has written."""
        try:
            space = ImageCms.ImageCmsProfile(io.BytesIO(base64.b64decode(value, validate=True))).profile.xcolor_space
        except (ValueError, OSError, ImageCms.PyCMSError):
            raise ValueError("the calibration holds no ICC profile") from None
        if space.strip() != "RGB":
            raise ValueError(f"the calibration's ICC profile is for {space.strip()}, not for RGB")
        return value
