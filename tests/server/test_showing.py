"""What a page shows that is worth knowing while its paper is at hand, as the list of pages tells it."""

import pytest

from hollowstack.server.api.v1.views import _shows
from tests.server.conftest import MEASURED


def picture(area: float, kind: str = "picture") -> dict:
    return {"kind": kind, "outline": [], "certainty": 0.9, "level": 0.5, "spread": 0.4, "coloured": False, "area_mm2": area}


@pytest.mark.parametrize(
    ("more", "shown"),
    [
        ({}, []),
        ({"colour": "colour"}, ["colour"]),
        ({"colour": "grey"}, []),
        ({"regions": [picture(899.9)]}, []),
        ({"regions": [picture(900)]}, ["picture"]),
        ({"regions": [picture(450), picture(450, "half-tone")]}, ["picture"]),
        ({"regions": [picture(5000, "solid"), picture(5000, "text")]}, []),
        ({"torn": [[0, 0]]}, ["missing corner"]),
        ({"colour": "colour", "regions": [picture(2000)], "torn": [[0, 0]]}, ["picture", "colour", "missing corner"]),
    ],
)
def test_pictures_colour_and_corners_are_told(more, shown):
    assert _shows({**MEASURED, **more}) == shown
