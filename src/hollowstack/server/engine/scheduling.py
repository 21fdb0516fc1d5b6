"""What the engine does next: a state machine without threads, clocks or database. Events in, instructions out."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

IN_FLIGHT_A_WORKER = 2
"""One being worked on and one waiting beside it; more would only grow stale when priorities change."""


@dataclass(frozen=True, slots=True)
class Task:
    """One step towards one result. ``arguments`` are those of the step's function."""

    step: str
    key: str
    arguments: tuple[Any, ...] = ()


@dataclass(frozen=True, slots=True)
class Offered:
    """Event: these results are wanted, the most urgent first."""

    tasks: Sequence[Task]


@dataclass(frozen=True, slots=True)
class Settled:
    """Event: a task came back, done, failed or lost."""

    key: str


@dataclass(frozen=True, slots=True)
class Resized:
    """Event: there are so many workers now."""

    workers: int


@dataclass(frozen=True, slots=True)
class Submit:
    """Instruction: hand this task to a worker."""

    task: Task


Event = Offered | Settled | Resized


class Schedule:
    """Keeps at most two tasks a worker in flight, and never one key twice."""

    def __init__(self) -> None:
        self._workers = 0
        self._in_flight: set[str] = set()

    @property
    def workers(self) -> int:
        """How many there are."""
        return self._workers

    @property
    def in_flight(self) -> frozenset[str]:
        """Keys handed out and not yet back."""
        return frozenset(self._in_flight)

    @property
    def room(self) -> int:
        """How many more tasks may be handed out now."""
        return max(0, self._workers * IN_FLIGHT_A_WORKER - len(self._in_flight))

    def handle(self, event: Event) -> list[Submit]:
        """Take note of an event; returns what is to be done about it."""
        match event:
            case Resized(workers):
                self._workers = workers
            case Settled(key):
                self._in_flight.discard(key)
            case Offered(tasks):
                return self._submit(tasks)
        return []

    def _submit(self, tasks: Sequence[Task]) -> list[Submit]:
        instructions = []
        for task in tasks:
            if not self.room:
                break
            if task.key not in self._in_flight:
                self._in_flight.add(task.key)
                instructions.append(Submit(task))
        return instructions
