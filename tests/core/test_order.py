"""The order of pages: worked examples by hand, and properties for any count and any order."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.arrange import order
from hollowstack.core.page.errors import OrderError

TEN = list(range(1, 11))


@pytest.mark.parametrize(
    ("chosen", "after", "expected"),
    [
        ([2, 3], 7, [1, 4, 5, 6, 7, 2, 3, 8, 9, 10]),
        ([7, 3], None, [3, 7, 1, 2, 4, 5, 6, 8, 9, 10]),
        ([1], 10, [2, 3, 4, 5, 6, 7, 8, 9, 10, 1]),
        ([4, 5], 5, TEN),
        ([], 3, TEN),
    ],
)
def test_moving(chosen, after, expected):
    assert order.moved(TEN, chosen, after) == expected


def test_moving_behind_a_page_that_is_gone():
    with pytest.raises(OrderError, match="no longer there"):
        order.moved(TEN, [1], 99)


@given(st.permutations(TEN), st.sets(st.sampled_from(TEN)), st.one_of(st.none(), st.sampled_from(TEN)))
def test_moving_loses_and_doubles_none(pages, chosen, after):
    result = order.moved(pages, chosen, after)
    assert sorted(result) == TEN
    assert [p for p in result if p not in chosen] == [p for p in pages if p not in chosen]
    kept = [i for i, p in enumerate(result) if p in chosen]
    assert kept == list(range(kept[0], kept[0] + len(kept))) if kept else True


@given(st.permutations(TEN), st.permutations(TEN))
def test_a_difference_put_back_into_its_places_is_the_other_order(before, after):
    old, new = order.difference(before, after)
    assert order.refilled(before, new) == after
    assert order.refilled(after, old) == before


def test_eight_sheets_through_a_one_sided_feeder():
    """FIELD.md's own example: fronts 1, 3 … 15, backs arriving as 16, 14 … 2."""
    fronts, backs = list(range(1, 16, 2)), list(range(16, 0, -2))
    assert order.interleaved(fronts, backs, order.leaves(8, 8)) == list(range(1, 17))


def test_a_mixed_bundle():
    """Five sheets of which the second and the fifth have a back (worked by hand)."""
    sheets = order.leaves(5, 2, single={0, 2, 3})
    assert sheets == [(0, None), (1, 1), (2, None), (3, None), (4, 0)]
    assert order.interleaved("abcde", "EB", sheets) == list("abBcdeE")


@pytest.mark.parametrize(
    ("fronts", "backs", "single", "says"),
    [
        (8, 7, (), "mark the sheet that has no back"),
        (8, 5, (), "mark the 3 sheets that have no back"),
        (8, 8, (3,), "take the mark off 1 of them"),
        (7, 8, (), "1 too many"),
    ],
)
def test_wrong_counts_are_explained(fronts, backs, single, says):
    with pytest.raises(OrderError, match=says):
        order.leaves(fronts, backs, single=single)


@given(st.integers(0, 60), st.data(), st.booleans())
def test_any_bundle_comes_back_right(sheets, data, reverse):
    single = data.draw(st.sets(st.integers(0, sheets - 1))) if sheets else set()
    right = [(sheet, side) for sheet in range(sheets) for side in "ab" if side == "a" or sheet not in single]
    fronts = [page for page in right if page[1] == "a"]
    backs = [page for page in right if page[1] == "b"]
    arrived = backs[::-1] if reverse else backs
    found = order.leaves(len(fronts), len(backs), single=single, reverse=reverse)
    assert order.interleaved(fronts, arrived, found) == right


@given(st.lists(st.integers(), unique=True))
def test_dealing_is_undone_by_weaving(pages):
    assert order.interleaved_halves(order.deinterleaved(pages), reverse=False) == pages


def test_weaving_an_odd_number_from_behind():
    assert order.interleaved_halves([1, 3, 5, 4, 2], reverse=True) == [1, 2, 3, 4, 5]


def test_sorting_by_printed_numbers_takes_unnumbered_pages_along():
    numbers = {"c": 3, "a": 1, "b": 2, "x": None}
    assert order.by_number(["c", "x", "a", "b"], numbers) == ["a", "b", "c", "x"]
    assert order.by_number(["x", "b", "a"], numbers) == ["x", "a", "b"]


@pytest.mark.parametrize(
    ("pages", "after", "starts"),
    [
        ("k k k", "separator sheets", [0]),
        ("k s k", "separator sheets", [0, 2]),
        ("s k k s s k", "separator sheets", [1, 5]),
        ("k s b k b k", "separator sheets", [0, 3]),
        ("k c k", "separator sheets", [0, 2]),
        ("k b k b b k", "blank pages", [0, 2, 5]),
        ("k b k b b k", "blank sheets", [0, 5]),
        ("k B k", "separator sheets", [0, 1]),
        ("k h k H k", "separator sheets", [0, 4]),
        ("k k k", 1, [0, 1, 2]),
        ("k k k k k", 2, [0, 2, 4]),
        ("k b k h k k", 2, [0, 4]),
        ("k K k k", 2, [0, 1, 3]),
        ("k k s k k k", 3, [0, 3]),
        ("k s k k k", 2, [0, 2, 4]),
        ("b b b", "blank sheets", []),
        ("", "blank sheets", []),
    ],
    ids=str,
)
def test_where_documents_begin(pages, after, starts):
    """k kept, s separator, c cover sheet, b blank, h held by hand; a capital letter has a break before it."""
    reasons = {"k": "", "s": "separator", "c": "cover sheet", "b": "blank", "h": "by hand"}
    rows = [(sign.isupper(), reasons["k" if sign == "B" else sign.lower()]) for sign in pages.split()]
    rule = order.DocumentRule(after) if isinstance(after, str) else order.DocumentRule("number of pages", after)
    assert order.document_starts(rows, rule) == starts
