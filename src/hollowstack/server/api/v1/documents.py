"""Documents over HTTP."""

import asyncio
from collections.abc import AsyncIterator
from datetime import datetime
from pathlib import Path
from typing import Literal

from django.http import StreamingHttpResponse
from django.utils.http import content_disposition_header
from ninja import Schema, Status

from hollowstack.core.bind import CONFORMANCE
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.documents import services
from hollowstack.server.documents.models import Document
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Stack
from hollowstack.server.storage import places

router = Router(tags=["documents"])


class DocumentIn(Schema):
    """What to bind the stack as."""

    title: str


class DocumentOut(Schema):
    """A document, bound or on its way."""

    id: int
    title: str
    created_at: datetime
    state: Literal["binding", "bound", "failed"]
    error: str
    pages: int
    bytes: int | None
    sha256: str | None
    conformance: str | None


@router.get("/stacks/{int:stack_id}/documents", response={200: list[DocumentOut], 404: Problem})
def list_documents(request: Request, stack_id: int) -> list[DocumentOut]:
    """What was bound from a stack, the newest first."""
    documents = list(Stack.objects.get(pk=stack_id).documents.order_by("-pk"))
    results = Result.objects.in_bulk([document.key for document in documents])
    return [_out(document, results.get(document.key)) for document in documents]


@router.post("/stacks/{int:stack_id}/documents", response={201: list[DocumentOut], 404: Problem, 422: Problem})
def bind_stack(request: Request, stack_id: int, new: DocumentIn) -> Status[list[DocumentOut]]:
    """Bind the stack as it stands; a document break begins another document."""
    return Status(201, [_out(document, None) for document in services.ask_to_bind(stack_id, new.title, request.user)])


@router.get("/documents/{int:document_id}", response={200: DocumentOut, 404: Problem})
def get_document(request: Request, document_id: int) -> DocumentOut:
    """One document."""
    document = Document.objects.get(pk=document_id)
    return _out(document, Result.objects.filter(key=document.key).first())


@router.delete("/documents/{int:document_id}", response={204: None, 404: Problem})
def delete_document(request: Request, document_id: int) -> Status[None]:
    """Throw a document into the bin; it can be taken back for thirty days."""
    services.delete_document(document_id, request.user)
    return Status(204, None)


@router.get("/documents/{int:document_id}/file", response={404: Problem})
def get_document_file(request: Request, document_id: int) -> StreamingHttpResponse:
    """The PDF itself."""
    document = Document.objects.get(pk=document_id)
    if not Result.objects.filter(key=document.key, body__isnull=False).exists():
        raise Document.DoesNotExist
    name = "".join(c if c.isalnum() or c in " -_.,()" else "_" for c in document.title).strip(" .") or "document"
    path = places.document_path(document.key)
    response = StreamingHttpResponse(_chunks(path), content_type="application/pdf")
    response.headers["Content-Length"] = str(path.stat().st_size)
    response.headers["Content-Disposition"] = content_disposition_header(as_attachment=True, filename=f"{name}.pdf")
    return response


async def _chunks(path: Path) -> AsyncIterator[bytes]:
    """A file bit by bit, so that a large document never stands in memory whole."""
    with path.open("rb") as file:
        while chunk := await asyncio.to_thread(file.read, 1 << 18):
            yield chunk


def _out(document: Document, result: Result | None) -> DocumentOut:
    body = result.body if result else None
    return DocumentOut(
        id=document.pk,
        title=document.title,
        created_at=document.created_at,
        state="bound" if body else "failed" if result and result.state == Result.State.FAILED else "binding",
        error=result.error if result else "",
        pages=len(document.pages),
        bytes=body["bytes"] if body else None,
        sha256=body["sha256"] if body else None,
        conformance=CONFORMANCE if body else None,
    )
