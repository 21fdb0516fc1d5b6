"""The quality target: where on its sheet everything is, in mm from the upper left, and where the sheet lies in an image."""

from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt
import zxingcpp

from hollowstack.core.calibrate.colorimetry import Colours
from hollowstack.core.page.errors import CalibrationError
from hollowstack.core.page.raster import Raster

CODE = "HOLLOW-STACK QUALITY TARGET 1 "
"""What the codes at its corners say, each followed by its number."""
SIZE_MM = (210.0, 297.0)
CODE_MM = 20.0
CODES_MM = ((12.0, 12.0), (178.0, 12.0), (178.0, 265.0), (12.0, 265.0))
"""Upper left corners of the codes, clockwise."""
PATCH_MM = 15.0
ROWS, COLS = 5, 6
PATCHES_MM = (60.0, 60.0)
"""Upper left corner of the field of patches: two rows of greys, three of colours; named A1 to E6."""
EDGES_MM = ((30.0, 60.0), (180.0, 60.0), (105.0, 175.0), (30.0, 235.0), (180.0, 235.0))
"""Middles of the dark squares, which are askew by ``EDGE_DEG``."""
EDGE_MM, EDGE_DEG = 18.0, 5.0
ACROSS_MM, DOWN_MM = (20.0, 190.0), (20.0, 277.0)
"""The scale: middles of two upright bars half-way down the sheet, and of two that lie half-way across it."""
WHITES_MM = tuple((x, y) for y in (45.0, 148.5, 252.0) for x in (48.0, 105.0, 162.0))
"""Middles of places where there is nothing but paper."""
WHITE_MM = 5.0

_GREYS = (95.0, 88.0, 81.0, 74.0, 67.0, 60.0, 53.0, 46.0, 39.0, 32.0, 25.0, 18.0)
_HUES = (
    (52, 60, 40), (65, 45, 55), (78, 5, 75), (60, -45, 40), (52, -35, -5), (45, 5, -45),
    (40, 45, -25), (70, 30, 10), (80, -15, 45), (75, -25, 5), (70, -5, -25), (65, 15, -15),
    (35, 30, 20), (45, 20, 35), (40, -20, 25), (35, -10, -10), (30, 10, -30), (35, 30, -5),
)  # fmt: skip
NOMINAL_LAB: Colours = np.array([*((light, 0.0, 0.0) for light in _GREYS), *_HUES], dtype=np.float64)
"""What is sent to the printer, (30, 3) in L*a*b*: what it prints is known only once the sheet was measured."""
NAMES = tuple(f"{'ABCDE'[row]}{col + 1}" for row in range(ROWS) for col in range(COLS))

_PPI = 200.0
"""At which the codes are looked for."""


class Lying(NamedTuple):
    """Where a target lies."""

    to_px: npt.NDArray[np.float64]
    """From mm on the sheet to pixels of the image, (3, 3) homogeneous."""

    def at(self, points: npt.ArrayLike) -> npt.NDArray[np.float64]:
        """Places of the sheet in pixels, (n, 2)."""
        given = np.asarray(points, dtype=np.float64).reshape(-1, 1, 2)
        return np.asarray(cv2.perspectiveTransform(given, self.to_px)[:, 0], dtype=np.float64)


def find_target(image: Raster) -> Lying:
    """Where the target lies in an image, however it is turned.

    Raises:
        CalibrationError: Not all of its four codes can be read.

    Source:
        QR Code, ISO/IEC 18004:2015; read by the zxing-cpp library.
    """
    gray = image.gray()
    small = gray.reduced(_PPI)
    scale = (gray.width / small.width, gray.height / small.height)
    found = zxingcpp.read_barcodes(small.pixels, zxingcpp.BarcodeFormats(zxingcpp.BarcodeFormat.QRCode), try_downscale=False)
    on_sheet: list[tuple[float, float]] = []
    in_image: list[tuple[float, float]] = []
    for code in found:
        number = code.text.removeprefix(CODE)
        if not code.text.startswith(CODE) or number not in {"1", "2", "3", "4"}:
            continue
        left, top = CODES_MM[int(number) - 1]
        corners = ((left, top), (left + CODE_MM, top), (left + CODE_MM, top + CODE_MM), (left, top + CODE_MM))
        on_sheet += corners
        at = code.position
        for point in (at.top_left, at.top_right, at.bottom_right, at.bottom_left):
            in_image.append((point.x * scale[0], point.y * scale[1]))
    if len(on_sheet) < 4 * len(CODES_MM):
        raise CalibrationError(
            "This page does not show the whole quality target: lay it in flat and whole, and capture it again."
        )
    matrix, _ = cv2.findHomography(np.array(on_sheet), np.array(in_image), 0)
    return Lying(np.asarray(matrix, dtype=np.float64))
