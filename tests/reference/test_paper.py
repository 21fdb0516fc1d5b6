"""Paper sizes against the tables of the standards (their figures from memory), and the separator's code against other
people's readers."""

import cv2
import numpy as np
import pypdfium2
import pytest
import zxingcpp

from hollowstack.core.bind.separator_sheet import separator_sheet
from hollowstack.core.measure.content.sheet_code import SEPARATOR
from hollowstack.core.page.paper_sizes import paper_size

# ISO 216:2007, tables 1 and 2; ISO 269:1985 for the C series and DL. Width × height in mm, 0 to 10.
ISO = {
    "A": [
        (841, 1189),
        (594, 841),
        (420, 594),
        (297, 420),
        (210, 297),
        (148, 210),
        (105, 148),
        (74, 105),
        (52, 74),
        (37, 52),
        (26, 37),
    ],
    "B": [
        (1000, 1414),
        (707, 1000),
        (500, 707),
        (353, 500),
        (250, 353),
        (176, 250),
        (125, 176),
        (88, 125),
        (62, 88),
        (44, 62),
        (31, 44),
    ],
    "C": [
        (917, 1297),
        (648, 917),
        (458, 648),
        (324, 458),
        (229, 324),
        (162, 229),
        (114, 162),
        (81, 114),
        (57, 81),
        (40, 57),
        (28, 40),
    ],
}
# ANSI/ASME Y14.1, table of flat sizes, in inches; A is known in offices as Letter, B as Tabloid.
ANSI = {"Letter": (8.5, 11), "Tabloid": (11, 17), "ANSI C": (17, 22), "ANSI D": (22, 34), "ANSI E": (34, 44)}


@pytest.mark.parametrize("series", ISO)
def test_iso_series(series):
    assert [paper_size(f"{series}{n}")[1:3] for n in range(11)] == ISO[series]


def test_iso_dl_envelope():
    assert paper_size("DL")[1:3] == (110, 220)


@pytest.mark.parametrize(("name", "inches"), ANSI.items())
def test_ansi_sizes(name, inches):
    assert paper_size(name)[1:3] == pytest.approx([25.4 * inch for inch in inches])


@pytest.mark.parametrize("paper", ["A4", "A5", "Letter"])
def test_the_separators_code_is_read_by_two_readers(paper):
    """zxing-cpp, and OpenCV's own QR reader, which knows nothing of it."""
    document = pypdfium2.PdfDocument(separator_sheet(paper))
    page = np.asarray(document[0].render(scale=150 / 72, grayscale=True).to_pil())
    found = zxingcpp.read_barcodes(page)
    assert [(code.text, code.format) for code in found] == [(SEPARATOR, zxingcpp.BarcodeFormat.QRCode)] * 2
    said, _, _ = cv2.QRCodeDetector().detectAndDecode(page[: page.shape[0] // 2])
    assert said == SEPARATOR
