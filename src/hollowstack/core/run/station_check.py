"""How well a station captures: in a page worker, from the file as it came."""

from pathlib import Path

from hollowstack.core.calibrate import read_patches
from hollowstack.core.calibrate.station_quality import Quality, measure_station
from hollowstack.core.decode import decode


def check_station_from(master: str, frame: int, patches: str) -> Quality:
    """The figures of a station by its image of the quality target.

    Args:
        master: Path of the file as it came.
        frame: Which of its images.
        patches: The patch file's text; empty where nobody has measured the printed target.

    Raises:
        CalibrationError: It does not show the target, or the patch file is none.
        DecodeError: The file cannot be read.
    """
    return measure_station(decode(Path(master), frame), read_patches(patches) if patches else None)
