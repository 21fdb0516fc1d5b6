"""What an order slip asks before the first sheet, and what was said."""

from dataclasses import dataclass, field
from typing import Literal

from hollowstack.core.settings.original import Original
from hollowstack.server.capture.models import OrderSlip
from hollowstack.server.errors import Refused

Asked = Literal["title", "year", "box", "shelf", "position", "after"]
ASKED: dict[Asked, str] = {
    "title": "the title", "year": "the year", "box": "the box", "shelf": "the shelf", "position": "the place in the box",
    "after": "what becomes of the paper",
}  # fmt: skip
"""In the order in which it is asked, in words."""


@dataclass(frozen=True)
class Answers:
    """What was said when a slip asked; what it did not ask for is not listened to."""

    title: str = ""
    original: Original = field(default_factory=Original)


NOTHING_SAID = Answers()


def original_of(slip: OrderSlip, answers: Answers) -> Original:
    """Where the papers are and what becomes of them: what the slip always says, and what was answered."""
    told = answers.original.model_dump()
    # Whoever says what becomes of the paper says until when, and by whom.
    asked = [*slip.asks, *(("until", "by") if "after" in slip.asks else ())]
    return Original.model_validate({**slip.original, **{name: told[name] for name in asked if name in told}})


def require_answers(slip: OrderSlip, answers: Answers) -> None:
    """Raises Refused where something that a slip asks for was not said."""
    said = {**answers.original.model_dump(), "title": answers.title.strip()}
    missing = [ASKED[name] for name in slip.asks if not said.get(name)]
    if missing:
        raise Refused(f"Before the first sheet this order slip asks for {_listed(missing)}: say it, then start again.")


def _listed(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
