"""What the engine does next: lists of events and instructions, and what is wanting in a database."""

from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.run import keys as result_keys
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.engine.runner import by_todays_versions
from hollowstack.server.engine.scheduling import IN_FLIGHT_A_WORKER, Offered, Resized, Schedule, Settled, Submit, Task
from hollowstack.server.engine.wanting import wanted
from hollowstack.server.intake import batches
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.planning import plan_marked, stack_with_marked_pages
from hollowstack.server.stacks.viewing import look_at
from tests.server.conftest import walk


def tasks(*keys: str) -> list[Task]:
    return [Task("measure", key) for key in keys]


def submitted(instructions: list[Submit]) -> list[str]:
    return [instruction.task.key for instruction in instructions]


def test_without_workers_nothing_is_handed_out():
    assert Schedule().handle(Offered(tasks("a"))) == []


def test_two_a_worker_in_the_order_offered():
    schedule = Schedule()
    schedule.handle(Resized(2))
    assert submitted(schedule.handle(Offered(tasks("a", "b", "c", "d", "e")))) == ["a", "b", "c", "d"]
    assert schedule.room == 0
    assert schedule.handle(Offered(tasks("e"))) == []


def test_what_came_back_makes_room():
    schedule = Schedule()
    schedule.handle(Resized(1))
    schedule.handle(Offered(tasks("a", "b")))
    schedule.handle(Settled("a"))
    assert submitted(schedule.handle(Offered(tasks("b", "c")))) == ["c"]


def test_a_lost_worker_makes_less_room():
    schedule = Schedule()
    schedule.handle(Resized(2))
    schedule.handle(Offered(tasks("a", "b", "c", "d")))
    schedule.handle(Resized(1))
    schedule.handle(Settled("a"))
    assert schedule.handle(Offered(tasks("e"))) == []


keys = st.text("abcdef", min_size=1, max_size=1)
events = st.one_of(
    st.builds(Resized, st.integers(0, 3)),
    st.builds(Settled, keys),
    st.builds(Offered, st.lists(keys, max_size=8).map(lambda some: tasks(*some))),
)


@given(st.lists(events, max_size=40))
def test_never_twice_in_flight_and_never_more_than_there_is_room(history):
    schedule, flying, workers = Schedule(), set(), 0
    for event in history:
        if isinstance(event, Resized):
            workers = event.workers
        if isinstance(event, Settled):
            flying.discard(event.key)
        for key in submitted(schedule.handle(event)):
            assert key not in flying
            flying.add(key)
            assert len(flying) <= workers * IN_FLIGHT_A_WORKER
        assert schedule.in_flight == flying


def steps(limit: int = 20) -> list[str]:
    return [task.step for task in wanted(limit, frozenset())]


def test_measuring_goes_before_rendering_before_reading(stack, pages):
    made = pages(4)
    walk(made[0], until="render")
    walk(made[1], until="measure")
    walk(made[2], until="expand")
    assert steps() == ["expand", "measure", "render", "read"]


def test_the_open_page_goes_first(user, stack, pages):
    made = pages(3)
    for page in made:
        walk(page, until="expand")
    look_at(user, stack.pk, made[2].pk)
    first = wanted(1, frozenset())[0]
    walk(made[2], until="expand")
    made[2].refresh_from_db()
    assert first.key == made[2].measured_id


def test_the_open_stack_goes_before_others(user, stack, pages):
    pages(2)
    other = services.create_stack("Other", user)
    theirs = batches.add_file(batches.open_batch(other.pk, user).pk, batches.Coming(0, "x.jpg", f"{99:064x}", 10))
    assert wanted(1, frozenset())[0].key == theirs.opened_id
    look_at(user, stack.pk, None)
    assert wanted(1, frozenset())[0].key != theirs.opened_id


def test_what_is_in_flight_is_not_wanted_again(stack, pages):
    pages(3)
    first = wanted(1, frozenset())
    assert len(wanted(20, frozenset({first[0].key}))) == 2


def test_failed_steps_are_not_tried_again(stack, pages):
    page = walk(pages(1)[0], until="expand")
    record([Outcome("measure", page.measured_id, None, "Too dark.", "page")])
    assert steps() == []


def test_an_aside_page_is_corrected_but_not_read(stack, pages):
    page = walk(pages(1)[0], until="measure", ink_percent=0.0, marks=0)
    assert steps() == ["render"]
    walk(page)
    assert steps() == []


def test_a_document_is_bound_before_other_stacks_are_read(user, stack, pages):
    walk(pages(1)[0])
    other = services.create_stack("Other", user)
    walk(
        batches.add_file(batches.open_batch(other.pk, user).pk, batches.Coming(0, "x.jpg", f"{99:064x}", 10)), until="render"
    )
    (document,) = ask_to_bind(stack.pk, "Box 27", user)
    assert steps() == ["bind", "read"]
    record([Outcome("bind", document.key, {"pages": 1, "bytes": 1, "sha256": "", "seconds": 0})])
    assert steps() == ["read"]


def test_after_an_upgrade_pages_are_planned_by_todays_steps(pages, monkeypatch):
    """What older versions of the steps made is wanted anew; where nothing changed, nothing is."""
    page = walk(pages(1)[0])
    by_todays_versions()
    plan_marked(page.stack_id)
    same = Page.objects.get(pk=page.pk)
    assert (same.rendered_id, same.state) == (page.rendered_id, "ready")
    by_todays_versions()
    assert stack_with_marked_pages() is None
    monkeypatch.setattr(result_keys, "RENDER_VERSION", result_keys.RENDER_VERSION + 1)
    by_todays_versions()
    plan_marked(page.stack_id)
    renewed = Page.objects.get(pk=page.pk)
    assert renewed.measured_id == page.measured_id
    assert renewed.rendered_id != page.rendered_id
    assert renewed.reading_id != page.reading_id
    assert renewed.change > page.change
