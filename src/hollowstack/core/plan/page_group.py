"""What the pages of a stack have in common: one size, and where the text stands on a recto and on a verso."""

from collections.abc import Sequence
from typing import Literal, NamedTuple

import numpy as np
from pydantic import BaseModel, ConfigDict

_LIKE = 0.06
"""Share by which the sides of a page may differ from its fellows'; a plate that folds out differs by more."""
_FEWEST = 3

Leaf = Literal["recto", "verso"]


class PageShape(NamedTuple):
    """A page as it was found: its sides, and its text's left and top edge from its own; None where nothing is written."""

    leaf: Leaf
    width_mm: float
    height_mm: float
    text_left_mm: float | None
    text_top_mm: float | None


class PageGroup(BaseModel):
    """The common size of pages, and where their text begins."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    width_mm: float
    height_mm: float
    text_left_mm: float
    text_top_mm: float

    def like(self, width_mm: float, height_mm: float) -> bool:
        """Whether a page is one of them."""
        return abs(width_mm / self.width_mm - 1) <= _LIKE and abs(height_mm / self.height_mm - 1) <= _LIKE


def find_page_groups(pages: Sequence[PageShape]) -> dict[Leaf, PageGroup]:
    """The common shape of a stack's pages: medians over those of the commonest size; empty for fewer than three pages.

    Args:
        pages: As found, without their size made uniform.
    """
    if len(pages) < _FEWEST:
        return {}
    sides = np.array([(page.width_mm, page.height_mm) for page in pages])
    middle = np.median(sides, axis=0)
    near = np.all(np.abs(sides / middle - 1) <= _LIKE, axis=1)
    if near.sum() < _FEWEST:
        return {}
    width, height = (round(float(v), 1) for v in np.median(sides[near], axis=0))
    chosen = [page for page, is_near in zip(pages, near, strict=True) if is_near]
    leaves: tuple[Leaf, ...] = ("recto", "verso")
    return {
        leaf: PageGroup(width_mm=width, height_mm=height, **_text([page for page in chosen if page.leaf == leaf] or chosen))
        for leaf in leaves
    }


def _text(pages: Sequence[PageShape]) -> dict[str, float]:
    written = np.array([(p.text_left_mm, p.text_top_mm) for p in pages if p.text_left_mm is not None], dtype=float)
    left, top = np.median(written, axis=0) if len(written) else (0.0, 0.0)
    return {"text_left_mm": round(float(left), 1), "text_top_mm": round(float(top), 1)}
