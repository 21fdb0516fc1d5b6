"""Describing many documents to come at once: as a table, and by a file of it."""

from typing import NamedTuple

from hollowstack.core.bind.description import Described
from hollowstack.core.bind.description_table import Line, Row, Table, TableError, read_table, written_table
from hollowstack.server.documents.drafts import DraftChange, DraftDocument, change_draft, draft_of
from hollowstack.server.documents.services import coming_of, titled
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import order_of


class ToDescribe(NamedTuple):
    """A document to come: its number, its pages, its title as it will be, and what is said of it."""

    number: int
    pages: list[Page]
    first_page: int
    """The place in the stack of the page that it begins with, from 1."""
    title: str
    said: DraftDocument


class Difference(NamedTuple):
    """What a line changes: which statement, what was said, what will be."""

    name: str
    before: str
    after: str


class Planned(NamedTuple):
    """A line of a file: the document that it is of, what it changes, or why it is not taken."""

    line: int
    document: int
    title: str
    changes: list[Difference]
    refused: str
    whole: bool = False
    """Whether it is of the stack: its title is that."""


class Plan(NamedTuple):
    """What a file would change; ``left`` are columns that mean nothing here."""

    lines: list[Planned]
    left: tuple[str, ...]


def to_describe(stack: Stack) -> list[ToDescribe]:
    """The documents that a stack's pages would make now."""
    draft = draft_of(stack.pk)
    runs = coming_of(stack, draft)
    places = {page: place for place, page in enumerate(order_of(stack.pk), 1)}
    found = []
    for number, run in enumerate(runs, 1):
        said = draft.documents.get(run[0].pk, DraftDocument())
        title = said.title or titled(stack.name, number, len(runs))
        found.append(ToDescribe(number, run, places.get(run[0].pk, 0), title, said))
    return found


def table_file(stack: Stack) -> bytes:
    """What is said of the stack and of each of them, as a file that can be changed and given back."""
    documents = to_describe(stack)
    whole = {**draft_of(stack.pk).stack, "title": stack.name}
    rows = [Row(0, 0, sum(len(one.pages) for one in documents), whole)]
    rows += [
        Row(one.number, one.first_page, len(one.pages), {**one.said.described, "title": one.said.title}) for one in documents
    ]
    return written_table(rows)


def planned(stack: Stack, data: bytes) -> Plan:
    """What a file would change, line by line; nothing is changed yet. Raises Refused where it is no such table."""
    return _planned(stack, to_describe(stack), data)[0]


def take(stack: Stack, data: bytes) -> Plan:
    """Take over what a file says, but for lines that are refused; tells what has changed. Raises Refused."""
    plan, change = _planned(stack, to_describe(stack), data)
    if change.documents or change.stack is not None:
        change_draft(stack.pk, change)
    return plan


def _planned(stack: Stack, documents: list[ToDescribe], data: bytes) -> tuple[Plan, DraftChange]:
    table = _read(data, len(documents))
    lines, said, of_stack = list[Planned](), dict[int, DraftDocument](), None
    for line in table.lines:
        if line.whole:
            planned, of_stack = _of_stack(stack, line)
            lines.append(planned)
            continue
        document = documents[line.document - 1] if line.document else None
        if document is None or line.refused:
            lines.append(Planned(line.number, line.document, document.title if document else "", [], line.refused))
            continue
        new = _merged(document.said, line.told)
        changes = _differences(document.said, new)
        if changes:
            said[document.pages[0].pk] = new
        lines.append(Planned(line.number, line.document, new.title or document.title, changes, ""))
    return Plan(lines, table.left), DraftChange(documents=said or None, stack=of_stack)


def _of_stack(stack: Stack, line: Line) -> tuple[Planned, Described | None]:
    """What a line changes of what is said of the stack, and that as it will be; None where it changes nothing."""
    before = DraftDocument(described=draft_of(stack.pk).stack)
    title = line.told.get("title", "")
    renamed = title not in {"", stack.name}
    refused = line.refused or (f"The stack is called “{stack.name}”: it gets another name at its head." if renamed else "")
    after = before if refused else _merged(before, {name: value for name, value in line.told.items() if name != "title"})
    changes = _differences(before, after)
    return Planned(line.number, 0, stack.name, changes, refused, whole=True), after.described if changes else None


def _read(data: bytes, documents: int) -> Table:
    if not documents:
        raise Refused("There is no document to describe yet: pages are still being worked on, or all are aside.")
    try:
        return read_table(data, documents)
    except TableError as error:
        raise Refused(str(error)) from None


def _merged(said: DraftDocument, told: Described) -> DraftDocument:
    """What was said with what is told now; what is told to be empty is said no more."""
    title = told.get("title", said.title)
    described = {**said.described, **{name: value for name, value in told.items() if name != "title"}}
    kept = {name: value for name, value in described.items() if value}
    return DraftDocument(title=title if isinstance(title, str) else said.title, described=kept)


def _differences(before: DraftDocument, after: DraftDocument) -> list[Difference]:
    was, now = _texts(before), _texts(after)
    names = dict.fromkeys([*was, *now])
    return [
        Difference(name, was.get(name, ""), now.get(name, "")) for name in names if was.get(name, "") != now.get(name, "")
    ]


def _texts(said: DraftDocument) -> dict[str, str]:
    listed = {name: value if isinstance(value, str) else "; ".join(value) for name, value in said.described.items()}
    return {"title": said.title, **listed}
