"""Fronts whose backs are waited for: a state of the stack, whoever looks at it and whenever."""

import pytest

from hollowstack.server.capture import halves
from hollowstack.server.capture.models import Run
from hollowstack.server.errors import Refused
from hollowstack.server.intake import batches
from hollowstack.server.stacks import history
from hollowstack.server.stacks.models import Page
from tests.server.conftest import sha


@pytest.fixture
def load(stack, user):
    """Makes a load of so many sheets, fronts or backs, as it lies in the stack once it is done."""
    made = iter(range(1000))

    def make(half: str, sheets: int, state: str = "done", **more: object) -> Run:
        batch = batches.open_batch(stack.pk, user)
        for index in range(sheets):
            batches.add_file(batch.pk, batches.Coming(index, f"{half} {index}.jpg", sha(next(made)), 1000))
        fields = {"settings": {"half": half, "source": "feeder", "name": half}, "state": state, "received": sheets}
        return Run.objects.create(stack=stack, by=user, batch=batch, **fields | more)

    return make


def told(client, stack) -> int:
    return client.get(f"/api/v1/stacks/{stack.pk}").json()["waits"]["backs"]


def test_backs_are_waited_for_until_they_came(client, stack, load):
    assert told(client, stack) == 0
    fronts = load("fronts", 3)
    assert told(client, stack) == 3
    backs = load("backs", 2, state="stopped")
    assert told(client, stack) == 3
    Run.objects.filter(pk=backs.pk).update(state="done")
    assert told(client, stack) == 0
    load("", 4)
    assert told(client, stack) == 0
    load("fronts", 5)
    assert told(client, stack) == 5
    assert halves.awaited([stack.pk])[stack.pk].pk != fronts.pk


@pytest.mark.parametrize("state", ["running", "stopped", "cancelled"])
def test_of_fronts_that_are_not_in_no_backs_are_waited_for(client, stack, load, state):
    load("fronts", 3, state=state)
    assert told(client, stack) == 0


def test_a_load_that_is_neither_lies_among_no_other(load):
    alone = load("", 2)
    load("fronts", 2)
    assert halves.together(alone.batch) == [alone.batch]


@pytest.mark.parametrize(
    ("fronts", "state", "swapped", "found"),
    [(3, "done", (2, 3), True), (3, "done", (), False), (1, "done", (), True), (3, "stopped", (2, 3), False)],
)
def test_halves_lie_among_each_other_once_they_are_brought_together(load, fronts, state, swapped, found):
    """As soon as one back lies before the last front."""
    load("backs", 2, state="cancelled")
    one, other = load("fronts", fronts), load("backs", fronts, state=state)
    load("fronts", 1)
    if swapped:
        first, second = (Page.objects.order_by("position")[2 + place] for place in swapped)
        Page.objects.filter(pk=first.pk).update(position=second.position)
        Page.objects.filter(pk=second.pk).update(position=first.position)
    there = [one.batch, other.batch] if found else []
    assert (halves.together(one.batch), halves.together(other.batch)) == (there, there)


def test_fronts_wait_for_backs_and_backs_for_fronts(load):
    backs = load("backs", 2)
    fronts = load("fronts", 2)
    assert (halves.together(fronts.batch), halves.together(backs.batch)) == ([], [])
    halves.mark_single(fronts.pk, [0, 1])
    assert halves.together(fronts.batch) == [fronts.batch]


def test_sheets_that_have_no_back_are_not_waited_for(client, stack, load):
    fronts = load("fronts", 3)
    answer = client.put(f"/api/v1/runs/{fronts.pk}/single", {"sheets": [2, 0, 2]}, content_type="application/json")
    assert (answer.status_code, answer.json()["single"]) == (200, [0, 2])
    assert told(client, stack) == 1
    halves.mark_single(fronts.pk, [0, 1, 2])
    assert told(client, stack) == 0
    halves.mark_single(fronts.pk, [])
    assert told(client, stack) == 3


@pytest.mark.parametrize("sheets", [[3], [-1]])
def test_a_sheet_that_is_none_is_not_marked(load, sheets):
    with pytest.raises(Refused, match="has 3 sheets"):
        halves.mark_single(load("fronts", 3).pk, sheets)


def test_only_fronts_have_sheets_to_mark(load):
    with pytest.raises(Refused, match="this is none"):
        halves.mark_single(load("backs", 3).pk, [0])


def test_of_what_was_undone_no_backs_are_waited_for(client, stack, load):
    load("fronts", 3)
    history.undo(stack.pk, history.next_to_undo(stack).pk)
    assert told(client, stack) == 0
    history.redo(stack.pk, history.next_to_redo(stack).pk)
    assert told(client, stack) == 3


def test_they_are_told_of_however_many_captures_came_since(client, stack, load):
    fronts = load("fronts", 3)
    for _ in range(14):
        load("", 1)
    runs = client.get(f"/api/v1/stacks/{stack.pk}/runs").json()
    assert [run["id"] for run in runs][-1] == fronts.pk
    assert len(runs) == 13
