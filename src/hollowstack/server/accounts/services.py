"""The rules of people, invitations and tokens, without HTTP."""

import hashlib
import secrets
from dataclasses import dataclass
from datetime import timedelta

from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import F
from django.utils import timezone

from hollowstack.server.accounts.models import Invitation, Person, Token
from hollowstack.server.accounts.record import note
from hollowstack.server.accounts.rights import RIGHTS, Right, Role
from hollowstack.server.errors import Refused

INVITATION_ENDS = timedelta(days=7)
MOST_TOKEN_DAYS = 366
_MOST_NAME = 150
_LAST_ADMINISTRATOR = "There would be no administrator left: make somebody else one first."


@dataclass(frozen=True, slots=True)
class Who:
    """Somebody who asks: a person, or a script with a token of theirs."""

    user: User
    rights: frozenset[Right]
    role: Role
    token: Token | None = None


def role_of(user: User) -> Role:
    """What a user is here; one who was given no role may only look."""
    person = Person.objects.filter(user_id=user.pk).first()
    return Role(person.role) if person else Role.READER


def add_person(name: str, password: str, role: Role, by: str = "") -> User:
    """A new person. Raises Refused where name or password will not do."""
    name = " ".join(name.split())
    users = get_user_model().objects
    if not name or len(name) > _MOST_NAME:
        raise Refused(f"A user name has 1 to {_MOST_NAME} characters: choose another.")
    if users.filter(username__iexact=name).exists():
        raise Refused("Somebody has that user name already: choose another.")
    user = get_user_model()(username=name)
    _check_password(password, user)
    with transaction.atomic():
        user.set_password(password)
        user.save()
        Person.objects.create(user=user, role=role)
        note(by, "person added", f"{name}, {role}")
    return user


def change_password(user: User, old: str, new: str) -> None:
    """Another password; every session but the one in hand ends. Raises Refused."""
    if not user.check_password(old):
        raise Refused("The present password is another one: check it and try again.")
    _check_password(new, user)
    with transaction.atomic():
        user.set_password(new)
        user.save(update_fields=["password"])
        note(user.get_username(), "password changed", user.get_username())


def set_password(user: User, new: str, by: str) -> None:
    """Another password for somebody who has forgotten theirs; every session of theirs ends. Raises Refused."""
    _check_password(new, user)
    with transaction.atomic():
        user.set_password(new)
        user.save(update_fields=["password"])
        note(by, "password set", user.get_username())
    end_sessions(user.pk, by)


def _check_password(password: str, user: User) -> None:
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise Refused(f"{error.messages[0].rstrip('.')}: choose another password.") from None


def change_person(user_id: int, by: str, *, role: Role | None = None, active: bool | None = None) -> User:
    """Give a person another role, or take away or give back their access. Raises Refused, User.DoesNotExist."""
    with transaction.atomic():
        user = get_user_model().objects.get(pk=user_id)
        person, _ = Person.objects.get_or_create(user=user, defaults={"role": Role.READER})
        if role is not None and role != person.role:
            person.role = role
            person.save(update_fields=["role"])
            note(by, "role changed", f"{user.get_username()}, {role}")
        if active is not None and active != user.is_active:
            user.is_active = active
            user.save(update_fields=["is_active"])
            note(by, "access given" if active else "access taken", user.get_username())
        if not Person.objects.filter(role=Role.ADMINISTRATOR, user__is_active=True).exists():
            raise Refused(_LAST_ADMINISTRATOR)
    return user


def end_sessions(user_id: int, by: str) -> None:
    """End every session of a person, on whatever machine."""
    with transaction.atomic():
        user = get_user_model().objects.get(pk=user_id)
        Person.objects.get_or_create(user=user, defaults={"role": Role.READER})
        Person.objects.filter(user=user).update(sessions=F("sessions") + 1)
        note(by, "sessions ended", user.get_username())


def invite(role: Role, by: User | None) -> tuple[Invitation, str]:
    """An invitation, and the secret in its link, which is not kept."""
    secret = secrets.token_urlsafe(32)
    with transaction.atomic():
        made = Invitation.objects.create(digest=_digest(secret), role=role, by=by, ends_at=timezone.now() + INVITATION_ENDS)
        note(by.get_username() if by else "", "person invited", role)
    return made, secret


def accept(secret: str, name: str, password: str) -> User:
    """Become a person by an invitation, which is used up then. Raises Refused."""
    with transaction.atomic():
        found = Invitation.objects.filter(digest=_digest(secret), used_at=None, ends_at__gt=timezone.now()).first()
        if found is None:
            raise Refused("This invitation has ended or was used: ask for another.")
        user = add_person(name, password, Role(found.role), by=found.by.get_username() if found.by else "")
        found.used_at = timezone.now()
        found.save(update_fields=["used_at"])
    return user


def make_token(user: User, name: str, role: Role, days: int) -> tuple[Token, str]:
    """A token for a script, and its secret, which is shown once and not kept. Raises Refused."""
    name = " ".join(name.split())[:80]
    if not name:
        raise Refused("A token needs a name by which it is known again: give it one.")
    if not 1 <= days <= MOST_TOKEN_DAYS:
        raise Refused(f"A token lives 1 to {MOST_TOKEN_DAYS} days: choose how many.")
    if not RIGHTS[role] <= RIGHTS[role_of(user)]:
        raise Refused("A token may not be allowed more than you are: choose a smaller role.")
    secret = f"hs_{secrets.token_urlsafe(32)}"
    with transaction.atomic():
        made = Token.objects.create(
            digest=_digest(secret), name=name, user=user, role=role, ends_at=timezone.now() + timedelta(days=days)
        )
        note(user.get_username(), "token made", f"{name}, {role}")
    return made, secret


def withdraw_token(user: User, token_id: int) -> None:
    """End a token of one's own. Raises Token.DoesNotExist."""
    with transaction.atomic():
        token = Token.objects.get(pk=token_id, user=user, withdrawn_at=None)
        token.withdrawn_at = timezone.now()
        token.save(update_fields=["withdrawn_at"])
        note(user.get_username(), "token withdrawn", token.name)


_USE_NOTED = timedelta(minutes=5)


def holder_of(secret: str) -> Who | None:
    """Who asks with a token; None where it is unknown, has ended, or its person may not come in any more."""
    now = timezone.now()
    found = Token.objects.filter(digest=_digest(secret), withdrawn_at=None, ends_at__gt=now, user__is_active=True)
    token = found.select_related("user").first()
    if token is None:
        return None
    if token.used_at is None or now - token.used_at > _USE_NOTED:
        Token.objects.filter(pk=token.pk).update(used_at=now)
    role = Role(token.role)
    return Who(token.user, RIGHTS[role] & RIGHTS[role_of(token.user)], role, token)


def _digest(secret: str) -> str:
    # A random secret of 256 bits needs no slow hash: nobody can try them all.
    return hashlib.sha256(secret.encode()).hexdigest()
