"""How a refusal looks over HTTP."""

from ninja import Schema


class Problem(Schema):
    """Why something was not done, as one sentence."""

    message: str
