"""Why something was not done: each with one sentence, and nothing was changed."""

from hollowstack.core.page.errors import HollowStackError


class Refused(HollowStackError):
    """What was asked for cannot be done."""


class Conflict(HollowStackError):
    """Somebody else changed it in the meantime."""


class OverQuota(HollowStackError):
    """More than a stack, or a person, may have: no fault of what was sent, and not to be tried again by itself."""


class NoRoom(HollowStackError):
    """The disk is nearly full: what lies in the machine is no fault of what was sent."""


FULL = "There is no room left on the disk of the server: make room for the rest; nothing that has come is lost."
