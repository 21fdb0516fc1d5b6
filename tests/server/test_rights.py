"""Every operation of the API against every role, strangers and tokens; people, invitations, passwords, the record."""

import json
import re
from datetime import timedelta
from io import StringIO
from pathlib import Path

import pytest
from django.contrib.auth import get_user_model
from django.core.management import CommandError, call_command
from django.test import Client
from django.utils import timezone

from hollowstack.server.accounts import services
from hollowstack.server.accounts.models import Entry, Invitation, Person, Token
from hollowstack.server.accounts.record import first_broken, note
from hollowstack.server.accounts.rights import CHANGES, OPERATIONS, RIGHTS, Right, Role
from hollowstack.server.api.v1.problems import TITLES
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Page
from tests.server.conftest import answer, signed_in

SCHEMA = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text(encoding="utf-8"))
TOLD = {
    operation["operationId"]: (method.upper(), re.sub(r"\{\w+\}", "999", path))
    for path, methods in SCHEMA["paths"].items()
    for method, operation in methods.items()
}
PASSWORD = "a lamp on the rock"


def somebody(role: Role, name: str = "") -> Client:
    name = name or f"the {role}"
    services.add_person(name, PASSWORD, role)
    return signed_in(name, PASSWORD)


def send(client: Client, operation: str, **headers: str):
    method, path = TOLD[operation]
    return client.generic(method, path, b"{}", content_type="application/json", **headers)


def test_the_table_names_every_operation_and_no_other():
    assert set(OPERATIONS) - {"headUpload"} == set(TOLD)
    assert RIGHTS[Role.READER] < RIGHTS[Role.INSPECTOR] < RIGHTS[Role.TECHNICIAN] < RIGHTS[Role.ADMINISTRATOR]


@pytest.mark.django_db
@pytest.mark.parametrize("role", list(Role))
def test_every_operation_for_every_role(role):
    """Whoever may is let through to the next question (nothing is there, nothing was sent); whoever may not is told."""
    for operation, right in OPERATIONS.items():
        if operation in ("headUpload", "signIn", "acceptInvitation", "retryEverything"):
            continue
        client = somebody(role, f"{role} {operation}"[:150])
        response = send(client, operation)
        if right is None or right in RIGHTS[role]:
            assert response.status_code not in (401, 403), operation
        else:
            assert (response.status_code, answer(response)["code"]) == (403, "forbidden"), operation
            assert answer(response)["detail"].startswith("Only "), operation


@pytest.mark.django_db
@pytest.mark.parametrize("operation", [name for name, right in OPERATIONS.items() if right is not None and name in TOLD])
def test_what_changes_something_wants_the_pages_own_token(operation):
    client = somebody(Role.ADMINISTRATOR)
    client.defaults["HTTP_X_CSRFTOKEN"] = "x" * 32
    refused = send(client, operation).status_code == 403
    assert refused == (TOLD[operation][0] not in ("GET", "HEAD", "OPTIONS"))


@pytest.mark.django_db
def test_what_is_not_of_the_api_asks_the_same_door(settings):
    addresses = ["/api/v1/stacks/1/events", f"/thumbs/render/{'a' * 64}.webp", f"/iiif/render/{'a' * 64}/info.json"]
    reader = somebody(Role.READER)
    assert [reader.get(address).status_code for address in addresses] == [404] * 3
    assert reader.get("/api/v1/prescans/abc.jpg").status_code == 403
    get_user_model().objects.update(is_active=False)
    assert [reader.get(address).status_code for address in addresses] == [401] * 3


def test_an_inspector_marks_pages_and_does_nothing_else(stack, pages):
    page = pages(1)[0]
    inspector = somebody(Role.INSPECTOR)
    address = f"/api/v1/stacks/{stack.pk}/changes"

    def do(**doing):
        body = {"seen": 999, "doing": {"pages": [page.pk], **doing}}
        return inspector.post(address, body, content_type="application/json")

    assert do(do="rescan", why="blurred").status_code == 200
    assert Page.objects.get(pk=page.pk).rescan == "blurred"
    for doing in ({"do": "break", "on": True}, {"do": "delete"}, {"do": "turn", "degrees": 90}):
        refused = do(**doing)
        assert (refused.status_code, "technicians" in answer(refused)["detail"]) == (403, True)
    assert set(CHANGES) == {"rescan", "judge"}


# Signing in


@pytest.fixture
def door(db, settings):
    settings.AXES_ENABLED = True
    services.add_person("keeper", PASSWORD, Role.TECHNICIAN)
    made = Client(enforce_csrf_checks=True)
    made.defaults["HTTP_X_CSRFTOKEN"] = made.get("/api/v1/session").json()["csrf"]
    return made


def knock(client: Client, password: str, name: str = "keeper"):
    return client.post("/api/v1/session", {"user": name, "password": password}, content_type="application/json")


def test_signing_in_by_a_page_of_somebody_elses_is_refused(door):
    door.defaults["HTTP_X_CSRFTOKEN"] = ""
    refused = door.generic(
        "POST", "/api/v1/session", json.dumps({"user": "keeper", "password": PASSWORD}), content_type="text/plain"
    )
    assert (refused.status_code, "load the page again" in answer(refused)["detail"]) == (403, True)
    assert "sessionid" not in door.cookies


def test_too_many_wrong_passwords_and_the_right_one_waits_too(door, settings):
    for _ in range(settings.AXES_FAILURE_LIMIT - 1):
        assert knock(door, "wrong").status_code == 401
    assert knock(door, "wrong").status_code == 429
    locked = knock(door, PASSWORD)
    assert (locked.status_code, answer(locked)["detail"]) == (429, "Too many wrong passwords: try again in 10 minutes.")
    assert locked.headers["Retry-After"] == "600"
    # Another person from the same address waits as well.
    services.add_person("other", PASSWORD, Role.READER)
    assert knock(door, PASSWORD, "other").status_code == 429
    what = list(Entry.objects.values_list("what", flat=True))
    assert what.count("sign-in refused") == settings.AXES_FAILURE_LIMIT - 1
    assert "sign-in locked" in what


def test_a_session_is_another_one_after_signing_in(door):
    door.get("/api/v1/session")
    door.cookies["sessionid"] = "a" * 32
    assert knock(door, PASSWORD).status_code == 200
    assert door.cookies["sessionid"].value != "a" * 32


def test_a_session_ends_where_its_person_ends_all(db):
    here, there = somebody(Role.READER), signed_in("the reader", PASSWORD)
    assert there.get("/api/v1/stacks").status_code == 200
    assert here.delete("/api/v1/session/all").status_code == 204
    assert [one.get("/api/v1/stacks").status_code for one in (here, there)] == [401, 401]
    assert signed_in("the reader", PASSWORD).get("/api/v1/stacks").status_code == 200


def test_another_password_ends_the_other_sessions(db):
    here, there = somebody(Role.READER), signed_in("the reader", PASSWORD)

    def change(old: str, new: str):
        return here.put("/api/v1/session/password", {"old": old, "new": new}, content_type="application/json")

    assert change("wrong", "another lamp here").status_code == 422
    for weak in ("short", "password1234", "the reader 12"):
        assert change(PASSWORD, weak).status_code == 422
    assert change(PASSWORD, "another lamp here").status_code == 204
    assert here.get("/api/v1/stacks").status_code == 200
    assert there.get("/api/v1/stacks").status_code == 401


def test_whoever_lost_access_is_out_at_once(client):
    reader = somebody(Role.READER)
    person = get_user_model().objects.get(username="the reader").pk
    address = f"/api/v1/people/{person}"
    assert client.patch(address, {"active": False}, content_type="application/json").json()["active"] is False
    assert reader.get("/api/v1/stacks").status_code == 401
    client.patch(address, {"active": True, "role": "technician"}, content_type="application/json")
    assert reader.post("/api/v1/stacks", {"name": "a"}, content_type="application/json").status_code == 201
    assert client.delete(address + "/sessions").status_code == 204
    assert reader.get("/api/v1/stacks").status_code == 401


@pytest.mark.parametrize("change", [{"active": False}, {"role": "reader"}])
def test_the_last_administrator_stays_one(client, user, change):
    refused = client.patch(f"/api/v1/people/{user.pk}", change, content_type="application/json")
    assert (refused.status_code, "no administrator left" in answer(refused)["detail"]) == (422, True)
    assert Person.objects.get(user=user).role == "administrator"
    assert get_user_model().objects.get(pk=user.pk).is_active


# Invitations


def accept(secret: str, name: str = "new hand", password: str = PASSWORD):
    client = Client(enforce_csrf_checks=True)
    client.defaults["HTTP_X_CSRFTOKEN"] = client.get("/api/v1/session").json()["csrf"]
    body = {"secret": secret, "user": name, "password": password}
    return client.post("/api/v1/invitations/accept", body, content_type="application/json")


def test_an_invitation_makes_one_person_of_its_role(client):
    made = answer(client.post("/api/v1/invitations", {"role": "inspector"}, content_type="application/json"))
    assert made["secret"] not in Invitation.objects.get().digest
    for name, password in (("keeper", PASSWORD), ("KEEPER", PASSWORD), ("", PASSWORD), ("new hand", "short")):
        assert accept(made["secret"], name, password).status_code == 422
    welcome = answer(accept(made["secret"]))
    assert (welcome["user"], welcome["role"]) == ("new hand", "inspector")
    assert accept(made["secret"], "another").status_code == 422
    assert accept("made up").status_code == 422


@pytest.mark.parametrize(("late", "works"), [(timedelta(seconds=-60), True), (timedelta(seconds=1), False)])
def test_an_invitation_ends(db, late, works):
    _, secret = services.invite(Role.READER, None)
    Invitation.objects.update(ends_at=timezone.now() - late)
    assert (accept(secret).status_code == 200) is works


# Tokens


def bearer(secret: str) -> dict[str, str]:
    return {"HTTP_AUTHORIZATION": f"Bearer {secret}"}


def make(client: Client, **more):
    body = {"name": "nightly", "role": "reader", "days": 30, **more}
    return client.post("/api/v1/tokens", body, content_type="application/json")


def test_a_token_does_what_its_role_may_and_is_shown_once(client):
    made = answer(make(client))
    secret = made["secret"]
    assert not Token.objects.filter(digest=secret).exists()
    script = Client(enforce_csrf_checks=True)
    assert script.get("/api/v1/stacks", **bearer(secret)).status_code == 200
    refused = script.post("/api/v1/stacks", {"name": "a"}, content_type="application/json", **bearer(secret))
    assert refused.status_code == 403
    worker = answer(make(client, role="technician"))["secret"]
    assert script.post("/api/v1/stacks", {"name": "a"}, content_type="application/json", **bearer(worker)).status_code == 201
    told = answer(client.get("/api/v1/tokens"))
    assert [(token["name"], token["secret"], token["used_at"] is not None) for token in told] == [
        ("nightly", None, True)
    ] * 2
    assert client.delete(f"/api/v1/tokens/{made['id']}").status_code == 204
    assert script.get("/api/v1/stacks", **bearer(secret)).status_code == 401
    assert client.delete(f"/api/v1/tokens/{made['id']}").status_code == 404


def test_a_token_is_never_more_than_its_person(client, user):
    secret = answer(make(client, role="technician"))["secret"]
    services.add_person("second", PASSWORD, Role.ADMINISTRATOR)
    services.change_person(user.pk, "test", role=Role.READER)
    script = Client()
    assert script.get("/api/v1/stacks", **bearer(secret)).status_code == 200
    assert script.post("/api/v1/stacks", {"name": "a"}, content_type="application/json", **bearer(secret)).status_code == 403
    services.change_person(user.pk, "test", active=False)
    assert script.get("/api/v1/stacks", **bearer(secret)).status_code == 401


@pytest.mark.parametrize(
    ("more", "works"),
    [
        ({}, True),
        ({"days": 1}, True),
        ({"days": 366}, True),
        ({"days": 0}, False),
        ({"days": 367}, False),
        ({"name": " "}, False),
    ],
)
def test_a_token_has_a_name_and_an_end(client, more, works):
    assert (make(client, **more).status_code == 201) is works


def test_a_token_ends_makes_no_tokens_and_is_nobody_elses(client):
    secret = answer(make(client, role="administrator"))["secret"]
    assert make(client).status_code == 201
    script = Client()
    body = {"name": "x", "role": "reader", "days": 1}
    assert script.post("/api/v1/tokens", body, content_type="application/json", **bearer(secret)).status_code == 403
    technician = somebody(Role.TECHNICIAN)
    assert make(technician, role="administrator").status_code == 422
    assert technician.delete(f"/api/v1/tokens/{Token.objects.first().pk}").status_code == 404
    Token.objects.update(ends_at=timezone.now() - timedelta(seconds=1))
    assert script.get("/api/v1/stacks", **bearer(secret)).status_code == 401
    assert script.get("/api/v1/stacks", **bearer("made up")).status_code == 401


# The record


def test_the_record_tells_and_cannot_be_changed_unseen(client):
    make(client)
    lines = answer(client.get("/api/v1/record"))
    assert [line["what"] for line in lines][:2] == ["token made", "signed in"]
    assert answer(client.get(f"/api/v1/record?before={lines[0]['id']}"))[0]["what"] == "signed in"
    assert first_broken() is None


@pytest.mark.parametrize("harm", ["change", "remove", "insert"])
def test_a_record_that_was_changed_is_found_out(db, harm):
    lines = [note("a", "signed in", str(number)) for number in range(4)]
    call_command("person", "record", stdout=(said := StringIO()))
    assert "as it was written" in said.getvalue()
    if harm == "change":
        Entry.objects.filter(pk=lines[1].pk).update(about="nobody")
    elif harm == "remove":
        Entry.objects.filter(pk=lines[1].pk).delete()
    else:
        Entry.objects.filter(pk=lines[2].pk).update(before=lines[0].digest)
    found = first_broken()
    assert found is not None
    assert found.pk == lines[1 if harm == "change" else 2].pk
    with pytest.raises(CommandError, match=f"line {found.pk}"):
        call_command("person", "record")


# The command


@pytest.fixture
def typed(monkeypatch):
    def type_in(text: str) -> None:
        monkeypatch.setattr("sys.stdin", StringIO(text + "\n"))

    return type_in


def test_people_by_command(db, typed, capsys):
    typed(PASSWORD)
    call_command("person", "add", "first", "--role", "administrator", "--password-stdin")
    typed(PASSWORD)
    call_command("person", "add", "second", "--password-stdin")
    call_command("person", "list")
    assert "first: administrator\nsecond: technician" in capsys.readouterr().out
    call_command("person", "role", "second", "reader")
    call_command("person", "access", "second", "--off")
    call_command("person", "list")
    assert "second: reader (no access)" in capsys.readouterr().out
    call_command("person", "access", "second")
    session = signed_in("second", PASSWORD)
    typed("another lamp here")
    call_command("person", "password", "second", "--password-stdin")
    assert session.get("/api/v1/stacks").status_code == 401
    assert signed_in("second", "another lamp here").get("/api/v1/stacks").status_code == 200


def test_what_the_command_cannot_do_it_says(db, typed):
    typed("short")
    with pytest.raises(CommandError, match="choose another password"):
        call_command("person", "add", "first", "--password-stdin")
    with pytest.raises(CommandError, match="nobody of that name"):
        call_command("person", "role", "nobody", "reader")
    services.add_person("first", PASSWORD, Role.ADMINISTRATOR)
    with pytest.raises(CommandError, match="no administrator left"):
        call_command("person", "access", "first", "--off")
    with pytest.raises(Refused, match="already"):
        services.add_person("FIRST", PASSWORD, Role.READER)


def test_problems_have_codes_that_stay():
    assert len(set(TITLES.values())) == len(TITLES)
    assert TITLES["duplicate"] == (409, "There already")
    assert Right.WORK in RIGHTS[Role.TECHNICIAN]
