"""What will be done to one page, as plain data: ``planning`` decides, ``render`` obeys."""

import hashlib
from typing import Literal

from pydantic import BaseModel, ConfigDict

from hollowstack.core.page.aside import AsideReason
from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.geometry import Quad, Turn
from hollowstack.core.page.paper_map import PaperMap
from hollowstack.core.settings.adjustments import Adjustments
from hollowstack.core.settings.treatment import BitonalMethod, Packing


class Tone(BaseModel):
    """Every pixel is taken relative to the local paper: ``ink`` (0 to 1) and darker becomes black, bare paper ``paper``."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    ink: float
    paper: tuple[int, ...]
    grain: tuple[float, float] = (0.84, 0.95)
    """From the first share of paper's light on, a tone is brought nearer to paper; from the second on it is paper's."""


class TwoTones(BaseModel):
    """How a page is brought to black and white; ``middle`` where it came so, and only its place has changed."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    method: BitonalMethod | Literal["middle"] = "evened"
    despeckle: bool = True
    limit: float | None = None
    """Where ink ends: for ``evened`` a share of bare paper's light, for ``global`` of white; None where it is looked for on
    the page itself, as ``local`` does everywhere."""
    smooth_mm: float = 0.0
    """Deviation of the Gaussian that smooths heavy grain first."""


class Plan(BaseModel):
    """One geometry, one tone, one clean-up decision for one page; plain data, valid for one master and frame."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    turn: Turn
    skew_deg: float
    quad: Quad
    """The output page's corners in pixels of the image as captured, in output order."""
    size_px: tuple[int, int]
    """Width and height of the output page."""
    ppi: tuple[float, float]
    """Resolution of the output page, across and down."""
    colour: ColourMode
    tone: Tone | None
    clear_outside: Quad | None
    """Outline of plain paper in pixels of the image as captured: what lies outside is painted in its tone."""
    protected: tuple[Quad, ...] = ()
    """Places outside it that are left as they are, because something is written there."""
    paper: tuple[int, ...]
    paper_map: PaperMap | None = None
    """Bare paper place by place, by which tone is evened; None where it is not known, or not to be gone by."""
    two_tones: TwoTones | None = None
    """Of a bitonal page."""
    reduce_show_through: bool = False
    icc: str = ""
    """ICC profile of the device that captured the page, in base64; empty where its colours are taken for sRGB."""
    balance: tuple[float, float, float] | None = None
    """Factors for red, green and blue; None leaves colours as they are."""
    by_hand: bool = False
    """Whether what may lose something was set by hand: then it is done, and told."""
    cut_on_purpose: bool = False
    """Whether something written lies outside that is not to be on the page: a neighbour beyond the fold, the other half of a
    split image, or what corners set by hand leave out."""
    keeps_surround: bool = False
    """Whether what lies around the page is to stay: nothing is to be cropped."""
    inverse: bool = False
    """Whether it is white on black, which it stays; it is read in negative."""
    letter_px: float | None = None
    """Height of small letters in pixels of the output page, by which it is read; None where it is not known."""
    adjust: Adjustments = Adjustments()
    jpeg_quality: int
    packing: Packing = "JBIG2"
    """Of a bitonal page."""
    layers: bool = False
    """Whether a page of text in grey or colour is bound in layers, where that takes less."""
    lossless: bool = False
    """Whether the page is stored without loss, and as it came where nothing is done to it."""
    aside: AsideReason | None

    def digest(self) -> str:
        """SHA-256 of the plan, for the keys of results made from it; whether the page is aside does not matter to them."""
        return hashlib.sha256(self.model_dump_json(exclude={"aside"}).encode()).hexdigest()

    def leaves_alone(self, width: int, height: int, *, gray: bool) -> bool:
        """Whether the output page is pixel for pixel an image of that size."""
        whole = self.quad == Quad.rectangle(0, 0, width, height) and self.size_px == (width, height)
        channels = self.colour == "colour" if not gray else self.colour == "grey" or self._two_tones_as_they_are
        toned = self.tone is not None or self.icc or self.balance is not None or not self.adjust.at_rest
        return whole and channels and not toned and self.clear_outside is None

    @property
    def _two_tones_as_they_are(self) -> bool:
        return self.colour == "bitonal" and self.two_tones is not None and self.two_tones.method == "middle"

    def reduced(self, source: float, output: float) -> "Plan":
        """The same plan for a reduced image, to be looked at while it is made: factors of the image and of the page."""
        return self.model_copy(
            update={
                "quad": _times(self.quad, source),
                "clear_outside": None if self.clear_outside is None else _times(self.clear_outside, source),
                "protected": tuple(_times(quad, source) for quad in self.protected),
                "size_px": tuple(max(1, round(v * output)) for v in self.size_px),
                "paper_map": None if self.paper_map is None else self.paper_map.scaled(source),
                "ppi": tuple(v * output for v in self.ppi),
            }
        )


def _times(quad: Quad, factor: float) -> Quad:
    return Quad.of(quad.array() * factor)
