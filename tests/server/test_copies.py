"""Access copies over the API: marks hold their place, copies hold what was said, passwords are never told."""

import io
import json
from types import SimpleNamespace

import numpy as np
import pikepdf
import pytest
from PIL import Image

from hollowstack.core.access import Passwords
from hollowstack.core.bind.codecs import encode
from hollowstack.core.bind.drawn_pages import drawn_pages
from hollowstack.core.page.raster import Raster
from hollowstack.core.run import copies
from hollowstack.core.run.keeping import described
from hollowstack.server.api.v1 import copies as over_http
from hollowstack.server.documents import copying, texts
from hollowstack.server.documents.copying import ask_for_copies
from hollowstack.server.documents.drafts import DraftChange, change_draft, draft_of
from hollowstack.server.documents.forgetting import forget
from hollowstack.server.documents.marking import MOST_MARKS, shown_marks
from hollowstack.server.documents.models import Document
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.engine.wanting import wanted
from hollowstack.server.errors import Refused
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page
from hollowstack.server.storage.sealed import seal, unseal
from tests.server.conftest import answer, walk

NO_PASSWORDS = Passwords()


def say(stack, **change):
    return change_draft(stack.pk, DraftChange.model_validate(change))


def mark(stack, page, name="mark-1", box=(0.1, 0.2, 0.5, 0.3), kind="cover", **rest):
    return say(stack, marks={page.pk: {"put": [{"id": name, "kind": kind, "box": box, **rest}]}})


def marks_of(stack):
    return shown_marks(stack.pk, draft_of(stack.pk).marks)


def copy_of(stack, passwords=NO_PASSWORDS, first=None):
    return ask_for_copies(stack.pk, "Letters", passwords, None, first)


# Marks


def test_marks_are_put_one_by_one_so_that_two_people_lose_nothing(stack, pages):
    page = walk(pages(1)[0])
    mark(stack, page, "first-1")
    mark(stack, page, "other-2", kind="note", text="Who is this?")
    assert [(one.id, one.kind, one.text) for one in marks_of(stack)[page.pk]] == [
        ("first-1", "cover", ""), ("other-2", "note", "Who is this?"),
    ]  # fmt: skip
    mark(stack, page, "first-1", box=(0, 0, 1, 1))
    say(stack, marks={page.pk: {"gone": ["other-2", "never-there"]}}, flavour="PDF/A-4")
    (left,) = marks_of(stack)[page.pk]
    assert left.box == pytest.approx((0, 0, 1, 1))


def test_pages_are_left_out_one_by_one_so_that_two_people_lose_nothing(stack, pages):
    one, other = (walk(page) for page in pages(2))
    say(stack, left_out={one.pk: True})
    say(stack, left_out={other.pk: True})
    assert set(draft_of(stack.pk).left_out) == {one.pk, other.pk}
    say(stack, left_out={one.pk: False})
    say(stack, flavour="PDF/A-4")
    assert draft_of(stack.pk).left_out == (other.pk,)


def test_a_mark_comes_back_where_it_was_put(stack, pages):
    page = walk(pages(1)[0])
    mark(stack, page)
    assert marks_of(stack)[page.pk][0].box == pytest.approx((0.1, 0.2, 0.5, 0.3), abs=1e-6)


def test_a_mark_stays_on_what_it_marks_when_the_page_is_cropped(stack, pages):
    page = walk(pages(1)[0])
    mark(stack, page)
    quad = np.array(page.plan["quad"])
    across = quad[1] - quad[0]
    # The left fifth of the page is cut away: what lay from 0.1 to 0.5 lies from 0 to 0.375 now.
    page.plan = {**page.plan, "quad": (quad + np.outer([0.2, 0, 0, 0.2], across)).tolist()}
    width, height = page.plan["size_px"]
    page.plan["size_px"] = [width * 0.8, height]
    page.save()
    assert marks_of(stack)[page.pk][0].box == pytest.approx((0, 0.2, 0.375, 0.3), abs=1e-3)


def test_what_is_out_of_sight_is_kept(stack, pages):
    page = walk(pages(1)[0])
    mark(stack, page, box=(0.0, 0.0, 0.1, 0.1))
    before = page.plan
    quad = np.array(before["quad"])
    across = quad[1] - quad[0]
    page.plan = {**before, "quad": (quad + np.outer([0.2, 0, 0, 0.2], across)).tolist()}
    page.save()
    assert marks_of(stack)[page.pk] == []
    page.plan = before
    page.save()
    assert len(marks_of(stack)[page.pk]) == 1


def test_pages_that_cannot_be_marked_are_refused(stack, pages):
    page = pages(1)[0]
    with pytest.raises(Refused, match="not corrected yet"):
        mark(stack, page)
    with pytest.raises(Refused, match="not of this stack"):
        say(stack, marks={10_000: {"put": []}})


def test_a_page_has_only_so_many_marks(stack, pages):
    page = walk(pages(1)[0])
    many = [{"id": f"mark-{n}", "kind": "cover", "box": (0, 0, 1, 1)} for n in range(MOST_MARKS + 1)]
    say(stack, marks={page.pk: {"put": many[:-1]}})
    with pytest.raises(Refused, match="501 marks"):
        say(stack, marks={page.pk: {"put": many[-1:]}})
    assert len(draft_of(stack.pk).marks[page.pk]) == MOST_MARKS


def test_over_http(client, stack, pages):
    page = walk(pages(1)[0])
    address = f"/api/v1/stacks/{stack.pk}/binding"
    change = {
        "access": {"ppi": None, "watermark": {"text": "Copy"}, "printing": False}, "left_out": {page.pk: True},
        "marks": {page.pk: {"put": [{"id": "mark-1", "kind": "frame", "box": [0, 0, 0.5, 0.5]}]}},
    }  # fmt: skip
    told = answer(client.patch(address, change, content_type="application/json"))
    assert told["access"] == {
        "ppi": None, "watermark": {"text": "Copy", "place": "across", "strength": 0.2}, "printing": False, "copying": True,
    }  # fmt: skip
    assert told["left_out"] == [page.pk]
    (there,) = told["marks"][str(page.pk)]
    assert (there["id"], there["kind"], there["text"]) == ("mark-1", "frame", "")
    wrong = {"marks": {page.pk: {"put": [{"id": "mark-1", "kind": "frame", "box": [0.5, 0, 0.5, 0.5]}]}}}
    assert client.patch(address, wrong, content_type="application/json").status_code == 422


# Copies


@pytest.fixture(autouse=True)
def text(monkeypatch):
    """What is read on every page: it stands in its upper third."""
    reading = next(drawn_pages("The keeper Merriwether wrote", [], "1")).reading
    monkeypatch.setattr(copying, "laid_text", lambda page: SimpleNamespace(reading=reading))


def test_a_file_is_not_called_by_what_is_covered_in_it(stack, pages):
    page = walk(pages(1)[0])
    say(stack, documents={page.pk: {"title": "Letters of Merriwether"}})
    (copy,) = copy_of(stack)
    assert copy.title == "Letters of Merriwether (access copy)"
    mark(stack, page, box=(0, 0, 1, 0.3), kind="frame")
    assert copy_of(stack)[0].title == "Letters of Merriwether (access copy)"
    mark(stack, page, box=(0, 0, 1, 0.3))
    assert copy_of(stack)[0].title == "Letters of … (access copy)"


def test_a_copy_holds_what_was_said(stack, pages, client):
    made = [walk(page) for page in pages(4)]
    say(
        stack, labels=[{"page": made[0].pk, "style": "roman"}], left_out={made[1].pk: True}, access={"ppi": 100, "copying": False},
        documents={made[0].pk: {"title": "Letters", "described": {"rights": "Skerry Light Trust"}}},
    )  # fmt: skip
    mark(stack, made[2])
    (copy,) = copy_of(stack)
    assert (copy.title, copy.kind, copy.page_count) == ("Letters (access copy)", "access", 3)
    assert copy.order["labels"] == ["i", "iii", "iv"]
    assert copy.order["left_out"] == ["ii"]
    assert (copy.order["ppi"], copy.order["copying"], copy.order["described"]) == (
        100,
        False,
        {"rights": "Skerry Light Trust"},
    )
    assert [len(page.marks) for page in copy.pages.all()] == [0, 1, 0]
    (told,) = answer(client.get(f"/api/v1/stacks/{stack.pk}/documents"))
    assert (told["kind"], told["state"], told["conformance"], told["locked"]) == ("access", "binding", None, False)


def test_of_one_document_or_of_all(stack, pages):
    made = [walk(page) for page in pages(3)]
    Page.objects.filter(pk=made[1].pk).update(breaks=True)
    assert [one.title for one in copy_of(stack)] == ["Letters, 1 of 2 (access copy)", "Letters, 2 of 2 (access copy)"]
    (one,) = copy_of(stack, first=made[1].pk)
    assert one.page_count == 2
    say(stack, left_out={made[0].pk: True})
    assert len(copy_of(stack)) == 1
    with pytest.raises(Refused, match="left out of access copies"):
        copy_of(stack, first=made[0].pk)


def test_parts_of_a_whole_stack_begin_with_the_first_page_that_is_kept(stack, pages):
    made = [walk(page) for page in pages(5)]
    for begin in (made[2], made[4]):
        Page.objects.filter(pk=begin.pk).update(breaks=True)
    say(stack, whole=True, left_out={made[at].pk: True for at in (1, 2, 4)})
    (copy,) = copy_of(stack)
    assert [(part["title"], part["page"]) for part in copy.order["parts"]] == [("Part 1", 0), ("Part 2", 1)]


def test_pages_that_are_still_worked_on_are_waited_for(stack, pages):
    pages(1)
    with pytest.raises(Refused, match="still being worked on"):
        copy_of(stack)


def test_covers_of_another_image_are_no_covers_of_this_one(stack, pages):
    one, other = pages(2)
    one, other = walk(one), walk(other)
    mark(stack, one)
    mark(stack, other, kind="note")
    Page.objects.filter(pk=one.pk).update(frame=1)
    Page.objects.filter(pk=other.pk).update(frame=1)
    assert marks_of(stack) == {one.pk: [], other.pk: []}
    with pytest.raises(Refused, match="Page 1 is another image"):
        copy_of(stack)
    say(stack, marks={one.pk: {"gone": ["mark-1"]}})
    assert copy_of(stack)


def test_passwords_are_sealed_told_to_the_engine_alone_and_make_another_copy(stack, pages, client):
    walk(pages(1)[0])
    response = client.post(
        f"/api/v1/stacks/{stack.pk}/copies",
        {"opening": "open sesame", "changing": "Skerry"},
        content_type="application/json",
    )
    assert response.status_code == 201
    assert answer(response)[0]["locked"]
    assert b"sesame" not in response.content
    document = Document.objects.get()
    row = json.dumps({name: str(value) for name, value in vars(document).items()})
    assert "sesame" not in row
    (task,) = wanted(9, frozenset())
    assert (task.step, task.arguments[3]) == ("copy", {"opening": "open sesame", "changing": "Skerry"})
    (same,) = copy_of(stack, Passwords("open sesame", "Skerry"))
    assert same.key != document.key


def test_passwords_that_will_not_do_are_refused(stack, pages, client):
    walk(pages(1)[0])
    response = client.post(f"/api/v1/stacks/{stack.pk}/copies", {"opening": "é" * 64}, content_type="application/json")
    assert response.status_code == 422
    assert "too long" in answer(response)["detail"]
    assert not Document.objects.exists()


def test_a_copy_whose_passwords_nobody_can_read_any_more_ends_with_a_sentence(stack, pages, settings):
    walk(pages(1)[0])
    (copy,) = copy_of(stack, Passwords("open sesame"))
    settings.SECRET_KEY = "another one"
    assert wanted(9, frozenset()) == []
    result = Result.objects.get(key=copy.key)
    assert (result.state, result.step) == ("failed", "copy")
    assert "Make the copy again" in result.error


def test_what_is_sealed_comes_back_and_is_never_the_same_twice(settings):
    assert unseal(seal("öffne dich")) == "öffne dich"
    assert seal("a") != seal("a")
    sealed = seal("a")
    settings.SECRET_KEY = "another one"
    with pytest.raises(Refused, match="cannot be read any more"):
        unseal(sealed)


def test_a_copy_is_made_and_made_again_where_it_was_damaged(stack, pages, client, tmp_path):
    page = walk(pages(1)[0])
    mark(stack, page)
    (copy,) = copy_of(stack)
    body = {"bytes": 10, "sha256": "ab", "page_bytes": [10], "checked": [], "remarks": ["Look."], "pages": 1, "covers": 1}
    record([Outcome("copy", copy.key, body)])
    (told,) = answer(client.get(f"/api/v1/stacks/{stack.pk}/documents"))
    assert (told["state"], told["remarks"], told["conformance"]) == ("bound", ["Look."], None)
    forget(copy.key)
    assert [task.step for task in wanted(9, frozenset())] == ["copy"]


def test_the_step_makes_the_file(tmp_path):
    image = encode(Raster(np.full((600, 400), 250, np.uint8), (100, 100)), "grey", 80)
    folder = tmp_path / "clean"
    folder.mkdir()
    (folder / "image").write_bytes(image.data)
    page = {
        "folder": str(folder), "clean": described(image), "ppi": [100, 100], "reading": None, "read": None, "words": None,
        "master": "ab" * 32, "read_on": None, "quad": None, "marks": [{"kind": "cover", "box": [0, 0, 1, 0.5], "text": ""}],
    }  # fmt: skip
    order = {"title": "Letters", "created": "2026-03-01T09:00:00Z", "labels": ["1"]}
    done = copies.copy_step([page], str(tmp_path / "made" / "copy.pdf"), order, {"opening": "x"})
    assert (done["pages"], done["covers"], done["remarks"]) == (1, 1, ())
    assert done["bytes"] == (tmp_path / "made" / "copy.pdf").stat().st_size
    assert not any(one["faults"] for one in done["checked"])
    with pikepdf.open(tmp_path / "made" / "copy.pdf", password="x") as pdf:
        assert len(pdf.pages) == 1


def test_the_text_of_a_copy_is_without_what_is_covered(monkeypatch):
    reading = next(drawn_pages("The keeper Merriwether wrote", [], "1")).reading
    monkeypatch.setattr(texts, "reading_of", lambda key: reading)
    width, height = reading.size_px
    word = next(one for one in reading.words if one.text == "Merriwether")
    box = [word.box[0] / width, word.box[1] / height, word.box[2] / width, word.box[3] / height]
    page = SimpleNamespace(reading="key", words={}, marks=[{"kind": "cover", "box": box, "text": ""}])
    assert texts.bound_reading(page).text.startswith("The keeper wrote")
    page.marks = []
    assert "Merriwether" in texts.bound_reading(page).text


def test_a_page_is_seen_as_it_will_be(client, stack, pages, monkeypatch):
    page = walk(pages(1)[0])
    mark(stack, page, box=(0, 0, 1, 0.5))
    image = encode(Raster(np.full((1400, 1000), 250, np.uint8), (300, 300)), "grey", 80)
    monkeypatch.setattr(over_http, "image_of", lambda page: image)
    response = client.get(f"/api/v1/pages/{page.pk}/copy")
    assert (response.status_code, response["Cache-Control"]) == (200, "no-store")
    seen = np.asarray(Image.open(io.BytesIO(response.content)).convert("L"))
    assert seen.shape == (700, 500)
    assert seen[:340].max() < 30
    assert seen[360:].min() > 200
