"""What a check has to say of a page."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

Verdict = Literal["pass", "review", "fail"]
Check = Literal[
    "cut off", "corner", "touched", "object", "streak", "sharpness", "contrast", "even light", "show-through", "grain",
    "letter size", "resolution", "light", "corners", "glare", "facing pages", "blank", "storage", "orientation",
    "tilt", "page edges", "border", "content", "failed", "inspected", "reading", "language", "sequence", "same image",
    "recaptured", "odd size", "count", "new image", "askew", "borders left", "colour lost", "colour invented", "clipped",
    "unread", "lost words",
]  # fmt: skip
"""What is looked for; each is told of in ``check.kinds``."""


class Finding(BaseModel):
    """``value`` and ``limit`` share a unit, None where there is no figure.

    ``spot`` shows it: left, top, width, height in pixels of the image as captured; None where it is the whole page.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")
    check: Check
    verdict: Verdict
    value: float | None
    limit: float | None
    message: str
    spot: tuple[int, int, int, int] | None = None


def at_least(check: Check, value: float | None, limit: float, *, good: str, bad: str) -> Finding:
    """What a check says of a value that must reach a limit; one that is not known does not."""
    passed = value is not None and value >= limit
    message = good if passed else bad
    return Finding(check=check, verdict="pass" if passed else "review", value=value, limit=limit, message=message)
