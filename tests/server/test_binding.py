"""How documents are to be made: what is said is kept, what is bound follows it, and how large it gets is forecast."""

import pytest
from django.utils import timezone

from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.run.binding import BindOrder
from hollowstack.core.run.forecast import beside_images
from hollowstack.core.run.keeping import described
from hollowstack.server.documents.drafts import DraftChange, change_draft, draft_of
from hollowstack.server.documents.forecasting import forecast_of, sampled_keys
from hollowstack.server.documents.models import DocumentPage, Draft
from hollowstack.server.documents.services import ask_to_bind, coming_of, labels_of
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.engine.wanting import still_wanted, wanted
from hollowstack.server.errors import Refused
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page
from hollowstack.server.upkeep.collecting import wanted_results
from tests.server.conftest import READ, answer, walk


def forecast(stack):
    return forecast_of(stack, coming_of(stack, draft_of(stack.pk)))


def beside(pages: int) -> int:
    """What a document of pages that were read takes besides their images."""
    return beside_images(pages, pages * READ["words"])


def say(stack, **change):
    return change_draft(stack.pk, DraftChange.model_validate(change))


def made_of(key: str, nbytes: int = 1000) -> None:
    """A clean page comes back from the engine."""
    body = {**described(EncodedImage("JBIG2Decode", b"x", (100, 200), gray=True)), "bytes": nbytes, "findings": []}
    record([Outcome("render", key, body)])


# What is said


def test_what_nobody_has_said_is_as_it_always_was(stack):
    draft = draft_of(stack.pk)
    assert (draft.profile, draft.flavour, draft.whole, draft.mark_headings) == ("compact", "PDF/A-2u", False, False)


def test_some_is_said_anew_and_the_rest_stays(stack, pages):
    say(stack, flavour="PDF/A-2a", documents={7: {"title": "Letter"}})
    say(stack, mark_headings=True, documents={9: {"title": "Card", "described": {"creators": ["E. Harrow"]}}})
    draft = draft_of(stack.pk)
    assert (draft.flavour, draft.mark_headings) == ("PDF/A-2a", True)
    assert {key: one.title for key, one in draft.documents.items()} == {7: "Letter", 9: "Card"}


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"documents": {1: {"described": {"author": "A"}}}}, "knows no “author”"),
        ({"documents": {1: {"described": {"rights": "x" * 2001}}}}, "2001 characters"),
        ({"labels": [{"page": 1}] * 2001}, "2001 runs"),
    ],
)
def test_what_will_not_do_is_refused_and_changes_nothing(stack, change, said):
    with pytest.raises(Refused, match=said):
        say(stack, flavour="PDF/A-4", **change)
    assert draft_of(stack.pk).flavour == "PDF/A-2u"


def test_over_http(client, stack, pages):
    walk(pages(1)[0])
    address = f"/api/v1/stacks/{stack.pk}/binding"
    changed = client.patch(address, {"flavour": "PDF/A-3u"}, content_type="application/json")
    assert answer(changed)["flavour"] == "PDF/A-3u"
    told = answer(client.get(address))
    assert [one["name"] for one in told["profiles"]] == ["compact", "preservation", "text only", "pictures", "as captured"]
    assert told["forecast"]["state"] == "exact"
    assert list(told["page_labels"].values()) == ["1"]
    assert client.patch(address, {"flavour": "PDF/A-9"}, content_type="application/json").status_code == 422


# What is bound


def test_a_document_is_made_as_its_draft_says(user, stack, pages):
    made = [walk(page) for page in pages(3)]
    Page.objects.filter(pk=made[2].pk).update(breaks=True)
    say(
        stack, flavour="PDF/A-2a", mark_headings=True,
        labels=[{"page": made[0].pk, "style": "roman"}, {"page": made[2].pk, "style": "leaves", "first": 12}],
        documents={made[2].pk: {"title": "The card", "described": {"identifier": "SL/27/41"}}},
    )  # fmt: skip
    letters, card = ask_to_bind(stack.pk, "Letters", user)
    assert (letters.title, card.title) == ("Letters, 1 of 2", "The card")
    order = BindOrder.model_validate(card.order)
    assert (order.flavour, order.mark_headings, order.described) == ("PDF/A-2a", True, {"identifier": "SL/27/41"})
    assert [(run.start, run.style, run.first) for run in order.labels] == [(0, "leaves", 12)]
    draft = draft_of(stack.pk)
    assert list(labels_of(draft, coming_of(stack, draft)).values()) == ["i", "ii", "12r"]


def test_the_whole_stack_is_one_document_where_that_is_said(user, stack, pages):
    made = [walk(page) for page in pages(3)]
    Page.objects.filter(pk=made[1].pk).update(breaks=True)
    say(stack, whole=True, documents={made[0].pk: {"title": "The volume"}, made[1].pk: {"title": "The card"}})
    (document,) = ask_to_bind(stack.pk, "All", user)
    assert (document.page_count, document.title) == (3, "The volume")
    parts = BindOrder.model_validate(document.order).parts
    assert [(one.title, one.page) for one in parts] == [("Part 1", 0), ("The card", 1)]


def test_another_description_is_another_document(user, stack, pages):
    page = walk(pages(1)[0])
    (one,) = ask_to_bind(stack.pk, "Letter", user)
    say(stack, documents={page.pk: {"described": {"rights": "Skerry Light Trust"}}})
    (other,) = ask_to_bind(stack.pk, "Letter", user)
    assert one.key != other.key


def test_pages_are_made_for_a_profile_and_bound_when_they_are_there(user, stack, pages):
    page = walk(pages(1)[0])
    say(stack, profile="preservation")
    Draft.objects.update(samples=[])
    (document,) = ask_to_bind(stack.pk, "Letter", user)
    bound = document.pages.get()
    assert bound.rendered != page.rendered_id
    assert bound.plan["lossless"]
    (task,) = [one for one in wanted(10, frozenset()) if one.key == bound.rendered]
    assert (task.step, task.arguments[2]) == ("render", bound.plan)
    assert still_wanted([bound.rendered]) == {bound.rendered}
    assert bound.rendered in wanted_results()
    made_of(bound.rendered)
    (task,) = [one for one in wanted(10, frozenset()) if one.step == "bind"]
    assert task.arguments[2]["profile"] == "preservation"
    assert task.arguments[0][0]["master"] == page.source.master_id


def test_a_profile_that_changes_nothing_makes_nothing_anew(user, stack, pages):
    page = walk(pages(1)[0])
    (document,) = ask_to_bind(stack.pk, "Letter", user)
    bound = document.pages.get()
    assert (bound.rendered, bound.plan) == (page.rendered_id, None)


def test_a_page_that_cannot_be_made_for_a_profile_ends_its_document_with_a_sentence(user, stack, pages):
    walk(pages(1)[0])
    say(stack, profile="preservation")
    (document,) = ask_to_bind(stack.pk, "Letter", user)
    record([Outcome("render", document.pages.get().rendered, None, "The image is incomplete.", "page")])
    failed = Result.objects.get(key=document.key)
    assert failed.state == Result.State.FAILED
    assert failed.error == "Page 1 could not be made as “preservation”: The image is incomplete."


# Forecasts


def test_what_is_packed_already_is_summed(stack, pages):
    for page in pages(3):
        walk(page)
    told = forecast(stack)
    assert told.state == "exact"
    assert told.each == [told.bytes] == [sum(page.rendered.made["bytes"] for page in stack.pages.all()) + beside(3)]


def test_each_document_is_forecast_with_what_it_takes_besides_images(stack, pages):
    made = [walk(page) for page in pages(3)]
    Page.objects.filter(pk=made[1].pk).update(breaks=True)
    told = forecast(stack)
    of = [page.rendered.made["bytes"] for page in stack.pages.order_by("position")]
    assert told.each == [of[0] + beside(1), of[1] + of[2] + beside(2)]
    assert told.bytes == sum(told.each)


def test_no_pages_are_no_bytes(stack):
    assert (forecast(stack).bytes, forecast(stack).each) == (0, [])


def test_a_profile_is_weighed_by_a_sample(stack, pages):
    for page in pages(3):
        walk(page)
    say(stack, profile="pictures")
    samples = Draft.objects.get(stack=stack).samples
    assert len(samples) == 3
    assert (forecast(stack).bytes, forecast(stack).each) == (None, [])
    keys = {one["rendered"] for one in samples}
    assert keys <= {task.key for task in wanted(20, frozenset())}
    assert sampled_keys() == keys
    assert keys <= wanted_results()
    assert still_wanted(sorted(keys)) == keys
    for key in sorted(keys)[:1]:
        made_of(key, 5000)
    part = forecast(stack)
    assert (part.state, part.sampled, part.of) == ("sampling", 1, 3)
    for key in sorted(keys)[1:]:
        made_of(key, 5000)
    whole = forecast(stack)
    assert whole.state == "estimated"
    assert whole.each == [whole.bytes] == [3 * 5000 + beside(3)]
    say(stack, profile="compact")
    assert Draft.objects.get(stack=stack).samples == []


def test_a_page_that_cannot_be_packed_is_not_waited_for(stack, pages):
    for page in pages(2):
        walk(page)
    say(stack, profile="pictures")
    one, other = (sample["rendered"] for sample in Draft.objects.get(stack=stack).samples)
    record([Outcome("render", one, None, "The image is incomplete.", "page")])
    assert forecast(stack).state == "sampling"
    assert one not in {task.key for task in wanted(20, frozenset())}
    made_of(other, 5000)
    told = forecast(stack)
    assert (told.state, told.sampled, told.of) == ("estimated", 1, 2)
    assert told.bytes is not None
    record([Outcome("render", other, None, "The image is incomplete.", "page")])
    assert (forecast(stack).state, forecast(stack).bytes) == ("estimated", None)


def test_nothing_is_packed_for_a_stack_in_the_bin(stack, pages):
    walk(pages(1)[0])
    say(stack, profile="pictures")
    stack.deleted_at = timezone.now()
    stack.save()
    assert sampled_keys() == set()


def test_documents_of_former_days_are_bound_by_their_title(user, stack, pages):
    walk(pages(1)[0])
    (document,) = ask_to_bind(stack.pk, "Letter", user)
    document.order = {}
    document.save()
    DocumentPage.objects.update(master="", page=None)
    (task,) = [one for one in wanted(10, frozenset()) if one.step == "bind"]
    order = BindOrder.model_validate(task.arguments[2])
    assert (order.title, order.flavour) == ("Letter", "PDF/A-2u")
