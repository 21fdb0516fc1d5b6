"""What is proven of an access copy before anybody has it: the file is opened again by another program's reader."""

from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import NamedTuple

import pikepdf
import pypdfium2 as pdfium

from hollowstack.core.access.locking import Passwords
from hollowstack.core.access.marks import Mark
from hollowstack.core.bind.conformance import Checked

_GRAZED = 0.25
"""Share of a character's height that a cover over the next line may reach into it."""
_DARK, _EVEN = 80, 32
"""Gray up to which a pixel under a cover counts as dark, and by how much they may differ: inks of layers vary."""
_SCALE = 2.0
"""Pixels for a point: a cover of a line of small print is a dozen high."""
_INNER_PX = 2
"""Along the sides of a cover, pixels are mixed with those beside it when a page is drawn small."""


class Expected(NamedTuple):
    """What the copy is to be."""

    covers: Mapping[int, Sequence[Mark]]
    printing: bool
    copying: bool
    locked: bool


def prove(path: Path, passwords: Passwords, expected: Expected) -> tuple[Checked, ...]:
    """Open the copy again and look: that nothing of what is covered is left, that it is locked, that it claims nothing.

    Args:
        path: The copy.
        passwords: With which it was written.
        expected: What it is to be.
    """
    checked = [
        ("covers", "Nothing is left under any cover, neither seen nor as text", _covered(path, passwords, expected.covers)),
        ("marking", "Says that it is an access copy, and does not claim to be PDF/A", _marked(path, passwords)),
        ("passwords", "Opens, prints and is copied only as it was ordered", _locked(path, passwords, expected)),
    ]  # fmt: skip
    return tuple(Checked(clause=clause, what=what, faults=tuple(faults)) for clause, what, faults in checked)


def _covered(path: Path, passwords: Passwords, covers: Mapping[int, Sequence[Mark]]) -> Iterator[str]:
    if not covers:
        return
    with pdfium.PdfDocument(path, password=passwords.opening or None) as pdf:
        for at, marks in covers.items():
            page = pdf[at]
            size = page.get_size()
            # As the page is drawn without its annotations: what lies under a mark is what counts.
            drawn = page.render(scale=_SCALE, may_draw_forms=False, draw_annots=False, grayscale=True).to_numpy()
            text = page.get_textpage()
            for mark in marks:
                if _text_under(text, mark.on(size), size[1]):
                    yield f"Text is left under a cover on page {at + 1}."
                rows, columns = drawn.shape[:2]
                x0, y0, x1, y1 = (round(one) for one in mark.on((columns, rows)))
                inside = drawn[y0 + _INNER_PX : y1 - _INNER_PX, x0 + _INNER_PX : x1 - _INNER_PX]
                if inside.size and (inside.max() > _DARK or int(inside.max()) - int(inside.min()) > _EVEN):
                    yield f"Something can be seen under a cover on page {at + 1}."


def _text_under(text: pdfium.PdfTextPage, cover: tuple[float, float, float, float], height: float) -> str:
    """Characters that a cover lies over."""
    found = ""
    for at in range(text.count_chars()):
        left, below, right, above = text.get_charbox(at)
        lies = min(height - below, cover[3]) - max(height - above, cover[1])
        if left < cover[2] and cover[0] < right and lies > _GRAZED * (above - below):
            found += text.get_text_range(at, 1)
    return found.strip()


def _marked(path: Path, passwords: Passwords) -> Iterator[str]:
    with _opened(path, passwords) as pdf:
        with pdf.open_metadata() as told:
            if "pdfaid:part" in told:
                yield "It claims to be PDF/A."
            if "access copy" not in str(told.get("dc:title", "")):
                yield "Its title does not say that it is an access copy."
        if "/OutputIntents" in pdf.Root:
            yield "It has the output intent of PDF/A."


def _locked(path: Path, passwords: Passwords, expected: Expected) -> Iterator[str]:
    if passwords.opening:
        try:
            pikepdf.open(path).close()
        except pikepdf.PasswordError:
            pass
        else:
            yield "It opens without its password."
    with _opened(path, passwords) as pdf:
        if pdf.is_encrypted != expected.locked:
            yield "It is not locked as it was ordered."
        if not (expected.locked and pdf.is_encrypted):
            return
        if pdf.encryption.R < 6:
            yield "It is not encrypted by AES-256."
        if pdf.allow.print_highres != expected.printing or pdf.allow.extract != expected.copying:
            yield "It does not forbid what was to be forbidden."


def _opened(path: Path, passwords: Passwords) -> pikepdf.Pdf:
    try:
        return pikepdf.open(path)
    except pikepdf.PasswordError:
        return pikepdf.open(path, password=passwords.opening)
