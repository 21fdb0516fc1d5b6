"""Manifests and collections against an independent model of them: iiif-prezi3, by the IIIF community (IIIF Presentation 3.0.0)."""

import json
import warnings
from datetime import UTC, datetime

import pytest

from hollowstack.core.bind.bookmarks import Bookmark
from hollowstack.core.bind.description import Description
from hollowstack.core.export.presentation import (
    Addresses,
    Found,
    Member,
    ShownPage,
    canvas_id,
    collection_of,
    manifest_of,
    search_answer,
)

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    from iiif_prezi3 import AnnotationPage, Collection, Manifest

ROOT = "https://scans.example/api"
AT = Addresses(f"{ROOT}/7/manifest", f"{ROOT}/7.pdf", f"{ROOT}/7.xml", f"{ROOT}/7/search", "https://scans.example/stacks/1")
TOLD = {"title": "Letters", "created": datetime(2026, 11, 1, tzinfo=UTC), "language": "en"}
PAGES = [ShownPage(f"https://scans.example/iiif/{key}", f"https://scans.example/{key}.webp", (1000, 1400), label) for key, label in (
    ("a", "i"), ("b", "1"), ("c", "2"),
)]  # fmt: skip
FULL = {
    "creators": ("T. Harrow", "A. Merriwether"), "subjects": ("oil",), "description": "About oil.", "date": "1927-02",
    "identifier": "SL/27/114", "type": "letter", "relations": ("SL/27/115",),
}  # fmt: skip


def made(parts: tuple[Bookmark, ...] = (), at: Addresses = AT, pages: list[ShownPage] = PAGES, **told: object):
    return manifest_of(Description(**TOLD, **told), pages, parts, at)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    "manifest",
    [
        made(), made(pages=PAGES[:1]), made(**FULL), made(rights="Crown copyright"),
        made(rights="https://creativecommons.org/publicdomain/mark/1.0/"), made((Bookmark("One", 0), Bookmark("Two", 2))),
        made(at=AT._replace(alto="")), made(date="about 1927"),
    ],
)  # fmt: skip
def test_the_model_reads_a_manifest_and_writes_it_again_the_same(manifest):
    again = json.loads(Manifest(**manifest).jsonld())
    for part in again.get("structures", []):
        for canvas in part["items"]:
            assert canvas.pop("items") == []  # the model has no mere names of canvases
    assert again == manifest


def test_what_is_said_of_a_document_stands_in_its_manifest():
    manifest = made(**FULL)
    said = {one["label"]["en"][0]: one["value"]["en"] for one in manifest["metadata"]}
    assert said == {
        "Creator": ["T. Harrow", "A. Merriwether"], "Date": ["1927-02"], "Identifier": ["SL/27/114"], "Type": ["letter"],
        "Subject": ["oil"], "Relation": ["SL/27/115"],
    }  # fmt: skip
    assert manifest["summary"] == {"en": ["About oil."]}
    assert manifest["navDate"] == "1927-02-01T00:00:00Z"
    assert "navDate" not in made(date="about 1927")


def test_rights_are_an_address_only_where_that_is_known():
    """Section 3.1: the value must be a Creative Commons or RightsStatements.org URI."""
    assert made(rights="https://rightsstatements.org/vocab/NoC-US/1.0/")["rights"].startswith("http://rights")
    manifest = made(rights="Crown copyright")
    assert "rights" not in manifest
    assert manifest["requiredStatement"]["value"] == {"en": ["Crown copyright"]}


def test_parts_are_ranges_that_end_where_the_next_begins():
    """Section 5.4."""
    manifest = made((Bookmark("Two", 2), Bookmark("One", 0), Bookmark("Beyond", 3)))
    ranges = [(one["label"]["none"][0], [item["id"] for item in one["items"]]) for one in manifest["structures"]]
    first, second, third = (canvas_id(AT.manifest, number) for number in (1, 2, 3))
    assert ranges == [("One", [first, second]), ("Two", [third])]


def test_two_parts_that_begin_on_a_page_both_have_it():
    manifest = made((Bookmark("One", 1), Bookmark("Two", 1)))
    assert [len(one["items"]) for one in manifest["structures"]] == [1, 2]


def test_a_document_that_was_not_read_has_neither_words_nor_search():
    manifest = made(at=AT._replace(alto=""))
    assert "seeAlso" not in manifest
    assert "service" not in manifest


def test_the_model_reads_a_collection():
    collection = collection_of(f"{ROOT}/all", "All", [
        Member(AT.manifest, "Manifest", "Letters", "https://scans.example/a.webp"), Member(f"{ROOT}/1", "Collection", "Box"),
    ])  # fmt: skip
    assert [(str(item.id), item.type) for item in Collection(**collection).items] == [
        (AT.manifest, "Manifest"), (f"{ROOT}/1", "Collection"),
    ]  # fmt: skip
    assert Collection(**collection_of(f"{ROOT}/none", "None", [])).items == []


def test_the_model_reads_an_answer_to_a_search():
    """IIIF Content Search API 2.0.0, section 4: an annotation page; its annotations name a part of a canvas."""
    answer = search_answer(f"{ROOT}/7/search?q=oil", AT.manifest, [Found(2, "oil", (10, 20, 60, 45))], ["user"])
    assert answer["ignored"] == ["user"]
    page = AnnotationPage(**{name: value for name, value in answer.items() if name not in ("@context", "ignored")})
    assert answer["items"][0]["target"] == f"{ROOT}/7/canvas/2#xywh=10,20,50,25"
    assert page.items[0].motivation == "highlighting"
