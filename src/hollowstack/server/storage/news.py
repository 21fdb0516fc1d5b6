"""Whether anything may be new: asked of the database's own count of what others have written, which costs next to nothing.

Source:
    SQLite, PRAGMA data_version: changes for a connection whenever another one has committed.
"""

import time

from django.db import connection


class News:
    """Of one thread, whose connection it asks; what that thread writes itself is no news to it."""

    def __init__(self, at_least_every: float) -> None:
        """After so many seconds there is news whatever the count says: some things become due without being written."""
        self._at_least_every = at_least_every
        self._version: int | None = None
        self._asked_at = 0.0

    def is_there(self) -> bool:
        """Whether something has been written since this was last true. Raises DatabaseError."""
        with connection.cursor() as cursor:
            version = cursor.execute("PRAGMA data_version").fetchone()[0]
        if version == self._version and time.monotonic() - self._asked_at < self._at_least_every:
            return False
        self._version, self._asked_at = version, time.monotonic()
        return True

    def expect(self) -> None:
        """There is some, for a reason of one's own."""
        self._version = None

    @property
    def expected(self) -> bool:
        """Whether it was said that there is some."""
        return self._version is None
