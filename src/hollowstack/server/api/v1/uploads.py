"""Uploads over HTTP, as the tus resumable upload protocol 1.0.0 has it (its core: HEAD and PATCH)."""

from datetime import datetime

from django.http import HttpResponse
from ninja import Schema, Status
from pydantic import Field

from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.api.v1.schemas import FileOut
from hollowstack.server.errors import Refused
from hollowstack.server.intake import batches, uploads
from hollowstack.server.stacks.models import Page, Stack, Upload

router = Router(tags=["uploads"])
_TUS = {"Tus-Resumable": "1.0.0", "Cache-Control": "no-store"}


class FileIn(Schema):
    """A file about to come."""

    name: str = Field(min_length=1, max_length=1000)
    bytes: int = Field(ge=0)
    modified_at: datetime | None = None


class FilesIn(Schema):
    """Files that come together, behind a page or in the place of one; at the end of the stack where neither is given."""

    files: list[FileIn] = Field(min_length=1, max_length=100_000)
    after: int | None = None
    instead: int | None = None


class UploadOut(Schema):
    """A file that is expected, and how many of its bytes have come."""

    id: int
    name: str
    bytes: int
    received: int
    modified_at: datetime | None


@router.post("/stacks/{int:stack_id}/uploads", response={201: list[UploadOut], 404: Problem, 422: Problem})
def announce_uploads(request: Request, stack_id: int, new: FilesIn) -> Status[list[UploadOut]]:
    """Announce files; each is then sent to its own address, and taken in."""
    record = None
    if new.instead is not None:
        if len(new.files) > 1:
            raise Refused("In the place of a page one image comes: choose one file.")
        Page.objects.get(stack_id=stack_id, pk=new.instead, removed=False)
        record = {"instead": new.instead}
    batch = batches.open_batch(stack_id, request.user, after=new.after, record=record, silent=record is not None)
    announced = [uploads.Announced(file.name, file.bytes, file.modified_at) for file in new.files]
    return Status(201, [_out(row) for row in uploads.announce(batch, announced)])


@router.get("/stacks/{int:stack_id}/uploads", response={200: list[UploadOut], 404: Problem})
def list_uploads(request: Request, stack_id: int) -> list[UploadOut]:
    """Files that were announced and are not in: of uploads under way, and of broken ones."""
    return [_out(row) for row in uploads.unfinished(Stack.objects.get(pk=stack_id))]


@router.api_operation(["HEAD"], "/uploads/{int:upload_id}", response={404: Problem}, include_in_schema=False)
def head_upload(request: Request, upload_id: int) -> HttpResponse:
    """How far an upload is."""
    upload = Upload.objects.get(pk=upload_id)
    return _tus(200, {"Upload-Offset": str(uploads.received(upload)), "Upload-Length": str(upload.bytes)})


@router.patch("/uploads/{int:upload_id}", response={204: None, 404: Problem, 409: Problem, 422: Problem})
def append_to_upload(request: Request, upload_id: int) -> HttpResponse:
    """Add the bytes of the body at the place that the header Upload-Offset names."""
    upload = Upload.objects.get(pk=upload_id)
    if request.content_type != "application/offset+octet-stream":
        return HttpResponse(status=415, headers=_TUS)
    offset = request.headers.get("Upload-Offset", "")
    if not offset.isdecimal():
        raise Refused("The header Upload-Offset is missing: say where the bytes belong.")
    # Django hands over a request that can be read like a file, whatever its type says.
    return _tus(204, {"Upload-Offset": str(uploads.append(upload, int(offset), request))})


@router.post("/uploads/{int:upload_id}/take-in", response={201: FileOut, 404: Problem, 409: Problem, 422: Problem})
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


def _tus(status: int, headers: dict[str, str]) -> HttpResponse:
    return HttpResponse(status=status, headers={**_TUS, **headers})


def _out(upload: Upload) -> UploadOut:
    return UploadOut(
        id=upload.pk, name=upload.name, bytes=upload.bytes, received=uploads.received(upload), modified_at=upload.modified_at
    )
