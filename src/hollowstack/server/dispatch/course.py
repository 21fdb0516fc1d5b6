"""How a delivery goes: a state machine without threads, clocks or database. Events in, the next standing out.

waiting ── Begun ──→ sending ── Handed ──→ proving ── Proven ──→ arrived
   ↑                    │ Missed              │ Differed
   └── a growing wait ──┴─────────────────────┴── too often, or lasting ──→ stuck: a person is asked
"""

from dataclasses import dataclass, replace
from typing import Literal

State = Literal["waiting", "sending", "proving", "arrived", "stuck", "cancelled"]
OPEN: tuple[State, ...] = ("waiting", "sending", "proving")
"""Of deliveries that are not over."""
MOST_TRIES = 8
_FACTOR = 3.0


@dataclass(frozen=True, slots=True)
class Standing:
    """Where a delivery stands."""

    state: State = "waiting"
    tries: int = 0
    """How often it was begun in vain since a person last asked for it."""
    due: float = 0.0
    """When it is begun next, in seconds of any clock."""
    held: bool = False
    """Whether a person has paused it."""
    said: str = ""
    """What is, or was last, in the way."""


@dataclass(frozen=True, slots=True)
class Begun:
    """It is being sent."""


@dataclass(frozen=True, slots=True)
class Handed:
    """All of it was handed over."""


@dataclass(frozen=True, slots=True)
class Proven:
    """What lies there is what was sent."""


@dataclass(frozen=True, slots=True)
class Differed:
    """What lies there is something else: it is sent anew."""

    said: str


@dataclass(frozen=True, slots=True)
class Missed:
    """It could not be done. What is ``lasting`` will not be better by itself."""

    said: str
    lasting: bool = False


@dataclass(frozen=True, slots=True)
class Held:
    """A person pauses it. What is on its way is let come to its end."""


@dataclass(frozen=True, slots=True)
class Released:
    """A person lets it go on."""


@dataclass(frozen=True, slots=True)
class Cancelled:
    """A person does not want it any more."""


@dataclass(frozen=True, slots=True)
class Again:
    """A person wants it tried again, now."""


Event = Begun | Handed | Proven | Differed | Missed | Held | Released | Cancelled | Again


class OutOfTurn(Exception):
    """An event that has no place where a delivery stands."""


def after(standing: Standing, event: Event, now: float, first_wait: float) -> Standing:
    """Where a delivery stands after an event.

    Args:
        standing: Before it.
        event: What happened.
        now: Seconds of the clock of ``Standing.due``.
        first_wait: Seconds before it is tried a second time; each wait is three times the one before.

    Raises:
        OutOfTurn: The event has no place there.
    """
    match standing.state, event:
        case "waiting" | "sending", Begun():
            # Being sent already, it was left by a process that is no more: it begins anew.
            return replace(standing, state="sending")
        case "sending", Handed():
            return replace(standing, state="proving")
        case "proving", Proven():
            return replace(standing, state="arrived", said="", held=False)
        case "proving", Differed(said):
            return _missed(standing, "waiting", said, now, first_wait)
        case "waiting" | "sending" | "proving", Missed(said, lasting):
            if lasting:
                return replace(standing, state="stuck", said=said, held=False)
            # What was handed over and could not be looked at is looked at again, not sent again.
            to: State = "proving" if standing.state == "proving" else "waiting"
            return _missed(standing, to, said, now, first_wait)
        case "waiting" | "sending" | "proving", Held():
            return replace(standing, held=True)
        case "waiting" | "sending" | "proving", Released():
            return replace(standing, held=False)
        case "waiting" | "sending" | "proving" | "stuck", Cancelled():
            return replace(standing, state="cancelled", held=False)
        case "waiting" | "stuck" | "cancelled", Again():
            return Standing(due=now)
    raise OutOfTurn(f"{type(event).__name__} at {standing.state}")


def _missed(standing: Standing, to: State, said: str, now: float, first_wait: float) -> Standing:
    tries = standing.tries + 1
    if tries >= MOST_TRIES:
        return replace(standing, state="stuck", tries=tries, said=said, held=False)
    return replace(standing, state=to, tries=tries, said=said, due=now + first_wait * _FACTOR ** (tries - 1))
