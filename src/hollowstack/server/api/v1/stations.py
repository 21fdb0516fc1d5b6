"""Stations and captures over HTTP."""

from concurrent.futures import ThreadPoolExecutor
from datetime import datetime
from typing import Literal, cast

from django.http import FileResponse, Http404, HttpResponse
from django.utils.http import content_disposition_header
from ninja import Schema, Status
from pydantic import Field

from hollowstack.core.bind.path_sheet import path_sheet
from hollowstack.core.measure.layout.frames import Frame
from hollowstack.core.page.paper_path import Edge, Face, PaperPath, Place
from hollowstack.core.page.paper_path import Source as PaperSource
from hollowstack.core.run.steps import look_step
from hollowstack.core.run.worker import PageWorker
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.capture import halves, learning, pace, paper, prescan, runs, station_list, test_sheet
from hollowstack.server.capture.escl import SourceCapabilities, StationError
from hollowstack.server.capture.escl import Status as ScannerStatus
from hollowstack.server.capture.models import FoundStation, Run, Station, WaitingSlip
from hollowstack.server.capture.quality import word_of
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.capture.standing import standing
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Source
from hollowstack.server.storage import places

RunState = Literal["wanted", "running", "pausing", "stopped", "finishing", "cancelling", "cancelled", "done"]

router = Router(tags=["capture"])
_LOOK_SECONDS = 3.0
_FRAMES_SECONDS = 30.0
_LAST_RUNS = 12
_SHOWN = {b"\xff\xd8\xff": "image/jpeg", b"\x89PNG": "image/png"}


class SourceOut(Schema):
    """What a platen or feeder can do. Lengths in mm."""

    width_mm: float
    height_mm: float
    resolutions: list[int]


class PaceOut(Schema):
    """What a source takes by its own captures: seconds for a job, an image, a megapixel in colour; bytes for a pixel."""

    job_s: float
    image_s: float
    megapixel_s: float
    pixel_bytes: dict[str, float]
    captures: int


class PaperPathIn(Schema):
    """How paper goes into a source, seen by whoever stands before it; a page that is laid so comes upright."""

    face: Face
    """The side that is captured lies so."""
    edge: Edge
    """The edge of the page that goes in first, or lies towards the back of the glass."""
    place: Place
    """In a feeder, where the guides hold the paper; on a glass, the corner at which the mark is."""


class StationSource(SourceOut):
    """A source of a station on the list."""

    pace: PaceOut
    slow_pace: PaceOut | None
    """Its pace when it feeds slowly; null where it cannot."""
    paper: PaperPathIn | None
    """How paper goes in; null where nobody has said so far."""
    paper_proposed: PaperPathIn
    """What is likely where nobody has said."""


class TestSheetIn(Schema):
    """A test sheet that was laid in, and which way its printed side lies."""

    laid: Face


class TestSheetOut(Schema):
    """What a test sheet has shown, and a sentence on what to do."""

    path: PaperPathIn | None
    sure: bool
    """Whether all of it was seen; else the place is only proposed."""
    sentence: str


class StationOut(Schema):
    """A station, how it stands in a word or two, and what to do about it."""

    id: int
    name: str
    place: str
    address: str
    platen: StationSource | None
    feeder: StationSource | None
    two_sided: bool
    standing: str
    advice: str
    ready: bool
    run: int | None
    """The capture that it is at, or that waits for somebody."""
    quality: str
    """That its images of the quality target drift, or are out of tolerance; empty where nothing is to be said."""
    waiting: str
    """The order slip that waits here for paper, or for the device's key; empty where none does."""


class StationIn(Schema):
    """A station by its address."""

    address: str = Field(max_length=200)
    name: str = ""
    place: str = ""


class StationChange(Schema):
    """A name, or where it stands; what is left out stays."""

    name: str | None = Field(None, max_length=200)
    place: str | None = Field(None, max_length=200)


class FoundOut(Schema):
    """A station that announces itself on the network and is not on the list, or is there at another address."""

    id: int
    name: str
    place: str
    address: str
    platen: SourceOut | None
    feeder: SourceOut | None
    two_sided: bool
    known_as: str
    """The name of the station on the list that it is, which is spoken to elsewhere so far; empty for a new one."""
    problem: str
    """Why it cannot be added, and what to do."""


class MarkOut(Schema):
    """Whether a device could make itself known, as a sentence."""

    shown: bool
    sentence: str


class PrescanOut(Schema):
    """A first look that has begun: its picture is at ``/prescans/{nonce}.jpg``."""

    nonce: str


class PrescanIn(Schema):
    """What of the glass is to be looked at."""

    part: tuple[float, float, float, float] | None = None
    """x, y, width and height in mm, to be looked at more closely; null for the whole glass."""


class LookOut(Schema):
    """What was found in a first look."""

    frames: list[Frame]
    """Proposed for what lies there: centre x and y, width, height in mm, clockwise turn in degrees."""
    lid_open: bool
    """Whether the lid looks open, so that pages come pale."""


class RunIn(Schema):
    """A capture with a station."""

    station: int
    settings: CaptureSettings


class SingleSheets(Schema):
    """Sheets of a load of fronts, from 0, that have no back."""

    sheets: list[int] = Field(max_length=10_000)


class CapturedFile(Schema):
    """One image of a run, with the page that stands for it."""

    index: int
    name: str
    page: int | None


class RunOut(Schema):
    """A capture and how far it is."""

    id: int
    station: int | None
    station_name: str
    state: RunState
    problem: str
    outcome: str
    """How it ended, where that was not by itself with all that was laid in."""
    received: int
    expected: int | None
    """How many images were asked for, where that is known."""
    sheet: int
    """The sheet, from 1, that it has come to."""
    settings: CaptureSettings
    single: list[int]
    """Of a load of fronts: its sheets, from 0, that have no back."""
    binds_as: str
    """Title under which the stack is bound once all is worked through; empty where nothing follows."""
    started_at: datetime
    files: list[CapturedFile]


@router.get("/stations", response=list[StationOut])
def list_stations(request: Request) -> list[StationOut]:
    """All stations as they stand now; they are asked at the same time."""
    stations = list(Station.objects.order_by("pk"))
    if not stations:
        return []
    with ThreadPoolExecutor(len(stations)) as pool:
        seen = list(pool.map(_look, [station.address for station in stations]))
    return [_station(station, status) for station, status in zip(stations, seen, strict=True)]


@router.post("/stations", response={201: StationOut})
def create_station(request: Request, new: StationIn) -> Status[StationOut]:
    """Add a station by its address; it must answer."""
    station = station_list.add_station(new.address, new.name, new.place)
    return Status(201, _station(station, _look(station.address)))


@router.get("/stations/found", response=list[FoundOut])
def list_found_stations(request: Request) -> list[FoundOut]:
    """Stations that announce themselves now and are not on the list as they are."""
    found = ((one, station_list.known_as(one)) for one in FoundStation.objects.all())
    return [_found(one, known) for one, known in found if known is None or known.address != one.address]


@router.post("/stations/found/{int:found_id}", response={201: StationOut, 404: Problem})
def add_found_station(request: Request, found_id: int) -> Status[StationOut]:
    """Put a station that was found on the list; one that has moved is spoken to at its new address."""
    station = station_list.add_found(found_id)
    return Status(201, _station(station, _look(station.address)))


@router.patch("/stations/{int:station_id}", response={200: StationOut, 404: Problem})
def change_station(request: Request, station_id: int, change: StationChange) -> StationOut:
    """Give a station a name and a place of one's own."""
    station = station_list.describe_station(station_id, change.name, change.place)
    return _station(station, _look(station.address))


@router.post("/stations/{int:station_id}/mark", response={200: MarkOut, 404: Problem})
def mark_station(request: Request, station_id: int) -> MarkOut:
    """Have the device itself show which one it is."""
    if station_list.identify(station_id):
        return MarkOut(shown=True, sentence="It shows its name now: look for it at the device.")
    return MarkOut(shown=False, sentence="This device cannot show itself: take a first look, and see whose lamp moves.")


@router.delete("/stations/{int:station_id}", response={204: None, 404: Problem})
def delete_station(request: Request, station_id: int) -> Status[None]:
    """Forget a station; what was captured with it stays."""
    station_list.forget_station(station_id)
    return Status(204, None)


@router.put("/stations/{int:station_id}/paper/{source}", response={200: StationOut, 404: Problem})
def keep_paper_path(request: Request, station_id: int, source: PaperSource, path: PaperPathIn) -> StationOut:
    """Say how paper goes into a source from now on."""
    station = paper.keep(station_id, source, PaperPath(path.face, path.edge, path.place))
    return _station(station, _look(station.address))


@router.post("/stations/{int:station_id}/paper/{source}/test-sheet", response={200: TestSheetOut, 404: Problem})
def try_test_sheet(request: Request, station_id: int, source: PaperSource, sheet: TestSheetIn) -> TestSheetOut:
    """Capture a printed test sheet and tell from it how paper goes in. Nothing is kept of it."""
    return TestSheetOut.model_validate(test_sheet.try_sheet(station_id, source, sheet.laid), from_attributes=True)


@router.get("/test-sheet", response={200: "application/pdf"})
def get_test_sheet(request: Request, size: str = "A5") -> HttpResponse:
    """A test sheet to print, as a PDF."""
    response = HttpResponse(path_sheet(size), content_type="application/pdf")
    response.headers["Content-Disposition"] = content_disposition_header(
        as_attachment=True, filename=f"test sheet {size}.pdf"
    )
    return response


@router.post("/stations/{int:station_id}/prescans", response={201: PrescanOut, 404: Problem})
def begin_prescan(request: Request, station_id: int, look: PrescanIn | None = None) -> Status[PrescanOut]:
    """Have a station look over its glass; the picture is fetched under the name that is answered, while it is taken."""
    part = look.part if look else None
    return Status(201, PrescanOut(nonce=prescan.begin(Station.objects.get(pk=station_id), part)))


@router.get("/prescans/{nonce}/frames", response={200: LookOut, 404: Problem})
def list_frames(request: Request, nonce: str) -> LookOut:
    """Frames proposed for what lies on the glass, and whether its lid looks open."""
    path = prescan.path_of(nonce)
    if path is None or not path.exists():
        raise Http404
    with PageWorker() as worker:  # what a station has sent is decoded where it can do no harm
        frames, lid = worker.run(_FRAMES_SECONDS, look_step, str(path))
    return LookOut(frames=frames, lid_open=prescan.lid_is_open(nonce, lid))


@router.post("/stacks/{int:stack_id}/runs", response={201: RunOut, 404: Problem})
def start_run(request: Request, stack_id: int, new: RunIn) -> Status[RunOut]:
    """Capture into a stack."""
    return Status(201, _run(runs.start(stack_id, new.station, new.settings, request.user)))


@router.get("/stacks/{int:stack_id}/runs", response={200: list[RunOut], 404: Problem})
def list_runs(request: Request, stack_id: int) -> list[RunOut]:
    """The last captures into a stack, the latest first; and the fronts whose backs are waited for, however long ago."""
    runs = list(Run.objects.filter(stack_id=stack_id).select_related("station").order_by("-pk")[:_LAST_RUNS])
    fronts = halves.awaited([stack_id]).get(stack_id)
    return [_run(run) for run in [*runs, *([fronts] if fronts and fronts not in runs else [])]]


@router.put("/runs/{int:run_id}/single", response={200: RunOut, 404: Problem})
def mark_single_sheets(request: Request, run_id: int, sheets: SingleSheets) -> RunOut:
    """Say which sheets of a load of fronts have no back: theirs are not waited for."""
    return _run(halves.mark_single(run_id, sheets.sheets))


@router.post("/runs/{int:run_id}/{action}", response={200: RunOut, 404: Problem})
def steer_run(request: Request, run_id: int, action: Literal["go-on", "pause", "finish", "cancel"]) -> RunOut:
    """Pause a capture or let it go on, end it and keep what is in, or give it up with all it brought."""
    steps = {"go-on": runs.go_on, "pause": runs.pause, "finish": runs.finish, "cancel": runs.cancel}
    return _run(steps[action](run_id))


@router.get("/runs/{int:run_id}/images/{int:index}", response={200: "image/*", 404: Problem})
def get_run_image(request: Request, run_id: int, index: int) -> FileResponse | HttpResponse:
    """A captured image as the station gave it, at once and before anything is done to it."""
    source = Source.objects.get(batch__run__pk=run_id, index=index)
    path = places.master_path(source.master_id)
    with path.open("rb") as file:
        head = file.read(4)
    kind = next((kind for sign, kind in _SHOWN.items() if head.startswith(sign)), None)
    if kind is None:
        return HttpResponse(status=404)
    return FileResponse(path.open("rb"), content_type=kind)


def _look(address: str) -> ScannerStatus | StationError:
    try:
        with station_list.talk_to(address, _LOOK_SECONDS) as client:
            return client.status()
    except StationError as error:
        return error
    except Refused as error:
        return StationError("unreachable", str(error))


def _found(found: FoundStation, known: Station | None) -> FoundOut:
    can = station_list.capabilities_in(found.capabilities) if found.capabilities else None
    return FoundOut(
        id=found.pk,
        name=found.name,
        place=found.place,
        address=found.address,
        platen=SourceOut.model_validate(can.platen) if can and can.platen else None,
        feeder=SourceOut.model_validate(can.feeder) if can and can.feeder else None,
        two_sided=bool(can and can.two_sided),
        known_as=known.name if known else "",
        problem=found.problem,
    )


def _station(station: Station, status: ScannerStatus | StationError) -> StationOut:
    can = station_list.capabilities_of(station)
    run = Run.objects.filter(station=station, state__in=Run.UNFINISHED).last()
    words, advice = standing(status, run)
    return StationOut(
        id=station.pk,
        name=station.name,
        place=station.place,
        address=station.address,
        platen=_source(station, "platen", can.platen),
        feeder=_source(station, "feeder", can.feeder),
        two_sided=can.two_sided,
        standing=words,
        advice=advice,
        ready=words.startswith("ready"),
        run=run.pk if run else None,
        quality=word_of(list(station.quality.all())),
        waiting=waits.slip.name if (waits := WaitingSlip.objects.filter(station=station).first()) else "",
    )


def _source(station: Station, name: PaperSource, can: SourceCapabilities | None) -> StationSource | None:
    if can is None:
        return None
    all_of_it = station_list.capabilities_of(station)
    slow = name == "feeder" and all_of_it.slow_feed
    known = paper.path_of(station, name)
    return StationSource(
        width_mm=can.width_mm,
        height_mm=can.height_mm,
        resolutions=list(can.resolutions),
        pace=_pace(station, name),
        slow_pace=_pace(station, "slow feeder") if slow else None,
        paper=PaperPathIn.model_validate(known, from_attributes=True) if known else None,
        paper_proposed=PaperPathIn.model_validate(paper.proposed(all_of_it, name), from_attributes=True),
    )


def _pace(station: Station, way: pace.Way) -> PaceOut:
    return PaceOut.model_validate(learning.pace_of(station, way), from_attributes=True)


def _run(run: Run) -> RunOut:
    files = []
    if run.batch is not None:
        pages = dict(run.batch.sources.filter(pages__frame=0).values_list("pk", "pages"))
        files = [
            CapturedFile(index=source.index, name=source.name, page=pages.get(source.pk))
            for source in run.batch.sources.order_by("index")
        ]
    return RunOut(
        id=run.pk,
        station=run.station_id,
        station_name=run.station.name if run.station else "a station no longer here",
        state=cast("RunState", run.state),
        problem=run.problem,
        outcome=run.outcome,
        received=run.received,
        expected=runs.expected_images(run),
        sheet=runs.sheet_of(run),
        settings=CaptureSettings.model_validate(run.settings),
        single=run.single,
        binds_as=run.bind_as,
        started_at=run.started_at,
        files=files,
    )
