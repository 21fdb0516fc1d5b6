"""Why something was not done: each with one sentence, and nothing was changed."""

from ninja import Schema

from hollowstack.core.page.errors import HollowStackError


class Refused(HollowStackError):
    """What was asked for cannot be done."""


class Conflict(HollowStackError):
    """Somebody else changed it in the meantime."""


class Problem(Schema):
    """Why something was not done, as one sentence."""

    message: str
