"""Names of paper sizes, and the nearest one to a page."""

import pytest

from hollowstack.core.page.errors import PaperError
from hollowstack.core.page.paper_sizes import PAPER_SIZES, nearest_size, paper_size


def test_by_name_in_any_case():
    assert paper_size(" a4 ").height_mm == 297
    with pytest.raises(PaperError, match="no paper size “foolscap”"):
        paper_size("foolscap")


@pytest.mark.parametrize(
    ("width", "height", "name"),
    [
        (210.4, 296.1, "A4"),
        (297, 210, "A4"),
        (215.9, 279.4, "Letter"),
        (216, 356, "Legal"),
        (110, 220, "DL"),
        (200, 280, None),
    ],
)
def test_the_nearest(width, height, name):
    found = nearest_size(width, height)
    assert (found.name if found else None) == name


def test_every_size_is_its_own_nearest():
    for size in PAPER_SIZES:
        assert nearest_size(size.width_mm, size.height_mm) == size
