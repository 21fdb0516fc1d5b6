"""Signing in and out; nothing without it, and no change without the token."""

import json
import re
from pathlib import Path

import pytest
from django.test import Client

SCHEMA = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text(encoding="utf-8"))
LINKS = "/api/v1/shared/{secret}"
OPEN = {
    ("get", "/api/v1/session"), ("post", "/api/v1/session"), ("post", "/api/v1/invitations/accept"),
    # Open to whoever has a link (test_sharing), and to nobody else.
    ("get", LINKS), ("post", f"{LINKS}/visits"), ("get", f"{LINKS}/pages/{{number}}"), ("get", f"{LINKS}/file"),
    ("get", f"{LINKS}/pages/{{number}}/words"), ("post", f"{LINKS}/pages/{{number}}/words"),
    ("get", f"{LINKS}/description"), ("put", f"{LINKS}/description"),
}  # fmt: skip
IN_THE_API = [
    (method, path)
    for path, methods in SCHEMA["paths"].items() for method in methods if (method, path) not in OPEN
]  # fmt: skip
BESIDES = [
    ("get", "/api/v1/stacks/1/events"), ("get", "/api/v1/prescans/abc.jpg"), ("get", f"/thumbs/render/{'a' * 64}.webp"),
    ("get", f"/iiif/render/{'a' * 64}/info.json"), ("get", f"/iiif/render/{'a' * 64}/full/max/0/default.jpg"),
]  # fmt: skip


@pytest.mark.django_db
@pytest.mark.parametrize(("method", "path"), IN_THE_API + BESIDES)
def test_everything_is_closed_to_strangers(method, path):
    """Every address that the API's own description names, and those beside the API."""
    assert Client().generic(method.upper(), re.sub(r"\{\w+\}", "1", path)).status_code == 401


@pytest.mark.django_db
@pytest.mark.parametrize("end", ["", "/pages/1?visit=1", "/file?visit=1"])
@pytest.mark.parametrize("secret", ["1", "1.aaaa", ".", "x"])
def test_links_that_nobody_gave_lead_nowhere(end, secret):
    assert Client().get(f"/api/v1/shared/{secret}{end}").status_code == 404


def test_signing_in_and_out(user):
    client = Client()
    told = client.get("/api/v1/session").json()
    assert (told["user"], told["role"], told["rights"], told["people"]) == (None, None, [], True)
    wrong = client.post("/api/v1/session", {"user": "keeper", "password": "nope"}, content_type="application/json")
    assert wrong.status_code == 401
    assert "User name and password" in wrong.json()["detail"]
    assert client.get("/api/v1/stacks").status_code == 401
    right = client.post("/api/v1/session", {"user": "keeper", "password": "skerry-light"}, content_type="application/json")
    assert (right.json()["user"], right.json()["role"]) == ("keeper", "administrator")
    assert client.get("/api/v1/stacks").status_code == 200


def test_changes_want_the_token(client):
    assert client.post("/api/v1/stacks", {"name": "a"}, content_type="application/json").status_code == 201
    client.defaults.pop("HTTP_X_CSRFTOKEN")
    assert client.post("/api/v1/stacks", {"name": "b"}, content_type="application/json").status_code == 403
    assert client.put("/api/v1/batches/1/files/0?name=a", b"x", content_type="application/octet-stream").status_code == 403


def test_signing_out_closes_the_door(client):
    closed = client.delete("/api/v1/session")
    assert (closed.json()["user"], closed.headers["Clear-Site-Data"]) == (None, '"cache"')
    assert client.get("/api/v1/stacks").status_code == 401


def test_answers_say_what_a_browser_may_load(client):
    policy = client.get("/api/v1/stacks").headers["Content-Security-Policy"]
    assert "default-src 'self'" in policy
    assert "http" not in policy
