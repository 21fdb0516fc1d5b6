"""The report of a run of ``hollowstack process``: its shape is a contract, only ever added to."""

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from hollowstack.core.check.finding import Finding
from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.errors import DecodeError, HollowStackError
from hollowstack.core.page.geometry import Quad, Turn
from hollowstack.core.run.clock import Clock
from hollowstack.core.run.pipeline import PageResult

_CONFIG = ConfigDict(frozen=True, extra="forbid", serialize_by_alias=True, validate_by_name=True)


class OcrReport(BaseModel):
    """What was read."""

    model_config = _CONFIG
    language: str
    words: int
    mean_confidence: float
    text: str


class PageReport(BaseModel):
    """One input page."""

    model_config = _CONFIG
    source: str
    frame: int
    source_sha256: str | None
    status: Literal["bound", "aside", "failed"]
    reason: str | None = None
    error: str | None = None
    source_size_px: tuple[int, int] | None = None
    source_ppi: tuple[float, float] | None = None
    orientation_deg: Turn | None = None
    skew_deg: float | None = None
    quad_px: Quad | None = None
    output_size_px: tuple[int, int] | None = None
    output_ppi: tuple[float, float] | None = None
    colour_mode: ColourMode | None = None
    ocr: OcrReport | None = None
    findings: list[Finding] = []
    bytes: int = 0
    seconds: dict[str, float] = Field(default_factory=lambda: dict.fromkeys(Clock.STEPS, 0.0))


class DocumentReport(BaseModel):
    """The document that was bound."""

    model_config = _CONFIG
    path: str
    bytes: int
    sha256: str
    conformance: str
    pages: int


class ExportReport(BaseModel):
    """A form that the document was given out in; why not, where it could not be."""

    model_config = _CONFIG
    form: str
    path: str | None
    bytes: int
    error: str | None = None
    remarks: tuple[str, ...] = ()


class Report(BaseModel):
    """The whole run."""

    model_config = _CONFIG
    schema_: Literal["hollowstack.report/1"] = Field("hollowstack.report/1", alias="schema")
    document: DocumentReport | None
    seconds: float
    workers: int
    pages: list[PageReport]
    exports: tuple[ExportReport, ...] = ()
    """Forms that the document was given out in besides; an addition to the first edition of the report."""


def unreported(report: Report) -> dict[str, Any]:
    """What is left out where a report is written: spots, for those who have the picture before their eyes."""
    spots = {"pages": {"__all__": {"findings": {"__all__": {"spot"}}}}}
    return spots if report.exports else {**spots, "exports": True}


def page_report(source: str, frame: int, sha256: str, result: PageResult) -> PageReport:
    """The entry of a page that was worked through."""
    found, plan, reading = result.measurements, result.plan, result.reading
    across, down = found.stretch
    said = found.ppi_said
    return PageReport(
        source=source,
        frame=frame,
        source_sha256=sha256,
        status="aside" if plan.aside else "bound",
        reason=plan.aside,
        source_size_px=(round(found.size_px[0] / across), round(found.size_px[1] / down)),
        source_ppi=said and (said[0] / across, said[1] / down),
        orientation_deg=plan.turn,
        skew_deg=plan.skew_deg,
        quad_px=Quad.of(plan.quad.array() / found.stretch),
        output_size_px=plan.size_px,
        output_ppi=plan.ppi,
        colour_mode=plan.colour,
        ocr=reading
        and OcrReport(
            language=reading.language,
            words=len(reading.words),
            mean_confidence=reading.mean_confidence,
            text=reading.text,
        ),
        findings=result.findings,
        bytes=result.image.bytes if result.image else 0,
        seconds=result.seconds,
    )


def failed_report(source: str, frame: int, sha256: str | None, error: HollowStackError | str) -> PageReport:
    """The entry of a page that failed; with its size where the file still tells it."""
    return PageReport(
        source=source,
        frame=frame,
        source_sha256=sha256,
        status="failed",
        error=str(error),
        source_size_px=error.size_px if isinstance(error, DecodeError) else None,
    )
