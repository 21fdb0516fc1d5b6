"""Stacks and pages over HTTP; the rules are in ``services``."""

from django.http import Http404, HttpResponse
from django.utils.http import content_disposition_header
from ninja import Status

from hollowstack.core.bind.separator_sheet import separator_sheet
from hollowstack.core.ocr.models import models
from hollowstack.core.read.languages import language_name
from hollowstack.server.api.v1 import shelf, views
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.api.v1.schemas import (
    BatchIn,
    BatchOut,
    FileOut,
    HeldFile,
    LanguageOut,
    PageOut,
    PagesOut,
    QuotaOut,
    StackChange,
    StackOut,
    ViewingIn,
)
from hollowstack.server.capture.runs import refuse_open_capture
from hollowstack.server.intake import archives, batches
from hollowstack.server.intake.quotas import quotas_of, require_quota
from hollowstack.server.stacks import bin as trash
from hollowstack.server.stacks import languages, services
from hollowstack.server.stacks.models import Batch, Page, Stack
from hollowstack.server.stacks.overview import with_results
from hollowstack.server.stacks.viewing import look_at
from hollowstack.server.storage.spools import spooled

router = Router(tags=["stacks"])


@router.get("/separator-sheet", response={200: "application/pdf"})
def get_separator_sheet(request: Request, paper: str = "A4") -> HttpResponse:
    """A separator sheet to print, as a PDF."""
    response = HttpResponse(separator_sheet(paper), content_type="application/pdf")
    response.headers["Content-Disposition"] = content_disposition_header(
        as_attachment=True, filename=f"separator sheet {paper}.pdf"
    )
    return response


@router.get("/stacks/{int:stack_id}", response={200: StackOut, 404: Problem})
def get_stack(request: Request, stack_id: int) -> StackOut:
    """One stack."""
    return shelf.stack_out(Stack.objects.get(pk=stack_id))


@router.patch("/stacks/{int:stack_id}", response={200: StackOut, 404: Problem})
def update_stack(request: Request, stack_id: int, change: StackChange) -> StackOut:
    """Give a stack another name, or say where its papers are and what becomes of them."""
    if change.name is not None:
        services.rename_stack(stack_id, change.name)
    if change.original is not None:
        services.describe_original(stack_id, change.original)
    return shelf.stack_out(Stack.objects.get(pk=stack_id))


@router.delete("/stacks/{int:stack_id}", response={204: None, 404: Problem})
def delete_stack(request: Request, stack_id: int) -> Status[None]:
    """Throw a stack into the bin, with all that is in it; it can be taken back for thirty days."""
    refuse_open_capture(stack_id)
    trash.delete_stack(stack_id, request.user)
    return Status(204, None)


@router.get("/languages", response=list[LanguageOut])
def list_languages(request: Request) -> list[LanguageOut]:
    """The languages that text can be read in here, by name."""
    there = (LanguageOut(name=language_name(one.code), **one._asdict()) for one in models())
    return sorted(there, key=lambda one: one.name)


@router.get("/stacks/{int:stack_id}/languages", response={200: list[languages.Proposal], 404: Problem})
def list_proposed_languages(request: Request, stack_id: int) -> list[languages.Proposal]:
    """What pages of a stack seem to be written in, and are not read in."""
    stack = Stack.objects.get(pk=stack_id)
    pages = stack.pages.filter(removed=False).select_related("reading")
    return languages.proposals(pages, stack)


@router.put("/stacks/{int:stack_id}/viewing", response={204: None, 404: Problem})
def put_viewing(request: Request, stack_id: int, now: ViewingIn) -> Status[None]:
    """Tell what you have before your eyes: it is worked on before everything else."""
    look_at(request.user, stack_id, now.page)
    return Status(204, None)


@router.get("/stacks/{int:stack_id}/pages", response={200: PagesOut, 404: Problem})
def list_pages(request: Request, stack_id: int, since: int = 0) -> HttpResponse:
    """The pages of a stack that changed after a count."""
    found = views.pages_out(Stack.objects.get(pk=stack_id), since)
    # Thousands of rows: written down as they are, not checked against the schema a second time.
    return HttpResponse(found.model_dump_json(), content_type="application/json; charset=utf-8")


@router.get("/stacks/{int:stack_id}/quotas", response={200: list[QuotaOut], 404: Problem})
def list_quotas(request: Request, stack_id: int) -> list[QuotaOut]:
    """How much the stack, and what the person who asks has taken in, may come to, and what of that is taken."""
    found = quotas_of(Stack.objects.get(pk=stack_id).pk, request.user.pk)
    return [QuotaOut(whose=one.whose, used=one.used, most=one.most) for one in found]


@router.get("/stacks/{int:stack_id}/files", response={200: list[HeldFile], 404: Problem})
def list_files(request: Request, stack_id: int) -> list[HeldFile]:
    """The files that a stack's pages come from, in the order in which they were taken in; not those taken back."""
    sources = Stack.objects.get(pk=stack_id).sources.filter(pages__removed=False).distinct().select_related("master")
    return [
        HeldFile(name=source.name, sha256=source.master_id, bytes=source.master.bytes, added_at=source.added_at)
        for source in sources.order_by("batch", "index", "part")
    ]


@router.post("/stacks/{int:stack_id}/batches", response={201: BatchOut, 404: Problem})
def create_batch(request: Request, stack_id: int, batch: BatchIn) -> Status[BatchOut]:
    """Announce files that come together, at the end of the stack or behind one of its pages."""
    return Status(201, BatchOut(id=batches.open_batch(stack_id, request.user, after=batch.after).pk))


@router.put("/batches/{int:batch_id}/files/{int:index}", response={201: FileOut, 404: Problem, 409: Problem})
def put_file(request: Request, batch_id: int, index: int, name: str, again: bool = False) -> Status[FileOut]:
    """Add a file, its bytes as the body, at its place in a batch; sent there twice, it is there once.

    A ZIP file stands for the files in it. Bytes that the stack has at another place are refused with 409 unless ``again``
    says that they are meant.
    """
    batch = Batch.objects.get(pk=batch_id)
    require_quota(batch.stack_id, batch.by_id, int(request.headers.get("Content-Length") or 0))
    # Django hands over a request that can be read like a file, whatever its type says.
    with spooled(request) as spool:
        pages, left_out = archives.take_in(batch_id, index, name, spool, again=again)
    return Status(201, FileOut(pages=[page.pk for page in pages], left_out=left_out))


@router.get("/batches/{int:batch_id}/files/{int:index}", response={200: FileOut, 404: Problem})
def get_file(request: Request, batch_id: int, index: int) -> FileOut:
    """The pages of what came at a place in a batch: for whoever did not hear that it is in."""
    pages = Page.objects.filter(source__batch=batch_id, source__index=index).order_by("source__part", "frame")
    if not pages.exists():
        raise Http404
    return FileOut(pages=[page.pk for page in pages], left_out=[])


@router.get("/pages/{int:page_id}", response={200: PageOut, 404: Problem})
def get_page(request: Request, page_id: int) -> PageOut:
    """All that is known of one page."""
    page = _page(page_id)
    return views.page_out(page)


def _page(page_id: int) -> Page:
    return with_results(Page.objects.filter(pk=page_id, stack__deleted_at=None)).select_related("stack").get()
