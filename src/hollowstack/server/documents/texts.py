"""The words of documents and stacks, as they were read and put right, in every form that texts are written in."""

from hollowstack.core.access import Mark
from hollowstack.core.access.covering import without_words
from hollowstack.core.ocr.model import Reading
from hollowstack.core.read.corrections import laid_again
from hollowstack.core.read.texts import TextForm, written
from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.reading.laid import laid_text, reading_of
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import with_results

MOST_FIRST = 8
_PAGES_FOR_FIRST = 5
"""Pages that are looked through for the first words: before a text there may be a cover and an empty leaf."""


def text_of_document(document: Document, form: TextForm = "txt") -> bytes:
    """What is on its pages, in their order. Raises Refused where a page is just being read again."""
    return written(form, [bound_reading(page) for page in document.pages.all()], document.title)


def text_of_stack(stack_id: int, form: TextForm, name: str) -> bytes:
    """What is on the pages that are not held out, in their order; nothing where a page has not been read yet."""
    pages = with_results(Page.objects.filter(stack_id=stack_id, removed=False, aside="")).select_related("stack")
    return written(form, [_now(page) for page in pages], name)


def first_words(document: Document) -> str:
    """The words that it begins with, up to ``MOST_FIRST``; those of an access copy that are covered are none."""
    for page in document.pages.exclude(reading="")[:_PAGES_FOR_FIRST]:
        said = [word.text for word in bound_reading(page).words if word.mark != "unreadable"]
        if said:
            return " ".join(said[:MOST_FIRST])
    return ""


def bound_reading(page: DocumentPage) -> Reading:
    """The words of a page as it is bound. Raises Refused where it is just being read again."""
    if not page.reading:
        return _EMPTY
    reading = reading_of(page.reading)
    if page.words:
        reading = laid_again(reading, page.words)
    # Of an access copy: what is covered there is told nowhere.
    return without_words(reading, [Mark.model_validate(one) for one in page.marks])[0]


def _now(page: Page) -> Reading:
    made = page.reading is not None and page.reading.state == Result.State.MADE
    return laid_text(page).reading if made else _EMPTY


_EMPTY = Reading(language="und", size_px=(1, 1), blocks=[])
"""A page that was not read."""
