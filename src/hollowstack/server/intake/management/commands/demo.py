"""``manage.py demo FOLDER``: a user to sign in with, and the folder's files as a stack."""

from pathlib import Path
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandError, CommandParser
from natsort import os_sorted

from hollowstack.server.accounts.rights import Role
from hollowstack.server.accounts.services import add_person
from hollowstack.server.intake import batches
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Stack
from hollowstack.server.storage.masters import keep_master
from hollowstack.server.storage.spools import spooled

USER, PASSWORD = "keeper", "skerry-light"
PEOPLE = {USER: Role.ADMINISTRATOR, "mender": Role.TECHNICIAN, "auditor": Role.INSPECTOR, "visitor": Role.READER}
"""Made-up people, one of each role."""
NAME = "Skerry Light papers, box 27"


class Command(BaseCommand):
    """Prepare the demo; doing so twice changes nothing."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """The folder of pages."""
        parser.add_argument("folder", type=Path)
        parser.add_argument("--name", default=NAME)

    def handle(self, *args: Any, **options: Any) -> None:
        """Make the user and the stack where they are not there yet."""
        strangers = get_user_model().objects.exclude(username__in=PEOPLE)
        if strangers.exists():
            raise CommandError(
                "This data folder has people of its own: set HOLLOWSTACK_DATA to a folder for the demo alone."
            )
        self.stdout.write(
            f"Sign in as {USER} with the password {PASSWORD} (or as {', '.join([*PEOPLE][1:])}, with the same)"
        )
        for name, role in PEOPLE.items():
            if not get_user_model().objects.filter(username=name).exists():
                add_person(name, PASSWORD, role)
        user = get_user_model().objects.get(username=USER)
        if Stack.objects.filter(name=options["name"]).exists():
            return
        stack = services.create_stack(options["name"], user)
        files = [file for file in options["folder"].iterdir() if file.is_file() and not file.name.startswith(".")]
        if not files:
            return
        batch = batches.open_batch(stack.pk, user)
        for index, file in enumerate(os_sorted(files)):
            with file.open("rb") as stream, spooled(stream) as spool:
                sha256, size, _ = keep_master(spool)
            batches.add_file(batch.pk, batches.Coming(index, file.name, sha256, size))
