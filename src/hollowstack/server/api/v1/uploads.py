"""Uploads over HTTP by the tus resumable upload protocol 1.0.0: its core, and the extensions creation and termination.

Source:
    tus.io, "Resumable upload protocol 1.0.x", core protocol, creation, termination.
"""

import base64
from datetime import datetime
from typing import Any

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from ninja import Schema, Status
from pydantic import Field

from hollowstack.core.decode import MAX_BYTES
from hollowstack.server.api.v1.problems import Problem, problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.api.v1.schemas import FileOut
from hollowstack.server.errors import Refused
from hollowstack.server.intake import batches, uploads
from hollowstack.server.stacks.models import Batch, Page, Stack, Upload
from hollowstack.server.stacks.services import DuplicateFile

router = Router(tags=["uploads"])
_VERSION = "1.0.0"
_TUS = {"Tus-Resumable": _VERSION, "Cache-Control": "no-store"}
_ABILITIES = {"Tus-Version": _VERSION, "Tus-Extension": "creation,termination", "Tus-Max-Size": str(MAX_BYTES)}
_PIECE = "application/offset+octet-stream"


class FileIn(Schema):
    """A file about to come."""

    name: str = Field(min_length=1, max_length=1000)
    bytes: int = Field(ge=0, le=2**62)
    modified_at: datetime | None = None


class FilesIn(Schema):
    """Files that come together, behind a page or in the place of one; at the end of the stack where neither is given."""

    files: list[FileIn] = Field(min_length=1, max_length=100_000)
    after: int | None = None
    instead: int | None = None
    facing: bool = False
    """Each shows two facing pages, which are split wherever their fold is sure."""


class UploadOut(Schema):
    """A file that is expected, and how many of its bytes have come; once it is in, it is found at its place in its batch."""

    id: int
    batch: int
    index: int
    name: str
    bytes: int
    received: int
    modified_at: datetime | None


@router.post("/stacks/{int:stack_id}/uploads", response={201: list[UploadOut], 404: Problem})
def announce_uploads(request: Request, stack_id: int, new: FilesIn) -> Status[list[UploadOut]]:
    """Announce files; each is then sent to its own address, and taken in."""
    record: dict[str, Any] = {"facing": True} if new.facing else {}
    if new.instead is not None:
        if len(new.files) > 1:
            raise Refused("In the place of a page one image comes: choose one file.")
        Page.objects.get(stack_id=stack_id, pk=new.instead, removed=False)
        record["instead"] = new.instead
    announced = [uploads.Announced(file.name, file.bytes, file.modified_at) for file in new.files]
    with transaction.atomic():  # what is refused leaves no batch behind
        replaces = new.instead is not None
        batch = batches.open_batch(stack_id, request.user, after=new.after, record=record, silent=replaces)
        expected = uploads.announce(batch, announced)
    return Status(201, [_out(row) for row in expected])


@router.get("/stacks/{int:stack_id}/uploads", response={200: list[UploadOut], 404: Problem})
def list_uploads(request: Request, stack_id: int) -> list[UploadOut]:
    """Files that were announced and are not in: of uploads under way, and of broken ones."""
    return [_out(row) for row in uploads.unfinished(Stack.objects.get(pk=stack_id))]


@router.api_operation(["OPTIONS"], "/batches/{int:batch_id}/uploads", response={204: None, 404: Problem})
def describe_uploads(request: Request, batch_id: int) -> HttpResponse:
    """What this server can do of the protocol."""
    return _tus(204, _ABILITIES)


@router.post("/batches/{int:batch_id}/uploads", response={201: None, 404: Problem, 412: Problem})
def create_upload(request: Request, batch_id: int) -> HttpResponse:
    """Announce one file as any tus client does, by its headers; it is taken in by itself once it has come whole.

    ``Upload-Length`` is its size; ``Upload-Metadata`` names it (``filename``). Whatever is refused in the end, as a file
    that the stack has already, stays an upload that can be taken in all the same or left out.
    """
    if (other := _other_version(request)) is not None:
        return other
    length = request.headers.get("Upload-Length", "")
    if not length.isdecimal():
        raise Refused("The header Upload-Length is missing: say how many bytes the file has.")
    if int(length) > MAX_BYTES:
        return problem("too-large", "The file has over 2 GB, the most that can be added: split it first.")
    if int(length) == 0:
        raise Refused("The file is empty: copy or scan it again.")
    file = uploads.Announced(_filename(request.headers.get("Upload-Metadata", "")), int(length), at_once=True)
    (upload,) = uploads.announce(Batch.objects.get(pk=batch_id), [file])
    return _tus(201, {"Location": request.build_absolute_uri(f"/api/v1/uploads/{upload.pk}")})


@router.api_operation(["HEAD"], "/uploads/{int:upload_id}", response={404: Problem}, include_in_schema=False)
def head_upload(request: Request, upload_id: int) -> HttpResponse:
    """How far an upload is."""
    upload = Upload.objects.get(pk=upload_id)
    told = {"Upload-Offset": str(uploads.received(upload)), "Upload-Length": str(upload.bytes)}
    return _tus(200, told)


@router.patch(
    "/uploads/{int:upload_id}",
    response={204: None, 404: Problem, 409: Problem, 412: Problem, 415: Problem},
    openapi_extra={"requestBody": {"content": {_PIECE: {"schema": {"type": "string", "format": "binary"}}}}},
)
def append_to_upload(request: Request, upload_id: int) -> HttpResponse:
    """Add the bytes of the body at the place that the header Upload-Offset names."""
    upload = Upload.objects.get(pk=upload_id)
    if (other := _other_version(request)) is not None:
        return other
    if request.content_type != _PIECE:
        return problem("other-kind", f"A piece of a file comes as {_PIECE}: send it as that.", Tus_Resumable=_VERSION)
    offset = request.headers.get("Upload-Offset", "")
    if not offset.isdecimal():
        raise Refused("The header Upload-Offset is missing: say where the bytes belong.")
    # Django hands over a request that can be read like a file, whatever its type says.
    there = uploads.append(upload, int(offset), request)
    if upload.at_once and there == upload.bytes:
        try:
            uploads.take_in(upload, again=False)
        except DuplicateFile as error:  # 409 would have the client ask where the upload stands, and take it for done
            raise Refused(str(error)) from None
    return _tus(204, {"Upload-Offset": str(there)})


@router.post("/uploads/{int:upload_id}/take-in", response={201: FileOut, 404: Problem, 409: Problem})
def take_in_upload(request: Request, upload_id: int, again: bool = False) -> Status[FileOut]:
    """Take in a file that has come whole; one that the stack has already is refused with 409 unless it is meant."""
    upload = Upload.objects.get(pk=upload_id)
    pages, left_out = uploads.take_in(upload, again=again)
    return Status(201, FileOut(pages=[page.pk for page in pages], left_out=left_out))


@router.delete("/uploads/{int:upload_id}", response={204: None, 404: Problem})
def delete_upload(request: Request, upload_id: int) -> Status[None]:
    """Leave an announced file out."""
    uploads.leave_out(Upload.objects.get(pk=upload_id))
    return Status(204, None)


def _other_version(request: HttpRequest) -> HttpResponse | None:
    if request.headers.get("Tus-Resumable", _VERSION) == _VERSION:
        return None
    sentence = f"This server speaks version {_VERSION} of the protocol: use that."
    return problem("other-version", sentence, Tus_Version=_VERSION, Tus_Resumable=_VERSION)


def _filename(metadata: str) -> str:
    """The file's name from the header: pairs of a key and its value in base64, between commas. Raises Refused."""
    for pair in metadata.split(","):
        key, _, value = pair.strip().partition(" ")
        if key == "filename":
            try:
                name = base64.b64decode(value, validate=True).decode()
            except ValueError:
                raise Refused("The header Upload-Metadata cannot be read: give the name in base64 of UTF-8.") from None
            if name:
                return name
    raise Refused("The file has no name: give one as filename in the header Upload-Metadata.")


def _tus(status: int, headers: dict[str, str]) -> HttpResponse:
    return HttpResponse(status=status, headers={**_TUS, **headers})


def _out(upload: Upload) -> UploadOut:
    return UploadOut(
        id=upload.pk,
        batch=upload.batch_id,
        index=upload.index,
        name=upload.name,
        bytes=upload.bytes,
        received=uploads.received(upload),
        modified_at=upload.modified_at,
    )
