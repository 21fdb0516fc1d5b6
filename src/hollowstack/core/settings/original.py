"""Where the papers of a stack are, and what is to become of them once they are captured."""

from datetime import date
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

After = Literal["", "back", "kept", "destroyed"]


def _trimmed(words: str) -> str:
    return " ".join(words.split())


Line = Annotated[str, AfterValidator(_trimmed), Field(max_length=80)]


class Original(BaseModel):
    """Where papers are, and what is to become of them; empty where nobody has said.

    Source:
        What an archive writes on a box (common practice, no source).
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    year: Line = ""
    """When they were written, as people say it: "1927", "about 1930"."""
    box: Line = ""
    shelf: Line = ""
    position: Line = ""
    """Where in the box: a folder, a number."""
    after: After = ""
    """Back to its place, kept until a day, or destroyed once the stack is signed off."""
    until: date | None = None
    """The day until which they are kept."""
    by: Line = ""
    """Who sees to it."""
