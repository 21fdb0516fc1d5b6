"""The whole demo bound once, and the PDF/A validator held ready."""

import fcntl
import json
import os
import subprocess
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import pytest

from hollowstack.cli import main

CACHE = Path(os.environ.get("XDG_CACHE_HOME", Path.home() / ".cache")) / "hollowstack" / "pdfa-check-1.28.2"


@dataclass(frozen=True)
class Bound:
    """The demo's document and report."""

    pdf: Path
    report: dict[str, Any]

    @property
    def pages(self) -> list[dict[str, Any]]:
        """Entries of the bound pages, in the order of the document."""
        return [page for page in self.report["pages"] if page["status"] == "bound"]


@pytest.fixture(scope="session")
def bound(skerry: Path, tmp_path_factory: pytest.TempPathFactory) -> Bound:
    """Bound once for all processes of the run: the first one does, the others wait for it."""
    base = tmp_path_factory.getbasetemp()
    run = base.parent if "PYTEST_XDIST_WORKER" in os.environ else base
    out = run / "bound"
    with (run / "bound.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (out / "report.json").exists():
            words = ["process", str(skerry), "--out", str(out), "--workers", "2", "--seed-time", "2026-03-01T09:00:00Z"]
            assert main(words) == 1  # one file of the demo is cut short on purpose
    return Bound(out / f"{skerry.name}.pdf", json.loads((out / "report.json").read_text(encoding="utf-8")))


class Validator:
    """The open reference validator for PDF/A, one Java process for all files."""

    def __init__(self, classes: Path) -> None:
        assert (CACHE / ".complete").exists(), "run `make test`, which fetches the validator"
        path = os.pathsep.join([str(CACHE / "*"), str(classes)])
        source = Path(__file__).parent / "pdfa" / "PdfaCheck.java"
        subprocess.run(["javac", "-cp", str(CACHE / "*"), "-d", str(classes), str(source)], check=True)
        self._java = subprocess.Popen(
            ["java", "-cp", path, "PdfaCheck"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True
        )  # fmt: skip

    def __call__(self, pdf: Path, flavour: str = "PDF/A-2u") -> str:
        """``ok``, or what is broken in a file that is to be of a flavour."""
        assert self._java.stdin
        assert self._java.stdout
        self._java.stdin.write(f"{flavour.removeprefix('PDF/A-')} {pdf}\n")
        self._java.stdin.flush()
        for line in self._java.stdout:
            if line.startswith("PDFA "):
                return line.removeprefix("PDFA ").strip()
        return "the validator stopped"

    def close(self) -> None:
        self._java.kill()
        self._java.communicate()


@pytest.fixture(scope="session")
def validator(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Validator]:
    made = Validator(tmp_path_factory.mktemp("classes"))
    yield made
    made.close()
