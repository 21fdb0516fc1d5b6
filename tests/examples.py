"""How many examples a property test tries: as many in every run, more where new ones are looked for."""

import os

SOUGHT = int(os.environ.get("HOLLOWSTACK_EXAMPLES", "0"))
"""Examples that are looked for by `make properties`, for a test that otherwise tries 100; 0 in every other run."""


def about(count: int) -> int:
    """As many as this, or in proportion where new ones are looked for."""
    return max(count, count * SOUGHT // 100)
