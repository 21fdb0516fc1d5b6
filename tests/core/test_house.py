"""The arrows of the house, and that its front doors open quickly."""

import re
import subprocess
import sys
from pathlib import Path

import pytest


def modules_after(statement: str) -> set[str]:
    code = f"{statement}; import sys; print(' '.join(sys.modules))"
    return set(subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout.split())


@pytest.mark.parametrize(
    "module", ["hollowstack.core.run.pipeline", "hollowstack.core.run.cli", "hollowstack.core.run.steps"]
)
def test_core_knows_neither_web_nor_scheduler(module):
    loaded = modules_after(f"import {module}")
    assert not loaded & {"django", "ninja", "distributed", "dask", "uvicorn", "hollowstack.server", "hollowstack.standins"}


def test_the_command_does_not_load_the_server_for_its_help():
    assert not modules_after("import hollowstack.cli") & {"django", "distributed", "uvicorn"}


def test_workers_of_a_cluster_need_no_django():
    assert "django" not in modules_after("import hollowstack.server.engine.remote")


def test_nothing_that_was_written_is_ever_run():
    """No eval in either language, and no HTML made of text (OWASP ASVS 5, 1.2.1 and 1.3.2)."""
    root = Path(__file__).parents[2]
    files = [*root.glob("src/**/*.py"), *root.glob("web/src/**/*.ts"), *root.glob("web/src/**/*.tsx")]
    wrong = re.compile(r"\beval\(|(?<!\.)\bexec\(|new Function\(|dangerouslySetInnerHTML|innerHTML|shell=True|os\.system")
    assert len(files) > 300
    assert [file.name for file in files if wrong.search(file.read_text(encoding="utf-8"))] == []
