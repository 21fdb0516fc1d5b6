"""The arrows of the house, and that its front doors open quickly."""

import subprocess
import sys

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
