"""Documents for viewers of other houses over HTTP: IIIF Presentation API 3 and Content Search API 2."""

import json

from django.http import HttpRequest, HttpResponse
from django.urls import reverse

from hollowstack.core.export.presentation import (
    MEDIA_TYPE,
    SEARCH_MEDIA_TYPE,
    Addresses,
    Json,
    Member,
    collection_of,
    manifest_of,
    search_answer,
)
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.collections.models import Collection
from hollowstack.server.documents import presenting
from hollowstack.server.documents.models import Document
from hollowstack.server.stacks.models import Stack

router = Router(tags=["presentation"])
_UNHEEDED = ("motivation", "date", "user")
"""Parameters of Content Search that mean nothing here (section 3.2.1)."""


@router.get("/presentation/collection", response={200: "application/ld+json"})
def get_top_collection(request: Request) -> HttpResponse:
    """The collections at the top, and stacks with bound documents that are filed nowhere, as an IIIF collection."""
    return _json(collection_of(_whole(request, "get_top_collection"), "Hollow Stack", _members(request, None)))


@router.get("/presentation/collections/{int:collection_id}", response={200: "application/ld+json", 404: Problem})
def get_collection(request: Request, collection_id: int) -> HttpResponse:
    """What is filed in a collection: those in it, and stacks with bound documents, as an IIIF collection."""
    one = Collection.objects.get(pk=collection_id)
    return _json(collection_of(_whole(request, "get_collection", one.pk), one.name, _members(request, one)))


def _members(request: HttpRequest, collection: Collection | None) -> list[Member]:
    inside = presenting.shown_in(collection)
    parts = [Member(_whole(request, "get_collection", one.pk), "Collection", one.name) for one in inside.collections]
    return parts + [Member(_of_stack(request, one.pk), "Collection", one.name) for one in inside.stacks]


@router.get("/presentation/stacks/{int:stack_id}/collection", response={200: "application/ld+json", 404: Problem})
def get_stack_collection(request: Request, stack_id: int) -> HttpResponse:
    """The bound documents of a stack, as an IIIF collection."""
    stack = Stack.objects.get(pk=stack_id)
    documents = presenting.bound_documents(stack.pk)
    members = [Member(_of_document(request, one.pk), "Manifest", one.title) for one in documents]
    return _json(collection_of(_of_stack(request, stack.pk), stack.name, members, presenting.said_of_stack(stack)))


@router.get("/presentation/documents/{int:document_id}/manifest", response={200: "application/ld+json", 404: Problem})
def get_manifest(request: Request, document_id: int) -> HttpResponse:
    """A bound document, as an IIIF manifest."""
    document = Document.objects.select_related("stack").get(pk=document_id)
    root = request.build_absolute_uri("/")
    shown = presenting.presented(document, f"{root}iiif/render/{{key}}", f"{root}thumbs/render/{{key}}.webp")
    home = f"{root}stacks/{document.stack_id}" + (f"/pages/{shown.first_page}" if shown.first_page else "")
    at = Addresses(
        manifest=_of_document(request, document.pk),
        pdf=_whole(request, "get_document_file", document.pk),
        alto=f"{root}api/v1/documents/{document.pk}/text?form=alto" if shown.is_read else "",
        search=_whole(request, "search_document", document.pk),
        homepage=home,
    )
    return _json(manifest_of(shown.about, shown.pages, shown.parts, at))


@router.get("/presentation/documents/{int:document_id}/search", response={200: "application/ld+json", 404: Problem})
def search_document(request: Request, document_id: int, q: str) -> HttpResponse:
    """Where words stand in a document, as annotations on its pages."""
    document = Document.objects.get(pk=document_id)
    found = presenting.found_in(document, q)
    ignored = [name for name in _UNHEEDED if name in request.GET]
    answer = search_answer(request.build_absolute_uri(), _of_document(request, document.pk), found, ignored)
    return _json(answer, SEARCH_MEDIA_TYPE)


def _of_stack(request: HttpRequest, stack_id: int) -> str:
    return _whole(request, "get_stack_collection", stack_id)


def _of_document(request: HttpRequest, document_id: int) -> str:
    return _whole(request, "get_manifest", document_id)


def _whole(request: HttpRequest, name: str, *given: int) -> str:
    """The absolute address of an operation."""
    return request.build_absolute_uri(reverse(f"api:{name}", args=given))


def _json(told: Json, media_type: str = MEDIA_TYPE) -> HttpResponse:
    return HttpResponse(json.dumps(told, ensure_ascii=False), content_type=media_type)
