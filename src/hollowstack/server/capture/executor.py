"""One run carried out: images from the station into the stack, each once, whatever dies in between.

What becomes of an image that has come is ``receiving``'s; what a station is still holding it offers again.
"""

import logging
import threading
import time

from django.core.exceptions import ObjectDoesNotExist
from django.db import DatabaseError, connection, transaction
from django.db.models import F
from django.utils import timezone

from hollowstack.core.page.errors import HollowStackError, is_full
from hollowstack.server.capture import ending, prescan, runs
from hollowstack.server.capture.escl import EsclClient, ScanSettings, StationError, Status
from hollowstack.server.capture.models import Run, Station
from hollowstack.server.capture.paper import path_of
from hollowstack.server.capture.receiving import Receiver
from hollowstack.server.capture.runs import sheet_of
from hollowstack.server.capture.settings import CaptureSettings, jobs_for
from hollowstack.server.capture.standing import FEEDER_TROUBLE
from hollowstack.server.capture.station_list import capabilities_of, talk_to
from hollowstack.server.errors import FULL, Refused
from hollowstack.server.intake import batches
from hollowstack.server.storage.room import require_room

log = logging.getLogger("hollowstack.capture")
_BUSY_SECONDS = 1.0
_SETTLE_SECONDS = 0.5
_DATABASE_SECONDS = 5.0
_BUSY_TIMES = 90


_UNWRITABLE = "The disk of the server cannot be used ({}): what came is kept; mend it, then go on."


class Carrier:
    """Carries one run out; ``work`` returns when it is done, stopped or cancelled, or when ``halt`` was called."""

    def __init__(self, run_id: int, patience: float) -> None:
        self._run = Run.objects.select_related("station", "stack", "batch", "by").get(pk=run_id)
        self._wish = CaptureSettings.model_validate(self._run.settings)
        self._images = Receiver(self._run, self._wish)
        self._patience = patience
        self._client: EsclClient
        self._halt = threading.Event()
        self._claim = self._run.claimed_by

    def halt(self) -> None:
        """Stop soon and leave the run as it is, to be taken up again."""
        self._halt.set()

    def work(self) -> None:
        """Carry the run out."""
        try:
            with talk_to(self._station.address, self._patience) as self._client:
                self._carry()
        except HollowStackError as error:  # the server may not go there
            self._end(Run.State.STOPPED, str(error))
            if self._asked() == Run.State.CANCELLING:
                self._run.job = ""
                self._discard()
        finally:
            connection.close()

    @property
    def _station(self) -> Station:
        if self._run.station is None:
            raise Refused("The station of this capture is no longer on the list: finish, and capture the rest with another.")
        return self._run.station

    def _carry(self) -> None:
        try:
            if self._wanted():
                self._begin()
            self._images.recover()
            self._jobs()
        except HollowStackError as error:
            if self._wanted():
                self._end(Run.State.STOPPED, str(error))
        except OSError as error:
            # What has come whole lies in its spool, and is taken in first when the run goes on.
            if self._wanted():
                self._end(Run.State.STOPPED, FULL if is_full(error) else _UNWRITABLE.format(error.strerror or error))
        except DatabaseError as error:
            # No sheet is asked for before the database takes the state of the run again.
            log.warning("run %s: the database cannot be used now: %s", self._run.pk, error)
            self._halt.wait(_DATABASE_SECONDS)
            return
        except ObjectDoesNotExist:
            self._end(Run.State.STOPPED, "The page that was chosen for it is gone: finish, and choose another place.")
        finally:
            self._leave()

    def _leave(self) -> None:
        """What somebody has asked for in the meantime."""
        try:
            match self._asked():
                case Run.State.CANCELLING:
                    self._discard()
                case Run.State.FINISHING:
                    self._finish()
                case Run.State.PAUSING:
                    sheet = sheet_of(self._run) if self._wish.source == "feeder" else None
                    where = f" before sheet {sheet}" if sheet else ""
                    self._end(Run.State.STOPPED, f"Paused{where}: go on when you are ready, or keep what came.")
        except DatabaseError as error:
            log.warning("run %s: the database cannot be used now: %s", self._run.pk, error)

    def _jobs(self) -> None:
        jobs = jobs_for(self._wish, capabilities_of(self._station), path_of(self._station, self._wish.source))
        for number, job in enumerate(jobs):
            if not self._wanted() or not self._job(number, job, len(jobs)):
                return
        self._end(Run.State.DONE)

    def _begin(self) -> None:
        run = self._run
        if run.batch is None:
            after = self._wish.page if self._wish.place == "after" else None
            record = {"station": self._station.name, "run": run.pk, **run.settings}
            replaces = self._wish.place == "instead"
            run.batch = batches.open_batch(run.stack_id, run.by, after=after, record=record, silent=replaces)
        self._save(state=Run.State.RUNNING)

    def _job(self, number: int, job: ScanSettings, of: int) -> bool:
        """One job to its end; False where the run goes no further now."""
        on_glass = job.source == "Platen"
        if on_glass and number < self._run.received:
            return True
        begun_before = bool(self._run.job)
        if not begun_before:
            self._save(job=self._start(job), before_job=self._run.received)
        came, began = 0, time.monotonic()
        while True:
            # No sheet is asked for before there is room for it: what a station has handed out it does not hand out again.
            require_room()
            if not self._wanted():
                return False  # the job waits at the station: whoever goes on goes on with it
            media_type = self._client.next_document(self._run.job, self._images.spool, self._alive)
            if media_type is None:
                break
            self._images.take_in(media_type)
            came += 1
            if on_glass:
                self._timed(began)
                self._save(job="")
                return True
        address = self._run.job
        status = self._at_rest()
        self._save(job="")
        if not self._wanted():
            self._client.cancel(address)
            return False
        if begun_before and not came and self._is_forgotten(status, address, on_glass=on_glass):
            return self._job(number, job, of)
        if came and not begun_before and ending.state_of(status, address) == ending.COMPLETED:
            self._timed(began)
        # The station has forgotten what it handed out to a process that died; its count has not.
        if begun_before and (lost := ending.lost_of(status, address, self._run.received - self._run.before_job)):
            return self._stopped(ending.of_lost(lost, two_sided=job.two_sided))
        if on_glass:
            return self._stopped(ending.of_frame(status, address, number + 1, of))
        if status.feeder in FEEDER_TROUBLE:
            self._images.drop_half_sheet()
        return not (why := ending.of_load(status, address, self._load())) or self._stopped(why)

    def _at_rest(self) -> Status:
        """How the station stands once a job is over: a feeder that does not say that it is empty is asked again.

        What its sensor saw last may have gone through since, and what was jammed may have been cleared.
        """
        status = self._client.status()
        if status.feeder in {"", ending.EMPTY}:
            return status
        self._halt.wait(_SETTLE_SECONDS)
        return self._client.status()

    def _timed(self, began: float) -> None:
        """A job that was carried out in one go says how quick the station is."""
        took = time.monotonic() - began
        Run.objects.filter(pk=self._run.pk).update(jobs=F("jobs") + 1, seconds=F("seconds") + took)

    @staticmethod
    def _is_forgotten(status: Status, address: str, *, on_glass: bool) -> bool:
        """Whether a station has let a job go that was to be gone on with, and there is still something to capture."""
        if on_glass:  # a process that died may have left the job of the frame before, whose image is in
            return True
        return ending.state_of(status, address) != ending.COMPLETED and status.feeder == ending.LOADED

    def _load(self) -> ending.Load:
        return ending.Load(sheet_of(self._run) - 1, self._wish.sheets)

    def _stopped(self, why: str) -> bool:
        """Stop, and say why; False, as the run goes no further now."""
        self._end(Run.State.STOPPED, why)
        return False

    def _start(self, job: ScanSettings) -> str:
        """Begin a job, waiting for a station that is warming up or busy with the sheet before."""
        for _ in range(_BUSY_TIMES):
            try:
                return self._client.start(job)
            except StationError as error:
                if error.kind == "refused" and job.source == "Feeder":
                    raise StationError("refused", self._no_paper()) from None
                if error.kind != "busy" or not self._wanted():
                    raise
                prescan.let_go(self._station, unclaimed=0.0)
            self._halt.wait(_BUSY_SECONDS)
        raise StationError("busy", "The station has been busy for too long: look what it waits for, then go on.")

    def _no_paper(self) -> str:
        if capabilities_of(self._station).platen is not None:
            return "The feeder is empty: lay the paper in, or capture from the glass instead."
        return "The feeder is empty: lay the paper in, then go on."

    def _finish(self) -> None:
        """End it where it is, and keep what came: a front too whose back did not."""
        self._end_job()
        Run.objects.filter(pk=self._run.pk, state=Run.State.FINISHING).update(
            state=Run.State.DONE, problem="", outcome=runs.said_of(self._run), job="", ended_at=timezone.now()
        )

    def _discard(self) -> None:
        """End it where it is; what came goes to the bin, from which it can be taken back."""
        self._end_job()
        self._images.clear()
        with transaction.atomic():
            outcome = runs.discard(self._run) if self._wish.place != "instead" else ""
            Run.objects.filter(pk=self._run.pk).update(
                state=Run.State.CANCELLED, outcome=outcome, batch=None, job="", received=0, ended_at=timezone.now()
            )

    def _end_job(self) -> None:
        if not self._run.job:
            return
        try:
            self._client.cancel(self._run.job)
        except StationError:
            log.warning("run %s: the station could not be told", self._run.pk)

    def _wanted(self) -> bool:
        """Whether more images are to be asked for."""
        return self._alive() and self._asked() in {Run.State.WANTED, Run.State.RUNNING}

    def _alive(self) -> bool:
        """Whether an image that is coming is to be taken to its end."""
        mine = Run.objects.filter(pk=self._run.pk, claimed_by=self._claim).exists()
        return mine and not self._halt.is_set() and self._asked() != Run.State.CANCELLING

    def _asked(self) -> str:
        return str(Run.objects.values_list("state", flat=True).get(pk=self._run.pk))

    def _end(self, state: str, problem: str = "") -> None:
        ended = timezone.now() if state == Run.State.DONE else None
        under_way = Run.objects.filter(pk=self._run.pk, state__in=[Run.State.WANTED, Run.State.RUNNING, Run.State.PAUSING])
        under_way.update(state=state, problem=problem, ended_at=ended)

    def _save(self, **fields: object) -> None:
        for name, value in fields.items():
            setattr(self._run, name, value)
        if fields.get("state") == Run.State.RUNNING:
            Run.objects.filter(pk=self._run.pk, state=Run.State.WANTED).update(
                state=Run.State.RUNNING, batch=self._run.batch
            )
        else:
            Run.objects.filter(pk=self._run.pk).update(**fields)
