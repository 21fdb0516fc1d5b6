"""What a station is said to take, from what it took."""

import itertools

import pytest

from hollowstack.server.capture.pace import Pace, Took, learned

A4 = 8.7
"""Megapixels at 300 ppi."""


def said(pace: Pace, jobs: int, images: int, megapixels: float) -> float:
    return jobs * pace.job_s + images * pace.image_s + megapixels * pace.megapixel_s


def captures(job: float, image: float, megapixel: float, source: str) -> list[Took]:
    sizes = (
        [(1, 1, 75), (1, 1, 150), (1, 1, 300), (1, 1, 600)]
        if source == "platen"
        else [(1, 5, 150), (1, 20, 300), (1, 3, 300)]
    )
    found = []
    for (jobs, images, ppi), _ in itertools.product(sizes, range(3)):
        px = images * A4 * (ppi / 300) ** 2
        found.append(Took("colour", jobs, images, px, job * jobs + image * images + megapixel * px, int(px * 1e6 * 0.3)))
    return found


def test_before_the_first_capture_it_is_what_is_common():
    """FIELD.md (cp): an everyday A4 at 300 ppi some ten seconds on a glass; a feeder does 20 to 45 pages a minute."""
    glass, feeder = learned("platen", []), learned("feeder", [])
    assert said(glass, 1, 1, A4) == pytest.approx(10, abs=0.1)
    assert 3 <= said(glass, 1, 1, A4 / 16) <= 6
    assert said(glass, 1, 1, A4 * 16) >= 60
    assert 20 <= 60 / said(feeder, 0, 1, A4) <= 45
    assert glass.captures == 0


@pytest.mark.parametrize("source", ["platen", "feeder"])
@pytest.mark.parametrize("true", [(1.0, 0.2, 0.3), (8.0, 0.0, 2.0), (0.0, 4.0, 0.0)])
def test_it_learns_what_its_own_station_takes(source, true):
    took = captures(*true, source)
    pace = learned(source, took)
    for one in took:
        assert said(pace, one.jobs, one.images, one.megapixels) == pytest.approx(one.seconds, rel=0.2, abs=0.6)
    assert pace.captures == len(took)


def test_one_capture_draws_it_near_and_nothing_is_below_zero():
    before, slow = learned("platen", []), Took("colour", 1, 1, A4, 40.0, 10**6)
    assert said(before, 1, 1, A4) + 10 < said(learned("platen", [slow]), 1, 1, A4) <= 41
    quick = learned("platen", [Took("colour", 1, 1, A4, 0.01, 10**6)] * 40)
    assert min(quick.job_s, quick.image_s, quick.megapixel_s) >= 0
    assert said(quick, 1, 1, A4) < 1


def test_grey_takes_half_as_long_for_its_pixels():
    pace = learned("platen", [Took("grey", 1, 1, A4 * 4, 3 + 0.5 * A4 * 4, 10**6)] * 10)
    assert pace.megapixel_s == pytest.approx(1.0, rel=0.15)


def test_sizes_are_learned_by_colour():
    pace = learned("platen", [Took("grey", 1, 1, 100.0, 10, 50_000_000)])
    assert pace.pixel_bytes["grey"] == pytest.approx(0.484, abs=0.01)
    assert (pace.pixel_bytes["colour"], pace.pixel_bytes["bitonal"]) == (0.4, 0.02)
