"""Our own check of ISO 19005 on every file that is bound: each clause that can touch such files, in plain sentences.

It looks at the file as it lies on the disk, and knows nothing of how it was made. It is no check of files from elsewhere: an
outside validator is the judge of those.
"""

from pathlib import Path

import pikepdf

from hollowstack.core.bind.conformance import of_fonts, of_graphics, of_metadata, of_reading, of_structure, of_the_file
from hollowstack.core.bind.conformance.model import RULES, Checked, Conformance, Rule, told
from hollowstack.core.bind.conformance.opened import Opened
from hollowstack.core.page.errors import BindError

__all__ = ["Checked", "Conformance", "check_conformance"]

_ROOMS = (of_the_file, of_graphics, of_fonts, of_reading, of_metadata, of_structure)
"""The modules whose rules are checked."""


def check_conformance(path: Path, flavour: str | None = None) -> Conformance:
    """Check a file against the clauses of the part and level that it claims.

    Args:
        path: The file.
        flavour: What it is to be, as ``PDF/A-2u``; a file that claims something else does not conform. None takes its word.

    Returns:
        Every clause with what was found; one clause for a file that cannot be read at all.

    Source:
        ISO 19005-1:2005, -2:2011, -3:2012, -4:2020, by the clause numbers beside each rule.
    """
    try:
        with Opened(path) as file:
            claimed = f"PDF/A-{file.part}{file.level.lower() if file.part < 4 else ''}"
            checked = [_checked(one, file) for one in RULES if file.part in one.clauses and _is_for(one, file)]
    except BindError as error:
        return Conformance(flavour=flavour or "", checked=(Checked(clause="6.1", what="File", faults=(str(error),)),))
    if flavour is not None and claimed != flavour:
        fault = f"The file says that it is {claimed}, and was to be {flavour}."
        checked.append(Checked(clause="6.1", what="Flavour", faults=(fault,)))
    return Conformance(flavour=claimed, checked=tuple(sorted(checked, key=lambda one: _place(one.clause))))


def _is_for(one: Rule, file: Opened) -> bool:
    return (file.level if file.part < 4 else "U") in one.levels


def _checked(one: Rule, file: Opened) -> Checked:
    try:
        faults = told(one.check(file))
    except (pikepdf.PdfError, ValueError, TypeError, AttributeError, KeyError, IndexError) as error:
        # A file so broken that a check trips over it does not conform, whatever else there is to be said of it.
        faults = (f"Something here is not as it is to be at all ({type(error).__name__}: {str(error).splitlines()[0]}).",)
    return Checked(clause=one.clauses[file.part], what=one.what, faults=faults)


def _place(clause: str) -> tuple[int, ...]:
    return tuple(int(part) for part in clause.split("."))
