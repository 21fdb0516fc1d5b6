"""EXIF orientation: all eight values against the definition in Exif 2.32 (CIPA DC-008-2019), 4.6.4, tag 0x0112."""

import numpy as np
import pytest
from PIL import Image

from hollowstack.core.decode import decode

# "The 0th row represents the visual …, the 0th column the visual …", values 1 to 8 of the standard.
ROW_0_COLUMN_0 = {
    1: ("top", "left"), 2: ("top", "right"), 3: ("bottom", "right"), 4: ("bottom", "left"),
    5: ("left", "top"), 6: ("right", "top"), 7: ("right", "bottom"), 8: ("left", "bottom"),
}  # fmt: skip


def stored(shown: np.ndarray, row: str, column: str) -> np.ndarray:
    """The rows and columns a camera stores so that its picture is to be shown as ``shown``."""
    if row in {"top", "bottom"}:
        pixels = shown if row == "top" else shown[::-1]
        return pixels if column == "left" else pixels[:, ::-1]
    pixels = shown.transpose(1, 0, 2)  # stored rows are visual columns
    pixels = pixels if row == "left" else pixels[::-1]
    return pixels if column == "top" else pixels[:, ::-1]


@pytest.mark.parametrize("value", range(1, 9))
@pytest.mark.parametrize("ending", ["png", "tif"])
def test_every_orientation_is_shown_as_it_was_seen(value, ending, tmp_path):
    shown = np.random.default_rng(1).integers(0, 256, (24, 40, 3), dtype=np.uint8)
    exif = Image.Exif()
    exif[0x0112] = value
    path = tmp_path / f"a.{ending}"
    Image.fromarray(np.ascontiguousarray(stored(shown, *ROW_0_COLUMN_0[value]))).save(path, exif=exif)
    assert np.array_equal(decode(path).pixels, shown)
