"""From a captured colour target to a profile of the device that captured it."""

from hollowstack.core.calibrate.calibration import calibrate
from hollowstack.core.calibrate.cgats import PatchFile, read_patches

__all__ = ["PatchFile", "calibrate", "read_patches"]
