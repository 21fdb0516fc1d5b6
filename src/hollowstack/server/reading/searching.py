"""Finding words in a stack: as they were read, and as the doubtful ones might have been meant."""

from collections.abc import Sequence
from typing import NamedTuple

from hollowstack.core.find import Marked, Question, QuestionError, answer_of, question_of
from hollowstack.server.errors import Refused
from hollowstack.server.reading import index
from hollowstack.server.reading.laid import laid_text
from hollowstack.server.reading.queue import shown_pages
from hollowstack.server.stacks.models import Page


class PageHit(NamedTuple):
    """A page that holds all words asked for; ``unsure`` where one of them stands among other readings alone."""

    page: int
    unsure: bool


def pages_with(stack_id: int, asked: str) -> list[PageHit]:
    """Pages of a stack, in their order, that answer a question. Raises Refused where that cannot be asked."""
    match = asked_while_typing(asked).match
    surely = set(matching(stack_id, index.WORDS, match))
    return [PageHit(page, page not in surely) for page in matching(stack_id, index.MEANT, match)]


def marked_on(page: Page, question: Question) -> Sequence[Marked]:
    """The words on a page that answer a question, in reading order."""
    return answer_of(laid_text(page).reading, question).marked


def asked_while_typing(text: str) -> Question:
    """A question each of whose words may be a beginning. Raises Refused where it cannot be asked."""
    try:
        return question_of(text, beginnings=True)
    except QuestionError as error:
        raise Refused(str(error)) from None


def matching(stack_id: int, columns: str, match: str) -> list[int]:
    """Pages of a stack, in their order, whose words match a question in the words of FTS5."""
    there = shown_pages(stack_id)
    # Not joined with the pages: each of them would be asked for its words then.
    found = (page for page in index.pages_with(columns, match) if page in there)
    return sorted(found, key=lambda page: there[page])
