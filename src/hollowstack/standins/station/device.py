"""A station as a machine: its sources, its tray, its jobs, its faults. No HTTP, and the clock is handed in."""

import random
import threading
import uuid
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any

from pydantic import BaseModel, ConfigDict

from hollowstack.core.page.paper_path import COMMON, EDGES, Edge, Face, PaperPath, offset_mm
from hollowstack.standins.station.bundles import Leaf
from hollowstack.standins.station.imaging import Area, Lying, corners, encoded, see

MM = 300 / 25.4
"""eSCL counts regions in 1/300 inch."""


@dataclass(frozen=True, slots=True)
class Model:
    """What a kind of station can do. Widths and heights in mm."""

    name: str
    platen: tuple[float, float] | None
    feeder: tuple[float, float] | None
    duplex: bool = False
    resolutions: tuple[int, ...] = (75, 150, 200, 300, 400, 600)
    sheets_a_minute: float = 20.0
    job_s: float = 1.0
    """What each job takes before its first image: the lamp, the carriage."""
    senses_double_feed: bool = False
    slow_feed: bool = False
    """Whether it can draw sheets in slowly."""
    glass_path: PaperPath = COMMON["platen"]
    feeder_path: PaperPath = COMMON["feeder"]
    place: str = ""
    """Where it stands, as it says itself."""


SLOWER = 2.5
"""A sheet that is fed slowly takes so many times as long."""
MODELS = (
    Model(
        "Glass A4",
        (216, 297),
        None,
        resolutions=(75, 100, 150, 200, 300, 400, 600, 1200),
        sheets_a_minute=7,
        job_s=1.5,
        place="by the window",
    ),
    Model("Feeder One", None, (216, 356), place="by the door", feeder_path=PaperPath("down", "top", "middle")),
    Model(
        "Feeder Two",
        None,
        (216, 1700),
        duplex=True,
        sheets_a_minute=30,
        senses_double_feed=True,
        slow_feed=True,
        place="by the door",
        feeder_path=PaperPath("up", "bottom", "middle"),
    ),
)


class Faults(BaseModel):
    """What goes wrong, set by whoever tries the product out."""

    model_config = ConfigDict(extra="forbid")

    offline: bool = False
    warm_up_s: float = 0.0
    lid_open: bool = False
    dust: bool = False
    skew_deg: float = 0.0
    """How far loose guides let sheets turn, at the most."""
    jam_after: int | None = None
    """The sheet after so many jams, once."""
    double_feed_at: int | None = None
    """The n-th sheet of a load takes the next one with it, once."""
    hang: bool = False
    cut_short: int | None = None
    """The n-th image of a job stops in the middle, once."""
    nonsense: bool = False
    """Answers are not eSCL at all."""
    slow_s: float = 0.0
    """Before each answer."""
    silent_s: float = 0.0
    """In the middle of each answer, and of each image."""
    stale: bool = False
    """Of its feeder it tells at first what was true before: paper that has gone through lies there still, for one answer."""
    speed: float = 1.0
    """How many times as fast as the thing itself; 0 takes no time."""
    seed: int = 1


class Busy(Exception):
    """A job is under way."""


class Empty(Exception):
    """There is no paper in the feeder."""


class Unfit(Exception):
    """The settings are beyond this station."""


@dataclass(frozen=True, slots=True)
class Order:
    """Scan settings as asked for; region in 1/300 inch."""

    source: str
    duplex: bool
    colour: str
    ppi: int
    media_type: str
    region: tuple[int, int, int, int]
    """x, y, width, height."""
    slow: bool = False


@dataclass
class Job:
    """One job: sides still to come, and what became of it."""

    number: int
    order: Order
    state: str = "Processing"
    reason: str = "JobScanning"
    made: int = 0
    sides: deque[Lying] = field(default_factory=deque)
    held: bytes | None = None
    """An image made and not yet taken whole: asked again, it is offered again."""


class Device:
    """One station. Thread-safe; an image takes as long as the real thing would."""

    def __init__(
        self, model: Model, sleep: Callable[[float], None], clock: Callable[[], float], serial: str = "0001"
    ) -> None:
        self.model, self.serial = model, serial
        self.uuid = str(uuid.uuid5(uuid.NAMESPACE_OID, f"{model.name} {serial}"))
        self.shown = ""
        """What its panel shows, so that whoever stands before it knows which one is meant."""
        self.faults = Faults()
        self.tray: list[Leaf] = []
        self.truth: list[dict[str, Any]] = []
        self.jobs: dict[int, Job] = {}
        self.feeder_state = ""
        self.keys = 0
        """How often its start key was pressed."""
        self._clock, self._warm_at = clock, 0.0
        self._told_adf = ""
        self._flipped = False
        self._laid: tuple[Face, Edge] | None = None
        self._sleep = sleep
        self._lock = threading.RLock()
        self._fed = 0

    def load(self, leaves: list[Leaf], *, flipped: bool = False, laid: tuple[Face, Edge] | None = None) -> None:
        """Lay sheets in; ``flipped`` turns the bundle over, so that its last sheet's back comes first.

        ``laid`` says which way their fronts lie and which edge is ahead; without it, they lie as this station wants them.
        """
        with self._lock:
            self.tray = leaves[::-1] if flipped else list(leaves)
            self._flipped, self._laid = flipped, laid
            self.feeder_state = ""
            self._fed = 0

    def clear(self) -> None:
        """Take the jammed sheet out and put it back on top of those not yet fed."""
        with self._lock:
            self.feeder_state = ""

    def warm_up(self, seconds: float) -> None:
        """The lamp needs so long from now."""
        self._warm_at = self._clock() + seconds

    @property
    def busy(self) -> Job | None:
        """The job under way."""
        return next((job for job in self.jobs.values() if job.state == "Processing"), None)

    @property
    def state(self) -> str:
        """As ScannerStatus says it."""
        if self.busy:
            return "Processing"
        if self.feeder_state in {"ScannerAdfJam", "ScannerAdfMultipickDetected"}:
            return "Stopped"
        return "Testing" if self._clock() < self._warm_at else "Idle"

    @property
    def adf_state(self) -> str:
        """The feeder as it is."""
        return self.feeder_state or ("ScannerAdfLoaded" if self.tray else "ScannerAdfEmpty")

    def told_adf_state(self) -> str:
        """The feeder as ScannerStatus says it."""
        with self._lock:
            before, self._told_adf = self._told_adf, self.adf_state
            return before if self.faults.stale and before else self._told_adf

    def start(self, order: Order) -> Job:
        """Begin a job. Raises Busy, Empty, Unfit."""
        with self._lock:
            if self.busy or self.state == "Testing":
                raise Busy
            self._check(order)
            if order.source == "Feeder" and (not self.tray or self.feeder_state):
                raise Empty
            job = Job(len(self.jobs) + 1, order)
            self.jobs[job.number] = job
            return job

    def cancel(self, number: int) -> None:
        """End a job where it is; sheets already fed are out."""
        with self._lock:
            job = self.jobs[number]
            if job.state == "Processing":
                job.state, job.reason = "Canceled", "JobCanceledByUser"

    def next_image(self, number: int) -> bytes | None:
        """The job's next image, after as long as it takes; None where there are no more. Call ``taken`` once it is out."""
        with self._lock:
            job = self.jobs[number]
            if job.held is not None:
                return job.held
            if job.state != "Processing":
                return None
            if not job.sides and not self._feed(job):
                return None
            lying = job.sides.popleft()
        area = self._area(job.order, lying)
        self._sleep(self._seconds(job, area))
        with self._lock:
            if job.state != "Processing":
                return None
            faults = self.faults
            sheets = self.on_glass() if job.order.source == "Platen" else [lying]
            seed = faults.seed * 1000 + self._fed
            pixels = see(
                sheets, area, lid_open=faults.lid_open and job.order.source == "Platen", dust=faults.dust, seed=seed
            )
            job.held = encoded(pixels, job.order.colour, job.order.media_type, job.order.ppi)
            self.truth.append({"sheets": [_truth(lying, area) for lying in sheets]})
            return job.held

    def taken(self, number: int) -> None:
        """The image was received whole."""
        with self._lock:
            job = self.jobs[number]
            job.held = None
            job.made += 1
            if not job.sides and job.order.source == "Platen":
                job.state, job.reason = "Completed", "JobCompletedSuccessfully"

    def _feed(self, job: Job) -> bool:
        """Take the next sheet into the path; False ends the job."""
        if job.order.source == "Platen":
            if job.made:
                return False
            job.sides.append(Lying(_NOTHING, 0, 0))
            return True
        if not self.tray:
            job.state, job.reason = "Completed", "JobCompletedSuccessfully"
            return False
        if self.faults.jam_after is not None and self._fed == self.faults.jam_after:
            self.faults = self.faults.model_copy(update={"jam_after": None})
            self.feeder_state = "ScannerAdfJam"
            job.state, job.reason = "Aborted", "AbortedBySystem"
            return False
        leaf = self.tray.pop(0)
        self._fed += 1
        if self.faults.double_feed_at == self._fed and self.tray:
            self.faults = self.faults.model_copy(update={"double_feed_at": None})
            stuck = self.tray.pop(0)
            if self.model.senses_double_feed:
                self.tray[:0] = [leaf, stuck]
                self._fed -= 1
                self.feeder_state = "ScannerAdfMultipickDetected"
                job.state, job.reason = "Aborted", "AbortedBySystem"
                return False
        chance = random.Random(self.faults.seed * 7919 + self._fed)
        skew = chance.uniform(-1, 1) * max(self.faults.skew_deg, 0.25)
        path = self.model.feeder_path
        for back in (False, True) if job.order.duplex else (False,):
            lies_back, turn = self._lies(path, back=back != self._flipped)
            lying = Lying(leaf, 0, 0, skew if not back else -skew, lies_back, turn)
            bed = self.model.feeder or (216.0, 356.0)
            left, _ = offset_mm(path, "feeder", bed, (lying.width_mm, lying.height_mm))
            job.sides.append(replace(lying, x_mm=left + lying.width_mm / 2, y_mm=lying.height_mm / 2 + 2))
        return True

    def _lies(self, path: PaperPath, *, back: bool) -> tuple[bool, int]:
        """Which side is seen where one that is laid well would show ``back``, and how far it is turned, in degrees."""
        if self._laid is None:
            return back, 0
        face, edge = self._laid
        back = back != (face != path.face)
        ahead = _OVER[edge] if back else edge
        return back, (EDGES.index(path.edge) - EDGES.index(ahead)) % 4 * 90

    def on_glass(self) -> list[Lying]:
        """Sheets laid on the glass by hand: in rows, none quite straight."""
        found, x, y, row = [], 6.0, 6.0, 0.0
        chance = random.Random(self.faults.seed)
        wide = self.model.platen[0] if self.model.platen else 216
        for leaf in self.tray:
            if x > 6 and x + leaf.width_mm > wide - 2:
                x, y, row = 6.0, y + row + 9, 0.0
            skew = chance.uniform(-1, 1) * max(self.faults.skew_deg, 1.6)
            found.append(Lying(leaf, x + leaf.width_mm / 2, y + leaf.height_mm / 2, skew))
            x, row = x + leaf.width_mm + 10, max(row, leaf.height_mm)
        return [self._at_mark(lying) for lying in found]

    def _at_mark(self, lying: Lying) -> Lying:
        """On the glass as it is laid: from the corner where the mark is, one side up."""
        wide, high = self.model.platen or (216.0, 297.0)
        back, turn = self._lies(self.model.glass_path, back=False)
        lying = replace(lying, back=back, turn=turn)
        if turn % 180:
            lying = replace(lying, x_mm=lying.y_mm, y_mm=lying.x_mm)
        right, bottom = offset_mm(self.model.glass_path, "platen", (1.0, 1.0), (0.0, 0.0))
        return replace(
            lying, x_mm=wide - lying.x_mm if right else lying.x_mm, y_mm=high - lying.y_mm if bottom else lying.y_mm
        )

    def _area(self, order: Order, lying: Lying) -> Area:
        x, y, width, height = (value / MM for value in order.region)
        if order.source == "Feeder":
            # The path ends with the sheet; a region as wide as the path is cut to the sheet's own width.
            height = min(height, lying.height_mm + 4)
            path = self.model.feeder[0] if self.model.feeder else 216
            if width >= path - 1:
                width = min(path, lying.width_mm + 4)
                x = min(max(0.0, lying.x_mm - width / 2), path - width)
        return Area(x, y, width, height, order.ppi)

    def _check(self, order: Order) -> None:
        bed = self.model.platen if order.source == "Platen" else self.model.feeder
        if bed is None or order.ppi not in self.model.resolutions or (order.duplex and not self.model.duplex):
            raise Unfit
        if order.slow and not (order.source == "Feeder" and self.model.slow_feed):
            raise Unfit
        x, y, width, height = order.region
        if width <= 0 or height <= 0 or x + width > bed[0] * MM + 2 or y + height > bed[1] * MM + 2:
            raise Unfit

    def _seconds(self, job: Job, area: Area) -> float:
        """A sheet of A4 at 300 ppi takes as long as the model says; finer and coloured ones longer, a job's first too."""
        if not self.faults.speed:
            return 0.0
        order, first = job.order, 0.0 if job.made else self.model.job_s
        share = area.height_mm / 297 * (order.ppi / 300) ** 2 * (1.0 if order.colour == "RGB24" else 0.5)
        side = max(0.15, 60 / self.model.sheets_a_minute * share) / (2 if order.duplex else 1)
        return (first + side * (SLOWER if order.slow else 1.0)) / self.faults.speed


def _truth(lying: Lying, area: Area) -> dict[str, Any]:
    return {"name": lying.leaf.name, "back": lying.back, "tilt_deg": lying.skew, "quad_px": corners(lying, area)}


_OVER: dict[Edge, Edge] = {"top": "top", "bottom": "bottom", "left": "right", "right": "left"}
"""The same edge of a sheet, as its back is read."""
_NOTHING = Leaf("glass", 0, 0, lambda ppi, seed: see([], Area(0, 0, 1, 1, 75)))
