"""The whole API: its parts, and how refusals look."""

import logging

from django.core.exceptions import ObjectDoesNotExist
from django.db import OperationalError
from django.http import Http404, HttpRequest, HttpResponse, RawPostDataException
from ninja.errors import HttpError, ValidationError

from hollowstack.core.page.errors import HollowStackError, WorkerError, is_full
from hollowstack.server.accounts.access import Forbidden, Foreign, Stranger
from hollowstack.server.api.v1 import session
from hollowstack.server.api.v1.bench import router as bench
from hollowstack.server.api.v1.bin import router as trash
from hollowstack.server.api.v1.changes import router as changes
from hollowstack.server.api.v1.collections import router as collections
from hollowstack.server.api.v1.copies import router as copies
from hollowstack.server.api.v1.covers import router as covers
from hollowstack.server.api.v1.describing import router as describing
from hollowstack.server.api.v1.description import DescribedAPI
from hollowstack.server.api.v1.dispatch import router as dispatch
from hollowstack.server.api.v1.documents import router as documents
from hollowstack.server.api.v1.inspection import router as inspection
from hollowstack.server.api.v1.layers import router as layers
from hollowstack.server.api.v1.offers import router as offers
from hollowstack.server.api.v1.people import router as people
from hollowstack.server.api.v1.presentation import router as presentation
from hollowstack.server.api.v1.problems import problem
from hollowstack.server.api.v1.quality import router as quality
from hollowstack.server.api.v1.reading import router as reading
from hollowstack.server.api.v1.retries import router as retries
from hollowstack.server.api.v1.samples import router as samples
from hollowstack.server.api.v1.search import router as search
from hollowstack.server.api.v1.sharing import router as sharing
from hollowstack.server.api.v1.shelving import router as shelving
from hollowstack.server.api.v1.slips import router as slips
from hollowstack.server.api.v1.stacks import router as stacks
from hollowstack.server.api.v1.stations import router as stations
from hollowstack.server.api.v1.treatments import router as treatments
from hollowstack.server.api.v1.uploads import router as uploads
from hollowstack.server.errors import FULL, Conflict, NoRoom, OverQuota
from hollowstack.server.stacks.services import DuplicateFile

log = logging.getLogger("hollowstack.api")
_MISSING = "There is no such thing here: it may have been removed."
_BROKEN = "The server failed, and has noted why: try again; if it happens again, report it."
_BUSY = "The database is busy: try again in a moment."
_STORAGE = "The disk of the server cannot be used ({}): what was sent is not kept; have it mended, then send it again."

api = DescribedAPI(title="Hollow Stack", version="1", docs_url=None, urls_namespace="api")
for part in (
    session.router, people, stacks, changes, bench, inspection, samples, reading, treatments, uploads, documents, copies,
    covers, layers, stations, quality, slips, retries, trash, dispatch, search,
    describing, presentation, shelving, collections, offers, sharing,
):  # fmt: skip
    api.add_router("", part)


@api.exception_handler(Stranger)
def _stranger(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem("signed-out", str(error), WWW_Authenticate="Bearer")


@api.exception_handler(Forbidden)
def _forbidden(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem("foreign" if isinstance(error, Foreign) else "forbidden", str(error))


@api.exception_handler(ObjectDoesNotExist)
@api.exception_handler(Http404)
def _missing(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem("missing", _MISSING)


@api.exception_handler(Conflict)
def _conflict(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem("duplicate" if isinstance(error, DuplicateFile) else "conflict", str(error))


@api.exception_handler(HollowStackError)
def _refused(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem("refused", str(error))


@api.exception_handler(WorkerError)
def _not_now(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem("busy", str(error), Retry_After="1")


@api.exception_handler(OverQuota)
def _over_quota(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem("over-quota", str(error))


@api.exception_handler(NoRoom)
def _no_room(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem("no-room", str(error))


@api.exception_handler(OSError)
def _storage(request: HttpRequest, error: OSError) -> HttpResponse:
    """What lies in the machine is no fault of what was sent: it can be sent again."""
    if is_full(error):
        return problem("no-room", FULL)
    if error.errno is None:
        return _broken(request, error)
    log.error("%s %s", request.method, request.path, exc_info=error)
    return problem("storage", _STORAGE.format(error.strerror or error))


@api.exception_handler(OperationalError)
def _busy(request: HttpRequest, error: Exception) -> HttpResponse:
    """Another writer holds the database, or its disk is full: nothing of this request has been written."""
    log.warning("%s %s: %s", request.method, request.path, error)
    if "full" in str(error):
        return problem("no-room", FULL)
    return problem("busy", _BUSY, Retry_After="1")


@api.exception_handler(Exception)
def _broken(request: HttpRequest, error: Exception) -> HttpResponse:
    log.error("%s %s", request.method, request.path, exc_info=error)
    return problem("broken", _BROKEN)


@api.exception_handler(HttpError)
def _malformed(request: HttpRequest, error: HttpError) -> HttpResponse:
    return problem("malformed", f"The body cannot be read ({error}): send JSON.")


@api.exception_handler(RawPostDataException)
def _form(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem("malformed", "The body came as a form: send JSON.")


@api.exception_handler(ValidationError)
def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    first = error.errors[0]
    if first["type"] == "value_error":  # our own rules speak in whole sentences
        return problem("invalid", str(first["msg"]).removeprefix("Value error, "))
    where = ".".join(str(part) for part in first["loc"][1:])
    return problem("invalid", f"{where}: {first['msg']}")
