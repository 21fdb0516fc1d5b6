"""The bin over HTTP: what was deleted, and taking it back."""

from datetime import datetime

from ninja import Schema, Status

from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.documents import services as documents
from hollowstack.server.stacks import bin as trash

router = Router(tags=["bin"])
_MOST = 500


class DeletedStack(Schema):
    """A stack in the bin."""

    id: int
    name: str
    pages: int
    deleted_at: datetime
    until: datetime
    by: str


class DeletedDocument(Schema):
    """A document in the bin."""

    id: int
    title: str
    stack: int
    stack_name: str
    pages: int
    deleted_at: datetime
    until: datetime
    by: str


class DeletedPage(Schema):
    """A page in the bin; ``thumb`` is the key of its small picture as captured, where there is one."""

    id: int
    source: str
    stack: int
    stack_name: str
    thumb: str | None
    deleted_at: datetime
    until: datetime


class BinOut(Schema):
    """What can still be taken back, the last first: 500 of each kind, of so many."""

    stacks: list[DeletedStack]
    stacks_count: int
    documents: list[DeletedDocument]
    documents_count: int
    pages: list[DeletedPage]
    pages_count: int


@router.get("/bin", response=BinOut)
def get_bin(request: Request) -> BinOut:
    """What was deleted in the last thirty days."""
    stacks, bound, pages = trash.deleted_stacks(), documents.deleted_documents(), trash.deleted_pages()
    return BinOut(
        stacks_count=stacks.count(),
        documents_count=bound.count(),
        pages_count=pages.count(),
        stacks=[
            DeletedStack(
                id=stack.pk,
                name=stack.name,
                pages=stack.pages.filter(removed=False).count(),
                deleted_at=deleted_at,
                until=deleted_at + trash.KEPT,
                by=stack.deleted_by.get_username() if stack.deleted_by else "",
            )
            for stack in stacks.select_related("deleted_by")[:_MOST]
            if (deleted_at := stack.deleted_at) is not None
        ],
        documents=[
            DeletedDocument(
                id=document.pk,
                title=document.title,
                stack=document.stack_id,
                stack_name=document.stack.name,
                pages=document.page_count,
                deleted_at=deleted_at,
                until=deleted_at + trash.KEPT,
                by=document.deleted_by.get_username() if document.deleted_by else "",
            )
            for document in bound.select_related("deleted_by", "stack")[:_MOST]
            if (deleted_at := document.deleted_at) is not None
        ],
        pages=[
            DeletedPage(
                id=page.pk,
                source=page.source.name,
                stack=page.stack_id,
                stack_name=page.stack.name,
                thumb=page.measured_id if page.passed > 1 else None,
                deleted_at=deleted_at,
                until=deleted_at + trash.KEPT,
            )
            for page in pages.select_related("source", "stack")[:_MOST]
            if (deleted_at := page.deleted_at) is not None
        ],
    )


@router.post("/bin/stacks/{int:stack_id}/restore", response={204: None, 404: Problem})
def restore_stack(request: Request, stack_id: int) -> Status[None]:
    """Take a stack back as it was."""
    trash.restore_stack(stack_id)
    return Status(204, None)


@router.post("/bin/documents/{int:document_id}/restore", response={204: None, 404: Problem})
def restore_document(request: Request, document_id: int) -> Status[None]:
    """Take a document back."""
    documents.restore_document(document_id)
    return Status(204, None)
