"""A signed-in client, stacks with made-up results, and files to take in."""

import json
from collections.abc import Callable
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from hollowstack.server.accounts.models import Person
from hollowstack.server.accounts.rights import Role
from hollowstack.server.api.v1 import shelf, views
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.inspection.checking import check_some
from hollowstack.server.intake import batches
from hollowstack.server.reading import suggesting
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Page, Stack
from tests.server.stations import MANNERS, feeder, glass, manner, two_sided

__all__ = ["feeder", "glass", "manner", "two_sided"]

MEASURED = {
    "size_px": [1000, 1400], "ppi": [300.0, 300.0], "page_quad": [[0, 0], [1000, 0], [1000, 1400], [0, 1400]],
    "bright_quad": [[0, 0], [1000, 0], [1000, 1400], [0, 1400]], "lid_seen": False, "edges_confidence": 1.0, "turn": 0,
    "turn_confidence": 12.0, "skew_deg": 0.8, "skew_confidence": 1.0, "ink_percent": 3.0, "marks": 900, "colour": "bitonal",
    "dyed": False, "coloured_percent": 0.0, "midtone_percent": 0.0, "paper": [236], "ink": 40,
}  # fmt: skip
CLEAN = {"filter": "CCITTFaxDecode", "size_px": [1000, 1400], "gray": True, "bytes": 20_000, "seconds": 0.4}
READ = {"words": 200, "mean_confidence": 94.0, "seconds": 1.0}


@pytest.fixture(autouse=True)
def _no_known_rows():
    """Every test has its own database, in which the same numbers mean other pages."""
    views._known_rows.clear()
    shelf._known.clear()
    views._known_starts.clear()
    suggesting._kept.clear()


@pytest.fixture
def user(db: None) -> Any:
    made = get_user_model().objects.create_user("keeper", password="skerry-light")
    Person.objects.create(user=made, role=Role.ADMINISTRATOR)
    return made


@pytest.fixture
def client(user: Any) -> Client:
    return signed_in("keeper", "skerry-light")


def signed_in(name: str, password: str) -> Client:
    """A client with the session and the token of somebody."""
    made = Client(enforce_csrf_checks=True)
    for _ in range(2):  # the token is another one once somebody is signed in
        made.defaults["HTTP_X_CSRFTOKEN"] = made.get("/api/v1/session").json()["csrf"]
        if "sessionid" not in made.cookies:
            made.post("/api/v1/session", {"user": name, "password": password}, content_type="application/json")
    return made


def sha(number: int) -> str:
    return f"{number:064x}"


def walk(page: Page, *, until: str = "read", **measured: Any) -> Page:
    """Record made-up results for a page, step by step, as the engine would."""
    bodies = {"expand": {"frames": 1}, "measure": {"measurements": {**MEASURED, **measured}}, "render": CLEAN, "read": READ}
    fields = {"expand": "opened_id", "measure": "measured_id", "render": "rendered_id", "read": "reading_id"}
    for step, body in bodies.items():
        page = Page.objects.get(pk=page.pk)
        key = getattr(page, fields[step])
        if key:
            record([Outcome(step, key, body)])
        if step == until:
            break
    while check_some():
        pass
    return Page.objects.get(pk=page.pk)


@pytest.fixture
def stack(user: Any) -> Stack:
    return services.create_stack("Box 27", user)


@pytest.fixture
def pages(stack: Stack) -> Callable[[int], list[Page]]:
    def make(count: int) -> list[Page]:
        batch = batches.open_batch(stack.pk, None)
        start = stack.pages.count()
        return [
            batches.add_file(batch.pk, batches.Coming(index, f"page {start + index}.jpg", sha(start + index + 1), 1000))
            for index in range(count)
        ]

    return make


def answer(response: Any) -> Any:
    return json.loads(response.content)


_CAPTURE = {"test_capture", "test_ending", "test_halves", "test_prescan", "test_waiting"}


def pytest_generate_tests(metafunc: pytest.Metafunc) -> None:
    """Tests of captures are run with stations that behave well, and with trying ones."""
    if "manner" in metafunc.fixturenames and metafunc.module.__name__.rsplit(".", 1)[-1] in _CAPTURE:
        metafunc.parametrize("manner", list(MANNERS.values()), ids=list(MANNERS))
