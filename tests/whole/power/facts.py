"""What the program has told somebody, and whether a data folder still holds it. Run as a program it looks at many folders.

Each line that comes in is a folder with facts, each line that goes out what is missing there.
"""

import json
import os
import sys
from pathlib import Path
from typing import Any

Fact = tuple[str, list[Any]]


def main() -> None:
    """Look at one folder after the other."""
    first = json.loads(sys.stdin.readline())
    os.environ["HOLLOWSTACK_DATA"] = first["folder"]
    import django

    django.setup()
    given = first
    while given:
        try:
            found = missing(Path(given["folder"]), given["facts"])
        except Exception as error:  # a folder that cannot even be looked at holds nothing
            found = [repr(error)]
        print(json.dumps(found), flush=True)
        line = sys.stdin.readline()
        given = json.loads(line) if line else None


def missing(folder: Path, facts: list[Fact]) -> list[str]:
    """What was told and is no longer so, and what is damaged."""
    from django.conf import settings
    from django.db import connection

    connection.close()
    settings.DATA = folder
    connection.settings_dict["NAME"] = str(folder / "hollowstack.sqlite3")
    from hollowstack.server.upkeep.verifying import verify

    found = [f"{kind} {values}" for kind, values in facts if not _HOLDS[kind](*values)]
    with connection.cursor() as cursor:
        said = [row[0] for row in cursor.execute("PRAGMA integrity_check").fetchall()]
    found += [f"database: {one}" for one in said if one != "ok"]
    found += [look.damage for look in verify() if look.damage]
    connection.close()
    return found


def _stack(pk: int, *names: str) -> bool:
    from hollowstack.server.stacks.models import Stack

    return Stack.objects.filter(pk=pk, name__in=names).exists()


def _announced(batch: int, index: int, upload: int, received: int) -> bool:
    """An upload with so many bytes at least, or what it became."""
    from hollowstack.server.intake import uploads
    from hollowstack.server.stacks.models import Source, Upload

    row = Upload.objects.filter(pk=upload).first()
    if row is None:
        return Source.objects.filter(batch=batch, index=index).exists()
    return uploads.received(row) >= received


def _taken_in(batch: int, index: int, sha256: str) -> bool:
    from hollowstack.server.stacks.models import Page
    from hollowstack.server.storage.masters import is_sound

    pages = Page.objects.filter(source__batch=batch, source__index=index, source__master=sha256, removed=False)
    return pages.count() == 1 and is_sound(sha256)


def _captured(run: int, count: int) -> bool:
    """So many images are in, or lie whole in their spool."""
    from hollowstack.server.capture.models import Run
    from hollowstack.server.storage.masters import is_sound
    from hollowstack.server.storage.places import spools

    row = Run.objects.get(pk=run)
    sources = list(row.batch.sources.order_by("index").values_list("index", "master")) if row.batch else []
    in_order = [index for index, _ in sources] == list(range(len(sources)))
    spooled = (spools() / f"run-{run}-{len(sources)}").exists()
    return (
        in_order
        and len(sources) == row.received
        and all(is_sound(one) for _, one in sources)
        and (len(sources) + spooled >= count)
    )


def _override(page: int, *values: Any) -> bool:
    from hollowstack.server.stacks.models import Page

    return Page.objects.get(pk=page).override.get("turn", 0) in values


def _bound(document: int, sha256: str) -> bool:
    from hollowstack.core.page.digest import sha256_of
    from hollowstack.server.documents.models import Document
    from hollowstack.server.results.models import Result
    from hollowstack.server.storage.places import document_path

    row = Document.objects.get(pk=document)
    return Result.objects.filter(key=row.key, state="made").exists() and sha256_of(document_path(row.key)) == sha256


_HOLDS = {
    "stack": _stack,
    "announced": _announced,
    "taken in": _taken_in,
    "captured": _captured,
    "turned": _override,
    "bound": _bound,
}

if __name__ == "__main__":
    main()
