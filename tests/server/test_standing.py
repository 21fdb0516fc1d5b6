"""Where a page stands follows from which of the results that it names there are, in every case."""

import pytest

from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import counts_of
from hollowstack.server.stacks.standing import Named, settle, stand

MADE, FAILED = Result.State.MADE, Result.State.FAILED
WHOLE = Named("o", "m", "c", "r")


@pytest.mark.parametrize(
    ("page", "results", "stands"),
    [
        (Named("o", None, None, None), {}, ("open", 0)),
        (Named("o", None, None, None), {"o": FAILED}, ("failed", 0)),
        (WHOLE, {}, ("open", 0)),
        (WHOLE, {"m": MADE, "c": MADE, "r": MADE}, ("open", 0)),
        (Named("o", "m", None, None), {"o": MADE}, ("measure", 1)),
        (Named("o", "m", None, None), {"o": MADE, "m": FAILED}, ("failed", 2)),
        (WHOLE, {"o": MADE, "m": MADE}, ("correct", 2)),
        (WHOLE, {"o": MADE, "m": MADE, "c": FAILED}, ("failed", 3)),
        (WHOLE, {"o": MADE, "m": MADE, "c": MADE}, ("read", 3)),
        (WHOLE, {"o": MADE, "m": MADE, "c": MADE, "r": FAILED}, ("failed", 4)),
        (WHOLE, {"o": MADE, "m": MADE, "c": MADE, "r": MADE}, ("ready", 4)),
        (WHOLE._replace(reading=None), {"o": MADE, "m": MADE, "c": MADE}, ("ready", 3)),
        (WHOLE._replace(reading=None, aside="blank"), {"o": MADE, "m": MADE, "c": MADE}, ("aside", 3)),
        (WHOLE._replace(aside="blank"), {"o": MADE, "m": MADE}, ("correct", 2)),
        (WHOLE._replace(to_plan=True), {"o": MADE, "m": MADE, "c": FAILED, "r": MADE}, ("correct", 2)),
    ],
)
def test_where_a_page_stands(page, results, stands):
    assert stand(page, results) == stands


@pytest.mark.django_db
def test_rows_are_brought_up_to_date_and_only_those_that_were_not(stack, pages, django_assert_num_queries):
    first, second = pages(2)
    Result.objects.create(key=first.opened_id, step="expand", state=MADE, body={"frames": 1})
    Page.objects.filter(pk=first.pk).update(measured_id="m")
    with django_assert_num_queries(3):
        settle(stack.pages.all())
    assert [page.state for page in stack.pages.all()] == ["measure", "open"]
    with django_assert_num_queries(2):
        settle(stack.pages.all())
    settle(stack.pages.none())
    assert second.state == "open"


@pytest.mark.django_db
def test_a_page_that_failed_is_counted_in_no_step(stack, pages):
    """Or the steps after the one that it failed in would never be done."""
    for page, (state, passed) in zip(
        pages(5), [("failed", 0), ("failed", 2), ("aside", 3), ("ready", 4), ("correct", 2)], strict=True
    ):
        Page.objects.filter(pk=page.pk).update(state=state, passed=passed)
    told = counts_of(stack.pk)
    assert (told.pages, told.failed, told.aside, told.ready) == (5, 2, 1, 1)
    assert (told.opened, told.measured, told.corrected, told.read) == (3, 3, 2, 1)
