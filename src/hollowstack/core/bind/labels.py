"""What viewers show as the number of a page: figures, roman figures, leaves, with or without something before them."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from pikepdf import Array, Dictionary, Name, String

from hollowstack.core.bind.plain import plain

Style = Literal["arabic", "roman", "ROMAN", "leaves", "text"]
"""Leaves have two pages each, recto and verso: 12r, 12v."""

_ARABIC = re.compile(r"(?P<before>.*?)(?P<figure>0|[1-9][0-9]{0,8})")
_ROMAN = re.compile(r"m{0,3}(?:cm|cd|d?c{0,3})(?:xc|xl|l?x{0,3})(?:ix|iv|v?i{0,3})")
_SYMBOLS = (
    (1000, "m"), (900, "cm"), (500, "d"), (400, "cd"), (100, "c"), (90, "xc"), (50, "l"), (40, "xl"), (10, "x"), (9, "ix"),
    (5, "v"), (4, "iv"), (1, "i"),
)  # fmt: skip
_MOST_ROMAN = 3999


@dataclass(frozen=True, slots=True)
class LabelRun:
    """How the pages of a document are numbered from one of them on."""

    start: int
    """The first page of the run, from 0."""
    style: Style = "arabic"
    prefix: str = ""
    first: int = 1
    """The number of the first page, or of the first leaf."""


def page_labels(runs: Sequence[LabelRun], count: int) -> list[str]:
    """The label of every page; arabic from 1 before the first run.

    Args:
        runs: Where numbering begins anew; a later one for the same page takes the place of an earlier one.
        count: Pages in the document.

    Raises:
        ValueError: A run begins before the first page, or with a number below 1.
    """
    by_start = {run.start: run for run in runs}
    if any(run.start < 0 or run.first < 1 for run in runs):
        raise ValueError("A run of page labels begins with a page of the document, and with a number from 1 up.")
    labels, run = [], LabelRun(0)
    for page in range(count):
        run = by_start.get(page, run)
        labels.append(run.prefix + _numbered(run, page - run.start))
    return labels


def _numbered(run: LabelRun, at: int) -> str:
    match run.style:
        case "arabic":
            return str(run.first + at)
        case "roman":
            return roman(run.first + at)
        case "ROMAN":
            return roman(run.first + at).upper()
        case "leaves":
            return f"{run.first + at // 2}{'rv'[at % 2]}"
        case "text":
            return ""


def roman(number: int) -> str:
    """A number from 1 to 3999 in small roman figures; larger ones in arabic.

    Source:
        ISO 32000-1:2008, table 159 (styles of page labels); the additive notation with subtraction, common practice.
    """
    if not 1 <= number <= _MOST_ROMAN:
        return str(number)
    text = ""
    for value, symbol in _SYMBOLS:
        text += symbol * (number // value)
        number %= value
    return text


def label_tree(labels: Iterable[str]) -> Array:
    """A number tree of page labels: runs that count on as one entry, everything else as its own text.

    Source:
        ISO 32000-1:2008, 12.4.2.
    """
    tree: list[object] = []
    expected: tuple[str, str, int] | None = None
    for index, label in enumerate(map(plain, labels)):
        prefix, style, number = _parsed(label, expected)
        if not style:
            tree += [index, Dictionary(P=String(prefix)) if prefix else Dictionary()]
            expected = None
            continue
        if (prefix, style, number) != expected:
            entry = Dictionary(S=Name("/" + style), St=number)
            if prefix:
                entry.P = String(prefix)
            tree += [index, entry]
        expected = (prefix, style, number + 1)
    return Array(tree)


def _parsed(label: str, expected: tuple[str, str, int] | None) -> tuple[str, str, int]:
    """Prefix, style as PDF names it and number; no style where the label is none that counts on."""
    if expected is not None:  # ambiguous labels such as C or v belong to the run that they go on
        prefix, style, number = expected
        if label == prefix + _written(style, number):
            return expected
    if label and label == label.lower() and _ROMAN.fullmatch(label):
        return "", "r", _of_roman(label)
    if label and label == label.upper() and _ROMAN.fullmatch(label.lower()):
        return "", "R", _of_roman(label.lower())
    found = _ARABIC.fullmatch(label)
    if found and not found["before"][-1:].isdigit() and int(found["figure"]) > 0:
        return found["before"], "D", int(found["figure"])
    return label, "", 0


def _written(style: str, number: int) -> str:
    return str(number) if style == "D" else roman(number) if style == "r" else roman(number).upper()


def _of_roman(text: str) -> int:
    at, number = 0, 0
    for value, symbol in _SYMBOLS:
        while text.startswith(symbol, at):
            number, at = number + value, at + len(symbol)
    return number
