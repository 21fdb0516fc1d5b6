"""``make mutants``: small changes of meaning set into the code one at a time; how many of them the tests notice.

Each is set into a copy of the project, and the tests nearest to it are run until one fails. A mutant that none notices has
survived: a rule that nothing holds. Which ones are taken is settled by a seed.
"""

import argparse
import ast
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from queue import Queue
from typing import NamedTuple

ROOT = Path(__file__).parents[1]
SOURCE = Path("src/hollowstack")
AREAS: dict[str, tuple[str, ...]] = {
    "core": (
        "core/measure", "core/imaging", "core/plan", "core/render", "core/check", "core/arrange", "core/bind", "core/ocr",
        "core/decode",
    ),
    "server": ("server/stacks", "server/engine", "server/capture", "server/images", "server/documents", "server/treatments"),
}  # fmt: skip
SECONDS = 420
"""A mutant that keeps its tests busy for so long has been noticed: somebody would wait for it."""
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


def tests_for(mutant: Mutant) -> list[list[str]]:
    """Which tests are run, in turns: those that name the module, then those of its area."""
    module = ".".join(mutant.file.relative_to("src").with_suffix("").parts).removesuffix(".__init__")
    area = mutant.file.relative_to(SOURCE).parts[0]
    near, rest = [], []
    folders = ("tests/core", "tests/reference") if area == "core" else ("tests/server",)
    for folder in folders:
        for test in sorted((ROOT / folder).rglob("test_*.py")):
            text = test.read_text(encoding="utf-8")
            (near if module in text or f"import {module.rsplit('.', 1)[-1]}" in text else rest).append(
                str(test.relative_to(ROOT))
            )
    return [turn for turn in (near, rest) if turn]


def noticed(mutant: Mutant, copy: Path) -> bool:
    """Whether a test fails once the change is made."""
    place = copy / mutant.file
    before = place.read_text(encoding="utf-8")
    place.write_text(mutated(mutant), encoding="utf-8")
    try:
        for tests in tests_for(mutant):
            command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", "-p", "no:xdist", *tests]
            environment = {
                "PYTHONPATH": f"{copy / 'src'}:{copy}",
                "PATH": "/usr/bin:/bin",
                "OPENCV_FOR_THREADS_NUM": "1",
                "HOME": str(copy),
            }
            try:
                done = subprocess.run(command, cwd=copy, env=environment, capture_output=True, timeout=SECONDS, check=False)
            except subprocess.TimeoutExpired:
                return True
            if done.returncode not in (0, 5):
                return True
        return False
    finally:
        place.write_text(before, encoding="utf-8")


def copied(folder: Path) -> Path:
    """The project with its drawn pages, without what is made from it."""
    for name in ("src", "tests", "benchmarks", "demo", "docs"):
        shutil.copytree(ROOT / name, folder / name, symlinks=True, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", folder)
    return folder


def main() -> None:
    """Command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=200)
    parser.add_argument("--seed", type=int, default=14)
    parser.add_argument("--workers", type=int, default=2)
    parser.add_argument("--only", default="", help="part of a file's path")
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
        copies: Queue[Path] = Queue()
        for number in range(words.workers):
            copies.put(copied(Path(folder) / str(number)))

        def tried(one: tuple[str, Mutant]) -> bool:
            copy = copies.get()
            try:
                return noticed(one[1], copy)
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
