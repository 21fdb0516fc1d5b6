"""How well stations capture, over time: figures by images of the quality target, as control charts."""

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from django.contrib.auth.models import User
from django.db import transaction

from hollowstack.core.calibrate.control_chart import Drift, Limits, drift_of, limits_of
from hollowstack.core.calibrate.station_quality import Tolerance, tolerances
from hollowstack.core.run.station_check import check_station_from
from hollowstack.server.capture.models import QualityCheck, Station
from hollowstack.server.errors import Refused
from hollowstack.server.images.pictures import WORKERS
from hollowstack.server.stacks.models import Page
from hollowstack.server.storage import places

_SOURCES = {"platen": "glass", "feeder": "feeder"}


class Series(NamedTuple):
    """One figure of a station over time."""

    name: str
    tolerance: Tolerance
    values: list[float]
    limits: Limits | None
    drift: Drift

    @property
    def borne(self) -> bool:
        """Whether its last value is within what is borne."""
        return not self.values or self.tolerance.bears(self.values[-1])


def check_by(page: Page, user: User, patches: str) -> QualityCheck:
    """Keep how well a station captures, by a page that shows the quality target; the same image again takes its place.

    Raises:
        Refused: The page was not captured at a station that is on the list.
        CalibrationError: It does not show the target, or the patch file is none.
    """
    record = page.source.batch.record
    station = Station.objects.filter(name=record.get("station", "")).first()
    if station is None:
        raise Refused("This page was not captured at a station on the list: capture the quality target there.")
    master = places.master_path(page.source.master_id)
    quality = WORKERS.run(master, check_station_from, str(master), page.frame, patches)
    told = quality.said_ppi or quality.ppi
    kind = f"{_SOURCES.get(record.get('source', ''), 'station')}, {round(min(told))} ppi"
    with transaction.atomic():
        made, _ = QualityCheck.objects.update_or_create(
            station=station,
            master=page.source.master_id,
            defaults={
                "at": page.source.added_at, "by": user, "kind": kind, "quality": quality.model_dump(mode="json"),
            },
        )  # fmt: skip
    return made


def series_of(checks: Sequence[QualityCheck]) -> list[Series]:
    """Every figure of checks of one kind, in their order."""
    told = []
    for name, tolerance in tolerances()[1].items():
        values = [float(check.quality["figures"][name]) for check in checks]
        told.append(Series(name, tolerance, values, limits_of(values), drift_of(values)))
    return told


def by_kind(checks: Iterable[QualityCheck]) -> dict[str, list[QualityCheck]]:
    """Checks by what they were captured with, in their order."""
    found: dict[str, list[QualityCheck]] = {}
    for check in checks:
        found.setdefault(check.kind, []).append(check)
    return found


def word_of(checks: Sequence[QualityCheck]) -> str:
    """What is to be said of a station where it is captured with: that it drifts, or sees worse than is borne."""
    drifting, beyond = [], []
    for some in by_kind(checks).values():
        for series in series_of(some):
            if not series.borne:
                beyond.append(series.tolerance.name)
            elif series.drift:
                drifting.append(series.tolerance.name)
    if beyond:
        return f"Out of tolerance: {_listed(beyond)}"
    return f"Drifts: {_listed(drifting)}" if drifting else ""


def _listed(names: Sequence[str]) -> str:
    first, *more = [name.partition(",")[0].lower() for name in dict.fromkeys(names)]
    return f"{first} and {len(more)} more" if more else first
