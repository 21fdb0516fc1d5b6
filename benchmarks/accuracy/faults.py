"""A stack of 400 pages with faults of every kind set into it: which are told or put right, and what is told without reason."""

import tempfile
from collections import defaultdict
from pathlib import Path
from typing import NamedTuple

from PIL import Image

from benchmarks.accuracy.faulty_stack import KINDS, Leaf, drawn, faulty_stack, turned
from benchmarks.accuracy.truth import Row, in_parallel
from hollowstack.core.check.stack import Fellow, check_stack
from hollowstack.core.page.digest import sha256_of
from hollowstack.core.run.fellows import fellow_of
from hollowstack.core.run.pipeline import process_page
from hollowstack.core.settings.treatment import Treatment

PAGES = 400
TELLS = {
    "cut off": {"cut off", "odd size"},
    "touched": {"border", "cut off", "touched", "content"},
    "streak": {"streak"},
    "focus": {"sharpness"},
    "smear": {"sharpness"},
    "contrast": {"contrast", "grain", "blank"},
    "light": {"even light", "contrast"},
    "object": {"object"},
    "corner": {"corner"},
    "upright": {"orientation"},
    "resolution": {"resolution", "letter size"},
    "twice": {"same image", "recaptured", "sequence"},
    "missing number": {"sequence"},
    "swapped": {"sequence"},
    "odd size": {"odd size"},
    "pale": {"blank"},
}
"""By which checks a fault of each kind is told."""
NEVER_UNSEEN = {"cut off", "upright", "twice", "missing number"}


class Seen(NamedTuple):
    """What came of a page."""

    checks: tuple[str, ...]
    messages: tuple[str, ...]
    aside: bool
    fellow: Fellow | None
    right: bool
    """Whether it stands upright in the end."""
    whole: bool
    """Whether it was cropped to the sheet's own size; else whatever says so is no false alarm."""


def seen(task: tuple[int, Leaf]) -> Seen:
    """Draw a page, and process it as any file."""
    at, leaf = task
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "page.jpg"
        dpi = {} if leaf.says is None else {"dpi": (leaf.says, leaf.says)}
        Image.fromarray(drawn(leaf)).save(path, quality=92, **dpi)
        made = process_page(path, 0, Treatment(), "eng")
        digest = sha256_of(path)
    wanted = (360 - turned(leaf)) % 360
    told = [one for one in made.findings if one.verdict != "pass"]
    fellow = fellow_of(at, digest, made) if made.plan.aside is None else None
    checks, messages = tuple(one.check for one in told), tuple(one.message for one in told)
    return Seen(checks, messages, made.plan.aside is not None, fellow, made.plan.turn == wanted, _cropped(leaf, fellow))


_APART_MM = 6.0
"""A clean page is larger or smaller than its sheet by no more than this."""


def _cropped(leaf: Leaf, fellow: Fellow | None) -> bool:
    if fellow is None or fellow.size_mm is None or leaf.fault:
        return True
    sides = list(zip(sorted(fellow.size_mm), sorted(leaf.size), strict=True))
    # How long a receipt is says what is printed on it.
    known = (
        [(min(fellow.size_mm, key=lambda one: abs(one - leaf.size[0])), leaf.size[0])] if leaf.kind == "receipt" else sides
    )
    return all(abs(one - other) <= _APART_MM for one, other in known)


def judged(seed: int, pages: int, each: int) -> tuple[list[Leaf], list[Seen], dict[int, list[str]]]:
    """The stack, what came of each page, and by which checks each is told, among its fellows too."""
    leaves = faulty_stack(seed, pages, each)
    made = list(in_parallel(seen, enumerate(leaves)))
    told = {at: list(one.checks) for at, one in enumerate(made)}
    kept = [at for at, one in enumerate(made) if one.fellow is not None]
    for at, finding in check_stack([fellow for one in made if (fellow := one.fellow) is not None]):
        told[kept[at]].append(finding.check)
    return leaves, made, told


def rows(seed: int, each: int) -> list[Row]:
    """Recall by kind, false alarms among good pages."""
    leaves, made, told = judged(seed, max(60, PAGES * min(each, 20) // 20), max(1, each // 5))
    caught: dict[str, list[bool]] = defaultdict(list)
    near = {at + by for at, leaf in enumerate(leaves) if leaf.fault for by in (-1, 0, 1)}
    for at, leaf in enumerate(leaves):
        if leaf.fault:
            caught[leaf.fault].append(_is_caught(at, leaves, made, told))
    good = [at for at, leaf in enumerate(leaves) if not leaf.fault and at not in near]
    alarms = [at for at in good if set(told[at]) - _with_reason(at, leaves, made)]
    unlike = [at for at in good if not made[at].whole]
    for at in alarms:
        print(f"         false: page {at + 1} ({leaves[at].kind}): {', '.join(told[at])}")
    everything = [one for kind in KINDS for one in caught[kind]]
    share, false = sum(everything) / max(1, len(everything)), len(alarms) / max(1, len(good))
    lines = [_line(kind, caught[kind]) for kind in KINDS if caught[kind]]
    said = f"{sum(everything)} of {len(everything)} told or put right"
    return [
        *lines,
        Row("faults of all kinds", said, "≥ 95 %", share >= 0.95),
        Row(
            "good pages on which borders are left",
            f"{len(unlike)}, {sum(bool(told[at]) for at in unlike)} of them told",
            "–",
            True,
        ),
        Row("good pages flagged", f"{len(alarms)} of {len(good)} ({100 * false:.1f} %)", "≤ 2 %", false <= 0.02),
    ]


_ON = 5
"""Where numbers were not read, a gap shows on the next page that has one, so many pages on at most."""


def _with_reason(at: int, leaves: list[Leaf], made: list[Seen]) -> set[str]:
    """Checks that tell something true of a page without a fault: a fault before it, or that it was not cropped well."""
    before = {leaf.fault for leaf in leaves[max(0, at - _ON) : at]}
    reasons = {"sequence"} if before & {"missing number", "swapped", "twice"} else set()
    return reasons if made[at].whole else {*reasons, "odd size", "page edges", "content", "border"}


def _is_caught(at: int, leaves: list[Leaf], made: list[Seen], told: dict[int, list[str]]) -> bool:
    leaf = leaves[at]
    if leaf.fault == "upright" and made[at].right:
        return True
    if leaf.fault == "pale" and not made[at].aside:
        return True  # it is kept, as it should be
    # Of two pages that changed places, or of which one is the other again, either may be the one where it shows.
    around = (at - 2, at - 1, at, at + 1) if leaf.fault in {"swapped", "twice"} else (at,)
    if leaf.fault == "missing number":
        around = tuple(range(at, min(at + _ON, len(leaves))))
    return any(set(told.get(place, ())) & TELLS[leaf.fault] for place in around)


def _line(kind: str, caught: list[bool]) -> Row:
    all_of_them = kind in NEVER_UNSEEN
    limit = "all" if all_of_them else "most"
    reached = all(caught) if all_of_them else sum(caught) >= 0.8 * len(caught)
    return Row(f"fault: {kind}", f"{sum(caught)} of {len(caught)}", limit, reached)
