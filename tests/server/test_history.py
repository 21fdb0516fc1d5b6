"""Undo and redo of every kind of change, in any order, with files coming in and pages measured in between."""

from collections.abc import Callable
from typing import Any

from django.core.exceptions import ObjectDoesNotExist
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from hollowstack.core.page.errors import HollowStackError
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.intake import batches
from hollowstack.server.stacks import history, services
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Change, Page, Source, Stack
from hollowstack.server.stacks.standing import NAMED
from tests.examples import about
from tests.server.conftest import CLEAN, MEASURED, READ, sha

_OF_THE_ENGINE = ("rendered_id", "reading_id")
"""Named once a page has been measured, which another page of the same file may bring about at any time."""
Picture = dict[str, Any]
_FIELDS = ("override", "breaks", "rescan", "source_id", "frame", "plan", "aside", "rendered_id", "reading_id")


def picture(stack: Stack) -> Picture:
    """All that a change by hand may touch: pages in their order with their fields, and what goes for the whole stack."""
    pages = Page.objects.filter(stack=stack, removed=False)
    now = Stack.objects.get(pk=stack.pk)
    return {
        "pages": {pk: values for pk, *values in pages.values_list("pk", *_FIELDS)},
        "stack": (now.treatment, now.language, now.read_later),
    }


def same(now: Picture, then: Picture, late: set[int]) -> None:
    """As it was, but for pages of a file that came late into a batch that is in."""
    assert {pk for pk in now["pages"] if pk not in late} | set(then["pages"]) == set(then["pages"])
    differing = [
        (pk, name, was, became)
        for pk, fields in then["pages"].items()
        for name, was, became in zip(_FIELDS, fields, now["pages"].get(pk, [None] * len(fields)), strict=True)
        if was != became and name != "plan" and (was is not None or name not in _OF_THE_ENGINE)
    ]
    assert differing == []
    assert [pk for pk in now["pages"] if pk in then["pages"]] == list(then["pages"])
    assert now["stack"] == then["stack"]


class Hand:
    """Does one thing after another to a stack, and remembers how it was before each."""

    def __init__(self, draw: Callable[[st.SearchStrategy[Any]], Any]) -> None:
        self.draw = draw
        self.stack = services.create_stack("Box", None)
        self.files = 0
        self.late: set[int] = set()
        self.open_batches: list[tuple[int, int]] = []
        self.done: list[tuple[Picture, Picture]] = []
        self.undone: list[tuple[Picture, Picture]] = []
        self.took_place = 0
        self.load()
        self.load()

    def pages(self) -> list[int]:
        return services.order_of(self.stack.pk)

    def some(self) -> list[int]:
        return (
            self.draw(st.lists(st.sampled_from(self.pages()), min_size=1, max_size=3, unique=True)) if self.pages() else []
        )

    def one(self) -> int:
        return self.draw(st.sampled_from(self.pages())) if self.pages() else 0

    def arranging(self) -> Arranging:
        return Arranging(self.stack.pk, None, Stack.objects.get(pk=self.stack.pk).change)

    def step(self) -> None:
        before, count = picture(self.stack), Change.objects.count()
        try:
            getattr(self, self.draw(st.sampled_from(self.CHANGES)))()
        except (HollowStackError, ObjectDoesNotExist):
            assert picture(self.stack) == before
            assert Change.objects.count() == count
            return
        if Change.objects.count() > count:
            self.done.append((before, picture(self.stack)))
            self.undone.clear()
            self.took_place += 1

    CHANGES = (
        "move", "turn", "hold", "mark", "again", "split", "split", "unsplit", "correct", "treat", "read", "delete", "restore",
        "load", "replace", "reverse",
    )  # fmt: skip

    def move(self) -> None:
        self.arranging().move(self.some(), self.draw(st.sampled_from([None, *self.pages()])))

    def reverse(self) -> None:
        self.arranging().reverse(self.some())

    def turn(self) -> None:
        self.arranging().turn(self.some(), self.draw(st.sampled_from([90, 180, 270])))

    def hold(self) -> None:
        self.arranging().aside(self.some(), self.draw(st.sampled_from([True, False, None])))

    def mark(self) -> None:
        self.arranging().mark_break(self.some(), self.draw(st.booleans()))

    def again(self) -> None:
        self.arranging().mark_rescan(self.some(), self.draw(st.sampled_from(["blurred", ""])))

    def split(self) -> None:
        across = self.draw(st.integers(300, 700))
        self.arranging().split(self.one(), (across, 0), (across, 1400))

    def unsplit(self) -> None:
        halves = [pk for pk, fields in picture(self.stack)["pages"].items() if "split" in fields[0]]
        self.arranging().unsplit(self.draw(st.sampled_from(halves)) if halves else self.one())

    def correct(self) -> None:
        wish = self.draw(st.sampled_from([{"crop": False}, {"clear": False}, {"colour": "grey"}, {"crop": None}]))
        self.arranging().correct(self.some(), wish)

    def treat(self) -> None:
        self.arranging().treat(self.draw(st.sampled_from(["everyday", "as-captured"])), None, None)

    def read(self) -> None:
        self.arranging().read_in(self.draw(st.sampled_from(["eng", "deu", "eng+deu"])))

    def delete(self) -> None:
        self.arranging().delete(self.some())

    def restore(self) -> None:
        gone = Page.objects.filter(stack=self.stack, removed=True).exclude(deleted_at=None).values_list("pk", flat=True)
        self.arranging().restore(list(gone)[:2])

    def load(self) -> None:
        after = self.draw(st.sampled_from([None, *self.pages()])) if self.pages() else None
        batch = batches.open_batch(self.stack.pk, None, after=after)
        for index in range(self.draw(st.integers(1, 2))):
            self.add(batch.pk, index)
        self.open_batches.append((batch.pk, 2))

    def replace(self) -> None:
        page = self.one()
        batch = batches.open_batch(self.stack.pk, None, record={"instead": page}, silent=True)
        self.add(batch.pk, 0)

    def add(self, batch: int, index: int) -> Page:
        number = self.draw(st.sampled_from([self.files + 1, 1]))  # the same file twice is a file
        page = batches.add_file(batch, batches.Coming(index, f"file {self.files + 1}", sha(number), 1000))
        self.files += 1
        self.work(page)
        return page

    def work(self, page: Page) -> None:
        """As the engine would, as far as it gets."""
        until = self.draw(st.sampled_from(["expand", "measure", "read"]))
        bodies = {"expand": {"frames": 1}, "measure": {"measurements": MEASURED}, "render": CLEAN, "read": READ}
        for step, body in bodies.items():
            key = getattr(Page.objects.get(pk=page.pk), NAMED[step])
            if key is None or Page.objects.get(pk=page.pk).state == "ready":
                return
            record([Outcome(step, key, body)])
            if step == until:
                return

    def late_file(self) -> None:
        """One more file of a batch, when other things have been done since."""
        batch, index = self.draw(st.sampled_from(self.open_batches))
        self.open_batches.remove((batch, index))
        self.open_batches.append((batch, index + 1))
        self.late.add(self.add(batch, index).pk)

    def undo(self) -> None:
        if (change := history.next_to_undo(self.stack)) is None or not self.done:
            return
        before, after = self.done.pop()
        history.undo(self.stack.pk, change.pk)
        same(picture(self.stack), before, self.late)
        self.undone.append((before, after))

    def redo(self) -> None:
        if (change := history.next_to_redo(self.stack)) is None or not self.undone:
            return
        before, after = self.undone.pop()
        history.redo(self.stack.pk, change.pk)
        same(picture(self.stack), after, self.late)
        self.done.append((before, after))


class Histories(TestCase):
    """Each example is a stack of its own."""

    @settings(max_examples=about(6), suppress_health_check=list(HealthCheck), phases=[Phase.generate])
    @given(st.data())
    def test_undone_it_is_as_it_was_and_done_again_as_it_became(self, data: st.DataObject) -> None:
        hand = Hand(data.draw)
        for _ in range(60):
            what = data.draw(st.sampled_from(["step", "step", "step", "step", "undo", "redo", "late_file"]))
            getattr(hand, what)()
            if hand.took_place >= 32:
                break
        while hand.done:
            hand.undo()
        while hand.undone:
            hand.redo()
        assert Source.objects.filter(stack=hand.stack).count() == hand.files
