"""Texts in cells of comma-separated files, which programs of tables open: none is taken for a formula."""

_BEGINS = ("=", "+", "-", "@", "\t", "\r")
"""By which programs of tables know a formula (common practice, no source)."""


def plain_cell(text: str) -> str:
    """A text as it stands in a cell: one that would be taken for a formula gets an apostrophe before it; numbers do not."""
    return f"'{text}" if _is_formula(text) else text


def text_of_cell(cell: str) -> str:
    """The text again, without that apostrophe."""
    return cell[1:] if cell.startswith("'") and _is_formula(cell[1:]) else cell


def _is_formula(text: str) -> bool:
    return text.startswith(_BEGINS) and not text[1:].replace(".", "").replace(",", "").replace(" ", "").isdigit()
