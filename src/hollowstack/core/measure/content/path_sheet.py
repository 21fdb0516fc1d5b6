"""The test sheet that tells how paper goes into a source: whether it is on an image, and how it lies there."""

import math
from dataclasses import dataclass

import zxingcpp

from hollowstack.core.page.errors import PaperError
from hollowstack.core.page.paper_sizes import paper_size
from hollowstack.core.page.raster import Raster

CODE = "HOLLOW-STACK TEST SHEET 1 "
"""What its code says, followed by the name of the paper that it is printed on."""
CODE_SIDE = 0.3
"""Side of the code, as a share of the sheet's height."""
CODE_DOWN = 0.34
"""How far down the sheet the middle of the code is, as a share of its height; across it is in the middle."""
_PPI = 150.0


@dataclass(frozen=True, slots=True)
class LyingSheet:
    """A test sheet on an image."""

    turn: int
    """How far it is turned from upright: 0, 90, 180 or 270 degrees clockwise."""
    box_mm: tuple[float, float, float, float]
    """Its left, top, right and bottom."""


def find_path_sheet(page: Raster) -> LyingSheet | None:
    """Where a test sheet lies, by its code; None where there is none.

    Args:
        page: An image of any kind with its resolution; an unknown one is taken for 300 ppi.

    Returns:
        Its place from the code alone, within some 2 mm: a lid as white as the sheet does not matter, nor does a printer that
        made it smaller to fit its margins, since it does so about the middle of the sheet.

    Source:
        QR Code, ISO/IEC 18004:2015; read by the zxing-cpp library.
    """
    small = page.gray().reduced(_PPI)
    codes = zxingcpp.read_barcodes(small.pixels, zxingcpp.BarcodeFormats(zxingcpp.BarcodeFormat.QRCode), try_downscale=False)
    found = next((code for code in codes if code.text.startswith(CODE)), None)
    if found is None:
        return None
    try:
        size = paper_size(found.text.removeprefix(CODE))
    except PaperError:
        return None
    at = found.position
    a, b, c, d = ((point.x, point.y) for point in (at.top_left, at.top_right, at.bottom_right, at.bottom_left))
    middle = [sum(values) / 4 for values in zip(a, b, c, d, strict=True)]
    # Downwards on the sheet, from the upper side of the code to the lower one.
    down = (c[0] + d[0] - a[0] - b[0]) / 2, (c[1] + d[1] - a[1] - b[1]) / 2
    turn = round(math.degrees(math.atan2(-down[0], down[1])) / 90) % 4 * 90
    below = (0.5 - CODE_DOWN) / CODE_SIDE  # the middle of the sheet, in sides of the code as it was printed
    x, y = ((middle[axis] + below * down[axis]) * 25.4 / small.scale_ppi[axis] for axis in (0, 1))
    upright = turn in {0, 180}
    wide, high = (size.width_mm, size.height_mm) if upright else (size.height_mm, size.width_mm)
    return LyingSheet(turn, (x - wide / 2, y - high / 2, x + wide / 2, y + high / 2))
