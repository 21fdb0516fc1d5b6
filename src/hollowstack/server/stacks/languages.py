"""What pages are read in, said for the page, its stack or by the treatment, and what they seem to be written in."""

from collections import Counter
from collections.abc import Iterable

from pydantic import BaseModel

from hollowstack.core.ocr.model import Guess
from hollowstack.core.ocr.models import SHIPPED, by_thorough_models, how_it_is_had, models
from hollowstack.core.read.languages import language_name
from hollowstack.core.read.proposing import worth_saying
from hollowstack.server.stacks.models import Page, Stack


class Proposal(BaseModel):
    """A language that pages seem to be written in, and are not read in."""

    language: str
    name: str
    script: str
    """By ISO 15924."""
    pages: list[int]
    sure: float
    """On the page of which it is least sure, 0 to 1."""
    there: bool
    """Whether there is a model to read it."""
    missing: str
    """How the model is had, as the end of a sentence; empty where it is there."""


def said_for(page: Page, stack: Stack) -> str:
    """The languages that a page is to be read in, as eng+deu, whichever models read them."""
    return page.language or language_of_stack(stack)


def language_of_stack(stack: Stack) -> str:
    """The languages of pages that have none of their own."""
    return stack.language or stack.treatment.get("languages", SHIPPED)


def language_of(page: Page, stack: Stack) -> str:
    """The models that read a page, as the engine names them."""
    said = said_for(page, stack)
    return by_thorough_models(said) if stack.treatment.get("models") == "thorough" else said


def most_common(pages: Iterable[Page], stack: Stack) -> str:
    """What most of some pages are read in; what the stack is where there are none."""
    counted = Counter(said_for(page, stack) for page in pages)
    return counted.most_common(1)[0][0] if counted else language_of_stack(stack)


def proposals(pages: Iterable[Page], stack: Stack) -> list[Proposal]:
    """What pages seem to be written in and are not read in, the one of most pages first; pages come with their readings."""
    there = {model.code for model in models()}
    found: dict[str, list[tuple[Page, Guess]]] = {}
    for page in pages:
        guess = guess_on(page)
        if guess is not None and worth_saying(guess, said_for(page, stack)):
            found.setdefault(guess.language, []).append((page, guess))
    return [
        Proposal(
            language=language,
            name=language_name(language),
            script=pairs[0][1].script,
            pages=[page.pk for page, _ in pairs],
            sure=min(guess.sure for _, guess in pairs),
            there=language in there,
            missing="" if language in there else how_it_is_had(language),
        )
        for language, pairs in sorted(found.items(), key=lambda one: -len(one[1]))
    ]


def guess_on(page: Page) -> Guess | None:
    """In what a page seems to be written; None where nothing tells, or it is not read."""
    told = (page.reading.body or {}).get("guess") if page.reading is not None and not page.aside else None
    return Guess.model_validate(told) if told else None
