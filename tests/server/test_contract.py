"""The API against its own description, by strangers and by every role: whatever is sent, the answer is one that was described,
the server does not fail, and what was refused has changed nothing.

Requests are made up from the description by schemathesis, right ones and wrong ones; those that need something that is there
are sent with its number as often as with a number out of the air. ``HOLLOWSTACK_EXAMPLES`` sets how many for each operation.
"""

import os
from collections.abc import Iterator
from dataclasses import asdict
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from django.core.signals import request_finished, request_started
from django.core.wsgi import get_wsgi_application
from django.db import close_old_connections, connection
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from schemathesis.checks import not_a_server_error
from schemathesis.generation import GenerationMode
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    negative_data_rejection,
    response_headers_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from hollowstack.server.accounts import services as accounts
from hollowstack.server.accounts.rights import Role
from hollowstack.server.capture.escl import Capabilities
from hollowstack.server.capture.models import Station
from hollowstack.server.documents.services import ask_to_bind
from hollowstack.server.intake import uploads
from hollowstack.server.stacks.models import Batch
from tests.server.conftest import walk

EXAMPLES = int(os.environ.get("HOLLOWSTACK_EXAMPLES", "4"))
CHECKS = [
    not_a_server_error, status_code_conformance, content_type_conformance, response_headers_conformance,
    response_schema_conformance,
]  # fmt: skip
ENDLESS = {"watchStack", "getPrescan"}
"""Streams, which have tests of their own."""
NOTED = ("axes_", "django_session", "accounts_token", "accounts_entry", "sqlite_sequence")
"""Tables in which it is noted that somebody asked, whatever the answer."""


@schemathesis.serializer("application/offset+octet-stream")
def _piece(_: Any, value: Any) -> bytes:
    return value if isinstance(value, bytes) else str(value).encode()


SCHEMA = schemathesis.openapi.from_path(Path(__file__).parents[2] / "docs" / "openapi.json")
SCHEMA.app = get_wsgi_application()
FOUND = {one.ok().definition.raw["operationId"]: one.ok() for one in SCHEMA.get_all_operations()}
pytestmark = pytest.mark.filterwarnings("ignore:StreamingHttpResponse must consume", "ignore::DeprecationWarning")


@pytest.fixture
def there(user, stack, pages) -> dict[str, int]:
    """Something of each kind, by the name of the parameter that asks for it."""
    (page,) = pages(1)
    walk(page)
    (document,) = ask_to_bind(stack.pk, "Box", user)
    batch = Batch.objects.get(stack=stack)
    (upload,) = uploads.announce(batch, [uploads.Announced("a.jpg", 10)])
    station = Station.objects.create(
        name="Glass", address="http://192.0.2.1", capabilities=asdict(Capabilities("Glass", None, None, False))
    )
    return {
        "stack_id": stack.pk, "page_id": page.pk, "document_id": document.pk, "batch_id": batch.pk,
        "upload_id": upload.pk, "station_id": station.pk, "person_id": user.pk,
    }  # fmt: skip


@pytest.fixture(autouse=True)
def _connected() -> Iterator[None]:
    """Requests are made inside of the test's own transaction, whose connection they leave open."""
    for signal in (request_started, request_finished):
        signal.disconnect(close_old_connections)
    yield
    for signal in (request_started, request_finished):
        signal.connect(close_old_connections)


@pytest.fixture(autouse=True)
def _nowhere(monkeypatch: pytest.MonkeyPatch) -> None:
    """No station is looked for from here."""
    monkeypatch.setattr("hollowstack.server.capture.addresses.socket.getaddrinfo", _unknown)


def _unknown(*_: Any, **__: Any) -> Any:
    raise OSError("no such name")


def held() -> dict[str, list[Any]]:
    """All that the database holds, but for what notes who asked."""
    with connection.cursor() as cursor:
        tables = [name for name in connection.introspection.table_names(cursor) if not name.startswith(NOTED)]
        return {name: cursor.execute(f'SELECT * FROM "{name}"').fetchall() for name in tables}


@pytest.fixture
def callers(db: None) -> dict[str, dict[str, str]]:
    """A stranger, and somebody of each role, with the headers that they send."""
    found: dict[str, dict[str, str]] = {"a stranger": {}}
    for role in Role:
        person = accounts.add_person(f"a {role}", "a lamp on the rock", role)
        _, secret = accounts.make_token(person, "script", role, 30)
        found[role] = {"Authorization": f"Bearer {secret}"}
    return found


@pytest.mark.parametrize("operation", sorted(FOUND.keys() - ENDLESS))
def test_answers_are_those_described(operation: str, callers: dict[str, dict[str, str]], there: dict[str, int]):
    right, wrong = (FOUND[operation].as_strategy(generation_mode=mode) for mode in GenerationMode)
    for who in callers:
        # Most is asked as somebody who may do everything: others are mostly turned away at the door.
        examples = EXAMPLES if who == Role.ADMINISTRATOR else max(1, EXAMPLES // 2)

        @settings(max_examples=examples, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
        @given(case=st.one_of(right, wrong), real=st.booleans())
        def ask(who: str, case: schemathesis.Case, real: bool) -> None:
            named = case.path_parameters or {}
            if real:
                case.path_parameters = {**named, **{name: number for name, number in there.items() if name in named}}
            before = held()
            response = case.call(headers=callers[who])
            # Whoever may do everything shows that wrong data is refused for being wrong.
            more = [negative_data_rejection] if who == Role.ADMINISTRATOR and not real else []
            case.validate_response(response, checks=[*CHECKS, *more])
            if response.status_code >= 400:
                assert held() == before

        ask(who)
