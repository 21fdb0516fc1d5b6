"""How a job at a station ended, told as what it is: nothing that did not come is passed over in silence."""

from dataclasses import dataclass

from hollowstack.server.capture.escl import Status, job_number
from hollowstack.server.capture.standing import FEEDER_TROUBLE

COMPLETED, CANCELED = "Completed", "Canceled"
LOADED, EMPTY = "ScannerAdfLoaded", "ScannerAdfEmpty"


@dataclass(frozen=True, slots=True)
class Load:
    """What was laid in a feeder, as far as it was counted, and how many whole sheets have come of it."""

    came: int
    laid: int | None

    @property
    def sheet(self) -> int:
        """The sheet, from 1, that was to come next."""
        return self.came + 1


def state_of(status: Status, job: str) -> str:
    """How a job stands by its address; empty where the station no longer speaks of it."""
    return status.jobs.get(job_number(job), "")


def lost_of(status: Status, job: str, came: int) -> int:
    """How many images of a completed job a station has handed out that did not come; 0 where it does not count them."""
    return max(0, status.made.get(job_number(job), 0) - came) if state_of(status, job) == COMPLETED else 0


def of_lost(images: int, *, two_sided: bool) -> str:
    """That so many images, at least one, were lost between the station and here, and what to do."""
    what, sheet, come = ("image", "its sheet", "page comes") if images == 1 else ("images", "their sheets", "pages come")
    was = "was" if images == 1 else "were"
    # Of a sheet that is captured again both sides come, and one of them was there.
    alone = "" if two_sided else f"lay {sheet} in alone and go on (the {come} last), or "
    return (
        f"{images} {what} of this load {was} lost on the way when the program or the line was interrupted: "
        f"{alone}discard what came and load all of it again."
    )


def of_load(status: Status, job: str, load: Load) -> str:
    """Why a load is not over although no more images come, and what to do; empty where all of it came."""
    state = state_of(status, job)
    again = f"reload from sheet {load.sheet}, and go on"
    if status.feeder in FEEDER_TROUBLE:
        return f"{FEEDER_TROUBLE[status.feeder]} at sheet {load.sheet}: clear the path, {again}."
    if state == CANCELED:
        return f"Somebody cancelled the capture at the station, at sheet {load.sheet}: {again}, or keep what came."
    if state == "Aborted":
        return f"The station gave up at sheet {load.sheet}: {again}, or keep what came."
    if status.feeder == LOADED:
        return f"The station stopped at sheet {load.sheet} and says that paper is left in it: go on, or keep what came."
    if load.came == 0:
        return "The station is done and gave no image: look whether the paper lies as it should, then go on."
    return _counted(load)


def of_frame(status: Status, job: str, number: int, frames: int) -> str:
    """Why the image of a frame on the glass (from 1) did not come, and what to do."""
    which = f"frame {number} of {frames}" if frames > 1 else "the image"
    if state_of(status, job) == CANCELED:
        return f"Somebody cancelled the capture at the station: {which} did not come. Go on, or keep what came."
    return f"The station gave nothing for {which}: look at it, then go on, or keep what came."


def _counted(load: Load) -> str:
    came, laid = load.came, load.laid
    if laid is None or came == laid:
        return ""
    if came * 2 == laid or came == laid * 2:
        return (
            f"{came} sheets came where {laid} were counted, {'half' if came < laid else 'twice'} as many: if sides were "
            "counted and not sheets, keep what came."
        )
    if came < laid:
        return f"{came} of {laid} sheets came: two may have gone in at once. Reload them and go on, or keep what came."
    return f"{came} sheets came where {laid} were counted: count them again, then keep what came."
