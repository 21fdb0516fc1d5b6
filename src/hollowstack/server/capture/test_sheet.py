"""The printed test sheet, captured once to see how paper goes into a source. It is never a page of any stack."""

import secrets
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings

from hollowstack.core.measure.content.path_sheet import LyingSheet
from hollowstack.core.page.paper_path import EDGES, Face, PaperPath, Source, place_of
from hollowstack.core.run.steps import path_sheet_step
from hollowstack.core.run.worker import PageWorker
from hollowstack.server.capture import paper, prescan
from hollowstack.server.capture.escl import EsclClient, ScanSettings, SourceCapabilities, StationError
from hollowstack.server.capture.models import Station
from hollowstack.server.capture.station_list import capabilities_of, refuse_at_work, talk_to
from hollowstack.server.errors import Refused
from hollowstack.server.storage.room import require_room

_PPI = 150
_PATIENCE = 60.0
_SECONDS = 30.0
_BUSY_SECONDS, _BUSY_TIMES = 1.0, 20
_NARROWER_MM = 2.0
"""The region is a little narrower than a feeder: devices cut the whole of it to each sheet, and its place would be lost."""


@dataclass(frozen=True, slots=True)
class Shown:
    """What a test sheet has shown: the path where it was seen, and a sentence on what to do."""

    path: PaperPath | None
    sure: bool
    """Whether all of it was seen; else the place is only proposed."""
    sentence: str


def try_sheet(station_id: int, source: Source, laid: Face) -> Shown:
    """Capture a test sheet that lies as it says itself, with ``laid`` its printed side up or down.

    Raises:
        Refused: The station is at work, or has no such source.
        StationError: It is not there, or has no paper.
    """
    require_room()
    station = Station.objects.get(pk=station_id)
    can = capabilities_of(station)
    bed = can.platen if source == "platen" else can.feeder
    if bed is None:
        raise Refused(f"This station has no {'glass' if source == 'platen' else 'feeder'}: choose the other source.")
    refuse_at_work(station)
    prescan.let_go(station, unclaimed=5.0)
    two_sided = source == "feeder" and can.two_sided
    left = _NARROWER_MM / 2 if source == "feeder" else 0.0
    region = (left, 0.0, bed.width_mm - 2 * left, bed.height_mm)
    ppi = min(bed.resolutions, key=lambda step: abs(step - _PPI)) if bed.resolutions else _PPI
    order = ScanSettings("Platen" if source == "platen" else "Feeder", two_sided, "Grayscale8", ppi, _kind(bed), region)
    with talk_to(station.address, _PATIENCE) as client, PageWorker() as worker:
        for number, picture in enumerate(_sides(client, order, 2 if two_sided else 1)):
            seen = worker.run(_SECONDS, path_sheet_step, str(picture))
            if seen is not None:
                face = laid if number == 0 else _other(laid)
                return _shown(station, source, face, seen, left, (bed.width_mm, bed.height_mm))
    return _not_seen(source, laid)


def _sides(client: EsclClient, order: ScanSettings, most: int) -> Iterator[Path]:
    """The first sheet's sides as files, each gone again once it was looked at."""
    job = _started(client, order)
    try:
        for _ in range(most):
            with _picture() as picture:
                if client.next_document(job, picture) is None:
                    return
                yield picture
    finally:
        with suppress(StationError):
            client.cancel(job)


@contextmanager
def _picture() -> Iterator[Path]:
    folder = Path(settings.DATA) / "uploads"
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / f"test-sheet-{secrets.token_hex(8)}"
    try:
        yield path
    finally:
        for part in folder.glob(f"{path.name}*"):
            part.unlink(missing_ok=True)


def _started(client: EsclClient, order: ScanSettings) -> str:
    for _ in range(_BUSY_TIMES):
        try:
            return client.start(order)
        except StationError as error:
            if error.kind == "refused" and order.source == "Feeder":
                raise Refused("The feeder is empty: lay the test sheet in, then try again.") from None
            if error.kind != "busy":
                raise
            time.sleep(_BUSY_SECONDS)
    raise Refused("The station is busy: wait until it is ready, then try again.")


def _kind(bed: SourceCapabilities) -> str:
    return next((kind for kind in ("image/png", "image/jpeg", "image/tiff") if kind in bed.formats), "image/jpeg")


def _other(face: Face) -> Face:
    return "down" if face == "up" else "up"


def _shown(station: Station, source: Source, face: Face, seen: LyingSheet, left: float, bed: tuple[float, float]) -> Shown:
    # Its upper edge went in first: an upright page goes in first with the edge that lies in the image where that one does.
    ahead = EDGES[seen.turn // 90]
    x1, y1, x2, y2 = seen.box_mm
    place = place_of(source, face, ahead, bed, (x1 + left, y1, x2 + left, y2))
    if place is not None:
        return Shown(PaperPath(face, ahead, place), True, "The test sheet was read: this is how paper goes in here.")
    likely = (paper.path_of(station, source) or paper.proposed(capabilities_of(station), source)).place
    where = "at which corner the mark is" if source == "platen" else "where the guides are"
    return Shown(
        PaperPath(face, ahead, likely), False, f"Side and edge were read. Say yourself {where}, or use a smaller sheet."
    )


def _not_seen(source: Source, laid: Face) -> Shown:
    if source == "platen":
        return Shown(None, False, "No test sheet was seen: lay it on the glass with its printed side down, then try again.")
    turn = f"lay it in with its printed side {_other(laid)}, the arrow still first"
    return Shown(None, False, f"The printed side was not captured: {turn}, and try again.")
