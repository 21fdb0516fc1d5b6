"""Papers under a stack's cover sheet go to that stack, whole and by a change that can be undone, or stay with a reason."""

from datetime import timedelta
from io import BytesIO

import pytest
import zxingcpp
from django.test import override_settings
from django.utils import timezone
from PIL import Image

from hollowstack.core.measure.content.sheet_code import COVER
from hollowstack.server.capture import slips
from hollowstack.server.capture.models import Run, Watch
from hollowstack.server.intake import batches
from hollowstack.server.shelf import cover_sheets
from hollowstack.server.shelf.cover_codes import code_of, stack_of
from hollowstack.server.stacks import bin as trash
from hollowstack.server.stacks import history, services
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import CoverSheet, Page, Source, Upload, Verdict
from tests.server.conftest import answer, sha, walk


@pytest.fixture
def letters(user):
    return services.create_stack("Letters 1928", user)


@pytest.fixture
def under(pages, stack, letters):
    """A page, the cover sheet of another stack, two pages behind it; all measured, and nothing came for a while."""
    made = pages(4)
    for page, cover in zip(made, ["", code_of(letters.pk), "", ""], strict=True):
        walk(page, until="render" if cover else "read", cover=cover)
    quiet()
    return made


def quiet(seconds: float = 4.0) -> None:
    """Nothing came for so long."""
    Source.objects.update(added_at=timezone.now() - timedelta(seconds=seconds))


def names(stack) -> list[str]:
    rows = Page.objects.filter(stack=stack, removed=False).order_by("position")
    return list(rows.values_list("source__name", flat=True))


def told(client, stack):
    return answer(client.get(f"/api/v1/stacks/{stack.pk}/cover-sheets"))


def test_what_lies_under_a_cover_sheet_is_filed_there_and_nothing_is_made_twice(client, under, stack, letters):
    assert cover_sheets.file_some()
    assert names(stack) == ["page 0.jpg", "page 1.jpg"]
    assert names(letters) == ["page 2.jpg", "page 3.jpg"]
    assert {page.state for page in letters.pages.all()} == {Page.State.READY}
    assert list(letters.pages.order_by("position").values_list("breaks", flat=True)) == [True, False]
    (one,) = told(client, stack)
    assert (one["page"], one["name"], one["filed"], one["left"]) == (under[1].pk, "Letters 1928", 2, 0)
    assert one["why_left"] == ""
    assert not cover_sheets.file_some()


def test_what_hands_did_to_a_page_goes_with_it(under, stack, letters):
    Page.objects.filter(pk=under[2].pk).update(override={"turn": 90}, language="deu", words={"a": {"text": "x", "count": 1}})
    Page.objects.filter(pk=under[3].pk).update(breaks=True)
    cover_sheets.file_some()
    assert list(letters.pages.order_by("position").values_list("breaks", flat=True)) == [True, True]
    page = letters.pages.order_by("position")[0]
    assert (page.override, page.language, page.words["a"]["text"]) == ({"turn": 90}, "deu", "x")
    assert page.plan["turn"] == 90


def test_what_was_found_fine_is_fine_there(user, under, stack, letters):
    since = timezone.now() - timedelta(days=1)
    one = {"stack": stack, "kind": "streak", "judged": "a", "by": user, "at": since}
    Verdict.objects.create(page=under[3], **one)
    Verdict.objects.create(page=under[0], **one)
    Verdict.objects.create(page=None, **one)
    cover_sheets.file_some()
    (there,) = letters.verdicts.all()
    assert there.page == letters.pages.order_by("position")[1]
    assert (there.kind, there.judged, there.by, there.at) == ("streak", "a", user, since)
    assert stack.verdicts.count() == 3


@pytest.mark.parametrize(("split_here", "count"), [(False, 2), (True, 1)])
def test_facing_pages_are_split_there_unless_they_were_made_one_here(pages, stack, letters, split_here, count):
    sheet, page = pages(2)
    walk(sheet, cover=code_of(letters.pk))
    treatment = {**stack.treatment, "split_facing": False}
    type(stack).objects.filter(pk=stack.pk).update(treatment=treatment)
    walk(page, gutter=[[500.0, 0.0], [505.0, 1400.0]], gutter_confidence=1.0)
    type(stack).objects.filter(pk=stack.pk).update(treatment={**treatment, "split_facing": split_here})
    quiet()
    cover_sheets.file_some()
    assert letters.pages.filter(removed=False).count() == count


def test_it_is_undone_here_and_then_stays(under, stack, letters):
    cover_sheets.file_some()
    change = stack.changes.last()
    assert change.what == "Filed 2 pages under “Letters 1928” by its cover sheet"
    history.undo(stack.pk, change.pk)
    assert names(stack) == [f"page {number}.jpg" for number in range(4)]
    assert not cover_sheets.file_some()
    assert len(names(letters)) == 2


def test_a_sheet_of_the_stack_itself_begins_a_document_and_moves_nothing(client, pages, stack):
    made = pages(3)
    for page, cover in zip(made, ["", code_of(stack.pk), ""], strict=True):
        walk(page, cover=cover)
    quiet()
    assert cover_sheets.file_some()
    assert len(names(stack)) == 3
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["starts"] == [made[0].pk, made[2].pk]
    assert told(client, stack)[0]["why_left"] == ""


def test_each_of_two_sheets_takes_what_lies_behind_it(user, pages, stack, letters):
    cards = services.create_stack("Cards", user)
    made = pages(5)
    for page, cover in zip(made, [code_of(letters.pk), "", code_of(cards.pk), "", ""], strict=True):
        walk(page, cover=cover)
    quiet()
    cover_sheets.file_some()
    assert names(letters) == ["page 1.jpg"]
    assert names(cards) == ["page 3.jpg", "page 4.jpg"]


@pytest.mark.parametrize("which", ["closed", "bin", "signed"])
def test_a_stack_that_takes_none_leaves_them_here_until_it_does(client, user, under, stack, letters, which):
    closed = {"closed_at": timezone.now(), "closed_by": "keeper"} if which == "closed" else {"signed_at": timezone.now()}
    if which == "bin":
        trash.delete_stack(letters.pk, user)
    else:
        type(letters).objects.filter(pk=letters.pk).update(**closed)
    assert cover_sheets.file_some()
    assert len(names(stack)) == 4
    (one,) = told(client, stack)
    assert (one["filed"], one["left"], one["in_bin"]) == (0, 2, which == "bin")
    assert one["why_left"].startswith("“Letters 1928” is in the bin" if which == "bin" else "“Letters 1928” is closed")
    assert not cover_sheets.file_some()
    type(letters).everything.filter(pk=letters.pk).update(closed_at=None, signed_at=None, deleted_at=None)
    assert cover_sheets.file_some()
    assert len(names(letters)) == 2
    assert told(client, stack)[0]["left"] == 0


def half(stack, batch, which: str, **more) -> Run:
    fields = {"settings": {"half": which}, "state": Run.State.DONE, "received": 4}
    return Run.objects.create(stack=stack, batch=batch, **fields | more)


@pytest.fixture
def backs(user, stack, under):
    """The backs of the four sheets, all measured: of the last sheet first, as they come when the bundle is turned over."""
    half(stack, under[0].source.batch, "fronts")
    batch = batches.open_batch(stack.pk, user)
    made = []
    for number in (3, 2, 1, 0):
        made.append(batches.add_file(batch.pk, batches.Coming(3 - number, f"back {number}.jpg", sha(40 + number), 1000)))
    for page in made:
        walk(page, until="read")
    half(stack, batch, "backs")
    quiet()
    return made


def test_fronts_go_with_their_backs_once_these_are_brought_together_with_them(client, user, under, backs, stack, letters):
    assert cover_sheets.file_some()
    assert (len(names(stack)), names(letters)) == (8, [])
    (one,) = told(client, stack)
    assert (one["left"], one["why_left"]) == (
        2, "they go to “Letters 1928” once their backs are in and brought together with them",
    )  # fmt: skip
    assert not cover_sheets.file_some()
    hand = Arranging(stack.pk, user, 10**6)
    hand.leaves([page.pk for page in under], [page.pk for page in backs], [], reverse=True)
    assert cover_sheets.file_some()
    assert names(stack) == ["page 0.jpg", "back 0.jpg", "page 1.jpg", "back 1.jpg"]
    assert names(letters) == ["page 2.jpg", "back 2.jpg", "page 3.jpg", "back 3.jpg"]
    assert told(client, stack)[0]["filed"] == 4
    history.undo(stack.pk, stack.changes.last().pk)
    assert len(names(stack)) == 8
    assert not cover_sheets.file_some()


def test_fronts_without_backs_are_a_load_like_any_other(under, stack, letters):
    half(stack, under[0].source.batch, "fronts", single=[0, 1, 2, 3])
    assert cover_sheets.file_some()
    assert len(names(letters)) == 2


def test_nothing_goes_before_the_backs_too_are_whole(user, under, backs, stack, letters):
    hand = Arranging(stack.pk, user, 10**6)
    hand.leaves([page.pk for page in under], [page.pk for page in backs], [], reverse=True)
    Page.objects.filter(pk=backs[0].pk).update(state=Page.State.MEASURE)
    assert not cover_sheets.file_some()
    Page.objects.filter(pk=backs[0].pk).update(state=Page.State.READY)
    assert cover_sheets.file_some()
    assert len(names(letters)) == 4


@pytest.mark.parametrize(
    ("two_sided", "place", "go"),
    [(True, 0, [2, 3]), (False, 0, [1, 2, 3]), (True, 1, [2, 3]), (True, 2, [])],
    ids=["its back stays", "one-sided", "a back that is a cover sheet", "its back is all there is"],
)
def test_the_back_of_a_cover_sheet_stays_with_it(pages, stack, letters, two_sided, place, go):
    made = pages(4)
    for number, page in enumerate(made):
        walk(page, cover=code_of(letters.pk) if number == place else "")
    Run.objects.create(stack=stack, batch=made[0].source.batch, settings={"two_sided": two_sided}, state=Run.State.DONE)
    quiet()
    cover_sheets.file_some()
    assert names(letters) == [f"page {number}.jpg" for number in go]


def test_a_sheet_of_another_installation_is_said_to_be_none_of_ours(client, pages, stack, letters):
    with override_settings(SECRET_KEY="elsewhere"):
        foreign = code_of(letters.pk)
    sheet, page = pages(2)
    walk(sheet, cover=foreign)
    walk(page)
    quiet()
    cover_sheets.file_some()
    assert len(names(stack)) == 2
    assert told(client, stack)[0]["why_left"] == "it is the cover sheet of no stack here"
    assert CoverSheet.objects.get().done


@pytest.mark.parametrize("code", ["", "7", "7 ", "x ABC", "٧ ABC", "-1 ABC"])
def test_what_is_no_code_is_no_stacks(code):
    assert stack_of(code) is None


def test_nothing_goes_before_the_batch_is_whole(under, stack, user):
    batch = under[0].source.batch
    upload = Upload.objects.create(batch=batch, index=9, name="late.jpg", bytes=9)
    assert not cover_sheets.file_some()
    upload.delete()
    run = Run.objects.create(stack=stack, batch=batch, settings={}, state=Run.State.STOPPED)
    assert not cover_sheets.file_some()
    Run.objects.filter(pk=run.pk).update(state=Run.State.DONE)
    quiet(3.5)
    assert not cover_sheets.file_some()
    quiet(4.0)
    walk(Page.objects.get(pk=under[3].pk))
    Page.objects.filter(pk=under[3].pk).update(state=Page.State.MEASURE)
    assert not cover_sheets.file_some()
    Page.objects.filter(pk=under[3].pk).update(state=Page.State.READY)
    assert cover_sheets.file_some()


@pytest.mark.parametrize(("watched", "hours", "goes"), [(False, 0.9, True), (False, 1.0, False), (True, 30, True)])
def test_what_comes_later_goes_too_as_long_as_more_is_expected(under, stack, letters, watched, hours, goes):
    batch = under[0].source.batch
    Watch.objects.create(stack=stack, batch=batch, on=watched)
    quiet(hours * 3600)
    cover_sheets.file_some()
    assert CoverSheet.objects.get().done is not goes
    walk(batches.add_file(batch.pk, batches.Coming(9, "late.jpg", sha(9), 1000)))
    quiet()
    assert cover_sheets.file_some() is goes
    assert len(names(letters)) == (3 if goes else 2)


def test_a_sheet_put_back_among_the_pages_files_nothing(under, stack):
    Page.objects.filter(pk=under[1].pk).update(aside="", state=Page.State.READY)
    assert not cover_sheets.file_some()


def test_a_closed_stack_sends_nothing_away(under, stack):
    type(stack).objects.filter(pk=stack.pk).update(closed_at=timezone.now())
    assert not cover_sheets.file_some()


def test_some_images_of_a_file_go_and_the_others_never_come_along(pages, stack, letters):
    (page,) = pages(1)
    walk(page, until="expand")
    batches.open_source(page.source, 4)
    frames = list(Page.objects.filter(source=page.source).order_by("frame"))
    for one, cover in zip(frames, ["", code_of(letters.pk), "", ""], strict=True):
        walk(one, cover=cover)
    quiet()
    cover_sheets.file_some()
    assert list(letters.pages.filter(removed=False).order_by("position").values_list("frame", flat=True)) == [2, 3]
    batches.open_source(letters.sources.get(), 4)
    assert letters.pages.filter(removed=False).count() == 2


def test_an_order_slip_binds_nothing_before_its_sheets_are_looked_at(under, stack, user):
    Run.objects.create(stack=stack, batch=under[0].source.batch, settings={}, state=Run.State.DONE, bind_as="All", by=user)
    slips.bind_what_is_ready()
    assert not stack.documents.exists()
    cover_sheets.file_some()
    slips.bind_what_is_ready()
    assert stack.documents.get().pages.count() == 1


def test_the_printed_code_is_read_again_as_the_stacks(client, stack):
    drawn = client.get(f"/api/v1/stacks/{stack.pk}/cover-code")
    assert drawn["Content-Type"] == "image/png"
    (code,) = zxingcpp.read_barcodes(Image.open(BytesIO(drawn.content)))
    assert stack_of(code.text.removeprefix(COVER)) == stack.pk
    assert client.get("/api/v1/stacks/99999/cover-code").status_code == 404
