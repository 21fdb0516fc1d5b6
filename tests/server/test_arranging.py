"""Changes by hand: each is one row, undone and done again; two people do not overwrite each other."""

from datetime import UTC, datetime

import pytest

from hollowstack.server.api.v1 import changes
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.errors import Conflict, Refused
from hollowstack.server.intake import batches
from hollowstack.server.stacks import history
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Change, Page, Source, Stack
from hollowstack.server.stacks.services import order_of
from tests.server.conftest import answer, walk


@pytest.fixture
def five(pages):
    return [walk(page) for page in pages(5)]


@pytest.fixture
def ids(five):
    return [page.pk for page in five]


def hand(stack: Stack, seen: int | None = None) -> Arranging:
    return Arranging(stack.pk, None, Stack.objects.get(pk=stack.pk).change if seen is None else seen)


def post(client, stack, **doing):
    seen = doing.pop("seen", Stack.objects.get(pk=stack.pk).change)
    return client.post(f"/api/v1/stacks/{stack.pk}/changes", {"seen": seen, "doing": doing}, content_type="application/json")


def look(stack):
    """All that a change by hand can touch, in order."""
    rows = Page.objects.filter(stack=stack, removed=False)
    return [(p.pk, p.override, p.breaks, p.rescan, p.aside, p.rendered_id, p.source_id) for p in rows]


ORDERS = {
    "move": (lambda h, p: h.move([p[0], p[3]], p[4]), [1, 2, 4, 0, 3]),
    "to the front": (lambda h, p: h.move([p[4]], None), [4, 0, 1, 2, 3]),
    "reverse": (lambda h, p: h.reverse(p[1:4]), [0, 3, 2, 1, 4]),
    "deal": (lambda h, p: h.deal(p), [0, 2, 4, 1, 3]),
    "interleave": (lambda h, p: h.weave(p, from_behind=False), [0, 3, 1, 4, 2]),
    "from behind": (lambda h, p: h.weave(p, from_behind=True), [0, 4, 1, 3, 2]),
    "leaves": (lambda h, p: h.leaves(p[:3], p[3:], [p[1]], reverse=True), [0, 4, 1, 2, 3]),
}
EDITS = {
    "turn": lambda h, p: h.turn(p[:2], 90),
    "aside": lambda h, p: h.aside(p[1:3], True, "duplicate"),
    "break": lambda h, p: h.mark_break([p[2]], True),
    "rescan": lambda h, p: h.mark_rescan([p[0]], "out of focus"),
    "split": lambda h, p: h.split(p[1], (500, 0), (500, 1400)),
}


@pytest.mark.parametrize(("do", "expected"), ORDERS.values(), ids=ORDERS)
def test_orders(stack, ids, do, expected):
    do(hand(stack), ids)
    assert order_of(stack.pk) == [ids[place] for place in expected]


@pytest.mark.parametrize("do", [*(do for do, _ in ORDERS.values()), *EDITS.values()], ids=[*ORDERS, *EDITS])
def test_every_change_is_undone_and_done_again(stack, ids, do):
    before = look(stack)
    change = do(hand(stack), ids)
    after = look(stack)
    assert after != before
    history.undo(stack.pk, change.pk)
    assert look(stack) == before
    history.redo(stack.pk, change.pk)
    assert look(stack) == after


def test_a_long_way_back_and_forth(stack, ids):
    states, changes = [look(stack)], []
    for do in [*(do for do, _ in ORDERS.values()), *EDITS.values()]:
        changes.append(do(hand(stack), ids))
        states.append(look(stack))
    for change, state in zip(changes[::-1], states[-2::-1], strict=True):
        history.undo(stack.pk, change.pk)
        assert look(stack) == state
    for change, state in zip(changes, states[1:], strict=True):
        history.redo(stack.pk, change.pk)
        assert look(stack) == state


def test_after_something_new_nothing_is_done_again(stack, ids):
    change = hand(stack).reverse(ids)
    history.undo(stack.pk, change.pk)
    hand(stack).deal(ids)
    assert history.next_to_redo(stack) is None
    assert Change.objects.get(pk=change.pk).state == "dropped"
    with pytest.raises(Conflict):
        history.redo(stack.pk, change.pk)


def test_pages_that_come_in_between_keep_their_places(stack, ids):
    change = hand(stack).move([ids[0]], ids[4])
    batch = batches.open_batch(stack.pk, None, after=ids[2])
    new = [
        batches.add_file(batch.pk, batches.Coming(index, f"new {index}", f"{900 + index:064x}", 10)).pk for index in (1, 0)
    ][::-1]
    assert order_of(stack.pk) == [ids[1], ids[2], *new, ids[3], ids[4], ids[0]]
    taken_in = history.next_to_undo(stack)
    history.undo(stack.pk, taken_in.pk)
    late = batches.add_file(batch.pk, batches.Coming(2, "late", f"{902:064x}", 10))
    assert late.removed
    history.undo(stack.pk, change.pk)
    assert order_of(stack.pk) == ids
    history.redo(stack.pk, change.pk)
    history.redo(stack.pk, taken_in.pk)
    assert order_of(stack.pk) == [ids[1], ids[2], *new, late.pk, ids[3], ids[4], ids[0]]


def test_a_multi_page_file_that_was_moved_before_it_was_opened(stack, ids):
    batch = batches.open_batch(stack.pk, None)
    page = batches.add_file(batch.pk, batches.Coming(0, "many.tif", f"{950:064x}", 10))
    hand(stack).move([page.pk], ids[1])
    batches.open_source(page.source, 3)
    order = order_of(stack.pk)
    assert order[:3] == [ids[0], ids[1], page.pk]
    assert order[5:] == ids[2:]


@pytest.mark.parametrize(
    ("first", "second", "clash"),
    [
        (lambda h, p: h.turn([p[0]], 90), lambda h, p: h.aside([p[0], p[1]], True), True),
        (lambda h, p: h.turn([p[0]], 90), lambda h, p: h.turn([p[1]], 90), False),
        (lambda h, p: h.reverse(p), lambda h, p: h.move([p[0]], p[4]), True),
        (lambda h, p: h.turn([p[0]], 90), lambda h, p: h.move([p[0]], p[4]), False),
    ],
)
def test_two_people(stack, ids, first, second, clash):
    seen = Stack.objects.get(pk=stack.pk).change
    first(hand(stack, seen), ids)
    before = look(stack)
    if not clash:
        second(hand(stack, seen), ids)
        return
    with pytest.raises(Conflict, match="Somebody else"):
        second(hand(stack, seen), ids)
    assert look(stack) == before


def test_turning_goes_on_from_how_the_page_stands(stack, ids):
    for expected in (90, 180, 270, 0):
        hand(stack).turn([ids[0]], 90)
        assert Page.objects.get(pk=ids[0]).plan["turn"] == expected


def test_putting_back_what_was_blank(stack, pages):
    page = walk(pages(1)[0], ink_percent=0.0, marks=0)
    assert (page.aside, page.reading_id) == ("blank", None)
    clean = page.rendered_id
    hand(stack).aside([page.pk], False)
    page.refresh_from_db()
    assert (page.aside, page.rendered_id) == ("", clean)  # nothing is made anew
    assert page.reading_id
    hand(stack).aside([page.pk], None)
    page.refresh_from_db()
    assert page.aside == "blank"


def test_split_and_unsplit(stack, ids):
    hand(stack).split(ids[2], (480, 0), (520, 1400))
    order = order_of(stack.pk)
    assert order[:3] == ids[:3]
    assert order[4:] == ids[3:]
    left, right = Page.objects.get(pk=order[2]), Page.objects.get(pk=order[3])
    assert left.rendered_id != right.rendered_id
    assert left.plan["size_px"][0] + right.plan["size_px"][0] == pytest.approx(1040, abs=45)
    hand(stack).split(right.pk, (700, 0), (700, 1400))
    assert order_of(stack.pk) == order  # the line moved, and nothing else
    moved = [Page.objects.get(pk=pk) for pk in order[2:4]]
    assert [page.plan["size_px"][0] for page in moved] == pytest.approx([700, 340], abs=45)
    assert [page.override["split"]["keep"] for page in moved] == ["left", "right"]
    hand(stack).unsplit(right.pk)
    assert order_of(stack.pk) == [*ids[:2], right.pk, *ids[3:]]
    assert Page.objects.get(pk=right.pk).override == {}
    with pytest.raises(Refused, match="not half"):
        hand(stack).unsplit(right.pk)


@pytest.mark.parametrize(
    ("do", "says"),
    [
        (lambda h, p: h.move([], p[0]), "order already"),
        (lambda h, p: h.reverse([]), "No page is chosen"),
        (lambda h, p: h.turn([p[0], 987654], 90), "no longer in the stack"),
        (lambda h, p: h.split(p[0], (5, 5), (5, 5)), "no length"),
        (lambda h, p: h.split(p[0], (5, 5), (5.5, 5)), "no length"),
        (lambda h, p: h.sort(p, "number"), "No number was read"),
    ],
)
def test_what_cannot_be_done_is_said_and_changes_nothing(stack, ids, do, says):
    before = look(stack)
    with pytest.raises(Refused, match=says):
        do(hand(stack), ids)
    assert look(stack) == before


def test_a_page_that_is_not_measured_cannot_be_turned(stack, pages):
    with pytest.raises(Refused, match="wait a moment"):
        hand(stack).turn([pages(1)[0].pk], 90)


def test_the_history_tells_how_much_more_there_is_than_it_lists(client, stack, ids, monkeypatch):
    post(client, stack, do="reverse", pages=ids)
    monkeypatch.setattr(changes, "_HISTORY", 1)
    told = answer(client.get(f"/api/v1/stacks/{stack.pk}/changes"))
    assert (len(told["changes"]), told["count"]) == (1, 2)


def test_a_reason_for_recapture_is_kept_in_whole_or_refused(client, stack, ids):
    assert post(client, stack, do="rescan", pages=ids[:1], why="x" * 200).status_code == 200
    assert Page.objects.get(pk=ids[0]).rescan == "x" * 200
    refused = post(client, stack, do="rescan", pages=ids[:1], why="x" * 201)
    assert refused.status_code == 422
    assert "200" in answer(refused)["detail"]
    assert Page.objects.get(pk=ids[0]).rescan == "x" * 200


def test_over_http(client, stack, ids):
    done = answer(post(client, stack, do="move", pages=ids[:2], after=ids[4]))
    assert (done["what"], done["by"], done["state"]) == ("Moved 2 pages", "keeper", "done")
    told = answer(client.get(f"/api/v1/stacks/{stack.pk}/changes"))
    assert [row["what"] for row in told["changes"]] == ["Moved 2 pages", "Added 5 files"]
    assert (told["undo"], told["redo"]) == (done["id"], None)
    assert client.post(f"/api/v1/stacks/{stack.pk}/changes/{done['id']}/undo").status_code == 200
    assert order_of(stack.pk) == ids
    earlier = told["changes"][-1]["id"]
    assert client.post(f"/api/v1/stacks/{stack.pk}/changes/{earlier}/redo").status_code == 200  # it stands already
    assert client.post(f"/api/v1/stacks/{stack.pk}/changes/{done['id'] + 1}/undo").status_code == 409
    assert client.post(f"/api/v1/stacks/{stack.pk}/changes/{done['id']}/redo").status_code == 200
    stale = post(client, stack, do="reverse", pages=ids, seen=1)
    assert stale.status_code == 409
    assert "Somebody else" in answer(stale)["detail"]
    assert post(client, stack, do="juggle", pages=ids).status_code == 422


def test_the_last_change_is_turned_once_under_each_nonce(client, stack, ids):
    def turn(way: str, nonce: str):
        body = {"way": way, "nonce": nonce}
        return client.post(f"/api/v1/stacks/{stack.pk}/changes/last", body, content_type="application/json")

    first = answer(post(client, stack, do="move", pages=ids[:2], after=ids[4]))
    moved = order_of(stack.pk)
    second = answer(post(client, stack, do="reverse", pages=ids))
    undone = answer(turn("undo", "under-one"))
    assert (undone["id"], undone["state"]) == (second["id"], "undone")
    assert undone["count"] > second["count"]
    assert answer(turn("undo", "under-one"))["id"] == second["id"]  # its answer was lost, and it is asked for again
    assert order_of(stack.pk) == moved
    assert answer(turn("undo", "under-two"))["id"] == first["id"]
    assert order_of(stack.pk) == ids
    assert answer(turn("redo", "again-one"))["id"] == first["id"]
    assert answer(turn("redo", "again-one"))["state"] == "done"
    assert order_of(stack.pk) == moved
    assert turn("juggle", "under-six").status_code == 422


def test_nothing_to_turn_is_said(client, stack, ids):
    for way in ("undo", "redo"):
        body = {"way": way, "nonce": "over-and-over"}
        while (said := client.post(f"/api/v1/stacks/{stack.pk}/changes/last", body, "application/json")).status_code == 200:
            body["nonce"] += "!"
        assert answer(said)["detail"] == f"There is nothing to {way}."


@pytest.mark.parametrize(
    ("do", "order"),
    [
        ("reverse", [4, 2, 1, 0, 3]), ("deal", [3, 1, 4, 0, 2]), ("interleave", [3, 2, 0, 4, 1]),
        ("interleave from behind", [3, 4, 0, 2, 1]), ("sort by name", [0, 1, 2, 3, 4]),
    ],
)  # fmt: skip
def test_every_rearrangement_has_its_word(client, stack, ids, do, order):
    """Each word does what it says to pages that lie in the order 3, 0, 1, 2, 4."""
    hand(stack).move([ids[3]], None)
    assert post(client, stack, do=do, pages=ids).status_code == 200
    assert order_of(stack.pk) == [ids[place] for place in order]


def test_only_the_order_is_told_when_pages_move(client, stack, ids):
    before = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["change"]
    hand(stack).reverse(ids)
    news = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages?since={before}"))
    assert (news["pages"], news["order"]) == ([], ids[::-1])


def test_sorting_by_time_asks_the_camera_then_the_file_then_the_arrival(client, stack, pages):
    first, second, third = pages(3)
    record([Outcome("expand", first.opened_id, {"frames": 1, "origin": {"taken": "1927-06-09T12:00:00Z"}})])
    Source.objects.filter(pk=second.source_id).update(modified_at=datetime(1927, 6, 9, 11, tzinfo=UTC))
    hand(stack).sort([first.pk, second.pk, third.pk], "time")
    assert order_of(stack.pk) == [second.pk, first.pk, third.pk]


def test_the_treatment_is_a_change_that_can_be_undone(client, stack, pages):
    blank = walk(pages(1)[0], until="render", ink_percent=0.0, marks=0)
    assert blank.aside == "blank"
    treat = {"do": "treat", "treatment": "single-sided", "new_document_after": "blank sheets"}
    change = answer(post(client, stack, **treat))
    assert Page.objects.get(pk=blank.pk).aside == ""
    said = answer(client.get(f"/api/v1/stacks/{stack.pk}"))
    assert (said["treatment"], said["new_document_after"]) == ("single-sided", "blank sheets")
    assert post(client, stack, **treat).status_code == 422
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{change['id']}/undo")
    assert Page.objects.get(pk=blank.pk).aside == "blank"
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}"))["treatment"] == "everyday"
    assert post(client, stack, do="treat", treatment="bleach").status_code == 422


def test_where_documents_begin_is_told_with_the_pages(client, stack, pages):
    made = pages(4)
    walk(made[0])
    walk(made[1], until="render", separator=True)
    walk(made[2])
    walk(made[3])
    hand(stack).mark_break([made[3].pk], True)
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["starts"] == [made[0].pk, made[2].pk, made[3].pk]
