"""Odd sizes: told among pages of a kind, and of nothing that is a kind of its own."""

import pytest

from hollowstack.core.check.sizes import OddSize, odd_between, odd_sizes

A4, A5, CARD = (210.0, 297.0), (148.0, 210.0), (127.0, 76.0)


def test_one_page_unlike_its_fellows():
    assert odd_sizes([A4, A4, A5, A4, A4, A4]) == [OddSize(2, A4)]


@pytest.mark.parametrize(("fellows", "told"), [(4, []), (5, [5])])
def test_of_a_few_pages_nobody_can_say_what_is_usual(fellows, told):
    assert [one.at for one in odd_sizes([A4] * fellows + [A5])] == told


def test_a_mixed_box_has_no_odd_sizes():
    box = [A4] * 8 + [A5] * 4 + [CARD] * 4 + [(100.0, 1500.0), (280.0, 215.0)]
    assert odd_sizes(box) == []


@pytest.mark.parametrize(("letters", "told"), [(6, []), (7, [0, 8, 9])])
def test_a_kind_must_make_up_most_of_it(letters, told):
    pages = [CARD, *[A4] * letters, *([(50.0, 50.0)] if letters == 7 else []), A5, (300.0, 420.0)]
    assert [one.at for one in odd_sizes(pages[:10])] == told


@pytest.mark.parametrize(("cards", "told"), [(2, 2), (3, 0)])
def test_some_pages_alike_are_a_kind_of_their_own(cards, told):
    assert len(odd_sizes([A4] * 12 + [CARD] * cards)) == told


@pytest.mark.parametrize(("share", "told"), [(1.119, []), (1.121, [6]), (0.881, []), (0.879, [6])])
@pytest.mark.parametrize("axis", [0, 1])
def test_sizes_of_one_kind_differ_a_little(share, told, axis):
    other = tuple(side * share if at == axis else side for at, side in enumerate(A4))
    assert [one.at for one in odd_sizes([*[A4] * 6, other])] == told


def test_what_is_usual_is_the_middle():
    sizes = [(width, 297.0) for width in (205.0, 206.0, 210.0, 211.0, 212.0, 213.0, 214.0)]
    assert odd_sizes([*sizes, CARD])[0].usual == (211.0, 297.0)


def test_no_pages_are_no_trouble():
    assert odd_sizes([]) == []


@pytest.mark.parametrize(
    ("sizes", "told"),
    [
        ([A4] * 3 + [A5] + [A4] * 3, [3]),
        ([A4] * 2 + [A5] + [A4] * 3, []),  # too few before it say what is usual
        ([A4] * 3 + [A5] + [A4] * 2, []),
        ([A4] * 3 + [A5] * 2 + [A4] * 3, []),  # two alike may be a kind
        ([A4, A5, A4, (210.0, 200.0), A4, A4, A4], []),  # a mixed box
        ([A4] * 7, []),
        ([], []),
    ],
)
def test_a_page_unlike_those_around_it_is_odd(sizes, told):
    assert [one.at for one in odd_between(sizes)] == told
