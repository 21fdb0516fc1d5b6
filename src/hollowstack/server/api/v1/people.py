"""People, their roles, invitations, and the record, over HTTP: for administrators."""

from datetime import datetime

from django.contrib.auth import get_user_model
from ninja import Schema, Status

from hollowstack.server.accounts import services
from hollowstack.server.accounts.models import Entry
from hollowstack.server.accounts.rights import Role
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router

router = Router(tags=["people"])
_MOST_ENTRIES = 500


class PersonOut(Schema):
    """A person; one who is not ``active`` cannot sign in."""

    id: int
    user: str
    role: Role
    active: bool
    last_seen: datetime | None
    tokens: int


class PersonChange(Schema):
    """What is to be changed of a person; what is null stays."""

    role: Role | None = None
    active: bool | None = None


class InvitationFor(Schema):
    """What an invited person will be."""

    role: Role


class InvitationOut(Schema):
    """An invitation: ``secret`` belongs into the link, and is told once."""

    role: Role
    secret: str
    ends_at: datetime


class EntryOut(Schema):
    """One line of the record."""

    id: int
    at: datetime
    who: str
    what: str
    about: str


@router.get("/people", response=list[PersonOut])
def list_people(request: Request) -> list[PersonOut]:
    """Everybody who has, or had, access."""
    return [_person(user) for user in get_user_model().objects.select_related("person").order_by("username")]


@router.patch("/people/{int:person_id}", response={200: PersonOut, 404: Problem})
def update_person(request: Request, person_id: int, change: PersonChange) -> PersonOut:
    """Give a person another role, or take access away or give it back."""
    return _person(services.change_person(person_id, request.user.get_username(), role=change.role, active=change.active))


@router.delete("/people/{int:person_id}/sessions", response={204: None, 404: Problem})
def end_sessions_of(request: Request, person_id: int) -> Status[None]:
    """End all sessions of a person."""
    services.end_sessions(person_id, request.user.get_username())
    return Status(204, None)


@router.post("/invitations", response={201: InvitationOut})
def create_invitation(request: Request, new: InvitationFor) -> Status[InvitationOut]:
    """Invite somebody: the link ends after a week, and when it was used."""
    made, secret = services.invite(new.role, request.user)
    return Status(201, InvitationOut(role=Role(made.role), secret=secret, ends_at=made.ends_at))


@router.get("/record", response=list[EntryOut])
def list_record(request: Request, before: int | None = None) -> list[EntryOut]:
    """The record, the last line first, 500 at a time; ``before`` a line goes on behind those that were told."""
    lines = Entry.objects.order_by("-pk")
    if before is not None:
        lines = lines.filter(pk__lt=before)
    return [
        EntryOut(id=line.pk, at=line.at, who=line.who, what=line.what, about=line.about) for line in lines[:_MOST_ENTRIES]
    ]


def _person(user: object) -> PersonOut:
    found = get_user_model().objects.select_related("person").get(pk=user.pk)  # type: ignore[attr-defined]
    person = getattr(found, "person", None)
    return PersonOut(
        id=found.pk,
        user=found.get_username(),
        role=Role(person.role) if person else Role.READER,
        active=found.is_active,
        last_seen=found.last_login,
        tokens=found.tokens.filter(withdrawn_at=None).count(),
    )
