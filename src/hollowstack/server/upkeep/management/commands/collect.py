"""``hollowstack collect``: remove what nothing wants any more, and say what that freed."""

from datetime import timedelta
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from hollowstack.server.upkeep.collecting import FRESH, collect


class Command(BaseCommand):
    """May run while the program works."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Whether what undoing may want again goes too."""
        parser.add_argument("--all", action="store_true", help="results of the last days too, which undoing may want again")

    def handle(self, *args: Any, **options: Any) -> None:
        """Do it, and tell."""
        freed = collect(timedelta(0) if options["all"] else FRESH)
        for kind, count in freed.counts.items():
            self.stdout.write(f"{count:,} {kind}: {freed.sizes.get(kind, 0):,} bytes")
        self.stdout.write(f"{freed.bytes:,} bytes freed")
