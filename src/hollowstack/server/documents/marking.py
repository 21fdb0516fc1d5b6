"""Marks of access copies, kept by their place on the image as captured: they hold whatever is cropped or levelled."""

from collections.abc import Iterable, Mapping, Sequence
from typing import Annotated

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from hollowstack.core.access import Mark, MarkKind
from hollowstack.core.page.geometry import Quad
from hollowstack.server.errors import Refused
from hollowstack.server.reading.laid import ground_of
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import plan_done, with_results

MOST_MARKS = 500
"""On one page."""


_Id = Annotated[str, Field(pattern="^[a-z0-9-]{6,40}$")]


class NamedMark(Mark):
    """A mark on a page as it is now, known by its name."""

    id: _Id


class MarkChange(BaseModel):
    """What is done to the marks of one page: some put there, or anew in their place, some taken away; the others stay."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    put: tuple[NamedMark, ...] = ()
    gone: tuple[_Id, ...] = ()


class KeptMark(BaseModel):
    """A mark as it is kept."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    id: _Id
    kind: MarkKind
    image: str
    """Which image its place is on (``reading.laid.image_of``)."""
    corners: tuple[tuple[float, float], tuple[float, float], tuple[float, float], tuple[float, float]]
    text: str = ""


def kept_marks(stack_id: int, said: Mapping[int, MarkChange]) -> dict[int, list[KeptMark]]:
    """The marks that are put on pages, as they are kept.

    Raises:
        Refused: A page is not of the stack, or not corrected yet.
    """
    pages = {page.pk: page for page in _pages(stack_id, said)}
    if set(said) - set(pages):
        raise Refused("A page that is to be marked is not of this stack, or not corrected yet: wait a moment.")
    return {number: [_kept(pages[number], mark) for mark in change.put] for number, change in said.items()}


def changed_marks(before: Sequence[KeptMark], put: Sequence[KeptMark], gone: Iterable[str]) -> list[KeptMark]:
    """The marks of a page after a change. Raises Refused where there would be too many."""
    by_name = {one.id: one for one in before} | {one.id: one for one in put}
    kept = [one for name, one in by_name.items() if name not in set(gone)]
    if len(kept) > MOST_MARKS:
        raise Refused(f"There would be {len(kept)} marks on one page; the most is {MOST_MARKS}.")
    return kept


def shown_marks(stack_id: int, kept: Mapping[int, Sequence[KeptMark]]) -> dict[int, list[NamedMark]]:
    """Marks where they lie on the clean pages as these are now, but for what lies beyond a page or on another image."""
    return {page.pk: marks_on(page, kept[page.pk]) for page in _pages(stack_id, kept)}


def marks_on(page: Page, kept: Iterable[KeptMark]) -> list[NamedMark]:
    """The marks of one page; their boxes hold all of what was marked, though the page may lie otherwise now."""
    ground, (width, height) = ground_of(page), (plan_done(page) or {})["size_px"]
    found = []
    for one in kept:
        if one.image != ground.image:
            continue
        corners = ground.onto.apply(one.corners) / (width, height)
        (left, top), (right, bottom) = np.clip(corners.min(axis=0), 0, 1), np.clip(corners.max(axis=0), 0, 1)
        if left < right and top < bottom:
            box = (float(left), float(top), float(right), float(bottom))
            found.append(NamedMark(id=one.id, kind=one.kind, box=box, text=one.text))
    return found


def out_of_date(page: Page, kept: Iterable[KeptMark]) -> bool:
    """Whether something was covered on another image of the page: nobody knows where that lies on this one."""
    image = ground_of(page).image
    return any(one.kind == "cover" and one.image != image for one in kept)


def _kept(page: Page, mark: NamedMark) -> KeptMark:
    ground, size = ground_of(page), (plan_done(page) or {})["size_px"]
    corners = ground.onto.inverse().apply(Quad.rectangle(*mark.on(size)).array())
    one, two, three, four = ((float(x), float(y)) for x, y in corners)
    return KeptMark(id=mark.id, kind=mark.kind, image=ground.image, corners=(one, two, three, four), text=mark.text)


def _pages(stack_id: int, named: Iterable[int]) -> list[Page]:
    chosen = Page.objects.filter(stack_id=stack_id, removed=False, pk__in=list(named))
    return [page for page in with_results(chosen).select_related("source") if plan_done(page) is not None]
