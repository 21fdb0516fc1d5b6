"""What was done by hand, change by change: recording, undoing, doing again."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any, Literal

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from hollowstack.core.arrange.order import difference
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.errors import Conflict, Refused
from hollowstack.server.stacks.bulk import save_pages
from hollowstack.server.stacks.grouping import ask_to_regroup
from hollowstack.server.stacks.models import Batch, Change, Page, Stack, Verdict
from hollowstack.server.stacks.planning import mark, plan_marked, plan_or_mark
from hollowstack.server.stacks.services import next_change, order_of, refuse_closed, treatment_json

Fields = Mapping[int, Mapping[str, Any]]
"""New values of a page's fields, by the page's id."""
Words = Mapping[int, Mapping[str, Mapping[str, Any] | None]]
"""Corrections of a page's text by their keys, by the page's id; None takes one away."""
Verdicts = Mapping[tuple[int | None, str, str], bool]
"""Whether a finding is fine as it is, by its page, its kind and what it judges."""
Way = Literal["undo", "redo"]
_BY_HAND = ("override", "breaks", "rescan", "removed", "deleted_at", "source_id", "frame", "language")
_REPLAN = frozenset({"override", "source_id", "frame", "language"})
_OF_READING = ("language", "read_later")
"""Fields of a stack that say how it is read."""
_CHANGED = "Somebody else has changed {what} in the meantime: look at it again, it is up to date now."


def record(
    stack: Stack,
    user: User | None,
    what: str,
    *,
    seen: int,
    pages: Fields | None = None,
    order: Sequence[int] | None = None,
    treatment: Treatment | None = None,
    reading: Mapping[str, Any] | None = None,
    words: Words | None = None,
    word_list: Sequence[str] | None = None,
    verdicts: Verdicts | None = None,
) -> Change:
    """Do something to pages, to their order, or both, so that it can be undone; call it in a transaction.

    Args:
        stack: The stack.
        user: Who does it.
        what: What is done, as a sentence for the history, without a full stop.
        seen: The stack's count of changes that the user had before their eyes.
        pages: New values of fields.
        order: All pages in their new order.
        treatment: The stack's from now on.
        reading: What its pages are read in from now on, and whether that is put off: ``language``, ``read_later``.
        words: Corrections of the text.
        word_list: The stack's own words from now on.
        verdicts: Findings that are fine as they are, and such as are not any more.

    Raises:
        Conflict: Somebody else changed one of these pages, one of these words, or the order, after ``seen``.
        Refused: The stack is signed for.
    """
    refuse_closed(stack)
    before: dict[str, Any] = {}
    after: dict[str, Any] = {}
    if pages:
        touched = {name for fields in pages.values() for name in fields}
        known = {row["pk"]: row for row in stack.pages.filter(pk__in=pages).values("pk", "edited", *touched)}
        if any(row["edited"] > seen for row in known.values()):
            raise Conflict(_CHANGED.format(what="this page" if len(pages) == 1 else "one of these pages"))
        before["pages"] = {str(pk): {name: _plain(known[pk][name]) for name in fields} for pk, fields in pages.items()}
        after["pages"] = {str(pk): dict(fields) for pk, fields in pages.items()}
    if words:
        there = {page.pk: page.words for page in stack.pages.filter(pk__in=words)}
        before["words"] = {str(pk): {key: there[pk].get(key) for key in changed} for pk, changed in words.items()}
        if any(one and one["count"] > seen for changed in before["words"].values() for one in changed.values()):
            raise Conflict(_CHANGED.format(what="this word" if _count(words) == 1 else "one of these words"))
        after["words"] = {str(pk): dict(changed) for pk, changed in words.items()}
    if order is not None:
        if stack.arranged > seen:
            raise Conflict(_CHANGED.format(what="the order"))
        before["order"], after["order"] = difference(order_of(stack.pk), order)
    if treatment is not None:
        before["treatment"], after["treatment"] = stack.treatment, treatment_json(treatment)
    for name, value in (reading or {}).items():
        before[name], after[name] = getattr(stack, name), value
    if word_list is not None:
        added, dropped = sorted({*word_list} - {*stack.word_list}), sorted({*stack.word_list} - {*word_list})
        before["word_list"] = {"add": dropped, "drop": added}
        after["word_list"] = {"add": added, "drop": dropped}
    if verdicts:
        before["verdicts"] = [_verdict(stack, one, user=None, there=not fine) for one, fine in verdicts.items()]
        after["verdicts"] = [_verdict(stack, one, user=user, there=fine) for one, fine in verdicts.items()]
    stack.changes.filter(state=Change.State.UNDONE).update(state=Change.State.DROPPED)
    change = Change.objects.create(stack=stack, what=what, by=user, before=before, after=after)
    _apply(stack, after)
    return change


def _count(words: Words) -> int:
    return sum(len(changed) for changed in words.values())


def _named(finding: tuple[int | None, str, str]) -> dict[str, Any]:
    """Fields of the row of a verdict."""
    page, kind, judged = finding
    return {"page_id": page, "kind": kind, "judged": judged}


def _verdict(stack: Stack, finding: tuple[int | None, str, str], *, user: User | None, there: bool) -> dict[str, Any]:
    """A verdict as it is kept in a change: whose it is and since when, or that there is none."""
    page, kind, judged = finding
    named: dict[str, Any] = {"page": page, "kind": kind, "judged": judged}
    if not there:
        return {**named, "there": False}
    row = stack.verdicts.filter(**_named(finding)).first()
    by, at = (row.by_id, row.at) if row is not None else (user.pk if user else None, timezone.now())
    return {**named, "there": True, "by": by, "at": at.isoformat()}


def _plain(value: Any) -> Any:
    """A field's value as it is kept in a change."""
    return value.isoformat() if isinstance(value, datetime) else value


def undo(stack_id: int, change_id: int) -> Change:
    """Take back the last change that stands; it must be the one that the user means.

    One that was taken back last stays so: whoever asks again has not heard the answer.

    Raises:
        Conflict: It is not the last one any more.
        Refused: The stack is signed for.
    """
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        if (undone := next_to_redo(stack)) and undone.pk == change_id:
            return undone
        change = next_to_undo(stack)
        if change is None or change.pk != change_id:
            raise Conflict(_CHANGED.format(what="the stack"))
        refuse_closed(stack)
        _turn(change, back=True)
    return change


def redo(stack_id: int, change_id: int) -> Change:
    """Do again what was undone last, once however often it is asked. Raises Conflict where that is another one by now."""
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        if (done := next_to_undo(stack)) and done.pk == change_id:
            return done
        change = next_to_redo(stack)
        if change is None or change.pk != change_id:
            raise Conflict(_CHANGED.format(what="the stack"))
        refuse_closed(stack)
        _turn(change, back=False)
    return change


def turn_last(stack_id: int, way: Way, nonce: str) -> Change:
    """Undo the last change that stands, or do again the one undone last, whichever that is by now; once under each nonce.

    Who closes the page in the moment after their last key cannot ask which change that is before they ask for it.

    Raises:
        Refused: There is none, or the stack is signed for.
    """
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        if before := stack.changes.filter(turn_nonce=nonce).first():
            return before
        last, turned = (next_to_undo, undo) if way == "undo" else (next_to_redo, redo)
        if (change := last(stack)) is None:
            raise Refused(f"There is nothing to {way}.")
        change = turned(stack_id, change.pk)
        change.turn_nonce = nonce
        change.save(update_fields=["turn_nonce"])
    return change


def next_to_undo(stack: Stack) -> Change | None:
    """The last change that stands."""
    return stack.changes.filter(state=Change.State.DONE).last()


def next_to_redo(stack: Stack) -> Change | None:
    """The change undone last."""
    return stack.changes.filter(state=Change.State.UNDONE).first()


def _turn(change: Change, *, back: bool) -> None:
    change.state = Change.State.UNDONE if back else Change.State.DONE
    change.save(update_fields=["state"])
    if change.batch is not None:
        _turn_batch(change, change.batch, back=back)
    _apply(change.stack, change.before if back else change.after)


def _turn_batch(change: Change, batch: Batch, *, back: bool) -> None:
    """Take all pages of a batch out, or put in again those that were there: the other half of a page whose split was undone
    before, for instance, was not."""
    batch.taken_back = back
    batch.save(update_fields=["taken_back"])
    pages = Page.objects.filter(source__batch=batch)
    if back:
        change.before = {**change.before, "gone": list(pages.filter(removed=True).values_list("pk", flat=True))}
        change.save(update_fields=["before"])
    number = next_change(change.stack_id, order=True)
    pages.exclude(pk__in=change.before.get("gone", [])).update(removed=back, change=number, edited=number)


def _apply(stack: Stack, side: Mapping[str, Any]) -> None:
    if fields := side.get("pages"):
        _set_fields(stack, {int(pk): values for pk, values in fields.items()})
    if words := side.get("words"):
        _set_words(stack, {int(pk): changed for pk, changed in words.items()})
    if verdicts := side.get("verdicts"):
        _set_verdicts(stack, verdicts)
    if listing := side.get("word_list"):
        now = Stack.everything.values_list("word_list", flat=True).get(pk=stack.pk)
        kept = sorted({*now, *listing["add"]} - {*listing["drop"]})
        Stack.everything.filter(pk=stack.pk).update(word_list=kept)
        next_change(stack.pk)
    if arrangement := side.get("order"):
        _set_order(stack.pk, arrangement)
    if treatment := side.get("treatment"):
        _set_of_stack(stack, treatment=treatment)
    if reading := {name: side[name] for name in _OF_READING if name in side}:
        _set_of_stack(stack, **reading)


def _set_of_stack(stack: Stack, **fields: Any) -> None:
    """What goes for all pages: they are planned anew."""
    Stack.objects.filter(pk=stack.pk).update(**fields)
    mark(stack.pages.all(), next_change(stack.pk))
    plan_marked(stack.pk)
    ask_to_regroup(stack.pk, "measured")


def _set_fields(stack: Stack, fields: Fields) -> None:
    touched = {name for values in fields.values() for name in values}
    if not touched <= set(_BY_HAND):
        raise Refused(f"A page has no such thing as {', '.join(sorted(touched - set(_BY_HAND)))}.")
    number = next_change(stack.pk, order="removed" in touched)
    pages = _with_origins(Stack.everything.get(pk=stack.pk).pages.filter(pk__in=fields))
    for page in pages:
        for name, value in fields[page.pk].items():
            setattr(page, name, value)
        page.change = page.edited = number
    columns = [*touched, "change", "edited"]
    if touched & _REPLAN:
        if "source_id" in touched:  # the object at hand is the former one
            pages = [_with_source(page) for page in pages]
        plan_or_mark(Stack.everything.get(pk=stack.pk), pages, columns)
    else:
        save_pages(pages, columns)


def _set_verdicts(stack: Stack, verdicts: Sequence[Mapping[str, Any]]) -> None:
    """Give verdicts, or take them back; the pages are other ones by that."""
    number = next_change(stack.pk)
    people = set(User.objects.values_list("pk", flat=True))
    for one in verdicts:
        named = {"stack": stack, **_named((one["page"], one["kind"], one["judged"]))}
        if one["there"]:
            by = one["by"] if one["by"] in people else None
            Verdict.objects.update_or_create(**named, defaults={"by_id": by, "at": datetime.fromisoformat(one["at"])})
        else:
            Verdict.objects.filter(**named).delete()
    Page.objects.filter(pk__in=[one["page"] for one in verdicts]).update(change=number)


def _set_words(stack: Stack, words: Words) -> None:
    """Put corrections of the text in, or take them away; what is gathered of these pages' words is no longer up to date."""
    number = next_change(stack.pk)
    pages = list(Stack.everything.get(pk=stack.pk).pages.filter(pk__in=words))
    for page in pages:
        kept = {**page.words}
        for key, correction in words[page.pk].items():
            if correction is None:
                kept.pop(key, None)
            else:
                kept[key] = {**correction, "count": number}
        page.words, page.indexed, page.change = kept, "", number
    save_pages(pages, ["words", "indexed", "change"])


def _with_origins(pages: QuerySet[Page]) -> list[Page]:
    """Pages of one stack with where they came from; the stack itself, long to read, is read once and shared."""
    return list(pages.select_related("source__batch"))


def _with_source(page: Page) -> Page:
    page.source = page.stack.sources.get(pk=page.source_id)
    return page


def _set_order(stack_id: int, arrangement: Sequence[int]) -> None:
    """Fill the places that these pages hold with them in another sequence; one that has gone leaves no gap."""
    there = dict(Page.objects.filter(stack_id=stack_id, pk__in=arrangement).values_list("pk", "position"))
    places = sorted(there.values())
    coming = [pk for pk in arrangement if pk in there]
    number = next_change(stack_id, order=True)
    Stack.everything.filter(pk=stack_id).update(arranged=number)
    pages = [Page(pk=pk, position=position) for position, pk in zip(places, coming, strict=True)]
    save_pages(pages, ["position"])
    ask_to_regroup(stack_id, "moved")
