"""Findings are kept, judged once, and come up again when what they judge has changed; everything can be undone."""

from typing import get_args

import pytest

from hollowstack.core.check.finding import Check
from hollowstack.core.check.kinds import KINDS
from hollowstack.server.accounts.rights import Role
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.inspection.checking import check_some
from hollowstack.server.intake import batches
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page, Stack, Verdict
from tests.server.conftest import CLEAN, MEASURED, READ, answer, sha, walk
from tests.server.test_rights import somebody

UNSURE = {"turn_confidence": 0.0}
"""Measured so that nothing tells which way is up."""


def now(page: Page) -> Page:
    return Page.objects.get(pk=page.pk)


def change(client, stack, **doing):
    body = {"seen": Stack.objects.get(pk=stack.pk).change, "doing": doing}
    return client.post(f"/api/v1/stacks/{stack.pk}/changes", body, content_type="application/json")


def checked() -> None:
    while check_some():
        pass


def findings(client, stack) -> list[dict]:
    checked()
    return answer(client.get(f"/api/v1/stacks/{stack.pk}/findings"))


def named(finding: dict) -> dict:
    return {name: finding[name] for name in ("page", "kind", "judged")}


def test_what_is_worth_a_look_is_kept_with_its_page(client, stack, pages):
    page, good = pages(2)
    walk(page, **UNSURE, streaks=[[[10, 0], [12, 0], [12, 1400], [10, 1400]]])
    walk(good)
    streak, tilted = findings(client, stack)
    assert (tilted["kind"], tilted["page"], tilted["title"], tilted["remedy"], tilted["tool"]) == (
        "orientation", page.pk, "Perhaps not upright", "bench", "",
    )  # fmt: skip
    assert (streak["kind"], streak["spot"], streak["remedy"]) == ("streak", [10, 0, 2, 1400], "recapture")
    assert streak["clean_spot"] is not None
    assert (now(page).open_findings, now(good).open_findings) == (2, 0)
    counts = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["counts"]
    assert counts["inspect"] == 2


def test_found_fine_it_waits_no_more(client, stack, pages):
    page = walk(pages(1)[0], **UNSURE)
    (finding,) = findings(client, stack)
    made = answer(change(client, stack, do="judge", findings=[named(finding)], fine=True))
    assert made["what"].startswith("Found fine as it is: “Too little text")
    (fine,) = findings(client, stack)
    assert (fine["fine"]["by"], now(page).open_findings) == ("keeper", 0)
    (row,) = answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["pages"]
    assert row["verdict"] == "pass"
    assert change(client, stack, do="judge", findings=[named(finding)], fine=True).status_code == 422


def test_a_verdict_is_undone_and_made_again(client, stack, pages):
    page = walk(pages(1)[0], **UNSURE)
    (finding,) = findings(client, stack)
    made = answer(change(client, stack, do="judge", findings=[named(finding)], fine=True))
    at = Verdict.objects.get().at
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{made['id']}/undo")
    assert (now(page).open_findings, Verdict.objects.count()) == (1, 0)
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{made['id']}/redo")
    row = Verdict.objects.get()
    assert (now(page).open_findings, row.at, row.by.get_username()) == (0, at, "keeper")


def test_a_verdict_is_taken_back(client, stack, pages):
    page = walk(pages(1)[0], **UNSURE)
    (finding,) = findings(client, stack)
    assert change(client, stack, do="judge", findings=[named(finding)], fine=False).status_code == 422
    change(client, stack, do="judge", findings=[named(finding)], fine=True)
    made = answer(change(client, stack, do="judge", findings=[named(finding)], fine=False))
    assert (made["what"][:22], now(page).open_findings) == ("Took back that it is f", 1)
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{made['id']}/undo")
    assert (now(page).open_findings, Verdict.objects.count()) == (0, 1)


@pytest.mark.parametrize(("kind", "stands"), [("streak", True), ("orientation", False)])
def test_a_verdict_stands_as_long_as_what_it_judges(client, stack, pages, kind, stands):
    """A streak is of the capture; whether a page is upright is judged by the corrected one."""
    page = walk(pages(1)[0], **UNSURE, streaks=[[[10, 0], [12, 0], [12, 1400], [10, 1400]]])
    finding = next(one for one in findings(client, stack) if one["kind"] == kind)
    change(client, stack, do="judge", findings=[named(finding)], fine=True)
    answer(change(client, stack, do="correct", pages=[page.pk], correction={"skew": 2.5}))
    again = now(page)
    record([Outcome("render", again.rendered_id, CLEAN)])
    record([Outcome("read", now(page).reading_id, READ)])
    found = next(one for one in findings(client, stack) if one["kind"] == kind)
    assert (found["fine"] is not None) is stands
    assert now(page).open_findings == (1 if stands else 2)


def test_another_image_is_judged_anew(client, stack, pages):
    page, other = pages(2)
    page = walk(page, streaks=[[[10, 0], [12, 0], [12, 1400], [10, 1400]]])
    (finding,) = findings(client, stack)
    change(client, stack, do="judge", findings=[named(finding)], fine=True)
    Page.objects.filter(pk=page.pk).update(source=other.source, change=Stack.objects.get(pk=stack.pk).change + 1)
    found = next(one for one in findings(client, stack) if one["page"] == page.pk)
    assert found["fine"] is None


@pytest.mark.parametrize("how", ["files", "station"])
def test_a_page_captured_again_comes_up_for_a_look(client, stack, pages, how):
    """What was found on the image before is gone with it; the new one is looked at once."""
    page = walk(pages(1)[0], streaks=[[[10, 0], [12, 0], [12, 1400], [10, 1400]]])
    change(client, stack, do="rescan", pages=[page.pk], why="A streak")
    record = {"instead": page.pk} if how == "files" else {"station": "Quay", "place": "instead", "after": page.pk}
    batch = batches.open_batch(stack.pk, None, record=record, silent=True)
    if how == "files":
        batches.add_file(batch.pk, batches.Coming(0, "again.jpg", sha(77), 1000))
    else:  # the executor lays the image there itself
        made = batches.add_file(batch.pk, batches.Coming(0, "again.jpg", sha(77), 1000))
        batches.replace_page(batch, made.source, page.pk)
        made.delete()
    walk(now(page))
    (finding,) = findings(client, stack)
    assert (finding["kind"], finding["page"], finding["title"]) == ("new image", page.pk, "Recaptured")
    assert now(page).rescan == ""
    change(client, stack, do="judge", findings=[named(finding)], fine=True)
    assert now(page).open_findings == 0


def test_what_has_changed_meanwhile_is_not_judged(client, stack, pages):
    walk(pages(1)[0], **UNSURE)
    (finding,) = findings(client, stack)
    refused = change(client, stack, do="judge", findings=[{**named(finding), "judged": "0" * 64}], fine=True)
    assert (refused.status_code, "changed in the meantime" in answer(refused)["detail"]) == (409, True)
    assert change(client, stack, do="judge", findings=[], fine=True).status_code == 422


def test_pages_held_aside_wait_only_for_their_traces(client, stack, pages):
    page, traced = pages(2)
    page = walk(page, **UNSURE)
    traces = [[100, 100], [400, 100], [400, 300], [100, 300]]
    traced = walk(traced, marks=0, ink_percent=0.0, pale_traces=traces)
    answer(change(client, stack, do="aside", pages=[page.pk], aside=True))
    (finding,) = findings(client, stack)
    assert (finding["kind"], finding["page"], finding["spot"]) == ("blank", traced.pk, [100, 100, 300, 200])
    assert traced.aside == "blank"


def test_a_page_that_failed_is_a_finding(client, stack, pages):
    page = pages(1)[0]
    record([Outcome("expand", page.opened_id, None, "The image is incomplete.", Result.Kind.PAGE)])
    (finding,) = findings(client, stack)
    assert (finding["kind"], finding["verdict"], finding["message"]) == ("failed", "fail", "The image is incomplete.")


def test_that_a_page_failed_is_never_fine(client, stack, pages):
    page = pages(1)[0]
    record([Outcome("expand", page.opened_id, None, "The image is incomplete.", Result.Kind.PAGE)])
    (finding,) = findings(client, stack)
    assert (finding["kind"], finding["remedy"]) == ("failed", "again")
    answered = change(client, stack, do="judge", findings=[named(finding)], fine=True)
    assert answered.status_code == 422
    assert answer(answered)["detail"].startswith("A page that failed is in no document")


def test_a_damaged_file_is_a_finding(client, stack, pages):
    page = walk(pages(1)[0])
    master = page.source.master
    master.damaged_at = "2026-11-28T09:00:00Z"
    master.save()
    Page.objects.filter(pk=page.pk).update(change=Stack.objects.get(pk=stack.pk).change + 1)
    (finding,) = findings(client, stack)
    assert (finding["kind"], finding["verdict"]) == ("storage", "fail")


def test_checking_comes_to_an_end(client, stack, pages):
    """What it writes itself gives it nothing to do."""
    for page in pages(3):
        walk(page, **UNSURE)
    checked()
    before = Stack.objects.get(pk=stack.pk).change
    assert check_some() is False
    assert Stack.objects.get(pk=stack.pk).change == before


def test_inspectors_judge_and_readers_do_not(stack, pages, client):
    walk(pages(1)[0], **UNSURE)
    (finding,) = findings(client, stack)
    judging = {"do": "judge", "findings": [named(finding)], "fine": True}
    body = {"seen": Stack.objects.get(pk=stack.pk).change, "doing": judging}
    address = f"/api/v1/stacks/{stack.pk}/changes"
    assert somebody(Role.READER).post(address, body, content_type="application/json").status_code == 403
    assert somebody(Role.INSPECTOR).post(address, body, content_type="application/json").status_code == 200


def test_every_check_has_a_kind():
    assert set(get_args(Check)) == set(KINDS)


def test_what_waits_is_counted_as_the_view_counts_it(client, stack, pages):
    page, again = pages(2)
    for one in (page, again):
        walk(one, **UNSURE, streaks=[[[10, 0], [12, 0], [12, 1400], [10, 1400]]])
    checked()
    answer(change(client, stack, do="rescan", pages=[again.pk], why="A streak"))
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/pages"))["counts"]["inspect"] == 2


def test_a_page_tells_what_waits_on_it(client, stack, pages):
    page = walk(pages(1)[0], **UNSURE, streaks=[[[10, 0], [12, 0], [12, 1400], [10, 1400]]])
    streak = next(one for one in findings(client, stack) if one["kind"] == "streak")
    change(client, stack, do="judge", findings=[named(streak)], fine=True)
    told = answer(client.get(f"/api/v1/pages/{page.pk}"))["waiting"]
    assert [one["check"] for one in told] == ["orientation"]


def test_results_of_before_are_checked_like_others(client, stack, pages):
    """Readings made before there were sketches have none, and nothing fails by it."""
    page = walk(pages(1)[0])
    result = Result.objects.get(key=page.reading_id)
    result.body = {"words": 3, "mean_confidence": 40.0}
    result.save()
    Page.objects.filter(pk=page.pk).update(change=Stack.objects.get(pk=stack.pk).change + 1)
    (finding,) = findings(client, stack)
    assert (finding["kind"], finding["value"]) == ("reading", 40.0)
    assert MEASURED["turn"] == 0
