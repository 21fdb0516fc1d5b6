"""The names that people give to things here: one rule for stacks, collections and views."""

from hollowstack.server.errors import Refused

MOST_NAME = 200


def checked_name(name: str, what: str) -> str:
    """A name with single spaces. Raises Refused without one, or with one that is too long; ``what`` as in "A stack"."""
    name = " ".join(name.split())
    if not name:
        raise Refused(f"{what} needs a name: give it one.")
    if len(name) > MOST_NAME:
        raise Refused(f"The name has {len(name)} characters; the most is {MOST_NAME}: shorten it.")
    return name
