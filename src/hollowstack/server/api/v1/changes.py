"""Changes by hand over HTTP: one address takes them all, so that each is one row of the stack's history."""

from datetime import datetime
from typing import Annotated, Literal, cast

from django.contrib.auth.models import User
from django.db import transaction
from ninja import Field, Schema
from pydantic import BaseModel

from hollowstack.core.arrange.order import DocumentRule, DocumentsAfter
from hollowstack.core.ocr.model import Box
from hollowstack.core.page.aside import AsideReason
from hollowstack.core.read.corrections import Kind
from hollowstack.core.settings.override import Correction
from hollowstack.server.accounts.access import Forbidden
from hollowstack.server.accounts.rights import CHANGES, WORDS, Right
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.inspection import judging
from hollowstack.server.reading import correcting
from hollowstack.server.reading.correcting import Edit
from hollowstack.server.reading.words import set_list
from hollowstack.server.stacks import history
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Change, Stack

ChangeState = Literal["done", "undone", "dropped"]

router = Router(tags=["changes"])
_HISTORY = 300


class _Pages(BaseModel):
    pages: list[int] = Field(max_length=100_000)


class Move(_Pages):
    """Put pages together behind another, or first."""

    do: Literal["move"]
    after: int | None


class Reorder(_Pages):
    """Rearrange pages within the places that they hold."""

    do: Literal["reverse", "deal", "interleave", "interleave from behind", "sort by name", "sort by time", "sort by number"]


class Leaves(BaseModel):
    """Bring together fronts and backs captured apart."""

    do: Literal["leaves"]
    fronts: list[int]
    backs: list[int]
    single: list[int]
    """Fronts of sheets without a back."""
    reverse: bool


class Turn(_Pages):
    """Turn clockwise from how the pages stand."""

    do: Literal["turn"]
    degrees: Literal[90, 180, 270]


class Aside(_Pages):
    """Hold pages out of the output (true), keep them in (false), or leave that to the plan (null)."""

    do: Literal["aside"]
    aside: bool | None
    reason: AsideReason = "by hand"


class Delete(_Pages):
    """Throw pages into the bin."""

    do: Literal["delete"]


class Restore(_Pages):
    """Take pages back from the bin."""

    do: Literal["restore"]


class Break(_Pages):
    """Let a document begin with each of the pages, or no longer."""

    do: Literal["break"]
    on: bool


class Rescan(_Pages):
    """Mark pages to be captured again; an empty reason takes the mark off."""

    do: Literal["rescan"]
    why: str = Field(max_length=200)


class SplitPage(BaseModel):
    """Make two pages of one along a line in pixels of the image as captured."""

    do: Literal["split"]
    page: int
    start: tuple[float, float]
    end: tuple[float, float]


class Unsplit(BaseModel):
    """Make two halves one page again."""

    do: Literal["unsplit"]
    page: int


class Correct(_Pages):
    """Correct pages otherwise than planned: whatever is named in ``correction`` is set, and null takes it back."""

    do: Literal["correct"]
    correction: Correction


class Treat(BaseModel):
    """Give the stack another treatment, another rule for where documents begin, or both."""

    do: Literal["treat"]
    treatment: str | None = None
    version: int | None = None
    """Of the treatment; the latest where none is named."""
    new_document_after: DocumentsAfter | None = None
    pages_a_document: int | None = Field(None, ge=1, le=10_000)
    """Where that is a number of pages."""


def _rule_of(doing: Treat) -> DocumentRule | None:
    return DocumentRule(doing.new_document_after, doing.pages_a_document or 1) if doing.new_document_after else None


class ReadIn(BaseModel):
    """Have pages read in other languages, as eng+deu; none leaves that to the stack, and of a stack to its treatment."""

    do: Literal["read in"]
    language: str = Field(max_length=80)
    pages: list[int] | None = None
    """Which ones; all that have no languages of their own where it is null."""


class ReadLater(BaseModel):
    """Put off the reading of the stack, or have it read now."""

    do: Literal["read later"]
    later: bool


class WordEdit(BaseModel):
    """What is done to one place of a page, in pixels of the corrected page."""

    page: int
    box: Box
    kind: Kind | Literal["back"] = "word"
    """``back`` takes back what was put right there."""
    before: str = Field("", max_length=400)
    """What stands there; nothing where a word is added."""
    after: str = Field("", max_length=400)
    order: list[tuple[float, float]] = Field([], max_length=2_000)
    """Of an order: a place in each block."""


class PutRight(BaseModel):
    """Put words of pages right, say that they are none, or that nobody can read them; or take that back."""

    do: Literal["put right"]
    edits: list[WordEdit] = Field(max_length=5_000)


class ListWords(BaseModel):
    """Make these the stack's own words, which are no doubts when they are read; or put some to those that it has."""

    do: Literal["word list"]
    words: list[str] | None = Field(None, max_length=100_000)
    """All of them; null where only some are put to them."""
    more: list[str] = Field([], max_length=100_000)


class JudgedIn(BaseModel):
    """A finding, as it was before somebody's eyes."""

    page: int | None
    kind: str = Field(max_length=40)
    judged: str = Field(max_length=64)


class Judge(BaseModel):
    """Find things that are worth a look fine as they are, or take that back."""

    do: Literal["judge"]
    findings: list[JudgedIn] = Field(max_length=5_000)
    fine: bool


Doing = Annotated[
    Move
    | Reorder
    | Leaves
    | Turn
    | Aside
    | Delete
    | Restore
    | Break
    | Rescan
    | SplitPage
    | Unsplit
    | Correct
    | Treat
    | ReadIn
    | ReadLater
    | PutRight
    | ListWords
    | Judge,
    Field(discriminator="do"),
]


class ChangeIn(Schema):
    """One change; ``seen`` is the stack's count of changes that the user had before their eyes."""

    seen: int
    doing: Doing
    nonce: str | None = Field(None, min_length=8, max_length=40)
    """A name that whoever asks gives it: asked again under the same, it is answered again, and not done again."""


class UndoOrRedo(Schema):
    """Undo what was done last, or do again what was undone last."""

    way: history.Way
    nonce: str = Field(min_length=8, max_length=40)
    """A name that whoever asks gives it: asked again under the same, it is answered again, and not done again."""


class ChangeOut(Schema):
    """One row of a stack's history."""

    id: int
    what: str
    by: str
    at: datetime
    state: ChangeState


class ChangeMade(ChangeOut):
    """A change as it was made; ``count`` is the stack's count of changes by then: a list that has come so far shows it."""

    count: int


class HistoryOut(Schema):
    """What was done to a stack: the last 300 of so many, the last first; which can be undone and done again next."""

    changes: list[ChangeOut]
    count: int
    undo: int | None
    redo: int | None


@router.post("/stacks/{int:stack_id}/changes", response={200: ChangeMade, 404: Problem, 409: Problem})
def create_change(request: Request, stack_id: int, change: ChangeIn) -> ChangeMade:
    """Do something to pages by hand."""
    needed = CHANGES.get(change.doing.do, Right.WORK)
    if needed not in request.who.rights:
        raise Forbidden(f"Only {WORDS[needed]} may do that: ask one of them.")
    if change.nonce is None:
        return _made(_done(request.user, stack_id, change))
    with transaction.atomic():
        if before := Change.objects.filter(stack_id=stack_id, nonce=change.nonce).first():
            return _made(before)
        made = _done(request.user, stack_id, change)
        Change.objects.filter(pk=made.pk).update(nonce=change.nonce)
    return _made(made)


@router.get("/stacks/{int:stack_id}/changes", response={200: HistoryOut, 404: Problem})
def get_history(request: Request, stack_id: int) -> HistoryOut:
    """The stack's history."""
    stack = Stack.objects.get(pk=stack_id)
    undo, redo = history.next_to_undo(stack), history.next_to_redo(stack)
    rows = stack.changes.select_related("by").order_by("-pk")[:_HISTORY]
    return HistoryOut(
        changes=[_out(row) for row in rows],
        count=stack.changes.count(),
        undo=undo.pk if undo else None,
        redo=redo.pk if redo else None,
    )


@router.post("/stacks/{int:stack_id}/changes/last", response={200: ChangeMade, 404: Problem})
def turn_last_change(request: Request, stack_id: int, asked: UndoOrRedo) -> ChangeMade:
    """Undo the last change, or do again the one undone last, whichever that is by now."""
    return _followed(history.turn_last(stack_id, asked.way, asked.nonce))


@router.post("/stacks/{int:stack_id}/changes/{int:change_id}/undo", response={200: ChangeMade, 404: Problem, 409: Problem})
def undo_change(request: Request, stack_id: int, change_id: int) -> ChangeMade:
    """Take the last change back; it must be the one named. One that is taken back already stays so."""
    return _followed(history.undo(stack_id, change_id))


@router.post("/stacks/{int:stack_id}/changes/{int:change_id}/redo", response={200: ChangeMade, 404: Problem, 409: Problem})
def redo_change(request: Request, stack_id: int, change_id: int) -> ChangeMade:
    """Do again what was undone last; it must be the one named. One that is done again already stays so."""
    return _followed(history.redo(stack_id, change_id))


def _followed(change: Change) -> ChangeMade:
    """A change that was turned, with what hangs on it brought up to date."""
    correcting.follow(change)
    judging.follow(change)
    return _made(change)


def _done(user: User, stack_id: int, change: ChangeIn) -> Change:
    match change.doing:
        case PutRight(edits=edits):
            return correcting.put_right(stack_id, user, change.seen, [_edit(edit) for edit in edits])
        case Judge(findings=findings, fine=fine):
            meant = [judging.Judged(one.page, one.kind, one.judged) for one in findings]
            return judging.judge(stack_id, user, change.seen, meant, fine=fine)
        case ListWords(words=words, more=more):
            return set_list(stack_id, user, change.seen, words, more)
        case doing:
            return _do(Arranging(stack_id, user, change.seen), doing)


def _edit(edit: WordEdit) -> Edit:
    return Edit(edit.page, edit.box, edit.kind, edit.before, edit.after, tuple(edit.order))


def _do(hand: Arranging, doing: Doing) -> Change:
    match doing:
        case Move():
            return hand.move(doing.pages, doing.after)
        case Reorder():
            return _reorder(hand, doing)
        case Leaves():
            return hand.leaves(doing.fronts, doing.backs, doing.single, reverse=doing.reverse)
        case Turn():
            return hand.turn(doing.pages, doing.degrees)
        case Aside():
            return hand.aside(doing.pages, doing.aside, doing.reason)
        case Delete():
            return hand.delete(doing.pages)
        case Restore():
            return hand.restore(doing.pages)
        case ReadIn():
            return hand.read_in(doing.language, doing.pages)
        case ReadLater():
            return hand.read_later(later=doing.later)
        case Break():
            return hand.mark_break(doing.pages, doing.on)
        case Rescan():
            return hand.mark_rescan(doing.pages, doing.why)
        case Correct():
            return hand.correct(doing.pages, doing.correction.model_dump(mode="json", exclude_unset=True))
        case Treat():
            return hand.treat(doing.treatment, _rule_of(doing), doing.version)
        case SplitPage():
            return hand.split(doing.page, doing.start, doing.end)
        case Unsplit():
            return hand.unsplit(doing.page)
    raise AssertionError(doing.do)


def _reorder(hand: Arranging, doing: Reorder) -> Change:
    match doing.do.split():
        case ["reverse"]:
            return hand.reverse(doing.pages)
        case ["deal"]:
            return hand.deal(doing.pages)
        case ["interleave", *behind]:
            return hand.weave(doing.pages, from_behind=bool(behind))
        case [*_, by]:
            return hand.sort(doing.pages, by)
    raise AssertionError(doing.do)


def _made(change: Change) -> ChangeMade:
    count = Stack.everything.values_list("change", flat=True).get(pk=change.stack_id)
    return ChangeMade(**_out(change).model_dump(), count=count)


def _out(change: Change) -> ChangeOut:
    what = change.what
    if change.batch is not None:
        files = change.batch.sources.count()
        what = f"{what} {files:,} {'file' if files == 1 else 'files'}"
    by = change.by.get_username() if change.by else "somebody no longer here"
    return ChangeOut(id=change.pk, what=what, by=by, at=change.at, state=cast("ChangeState", change.state))
