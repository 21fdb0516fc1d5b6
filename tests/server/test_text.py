"""Text over HTTP: doubtful words come worst first, are put right once, everywhere, and for good; everything can be undone."""

from typing import Any

import numpy as np
import pytest
from django.test import Client

from hollowstack.core.ocr.model import Line, Reading, block_of
from hollowstack.core.run.steps import READING
from hollowstack.server.dispatch.deliveries import names_of
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.inspection.checking import check_some
from hollowstack.server.reading import alike, gathering
from hollowstack.server.reading.laid import ground_of
from hollowstack.server.reading.models import Doubt, PageWords, StackWord
from hollowstack.server.stacks import history
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.storage import places
from tests.server.conftest import answer, walk
from tests.server.readings import SIZE, box_of, keep, line_of, read, word, written

__all__ = ["written"]


def change(client: Client, stack: Stack, doing: dict[str, Any], seen: int | None = None) -> Any:
    seen = Stack.objects.get(pk=stack.pk).change if seen is None else seen
    return client.post(f"/api/v1/stacks/{stack.pk}/changes", {"seen": seen, "doing": doing}, content_type="application/json")


def put(client: Client, stack: Stack, *edits: dict[str, Any], seen: int | None = None) -> Any:
    return change(client, stack, {"do": "put right", "edits": list(edits)}, seen)


def edit(page: Page, at: int, before: str, after: str = "", kind: str = "word", line: int = 0) -> dict[str, Any]:
    return {"page": page.pk, "box": box_of(line, at), "kind": kind, "before": before, "after": after}


def text_of(client: Client, page: Page) -> str:
    lines = answer(client.get(f"/api/v1/pages/{page.pk}/words"))["lines"]
    return "\n".join(" ".join(one["text"] for one in line["words"]) for line in lines)


def doubts(client: Client, stack: Stack, **asked: Any) -> list[dict[str, Any]]:
    return answer(client.get(f"/api/v1/stacks/{stack.pk}/doubts", asked))


def test_doubtful_words_come_worst_first_and_go_on_behind_one(client, stack, written):
    first, second = written([("lihgt", 0.5), "keeper", ("2gth", 0.9)], [("Hxrrow", 0.7), ("tne", 0.3)])
    rows = doubts(client, stack)
    assert [(row["text"], row["page"]) for row in rows] == [
        ("2gth", first.pk), ("Hxrrow", second.pk), ("lihgt", first.pk), ("tne", second.pk),
    ]  # fmt: skip
    assert rows[0]["box"] == list(box_of(0, 2))
    assert [row["text"] for row in doubts(client, stack, page=second.pk)] == ["Hxrrow", "tne"]
    behind = {"doubt": rows[1]["doubt"], "from_page": rows[1]["page"], "place": rows[1]["place"]}
    assert [row["text"] for row in doubts(client, stack, **behind)] == ["lihgt", "tne"]
    assert [row["text"] for row in doubts(client, stack, most=1)] == ["2gth"]


def test_words_of_one_doubt_are_all_come_to(client, stack, written):
    written([("aa", 0.5), ("bb", 0.5)], [("cc", 0.5), ("dd", 0.5)])
    seen: list[str] = []
    behind: dict[str, Any] = {}
    while rows := doubts(client, stack, most=1, **behind):
        seen.append(rows[0]["text"])
        behind = {"doubt": rows[0]["doubt"], "from_page": rows[0]["page"], "place": rows[0]["place"]}
    assert seen == ["aa", "bb", "cc", "dd"]


@pytest.mark.parametrize(("doubt", "asked"), [(0.25, True), (0.249, False)])
def test_what_is_doubtful(client, stack, written, doubt, asked):
    written([("lihgt", doubt)])
    assert bool(doubts(client, stack)) == asked


def test_a_word_is_put_right_undone_and_done_again(client, stack, written):
    (page,) = written(["on", "the", ("2gth", 0.9, "29th", "20th"), "inst."])
    made = put(client, stack, edit(page, 2, "2gth", "29th"))
    assert made.status_code == 200
    assert answer(made)["what"] == "Put “2gth” right: “29th”"
    assert text_of(client, page) == "on the 29th inst."
    assert doubts(client, stack) == []
    assert client.get(f"/api/v1/stacks/{stack.pk}/text").content.decode() == "on the 29th inst."
    assert "29th" in answer(client.get(f"/api/v1/pages/{page.pk}"))["text"]
    for way, text, left in (("undo", "on the 2gth inst.", ["2gth"]), ("redo", "on the 29th inst.", [])):
        assert client.post(f"/api/v1/stacks/{stack.pk}/changes/{answer(made)['id']}/{way}").status_code == 200
        assert text_of(client, page) == text
        assert [row["text"] for row in doubts(client, stack)] == left


def test_a_word_put_right_before_is_put_right_again_in_its_place(client, stack, written):
    (page,) = written([("2gth", 0.9)])
    put(client, stack, edit(page, 0, "2gth", "20th"))
    assert put(client, stack, edit(page, 0, "20th", "29th")).status_code == 200
    assert text_of(client, page) == "29th"
    assert len(Page.objects.get(pk=page.pk).words) == 1
    last = history.next_to_undo(stack)
    history.undo(stack.pk, last.pk)
    assert text_of(client, page) == "20th"


def test_what_was_put_right_is_taken_back_to_what_was_read(client, stack, written):
    (page,) = written([("2gth", 0.9), "inst."])
    refused = put(client, stack, edit(page, 0, "2gth", kind="back"))
    assert (refused.status_code, "nothing to take back" in answer(refused)["detail"]) == (422, True)
    put(client, stack, edit(page, 0, "2gth", "29th"))
    assert answer(put(client, stack, edit(page, 0, "29th", kind="back")))["what"] == "Took back what was put right"
    assert (text_of(client, page), Page.objects.get(pk=page.pk).words) == ("2gth inst.", {})
    put(client, stack, {"page": page.pk, "box": [0, 90, 110, 140], "kind": "area"})
    assert text_of(client, page) == "inst."
    put(client, stack, {"page": page.pk, "box": [0, 90, 110, 140], "kind": "back"})
    assert text_of(client, page) == "2gth inst."


def test_what_is_taken_as_it_stands_is_no_doubt_any_more(client, stack, written):
    (page,) = written([("Harrow", 0.9)])
    assert answer(put(client, stack, edit(page, 0, "Harrow", "Harrow")))["what"] == "Took “Harrow” as it is"
    assert doubts(client, stack) == []
    (kept,) = Page.objects.get(pk=page.pk).words.values()
    assert (kept["by"], kept["before"], kept["after"]) == ("keeper", "Harrow", "Harrow")


def test_what_cannot_be_read_and_what_is_no_text(client, stack, written):
    (page,) = written(["the", ("|~", 0.9), ("mxx", 0.8), "lamp"])
    put(client, stack, edit(page, 1, "|~", kind="not text"))
    put(client, stack, edit(page, 2, "mxx", kind="unreadable"))
    assert client.get(f"/api/v1/stacks/{stack.pk}/text").content.decode() == "the [illegible] lamp"
    words = answer(client.get(f"/api/v1/pages/{page.pk}/words"))
    assert words["left_out"] == [list(box_of(0, 1))]
    assert doubts(client, stack) == []


def test_two_people_at_one_word(client, stack, written):
    first, second = written([("2gth", 0.9), ("lihgt", 0.8)], [("tne", 0.7)])
    seen = Stack.objects.get(pk=stack.pk).change
    assert put(client, stack, edit(first, 0, "2gth", "29th"), seen=seen).status_code == 200
    refused = put(client, stack, edit(first, 0, "29th", "28th"), seen=seen)
    assert refused.status_code == 409
    assert "this word" in answer(refused)["detail"]
    # Another word of the same page, or of another one, is nobody's quarrel.
    assert put(client, stack, edit(first, 1, "lihgt", "light"), seen=seen).status_code == 200
    assert put(client, stack, edit(second, 0, "tne", "the"), seen=seen).status_code == 200
    assert (text_of(client, first), text_of(client, second)) == ("29th light", "the")


def test_a_word_that_reads_otherwise_by_now_is_not_put_right_unseen(client, stack, written):
    (page,) = written([("2gth", 0.9)])
    refused = put(client, stack, edit(page, 0, "29th", "28th"))
    assert (refused.status_code, text_of(client, page)) == (409, "2gth")
    assert "look at the word again" in answer(refused)["detail"]


@pytest.mark.parametrize(
    ("edits", "sentence"),
    [([], "No word is chosen"), ([{"kind": "word", "before": "2gth", "after": "  "}], "There is no text to put there")],
)
def test_nothing_is_done_where_there_is_nothing_to_do(client, stack, written, edits, sentence):
    (page,) = written([("2gth", 0.9)])
    refused = put(client, stack, *({"page": page.pk, "box": box_of(0, 0), **one} for one in edits))
    assert refused.status_code == 422
    assert sentence in answer(refused)["detail"]
    assert text_of(client, page) == "2gth"


def test_a_page_of_another_stack_is_not_put_right_from_here(client, stack, written):
    (page,) = written([("2gth", 0.9)])
    other = Stack.objects.create(name="Other", treatment=stack.treatment)
    assert put(client, other, edit(page, 0, "2gth", "29th")).status_code == 422
    assert text_of(client, page) == "2gth"


def test_the_same_elsewhere_is_put_right_in_one_go_and_undone_in_one_go(client, stack, written):
    first, second, third = written([("Hxrrow,", 0.9), "wrote"], [("Hxrrow", 0.3), "Harrow"], ["to", ("Hxrrow", 0.6)])
    found = answer(client.get(f"/api/v1/pages/{first.pk}/alike", {"box": ",".join(map(str, box_of(0, 0)))}))
    # The third reads the same and looks otherwise: it is somebody else's name, perhaps.
    assert [(one["page"], one["text"]) for one in found["words"]] == [(second.pk, "Hxrrow")]
    edits = [edit(first, 0, "Hxrrow,", "Harrow,"), edit(second, 0, "Hxrrow", "Harrow")]
    made = answer(put(client, stack, *edits))
    assert made["what"] == "Put “Hxrrow,” right in 2 places: “Harrow,”"
    assert [text_of(client, page) for page in (first, second, third)] == ["Harrow, wrote", "Harrow Harrow", "to Hxrrow"]
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{made['id']}/undo")
    assert [text_of(client, page) for page in (first, second)] == ["Hxrrow, wrote", "Hxrrow Harrow"]


def test_what_was_put_right_by_hand_is_not_the_same_elsewhere(client, stack, written):
    first, second = written([("Hxrrow", 0.9)], [("Hxrrow", 0.9)])
    put(client, stack, edit(second, 0, "Hxrrow", "Hxrrow"))
    found = answer(client.get(f"/api/v1/pages/{first.pk}/alike", {"box": ",".join(map(str, box_of(0, 0)))}))
    assert found["words"] == []


def test_more_pages_than_are_looked_through_are_counted(client, stack, written, monkeypatch):
    monkeypatch.setattr(alike, "MOST_PAGES", 2)
    first, *_ = written(*[[("Hxrrow", 0.9)]] * 4)
    found = answer(client.get(f"/api/v1/pages/{first.pk}/alike", {"box": ",".join(map(str, box_of(0, 0)))}))
    assert (len(found["words"]), found["more"]) == (1, 2)


def test_names_that_stand_there_often_for_sure_are_no_doubt(client, stack, written):
    written(["Harrow"], ["Harrow."], ["Harrow"], [("Harrow", 0.6), ("wind", 0.6)], ["wind", "wind", "wind", "wind"])
    assert [row["text"] for row in doubts(client, stack)] == ["Harrow", "wind"]
    (page,) = written(["Harrow"])
    # A short word may be another one misread, however often it stands there.
    assert [row["text"] for row in doubts(client, stack)] == ["wind"]
    put(client, stack, edit(page, 0, "Harrow", "Horrow"))
    assert [row["text"] for row in doubts(client, stack)] == ["Harrow", "wind"]


def test_words_on_the_stacks_list_are_no_doubt(client, stack, written):
    written([("Annet", 0.9), ("2gth", 0.8)])
    made = answer(change(client, stack, {"do": "word list", "words": ["Annet ", "", "Skerry"]}))
    assert made["what"] == "Changed the word list: 2 added, 0 removed"
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/word-list")) == ["Annet", "Skerry"]
    assert [row["text"] for row in doubts(client, stack)] == ["2gth"]
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{made['id']}/undo")
    assert [row["text"] for row in doubts(client, stack)] == ["Annet", "2gth"]
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/word-list")) == []


def test_a_word_is_put_to_the_list_by_whoever_does_not_know_the_others(client, stack, written):
    written([("Annet", 0.9)])
    change(client, stack, {"do": "word list", "words": ["Skerry", "Harrow"]})
    change(client, stack, {"do": "word list", "more": ["Annet,"]})
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/word-list")) == ["Annet", "Harrow", "Skerry"]
    assert doubts(client, stack) == []


def test_a_list_that_will_not_do(client, stack):
    long = change(client, stack, {"do": "word list", "words": ["x" * 100]})
    assert (long.status_code, "too long for a word" in answer(long)["detail"]) == (422, True)
    same = change(client, stack, {"do": "word list", "words": []})
    assert (same.status_code, answer(same)["detail"]) == (422, "The list has these words already.")


def test_suggestions_come_from_the_stacks_own_words_first(client, stack, written):
    written([("Merriwcther,", 0.9, "Merriwcthcr,")], ["Merriwether", "Merriweather", "Merriweather"])
    (row,) = doubts(client, stack)
    # One letter away comes before two, whatever stands there more often; what is around the word stays.
    assert row["suggestions"] == ["Merriwether,", "Merriweather,", "Merriwcthcr,"]


def test_words_are_found_as_they_were_read_and_as_they_may_have_been_meant(client, stack, written):
    first, second, third = written(["the", "lantern"], [("lontern", 0.8, "lantern")], ["Lanterns,", "café"])
    found = answer(client.get(f"/api/v1/stacks/{stack.pk}/found", {"words": "lantern"}))
    assert [(hit["page"], hit["unsure"]) for hit in found] == [(first.pk, False), (second.pk, True), (third.pk, False)]
    places_on = answer(client.get(f"/api/v1/pages/{second.pk}/found", {"words": "lantern"}))
    assert places_on == [{"box": list(box_of(0, 0)), "text": "lontern", "unsure": True}]
    both = answer(client.get(f"/api/v1/stacks/{stack.pk}/found", {"words": "CAFE lant"}))
    assert [hit["page"] for hit in both] == [third.pk]
    put(client, stack, edit(second, 0, "lontern", "lantern"))
    found = answer(client.get(f"/api/v1/stacks/{stack.pk}/found", {"words": "lantern"}))
    assert [hit["unsure"] for hit in found] == [False, False, False]


@pytest.mark.parametrize("words", ['"', "*", "AND", 'words : "x"', "NEAR(a b)", "col:", "-a"])
def test_whatever_is_looked_for_is_only_words(client, stack, written, words):
    written(["the", "lantern"])
    response = client.get(f"/api/v1/stacks/{stack.pk}/found", {"words": words})
    assert response.status_code in (200, 422), answer(response)
    assert response.status_code == 422 or answer(response) == []


def test_what_is_held_aside_is_neither_asked_nor_found(client, stack, written):
    page, _ = written([("lihgt", 0.9)], ["keeper"])
    Page.objects.filter(pk=page.pk).update(aside="blank")
    assert doubts(client, stack) == []
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/found", {"words": "lihgt"})) == []


def test_the_text_in_figures(client, stack, written):
    first, _ = written([("aaaa", 0.5), "bbbb"], ["cccc"])
    figures = answer(client.get(f"/api/v1/stacks/{stack.pk}/reading"))
    assert (figures["pages"], figures["words"], figures["doubtful"]) == (2, 3, 1)
    assert 0 <= figures["expected"]["low"] <= figures["expected"]["rate"] <= figures["expected"]["high"] <= 100
    mine = answer(client.get(f"/api/v1/stacks/{stack.pk}/reading", {"page": first.pk}))
    assert (mine["pages"], mine["words"]) == (1, 2)
    assert mine["expected"]["rate"] > figures["expected"]["rate"]
    put(client, stack, edit(first, 0, "aaaa", "abcd"))
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/reading"))["expected"]["rate"] < figures["expected"]["rate"]


def test_a_stack_without_text_has_no_figures(client, stack):
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/reading")) == {
        "pages": 0, "words": 0, "doubtful": 0, "expected": None,
    }  # fmt: skip


def test_what_was_put_right_stays_when_the_page_is_read_again(client, stack, written):
    (page,) = written(["on", ("2gth", 0.9), "inst."])
    put(client, stack, edit(page, 1, "2gth", "29th"))
    change(client, stack, {"do": "correct", "pages": [page.pk], "correction": {"skew": -1.5}})
    before = ground_of(page)
    page = walk(Page.objects.get(pk=page.pk))
    assert page.indexed == ""
    # The same words, where they lie on the page levelled otherwise; the one that was put right is misread otherwise too.
    moved = line_of(["on", ("Zgth", 0.9), "inst."]).moved(before.onto.inverse().then(ground_of(page).onto), SIZE)
    assert np.abs(np.subtract(moved.words[1].box, box_of(0, 1))).max() > 5
    keep(page, moved)
    assert gathering.gather_some() == 1
    assert text_of(client, page) == "on 29th inst."


def test_what_finds_no_place_any_more_is_told(client, stack, written):
    (page,) = written(["on", ("2gth", 0.9), "inst."])
    put(client, stack, edit(page, 1, "2gth", "29th"))
    corner = [[900, 1300], [1000, 1300], [1000, 1400], [900, 1400]]
    change(client, stack, {"do": "correct", "pages": [page.pk], "correction": {"quad": corner}})
    page = walk(Page.objects.get(pk=page.pk))
    read(page, ["elsewhere"])
    gathering.gather_some()
    lost = answer(client.get(f"/api/v1/pages/{page.pk}/words"))["lost"]
    assert [(one["before"], one["after"]) for one in lost] == [("2gth", "29th")]
    assert PageWords.objects.get(page=page).lost == [lost[0]["key"]]
    while check_some():
        pass
    (found,) = [one for one in answer(client.get(f"/api/v1/stacks/{stack.pk}/findings")) if one["kind"] == "lost words"]
    assert (found["page"], found["value"], found["remedy"]) == (page.pk, 1, "text")
    assert "“29th”" in found["message"]
    # Once the word is where it was, it is no finding any more.
    history.undo(stack.pk, history.next_to_undo(stack).pk)
    page = walk(Page.objects.get(pk=page.pk))
    read(page, ["on", ("2gth", 0.9), "inst."])
    gathering.gather_some()
    while check_some():
        pass
    assert not page.findings.filter(kind="lost words").exists()


def test_a_word_is_added_where_none_was_read_and_an_area_left_out(client, stack, written):
    (page,) = written(["on", "the"])
    added = {"page": page.pk, "box": box_of(0, 2), "kind": "word", "before": "", "after": "rock"}
    assert answer(put(client, stack, added))["what"] == "Added “rock” to the text"
    assert text_of(client, page) == "on the rock"
    put(client, stack, {**added, "box": box_of(0, 7), "after": "note"})  # too far from the line to be of it
    assert text_of(client, page) == "on the rock\nnote"
    assert client.post(f"/api/v1/stacks/{stack.pk}/changes/{history.next_to_undo(stack).pk}/undo").status_code == 200
    area = {"page": page.pk, "box": [0, 90, 110, 140], "kind": "area"}
    assert answer(put(client, stack, area))["what"] == "Left an area out of the text"
    assert text_of(client, page) == "the rock"
    blocks = answer(client.get(f"/api/v1/pages/{page.pk}/words"))["blocks"]
    assert [block["kind"] for block in blocks] == ["text", "not read"]


def test_the_order_of_a_page_by_hand(client, stack, written):
    (page,) = written(["on"])
    blocks = [block_of([Line(words=[word(text, line, 0)], baseline=(0, 9, 9, 9))]) for line, text in enumerate("abc")]
    folder = places.result_path("read", page.reading_id)
    (folder / READING).write_text(Reading(language="eng", size_px=SIZE, blocks=blocks).model_dump_json())
    middles = [[60, 115 + 60 * line] for line in (2, 0, 1)]
    order = {"page": page.pk, "box": [0, 0, 1000, 1400], "kind": "order", "order": middles}
    assert put(client, stack, order).status_code == 200
    assert text_of(client, page) == "c\na\nb"
    assert put(client, stack, {**order, "order": middles[::-1]}).status_code == 200
    assert text_of(client, page) == "b\na\nc"
    assert len(Page.objects.get(pk=page.pk).words) == 1


def test_a_damaged_reading_holds_nobody_up(client, stack, written, caplog):
    page, other = (walk(one) for one in (written(["keeper"])[0], written(["light"])[0]))
    Page.objects.filter(pk=page.pk).update(indexed="")
    (places.result_path("read", page.reading_id) / READING).write_text("{")
    Page.objects.filter(pk=other.pk).update(indexed="")
    while gathering.gather_some():
        pass
    assert "its words cannot be gathered" in caplog.text
    assert Page.objects.get(pk=other.pk).indexed == other.reading_id


def test_counts_of_words_go_with_their_pages(client, stack, written):
    (page,) = written(["Harrow", "Harrow", ("tne", 0.9)])
    assert StackWord.objects.get(stack=stack, word="harrow").count == 2
    put(client, stack, edit(page, 0, "Harrow", "Barrow"))
    assert StackWord.objects.get(stack=stack, word="harrow").count == 1
    assert StackWord.objects.get(stack=stack, word="barrow").count == 1
    assert Doubt.objects.filter(page=page).count() == 1


def test_pages_that_are_gone_for_good_are_not_found_by_another_of_that_number(client, stack, written):
    (page,) = written(["keeper"])
    Page.objects.filter(pk=page.pk).delete()
    assert gathering.forget_gone() == 1
    assert gathering.forget_gone() == 0


@pytest.mark.parametrize("box", ["", "1,2,3", "a,b,c,d"])
def test_a_box_that_is_none(client, written, box):
    (page,) = written(["keeper"])
    response = client.get(f"/api/v1/pages/{page.pk}/alike", {"box": box})
    assert (response.status_code, answer(response)["detail"]) == (
        422, "A box is given as left,top,right,bottom in whole pixels.",
    )  # fmt: skip


def test_the_text_in_every_form(client, stack, written):
    page, _ = written(["on", ("2gth", 0.9)], ["the", "rock"])
    put(client, stack, edit(page, 1, "2gth", "29th"))
    alto = client.get(f"/api/v1/stacks/{stack.pk}/text", {"form": "alto"})
    assert alto.headers["Content-Disposition"] == 'attachment; filename="Box 27.alto.xml"'
    assert 'CONTENT="29th"' in alto.content.decode()
    assert 'CS="true"' in alto.content.decode()
    hocr = client.get(f"/api/v1/stacks/{stack.pk}/text", {"form": "hocr"}).content.decode()
    assert 'data-mark="corrected"' in hocr


def test_a_document_is_named_by_the_words_that_it_begins_with(stack, written, user):
    written([], ["Dear", "Miss", "Maclaine,", "the", "lens", "was", "cleaned", "on", "Tuesday"], ["Second"])
    (document,) = ask_to_bind(stack.pk, "Box 27", user)
    assert names_of("{counter} {first words}", [document], 0) == ["1 Dear Miss Maclaine, the lens was cleaned on.pdf"]
    document.pages.all().delete()
    assert names_of("{counter} {first words}", [document], 0) == ["1.pdf"]
