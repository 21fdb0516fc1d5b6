"""Trying again what failed, over HTTP: a page, a stack, everything."""

from ninja import Schema

from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.documents import services as documents
from hollowstack.server.documents.models import Document
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.retrying import try_again

router = Router(tags=["retries"])


class TriedOut(Schema):
    """How much is tried again now; 0 where nothing had failed."""

    pages: int
    documents: int


@router.post("/pages/{int:page_id}/retry", response={200: TriedOut, 404: Problem})
def retry_page(request: Request, page_id: int) -> TriedOut:
    """Try the steps of a page again that failed."""
    Page.objects.get(pk=page_id)
    return TriedOut(pages=try_again(Page.objects.filter(pk=page_id)), documents=0)


@router.post("/stacks/{int:stack_id}/retry", response={200: TriedOut, 404: Problem})
def retry_stack(request: Request, stack_id: int) -> TriedOut:
    """Try everything in a stack again that failed: steps of its pages, and documents."""
    Stack.objects.get(pk=stack_id)
    return TriedOut(
        pages=try_again(Page.objects.filter(stack_id=stack_id, removed=False)),
        documents=documents.try_again(Document.objects.filter(stack_id=stack_id)),
    )


@router.post("/retry", response={200: TriedOut})
def retry_everything(request: Request) -> TriedOut:
    """Try everything again that failed, in all stacks."""
    return TriedOut(
        pages=try_again(Page.objects.filter(removed=False)), documents=documents.try_again(Document.objects.all())
    )
