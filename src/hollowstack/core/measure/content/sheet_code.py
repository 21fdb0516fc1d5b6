"""What the code on a sheet says that was printed to lie between papers: a separator sheet's, a cover sheet's."""

import zxingcpp

from hollowstack.core.page.raster import Raster

SEPARATOR = "HOLLOW-STACK SEPARATOR 1"
"""What the code on a separator sheet says."""
COVER = "HOLLOW-STACK COVER 1 "
"""What the code on a cover sheet begins with; what follows says whose papers lie under it. Capital letters, figures and
blanks alone, of which a code of the same size holds more."""
_PPI = 100.0
"""A separator sheet's modules are over 2 mm wide, a cover sheet's over 1 mm: four pixels and more are left of each."""


def sheet_code(page: Raster) -> str:
    """What the code of one of our sheets says, however the sheet lies; empty where the page is none of them.

    Args:
        page: Gray, with its resolution; an unknown one is taken for 300 ppi.

    Source:
        QR Code, ISO/IEC 18004:2015; read by the zxing-cpp library.
    """
    small = page.gray().reduced(_PPI)
    found = zxingcpp.read_barcodes(small.pixels, zxingcpp.BarcodeFormats(zxingcpp.BarcodeFormat.QRCode), try_downscale=False)
    return next((code.text for code in found if code.text == SEPARATOR or code.text.startswith(COVER)), "")
