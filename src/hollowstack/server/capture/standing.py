"""How a station stands, in words, and what to do about it."""

from hollowstack.server.capture.escl import StationError, Status
from hollowstack.server.capture.models import Run
from hollowstack.server.capture.runs import sheet_of

FEEDER_TROUBLE = {
    "ScannerAdfJam": "A sheet is jammed",
    "ScannerAdfMultipickDetected": "Two sheets went in at once",
    "ScannerAdfMispick": "The feeder could not take the sheet",
    "ScannerAdfHatchOpen": "The feeder is open",
}


def standing(status: Status | StationError, run: Run | None) -> tuple[str, str]:
    """How a station stands, in a word or two, and what to do about it where there is something to be done."""
    if isinstance(status, StationError):
        return ("not a station" if status.kind == "nonsense" else "offline"), str(status)
    if status.feeder in FEEDER_TROUBLE:
        what = FEEDER_TROUBLE[status.feeder]
        return _trouble(status, run), f"{what}: clear the path, put the sheet back on top, and go on."
    if status.state == "Testing":
        return "warming up", "Wait until it is ready."
    if status.state == "Processing":
        return "capturing", ""
    if status.state in {"Stopped", "Down"}:
        return "stopped", "Look at the station: it waits for somebody."
    return ("ready, feeder empty" if status.feeder == "ScannerAdfEmpty" else "ready"), ""


def _trouble(status: Status, run: Run | None) -> str:
    words = {"ScannerAdfJam": "jam", "ScannerAdfMultipickDetected": "double feed"}.get(status.feeder, "feeder stopped")
    return f"{words} at sheet {sheet_of(run)}" if run else words
