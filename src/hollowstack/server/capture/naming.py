"""Names of stacks by the pattern of an order slip: what stands in braces is filled in."""

import re
from collections.abc import Mapping

from hollowstack.server.errors import Refused

FILLED_IN = ("date", "number", "title", "year", "box", "shelf", "position")
_BRACES = re.compile(r"\{([^{}]*)\}")
_GAP_BEFORE = re.compile(r"\s+(?=[,.;:])")


def check_pattern(naming: str) -> None:
    """Raises Refused where a pattern asks for something that cannot be filled in."""
    if unknown := [word for word in _BRACES.findall(naming) if word not in FILLED_IN]:
        offered = ", ".join(f"{{{word}}}" for word in FILLED_IN[:-1])
        raise Refused(f"“{{{unknown[0]}}}” cannot be filled in: use {offered} or {{{FILLED_IN[-1]}}}.")


def filled(naming: str, words: Mapping[str, str]) -> str:
    """The name that a pattern makes; what nobody has said leaves no gap."""
    made = _BRACES.sub(lambda found: words.get(found[1], ""), naming)
    return " ".join(_GAP_BEFORE.sub("", made).split()).strip(" ,;:·-")
