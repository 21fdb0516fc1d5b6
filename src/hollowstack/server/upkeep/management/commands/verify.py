"""``hollowstack verify``: read everything that is stored, and say what is damaged."""

from typing import Any

from django.core.management.base import BaseCommand

from hollowstack.server.upkeep.verifying import verify


class Command(BaseCommand):
    """May run while the program works."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        """Do it, and tell."""
        found = 0
        count = 0
        for look in verify():
            count += 1
            if look.damage:
                found += 1
                self.stdout.write(look.damage)
        self.stdout.write(f"{count:,} read, {found:,} damaged")
        if found:
            raise SystemExit(1)
