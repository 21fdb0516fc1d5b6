"""The pace of each station, from the captures it has carried out here."""

from django.db.models import Q, QuerySet

from hollowstack.server.capture.models import Run, Station
from hollowstack.server.capture.pace import KEPT, Pace, Took, Way, learned
from hollowstack.server.stacks.models import Page

_known: dict[tuple[int, Way], tuple[int | None, Pace]] = {}
"""By station and way, with the last capture that it was learned from."""


def pace_of(station: Station, way: Way) -> Pace:
    """How long one of its sources takes and how large its images get, after captures of which all images are measured."""
    key = (station.pk, way)
    runs = _timed(station, way)
    last = runs.values_list("pk", flat=True).first()
    known = _known.get(key)
    if known is not None and known[0] == last:
        return known[1]
    took = [one for run in runs[:KEPT] if (one := _took(run)) is not None]
    pace = learned(way, took)
    _known[key] = last, pace
    return pace


def _timed(station: Station, way: Way) -> QuerySet[Run]:
    source = "platen" if way == "platen" else "feeder"
    # Runs from before there was a slow pace say nothing of it.
    pace = Q(settings__slow=True) if way == "slow feeder" else Q(settings__slow__isnull=True) | Q(settings__slow=False)
    runs = Run.objects.filter(pace, station=station, settings__source=source, jobs__gt=0, seconds__gt=0)
    return runs.exclude(_still_measured()).order_by("-pk")


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
