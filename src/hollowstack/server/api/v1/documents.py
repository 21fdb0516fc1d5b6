"""Documents over HTTP."""

from datetime import datetime
from typing import Literal

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.utils.http import content_disposition_header
from ninja import Schema, Status

from hollowstack.core.bind import DEFAULT, FLAVOURS, Flavour
from hollowstack.core.bind.conformance import Checked
from hollowstack.core.bind.description import Described
from hollowstack.core.export import FORMS
from hollowstack.core.export.forms import Form
from hollowstack.core.page.name_patterns import file_name
from hollowstack.core.read.texts import SUFFIXES, TextForm
from hollowstack.core.settings.original import Original
from hollowstack.core.settings.profile import PROFILES, Profile
from hollowstack.server.api.v1.files import FileName, file_response, files_response
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.documents import services, texts
from hollowstack.server.documents.drafts import DraftAccess, DraftChange, DraftDocument, DraftLabels, change_draft, draft_of
from hollowstack.server.documents.exporting import ExportAsked, ask_for_export
from hollowstack.server.documents.forecasting import Forecast, forecast_of, masters_bytes
from hollowstack.server.documents.marking import NamedMark, shown_marks
from hollowstack.server.documents.models import Document
from hollowstack.server.errors import Refused
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Stack
from hollowstack.server.storage import places

router = Router(tags=["documents"])
_POLICY_OF_PDF = "default-src 'none'; object-src 'self'; style-src 'unsafe-inline'; frame-ancestors 'none'"
"""Browsers show a PDF as an object within a page of their own."""
_TYPES: dict[TextForm, str] = {
    "txt": "text/plain; charset=utf-8",
    "alto": "application/xml; charset=utf-8",
    "hocr": "application/xhtml+xml; charset=utf-8",
}


class DocumentIn(Schema):
    """What to bind the stack as."""

    title: str


class DocumentOut(Schema):
    """A document, bound or on its way."""

    id: int
    kind: Literal["archive", "access", "export"]
    suffix: str
    """Of its file."""
    title: str
    created_at: datetime
    state: Literal["binding", "bound", "failed"]
    error: str
    pages: int
    bytes: int | None
    sha256: str | None
    conformance: str | None
    """The flavour of PDF/A that it is; null while it is not bound, and of access copies."""
    profile: Profile
    original: Original
    """Where its papers were when it was bound, and what was to become of them."""
    locked: bool
    """Whether a password opens it."""
    remarks: list[str]
    """What whoever hands on an access copy should know: what is covered there and can be read elsewhere."""


class DocumentWhole(DocumentOut):
    """A document with what was checked of it, how large its pages are, and what is said of it."""

    checked: list[Checked]
    page_bytes: list[int]
    described: Described


class Choice(Schema):
    """A profile or a flavour, with its reason in a line."""

    name: str
    purpose: str


class BindingOut(Schema):
    """How the stack's documents are to be made, what there is to choose from, and how large they are likely to be."""

    profile: Profile
    flavour: Flavour
    whole: bool
    mark_headings: bool
    labels: list[DraftLabels]
    documents: dict[int, DraftDocument]
    otherwise: Described
    """What holds for each of them where nothing is said of it alone: it is a part of the stack."""
    access: DraftAccess
    marks: dict[int, list[NamedMark]]
    """Of access copies, on the pages as they are now."""
    left_out: list[int]
    profiles: list[Choice]
    flavours: list[Choice]
    page_labels: dict[int, str]
    """What viewers will show as the number of each page that is bound."""
    masters_bytes: int
    """Of the files that its pages come from."""
    forecast: Forecast


@router.get("/stacks/{int:stack_id}/documents", response={200: list[DocumentOut], 404: Problem})
def list_documents(request: Request, stack_id: int) -> list[DocumentOut]:
    """What was bound from a stack, the newest first; those that were bound together in the order of their pages."""
    documents = list(Stack.objects.get(pk=stack_id).documents.order_by("-created_at", "pk"))
    results = Result.objects.in_bulk([document.key for document in documents])
    return [document_out(document, results.get(document.key)) for document in documents]


@router.post("/stacks/{int:stack_id}/documents", response={201: list[DocumentOut], 404: Problem})
def bind_stack(request: Request, stack_id: int, new: DocumentIn) -> Status[list[DocumentOut]]:
    """Bind the stack as it stands; a document break begins another document."""
    documents = services.ask_to_bind(stack_id, new.title, request.user)
    return Status(201, [document_out(document, None) for document in documents])


@router.get("/documents/{int:document_id}", response={200: DocumentWhole, 404: Problem})
def get_document(request: Request, document_id: int) -> DocumentWhole:
    """One document, with all that was checked of it."""
    document = Document.objects.get(pk=document_id)
    result = Result.objects.filter(key=document.key).first()
    body = (result.body if result else None) or {}
    return DocumentWhole(
        **document_out(document, result).model_dump(),
        checked=body.get("checked", []),
        page_bytes=body.get("page_bytes", []),
        described=document.order.get("described", {}),
    )


@router.get("/export-forms", response=list[Choice])
def list_export_forms(request: Request) -> list[Choice]:
    """The forms that documents are given out in besides PDF."""
    return [Choice(name=name, purpose=form.purpose) for name, form in FORMS.items()]


@router.post("/stacks/{int:stack_id}/exports", response={201: DocumentOut, 404: Problem})
def export_stack(request: Request, stack_id: int, new: ExportAsked) -> Status[DocumentOut]:
    """Give out a document, chosen pages or all of a stack in another form."""
    return Status(201, document_out(ask_for_export(stack_id, new, request.user), None))


@router.get("/stacks/{int:stack_id}/binding", response={200: BindingOut, 404: Problem})
def get_binding(request: Request, stack_id: int) -> BindingOut:
    """How the stack's documents are to be made, as far as somebody has said it."""
    return _binding(Stack.objects.get(pk=stack_id))


@router.patch("/stacks/{int:stack_id}/binding", response={200: BindingOut, 404: Problem})
def change_binding(request: Request, stack_id: int, change: DraftChange) -> BindingOut:
    """Say some of it anew: what is left out stays; documents are known by the page that they begin with."""
    change_draft(stack_id, change)
    return _binding(Stack.objects.get(pk=stack_id))


def _binding(stack: Stack) -> BindingOut:
    draft = draft_of(stack.pk)
    runs = services.coming_of(stack, draft)
    return BindingOut(
        **draft.model_dump(exclude={"marks", "stack"}),
        otherwise=draft.for_parts(alone=len(runs) == 1),
        marks=shown_marks(stack.pk, draft.marks),
        page_labels=services.labels_of(draft, runs),
        profiles=[Choice(name=name, purpose=purpose) for name, purpose in PROFILES.items()],
        flavours=[Choice(name=name, purpose=rules.purpose) for name, rules in FLAVOURS.items()],
        masters_bytes=masters_bytes(stack.pk),
        forecast=forecast_of(stack, runs),
    )


@router.delete("/documents/{int:document_id}", response={204: None, 404: Problem})
def delete_document(request: Request, document_id: int) -> Status[None]:
    """Throw a document into the bin; it can be taken back for thirty days."""
    services.delete_document(document_id, request.user)
    return Status(204, None)


@router.get(
    "/documents/{int:document_id}/file",
    response={200: "application/pdf", 206: "application/pdf", 404: Problem, 416: Problem},
)
def get_document_file(request: Request, document_id: int, inline: bool = False) -> HttpResponseBase:
    """The PDF itself, or a part of it (Range, RFC 9110); ``inline`` to be shown, and printed, by the browser."""
    return document_response(request, Document.objects.get(pk=document_id), inline=inline)


def document_response(request: HttpRequest, document: Document, *, inline: bool = False) -> HttpResponseBase:
    """The file of a document, or the part of it that is asked for. Raises Result.DoesNotExist where it is not made."""
    made = Result.objects.get(key=document.key, body__isnull=False).made
    form = _form(document)
    media_type = form.type if form else "application/pdf"
    name, shown = "".join(_file_name(document)), inline and media_type == "application/pdf"
    response = file_response(request, places.document_path(document.key), name, media_type, made["sha256"], inline=shown)
    if shown:
        response.headers["Content-Security-Policy"] = _POLICY_OF_PDF
    return response


@router.get("/stacks/{int:stack_id}/documents.zip", response={200: "application/zip", 404: Problem})
def get_all_documents(request: Request, stack_id: int) -> HttpResponseBase:
    """All that has been bound and given out from a stack, in one ZIP file; the newest first."""
    stack = Stack.objects.get(pk=stack_id)
    documents = list(stack.documents.order_by("-created_at", "pk"))
    there = set(
        Result.objects.filter(key__in=[one.key for one in documents], body__isnull=False).values_list("key", flat=True)
    )
    files = [(_file_name(one), places.document_path(one.key)) for one in documents if one.key in there]
    if not files:
        raise Refused("Nothing has been bound from this stack yet.")
    return files_response(files, file_name(stack.name, ".zip"))


def _file_name(document: Document) -> FileName:
    form = _form(document)
    return FileName(file_name(document.title, ""), form.suffix if form else ".pdf")


def _form(document: Document) -> Form | None:
    """The form that it is given out in; None of what is PDF."""
    return FORMS[document.order["form"]] if document.kind == Document.Kind.EXPORT else None


@router.get("/documents/{int:document_id}/text", response={200: "text/plain", 404: Problem})
def get_document_text(request: Request, document_id: int, form: TextForm = "txt") -> HttpResponse:
    """The words of a document: plain, page by page, a form feed between two pages; as ALTO 4; as hOCR."""
    document = Document.objects.get(pk=document_id)
    return _text(texts.text_of_document(document, form), form, document.title)


@router.get("/stacks/{int:stack_id}/text", response={200: "text/plain", 404: Problem})
def get_stack_text(request: Request, stack_id: int, form: TextForm = "txt") -> HttpResponse:
    """The words of a stack's pages as they stand now, in the same forms."""
    stack = Stack.objects.get(pk=stack_id)
    return _text(texts.text_of_stack(stack.pk, form, stack.name), form, stack.name)


def _text(data: bytes, form: TextForm, title: str) -> HttpResponse:
    response = HttpResponse(data, content_type=_TYPES[form])
    name = file_name(title, SUFFIXES[form])
    if form != "txt":
        response.headers["Content-Disposition"] = str(content_disposition_header(as_attachment=True, filename=name))
    return response


def document_out(document: Document, result: Result | None) -> DocumentOut:
    """A document, and what came of it so far."""
    body = result.body if result else None
    archive, form = document.kind == Document.Kind.ARCHIVE, _form(document)
    return DocumentOut(
        id=document.pk,
        kind="archive" if archive else "export" if form else "access",
        suffix=form.suffix if form else ".pdf",
        title=document.title,
        created_at=document.created_at,
        state="bound" if body else "failed" if result and result.state == Result.State.FAILED else "binding",
        error=result.error if result else "",
        pages=document.page_count,
        bytes=body["bytes"] if body else None,
        sha256=body["sha256"] if body else None,
        conformance=document.order.get("flavour", DEFAULT) if body and archive else None,
        profile=document.order.get("profile", "compact"),
        original=Original.model_validate(document.original),
        locked=bool(document.passwords),
        remarks=(body or {}).get("remarks", []),
    )
