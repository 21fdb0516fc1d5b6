"""``hollowstack reindex``: build the index of all words anew from the words that are kept."""

from typing import Any

from django.core.management.base import BaseCommand

from hollowstack.server.reading import index


class Command(BaseCommand):
    """May run while the program works; until it is done some pages are not found."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        """Do it, and tell."""
        self.stdout.write(f"The words of {index.build_anew():,} pages are in the index.")
