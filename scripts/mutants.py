"""``make mutants``: small changes of meaning set into the code one at a time; how many of them the tests notice.

The tests are run once as they are, to know which of them pass through which line and how long each takes. Then each change
is set into a copy of the project, and the tests that pass through it are run until one fails, for two minutes at most. A
mutant that none notices has survived: a rule that nothing holds. Which ones are taken is settled by a seed.
"""

import argparse
import ast
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from queue import Queue
from typing import NamedTuple

from coverage import CoverageData

ROOT = Path(__file__).parents[1]
SOURCE = Path("src/hollowstack")
AREAS: dict[str, tuple[str, ...]] = {
    "core": (
        "core/measure", "core/imaging", "core/plan", "core/render", "core/check", "core/arrange", "core/bind", "core/ocr",
        "core/decode",
    ),
    "server": ("server/stacks", "server/engine", "server/capture", "server/images", "server/documents", "server/treatments"),
}  # fmt: skip
TESTS = ("tests/core", "tests/reference", "tests/server")
_RECORDED = "tests/core/test_recorded.py"
MOST_SECONDS = 120.0
"""Of tests run for one mutant: what none of those notice has survived, even where one more might have noticed."""
SLOWER = 4.0
"""A mutant that keeps its tests busy for so many times as long as without it, and half a minute, has been noticed: somebody
would wait for it."""
_DURATION = re.compile(r"^([\d.]+)s (?:call|setup|teardown) +(\S.*)$")
FLIPPED = {
    ast.Lt: ast.GtE, ast.LtE: ast.Gt, ast.Gt: ast.LtE, ast.GtE: ast.Lt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
SIGNS = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}


class Mutant(NamedTuple):
    """A change: which file, which node of it in the order of walking, and what is done to that."""

    file: Path
    index: int
    kind: str
    line: int


def candidates(file: Path) -> Iterator[Mutant]:
    """Every change that can be made to a file."""
    tree = ast.parse((ROOT / file).read_text(encoding="utf-8"))
    for index, node in enumerate(ast.walk(tree)):
        line = getattr(node, "lineno", 0)
        if isinstance(node, ast.Compare) and type(node.ops[0]) in FLIPPED:
            yield Mutant(file, index, "comparison", line)
        elif isinstance(node, ast.BoolOp):
            yield Mutant(file, index, "and, or", line)
        elif isinstance(node, ast.BinOp) and type(node.op) in SIGNS and not _is_type(node):
            yield Mutant(file, index, "sign", line)
        elif (
            isinstance(node, ast.If) and not node.orelse and isinstance(node.body[-1], ast.Return | ast.Raise | ast.Continue)
        ):
            yield Mutant(file, index, "guard", line)
        elif _is_constant(node):
            yield Mutant(file, index, "constant", line)


def mutated(mutant: Mutant) -> str:
    """The file with the change made."""
    tree = ast.parse((ROOT / mutant.file).read_text(encoding="utf-8"))
    node = list(ast.walk(tree))[mutant.index]
    if isinstance(node, ast.Compare):
        node.ops[0] = FLIPPED[type(node.ops[0])]()
    elif isinstance(node, ast.BoolOp):
        node.op = ast.Or() if isinstance(node.op, ast.And) else ast.And()
    elif isinstance(node, ast.BinOp):
        node.op = SIGNS[type(node.op)]()
    elif isinstance(node, ast.If):
        node.test = ast.Constant(value=False)
    elif isinstance(node, ast.Assign | ast.AnnAssign) and isinstance(node.value, ast.Constant):
        value = node.value.value
        node.value = ast.Constant(
            value=round(value * 1.2) + (1 if abs(value) < 5 else 0) if isinstance(value, int) else value * 1.2
        )
    return ast.unparse(tree)


def _is_constant(node: ast.AST) -> bool:
    """A number that has a name of its own."""
    if (
        not isinstance(node, ast.Assign)
        or not isinstance(node.value, ast.Constant)
        or not isinstance(node.targets[0], ast.Name)
    ):
        return False
    name, value = node.targets[0].id, node.value.value
    return name.isupper() and isinstance(value, int | float) and not isinstance(value, bool) and not name.endswith("VERSION")


def _is_type(node: ast.BinOp) -> bool:
    return any(isinstance(part, ast.Constant) and isinstance(part.value, str) for part in ast.walk(node))


class Suite:
    """Which tests pass through which lines, and how long each takes."""

    def __init__(self, copy: Path, workers: int, tests: list[str]) -> None:
        """Run every test once, on a copy of the project that has no mutant in it.

        Raises:
            SystemExit: A test fails as it is; nothing can be said of mutants then.
        """
        command = ["-n", str(workers), "--cov=hollowstack", "--cov-context=test", "--cov-report=", "--durations=0", "-vv"]
        done = _pytest(copy, ["--durations-min=0", *command, *tests])
        if done.returncode:
            failed = [line for line in done.stdout.decode().splitlines() if line.startswith(("FAILED", "ERROR"))]
            raise SystemExit("\n".join(["Tests fail without any mutant; mend them first.", *failed]))
        self.seconds: dict[str, float] = {}
        for line in done.stdout.decode().splitlines():
            if found := _DURATION.match(line):
                self.seconds[found[2]] = self.seconds.get(found[2], 0.0) + float(found[1])
        self._data = CoverageData(str(copy / ".coverage"))
        self._data.read()
        self._files = {file.partition("/src/")[2]: file for file in self._data.measured_files()}

    def through(self, mutant: Mutant) -> list[str]:
        """The tests that pass through what a mutant changes: those that name its module, those of figures on record, others;
        quick ones first. Then others of the same files: what a shared fixture has made is seen by tests that do not make it.
        """
        name = str(mutant.file.relative_to("src"))
        if name not in self._files:
            return []
        by_line = self._data.contexts_by_lineno(self._files[name])
        lines = _lines(mutant)
        direct = _tests(context for line in lines for context in by_line.get(line, []))
        direct = direct or _tests(context for contexts in by_line.values() for context in contexts)
        files = {test.partition("::")[0] for test in direct}
        near = {test for test in self.seconds if test.partition("::")[0] in files} - direct
        module = ".".join(mutant.file.relative_to("src").with_suffix("").parts).removesuffix(".__init__")
        naming = {file for file in files if module in (ROOT / file).read_text(encoding="utf-8")}

        def place(test: str) -> tuple[int, float]:
            file = test.partition("::")[0]
            return (0 if file in naming else 1 if file == _RECORDED else 2), self._time(test)

        quick_first = [*sorted(direct, key=place), *sorted(near, key=self._time)]
        total, chosen = 0.0, []
        for test in quick_first:
            total += self._time(test)
            if chosen and total > MOST_SECONDS:
                break
            chosen.append(test)
        return chosen

    def noticed(self, mutant: Mutant, copy: Path) -> bool:
        """Whether a test fails once the change is made."""
        tests = self.through(mutant)
        if not tests:
            return False
        place = copy / mutant.file
        before = place.read_text(encoding="utf-8")
        place.write_text(mutated(mutant), encoding="utf-8")
        try:
            limit = 30 + SLOWER * sum(self._time(test) for test in tests)
            return _pytest(copy, ["-x", "-q", "-p", "no:xdist", "-p", "no:cov", *tests], limit).returncode not in (0, 5)
        except subprocess.TimeoutExpired:
            return True
        finally:
            place.write_text(before, encoding="utf-8")

    def _time(self, test: str) -> float:
        return self.seconds.get(test, 0.0)


def _tests(contexts: Iterator[str]) -> set[str]:
    return {test for context in contexts if (test := context.partition("|")[0])}


def _lines(mutant: Mutant) -> set[int]:
    """Lines at which a mutant makes itself felt: its statement's, or for a constant those that name it."""
    tree = ast.parse((ROOT / mutant.file).read_text(encoding="utf-8"))
    node = list(ast.walk(tree))[mutant.index]
    if mutant.kind == "constant" and isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name):
        name = node.targets[0].id
        return {used.lineno for used in ast.walk(tree) if isinstance(used, ast.Name) and used.id == name} - {mutant.line}
    # Of a condition only the line it begins on: its branches are passed through by other tests too.
    last = (getattr(node, "end_lineno", None) or mutant.line) if isinstance(node, ast.expr) else mutant.line
    return set(range(mutant.line, last + 1))


def _pytest(copy: Path, words: list[str], seconds: float | None = None) -> subprocess.CompletedProcess[bytes]:
    environment = os.environ | {"PYTHONPATH": f"{copy / 'src'}:{copy}", "OPENCV_FOR_THREADS_NUM": "1"}
    command = [sys.executable, "-m", "pytest", "-p", "no:cacheprovider", *words]
    return subprocess.run(command, cwd=copy, env=environment, capture_output=True, timeout=seconds, check=False)


def copied(folder: Path) -> Path:
    """The project with its drawn pages; what is installed for it is used in common."""
    leave = shutil.ignore_patterns(".*", "__pycache__", "node_modules", "var")
    shutil.copytree(ROOT, folder, symlinks=True, ignore=leave)
    shutil.copytree(ROOT / "demo", folder / "demo", dirs_exist_ok=True)
    for name in (".venv", "web/node_modules"):
        (folder / name).symlink_to(ROOT / name)
    return folder


def main() -> None:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=200)
    parser.add_argument("--seed", type=int, default=14)
    parser.add_argument("--workers", type=int, default=2)
    parser.add_argument("--only", default="", help="part of a file's path")
    parser.add_argument("--tests", nargs="*", default=list(TESTS), help="files of tests to be tried")
    words = parser.parse_args()
    chance = random.Random(words.seed)
    chosen: list[tuple[str, Mutant]] = []
    for area, folders in AREAS.items():
        files = [file.relative_to(ROOT) for folder in folders for file in sorted((ROOT / SOURCE / folder).rglob("*.py"))]
        found = [
            one for file in files if "migrations" not in file.parts and words.only in str(file) for one in candidates(file)
        ]
        share = words.count * 2 // 3 if area == "core" else words.count - words.count * 2 // 3
        chosen += [(area, one) for one in chance.sample(found, min(share, len(found)))]
    with tempfile.TemporaryDirectory(prefix="hollowstack-mutants-") as folder:
        suite = Suite(copied(Path(folder) / "whole"), words.workers, words.tests)
        print(f"{len(suite.seconds)} tests pass as they are, in {sum(suite.seconds.values()):.0f} s of one core", flush=True)
        copies: Queue[Path] = Queue()
        for number in range(words.workers):
            copies.put(copied(Path(folder) / str(number)))

        def tried(one: tuple[str, Mutant]) -> bool:
            copy = copies.get()
            try:
                return suite.noticed(one[1], copy)
            finally:
                copies.put(copy)

        counts = {area: [0, 0] for area in AREAS}
        with ThreadPoolExecutor(words.workers) as pool:
            for (area, mutant), was in zip(chosen, pool.map(tried, chosen), strict=True):
                counts[area][0] += was
                counts[area][1] += 1
                print(f"{'noticed ' if was else 'SURVIVED'} {mutant.kind:10} {mutant.file}:{mutant.line}", flush=True)
    for area, (seen, total) in counts.items():
        if total:
            print(f"{area}: {seen} of {total} noticed, {100 * seen / total:.0f} %")


if __name__ == "__main__":
    main()
