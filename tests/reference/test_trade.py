"""What the trade knows of captures, as check values: all of it common practice, no source."""

import pytest

from hollowstack.core.arrange.order import interleaved, leaves
from hollowstack.server.capture import ending
from hollowstack.server.capture.escl.messages import Status
from hollowstack.server.capture.pace import learned

_A4 = 210 * 297 / 25.4**2 / 1e6
"""Megapixels of A4 at 1 ppi squared."""


def seconds(way: str, ppi: int, images: int = 1) -> float:
    """For one job in colour, before anything was captured with the station."""
    pace = learned(way, [])  # type: ignore[arg-type]
    return pace.job_s + images * (pace.image_s + _A4 * ppi**2 * pace.megapixel_s)


def test_a_first_look_takes_three_to_six_seconds_and_the_finest_a_minute_and_more():
    assert 3 <= seconds("platen", 75) <= 6
    assert seconds("platen", 300) <= 60
    assert seconds("platen", 1200) >= 60


@pytest.mark.parametrize("sheets", [25, 50])
def test_a_feeder_does_twenty_to_forty_five_pages_a_minute(sheets):
    assert 20 <= sheets / seconds("feeder", 300, sheets) * 60 <= 45


def test_delicate_sheets_go_slower_into_files_no_larger():
    assert seconds("slow feeder", 300, 25) > 1.5 * seconds("feeder", 300, 25)
    assert learned("slow feeder", []).pixel_bytes == learned("feeder", []).pixel_bytes


def test_a_bundle_of_eight_sheets_its_fronts_first_then_turned_over():
    """Fronts are pages 1, 3 … 15; of the bundle turned over, the backs come as 16, 14 … 2."""
    fronts, backs = list(range(1, 16, 2)), list(range(16, 1, -2))
    assert interleaved(fronts, backs, leaves(8, 8)) == list(range(1, 17))


def test_only_sheet_ten_of_a_mixed_bundle_has_a_back():
    sheets = leaves(12, 1, single=[sheet for sheet in range(12) if sheet != 9])
    pages = interleaved([f"front {n}" for n in range(1, 13)], ["back 10"], sheets)
    assert pages.index("back 10") == pages.index("front 10") + 1 == 10
    assert len(pages) == 13


@pytest.mark.parametrize(("came", "laid"), [(10, 20), (20, 10)])
def test_half_or_twice_the_count_means_that_sides_were_counted(came, laid):
    status = Status("Idle", ending.EMPTY, {"1": ending.COMPLETED})
    assert "if sides were counted and not sheets" in ending.of_load(status, "/eSCL/ScanJobs/1", ending.Load(came, laid))
    assert ending.of_load(status, "/eSCL/ScanJobs/1", ending.Load(20, 20)) == ""
