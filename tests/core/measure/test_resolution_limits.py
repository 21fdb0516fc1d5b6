"""Which resolution is believed, and on what it rests: every rule from both of its sides."""

import pytest

from hollowstack.core.measure.content.resolution import measure_resolution

A4_300, A4_600, ODD = (2480, 3508), (4961, 7016), (1800, 3100)


def mm(value: float, ppi: float) -> float:
    return value / 25.4 * ppi


@pytest.mark.parametrize(
    ("size", "letters", "said", "ppi", "rests_on"),
    [
        # The file's word, with paper or letters behind it.
        (A4_300, None, 300, 300, "file and paper size"),
        (A4_300, mm(1.8, 300), 300, 300, "file and paper size"),
        (A4_300, mm(0.61, 300), 300, 300, "file and paper size"),
        (A4_300, mm(6.9, 300), 300, 300, "file and paper size"),
        (ODD, mm(1.16, 300), 300, 300, "file"),
        (ODD, mm(3.2, 300), 300, 300, "file"),
        (ODD, mm(3.4, 300), 300, 300, "file"),
        (ODD, mm(6.9, 100), 100, 100, "file"),
        # What programs write where they know none has to prove itself.
        (ODD, mm(3.2, 72), 72, 72, "file"),
        (ODD, mm(3.4, 72), 72, 150, "letters"),
        # What cannot be: letters an inch high, letters as fine as hair.
        (A4_300, mm(7.1, 300), 300, 1200, "letters"),
        (A4_300, mm(1.8, 300), 72, 300, "paper size and letters"),
        (A4_300, mm(0.59, 300), 300, 100, "letters"),
        (A4_600, mm(1.8, 600), 72, 600, "paper size and letters"),
        # Nothing said.
        (A4_300, mm(1.8, 300), None, 300, "paper size and letters"),
        (A4_300, None, None, 300, "paper size"),
        (ODD, mm(1.8, 300), None, 300, "letters"),
        (ODD, mm(1.8, 150), None, 150, "letters"),
        (ODD, mm(1.8, 340), None, 300, "letters"),
        (ODD, mm(1.8, 360), None, 400, "letters"),
        # No letters.
        (ODD, None, 240, 240, "file"),
        (ODD, None, None, 300, "nothing"),
        ((900, 1476), None, None, 150, "nothing"),
        ((500, 738), None, None, 75, "nothing"),
        ((4000, 5905), None, None, 300, "nothing"),
    ],
)
def test_what_a_resolution_rests_on(size, letters, said, ppi, rests_on):
    found = measure_resolution(size, letters, said)
    assert (found.ppi, found.rests_on) == (ppi, rests_on)
    turned = measure_resolution(size[::-1], letters, said)
    assert turned == found


@pytest.mark.parametrize(("off", "fits"), [(0.0, True), (0.011, True), (-0.011, True), (0.014, False), (-0.014, False)])
def test_a_page_is_of_a_known_size_within_a_hundredth(off, fits):
    size = (A4_300[0] * (1 + off), A4_300[1])
    assert (measure_resolution(size, None, 300).rests_on == "file and paper size") == fits


def test_the_surer_it_is_the_more_it_rests_on():
    order = [
        measure_resolution(A4_300, None, 300), measure_resolution(A4_300, mm(1.8, 300), None),
        measure_resolution(ODD, mm(1.8, 300), 300), measure_resolution(ODD, None, 300), measure_resolution(A4_300, None, None),
        measure_resolution(ODD, mm(1.8, 300), None), measure_resolution(ODD, None, None),
    ]  # fmt: skip
    confidences = [found.confidence for found in order]
    assert confidences == sorted(confidences, reverse=True)
    assert confidences[0] > 0.9 > confidences[2] > 0.7 > confidences[3] > 0.5 >= confidences[4] > confidences[-1] > 0


def test_of_several_sizes_the_one_whose_letters_are_usual():
    """A sheet that is A5 at 300 and A4 at 212 or A3 at 150: its letters tell."""
    assert measure_resolution((1748, 2480), mm(1.8, 150), None).ppi == 150
    assert measure_resolution((1748, 2480), mm(1.8, 300), None).ppi == 300
    assert measure_resolution((1748, 2480), None, None, assumed=150).ppi == 150
