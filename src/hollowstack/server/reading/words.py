"""The words that a stack knows: those that stand in it for sure, and those that somebody has put on its list."""

from collections.abc import Iterable, Mapping, Sequence

from django.contrib.auth.models import User
from django.db import transaction

from hollowstack.server.errors import Refused
from hollowstack.server.reading.models import Doubt, StackWord
from hollowstack.server.stacks import history
from hollowstack.server.stacks.models import Change, Stack

OFTEN = 4
"""A word that stands in a stack so often for sure is a name of it, and no doubt elsewhere."""
_NAME = 5
"""Letters from which on a word is long enough not to be another one misread."""
MOST_TEXT = 400
_MOST_LISTED = 20_000
_LONGEST = 100
_NAMED = 5_000
"""So many values in one question to the database."""
_AROUND = " \t.,:;!?()[]{}<>\"'“”‘’„‚«»-–—/|*"


def plain(text: str) -> str:
    """A word as it is compared: in small letters, without what stands before or behind it."""
    return text.strip(_AROUND).casefold()[:MOST_TEXT]


def count_words(stack_id: int, before: Mapping[str, int], after: Mapping[str, int], written: Mapping[str, str]) -> None:
    """Take the sure words of a page, as they were and are, into the stack's; in a transaction.

    Args:
        stack_id: The stack.
        before: How often each stood on the page before.
        after: And now.
        written: The words that stand there now, as they are written.
    """
    changes = {word: by for word in {*before, *after} if word and (by := after.get(word, 0) - before.get(word, 0))}
    there = {row.word: row for row in _rows(stack_id, list(changes))}
    counted = []
    for word, by in changes.items():
        row = there.get(word) or StackWord(stack_id=stack_id, word=word, written=written.get(word, word)[:MOST_TEXT])
        if row.pk or by > 0:
            counted.append(StackWord(stack_id=stack_id, word=word, written=row.written, count=max(0, row.count + by)))
    # One plain statement for old and new: an update of many rows is long in the making.
    StackWord.objects.bulk_create(
        counted, update_conflicts=True, unique_fields=["stack", "word"], update_fields=["count"], batch_size=200
    )
    mark_known(stack_id, list(changes))


def mark_known(stack_id: int, words: Sequence[str]) -> None:
    """Say of doubtful words that read like these whether the stack knows them; in a transaction."""
    known = {row.word for row in _rows(stack_id, words) if is_known(row)}
    for some in _batches(words):
        doubts = Doubt.objects.filter(stack_id=stack_id, plain__in=some)
        doubts.filter(plain__in=known.intersection(some)).exclude(known=True).update(known=True)
        doubts.exclude(plain__in=known.intersection(some)).exclude(known=False).update(known=False)


def is_known(row: StackWord) -> bool:
    """Whether a word is no doubt in its stack, however it was read."""
    return row.listed or (row.count >= OFTEN and len(row.word) >= _NAME)


def set_list(stack_id: int, user: User | None, seen: int, words: Iterable[str] | None, more: Iterable[str] = ()) -> Change:
    """Make these the stack's own words, which are no doubts; None leaves those that it has, and puts ``more`` to them.

    Raises Refused, Conflict.
    """
    given = [*(Stack.objects.get(pk=stack_id).word_list if words is None else words), *more]
    wanted = {plain(word): " ".join(word.split()).strip(_AROUND) for word in given}
    wanted.pop("", None)
    if len(wanted) > _MOST_LISTED:
        raise Refused(f"The list has {len(wanted):,} words; the most is {_MOST_LISTED:,}: leave some out.")
    if long := next((word for word in wanted if len(word) >= _LONGEST), None):
        raise Refused(f"“{long[:40]}…” is too long for a word: put each word on a line of its own.")
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        new = sorted(wanted.values(), key=str.casefold)
        if new == stack.word_list:
            raise Refused("The list has these words already.")
        came, went = len({*new} - {*stack.word_list}), len({*stack.word_list} - {*new})
        what = f"Changed the word list: {came:,} added, {went:,} removed"
        change = history.record(stack, user, what, seen=seen, word_list=new)
        adopt_list(stack_id)
    return change


def adopt_list(stack_id: int) -> None:
    """Have the words of a stack's list known and no others that only were on it, after the list has changed."""
    wanted = {plain(word): word for word in Stack.everything.values_list("word_list", flat=True).get(pk=stack_id)}
    was = set(StackWord.objects.filter(stack_id=stack_id, listed=True).values_list("word", flat=True))
    changed = sorted(was ^ set(wanted))
    there = {row.word: row for row in _rows(stack_id, changed)}
    for word, row in there.items():
        row.listed, row.written = word in wanted, wanted.get(word, row.written)
    StackWord.objects.bulk_update(there.values(), ["listed", "written"], batch_size=300)
    StackWord.objects.bulk_create(
        StackWord(stack_id=stack_id, word=word, written=wanted[word], listed=True)
        for word in changed
        if word in wanted and word not in there
    )
    mark_known(stack_id, changed)


def _rows(stack_id: int, words: Sequence[str]) -> list[StackWord]:
    return [row for some in _batches(words) for row in StackWord.objects.filter(stack_id=stack_id, word__in=some)]


def _batches(words: Sequence[str]) -> list[Sequence[str]]:
    return [words[first : first + _NAMED] for first in range(0, len(words), _NAMED)]
