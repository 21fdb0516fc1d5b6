"""What the guard has to say of a page, in words."""

from hollowstack.core.check.finding import Finding
from hollowstack.core.check.guard import LARGEST_PERCENT, Guarded

STEPPED = {
    "grey instead of bitonal": "kept in grey",
    "no evening": "left as light and dark as it was captured",
    "nothing cleared": "its borders are left as they are",
    "not cropped": "it is not cropped",
    "less compression": "it is compressed less",
}
"""What a page is spared, and what is said of it."""
_GONE = "Something that was here is gone"


def content_finding(guarded: Guarded, stepped: tuple[str, ...], *, by_hand: bool) -> Finding:
    """The finding that every page has: how much of it was lost, and what was done about it.

    Args:
        guarded: What the guard found on the page as it is now.
        stepped: What the page was spared because more would have been lost.
        by_hand: Whether what was done was set by hand, so that nothing of it was changed.
    """
    value = min(guarded.percent, 100.0)
    if guarded.passes and not stepped:
        return _finding("pass", value, "Everything that was there is there.", guarded)
    done = " and ".join(STEPPED[step] for step in stepped)
    if guarded.passes:
        return _finding("review", value, f"Something on this page would have been lost: {done}.", guarded)
    lost = {"cropped": "Writing was cut away here", "cleared": "Something in the border was cleared away here",
            "new": "Something shows here that was not there"}.get(guarded.kind or "", _GONE)  # fmt: skip
    if by_hand:
        return _finding("review", value, f"{lost}, by what was set by hand.", guarded)
    return _finding(
        "fail",
        value,
        f"Content lost: {lost[0].lower()}{lost[1:]}{f', though the page was {done}' if done else ''}: look on the bench.",
        guarded,
    )


def _finding(verdict: str, value: float, message: str, guarded: Guarded) -> Finding:
    return Finding.model_validate(
        {
            "check": "content",
            "verdict": verdict,
            "value": value,
            "limit": LARGEST_PERCENT,
            "message": message,
            "spot": guarded.spot,
        }
    )
