"""The pace of each station, from the captures it has carried out here."""

from django.db.models import Q, QuerySet

from hollowstack.server.capture.models import Run, Station
from hollowstack.server.capture.pace import KEPT, Pace, Took, learned
from hollowstack.server.stacks.models import Page

_known: dict[tuple[int, str], tuple[int | None, Pace]] = {}
"""By station and source, with the last capture that it was learned from."""


def pace_of(station: Station, source: str) -> Pace:
    """How long a source takes and how large its images get, after the captures of which all images are measured."""
    key = (station.pk, source)
    runs = _timed(station, source)
    last = runs.values_list("pk", flat=True).first()
    known = _known.get(key)
    if known is not None and known[0] == last:
        return known[1]
    took = [one for run in runs[:KEPT] if (one := _took(run)) is not None]
    pace = learned(source, took)
    _known[key] = last, pace
    return pace


def _timed(station: Station, source: str) -> QuerySet[Run]:
    return (
        Run.objects.filter(station=station, settings__source=source, jobs__gt=0, seconds__gt=0)
        .exclude(_still_measured())
        .order_by("-pk")
    )


def _still_measured() -> Q:
    open_pages = Page.objects.filter(Q(measured=None) | Q(measured__body__isnull=True), frame=0)
    return Q(batch=None) | Q(batch__sources__pages__in=open_pages)


def _took(run: Run) -> Took | None:
    pages = Page.objects.filter(source__batch=run.batch_id, frame=0).select_related("measured", "source__master")
    found = [(page.measured.body["measurements"]["size_px"], page.source.master.bytes) for page in pages if page.measured]
    if not found:
        return None
    megapixels = sum(wide * high for (wide, high), _ in found) / 1e6
    return Took(run.settings["colour"], run.jobs, len(found), megapixels, run.seconds, sum(size for _, size in found))
