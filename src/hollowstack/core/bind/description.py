"""What is said of a document: by Dublin Core, and what was done to make it."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Final

_DATE = re.compile(r"(\d{4})(?:-(\d\d)(?:-(\d\d))?)?")
MOST_TEXT: Final = 2000
"""Characters that one statement of a description may have."""


@dataclass(frozen=True, slots=True)
class Description:
    """Title and the other elements of Dublin Core; all but the title may be left out.

    ``language`` is a BCP 47 tag; ``created``, when the file was made, carries its time zone. ``date`` is of the original, as
    it is written: what is no date of the Gregorian calendar is kept as a statement about its time.
    """

    title: str
    created: datetime
    language: str = "en"
    creators: tuple[str, ...] = ()
    subjects: tuple[str, ...] = ()
    description: str = ""
    date: str = ""
    identifier: str = ""
    rights: str = ""
    type: str = ""
    """What kind of thing it is: a letter, a log book, a word of a list that its archive keeps."""
    relations: tuple[str, ...] = ()
    """Identifiers of what belongs to it."""

    @property
    def author(self) -> str:
        """All creators in one line."""
        return "; ".join(self.creators)

    @property
    def keywords(self) -> str:
        """All subjects in one line."""
        return "; ".join(self.subjects)


STATEMENTS: Final = ("title", "creators", "subjects", "description", "date", "identifier", "rights", "type", "relations")
"""What a person may say of a document, by the names that files of descriptions use."""
LISTS: Final = ("creators", "subjects", "relations")
"""Of these, what may be several."""
Described = dict[str, str | list[str]]
"""What a person says, by the names of ``STATEMENTS`` and ``language``; a list where several are told."""
Told = Mapping[str, str | list[str]]
"""The same, to be read only."""
HANDED_DOWN: Final = ("creators", "subjects", "date", "rights", "type", "language")
"""What is said of a whole and holds for its parts; a title, an identifier, an account of it are its own."""


def handed_down(whole: Told) -> Described:
    """What is said of a whole and holds for each of its parts that makes no such statement of its own.

    A part that names nothing that belongs to it belongs to the whole, by the identifier of that (Dublin Core's relation, as
    ``isPartOf`` refines it).

    Source:
        ISAD(G), second edition, 2.2 and 2.4: what is said at a higher level is not said again below (from memory).
    """
    down = {name: value for name in HANDED_DOWN if (value := whole.get(name))}
    if (named := whole.get("identifier")) and isinstance(named, str):
        down["relations"] = [named]
    return down


def description_of(told: Mapping[str, object], created: datetime, language: str, title: str) -> Description:
    """A description from a JSON object.

    Args:
        told: Some of ``STATEMENTS`` and ``language``; lists of texts, or one text, for ``LISTS``.
        created: When the file is made.
        language: Where none is told.
        title: Where none is told.

    Raises:
        ValueError: A name is not known, or what it holds is no text or too long; one sentence says which.
    """
    known = {*STATEMENTS, "language"}
    if strange := sorted(set(told) - known):
        raise ValueError(f"A description knows no “{strange[0]}”: it holds {', '.join(sorted(known))}.")
    lists = {name: _texts(name, told.get(name)) for name in LISTS}
    single = {name: _text(name, told.get(name)) for name in known - set(lists)}
    single["title"] = single["title"] or title
    single["language"] = single["language"] or language
    return Description(created=created, **lists, **single)  # type: ignore[arg-type]


def _texts(name: str, value: object) -> tuple[str, ...]:
    if value is None or isinstance(value, str):
        return tuple(filter(None, [_text(name, value)]))
    if isinstance(value, list | tuple):
        return tuple(filter(None, (_text(name, one) for one in value)))
    raise ValueError(f"“{name}” of a description is a list of texts.")


def _text(name: str, value: object) -> str:
    if value is None:
        return ""
    if not isinstance(value, str):
        raise ValueError(f"“{name}” of a description is a text.")
    text = " ".join(value.split())
    if len(text) > MOST_TEXT:
        raise ValueError(f"“{name}” of a description has {len(text)} characters; the most is {MOST_TEXT}: shorten it.")
    return text


def is_calendar_date(text: str) -> bool:
    """Whether a text is a year, a month or a day as XMP takes it (W3C note on dates and times, from ISO 8601)."""
    found = _DATE.fullmatch(text)
    if found is None:
        return False
    year, month, day = (int(part) if part else 1 for part in found.groups())
    try:
        date(year, month, day)
    except ValueError:
        return False
    return True


@dataclass(frozen=True, slots=True)
class Event:
    """A step in the making of a document: what, when, and with which settings. ``action`` is a verb in the past."""

    action: str
    when: datetime
    parameters: str = ""


@dataclass(frozen=True, slots=True)
class Provenance:
    """Where the pages of a document come from."""

    software: str
    """Name and version."""
    events: tuple[Event, ...] = ()
    masters: tuple[str, ...] = field(default=())
    """SHA-256 of the master of every page, in order; empty where they are not told."""
