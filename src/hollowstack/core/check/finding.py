"""What a check has to say of a page."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

Verdict = Literal["pass", "review", "fail"]


class Finding(BaseModel):
    """``value`` and ``limit`` share a unit, None where there is no figure.

    ``spot`` shows it: left, top, width, height in pixels of the image as captured; None where it is the whole page.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")
    check: str
    verdict: Verdict
    value: float | None
    limit: float | None
    message: str
    spot: tuple[int, int, int, int] | None = None
