"""Words on screen: one word for one thing, in the front end and in what the server says alike.

Each of these was said once, and meant something else elsewhere, or was said in two ways; what is said now stands beside it. The rule is our
own (a review of all screens): invented data and code are not looked at, only what is written to be read.
"""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
NOW = {
    r"[Tt]aken? in\b(?! a)": "added",
    r"As planned": "as the treatment says",
    r"Put (back|behind|first)\b": "back into the stack; put in after; put in first",
    r"[Tt]hrow\b.*\baway": "delete",
    r"broken off": "interrupted",
    r"Leave out": "remove; skip",
    r"[Ww]orked through anew|measured anew": "processed again; try again",
    r"[Kk]eep nothing": "discard this load",
    r"be captured again|[Tt]o capture again": "recapture",
    r"\b[Tt]wo tones\b|\b[Bb]lack and white\b": "bitonal",
    r"undone for good": "cannot be redone",
    r"^(Closer|Further away|Whole|Place|Again|Deal|Over|One|About|What for)$": "zoom in; zoom out; whole page; position; recapture; …",
    r"One pixel to one pixel": "1:1",
    r"^Cut to|^As found$": "crop to; borders as found",
    r"Even the paper": "even out the paper",
    r"Use on\b": "apply to",
    r"[Aa]ll rectos|^Rectos": "odd pages",
    r"as shipped|comes with the program": "supplied",
    r"Bring back|Undo all": "restore; discard changes",
    r"all the same\b": "anyway",
    r"does not answer yet": "processing is paused",
    r"[Ii]nstead of page|behind page": "in place of page; after page",
}
# Printed on paper, or said of the trade's own work where no screen says it.
ELSEWHERE = {"core/bind/separator_sheet.py", "standins", "management/commands"}


def front() -> Iterator[tuple[str, str]]:
    """What the front end writes: strings and text between tags."""
    for file in sorted((ROOT / "web/src").rglob("*.ts*")):
        if ".test." in file.name or file.name == "schema.d.ts":
            continue
        source = re.sub(r"/\*.*?\*/|(?<![:'\"])//[^\n]*", "", file.read_text(), flags=re.S)
        for said in re.findall(
            r"'((?:[^'\\\n]|\\.)*)'|\"((?:[^\"\\\n]|\\.)*)\"|`([^`]*)`|>\s*([A-Z][^<>{}=;]+?)\s*<", source
        ):
            yield f"{file.name}", next(filter(None, said), "")


def back() -> Iterator[tuple[str, str]]:
    """What the server, the core and the command line say: strings, without what is written about the code."""
    for file in sorted((ROOT / "src/hollowstack").rglob("*.py")):
        name = str(file.relative_to(ROOT / "src/hollowstack"))
        if any(part in name for part in ELSEWHERE) or "/migrations/" in name:
            continue
        tree = ast.parse(file.read_text())
        about = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
        for node in ast.walk(tree):
            if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in about:
                yield name, node.value


@pytest.mark.parametrize("said", [front, back])
def test_no_word_of_yesterday_is_said(said):
    found = list(said())
    assert len(found) > 500
    wrong = [f"{name}: “{text}”: now {NOW[word]}" for name, text in found for word in NOW if re.search(word, text)]
    assert not wrong, "\n".join(wrong)


def test_each_word_would_be_found():
    """The list itself: what it forbids is what was said, and what is said now it lets through."""
    yesterday = (
        "Taken in",
        "As planned",
        "Put behind",
        "Throw the slip away",
        "keep nothing",
        "two tones",
        "Deal",
        "Use on …",
    )
    today = (
        "added",
        "As the treatment says",
        "Put in after",
        "Delete the slip",
        "Discard this load",
        "bitonal",
        "Apply to …",
    )
    assert all(any(re.search(word, text) for word in NOW) for text in yesterday)
    assert not [text for text in today if any(re.search(word, text) for word in NOW)]
