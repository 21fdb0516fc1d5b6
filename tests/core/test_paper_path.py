"""How paper goes into a source, and where it then lies in the image."""

from itertools import product

import pytest

from hollowstack.core.page.paper_path import CORNERS, EDGES, GUIDES, PaperPath, edge_at, offset_mm, place_of

BED, PAPER = (216.0, 356.0), (148.0, 210.0)


def test_seen_from_above_the_edges_of_a_page_that_lies_face_down_run_the_other_way_round():
    assert [edge_at("up", "top", turn) for turn in range(4)] == ["top", "right", "bottom", "left"]
    assert [edge_at("down", "top", turn) for turn in range(4)] == ["top", "left", "bottom", "right"]
    assert [edge_at("up", "bottom", turn) for turn in range(4)] == ["bottom", "left", "top", "right"]


@pytest.mark.parametrize(
    ("path", "offset"),
    [
        (None, (34, 0)),
        (PaperPath("up", "top", "middle"), (34, 0)),
        (PaperPath("up", "top", "left"), (0, 0)),
        (PaperPath("up", "top", "right"), (68, 0)),
        (PaperPath("down", "top", "left"), (68, 0)),
        (PaperPath("up", "bottom", "left"), (68, 0)),
        (PaperPath("down", "bottom", "left"), (0, 0)),
        (PaperPath("up", "left", "left"), (0, 146)),
        (PaperPath("up", "left", "right"), (0, 0)),
    ],
)
def test_paper_begins_where_the_guides_of_a_feeder_hold_it(path, offset):
    assert offset_mm(path, "feeder", BED, PAPER) == offset


@pytest.mark.parametrize(
    ("place", "offset"),
    [("back right", (0, 0)), ("back left", (68, 0)), ("front right", (0, 146)), ("front left", (68, 146))],
)
def test_on_a_glass_it_begins_in_the_corner_of_the_mark_which_is_seen_from_below(place, offset):
    assert offset_mm(PaperPath("down", "top", place), "platen", BED, PAPER) == offset
    assert offset_mm(None, "platen", BED, PAPER) == (0, 0)


@pytest.mark.parametrize(("face", "edge"), [*product(("up", "down"), EDGES)])
def test_where_a_sheet_lies_tells_the_guides_it_was_held_by_and_the_corner_it_was_laid_at(face, edge):
    for source, places in (("feeder", GUIDES), ("platen", CORNERS)):
        for place in places:
            path = PaperPath(face, edge, place)
            x, y = offset_mm(path, source, BED, PAPER)
            sideways = source == "feeder" and edge in {"left", "right"}
            box = (x + 2, y + 2, x + PAPER[0] - 2, y + PAPER[1] - 2)
            assert place_of(source, face, edge, BED, box) == (None if sideways else place)


def test_of_a_sheet_as_wide_as_the_path_no_guides_are_told():
    assert place_of("feeder", "up", "top", BED, (0, 2, 204.1, 290)) is None
    assert place_of("feeder", "up", "top", BED, (0, 2, 204.0, 290)) == "left"


def test_gaps_that_differ_by_a_quarter_of_both_still_are_the_middle():
    room = BED[0] - PAPER[0]
    assert place_of("feeder", "up", "top", BED, (room * 0.375, 2, room * 0.375 + PAPER[0], 290)) == "middle"
    assert place_of("feeder", "up", "top", BED, (room * 0.37, 2, room * 0.37 + PAPER[0], 290)) == "left"


def test_on_a_glass_a_sheet_in_the_middle_of_a_side_is_at_no_corner():
    assert place_of("platen", "down", "top", BED, (34, 0, 182, 210)) is None


def test_guides_are_said_of_a_feeder_and_a_corner_of_a_glass():
    assert PaperPath("up", "top", "middle").suits("feeder")
    assert not PaperPath("up", "top", "middle").suits("platen")
    assert PaperPath("down", "top", "front left").suits("platen")
    assert not PaperPath("down", "top", "front left").suits("feeder")
