"""The separator sheet as a PDF to print: a code that is recognised however the sheet lies, and what it is for."""

from hollowstack.core.bind.printed_code import printed_code
from hollowstack.core.bind.printed_page import POINT, line_of_text, printed_page
from hollowstack.core.measure.content.sheet_code import SEPARATOR
from hollowstack.core.page.paper_sizes import paper_size

_CODE_MM, _CODE_SHARE = 84.0, 0.3
"""Side of the code, and the most of the sheet's height that it may take up."""
_WORDS = (
    (20.0, "Separator sheet"),
    (10.0, "Lay it between two documents, this side where their fronts are,"),
    (10.0, "upside down or on its side: all the same. It is recognised and held"),
    (10.0, "aside, and a new document begins after it. Use it again and again."),
)


def separator_sheet(paper: str = "A4") -> bytes:
    """One page of PDF 1.4 with the code twice, drawn as black squares, and its use in words.

    Args:
        paper: Name of a paper size that ``core.paper`` knows.

    Raises:
        PaperError: There is no such paper size.
    """
    size = paper_size(paper)
    width, height = size.width_mm * POINT, size.height_mm * POINT
    side = min(_CODE_MM * POINT, _CODE_SHARE * height)
    tops = (height - 0.06 * height, 0.06 * height + side)
    parts = [printed_code(SEPARATOR, (width - side) / 2, top, side) for top in tops]
    y = height / 2 + 30
    for points, line in _WORDS:
        parts.append(line_of_text(line, 0.12 * width, y, points))
        y -= points + 8
    return printed_page("Separator sheet", (width, height), parts)
