"""The whole API: who may call it, and how refusals look."""

from django.core.exceptions import ObjectDoesNotExist
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import ValidationError
from ninja.security import django_auth

from hollowstack.core.page.errors import HollowStackError, is_full
from hollowstack.server.api.v1 import session
from hollowstack.server.api.v1.bench import router as bench
from hollowstack.server.api.v1.bin import router as trash
from hollowstack.server.api.v1.changes import router as changes
from hollowstack.server.api.v1.documents import router as documents
from hollowstack.server.api.v1.retries import router as retries
from hollowstack.server.api.v1.slips import router as jobs
from hollowstack.server.api.v1.stacks import router as stacks
from hollowstack.server.api.v1.stations import router as capture
from hollowstack.server.api.v1.treatments import router as treatments
from hollowstack.server.api.v1.uploads import router as uploads
from hollowstack.server.errors import FULL, NoRoom
from hollowstack.server.stacks.services import Conflict

# Sessions by cookie, with a CSRF token for every change but signing in itself, which has no session to abuse.
api = NinjaAPI(title="Hollow Stack", version="1", auth=django_auth, docs_url=None, urls_namespace="api")
api.add_router("", session.router)
api.add_router("", stacks)
api.add_router("", changes)
api.add_router("", bench)
api.add_router("", treatments)
api.add_router("", uploads)
api.add_router("", documents)
api.add_router("", capture)
api.add_router("", jobs)
api.add_router("", retries)
api.add_router("", trash)


@api.exception_handler(ObjectDoesNotExist)
def _missing(request: HttpRequest, error: Exception) -> HttpResponse:
    return api.create_response(request, {"message": "There is no such thing here: it may have been removed."}, status=404)


@api.exception_handler(Conflict)
def _conflict(request: HttpRequest, error: Exception) -> HttpResponse:
    return api.create_response(request, {"message": str(error)}, status=409)


@api.exception_handler(HollowStackError)
def _refused(request: HttpRequest, error: Exception) -> HttpResponse:
    return api.create_response(request, {"message": str(error)}, status=422)


@api.exception_handler(NoRoom)
def _no_room(request: HttpRequest, error: Exception) -> HttpResponse:
    return api.create_response(request, {"message": str(error)}, status=507)


@api.exception_handler(OSError)
def _full(request: HttpRequest, error: OSError) -> HttpResponse:
    """What lies in the machine is no fault of what was sent: it can be sent again."""
    if not is_full(error):
        raise error
    return api.create_response(request, {"message": FULL}, status=507)


@api.exception_handler(ValidationError)
def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    first = error.errors[0]
    if first["type"] == "value_error":  # our own rules speak in whole sentences
        return api.create_response(request, {"message": str(first["msg"]).removeprefix("Value error, ")}, status=422)
    where = ".".join(str(part) for part in first["loc"][1:])
    return api.create_response(request, {"message": f"{where}: {first['msg']}"}, status=422)
