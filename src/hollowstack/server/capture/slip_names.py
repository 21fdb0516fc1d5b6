"""What the stacks of an order slip are called; what is bound in them is called the same."""

from collections.abc import Sequence

from django.utils import timezone

from hollowstack.core.page.name_patterns import Named, PatternError, check_placeholders, line_of
from hollowstack.core.settings.original import Original
from hollowstack.server.capture.answers import ASKED, Answers, Asked, original_of
from hollowstack.server.capture.models import OrderSlip
from hollowstack.server.errors import Refused
from hollowstack.server.names import MOST_NAME

_FILLED_IN = ("title", "written", "box", "shelf", "position", "counter", "date", "year", "month", "day", "time")
"""What is known of a stack before it has a page."""
_SHOWN = 3


def naming_of(naming: str, slip_name: str, asks: Sequence[Asked]) -> str:
    """The pattern that a slip names by: as it was written, or one that fits.

    Raises:
        Refused: It fills in what is not known of a stack before it has a page.
    """
    pattern = naming or ("{title}" if "title" in asks else f"{slip_name} {{date}} {{counter}}")
    try:
        check_placeholders(pattern, _FILLED_IN)
    except PatternError as error:
        raise Refused(str(error)) from None
    return pattern


def title_of(slip: OrderSlip, answers: Answers) -> str:
    """What the next stack of a slip is called: by its naming, or as it was answered where the naming leaves no room."""
    title = " ".join(answers.title.split()) if "title" in slip.asks else ""
    return _called(slip.naming, slip.name, title, original_of(slip, answers), slip.used + 1)


def next_names(naming: str, slip_name: str, asks: Sequence[Asked], original: Original, used: int) -> list[str]:
    """What the next stacks of a slip would be called, with what is asked for in ‹marks›. Raises Refused as ``naming_of``."""
    pattern = naming_of(naming, slip_name, asks)
    answered: dict[str, str] = {one: f"‹{words}›" for one, words in ASKED.items() if one in asks and one != "after"}
    title = answered.pop("title", "")
    told = original.model_copy(update=answered)
    return [_called(pattern, slip_name, title, told, used + number) for number in range(1, _SHOWN + 1)]


def _called(naming: str, slip_name: str, title: str, original: Original, counter: int) -> str:
    known = Named(
        title=title, stack=slip_name, created=timezone.localtime(), counter=counter, date=original.year,
        box=original.box, shelf=original.shelf, position=original.position,
    )  # fmt: skip
    pattern = "{title}" if title and "{title}" not in naming else naming
    return line_of(pattern, known)[:MOST_NAME] or slip_name
