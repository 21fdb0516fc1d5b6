"""What is checked of a document, and what comes of it: rules with their clauses, faults in plain sentences."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

from pydantic import BaseModel, ConfigDict

if TYPE_CHECKING:
    from hollowstack.core.bind.conformance.opened import Opened

_MOST_FAULTS = 12
"""Of one rule that are told; a file that breaks a rule two thousand times breaks it."""


class Checked(BaseModel):
    """A clause that was checked; it holds where there are no faults."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    clause: str
    """Of the part of ISO 19005 that the file claims."""
    what: str
    faults: tuple[str, ...] = ()


class Conformance(BaseModel):
    """All that was checked of a file, in the order of the clauses."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    flavour: str
    """What it claims to be, as ``PDF/A-2u``."""
    checked: tuple[Checked, ...]

    @property
    def holds(self) -> bool:
        """Whether no clause is broken."""
        return not self.broken

    @property
    def broken(self) -> tuple[Checked, ...]:
        """The clauses that are."""
        return tuple(one for one in self.checked if one.faults)


@dataclass(frozen=True, slots=True)
class Rule:
    """A check, with its clause in each part of the standard that has it."""

    clauses: Mapping[int, str]
    what: str
    check: "Callable[[Opened], Iterator[str]]"
    levels: str
    """The levels of conformance that it is for; part 4 counts as U."""


RULES: Final[list[Rule]] = []


def rule(
    clauses: Mapping[int, str], what: str, levels: str = "ABU"
) -> "Callable[[Callable[[Opened], Iterator[str]]], Callable[[Opened], Iterator[str]]]":
    """Enter a check into the list of rules.

    Args:
        clauses: By part of ISO 19005; part 3 has those of part 2 unless it is named.
        what: What is checked, in a few words.
        levels: Those that it is for.
    """

    def enter(check: "Callable[[Opened], Iterator[str]]") -> "Callable[[Opened], Iterator[str]]":
        by_part = {**({3: clauses[2]} if 2 in clauses else {}), **clauses}
        RULES.append(Rule(by_part, what, check, levels))
        return check

    return enter


def told(faults: Iterable[str]) -> tuple[str, ...]:
    """Each fault once, the first ones of them."""
    found: dict[str, None] = {}
    for fault in faults:
        found[fault] = None
        if len(found) > _MOST_FAULTS:
            break
    first = list(found)
    return tuple(first if len(first) <= _MOST_FAULTS else [*first[: _MOST_FAULTS - 1], "There is more of this kind."])
