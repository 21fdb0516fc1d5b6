"""``manage.py demo FOLDER``: people to sign in as, and the folder's files as boxes in the middle of their work."""

import subprocess
import sys
import time
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser
from natsort import os_sorted

from hollowstack.core.arrange.order import DocumentRule
from hollowstack.core.settings.original import Original
from hollowstack.server.accounts.rights import Role
from hollowstack.server.accounts.services import add_person
from hollowstack.server.capture import slips
from hollowstack.server.capture.models import OrderSlip, Run, Station
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.capture.station_list import add_station
from hollowstack.server.errors import Refused
from hollowstack.server.intake import batches, uploads
from hollowstack.server.stacks import services
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.storage.masters import keep_master
from hollowstack.server.storage.spools import spooled

USER, PASSWORD = "keeper", "skerry-light"
PEOPLE = {USER: Role.ADMINISTRATOR, "mender": Role.TECHNICIAN, "auditor": Role.INSPECTOR, "visitor": Role.READER}
"""Made-up people, one of each role."""
NAME = "Skerry Light papers, box 27"
LOGS = "Watch logs, June 1927"
_DOCUMENTS = ("02", "03", "04", "05", "06")
"""What the names of files begin with where another document of the box begins."""
_SEEN = 10**9
"""Nobody else is at work yet."""
_PATIENCE_S = 20.0


class Command(BaseCommand):
    """Prepare the demo; doing so twice changes nothing."""

    help = __doc__
    # Those of the web application would read all of its code first.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """The folder of pages, and the ports at which the simulated stations will be."""
        parser.add_argument("folder", type=Path)
        parser.add_argument("--name", default=NAME)
        parser.add_argument("--stations", nargs=3, type=int, metavar="PORT", help="keep order slips for these stations too")

    def handle(self, *args: Any, **options: Any) -> None:
        """Make people, stacks and slips where they are not there yet."""
        strangers = User.objects.exclude(username__in=PEOPLE)
        if strangers.exists():
            raise CommandError(
                "This data folder has people of its own: set HOLLOWSTACK_DATA to a folder for the demo alone."
            )
        self.stdout.write(
            f"Sign in as {USER} with the password {PASSWORD} (or as {', '.join([*PEOPLE][1:])}, with the same)"
        )
        for name, role in PEOPLE.items():
            if not User.objects.filter(username=name).exists():
                add_person(name, PASSWORD, role)
        if Stack.objects.filter(name=options["name"]).exists():
            return
        files = os_sorted(file for file in options["folder"].iterdir() if file.is_file() and not file.name.startswith("."))
        if not files:
            services.create_stack(options["name"], _person(USER))
            return
        _logs([file for file in files if file.name.startswith("02")])
        _box(options["name"], files)
        if options["stations"] and not OrderSlip.objects.exists():
            _slips(options["stations"])


def _person(name: str) -> User:
    return User.objects.get(username=name)


def _add(stack: Stack, files: Sequence[Path], user: User, **record: Any) -> int:
    """Files into a stack, as if they had been sent; returns the batch."""
    batch = batches.open_batch(stack.pk, user, record=record or None)
    for index, file in enumerate(files):
        with file.open("rb") as stream, spooled(stream) as spool:
            sha256, size, _ = keep_master(spool)
        batches.add_file(batch.pk, batches.Coming(index, file.name, sha256, size))
    return batch.pk


def _logs(files: Sequence[Path]) -> None:
    """A small box that goes the whole way by itself, as if an order slip had captured it."""
    user = _person("mender")
    stack = services.create_stack(LOGS, user, "bound volume")
    batch = _add(stack, files, user)
    settings = CaptureSettings(source="platen", name="log").model_dump()
    Run.objects.create(
        stack=stack, batch_id=batch, by=user, settings=settings, state=Run.State.DONE, received=len(files), bind_as=LOGS
    )


def _box(name: str, files: Sequence[Path]) -> None:
    """A box that somebody is at work on: documents marked, a page to be recaptured, a file that did not come."""
    user, inspector = _person(USER), _person("auditor")
    stack = services.create_stack(name, user)
    _add(stack, files, user)
    pages = list(Page.objects.filter(stack=stack, removed=False).select_related("source"))

    def first_of(prefix: str) -> int | None:
        return next((page.pk for page in pages if page.source.name.startswith(prefix)), None)

    begins = [pk for prefix in _DOCUMENTS if (pk := first_of(prefix)) is not None]
    Arranging(stack.pk, _person("mender"), _SEEN).mark_break(begins, True)
    if (cut_short := first_of("07")) is not None:
        Arranging(stack.pk, inspector, _SEEN).mark_rescan([cut_short], "the lower third is missing")
    uploads.announce(batches.open_batch(stack.pk, user), [uploads.Announced("10 letter 5a.jpg", 1_480_000)])


def _slips(ports: Sequence[int]) -> None:
    """Order slips for the simulated stations, which are started for as long as it takes to know what they can do."""
    words = [sys.executable, "-m", "hollowstack.standins.station", "--ports", *map(str, ports)]
    process = subprocess.Popen(words, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    try:
        glass, two_sided = [_station(f"http://127.0.0.1:{port}") for port in (ports[0], ports[2])]
    finally:
        process.terminate()
        process.wait()
    letters = CaptureSettings(source="feeder", two_sided=True, ppi=300, colour="colour", name="letter")
    by = _person("mender")
    slips.save(
        slips.Job(
            "Letters, both sides",
            two_sided.pk,
            letters,
            "loose sheets",
            DocumentRule("blank sheets"),
            "Letters {written}, box {box}",
            ("year", "box"),
            Original(after="back", by="the reading room"),
        ),
        by,
    )
    logs = CaptureSettings(source="platen", ppi=300, colour="colour", name="log")
    slips.save(
        slips.Job(
            "Log book, page by page",
            glass.pk,
            logs,
            "bound volume",
            DocumentRule("separator sheets"),
            "Log book {date} {counter}",
        ),
        None,
    )


def _station(address: str) -> Station:
    """A station as soon as it answers. Raises CommandError where it does not."""
    for _ in range(int(_PATIENCE_S / 0.25)):
        if known := Station.objects.filter(address=address).first():
            return known
        try:
            return add_station(address)
        except Refused:
            time.sleep(0.25)
    raise CommandError(f"The simulated station at {address} does not answer: end what else uses its port, then try again.")
