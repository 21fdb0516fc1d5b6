"""A code drawn as black squares, for sheets that are printed and recognised again."""

import segno


def printed_code(text: str, left: float, top: float, side: float) -> str:
    """PDF operators that fill the code's dark modules, each run of a row as one, so that no printer leaves lines between.

    Args:
        text: What the code says.
        left: Left side in points from the left of the page.
        top: Upper side in points from the bottom of the page.
        side: Length of a side in points.

    Source:
        QR Code, ISO/IEC 18004:2015, error correction level H: a fold or a stamp does not hurt it. The quiet zone of
        4 modules is the caller's.
    """
    rows = list(segno.make(text, error="h", micro=False).matrix)
    module = side / len(rows)
    drawn = []
    for number, row in enumerate(rows):
        start = None
        for column, dark in enumerate([*row, 0]):
            if dark and start is None:
                start = column
            elif not dark and start is not None:
                x, y = left + start * module, top - (number + 1) * module
                drawn.append(f"{x:.2f} {y:.2f} {(column - start) * module:.2f} {module:.2f} re")
                start = None
    return "\n".join([*drawn, "f"])
