"""Whether a page is a separator sheet: the code on it is looked for and read."""

import zxingcpp

from hollowstack.core.page.raster import Raster

CODE = "HOLLOW-STACK SEPARATOR 1"
"""What the code on a separator sheet says."""
_PPI = 100.0
"""The sheet's modules are over 2 mm wide: four pixels and more are left of each."""


def is_separator(page: Raster) -> bool:
    """Whether the code of a separator sheet is on a page, however it lies.

    Args:
        page: Gray, with its resolution; an unknown one is taken for 300 ppi.

    Source:
        QR Code, ISO/IEC 18004:2015; read by the zxing-cpp library.
    """
    small = page.gray().reduced(_PPI)
    found = zxingcpp.read_barcodes(small.pixels, zxingcpp.BarcodeFormats(zxingcpp.BarcodeFormat.QRCode), try_downscale=False)
    return any(code.text == CODE for code in found)
