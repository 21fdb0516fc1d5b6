"""What the front end takes for the API is the API."""

import subprocess
from pathlib import Path

import pytest

from scripts.openapi import TARGET, schema_text

WEB = Path(__file__).parents[2] / "web"


def test_the_schema_is_current():
    assert TARGET.read_text(encoding="utf-8") == schema_text(), "run `make openapi`"


def test_the_front_ends_types_are_current(tmp_path: Path):
    made = tmp_path / "schema.d.ts"
    script = WEB.parent / "scripts" / "web.sh"
    words = ["bash", str(script), "exec", "--", "openapi-typescript", str(TARGET), "-o", str(made)]
    subprocess.run(words, check=True, capture_output=True)
    assert made.read_text() == (WEB / "src/api/schema.d.ts").read_text(), "run `make openapi`"


@pytest.mark.django_db
def test_migrations_are_current():
    from django.core.management import call_command

    call_command("makemigrations", "--check", "--dry-run", verbosity=0)
