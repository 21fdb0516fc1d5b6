"""Gathering the words of pages once they have been read or put right: figures, doubtful words, what a search looks in."""

import logging
from collections import Counter

from django.db import transaction
from django.db.models import F

from hollowstack.core.find import written
from hollowstack.core.read.doubts import DOUBTFUL, expected_errors
from hollowstack.server.errors import Refused
from hollowstack.server.reading import index
from hollowstack.server.reading.laid import laid_text
from hollowstack.server.reading.models import Doubt, IndexedText, PageWords
from hollowstack.server.reading.words import MOST_TEXT, count_words, mark_known, plain
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.stacks.services import next_change

log = logging.getLogger("hollowstack.reading")
AT_ONCE = 6
"""Pages gathered in one go: for so long nobody else writes."""


def gather_some() -> int:
    """Gather the words of some pages that have been read or put right since; returns how many those were."""
    waiting = Page.objects.filter(removed=False, state=Page.State.READY).exclude(indexed=F("reading"))
    pages = list(with_results(waiting).select_related("stack").order_by("stack_id")[:AT_ONCE])
    if not pages:
        return 0  # without a transaction: having nothing to do costs nothing
    with transaction.atomic():
        for stack in {page.stack_id for page in pages}:
            mine = [page for page in pages if page.stack_id == stack]
            number = next_change(stack)
            for page in mine:
                _gather_or_leave(page)
            Page.objects.filter(pk__in=[page.pk for page in mine]).update(change=number)
    return len(pages)


def _gather_or_leave(page: Page) -> None:
    """A reading that is damaged gives no words until it has been made again; that is seen to when files are verified."""
    try:
        gather(page)
    except (Refused, ValueError) as error:
        log.warning("page %d: its words cannot be gathered (%s)", page.pk, error)
        Page.objects.filter(pk=page.pk).update(indexed=page.reading_id)


def gather(page: Page) -> None:
    """Gather the words of a page that has been read, in a transaction."""
    laid = laid_text(page)
    reading = laid.reading
    before = PageWords.objects.filter(page=page).values_list("counts", flat=True).first() or {}
    expected = expected_errors(reading)
    doubtful = [(place, word) for place, word in enumerate(reading.words) if word.doubt >= DOUBTFUL]
    sure = {plain(word.text): word.text for word in reading.words if word.doubt < DOUBTFUL and word.mark != "unreadable"}
    counts = Counter(plain(word.text) for word in reading.words if plain(word.text) in sure and word.doubt < DOUBTFUL)
    PageWords.objects.update_or_create(
        page=page,
        defaults={
            "words": len(reading.words),
            "characters": expected.characters,
            "errors": expected.errors,
            "spread": expected.spread,
            "counts": counts,
            "lost": list(laid.lost),
        },
    )
    page.doubts.all().delete()
    Doubt.objects.bulk_create(
        Doubt(
            stack_id=page.stack_id,
            page=page,
            place=place,
            text=word.text[:MOST_TEXT],
            plain=plain(word.text),
            doubt=word.doubt,
            box=word.box,
            alternatives=word.alternatives,
        )
        for place, word in doubtful
    )
    count_words(page.stack_id, before, counts, sure)
    mark_known(page.stack_id, [plain(word.text) for _, word in doubtful])
    index.put(page.pk, written(reading), page.source.name)
    Page.objects.filter(pk=page.pk).update(indexed=page.reading_id)


def forget_gone() -> int:
    """Have nothing found any more on pages that were removed for good; returns how many those were."""
    with transaction.atomic():
        gone = IndexedText.objects.exclude(page_id__in=Page.objects.values("pk"))
        return index.take_out(list(gone.values_list("page_id", flat=True)))
