"""The test sheet as a PDF to print: laid in as it says, its image tells how paper goes into a source."""

from hollowstack.core.bind.printed_code import printed_code
from hollowstack.core.bind.printed_page import POINT, line_of_text, printed_page
from hollowstack.core.measure.content.path_sheet import CODE, CODE_DOWN, CODE_SIDE
from hollowstack.core.page.paper_sizes import paper_size

_WORDS = (
    (20.0, "Test sheet"),
    (11.0, "In a feeder: this side up, the edge with the arrow first,"),
    (11.0, "the guides snug against it."),
    (11.0, "On a glass: this side down, the edge with the arrow to the"),
    (11.0, "back, the corner of the sheet at the mark."),
    (11.0, "Print it on one side only."),
)


def path_sheet(paper: str = "A5") -> bytes:
    """One page of PDF with an arrow to its upper edge, a code beneath it, and how to lay it in.

    Args:
        paper: Name of a paper size that ``core.paper`` knows; the smaller, the better its place between guides is told.

    Raises:
        PaperError: There is no such paper size.
    """
    size = paper_size(paper)
    width, height = size.width_mm * POINT, size.height_mm * POINT
    side = CODE_SIDE * height
    middle = width / 2
    code = printed_code(f"{CODE}{size.name}", middle - side / 2, height - CODE_DOWN * height + side / 2, side)
    y = 0.4 * height
    lines = []
    for points, line in _WORDS:
        lines.append(line_of_text(line, 0.1 * width, y, points))
        y -= points + 8
    return printed_page("Test sheet", (width, height), [_arrow(middle, height), code, *lines])


def _arrow(middle: float, height: float) -> str:
    tip, base, wide = height * 0.97, height * 0.91, height * 0.05
    return (
        f"{middle:.2f} {tip:.2f} m {middle - wide:.2f} {base:.2f} l {middle + wide:.2f} {base:.2f} l f "
        f"{middle - wide * 0.3:.2f} {height * 0.88:.2f} {wide * 0.6:.2f} {height * 0.035:.2f} re f"
    )
