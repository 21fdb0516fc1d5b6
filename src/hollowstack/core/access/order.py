"""How an access copy is to be made; plain data, which tells one copy from another."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from hollowstack.core.bind import Bookmark
from hollowstack.core.bind.description import Described

Place = Literal["across", "head", "foot"]


class Watermark(BaseModel):
    """Words over every page, in its pixels; ``strength`` is how far they darken the paper, 0 to 1."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    text: Annotated[str, Field(max_length=120)] = ""
    place: Place = "across"
    strength: Annotated[float, Field(ge=0.05, le=0.8)] = 0.2


class AccessOrder(BaseModel):
    """An access copy of a document, whose pages are given apart. Passwords are never part of it."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    title: str
    created: datetime
    language: str = "en"
    described: Described = {}
    labels: tuple[str, ...] = ()
    """Of the pages that it has: the ones they have in the document."""
    left_out: tuple[str, ...] = ()
    """Labels of the pages that it has not."""
    parts: tuple[Bookmark, ...] = ()
    mark_headings: bool = False
    ppi: Annotated[int, Field(ge=50, le=1200)] | None = 150
    """The most that images have; None for as they are bound."""
    watermark: Watermark = Watermark()
    printing: bool = True
    copying: bool = True
