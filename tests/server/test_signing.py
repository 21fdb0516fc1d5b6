"""Samples are drawn, gone through and decided by their plan; a stack that is signed for is closed until it is reopened."""

import io
import json
import re

import pikepdf
import pytest
from django.db.models import F

from hollowstack.core.check.sampling import draw_sample
from hollowstack.server.accounts.models import Entry
from hollowstack.server.accounts.rights import Role
from hollowstack.server.inspection.models import PageFacts, Sample, Signature, StackCheck
from hollowstack.server.stacks.models import Batch, Page, Stack
from tests.server.conftest import answer, walk
from tests.server.test_inspection import UNSURE, change, checked, findings, named
from tests.server.test_rights import somebody

SIX = 6


@pytest.fixture
def six(stack, pages) -> list[Page]:
    """Six pages that are ready: all of them are drawn for level III, AQL 4.0."""
    made = [walk(page) for page in pages(SIX)]
    checked()
    return made


def draw(client, stack, **asked):
    body = {"level": "III", "aql": "4.0", **asked}
    return client.post(f"/api/v1/stacks/{stack.pk}/samples", body, content_type="application/json")


def look(client, sample, page, worst="", note="", seen=None):
    body = {"worst": worst, "note": note, "seen": seen or Page.objects.get(pk=page).rendered_id}
    return client.put(f"/api/v1/samples/{sample['id']}/looks/{page}", body, content_type="application/json")


def decide(client, sample, then):
    return client.put(f"/api/v1/samples/{sample['id']}/decision", {"then": then}, content_type="application/json")


def sign(client, stack):
    return client.post(f"/api/v1/stacks/{stack.pk}/signatures", {}, content_type="application/json")


def reopen(client, stack, why):
    return client.post(f"/api/v1/stacks/{stack.pk}/reopening", {"why": why}, content_type="application/json")


def signing(client, stack):
    return answer(client.get(f"/api/v1/stacks/{stack.pk}/signing"))


def refusal(response) -> str:
    assert response.status_code == 422, response.content
    return response.json()["detail"]


def accepted(client, stack) -> dict:
    checked()
    sample = answer(draw(client, stack))
    for page in sample["pages"]:
        answer(look(client, sample, page))
    return answer(decide(client, sample, "accept"))


def test_a_plan_is_told_before_it_is_drawn(client, stack, six):
    plan = answer(client.get(f"/api/v1/stacks/{stack.pk}/plan?level=II&aql=4.0"))
    assert (plan["lot"], plan["plan"]) == (
        SIX, {"letter": "B", "size": 3, "accept": 0, "reject": 1, "severity": "normal"},
    )  # fmt: skip
    assert plan["to_do"] == []
    assert plan["curve"][0] == [0.0, 1.0]
    chances = [chance for _, chance in plan["curve"]]
    assert chances == sorted(chances, reverse=True)
    assert chances[-1] < 1


def test_the_same_is_drawn_again_by_its_seed(client, stack, six):
    sample = answer(draw(client, stack, level="II"))
    assert len(sample["pages"]) == 3
    assert [six[place].pk for place in draw_sample(SIX, 3, sample["seed"])] == sample["pages"]


@pytest.mark.parametrize(
    ("do", "told"),
    [
        (lambda page: Page.objects.filter(pk=page.pk).update(open_findings=2), "2 findings wait for somebody"),
        (lambda page: Page.objects.filter(pk=page.pk).update(rescan="Soft"), "1 page is to recapture"),
        (lambda page: Page.objects.filter(pk=page.pk).update(state="failed"), "1 page failed"),
        (lambda page: Page.objects.filter(pk=page.pk).update(state="read"), "1 page is still being worked on"),
        (lambda page: Page.objects.update(aside="by hand"), "There are no pages to look at"),
    ],
)
def test_what_is_to_be_done_first(client, stack, six, do, told):
    do(six[0])
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/plan"))["to_do"][0].startswith(told)
    assert refusal(draw(client, stack)).startswith(told)
    assert not Sample.objects.exists()


def test_what_waits_on_pages_held_aside_and_on_the_stack_is_to_be_done_first(client, stack, six):
    """A blank page with traces may have pale writing on it; a batch may have brought too few images."""
    Page.objects.filter(pk=six[0].pk).update(aside="blank", open_findings=1)
    Batch.objects.filter(stack=stack).update(record={"station": "Quay", "sheets": 9})
    StackCheck.objects.filter(stack=stack).update(done=0)
    Stack.objects.filter(pk=stack.pk).update(order_change=F("change"))
    PageFacts.objects.filter(page=six[0].pk).update(checked=1 << 40)
    checked()
    Page.objects.filter(pk=six[0].pk).update(open_findings=1)
    assert refusal(draw(client, stack)).startswith("2 findings wait for somebody")
    # A document is asked for its own pages alone.
    answer(change(client, stack, do="break", pages=[six[4].pk], on=True))
    checked()
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/plan?first={six[4].pk}"))["to_do"] == []


def test_what_is_not_checked_yet_is_waited_for(client, stack, six):
    PageFacts.objects.filter(page=six[2].pk).delete()
    assert refusal(draw(client, stack)) == "Pages are still being checked: wait a moment."
    checked()
    assert answer(draw(client, stack))["lot"] == SIX
    StackCheck.objects.filter(stack=stack).update(done=0)
    assert refusal(draw(client, stack)) == "Pages are still being checked: wait a moment."


def test_sources_are_named(client, stack, six):
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/plan"))["source"] == "somebody from files"
    Batch.objects.filter(stack=stack).update(record={"station": "Quay"}, by=Stack.objects.get(pk=stack.pk).created_by)
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/plan"))["source"] == "keeper at Quay"


def test_a_lot_is_accepted_once_its_sample_is_good(client, stack, six):
    sample = answer(draw(client, stack))
    for page in sample["pages"][:-1]:
        sample = answer(look(client, sample, page))
    assert sample["left"] == [sample["pages"][-1]]
    assert refusal(decide(client, sample, "accept")).startswith("1 page is still to be looked at")
    sample = answer(look(client, sample, sample["left"][0], worst="minor", note="a hair"))
    assert (sample["may_accept"], sample["may_reject"], sample["bad"]) == (True, False, 0)
    assert refusal(decide(client, sample, "return")).startswith("The plan does not say so")
    sample = answer(decide(client, sample, "accept"))
    assert (sample["state"], sample["decided_by"]) == ("accepted", "keeper")
    assert look(client, sample, sample["pages"][0]).status_code == 409


def test_a_note_is_kept_in_whole_or_refused(client, stack, six):
    sample = answer(draw(client, stack))
    assert "400 characters" in refusal(look(client, sample, sample["pages"][0], worst="minor", note="x" * 401))
    sample = answer(look(client, sample, sample["pages"][0], worst="minor", note="x" * 400))
    assert [one["note"] for one in sample["looks"]] == ["x" * 400]


@pytest.mark.parametrize("worst", ["major", "critical"])
def test_a_bad_sample_is_not_accepted(client, stack, six, worst):
    """The plan of these six is 3, 0, 1: one bad page is enough."""
    sample = answer(draw(client, stack))
    sample = answer(look(client, sample, sample["pages"][0], worst=worst, note="the foot is missing"))
    assert (sample["bad"], sample["may_reject"], sample["may_accept"]) == (1, True, False)
    for page in sample["pages"][1:]:
        sample = answer(look(client, sample, page))
    assert refusal(decide(client, sample, "accept")).startswith("The plan does not allow it")


def test_critical_pages_are_never_borne(client, stack, pages):
    """Of 26 pages 13 are drawn for AQL 4.0 and level III, and one may be bad; a critical one may not."""
    for page in pages(26):
        walk(page)
    checked()
    sample = answer(draw(client, stack))
    assert (len(sample["pages"]), sample["plan"]["accept"]) == (13, 1)
    sample = answer(look(client, sample, sample["pages"][0], worst="major"))
    assert not sample["may_reject"]
    sample = answer(look(client, sample, sample["pages"][0], worst="critical"))
    assert sample["may_reject"]


def test_given_back_the_list_is_among_the_findings(client, stack, six):
    sample = answer(draw(client, stack))
    page = sample["pages"][0]
    answer(look(client, sample, page, worst="major", note="the foot is missing"))
    sample = answer(decide(client, sample, "return"))
    assert (sample["state"], sample["returned"]) == ("rejected", True)
    (finding,) = findings(client, stack)
    assert (finding["page"], finding["kind"], finding["remedy"]) == (page, "inspected", "bench")
    assert finding["message"] == "keeper found a major defect in the sample: the foot is missing"
    # Put right, the page is another one, and the next sample says how good it is.
    answer(change(client, stack, do="turn", pages=[page], degrees=180))
    walk(Page.objects.get(pk=page))
    assert findings(client, stack) == []


def test_after_a_rejection_all_pages_can_be_gone_through(client, stack, six):
    sample = answer(draw(client, stack, level="II"))
    bad = sample["pages"][0]
    sample = answer(look(client, sample, bad, worst="major"))
    sample = answer(decide(client, sample, "whole"))
    assert (sample["everything"], sample["state"], sample["pages"]) == (True, "open", [page.pk for page in six])
    for page in sample["left"]:
        sample = answer(look(client, sample, page))
    assert not sample["may_accept"]
    sample = answer(look(client, sample, bad))
    assert answer(decide(client, sample, "accept"))["state"] == "accepted"


def test_a_page_that_changed_is_to_be_looked_at_again(client, stack, six):
    sample = answer(draw(client, stack))
    page = sample["pages"][0]
    seen = Page.objects.get(pk=page).rendered_id
    answer(look(client, sample, page))
    answer(change(client, stack, do="turn", pages=[page], degrees=90))
    walk(Page.objects.get(pk=page))
    now = signing(client, stack)["samples"][0]
    assert page in now["left"]
    assert not next(one for one in now["looks"] if one["page"] == page)["stands"]
    assert look(client, sample, page, seen=seen).status_code == 409
    assert look(client, sample, page).status_code == 200


def test_what_was_said_is_taken_back(client, stack, six):
    sample = answer(draw(client, stack))
    page = sample["pages"][0]
    answer(look(client, sample, page, worst="critical"))
    sample = answer(client.delete(f"/api/v1/samples/{sample['id']}/looks/{page}"))
    assert (sample["bad"], page in sample["left"]) == (0, True)


def test_pages_that_were_not_drawn_are_not_judged(client, stack, six):
    sample = answer(draw(client, stack, level="II"))
    other = next(page.pk for page in six if page.pk not in sample["pages"])
    assert refusal(look(client, sample, other)).startswith("This page is not in the sample")


def test_another_sample_withdraws_the_open_one(client, stack, six):
    first = answer(draw(client, stack))
    second = answer(draw(client, stack))
    assert [one["id"] for one in signing(client, stack)["samples"]] == [second["id"]]
    assert look(client, first, first["pages"][0]).status_code == 409


def test_a_document_is_a_lot(client, stack, six):
    answer(change(client, stack, do="break", pages=[six[4].pk], on=True))
    checked()
    sample = answer(draw(client, stack, first=six[4].pk))
    assert (sample["lot"], sample["pages"]) == (2, [six[4].pk, six[5].pk])
    for page in sample["pages"]:
        answer(look(client, sample, page))
    answer(decide(client, sample, "accept"))
    assert signing(client, stack)["against"] == ["4 pages are in no accepted lot: draw a sample that they are in."]
    assert refusal(draw(client, stack, first=six[1].pk)).startswith("No document begins with this page")


def test_plans_follow_what_came_of_earlier_lots(client, stack, user):
    """Two lots of a source that were not accepted lead to a tightened plan (ISO 2859-1, 9.3)."""
    named_so = {"source": "", "level": "II", "aql": "4.0", "severity": "normal", "letter": "B", "accept": 0, "reject": 1}
    for _ in range(2):
        other = Stack.objects.create(name="Earlier", treatment=stack.treatment)
        sample = Sample.objects.create(stack=other, seed=1, lot=[[1, ""]] * 10, drawn=[], state="rejected", **named_so)
        Sample.objects.filter(pk=sample.pk).update(decided_at=sample.at)
    plan = answer(client.get(f"/api/v1/stacks/{stack.pk}/plan?level=II&aql=4.0"))
    assert (plan["earlier"], plan["plan"]["severity"]) == (2, "tightened")
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/plan?level=II&aql=2.5"))["earlier"] == 0


def test_what_was_gone_through_whole_was_not_accepted(client, stack, six):
    """Accepted in the end, it counts as a lot that was not (ISO 2859-1: original inspection alone counts)."""
    sample = answer(draw(client, stack, level="II"))
    answer(look(client, sample, sample["pages"][0], worst="major"))
    sample = answer(decide(client, sample, "whole"))
    for page in sample["pages"]:
        answer(look(client, sample, page))
    answer(decide(client, sample, "accept"))
    other = Sample.objects.get()
    Sample.objects.create(
        stack=Stack.objects.create(name="Earlier", treatment=stack.treatment), source=other.source, level="II", aql="4.0",
        severity="normal", letter="B", accept=0, reject=1, seed=1, lot=[[1, ""]] * 6, drawn=[], state="rejected",
        decided_at=other.decided_at,
    )  # fmt: skip
    plan = answer(client.get(f"/api/v1/stacks/{stack.pk}/plan?level=II&aql=4.0"))
    assert (plan["earlier"], plan["plan"]["severity"]) == (2, "tightened")


def test_signed_for_it_is_closed_until_it_is_reopened(client, stack, six):
    assert signing(client, stack)["against"] == ["No sample was accepted yet: draw one."]
    assert refusal(sign(client, stack)) == "No sample was accepted yet: draw one."
    accepted(client, stack)
    assert signing(client, stack)["against"] == []
    answer(sign(client, stack))
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}"))["signed"]["by"] == "keeper"
    done = change(client, stack, do="turn", pages=[six[0].pk], degrees=90)
    assert re.match(r"keeper signed for this stack on \d+ \w+ \d{4}, and it is closed: reopen it", refusal(done))
    assert refusal(reopen(client, stack, "  ")).startswith("Reopening needs a reason")
    assert refusal(reopen(client, stack, "x" * 401)).startswith("The reason has 401 characters")
    answer(reopen(client, stack, "Page 3 is upside down"))
    assert refusal(reopen(client, stack, "again")).startswith("Nobody has signed")
    answer(change(client, stack, do="turn", pages=[six[0].pk], degrees=90))
    (signature,) = signing(client, stack)["signatures"]
    assert (signature["reopened_by"], signature["reopened_why"]) == ("keeper", "Page 3 is upside down")
    assert list(Entry.objects.filter(what__startswith="stack").values_list("what", "about")) == [
        ("stack signed for", stack.name), ("stack reopened", f"{stack.name}: Page 3 is upside down"),
    ]  # fmt: skip


@pytest.mark.parametrize(
    "do",
    [
        lambda client, stack: client.patch(f"/api/v1/stacks/{stack.pk}", {"name": "New"}, content_type="application/json"),
        lambda client, stack: client.delete(f"/api/v1/stacks/{stack.pk}"),
        lambda client, stack: client.post(f"/api/v1/stacks/{stack.pk}/batches", {}, content_type="application/json"),
        lambda client, stack: client.post(f"/api/v1/stacks/{stack.pk}/changes/{stack.changes.last().pk}/undo"),
        lambda client, stack: draw(client, stack),
        lambda client, stack: sign(client, stack),
    ],
    ids=["rename", "delete", "take in", "undo", "draw", "sign"],
)
def test_what_is_signed_for_stays_as_it_is(client, stack, six, do):
    answer(change(client, stack, do="break", pages=[six[3].pk], on=True))
    accepted(client, stack)
    answer(sign(client, stack))
    assert "signed for this stack" in refusal(do(client, stack))
    assert Stack.objects.get(pk=stack.pk).name == stack.name


def test_what_changed_since_the_sample_is_not_signed_for(client, stack, six):
    accepted(client, stack)
    answer(change(client, stack, do="aside", pages=[six[0].pk], aside=True))
    assert signing(client, stack)["against"] == []
    drawn = Sample.objects.get().drawn
    outside = next(page.pk for page in six[1:] if page.pk not in drawn) if len(drawn) < SIX else six[1].pk
    answer(change(client, stack, do="turn", pages=[outside], degrees=90))
    walk(Page.objects.get(pk=outside))
    checked()
    assert signing(client, stack)["against"] == ["1 page has changed since the sample was drawn: draw another one."]


def test_the_record_says_what_was_signed_for(client, stack, six):
    walk(Page.objects.get(pk=six[0].pk), **UNSURE, streaks=[[[10, 0], [12, 0], [12, 1400], [10, 1400]]])
    for finding in findings(client, stack):
        answer(change(client, stack, do="judge", findings=[named(finding)], fine=True))
    sample = accepted(client, stack)
    signature = answer(sign(client, stack))
    told = client.get(f"/api/v1/signatures/{signature['id']}/record.json")
    record = json.loads(told.content)
    assert record["stack"] == {"id": stack.pk, "name": stack.name, "pages": SIX}
    assert record["signed"]["by"] == "keeper"
    (kept,) = record["samples"]
    assert kept["plan"]["seed"] == sample["seed"]
    assert kept["decided"]["what"] == "accepted"
    assert len(kept["looks"]) == len(sample["pages"])
    assert "A streak runs through the image" in {one["what"] for one in record["verdicts"]}
    assert [page["sha256"] for page in record["pages"]] == [page.source.master_id for page in six]
    pdf = client.get(f"/api/v1/signatures/{signature['id']}/record.pdf")
    assert pdf.content == client.get(f"/api/v1/signatures/{signature['id']}/record.pdf").content
    with pikepdf.open(io.BytesIO(pdf.content)) as document:
        assert document.docinfo["/Title"] == f"Inspection record: {stack.name}"


def test_readers_look_on_and_inspectors_sign(client, stack, six):
    reader = somebody(Role.READER)
    assert draw(reader, stack).status_code == 403
    inspector = somebody(Role.INSPECTOR)
    accepted(inspector, stack)
    answer(sign(inspector, stack))
    assert Signature.objects.get().by == "the inspector"
    assert reader.get(f"/api/v1/signatures/{Signature.objects.get().pk}/record.json").status_code == 200
