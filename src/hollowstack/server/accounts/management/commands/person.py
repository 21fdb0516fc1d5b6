"""``hollowstack person``: who may sign in. The first person is made here; others can be invited on screen."""

import getpass
import sys
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandError, CommandParser

from hollowstack.core.page.errors import HollowStackError
from hollowstack.server.accounts import services
from hollowstack.server.accounts.record import first_broken, note
from hollowstack.server.accounts.rights import Role

_BY = "command line"


class Command(BaseCommand):
    """Add, change and list people; check the record."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """What is to be done."""
        add_words(parser)

    def handle(self, *args: Any, do: str, **options: Any) -> None:
        """Do it, or say why not."""
        try:
            getattr(self, f"_{do}")(**options)
        except HollowStackError as error:
            raise CommandError(str(error)) from None
        except get_user_model().DoesNotExist:
            raise CommandError("There is nobody of that name.") from None

    def _add(self, name: str, role: str, password_stdin: bool, **_: Any) -> None:
        services.add_person(name, _asked(password_stdin), Role(role), by=_BY)
        self.stdout.write(f"{name} can sign in now, as {role}.")

    def _list(self, **_: Any) -> None:
        for user in get_user_model().objects.order_by("username"):
            state = "" if user.is_active else " (no access)"
            self.stdout.write(f"{user.get_username()}: {services.role_of(user)}{state}")

    def _role(self, name: str, role: str, **_: Any) -> None:
        services.change_person(get_user_model().objects.get(username=name).pk, _BY, role=Role(role))

    def _password(self, name: str, password_stdin: bool, **_: Any) -> None:
        services.set_password(get_user_model().objects.get(username=name), _asked(password_stdin), by=_BY)
        self.stdout.write(f"The password of {name} is changed; all sessions have ended.")

    def _access(self, name: str, off: bool, **_: Any) -> None:
        services.change_person(get_user_model().objects.get(username=name).pk, _BY, active=not off)

    def _token(self, name: str, for_what: str, role: str, days: int, **_: Any) -> None:
        user = get_user_model().objects.get(username=name)
        made = services.make_token(user, for_what, Role(role) if role else services.role_of(user), days)
        self.stdout.write(made[1])

    def _record(self, **_: Any) -> None:
        if (broken := first_broken()) is not None:
            note(_BY, "record checked", f"broken at line {broken.pk}")
            raise CommandError(f"The record was changed at or before line {broken.pk}, of {broken.at:%Y-%m-%d %H:%M}.")
        self.stdout.write("The record is as it was written.")


def add_words(parser: Any) -> None:
    """The words of the command."""
    commands = parser.add_subparsers(dest="do", required=True)
    add = commands.add_parser("add", help="a new person; asks for the password")
    add.add_argument("name")
    add.add_argument("--role", choices=[role.value for role in Role], default=Role.TECHNICIAN.value)
    password = commands.add_parser("password", help="another password for a person, who is signed out everywhere")
    password.add_argument("name")
    for one in (add, password):
        one.add_argument("--password-stdin", action="store_true", help="read the password from standard input")
    commands.add_parser("list", help="everybody, with role")
    role = commands.add_parser("role", help="another role for a person")
    role.add_argument("name")
    role.add_argument("role", choices=[role.value for role in Role])
    access = commands.add_parser("access", help="give a person access again, or take it away")
    access.add_argument("name")
    access.add_argument("--off", action="store_true")
    token = commands.add_parser("token", help="a token with which a script signs in as a person; it is shown once")
    token.add_argument("name")
    token.add_argument("for_what", metavar="FOR", help="what the script does, by which the token is known again")
    token.add_argument("--role", choices=[role.value for role in Role], default="", help="a smaller role than the person's")
    token.add_argument("--days", type=int, default=90, help="how long it is good for (default: 90)")
    commands.add_parser("record", help="check that the record of sign-ins, rights and deletions is as it was written")


def _asked(from_stdin: bool) -> str:
    if from_stdin:
        return sys.stdin.readline().rstrip("\n")
    password = getpass.getpass("Password: ")
    if getpass.getpass("Once more: ") != password:
        raise CommandError("The two are not the same: try again.")
    return password
