"""Marks on the pages of an access copy."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

MarkKind = Literal["cover", "highlight", "frame", "note"]
"""``cover``: what lies under it is gone from the copy. The others are annotations that lie apart from the page."""

_Share = Annotated[float, Field(ge=0, le=1)]
MOST_NOTE = 2000


class Mark(BaseModel):
    """A rectangle on a page, and what is said of it."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    kind: MarkKind
    box: tuple[_Share, _Share, _Share, _Share]
    """Left, top, right, bottom, as shares of the page's width and height."""
    text: Annotated[str, Field(max_length=MOST_NOTE)] = ""

    @model_validator(mode="after")
    def _has_a_size(self) -> "Mark":
        if self.box[0] >= self.box[2] or self.box[1] >= self.box[3]:
            raise ValueError("A mark has its left side left of its right one, and its top above its foot.")
        return self

    def on(self, size: tuple[float, float]) -> tuple[float, float, float, float]:
        """The rectangle on a page of that width and height, in the same units."""
        left, top, right, bottom = self.box
        return left * size[0], top * size[1], right * size[0], bottom * size[1]
