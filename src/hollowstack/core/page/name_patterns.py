"""Names by a pattern: what stands in braces is filled in, the rest stays. One rule wherever files and stacks are named."""

import re
import unicodedata
from collections.abc import Callable, Collection
from dataclasses import dataclass
from datetime import datetime

_PIECE = re.compile(r"\{([^{}]*)\}")
_GAP_BEFORE = re.compile(r"\s+(?=[,.;:])|[,;:·]\s*(?=[,;:·])")
"""Room that was left before a stop, and a stop that has nothing before the next one."""
_FORBIDDEN = re.compile(r'[\x00-\x1f\x7f<>:"\\|?*]')
"""What no name may hold on some common file system (NTFS and exFAT; a slash parts folders)."""
_DEVICES = {"CON", "PRN", "AUX", "NUL", *(f"{port}{n}" for port in ("COM", "LPT") for n in range(1, 10))}
"""Names that are no files on one of them, whatever comes behind a dot."""
_MOST_BYTES = 200
"""Of a name: file systems end at 255, and a number and a suffix may come."""
_MOST_DEEP = 8


class PatternError(ValueError):
    """A pattern that names nothing; its text is a sentence for whoever wrote it."""


@dataclass(frozen=True, slots=True)
class Named:
    """What is known of a document, or of a stack, when it is named."""

    title: str
    stack: str
    created: datetime
    """With its time zone: parts of dates are of that one."""
    number: int = 1
    """Which of the documents that go together."""
    counter: int = 1
    """Of all that were named for the same place."""
    identifier: str = ""
    creator: str = ""
    date: str = ""
    """What is said of when it was written, as it is said."""
    pages: int = 0
    collection: str = ""
    """What its stack is filed under."""
    fonds: str = ""
    """The top of the tree above that."""
    box: str = ""
    shelf: str = ""
    position: str = ""
    """Where its papers are."""
    first_words: Callable[[], str] = str
    """The words that it begins with: looked up where they are wanted."""


_FILLED: dict[str, tuple[str, Callable[[Named], str]]] = {
    "title": ("its title", lambda of: of.title),
    "stack": ("name of its stack", lambda of: of.stack),
    "collection": ("what its stack is filed under", lambda of: of.collection),
    "fonds": ("the top of the tree above that", lambda of: of.fonds),
    "identifier": ("its identifier", lambda of: of.identifier),
    "creator": ("who wrote it", lambda of: of.creator),
    "written": ("when it was written, as described", lambda of: of.date),
    "first words": ("the words that it begins with", lambda of: of.first_words()),
    "box": ("the box that its papers are in", lambda of: of.box),
    "shelf": ("where that stands", lambda of: of.shelf),
    "position": ("where in the box", lambda of: of.position),
    "pages": ("how many pages it has", lambda of: str(of.pages)),
    "document": ("which of the documents sent together", lambda of: str(of.number)),
    "counter": ("number in this place; {counter:4} has four digits", lambda of: str(of.counter)),
    "date": ("day it was bound", lambda of: f"{of.created:%Y-%m-%d}"),
    "year": ("year it was bound", lambda of: f"{of.created:%Y}"),
    "month": ("month, two digits", lambda of: f"{of.created:%m}"),
    "day": ("day, two digits", lambda of: f"{of.created:%d}"),
    "time": ("hour, minute, second", lambda of: f"{of.created:%H%M%S}"),
}
PLACEHOLDERS: dict[str, str] = {name: purpose for name, (purpose, _) in _FILLED.items()}
"""What a pattern may fill in, with what that is."""
_COUNTED = {"document", "counter"}


def check_pattern(pattern: str) -> None:
    """Raises PatternError where it names nothing, or fills in what there is not."""
    if not pattern.strip():
        raise PatternError("A pattern of names is empty: write one, such as {title}.")
    check_placeholders(pattern)
    if pattern.count("/") >= _MOST_DEEP:
        raise PatternError(f"The pattern goes {pattern.count('/')} folders deep; the most is {_MOST_DEEP - 1}.")


def check_placeholders(pattern: str, among: Collection[str] = PLACEHOLDERS) -> None:
    """Raises PatternError where a text has a brace alone, or fills in what is not among some placeholders."""
    if "{" in (rest := _PIECE.sub("", pattern)) or "}" in rest:
        raise PatternError("A brace of the pattern has no other half: write placeholders as {title}.")
    for piece in _PIECE.findall(pattern):
        name, colon, digits = piece.partition(":")
        if name not in among:
            raise PatternError(f"There is no placeholder {{{piece}}}: the ones there are: {', '.join(among)}.")
        if colon and (name not in _COUNTED or not digits.isdecimal() or not 1 <= int(digits) <= 9):
            raise PatternError(f"{{{piece}}} says no number of digits: only document and counter have some, 1 to 9.")


def line_of(pattern: str, of: Named) -> str:
    """A name in one line that is no file's, as of a stack; what nobody has said leaves no gap, and it may be empty.

    Raises PatternError as ``check_placeholders`` does.
    """
    check_placeholders(pattern)
    made = _PIECE.sub(lambda match: _filled(match[1], of), pattern)
    return " ".join(_GAP_BEFORE.sub("", made).split()).strip(" ,;:·-")


def file_name(text: str, suffix: str) -> str:
    """A text as the name of a file; ``suffix`` with its dot."""
    return (_part(" ".join(text.split()).replace("/", "_")) or "document") + suffix


def named(pattern: str, of: Named, suffix: str) -> str:
    """The name of a file, with folders before it where the pattern has slashes.

    What cannot stand in a name on some common file system becomes ``_``; names too long are cut at whole characters. What is
    filled in never begins a folder: only slashes of the pattern itself do.

    Args:
        pattern: Checked by ``check_pattern``.
        of: What is known.
        suffix: With its dot.

    Raises:
        PatternError: See ``check_pattern``.

    Source:
        Naming files, NTFS (forbidden characters, names of devices, no dot or space at the end; from memory); POSIX.1-2017,
        3.170 (names up to 255 bytes); Unicode TR 15 (composed form).
    """
    check_pattern(pattern)
    parts = [_part(_PIECE.sub(lambda match: _fill(match.group(1), of), one)) for one in pattern.split("/")]
    kept = [one for one in parts if one] or ["document"]
    return "/".join([*kept[:-1], kept[-1] + suffix])


def filled_in(text: str, of: Named) -> str:
    """A text, as of a mail, with its placeholders filled in; braces that are none stay as they are."""
    return _PIECE.sub(lambda match: _FILLED[match[1]][1](of) if match[1] in _FILLED else match[0], text)


def numbered(name: str, number: int) -> str:
    """A name with a number before its suffix, for where it is taken."""
    folder, slash, last = name.rpartition("/")
    stem, dot, suffix = last.rpartition(".")
    return f"{folder}{slash}{stem} ({number}).{suffix}" if dot and stem else f"{folder}{slash}{last} ({number})"


def _fill(piece: str, of: Named) -> str:
    """What is filled in never parts folders."""
    return _filled(piece, of).replace("/", "_")


def _filled(piece: str, of: Named) -> str:
    name, _, digits = piece.partition(":")
    value = " ".join(_FILLED[name][1](of).split())
    return value.zfill(int(digits)) if digits else value


def _part(text: str) -> str:
    text = _FORBIDDEN.sub("_", unicodedata.normalize("NFC", text)).strip()
    while len(text.encode("utf-8", "replace")) > _MOST_BYTES:
        text = text[:-1]
    text = text.rstrip(" .")
    # A leading dot hides a file, and two lead out of a folder.
    text = text.lstrip(".").strip() if text.startswith(".") else text
    return f"_{text}" if text.split(".")[0].strip().upper() in _DEVICES else text
