"""How a delivery goes, without threads, clocks or database."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.server.dispatch.course import (
    MOST_TRIES,
    OPEN,
    Again,
    Begun,
    Cancelled,
    Differed,
    Event,
    Handed,
    Held,
    Missed,
    OutOfTurn,
    Proven,
    Released,
    Standing,
    after,
)

NOW, FIRST = 1000.0, 5.0


def course(*events: Event, start: Standing | None = None) -> Standing:
    stands = start or Standing(due=NOW)
    for event in events:
        stands = after(stands, event, NOW, FIRST)
    return stands


def test_the_way_without_mishaps():
    assert course(Begun()).state == "sending"
    assert course(Begun(), Handed()).state == "proving"
    assert course(Begun(), Handed(), Proven()) == Standing("arrived", due=NOW)


def test_waits_grow_and_end_before_a_person():
    stands, waits = Standing(due=NOW), []
    for _ in range(MOST_TRIES - 1):
        stands = course(Begun(), Missed("no answer"), start=stands)
        assert (stands.state, stands.said) == ("waiting", "no answer")
        waits.append(stands.due - NOW)
    assert waits == [5, 15, 45, 135, 405, 1215, 3645]
    stands = course(Begun(), Missed("no answer"), start=stands)
    assert (stands.state, stands.tries, stands.said) == ("stuck", MOST_TRIES, "no answer")
    assert course(Again(), start=stands) == Standing(due=NOW)


def test_what_lasts_is_put_before_a_person_at_once():
    assert course(Begun(), Missed("wrong password", lasting=True)).state == "stuck"
    assert course(Missed("no such folder", lasting=True)).state == "stuck"


def test_what_was_handed_over_is_looked_at_again_not_sent_again():
    stands = course(Begun(), Handed(), Missed("no answer"))
    assert (stands.state, stands.tries, stands.due) == ("proving", 1, NOW + FIRST)
    assert course(Proven(), start=stands).state == "arrived"


def test_what_lies_there_otherwise_is_sent_anew():
    stands = course(Begun(), Handed(), Differed("another byte"))
    assert (stands.state, stands.said, stands.due) == ("waiting", "another byte", NOW + FIRST)
    assert course(Begun(), Handed(), Proven(), start=stands).said == ""


def test_what_a_dead_process_was_sending_is_begun_anew():
    assert course(Begun(), Begun()).state == "sending"


def test_a_person_holds_lets_go_and_gives_up():
    held = course(Held())
    assert (held.state, held.held) == ("waiting", True)
    assert course(Released(), start=held) == Standing(due=NOW)
    sending = course(Begun(), Held(), Handed())
    assert (sending.state, sending.held) == ("proving", True)
    gone = course(Cancelled(), start=held)
    assert (gone.state, gone.held) == ("cancelled", False)
    with pytest.raises(OutOfTurn):
        course(Handed(), start=gone)
    assert course(Again(), start=gone).state == "waiting"


@pytest.mark.parametrize("event", [Begun(), Handed(), Missed("x"), Held(), Released(), Cancelled(), Again(), Differed("x")])
def test_what_has_arrived_stays_so(event):
    with pytest.raises(OutOfTurn):
        course(Begun(), Handed(), Proven(), event)


@pytest.mark.parametrize("event", [Handed(), Proven(), Differed("x")])
def test_out_of_turn(event):
    with pytest.raises(OutOfTurn):
        course(event)


EVENTS = [
    Begun(),
    Handed(),
    Proven(),
    Differed("d"),
    Missed("m"),
    Missed("l", lasting=True),
    Held(),
    Released(),
    Cancelled(),
    Again(),
]


@given(st.lists(st.sampled_from(EVENTS), max_size=60))
def test_whatever_happens_it_ends_or_goes_on(events):
    stands, proven = Standing(due=NOW), False
    for event in events:
        try:
            stands = after(stands, event, NOW, FIRST)
        except OutOfTurn:
            continue
        proven |= isinstance(event, Proven)
        assert stands.tries <= MOST_TRIES
        assert stands.state != "arrived" or proven
        assert not stands.held or stands.state in OPEN
