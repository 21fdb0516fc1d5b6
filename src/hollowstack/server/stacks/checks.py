"""Checks of a stack as a whole: whether pages are missing, twice there, out of place, or unlike their fellows.

What goes by order and size is told within documents: each has numbers and sizes of its own.
"""

from typing import Any

from pydantic import BaseModel

from hollowstack.core.check.sequence import check_sequence
from hollowstack.core.check.sizes import odd_sizes
from hollowstack.core.measure.content.perceptual_hash import alike
from hollowstack.core.page.paper_sizes import nearest_size
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import numbers_of, starts_of, with_results
from hollowstack.server.stacks.services import treatment_of

_WORDS_APART = 0.15
"""Two captures of one page differ by no more than this share of their words."""


class StackFinding(BaseModel):
    """What a check has to say; ``page`` is where it shows, None where it concerns the stack."""

    check: str
    page: int | None
    message: str


def checks_of(stack: Stack) -> list[StackFinding]:
    """All that is worth a look, the stack's own findings first, then page by page."""
    pages = list(with_results(stack.pages.filter(removed=False)))
    kept = [page for page in pages if not page.aside]
    place = {page.pk: number for number, page in enumerate(pages, 1)}
    found = _doubles(pages) + _alike(kept, place)
    for document in _documents(stack, pages):
        found += _out_of_sequence(document, place) + _odd_sizes(document)
    found += _damaged(pages)
    return [*_counts(stack), *sorted(found, key=lambda one: place[one.page or 0])]


def _damaged(pages: list[Page]) -> list[StackFinding]:
    """Files found to be damaged when they were last read."""
    message = "The file of this page is damaged on the disk: add the same file again, and it is put right."
    return [
        StackFinding(check="storage", page=page.pk, message=message)
        for page in pages
        if page.source.master.damaged_at is not None
    ]


def _counts(stack: Stack) -> list[StackFinding]:
    """Batches whose number of sheets was given, against what came."""
    found = []
    for batch in stack.batches.filter(taken_back=False):
        if not (sheets := batch.record.get("sheets")):
            continue
        expected = sheets * (2 if batch.record.get("two_sided") else 1)
        came = batch.sources.count()
        if came != expected:
            message = (
                f"{came} images came from {batch.record['station']} where {sheets} sheets should have given {expected}."
            )
            found.append(StackFinding(check="count", page=None, message=message))
    return found


def _doubles(pages: list[Page]) -> list[StackFinding]:
    """The same bytes twice: a file taken in again."""
    seen: dict[tuple[str, int, str], int] = {}
    found = []
    for number, page in enumerate(pages, 1):
        # The two halves of a split image share their bytes and are not doubles.
        key = (page.source.master_id, page.frame, str(page.override.get("split")))
        if key in seen:
            message = f"The same image is on page {seen[key]} too: hold one of them aside."
            found.append(StackFinding(check="same image", page=page.pk, message=message))
        seen.setdefault(key, number)
    return found


def _alike(pages: list[Page], place: dict[int, int]) -> list[StackFinding]:
    """Two captures of what seems to be the same page: alike in looks, and in how many words were read."""
    hashes = [_perceptual_hash(page) for page in pages]
    found = []
    for first, second, _ in alike(hashes):
        one, other = pages[first], pages[second]
        if (one.source.master_id, one.frame) == (other.source.master_id, other.frame):
            continue  # the same image, or the halves of one
        words = [page.reading.body["words"] for page in (one, other) if page.reading is not None and page.reading.body]
        if len(words) == 2 and abs(words[0] - words[1]) > 5 + _WORDS_APART * max(words):
            continue
        message = f"It looks like page {place[one.pk]}, recaptured: hold one of them aside."
        found.append(StackFinding(check="alike", page=other.pk, message=message))
    return found


def _perceptual_hash(page: Page) -> str:
    body = page.measured.body if page.measured is not None else None
    # The halves of a split image are measured as one.
    return str(body["measurements"].get("perceptual_hash", "")) if body and "split" not in page.override else ""


def _documents(stack: Stack, pages: list[Page]) -> list[list[Page]]:
    """The pages of each document, without those aside."""
    starts = starts_of(pages, treatment_of(stack).documents)
    found: list[list[Page]] = []
    for page in pages:
        if not found or page.pk in starts:
            found.append([])
        if not page.aside:
            found[-1].append(page)
    return [document for document in found if document]


def _out_of_sequence(pages: list[Page], place: dict[int, int]) -> list[StackFinding]:
    """Each document is numbered for itself."""
    numbers = numbers_of(pages)
    return [
        StackFinding(check=one.kind, page=pages[one.at].pk, message=one.message)
        for one in check_sequence([numbers[page.pk] for page in pages], [place[page.pk] for page in pages])
    ]


def _odd_sizes(pages: list[Page]) -> list[StackFinding]:
    planned = [page for page in pages if page.plan]
    sizes = [_size_mm(page) for page in planned]
    return [
        StackFinding(
            check="odd size",
            page=planned[one.at].pk,
            message=f"{_named(*sizes[one.at])}, where most pages of the document are {_named(*one.usual)}.",
        )
        for one in odd_sizes(sizes)
    ]


def _named(width: float, height: float) -> str:
    size = nearest_size(width, height)
    return f"{width:.0f} × {height:.0f} mm" + (f" ({size.name})" if size else "")


def _size_mm(page: Page) -> tuple[float, float]:
    plan: dict[str, Any] = page.plan or {}
    (width, height), ppi = plan["size_px"], plan["ppi"]
    return width / ppi[0] * 25.4, height / ppi[1] * 25.4
