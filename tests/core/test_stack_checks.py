"""What shows when pages are seen together: numbers by run, pages there twice, sizes, turns."""

import numpy as np
import pytest

from hollowstack.core.check.runs import numbered_runs
from hollowstack.core.check.stack import Fellow, check_stack
from hollowstack.core.check.twice import Looks, Twice, find_twice
from hollowstack.core.ocr.model import Line, Reading, Word, block_of
from hollowstack.core.read.same_text import resemblance, text_sketch

NONE = Looks("", "", "")
A4, A5 = (210.0, 297.0), (148.0, 210.0)
TEXT = (
    "the keeper lit the lamp at sunset and wrote into the book that the wind had gone round to the north in the night "
    "two ships passed and neither of them greeted while the oil was enough for nine more days and the bread for four"
)


def reading(text: str) -> Reading:
    words = [Word(text=one, box=(0, 0, 9, 9), confidence=90) for one in text.split()]
    return Reading(language="eng", size_px=(9, 9), blocks=[block_of([Line(words=words, baseline=(0, 9, 9, 9))])])


def stack(*numbers: int | None, **more) -> list[Fellow]:
    return [
        Fellow(place, NONE, [] if number is None else [number], A4, 0, **more) for place, number in enumerate(numbers, 1)
    ]


def told(pages: list[Fellow]) -> list[tuple[int, str]]:
    return [(at, finding.check) for at, finding in check_stack(pages)]


@pytest.mark.parametrize(
    ("numbers", "runs"),
    [
        ([1, 2, 3, 1, 2, 3], [[0, 1, 2], [3, 4, 5]]),
        ([1, 2, 3, 157, 158], [[0, 1, 2], [3, 4]]),
        ([1, None, 3, None, None, 6], [[0, 1, 2, 3, 4, 5]]),
        ([None, 4, 5, None], [[1, 2]]),
        ([1, 2, 4, 5], [[0, 1, 2, 3]]),
        ([1, 2, 9, 10], [[0, 1, 2, 3]]),
        ([1, 2, 10, 11], [[0, 1], [2, 3]]),
        ([2, 1, 3, 4], [[0, 1, 2, 3]]),
        ([7, 8, 9, 1, 2], [[0, 1, 2], [3, 4]]),
        ([4, 5, -9_996, -9_995], [[0, 1], [2, 3]]),
        ([], []),
    ],
)
def test_numbers_that_begin_anew_begin_another_run(numbers, runs):
    assert [list(run) for run in numbered_runs(numbers)] == runs


def test_a_number_that_fits_nothing_was_misread():
    (run,) = numbered_runs([72, 73, 74, 110, 76, 77])
    assert list(run.values()) == [72, 73, 74, None, 76, 77]
    assert told(stack(72, 73, 74, 110, 76, 77)) == []


def test_no_run_goes_on_over_the_beginning_of_a_document():
    starts = [True, False, False, True, False]
    assert [list(run) for run in numbered_runs([1, 2, 3, 4, 5], starts)] == [[0, 1, 2], [3, 4]]


@pytest.mark.parametrize(
    ("numbers", "where"),
    [
        ([1, 2, 4, 5, 1, 2, 3], [2]),  # one is missing
        ([5, 6, 6, 7, 1, 2, 3], [2]),  # there twice
        ([5, 7, 6, 8, 9, 1, 2], [1]),  # out of place
        ([1, 2, None, 4, 5], []),
    ],
)
def test_numbers_are_told_within_their_run(numbers, where):
    assert told(stack(*numbers)) == [(at, "sequence") for at in where]


def test_sizes_are_compared_within_what_is_numbered_through():
    """Cards behind a report are none of its pages."""
    report = [Fellow(place, NONE, [place], A5 if place == 4 else A4, 0) for place in range(1, 9)]
    cards = [Fellow(place, NONE, [], (127.0, 76.0), 0) for place in range(9, 15)]
    assert told([*report, *cards]) == [(3, "odd size")]


def test_a_page_unlike_those_around_it_is_told_without_numbers():
    pages = [Fellow(place, NONE, [], A5 if place == 4 else A4, 0) for place in range(1, 8)]
    assert told(pages) == [(3, "odd size")]
    # Where documents are known, they say what is usual: a document of one page is not odd.
    known = [page._replace(starts=page.place in (1, 4, 5)) for page in pages]
    assert told(known) == []


@pytest.mark.parametrize(("around", "said"), [([0] * 4, False), ([0] * 3, True), ([0, 0, 0, 0, 180], True)])
def test_a_page_without_a_way_up_goes_by_its_fellows(around, said):
    pages = [Fellow(1, NONE, [], A4, None, asks_turn=True)]
    pages += [Fellow(place, NONE, [], A4, turn) for place, turn in enumerate(around, 2)]
    assert (told(pages) == [(0, "orientation")]) is said


def test_fellows_far_away_say_nothing_of_a_turn():
    pages = [Fellow(1, NONE, [], A4, None, asks_turn=True), *(Fellow(2 + at, NONE, [], A4, None) for at in range(12))]
    assert told([*pages, *stack(*[None] * 6)]) == [(0, "orientation")]


BITS = "f" * 128
"""512 bits, all of them set."""


def apart(bits: int) -> str:
    return f"{int(BITS, 16) ^ ((1 << bits) - 1):0128x}"


@pytest.mark.parametrize(
    ("bits", "one", "other", "twice"),
    [
        (0, TEXT, TEXT, True),
        (133, TEXT, TEXT, True),  # 26 of 100 bits
        (134, TEXT, TEXT, False),
        (0, TEXT, " ".join(reversed(TEXT.split())), False),
        (0, TEXT, "", False),
        (61, "", "", True),  # 12 of 100 bits, and no text to compare
        (62, "", "", False),
    ],
)
def test_two_captures_look_alike_and_read_alike(bits, one, other, twice):
    pages = [Looks("a:0", BITS, text_sketch(reading(one))), Looks("b:0", apart(bits), text_sketch(reading(other)))]
    assert bool(find_twice(pages)) is twice


@pytest.mark.parametrize(
    ("one", "other", "twice"),
    [
        (range(40), range(40), True),
        (range(40), range(13, 53), True),  # 26 of 53
        (range(40), range(14, 54), False),  # 28 of 54
        (range(40), range(40, 80), False),
        (range(40), (), False),
        ((), (), False),
    ],
)
def test_paper_without_anything_on_it_makes_no_two_pages_alike(one, other, twice):
    """Hashes of two short notices have few bits set, and are alike in all others."""
    pages = [Looks(f"{at}:0", hashed(bits), "") for at, bits in enumerate((one, other))]
    assert bool(find_twice(pages)) is twice


def hashed(bits) -> str:
    return f"{sum(1 << bit for bit in bits):0128x}"


def test_the_same_image_is_told_once():
    looks = Looks("a:0", BITS, text_sketch(reading(TEXT)))
    assert find_twice([looks, looks._replace(image="b:0", bits=apart(400)), looks]) == [Twice(2, 0, "same image", None)]
    assert find_twice([NONE, NONE]) == []


@pytest.mark.parametrize(("wrong", "least"), [(0, 1.0), (4, 0.5), (8, 0.3)])
def test_a_text_with_errors_is_still_known(wrong, least):
    words = TEXT.split()
    for at in np.linspace(2, len(words) - 3, wrong).astype(int):
        words[at] = f"x{words[at]}"
    assert resemblance(text_sketch(reading(TEXT)), [text_sketch(reading(" ".join(words)))])[0] >= least


def test_another_text_is_another():
    other = " ".join(f"{word}s" for word in TEXT.split())
    assert resemblance(text_sketch(reading(TEXT)), [text_sketch(reading(other))])[0] < 0.1


@pytest.mark.parametrize(("words", "empty"), [(11, True), (12, False)])
def test_a_few_words_have_no_sketch(words, empty):
    assert (text_sketch(reading(" ".join(TEXT.split()[:words]))) == "") is empty


def test_signs_and_capitals_are_no_difference():
    assert text_sketch(reading(TEXT)) == text_sketch(reading(TEXT.upper().replace(" ", ", ")))


def test_a_number_misread_in_one_figure_is_no_second_page():
    assert told(stack(134, 135, 136, 137, 135, 139, 140)) == []


@pytest.mark.parametrize("numbers", [(134, 135, 136, 137, 157, 139), (134, 135, 136, 137, 131, 140), (5, 6, 7, 8, 5, 10)])
def test_nor_is_one_put_right_where_its_neighbours_do_not_say_it(numbers):
    """138 and 157 differ in two figures, and a number that fits nothing is told by nobody; others are told."""
    fits = numbers == (134, 135, 136, 137, 157, 139)
    assert (told(stack(*numbers)) == []) == fits


def test_a_leaf_between_two_documents_is_not_odd():
    pages = [*stack(10, 11, 12, 13), *stack(None), *stack(None, 2, 3, 4)]
    pages = [one._replace(place=at + 1, size_mm=A4 if at == 4 else A5) for at, one in enumerate(pages)]
    assert told(pages) == []
    goes_on = [one._replace(numbers=[14 + at - 4] if at > 4 else one.numbers) for at, one in enumerate(pages)]
    assert (4, "odd size") in told(goes_on)


@pytest.mark.parametrize(("number", "asked"), [(62, False), (26, True), (None, True)])
def test_a_number_that_goes_on_was_read_upright(number, asked):
    pages = [one._replace(turn=90) for one in stack(60, 61, number, 63, 64)]
    pages[2] = pages[2]._replace(turn=None, asks_turn=True)
    assert ((2, "orientation") in told(pages)) == asked
