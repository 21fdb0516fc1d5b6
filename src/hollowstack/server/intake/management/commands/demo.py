"""``manage.py demo FOLDER``: a user to sign in with, and the folder's files as a stack."""

from pathlib import Path
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandParser
from natsort import os_sorted

from hollowstack.server.intake import batches
from hollowstack.server.stacks import services
from hollowstack.server.stacks.models import Stack
from hollowstack.server.storage.masters import keep_master
from hollowstack.server.storage.spools import spooled

USER, PASSWORD = "keeper", "skerry-light"
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
        user, new = get_user_model().objects.get_or_create(username=USER)
        self.stdout.write(f"Sign in as {USER} with the password {PASSWORD}")
        if new:
            user.set_password(PASSWORD)
            user.save()
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
            batches.add_file(batch.pk, index, file.name, sha256, size)
