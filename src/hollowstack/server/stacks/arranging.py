"""What can be done by hand to the pages of a stack. Each is one change that can be undone."""

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone
from natsort import os_sort_key
from pydantic import ValidationError

from hollowstack.core.arrange import order as orders
from hollowstack.core.arrange.order import DocumentRule
from hollowstack.core.ocr.models import check_language
from hollowstack.core.page.aside import AsideReason
from hollowstack.core.page.geometry import Point
from hollowstack.core.settings.override import Override, Split
from hollowstack.core.settings.treatment import with_documents
from hollowstack.server.errors import Refused
from hollowstack.server.stacks import history, splitting
from hollowstack.server.stacks.models import Change, Page, Stack
from hollowstack.server.stacks.overview import numbers_of, with_results
from hollowstack.server.stacks.services import NOT_MEASURED, order_of, shift_behind, treatment_of
from hollowstack.server.treatments import versions

_CORRECTIONS = {
    "turn": "turn", "skew": "skew", "quad": "corners", "crop": "crop", "clear": "borders", "plain": "borders",
    "colour": "colour", "even_tone": "tone", "reduce_show_through": "show-through", "adjust": "tone",
}  # fmt: skip


class Arranging:
    """A user's hand on a stack as they saw it: ``seen`` is the stack's count of changes before their eyes.

    Every method raises Conflict where somebody else was quicker, Refused where it cannot be done, and returns the change.
    """

    def __init__(self, stack_id: int, user: User | None, seen: int) -> None:
        self._stack_id, self._user, self._seen = stack_id, user, seen

    def move(self, pages: Sequence[int], after: int | None) -> Change:
        """Put pages together behind another; None puts them first."""
        return self._reorder(lambda order: orders.moved(order, pages, after), f"Moved {_counted(pages)}")

    def reverse(self, pages: Sequence[int]) -> Change:
        """Turn the sequence of pages round."""
        return self._rearrange(pages, lambda run: run[::-1], "Reversed")

    def weave(self, pages: Sequence[int], *, from_behind: bool) -> Change:
        """Make leaves of a run of fronts followed by their backs."""
        return self._rearrange(pages, lambda run: orders.interleaved_halves(run, reverse=from_behind), "Interleaved")

    def deal(self, pages: Sequence[int]) -> Change:
        """Pages at odd places first, then those at even ones."""
        return self._rearrange(pages, orders.deinterleaved, "Dealt out")

    def leaves(self, fronts: Sequence[int], backs: Sequence[int], single: Sequence[int], *, reverse: bool) -> Change:
        """Bring together fronts and backs captured apart; ``single`` are fronts of sheets without a back."""
        without = {fronts.index(page) for page in single if page in fronts}
        sheets = orders.leaves(len(fronts), len(backs), single=without, reverse=reverse)
        arrangement = orders.interleaved(fronts, backs, sheets)
        return self._rearrange([*fronts, *backs], lambda _: arrangement, "Brought fronts and backs together:")

    def sort(self, pages: Sequence[int], by: str) -> Change:
        """By the ``name`` or the ``time`` of their files, or by the ``number`` printed on them."""
        found = {page.pk: page for page in with_results(self._stack().pages.filter(pk__in=pages))}
        if by == "number":
            numbers = numbers_of([found[pk] for pk in order_of(self._stack_id) if pk in found])
            if not any(numbers.values()):
                raise Refused("No number was read on these pages: sort them by name, or by hand.")
            return self._rearrange(pages, lambda run: orders.by_number(run, numbers), "Sorted by page number")

        def key(pk: int) -> tuple[Any, ...]:
            page = found[pk]
            # Pages of one file stay together; the last word is the order they had.
            return (os_sort_key(page.source.name) if by == "name" else _time(page), page.source_id, page.frame)

        return self._rearrange(pages, lambda run: sorted(run, key=key), f"Sorted by {by}")

    def turn(self, pages: Sequence[int], degrees: int) -> Change:
        """Turn pages clockwise by 90, 180 or 270 degrees from how they stand."""

        def turned(page: Page) -> dict[str, Any]:
            if page.plan is None:
                raise Refused(NOT_MEASURED)
            return _overridden(page, turn=(page.plan["turn"] + degrees) % 360)

        way = {90: "to the right", 180: "upside down", 270: "to the left"}[degrees]
        return self._edit(pages, turned, f"Turned {_counted(pages)} {way}")

    def aside(self, pages: Sequence[int], aside: bool | None, reason: AsideReason = "by hand") -> Change:
        """Hold pages out of the output (True), keep them in (False), or leave that to the plan (None)."""

        def held(page: Page) -> dict[str, Any]:
            if page.plan is None:
                raise Refused(NOT_MEASURED)
            return _overridden(page, aside=aside, reason=reason)

        verb = {True: "Held {} aside", False: "Put {} back into the stack", None: "Left {} as the treatment says"}[aside]
        return self._edit(pages, held, verb.format(_counted(pages)))

    def mark_break(self, pages: Sequence[int], on: bool) -> Change:
        """Let a document begin with each of the pages, or no longer."""
        what = f"Set a document break before {_counted(pages)}" if on else f"Took the break before {_counted(pages)} away"
        return self._edit(pages, lambda _: {"breaks": on}, what)

    def mark_rescan(self, pages: Sequence[int], why: str) -> Change:
        """Mark pages to be captured again, or no longer where ``why`` is empty."""
        why = " ".join(why.split())
        what = f"Marked {_counted(pages)} for recapture" if why else f"Took the recapture mark off {_counted(pages)}"
        return self._edit(pages, lambda _: {"rescan": why}, what)

    def delete(self, pages: Sequence[int]) -> Change:
        """Throw pages into the bin, from which they can be taken back."""
        return self._throw(pages, f"Deleted {_counted(pages)}")

    def discard(self, pages: Sequence[int]) -> Change:
        """Throw what a capture brought into the bin."""
        return self._throw(pages, f"Discarded a capture of {_counted(pages)}")

    def restore(self, pages: Sequence[int]) -> Change:
        """Take pages back from the bin, to where they were."""
        with transaction.atomic():
            stack = self._stack()
            found = stack.pages.filter(pk__in=_some(pages), removed=True).exclude(deleted_at=None)
            fields = {page.pk: {"removed": False, "deleted_at": None} for page in found}
            if len(fields) != len(set(pages)):
                raise Refused("One of these pages is no longer in the bin: look at it again.")
            return history.record(stack, self._user, f"Took {_counted(pages)} back", seen=self._seen, pages=fields)

    def read_in(self, language: str, pages: Sequence[int] | None = None) -> Change:
        """Have pages, or all that have no languages of their own, read in others, as eng+deu.

        An empty ``language`` leaves that to the stack, and of a stack to its treatment.
        """
        if language:
            check_language(language)
        if pages is not None:
            what = (
                f"Set the language of {_counted(pages)} to {language}"
                if language
                else f"Left the language of {_counted(pages)} to the stack"
            )
            return self._edit(pages, lambda _: {"language": language}, what)
        with transaction.atomic():
            stack = self._stack()
            if stack.language == language:
                raise Refused("The stack is read in that language already.")
            what = (
                f"Set the language of the text to {language}"
                if language
                else "Left the language of the text to the treatment"
            )
            return history.record(stack, self._user, what, seen=self._seen, reading={"language": language})

    def read_later(self, *, later: bool) -> Change:
        """Put off the reading of the stack, or have it read now."""
        with transaction.atomic():
            stack = self._stack()
            if stack.read_later == later:
                raise Refused("Reading is put off already." if later else "The stack is being read already.")
            what = "Put off the reading" if later else "Took up the reading"
            return history.record(stack, self._user, what, seen=self._seen, reading={"read_later": later})

    def split(self, page_id: int, start: tuple[float, float], end: tuple[float, float]) -> Change:
        """Make two pages of one along a line, in pixels of the image as captured, that points down for the reader.

        Where the page is half of a split image already, the line between the two halves is moved.
        """
        with transaction.atomic():
            stack = self._stack()
            page = stack.pages.select_related("source").get(pk=page_id, removed=False)
            if page.plan is None:
                raise Refused(NOT_MEASURED)
            try:
                line = Split(start=Point(*start), end=Point(*end), keep="left")
            except ValidationError as error:
                raise Refused(error.errors()[0]["msg"].removeprefix("Value error, ")) from None
            if halves := _halves(stack, page):
                fields = {
                    half.pk: _overridden(half, split=line.model_copy(update={"keep": half.override["split"]["keep"]}))
                    for half in halves
                }
                return history.record(stack, self._user, "Moved a split line", seen=self._seen, pages=fields)
            other = line.model_copy(update={"keep": "right"})
            shift_behind(stack.pk, page.position, 1)
            half = Page.objects.create(
                stack=stack, source=page.source, frame=page.frame, position=page.position + 1, removed=True
            )
            fields = {
                page.pk: _overridden(page, split=line),
                half.pk: {**_overridden(page, split=other), "removed": False},
            }
            return history.record(stack, self._user, "Split a page into two", seen=self._seen, pages=fields)

    def unsplit(self, page_id: int) -> Change:
        """Make the two halves of an image one page again."""
        with transaction.atomic():
            stack = self._stack()
            page = stack.pages.get(pk=page_id, removed=False)
            halves = _halves(stack, page)
            if not halves:
                raise Refused("The page is not half of a split image.")
            rest: dict[int, dict[str, Any]] = {half.pk: {"removed": True} for half in halves if half.pk != page.pk}
            fields = {**rest, page.pk: _overridden(page, split=None)}
            return history.record(stack, self._user, "Made two halves one page again", seen=self._seen, pages=fields)

    def treat(self, name: str | None, documents: DocumentRule | None, version: int | None = None) -> Change:
        """Give the stack another treatment (its latest version where none is named), another rule for documents, or both."""
        with transaction.atomic():
            stack = self._stack()
            before = treatment_of(stack)
            chosen = versions.find(name, version) if name else before
            wanted = with_documents(chosen, documents or before.documents)
            if wanted == before:
                raise Refused("The stack has that treatment already.")
            same = (wanted.name, wanted.version) == (before.name, before.version)
            after = f"New documents after {wanted.documents.words}"
            what = after if same else f"Chose the treatment {versions.titled(wanted)}"
            change = history.record(stack, self._user, what, seen=self._seen, treatment=wanted)
            measured = stack.pages.filter(removed=False, measured__isnull=False).select_related("source", "measured")
            return splitting.split_facing(stack.pk, list(measured), self._user) or change

    def correct(self, pages: Sequence[int], wish: Mapping[str, Any]) -> Change:
        """Set some of the corrections of pages, in place of what the treatment would do; None takes one back to that."""
        if not wish:
            raise Refused("Nothing was set: change something first.")

        def corrected(page: Page) -> dict[str, Any]:
            if page.plan is None:
                raise Refused(NOT_MEASURED)
            return _overridden(page, **wish)

        names = [_CORRECTIONS[name] for name in _CORRECTIONS if name in wish]
        if all(value is None for value in wish.values()):
            what = f"Took {_counted(pages)} back to the treatment"
        else:
            what = f"Set {' and '.join(dict.fromkeys(names))} of {_counted(pages)}"
        return self._edit(pages, corrected, what)

    def _throw(self, pages: Sequence[int], what: str) -> Change:
        now = timezone.now().isoformat()
        return self._edit(pages, lambda _: {"removed": True, "deleted_at": now}, what)

    def _stack(self) -> Stack:
        return Stack.objects.get(pk=self._stack_id)

    def _edit(self, pages: Sequence[int], change: Callable[[Page], dict[str, Any]], what: str) -> Change:
        with transaction.atomic():
            stack = self._stack()
            found = stack.pages.filter(pk__in=_some(pages), removed=False)
            fields = {page.pk: change(page) for page in found}
            if len(fields) != len(set(pages)):
                raise Refused("One of these pages is no longer in the stack: choose again.")
            return history.record(stack, self._user, what, seen=self._seen, pages=fields)

    def _rearrange(self, pages: Sequence[int], change: Callable[[list[int]], list[int]], verb: str) -> Change:
        chosen = set(_some(pages))

        def rearranged(order: list[int]) -> list[int]:
            return orders.refilled(order, change([page for page in order if page in chosen]))

        return self._reorder(rearranged, f"{verb} {_counted(pages)}")

    def _reorder(self, change: Callable[[list[int]], list[int]], what: str) -> Change:
        with transaction.atomic():
            stack = self._stack()
            before = order_of(stack.pk)
            after = change(before)
            if sorted(after) != sorted(before):
                raise Refused("One of these pages is no longer in the stack: choose again.")
            if after == before:
                raise Refused("The pages are in that order already.")
            return history.record(stack, self._user, what, seen=self._seen, order=after)


def _halves(stack: Stack, page: Page) -> list[Page]:
    """The page and the other half of its image; none where it is no half."""
    if "split" not in page.override:
        return []
    same = stack.pages.filter(source_id=page.source_id, frame=page.frame, removed=False)
    return [other for other in same if "split" in other.override]


def _some(pages: Sequence[int]) -> Sequence[int]:
    if not pages:
        raise Refused("No page is chosen: choose one or more first.")
    return pages


def _counted(pages: Sequence[int]) -> str:
    return "1 page" if len(pages) == 1 else f"{len(pages):,} pages"


def _overridden(page: Page, **changes: object) -> dict[str, Any]:
    override = Override.model_validate({**page.override, **changes})
    return {"override": override.model_dump(mode="json", exclude_none=True, exclude_defaults=True)}


def _time(page: Page) -> datetime:
    """When an image was captured: as its camera says, else when its file was written, else when it came in."""
    origin = (page.opened.body or {}).get("origin", {}) if page.opened is not None else {}
    if taken := origin.get("taken"):
        return datetime.fromisoformat(taken)
    return page.source.modified_at or page.source.added_at
