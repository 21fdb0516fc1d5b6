"""How large documents are likely to be: which pages stand for all, and what follows from them."""

import pytest

from hollowstack.core.run.forecast import Weighed, beside_images, choose_sample, estimated_bytes


def letters(count: int) -> list[Weighed]:
    return [Weighed("layers", 28_000 + 100 * at, 8_700_000) for at in range(count)]


def test_few_pages_are_all_packed():
    assert choose_sample(letters(16)) == list(range(16))
    assert len(choose_sample(letters(17))) == 16


def test_pages_unlike_all_others_are_in_the_sample():
    pages = [*letters(200), Weighed("layers", 900_000, 8_700_000), Weighed("two tones", 9_000, 6_000_000)]
    assert {200, 201} <= set(choose_sample(pages))
    assert len(set(choose_sample(pages))) == 16


def test_what_is_packed_is_taken_as_it_is():
    pages = letters(3)
    assert estimated_bytes(pages, {0: 10, 1: 20, 2: 30}) == [10, 20, 30]


def test_others_go_by_the_page_most_like_them_and_by_their_pixels():
    pages = [
        Weighed("layers", 100, 1000),
        Weighed("layers", 110, 2000),
        Weighed("two tones", 100, 1000),
        Weighed("two tones", 90, 500),
    ]
    assert estimated_bytes(pages, {0: 600, 2: 40}) == [600, 1200, 40, 20]


@pytest.mark.parametrize("count", [20, 50, 400])
def test_a_box_with_a_few_dear_pages_is_forecast_within_15_percent(count):
    """Letters by 170 to 180 bytes a thousand pixels, every tenth page a plate by ten times that."""
    pages, true = [], []
    for at in range(count):
        plate = at % 10 == 7
        pages.append(Weighed("layers", (140_000 if plate else 27_000) + 731 * (at % 13), 8_700_000))
        true.append(round(8_700_000 * (1.8 if plate else 0.17 + 0.001 * (at % 11))))
    sample = choose_sample(pages)
    assert sum(estimated_bytes(pages, {at: true[at] for at in sample})) == pytest.approx(sum(true), rel=0.15)


def test_what_stands_beside_the_images():
    assert beside_images(0, 0) == 8500
    assert beside_images(20, 3000) - beside_images(19, 3000) == 1200


@pytest.mark.parametrize(("pages", "words", "beside"), [(18, 2028, 54_558), (26, 7867, 113_664)])
def test_what_stands_beside_the_images_is_what_bound_documents_have_there(pages, words, beside):
    """Measured on files bound from the command line: the demo's, and the real pages as one document."""
    assert beside_images(pages, words) == pytest.approx(beside, rel=0.08)
