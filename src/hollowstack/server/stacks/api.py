"""Stacks and pages over HTTP; the rules are in ``services``."""

from django.http import HttpRequest
from ninja import Router, Status

from hollowstack.server import store
from hollowstack.server.stacks import services, views
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.stacks.schemas import AsideIn, PageOut, PagesOut, Problem, StackIn, StackOut

router = Router(tags=["stacks"])


@router.get("/stacks", response=list[StackOut])
def list_stacks(request: HttpRequest) -> list[StackOut]:
    """All stacks, the newest first."""
    return [views.stack_out(stack) for stack in Stack.objects.order_by("-created_at", "-pk")]


@router.post("/stacks", response={201: StackOut, 422: Problem})
def post_stack(request: HttpRequest, new: StackIn) -> Status:
    """Start a stack."""
    return Status(201, views.stack_out(services.create_stack(new.name, request.user)))


@router.get("/stacks/{int:stack_id}", response={200: StackOut, 404: Problem})
def get_stack(request: HttpRequest, stack_id: int) -> StackOut:
    """One stack."""
    services.look_at(stack_id, None)
    return views.stack_out(Stack.objects.get(pk=stack_id))


@router.get("/stacks/{int:stack_id}/pages", response={200: PagesOut, 404: Problem})
def get_pages(request: HttpRequest, stack_id: int, since: int = 0) -> PagesOut:
    """The pages of a stack that changed after a count."""
    return views.pages_out(Stack.objects.get(pk=stack_id), since)


@router.put("/stacks/{int:stack_id}/files", response={201: PageOut, 404: Problem, 422: Problem})
def put_file(request: HttpRequest, stack_id: int, name: str, position: int | None = None) -> Status:
    """Add a file, its bytes as the body. ``position`` is its place among the stack's files, at the end by default."""
    Stack.objects.get(pk=stack_id)
    sha256, size = store.keep_master(request)
    place = services.next_position(stack_id) if position is None else position
    page = services.add_file(stack_id, name, place, sha256, size)
    return Status(201, views.page_out(_page(page.pk)))


@router.get("/pages/{int:page_id}", response={200: PageOut, 404: Problem})
def get_page(request: HttpRequest, page_id: int) -> PageOut:
    """All that is known of one page; it is worked on next."""
    page = _page(page_id)
    services.look_at(page.stack_id, page_id)
    return views.page_out(page)


@router.put("/pages/{int:page_id}/aside", response={200: PageOut, 404: Problem, 409: Problem, 422: Problem})
def put_aside(request: HttpRequest, page_id: int, change: AsideIn) -> PageOut:
    """Hold a page out of the output, keep it in, or leave that to the plan."""
    services.set_aside(page_id, change.aside, seen=change.seen)
    return views.page_out(_page(page_id))


def _page(page_id: int) -> Page:
    return with_results(Page.objects.filter(pk=page_id)).select_related("stack").get()
