"""Checks of a stack as a whole, and sorting by what is printed."""

import pytest
from django.utils import timezone

from hollowstack.core.ocr.model import Line, Reading, Word, block_of
from hollowstack.core.read.same_text import text_sketch
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.inspection import checking
from hollowstack.server.inspection.checking import check_some
from hollowstack.server.inspection.models import PageFacts
from hollowstack.server.intake import batches
from hollowstack.server.stacks import services
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import order_of
from tests.server.conftest import READ, answer, sha, walk


def numbered(pages: list[Page], *numbers: int | None) -> list[int]:
    """Pages read with these printed numbers."""
    for page, number in zip(pages, numbers, strict=True):
        walked = walk(page, until="render")
        record([Outcome("read", walked.reading_id, {**READ, "numbers": [] if number is None else [number]})])
    return [page.pk for page in pages]


def read_as(text: str) -> Reading:
    words = [Word(text=one, box=(0, 0, 9, 9), confidence=90) for one in text.split()]
    return Reading(language="eng", size_px=(9, 9), blocks=[block_of([Line(words=words, baseline=(0, 9, 9, 9))])])


def findings(client, stack) -> list[dict]:
    """What shows when the pages are seen together."""
    while check_some():
        pass
    return [one for one in answer(client.get(f"/api/v1/stacks/{stack.pk}/findings")) if one["together"]]


def checks(client, stack) -> list[tuple[str, int | None]]:
    return [(one["kind"], one["page"]) for one in findings(client, stack)]


def test_gaps_doubles_and_swaps_are_told_on_their_pages(client, stack, pages):
    ids = numbered(pages(7), 1, 2, 2, 6, 9, 7, 8)
    assert checks(client, stack) == [("sequence", ids[at]) for at in (2, 3, 4)]


def test_each_document_is_numbered_for_itself(client, stack, pages):
    """Whether somebody has said where documents begin, or numbers beginning anew tell."""
    ids = numbered(pages(7), 1, 2, 3, 4, 3, 4, 5)
    assert [check for check, _ in checks(client, stack)] == ["sequence"] * 2
    Arranging(stack.pk, None, Stack.objects.get(pk=stack.pk).change).mark_break([ids[4]], True)
    assert checks(client, stack) == []


def test_numbers_that_begin_anew_are_another_document(client, stack, pages):
    numbered(pages(6), 1, 2, 3, 1, 2, 3)
    assert checks(client, stack) == []


def test_a_double_within_a_later_document_is_named_by_its_place_in_the_stack(client, stack, pages):
    ids = numbered(pages(5), 1, 2, 7, 8, 7)
    hand = Arranging(stack.pk, None, 10**6)
    hand.mark_break([ids[2]], True)
    hand.aside([ids[0]], True)  # its place still counts
    (found,) = findings(client, stack)
    assert (found["kind"], found["page"]) == ("sequence", ids[4])
    assert "on page 3 of the stack too" in found["message"]


def test_sorting_by_printed_number(stack, pages):
    ids = numbered(pages(4), 3, None, 1, 2)
    Arranging(stack.pk, None, Stack.objects.get(pk=stack.pk).change).sort(ids, "number")
    assert order_of(stack.pk) == [ids[2], ids[3], ids[0], ids[1]]


def test_the_same_image_twice(client, stack, pages):
    ids = numbered(pages(3), None, None, None)
    again = batches.add_file(batches.open_batch(stack.pk, None).pk, batches.Coming(0, "again.jpg", f"{2:064x}", 10))
    assert checks(client, stack) == [("same image", again.pk)]
    assert again.pk not in ids


def test_halves_of_a_split_image_are_no_doubles(client, stack, pages):
    ids = numbered(pages(2), None, None)
    Arranging(stack.pk, None, Stack.objects.get(pk=stack.pk).change).split(ids[0], (500, 0), (500, 1400))
    assert checks(client, stack) == []


def test_a_page_unlike_its_fellows(client, stack, pages):
    made = pages(7)
    for page in made[:6]:
        walk(page)
    odd = walk(made[6], size_px=[500, 700], page_quad=[[0, 0], [500, 0], [500, 700], [0, 700]])
    assert checks(client, stack) == [("odd size", odd.pk)]


def test_fewer_images_than_sheets(client, stack):
    batch = batches.open_batch(stack.pk, None, record={"station": "Feeder One", "sheets": 8, "two_sided": False})
    batches.add_file(batch.pk, batches.Coming(0, "page 1.jpg", f"{1:064x}", 10))
    assert checks(client, stack) == [("count", None)]


LIKE, ALMOST, OTHER = "3" * 128, "c" * 4 + "3" * 124, "c" * 128


def test_two_captures_of_one_page(client, stack, pages):
    made = pages(4)
    for page, perceptual_hash in zip(made, (LIKE, OTHER, ALMOST, ""), strict=True):
        walk(page, perceptual_hash=perceptual_hash)
    assert checks(client, stack) == [("recaptured", made[2].pk)]


def sketched(pages: list[Page], *texts: str, bits: str = LIKE) -> None:
    """Pages that look the same, read as these texts."""
    for page, text in zip(pages, texts, strict=True):
        walked = walk(page, until="render", perceptual_hash=bits)
        record([Outcome("read", walked.reading_id, {**READ, "sketch": text_sketch(read_as(text)), "numbers": []})])


def test_alike_pages_with_other_words_are_two_pages(client, stack, pages):
    sketched(
        pages(2),
        "the keeper lit the lamp at sunset and wrote it into the book before he slept " * 2,
        "coal and oil were landed from the tender in the afternoon by the men of the other watch " * 2,
    )
    assert checks(client, stack) == []


def test_alike_pages_with_the_same_words_are_one(client, stack, pages):
    made = pages(2)
    text = "the keeper lit the lamp at sunset and wrote it into the book before he slept and nobody came"
    sketched(made, text, text.replace("sunset", "sunsct"))
    assert checks(client, stack) == [("recaptured", made[1].pk)]


def test_a_size_is_named_where_it_has_a_name(client, stack, pages):
    made = pages(7)
    for page in made[:6]:
        walk(page, size_px=[2480, 3508], page_quad=[[0, 0], [2480, 0], [2480, 3508], [0, 3508]])
    walk(made[6], size_px=[1748, 2480], page_quad=[[0, 0], [1748, 0], [1748, 2480], [0, 2480]])
    (finding,) = findings(client, stack)
    assert finding["message"] == "148 × 210 mm (A5), where most pages of the document are 210 × 297 mm (A4)."


@pytest.mark.parametrize(
    ("count", "size", "found"),
    [
        (6, [1000, 1400], 0), (6, [1120, 1400], 0), (6, [1121, 1400], 1), (6, [881, 1400], 0), (6, [879, 1400], 1),
        (6, [1000, 1568], 0), (6, [1000, 1569], 1), (5, [1000, 1569], 0),
    ],
)  # fmt: skip
def test_a_size_is_odd_from_an_eighth_on_and_among_six_pages(client, stack, pages, count, size, found):
    made = pages(count)
    for page in made[:-1]:
        walk(page)
    walk(made[-1], size_px=size, page_quad=[[0, 0], [size[0], 0], size, [0, size[1]]])
    assert len(checks(client, stack)) == found


@pytest.mark.parametrize(
    ("two_sided", "came", "found"), [(False, 2, 0), (False, 1, 1), (False, 3, 1), (True, 4, 0), (True, 3, 1)]
)
def test_images_are_counted_against_the_sheets_that_were_laid_in(client, stack, two_sided, came, found):
    record_of_load = {"station": "Feeder One", "sheets": 2, "two_sided": two_sided}
    batch = batches.open_batch(stack.pk, None, record=record_of_load)
    for number in range(came):
        batches.add_file(batch.pk, batches.Coming(number, f"page {number}.jpg", f"{number + 1:064x}", 10))
    assert [check for check, _ in checks(client, stack)].count("count") == found


def test_what_somebody_looks_at_is_checked_first_and_nothing_is_passed_over(monkeypatch, user):
    stacks = [services.create_stack(name, user) for name in ("First", "Second", "Third")]
    made = [
        walk(batches.add_file(batches.open_batch(stack.pk, user).pk, batches.Coming(0, f"{at}.jpg", sha(at + 1), 10)))
        for at, stack in enumerate(stacks)
    ]
    Stack.objects.update(opened_at=None)
    monkeypatch.setattr(checking, "AT_ONCE", 1)
    seen: list[int] = []
    monkeypatch.setattr(checking, "_check", lambda page: seen.append(page.stack_id))
    monkeypatch.setattr(checking, "check_together", lambda stack: None)

    def checked(page: Page) -> None:
        PageFacts.objects.filter(page=page).update(checked=page.change)

    def looked_at() -> int:
        checking.check_some()
        return seen[-1]

    Page.objects.update(change=1000)
    made = [Page.objects.get(pk=page.pk) for page in made]
    first, second, third = (stack.pk for stack in stacks)
    checking._last.stack = second
    assert looked_at() == second
    checked(made[1])
    assert looked_at() == third
    checked(made[2])
    assert looked_at() == first, "those before it come when none is left behind it"
    Stack.objects.filter(pk=third).update(opened_at=timezone.now())
    PageFacts.objects.filter(page=made[2]).update(checked=0)
    assert looked_at() == third
    checked(made[2])
    assert looked_at() == first
