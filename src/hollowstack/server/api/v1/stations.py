"""Stations and captures over HTTP."""

from concurrent.futures import ThreadPoolExecutor
from datetime import datetime
from typing import Literal, cast

from django.http import FileResponse, Http404, HttpResponse
from ninja import Schema, Status
from pydantic import Field

from hollowstack.core.measure.layout.frames import Frame
from hollowstack.core.run.steps import frames_step
from hollowstack.core.run.worker import PageWorker
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.capture import prescan, services
from hollowstack.server.capture.escl import StationError
from hollowstack.server.capture.escl import Status as ScannerStatus
from hollowstack.server.capture.models import Run, Station
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Source
from hollowstack.server.storage import places

RunState = Literal["wanted", "running", "stopped", "cancelling", "cancelled", "done"]

router = Router(tags=["capture"])
_LOOK_SECONDS = 3.0
_FRAMES_SECONDS = 30.0
_SHOWN = {b"\xff\xd8\xff": "image/jpeg", b"\x89PNG": "image/png"}


class SourceOut(Schema):
    """What a platen or feeder can do. Lengths in mm."""

    width_mm: float
    height_mm: float
    resolutions: list[int]


class StationOut(Schema):
    """A station, how it stands in a word or two, and what to do about it."""

    id: int
    name: str
    address: str
    platen: SourceOut | None
    feeder: SourceOut | None
    two_sided: bool
    standing: str
    advice: str
    ready: bool
    run: int | None
    """The capture that it is at, or that waits for somebody."""


class StationIn(Schema):
    """A station by its address."""

    address: str = Field(max_length=200)
    name: str = ""


class PrescanOut(Schema):
    """A first look that has begun: its picture is at ``/prescans/{nonce}.jpg``."""

    nonce: str


class RunIn(Schema):
    """A capture with a station."""

    station: int
    settings: CaptureSettings


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
    received: int
    sheet: int
    """The sheet, from 1, that it has come to."""
    settings: CaptureSettings
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
    station = services.add_station(new.address, new.name)
    return Status(201, _station(station, _look(station.address)))


@router.delete("/stations/{int:station_id}", response={204: None, 404: Problem})
def delete_station(request: Request, station_id: int) -> Status[None]:
    """Forget a station; what was captured with it stays."""
    services.forget_station(station_id)
    return Status(204, None)


@router.post("/stations/{int:station_id}/prescans", response={201: PrescanOut, 404: Problem})
def begin_prescan(request: Request, station_id: int) -> Status[PrescanOut]:
    """Have a station look over its glass; the picture is fetched under the name that is answered, while it is taken."""
    return Status(201, PrescanOut(nonce=prescan.begin(Station.objects.get(pk=station_id))))


@router.get("/prescans/{nonce}/frames", response={200: list[Frame], 404: Problem})
def list_frames(request: Request, nonce: str) -> list[Frame]:
    """Frames proposed for what lies on the glass: x, y, width, height in mm, clockwise turn in degrees."""
    path = prescan.path_of(nonce)
    if path is None or not path.exists():
        raise Http404
    with PageWorker() as worker:  # what a station has sent is decoded where it can do no harm
        return worker.run(_FRAMES_SECONDS, frames_step, str(path))


@router.post("/stacks/{int:stack_id}/runs", response={201: RunOut, 404: Problem})
def start_run(request: Request, stack_id: int, new: RunIn) -> Status[RunOut]:
    """Capture into a stack."""
    return Status(201, _run(services.start(stack_id, new.station, new.settings, request.user)))


@router.get("/stacks/{int:stack_id}/runs", response={200: list[RunOut], 404: Problem})
def list_runs(request: Request, stack_id: int) -> list[RunOut]:
    """The last captures into a stack, the latest first."""
    runs = Run.objects.filter(stack_id=stack_id).select_related("station").order_by("-pk")[:12]
    return [_run(run) for run in runs]


@router.post("/runs/{int:run_id}/{action}", response={200: RunOut, 404: Problem})
def steer_run(request: Request, run_id: int, action: Literal["go-on", "finish", "cancel"]) -> RunOut:
    """Let a stopped capture go on, keep what is in, or give it up with all it brought."""
    return _run({"go-on": services.go_on, "finish": services.finish, "cancel": services.cancel}[action](run_id))


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
        with services.talk_to(address, _LOOK_SECONDS) as client:
            return client.status()
    except StationError as error:
        return error
    except Refused as error:
        return StationError("unreachable", str(error))


def _station(station: Station, status: ScannerStatus | StationError) -> StationOut:
    can = services.capabilities_of(station)
    run = Run.objects.filter(station=station, state__in=[*services.OPEN, Run.State.STOPPED]).last()
    words, advice = services.standing(status, run)
    return StationOut(
        id=station.pk,
        name=station.name,
        address=station.address,
        platen=SourceOut.model_validate(can.platen) if can.platen else None,
        feeder=SourceOut.model_validate(can.feeder) if can.feeder else None,
        two_sided=can.two_sided,
        standing=words,
        advice=advice,
        ready=words.startswith("ready"),
        run=run.pk if run else None,
    )


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
        received=run.received,
        sheet=services.sheet_of(run),
        settings=CaptureSettings.model_validate(run.settings),
        binds_as=run.bind_as,
        started_at=run.started_at,
        files=files,
    )
