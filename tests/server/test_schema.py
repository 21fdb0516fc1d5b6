"""What the front end takes for the API is the API."""

import re
import subprocess
from collections import Counter
from pathlib import Path

import pytest

from hollowstack.server.api import v1
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


def test_no_two_shapes_of_the_api_have_one_name():
    """The description knows them by their names alone: the second one would be told as the first."""
    code = "".join(file.read_text() for file in Path(v1.__file__).parent.glob("*.py"))
    names = Counter(re.findall(r"^class ([A-Z]\w*)", code, re.MULTILINE))
    assert [name for name, many in names.items() if many > 1] == []


@pytest.mark.django_db
def test_migrations_are_current():
    from django.core.management import call_command

    call_command("makemigrations", "--check", "--dry-run", verbosity=0)
