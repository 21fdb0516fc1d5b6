"""The file that comes with a colour target: its patches by name, and the colour that each of them has."""

import re
import shlex
from typing import NamedTuple

import numpy as np

from hollowstack.core.calibrate.colorimetry import Colours
from hollowstack.core.page.errors import CalibrationError

_LAB = ("LAB_L", "LAB_A", "LAB_B")
_NAME = re.compile(r"^([A-Za-z]+)(\d+)$")
_MOST_PATCHES = 5000


class PatchFile(NamedTuple):
    """Patches of a target, row by row: ``lab`` is (n, 3) under D50; the grid has ``rows`` times ``cols`` places."""

    names: tuple[str, ...]
    lab: Colours
    rows: int
    cols: int
    places: tuple[tuple[int, int], ...]
    """Row and column of each patch, from 0."""


def read_patches(text: str) -> PatchFile:
    """A patch file in the CGATS text format.

    Patches are placed by their names: letters for the row, a number for the column (common practice, no source).

    Args:
        text: The file.

    Raises:
        CalibrationError: It has no table of L*a*b* values, or its patches cannot be placed.

    Source:
        ANSI CGATS.17 (from memory): keywords BEGIN_DATA_FORMAT, BEGIN_DATA; SAMPLE_ID, SAMPLE_NAME, LAB_L, LAB_A, LAB_B.
    """
    fields = _between(text, "BEGIN_DATA_FORMAT", "END_DATA_FORMAT").upper().split()
    missing = [field for field in _LAB if field not in fields]
    if missing:
        raise CalibrationError(f"The patch file has no {missing[0]}: export it with L*a*b* values and try again.")
    rows = [shlex.split(line) for line in _between(text, "BEGIN_DATA", "END_DATA").splitlines() if line.strip()]
    if not rows or len(rows) > _MOST_PATCHES:
        raise CalibrationError(f"The patch file has {len(rows)} patches: it needs from 1 to {_MOST_PATCHES}.")
    for number, row in enumerate(rows, 1):
        if len(row) != len(fields):
            raise CalibrationError(f"Line {number} of the patch file's data has {len(row)} values instead of {len(fields)}.")
    try:
        lab = np.array([[float(row[fields.index(field)]) for field in _LAB] for row in rows])
    except ValueError as error:
        raise CalibrationError(f"The patch file has a value that is no number: {error}.") from None
    if not np.isfinite(lab).all() or lab[:, 0].min() < 0 or lab[:, 0].max() > 110 or np.abs(lab[:, 1:]).max() > 200:
        raise CalibrationError("The patch file has L*a*b* values that no colour has: check that it is the target's.")
    naming = [field for field in ("SAMPLE_NAME", "SAMPLE_LOC", "SAMPLE_ID") if field in fields]
    key = next((field for field in naming if _placed(rows, fields, field)), None)
    if key is None:
        raise CalibrationError("The patches are not named by row and column, such as A1 or C12: name them so and try again.")
    names = tuple(row[fields.index(key)] for row in rows)
    places = _places(names)
    return PatchFile(names, lab, 1 + max(r for r, _ in places), 1 + max(c for _, c in places), places)


def _between(text: str, start: str, end: str) -> str:
    match = re.search(rf"^\s*{start}\s*$(.*?)^\s*{end}\s*$", text, re.MULTILINE | re.DOTALL | re.IGNORECASE)
    if match is None:
        raise CalibrationError(f"This is no patch file: it has no {start}.")
    return match[1]


def _placed(rows: list[list[str]], fields: list[str], field: str) -> bool:
    names = [row[fields.index(field)] for row in rows]
    return len(set(names)) == len(names) and all(_NAME.match(name) for name in names)


def _places(names: tuple[str, ...]) -> tuple[tuple[int, int], ...]:
    """Rows in the order of their letters (A to Z, then AA), columns by their numbers, both from the first that is there."""
    parts = [match.groups() for name in names if (match := _NAME.match(name))]
    letters = sorted({row.upper() for row, _ in parts}, key=lambda row: (len(row), row))
    first = min(int(col) for _, col in parts)
    return tuple((letters.index(row.upper()), int(col) - first) for row, col in parts)
