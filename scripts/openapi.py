"""Writes the API's OpenAPI schema to docs/openapi.json, from which the front end's types are generated."""

import json
import os
from pathlib import Path

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "hollowstack.server.config.settings")

import django

TARGET = Path(__file__).resolve().parents[1] / "docs" / "openapi.json"


def schema_text() -> str:
    django.setup()
    from hollowstack.server.api.v1.root import api

    return json.dumps(api.get_openapi_schema(path_prefix="/api/v1/"), indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    TARGET.write_text(schema_text(), encoding="utf-8")
