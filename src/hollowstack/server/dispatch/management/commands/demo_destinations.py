"""``manage.py demo_destinations PORT PORT PORT``: a folder, and the simulated receivers, as destinations to try."""

import subprocess
import sys
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from hollowstack.server.dispatch.destinations import DestinationAsked, keep
from hollowstack.server.dispatch.models import Destination

_HOST, _USER, _PASSWORD = "127.0.0.1", "skerry", "lantern"
_ACCESS_KEY, _BUCKET = "SKERRYLIGHT", "skerry"
"""As the simulated receivers know them: made up, and worth nothing anywhere else."""


class Command(BaseCommand):
    """Make the destinations; where there are any, nothing is changed."""

    help = __doc__
    # Those of the web application would read all of its code first.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """Where the receivers of mail, of files by SFTP and of objects will be."""
        parser.add_argument("ports", nargs=3, type=int, metavar="PORT")

    def handle(self, *args: Any, **options: Any) -> None:
        """Keep four destinations."""
        if Destination.objects.exists():
            return
        mail, sftp, storage = options["ports"]
        folder = Path(settings.DELIVERY_FOLDERS[0]) / "reading room"
        folder.mkdir(parents=True, exist_ok=True)
        for name, place, pattern in _places(mail, sftp, storage, folder):
            secret = None if place["kind"] == "folder" else _PASSWORD
            asked = {"name": name, "place": place, "secret": secret, "pattern": pattern}
            keep(DestinationAsked.model_validate(asked), None)


def _places(mail: int, sftp: int, storage: int, folder: Path) -> list[tuple[str, dict[str, Any], str]]:
    """A name, a place and a pattern of names for each."""
    return [
        ("Reading room", {"kind": "folder", "path": str(folder)}, "{stack}/{title}"),
        (
            "Regional store",
            {"kind": "storage", "endpoint": f"http://{_HOST}:{storage}", "bucket": _BUCKET, "access_key": _ACCESS_KEY},
            "{year}/{stack}/{title}",
        ),
        (
            "Harbour trust",
            {
                "kind": "sftp", "host": _HOST, "port": sftp, "user": _USER, "folder": "from digitization",
                "host_key": _key(),
            },
            "{counter:4} {title}",
        ),
        (
            "Keeper's post",
            {
                "kind": "mail", "host": _HOST, "port": mail, "user": _USER, "sender": "digitization@skerry.example.org",
                "recipients": ["keeper@skerry.example.org"],
                "text": "Attached: {title}, {pages} pages.\n\nThe digitization room at Skerry Light",
            },
            "{title}",
        ),
    ]  # fmt: skip


def _key() -> str:
    words = [sys.executable, "-m", "hollowstack.standins.receivers", "--folder", str(settings.RECEIVERS), "--show-key"]
    return subprocess.run(words, check=True, capture_output=True, text=True).stdout.strip()
