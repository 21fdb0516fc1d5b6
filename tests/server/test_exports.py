"""Other forms over the API: of a document, of chosen pages, of a stack; fetched under their own names."""

import asyncio
import hashlib
import io
import zipfile

import numpy as np
import pytest

from hollowstack.core.bind.codecs import encode
from hollowstack.core.page.raster import Raster
from hollowstack.core.run import exports
from hollowstack.core.run.keeping import described
from hollowstack.server.documents import exporting
from hollowstack.server.documents.drafts import DraftChange, change_draft
from hollowstack.server.documents.exporting import ExportAsked, ask_for_export
from hollowstack.server.documents.models import Document
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.engine.wanting import wanted
from hollowstack.server.errors import Refused
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page
from hollowstack.server.storage import places
from tests.server.conftest import answer, sha, walk
from tests.server.dispatching import bind


def asked(stack, **rest):
    return ask_for_export(stack.pk, ExportAsked.model_validate({"form": "docx", **rest}), None)


def test_of_a_document_of_chosen_pages_and_of_all(stack, pages):
    made = [walk(page) for page in pages(4)]
    Page.objects.filter(pk=made[2].pk).update(breaks=True)
    change = {
        "labels": [{"page": made[0].pk, "style": "roman"}],
        "documents": {made[2].pk: {"title": "Cards", "described": {"identifier": "SL/27"}}},
    }
    change_draft(stack.pk, DraftChange.model_validate(change))
    one = asked(stack, first=made[2].pk)
    assert (one.title, one.page_count, one.order["described"]) == ("Cards", 2, {"identifier": "SL/27"})
    assert [page.label for page in one.pages.all()] == ["1", "2"]
    chosen = asked(stack, pages=[made[3].pk, made[1].pk])
    assert [page.page_id for page in chosen.pages.all()] == [made[1].pk, made[3].pk]
    assert [page.label for page in chosen.pages.all()] == ["ii", "2"]
    assert chosen.title == "Box 27, pages 2, 4"
    assert asked(stack, pages=[one.pk for one in made[1:]]).title == "Box 27, pages 2–4"
    assert asked(stack, pages=[made[2].pk]).title == "Box 27, page 3"
    assert (asked(stack).page_count, asked(stack).title) == (4, "Box 27")


def test_what_is_not_there_is_refused_and_nothing_is_left_out_unsaid(stack, pages):
    made = [walk(page) for page in pages(2)]
    Page.objects.filter(pk=made[0].pk).update(aside="rejected", state="aside")
    with pytest.raises(Refused, match="1 of the chosen pages is aside"):
        asked(stack, pages=[made[0].pk, made[1].pk])
    with pytest.raises(Refused, match="no document that begins with this page"):
        asked(stack, first=made[0].pk)
    Page.objects.filter(pk=made[1].pk).update(aside="rejected", state="aside")
    with pytest.raises(Refused, match="no page to export"):
        asked(stack)
    pages(1)
    with pytest.raises(Refused, match="still being worked on"):
        asked(stack)


def test_the_engine_makes_it_with_masters_and_labels(stack, pages):
    page = walk(pages(1)[0])
    document = asked(stack, form="bag")
    (task,) = wanted(9, frozenset())
    assert (task.step, task.key, task.arguments[2]["form"]) == ("export", document.key, "bag")
    (told,) = task.arguments[0]
    assert (told["label"], told["master"], told["master_name"]) == ("1", sha(1), page.source.name)
    assert told["master_path"] == str(places.master_path(sha(1)))


def test_pictures_without_loss_are_made_of_every_value_of_the_clean_page(stack, pages):
    page = walk(pages(1)[0], colour="grey")
    (text,) = asked(stack, form="docx").pages.all()
    assert (text.rendered, text.plan) == (page.rendered_id, None)
    (small,) = asked(stack, form="jpeg").pages.all()
    assert small.plan is None
    document = asked(stack, form="png")
    (exact,) = document.pages.all()
    assert (exact.plan["lossless"], exact.plan["layers"]) == (True, False)
    assert exact.rendered != page.rendered_id
    steps = [task.step for task in wanted(9, frozenset()) if task.key in (exact.rendered, document.key)]
    assert steps == ["render"]
    record([Outcome("render", exact.rendered, None, "It is torn.", "page")])
    assert "could not be made as “preservation”: It is torn." in Result.objects.get(key=document.key).error


def test_over_http(client, stack, pages):
    page = walk(pages(1)[0])
    forms = answer(client.get("/api/v1/export-forms"))
    assert {"docx", "bag", "tiff"} <= {one["name"] for one in forms}
    address = f"/api/v1/stacks/{stack.pk}/exports"
    response = client.post(address, {"form": "tiff", "two_tones": True, "first": page.pk}, content_type="application/json")
    assert response.status_code == 201
    told = answer(response)
    assert (told["kind"], told["suffix"], told["conformance"], told["state"]) == ("export", ".tiff", None, "binding")
    document = Document.objects.get()
    assert document.order["tiff_packing"] == "Group 4"
    places.document_path(document.key).parent.mkdir(parents=True, exist_ok=True)
    places.document_path(document.key).write_bytes(b"II*")
    body = {"pages": 1, "bytes": 3, "sha256": hashlib.sha256(b"II*").hexdigest(), "remarks": ["Said."], "page_bytes": [1]}
    record([Outcome("export", document.key, body)])
    file = client.get(f"/api/v1/documents/{document.pk}/file")
    assert (file["Content-Type"], file["Content-Length"]) == ("image/tiff", "3")
    assert "Box 27.tiff" in file["Content-Disposition"]
    assert answer(client.get(f"/api/v1/stacks/{stack.pk}/documents"))[0]["remarks"] == ["Said."]
    assert client.post(address, {"form": "doc"}, content_type="application/json").status_code == 422


def test_the_step_makes_the_file(tmp_path):
    image = encode(Raster(np.full((600, 400), 250, np.uint8), (100, 100)), "grey", 80)
    folder = tmp_path / "clean"
    folder.mkdir()
    (folder / "image").write_bytes(image.data)
    page = {
        "folder": str(folder), "clean": described(image), "ppi": [100, 100], "reading": None, "read": None, "words": None,
        "master": "ab" * 32, "read_on": None, "quad": None, "label": "i", "master_path": "", "master_name": "",
    }  # fmt: skip
    done = exports.export_step(
        [page], str(tmp_path / "made" / "x"), {"form": "odt", "title": "A", "created": "2026-03-01T09:00Z"}
    )
    assert done["bytes"] == (tmp_path / "made" / "x").stat().st_size
    assert done["remarks"][0].startswith("1 page was not read")


def test_all_that_was_bound_comes_as_one_file(client, stack, pages):
    walk(pages(1)[0])
    address = f"/api/v1/stacks/{stack.pk}/documents.zip"
    assert client.get(address).status_code == 422
    made = [asked(stack, form="txt"), asked(stack, form="tiff"), asked(stack, form="hocr")]
    data = {}
    for number, document in enumerate(made[:2]):
        data[document.pk] = bytes([number]) * (700_000 * number + 5)
        path = places.document_path(document.key)
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(data[document.pk])
        record([Outcome("export", document.key, {"pages": 1, "bytes": 5, "sha256": "x", "remarks": [], "page_bytes": []})])
    Document.objects.filter(pk=made[1].pk).update(order=made[0].order)
    # The same name twice, and asked for at once.
    Document.objects.update(title="Box 27.1 of 2", created_at=Document.objects.get(pk=made[0].pk).created_at)
    response = client.get(address)
    assert response["Content-Type"] == "application/zip"

    async def whole() -> bytes:
        return b"".join([piece async for piece in response])

    with zipfile.ZipFile(io.BytesIO(asyncio.run(whole()))) as found:
        assert found.testzip() is None
        assert {name: found.read(name) for name in found.namelist()} == {
            "Box 27.1 of 2.txt": data[made[0].pk], "Box 27.1 of 2 (2).txt": data[made[1].pk],
        }  # fmt: skip


def test_a_title_of_many_pages_apart_says_how_many():
    assert exporting._of_pages("Box 27", range(1, 60, 2)) == "Box 27, 30 pages"
    long = exporting._of_pages("B" * 200, [1, 2, 5])
    assert (len(long), long.endswith("B, pages 1–2, 5")) == (200, True)


def test_a_browser_shows_what_is_pdf_and_keeps_all_else_as_a_file(client, stack, pages):
    walk(pages(1)[0])
    for form, shown in (("pdf", True), ("docx", False)):
        document = asked(stack, form=form)
        bind(document, b"%PDF-1.7 made up")
        for words, inline in (("", False), ("?inline=true", shown)):
            answered = client.get(f"/api/v1/documents/{document.pk}/file{words}")
            assert answered["Content-Disposition"].startswith("inline" if inline else "attachment")
            assert ("object-src 'self'" in answered["Content-Security-Policy"]) is inline
