"""Room on the disk of the data."""

import shutil

from django.conf import settings

from hollowstack.server.errors import NoRoom


def require_room(size: int = 0) -> None:
    """Raises NoRoom where so many bytes more would leave less free than there must always be."""
    settings.DATA.mkdir(parents=True, exist_ok=True)
    free = shutil.disk_usage(settings.DATA).free
    if free - size < settings.LEAST_FREE_MB * 1_000_000:
        raise NoRoom(f"Only {free // 1_000_000:,} MB are free on the disk of the server: make room first, then go on.")


def is_room() -> bool:
    """Whether there is as much as there must always be."""
    try:
        require_room()
    except NoRoom:
        return False
    return True
