"""What is asked of a station, in the operator's words."""

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from hollowstack.core.measure.layout.frames import Frame, bounds
from hollowstack.core.page.paper_path import PaperPath, offset_mm
from hollowstack.server.capture.escl import Capabilities, ScanSettings, SourceCapabilities
from hollowstack.server.errors import Refused

Colour = Literal["bitonal", "grey", "colour"]
_MODES: dict[Colour, Literal["BlackAndWhite1", "Grayscale8", "RGB24"]] = {
    "bitonal": "BlackAndWhite1", "grey": "Grayscale8", "colour": "RGB24",
}  # fmt: skip
_LEAST_MM = 5.0


class CaptureSettings(BaseModel):
    """One capture. Lengths in mm."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    source: Literal["platen", "feeder"]
    two_sided: bool = False
    ppi: int = Field(300, ge=50, le=4800)
    colour: Colour = "colour"
    paper: tuple[float, float] | None = None
    """Width and height; None takes each sheet as large as it is."""
    frames: list[tuple[float, float, float, float, float]] = Field(default=[], max_length=200)
    """On the glass: centre x and y, width, height, clockwise turn in degrees; each becomes a page. None: the paper."""
    turn: Literal[0, 90, 180, 270] = 0
    """On the glass: how far the view was turned, clockwise in degrees; the pages are turned so. 0: as they are measured."""
    name: str = Field("page", max_length=80)
    """Files are named so, with a running number."""
    place: Literal["end", "after", "instead"] = "end"
    """At the end of the stack, behind a page, or in its place."""
    page: int | None = None
    sheets: int | None = Field(None, ge=1, le=10_000)
    """How many sheets were laid in, where it was counted."""
    slow: bool = False
    """Feed slowly, for delicate sheets; only where the feeder can."""
    half: Literal["", "fronts", "backs"] = ""
    """Of two-sided sheets with a one-sided feeder."""


def jobs_for(wish: CaptureSettings, can: Capabilities, path: PaperPath | None = None) -> list[ScanSettings]:
    """The jobs that a capture takes: one for each frame, or one for all that is in the feeder.

    ``path`` is how paper goes into that source, where that is known.

    Raises:
        Refused: The station cannot do it, or a frame is no frame.
    """
    source = can.platen if wish.source == "platen" else can.feeder
    if source is None:
        raise Refused(f"This station has no {'glass' if wish.source == 'platen' else 'feeder'}: choose the other source.")
    if wish.two_sided and not can.two_sided:
        raise Refused("This station captures one side: capture the fronts, turn the sheets over, then capture the backs.")
    if wish.slow and not (wish.source == "feeder" and can.slow_feed):
        raise Refused("This station cannot feed slowly: choose the usual pace, or lay delicate sheets on a glass.")
    if source.resolutions and wish.ppi not in source.resolutions:
        steps = ", ".join(str(ppi) for ppi in source.resolutions)
        raise Refused(f"The station cannot capture at {wish.ppi} ppi: choose one of {steps}.")
    regions = [_region(Frame(*frame), source) for frame in wish.frames] if wish.source == "platen" else []
    if not regions:
        width, height = wish.paper or (source.width_mm, source.height_mm)
        if width < _LEAST_MM or height < _LEAST_MM:
            raise Refused("The paper has no size: choose one, or let it be detected.")
        width, height = min(width, source.width_mm), min(height, source.height_mm)
        left, top = offset_mm(path, wish.source, (source.width_mm, source.height_mm), (width, height))
        regions = [(left, top, width, height)]
    kind = _format(source, wish.colour)
    name: Literal["Platen", "Feeder"] = "Platen" if wish.source == "platen" else "Feeder"
    return [ScanSettings(name, wish.two_sided, _MODES[wish.colour], wish.ppi, kind, region, wish.slow) for region in regions]


def _region(frame: Frame, glass: SourceCapabilities) -> tuple[float, float, float, float]:
    if frame.width < _LEAST_MM or frame.height < _LEAST_MM:
        raise Refused(
            f"A frame of {frame.width:.0f} × {frame.height:.0f} mm is too small to capture: draw it larger, or delete it."
        )
    left, top, width, height = bounds(frame)
    right, bottom = min(left + width, glass.width_mm), min(top + height, glass.height_mm)
    left, top = max(0.0, left), max(0.0, top)
    if right - left < _LEAST_MM or bottom - top < _LEAST_MM:
        raise Refused("A frame lies beside the glass: move it back, or delete it.")
    return left, top, right - left, bottom - top


def _format(source: SourceCapabilities, colour: Colour) -> str:
    """What browsers show and the core opens without loss of time: PNG for bitonal, JPEG for all else."""
    wanted = ("image/png", "image/tiff", "image/jpeg") if colour == "bitonal" else ("image/jpeg", "image/png", "image/tiff")
    return next((kind for kind in wanted if kind in source.formats), "image/jpeg")
