"""How well stations capture, over HTTP; the rules are in ``capture.quality``."""

from datetime import datetime

from django.http import HttpResponse
from django.utils.http import content_disposition_header
from ninja import Field, Schema
from pydantic import BaseModel

from hollowstack.core.bind.quality_target import quality_target
from hollowstack.core.calibrate.control_chart import Drift
from hollowstack.core.calibrate.station_quality import Quality, tolerances
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.capture.models import QualityCheck, Station
from hollowstack.server.capture.quality import Series, by_kind, check_by, series_of
from hollowstack.server.stacks.models import Page

router = Router(tags=["stations"])


class FigureOut(BaseModel):
    """One figure of a station over time, against what is borne and what is usual."""

    name: str
    title: str
    unit: str
    values: list[float]
    most: float | None
    least: float | None
    """One of both says what is borne."""
    middle: float | None
    lower: float | None
    upper: float | None
    """What is usual for this station; null while it has been measured less than five times."""
    borne: bool
    """Whether the last value is."""
    drift: Drift


class CheckOut(BaseModel):
    """When an image of the target came, who measured the station by it, and all that was measured."""

    id: int
    at: datetime
    by: str
    quality: Quality


class ChartOut(BaseModel):
    """The checks of a station by one source at one resolution."""

    kind: str
    checks: list[CheckOut]
    figures: list[FigureOut]


class StationQualityOut(BaseModel):
    """How well a station captures, over time."""

    station: int
    name: str
    guideline: str
    """What the tolerances follow."""
    charts: list[ChartOut]


class StationCheckIn(Schema):
    """What the printed target's patches are, where somebody has measured them: a CGATS file's text."""

    patches: str = Field("", max_length=1_000_000)


@router.get("/quality-target", response={200: "application/pdf"})
def get_quality_target(request: Request) -> HttpResponse:
    """The quality target to print, as a PDF."""
    response = HttpResponse(quality_target(), content_type="application/pdf")
    response.headers["Content-Disposition"] = content_disposition_header(as_attachment=True, filename="quality target.pdf")
    return response


@router.post("/pages/{int:page_id}/station-check", response={200: StationQualityOut, 404: Problem})
def check_station(request: Request, page_id: int, asked: StationCheckIn) -> StationQualityOut:
    """Measure the station that captured a page which shows the quality target, and keep what came of it."""
    page = Page.objects.select_related("source__batch").get(pk=page_id, stack__deleted_at=None)
    return _quality(check_by(page, request.user, asked.patches).station)


@router.get("/stations/{int:station_id}/quality", response={200: StationQualityOut, 404: Problem})
def get_station_quality(request: Request, station_id: int) -> StationQualityOut:
    """How well a station captures, over time."""
    return _quality(Station.objects.get(pk=station_id))


def _quality(station: Station) -> StationQualityOut:
    charts = [
        ChartOut(kind=kind, checks=[_check(one) for one in checks], figures=[_figure(one) for one in series_of(checks)])
        for kind, checks in by_kind(station.quality.select_related("by")).items()
    ]
    return StationQualityOut(station=station.pk, name=station.name, guideline=tolerances()[0], charts=charts)


def _check(row: QualityCheck) -> CheckOut:
    by = row.by.get_username() if row.by else ""
    return CheckOut(id=row.pk, at=row.at, by=by, quality=Quality.model_validate(row.quality))


def _figure(series: Series) -> FigureOut:
    limits = series.limits
    return FigureOut(
        name=series.name, title=series.tolerance.name, unit=series.tolerance.unit, values=series.values,
        most=series.tolerance.most, least=series.tolerance.least, middle=limits.middle if limits else None,
        lower=limits.lower if limits else None, upper=limits.upper if limits else None, borne=series.borne,
        drift=series.drift,
    )  # fmt: skip
