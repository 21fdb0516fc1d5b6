"""Facing pages are split by themselves where the treatment says so and the fold is sure, once, and can be made one again."""

import pytest

from hollowstack.server.intake import batches
from hollowstack.server.results.models import Result
from hollowstack.server.stacks import history, services
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Batch, Page, Stack
from tests.server.conftest import sha, walk

FOLD = {"gutter": [[500.0, 0.0], [505.0, 1400.0]], "gutter_confidence": 1.0}


def shown(stack: Stack) -> list[Page]:
    return list(stack.pages.filter(removed=False))


def hand(stack: Stack) -> Arranging:
    return Arranging(stack.pk, None, Stack.objects.get(pk=stack.pk).change)


def test_a_sure_fold_makes_two_pages_in_their_place(stack, pages):
    first, second, third = pages(3)
    walk(first, until="measure")
    walk(third, until="measure")
    walk(second, until="measure", **FOLD)
    found = shown(stack)
    assert [page.source_id for page in found] == [first.source_id, second.source_id, second.source_id, third.source_id]
    assert [page.override.get("split", {}).get("keep") for page in found] == [None, "left", "right", None]
    assert all(page.rendered_id for page in found)
    assert found[1].rendered_id != found[2].rendered_id
    assert history.next_to_undo(Stack.objects.get(pk=stack.pk)).what == "Split 1 image of facing pages"


@pytest.mark.parametrize(
    ("settings", "found", "count"),
    [({}, FOLD, 2), ({}, {**FOLD, "gutter_confidence": 0.8}, 2), ({}, {**FOLD, "gutter_confidence": 0.79}, 1), ({"split_facing": False}, FOLD, 1)],
)  # fmt: skip
def test_only_where_it_is_sure_and_wanted(stack, pages, settings, found, count):
    stack.treatment = {**stack.treatment, **settings}
    stack.save()
    walk(pages(1)[0], until="measure", **found)
    assert len(shown(stack)) == count


def test_taken_as_facing_pages_they_are_split_whatever_the_treatment_says(stack, pages):
    stack.treatment = {**stack.treatment, "split_facing": False}
    stack.save()
    one, facing = pages(2)
    Batch.objects.filter(pk=one.source.batch_id).update(record={"source": "feeder"})
    facing.source.batch = batches.open_batch(stack.pk, None, record={"facing": True})
    facing.source.save()
    walk(one, until="measure", **FOLD)
    walk(facing, until="measure", **FOLD)
    assert [page.source_id for page in shown(stack)] == [one.source_id, facing.source_id, facing.source_id]


def test_undone_it_stays_undone(stack, pages):
    page = walk(pages(1)[0], until="measure", **FOLD)
    change = history.next_to_undo(Stack.objects.get(pk=stack.pk))
    history.undo(stack.pk, change.pk)
    assert [one.override for one in shown(stack)] == [{}]
    Result.objects.all().delete()
    walk(Page.objects.get(pk=page.pk), until="measure", **FOLD)
    assert len(shown(stack)) == 1


def test_made_one_by_hand_it_stays_one(stack, pages):
    page = walk(pages(1)[0], until="measure", **FOLD)
    hand(stack).unsplit(page.pk)
    assert len(shown(stack)) == 1
    hand(stack).treat("bound volume", None)
    assert len(shown(stack)) == 1


def test_a_treatment_that_splits_splits_what_is_there(stack, pages):
    hand(stack).treat("loose sheets", None)
    one, two = pages(2)
    walk(one, until="measure", **FOLD)
    walk(two, until="measure", **FOLD)
    assert len(shown(stack)) == 2
    hand(stack).treat("bound volume", None)
    found = shown(stack)
    assert [page.source_id for page in found] == [one.source_id] * 2 + [two.source_id] * 2
    assert [page.override["split"]["keep"] for page in found] == ["left", "right"] * 2
    assert [change.what for change in stack.changes.all()][-1] == "Split 2 images of facing pages"


def test_a_file_that_is_known_already_is_split_as_it_comes_in(stack, pages, user):
    walk(pages(1)[0], until="measure", **FOLD)
    other = services.create_stack("Box 28", user)
    batches.add_file(batches.open_batch(other.pk, None).pk, batches.Coming(0, "again.jpg", sha(1), 1000))
    assert [page.override["split"]["keep"] for page in shown(other)] == ["left", "right"]


def test_what_was_turned_by_hand_is_left_to_the_hand(stack, pages):
    hand(stack).treat("loose sheets", None)
    page = walk(pages(1)[0], until="measure", **FOLD)
    hand(stack).turn([page.pk], 90)
    hand(stack).treat("bound volume", None)
    assert len(shown(stack)) == 1


def test_a_load_done_again_is_as_it_was_when_it_was_taken_back(stack, pages):
    """A split that was undone before it stays undone: nothing of the batch is doubled, and the split can be done again."""
    walk(pages(1)[0], until="measure", **FOLD)
    here = Stack.objects.get(pk=stack.pk)
    split, came = here.changes.order_by("-pk")[:2]
    assert len(shown(stack)) == 2
    for _ in range(2):
        history.undo(stack.pk, split.pk)
        history.undo(stack.pk, came.pk)
        assert shown(stack) == []
        history.redo(stack.pk, came.pk)
        assert [page.override for page in shown(stack)] == [{}]
        history.redo(stack.pk, split.pk)
        assert [page.override["split"]["keep"] for page in shown(stack)] == ["left", "right"]
