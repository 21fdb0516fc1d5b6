"""Putting words right by hand: each time one change of the stack's history, whatever it touches."""

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from django.contrib.auth.models import User
from django.db import transaction

from hollowstack.core.ocr.model import Box, Word
from hollowstack.core.page.geometry import Quad
from hollowstack.core.read.corrections import Correction, Kind, Laid
from hollowstack.server.errors import Conflict, Refused
from hollowstack.server.reading.gathering import gather
from hollowstack.server.reading.laid import Ground, ground_of, laid_text
from hollowstack.server.reading.words import adopt_list
from hollowstack.server.stacks import history
from hollowstack.server.stacks.models import Change, Page, Stack
from hollowstack.server.stacks.overview import with_results

AT_ONCE = 60
"""Pages whose words are gathered in the change itself; the engine does the others."""
_OTHERWISE = "The text of this page has changed in the meantime: look at the word again, it is up to date now."


@dataclass(frozen=True, slots=True)
class Edit:
    """What is done to one place of a page: ``box`` is in pixels of the clean page, ``before`` what stands there."""

    page: int
    box: Box
    kind: Kind | Literal["back"]
    """``back`` takes back what was put right there."""
    before: str = ""
    after: str = ""
    order: tuple[tuple[float, float], ...] = ()
    """Of an order: a place in each block, on the clean page."""


def put_right(stack_id: int, user: User | None, seen: int, edits: Sequence[Edit], through: str = "") -> Change:
    """Do something to words of a stack; ``through`` says how somebody came to it who is no user, by whose leave it is done.

    Raises:
        Conflict: A word reads otherwise by now, or somebody put it right after ``seen``.
        Refused: There is nothing to do, or a page has no text.
    """
    if not edits:
        raise Refused("No word is chosen: choose one first.")
    if any(edit.kind == "word" and not edit.after.strip() for edit in edits):
        raise Refused("There is no text to put there: type it, or say that this is not text.")
    by = through or (user.get_username() if user else "")
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        pages = {page.pk: page for page in _pages(stack, {edit.page for edit in edits})}
        words: dict[int, dict[str, dict[str, Any] | None]] = {}
        for pk, page in pages.items():
            laid, ground = laid_text(page), ground_of(page)
            mine = [edit for edit in edits if edit.page == pk]
            words[pk] = dict(
                _taken_back(laid, edit) if edit.kind == "back" else _correction(laid, ground, edit, edit.kind, by)
                for edit in mine
            )
        what = told(edits) + (f", by {through}" if through else "")
        change = history.record(stack, user, what, seen=seen, words=words)
        gather_now(stack_id, list(pages))
    return change


def follow(change: Change) -> None:
    """Bring what is gathered up to date after a change was undone or made again, as far as that is done at once."""
    both = (change.before, change.after)
    with transaction.atomic():
        if pages := {int(pk) for side in both for pk in side.get("words", {})}:
            gather_now(change.stack_id, sorted(pages))
        if any("word_list" in side for side in both):
            adopt_list(change.stack_id)


def gather_now(stack_id: int, pages: Sequence[int]) -> None:
    """Gather the words of some pages, in a transaction; where there are many, the engine does the rest."""
    found = with_results(Page.objects.filter(stack_id=stack_id, pk__in=pages[:AT_ONCE], state=Page.State.READY, indexed=""))
    for page in found.select_related("stack"):
        gather(page)


def told(edits: Sequence[Edit]) -> str:
    """What is done, for the history."""
    first = edits[0]
    places = f" in {len(edits):,} places" if len(edits) > 1 else ""
    match first.kind:
        case "unreadable":
            return f"Said that “{first.before}” cannot be read{places}"
        case "not text":
            return f"Left “{first.before}” out of the text{places}"
        case "back":
            return f"Took back what was put right{places}"
        case "area":
            return "Left an area out of the text" if len(edits) == 1 else f"Left {len(edits):,} areas out of the text"
        case "order":
            return "Put the text of a page in another order"
        case "word":
            if not first.before:
                return f"Added “{first.after}” to the text{places}"
            if first.before == first.after:
                return f"Took “{first.after}” as it is{places}"
            return f"Put “{first.before}” right{places}: “{first.after}”"


def _pages(stack: Stack, wanted: set[int]) -> list[Page]:
    found = list(with_results(stack.pages.filter(pk__in=wanted, removed=False)).select_related("stack"))
    if len(found) != len(wanted):
        raise Refused("One of these pages is no longer in the stack: choose again.")
    return found


def _taken_back(laid: Laid, edit: Edit) -> tuple[str, None]:
    """That a page keeps nothing any more under the key of what was put right in a place."""
    key = laid.keys.get(edit.box)
    if key is None:
        raise Refused("Nothing was put right here: there is nothing to take back.")
    return key, None


def _correction(laid: Laid, ground: Ground, edit: Edit, kind: Kind, by: str) -> tuple[str, dict[str, Any]]:
    """A correction as a page keeps it, under the key of the one that it takes the place of."""
    word = _word_at(laid.reading.words, edit.box) if kind not in ("area", "order") else None
    if kind in ("unreadable", "not text", "word") and (word.text if word else "") != edit.before:
        raise Conflict(_OTHERWISE)
    box = word.box if word else edit.box
    back = ground.onto.inverse()
    width, height = laid.reading.size_px
    correction = Correction(
        kind=kind,
        image=ground.image,
        place=back.quad(Quad.rectangle(*box)),
        at=((box[0] + box[2]) / 2 / width, (box[1] + box[3]) / 2 / height),
        before=edit.before,
        after=" ".join(edit.after.split()),
        order=tuple((x, y) for x, y in back.apply(edit.order).tolist()) if edit.order else (),
        by=by,
    )
    key = laid.keys.get(box) if word else _ORDER if kind == "order" else None
    return key or uuid.uuid4().hex[:12], correction.model_dump(mode="json", exclude_defaults=True)


_ORDER = "order"
"""A page has one order: another one takes its place."""


def _word_at(words: Sequence[Word], box: Box) -> Word | None:
    return next((word for word in words if word.box == tuple(box)), None)
