"""Every stored file read again: what is damaged, in which stack, and what to do. Results are made again by themselves."""

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from django.db import connection

from hollowstack.core.page.digest import sha256_of
from hollowstack.core.run.steps import READING, THUMB
from hollowstack.server.documents.forgetting import forget
from hollowstack.server.documents.models import Document
from hollowstack.server.images.pictures import view_path
from hollowstack.server.results.models import DOCUMENT_STEPS, Result
from hollowstack.server.stacks.models import Master, Page
from hollowstack.server.stacks.services import say_of_master
from hollowstack.server.storage import masters, places

SHARES = 8
"""In so many nights everything is read once."""
_CHUNK = 500


@dataclass(frozen=True, slots=True)
class Look:
    """One file that was read; ``damage`` says in a sentence what is wrong with it and what to do, or is empty."""

    what: str
    damage: str = ""


def verify(share: int | None = None) -> Iterator[Look]:
    """Read the database, masters, results and documents; what can be made again is forgotten, and so made again.

    Args:
        share: One of ``SHARES`` parts of the files, from 0; None for all of them.
    """
    yield Look("the database", _database())
    yield from (Look(f"master {sha256}", _master(sha256)) for sha256 in _keys(Master, share))
    yield from (Look(f"result {key}", _result(key)) for key in _keys(Result, share))


def _keys(model: type[Master] | type[Result], share: int | None) -> Iterator[str]:
    """All keys in their order, a few at a time, so that no question is long; each is asked for again when its turn comes."""
    last = ""
    while keys := list(model.objects.filter(pk__gt=last).order_by("pk").values_list("pk", flat=True)[:_CHUNK]):
        yield from (key for key in keys if share is None or int(key[-2:], 16) % SHARES == share)
        last = keys[-1]


def _database() -> str:
    with connection.cursor() as cursor:
        said = [row[0] for row in cursor.execute("PRAGMA quick_check").fetchall()]
    if said == ["ok"]:
        return ""
    return f"The database is damaged ({said[0]}): stop the program and put a copy back."


def _master(sha256: str) -> str:
    try:
        sound = masters.is_sound(sha256)
    except OSError as error:
        return f"The file {_where(sha256)} cannot be read ({error.strerror}): check the disk."
    sound = sound or not Master.objects.filter(pk=sha256).exists()
    say_of_master(sha256, damaged=not sound)
    if sound:
        return ""
    return f"The file {_where(sha256)} is damaged: add the same file again to any stack, and it is put right."


def _where(sha256: str) -> str:
    """A master as somebody knows it."""
    pages = Page.objects.filter(source__master_id=sha256, frame=0).select_related("source", "stack").order_by("pk")
    named = [f"“{page.source.name}” in “{page.stack.name}”" for page in pages[:3]]
    return ", ".join(dict.fromkeys(named)) or sha256


def _result(key: str) -> str:
    result = Result.objects.filter(pk=key, state=Result.State.MADE).first()
    if result is None:
        return ""
    try:
        if _is_whole(result):
            return ""
    except OSError as error:
        return f"What was made in the step {result.step} cannot be read ({error.strerror}): check the disk."
    forget(key)
    if result.step in DOCUMENT_STEPS:
        titles = Document.everything.filter(key=key).select_related("stack")
        named = ", ".join(f"“{document.title}” of “{document.stack.name}”" for document in titles)
        return f"The document {named} is damaged: it is bound again if its pages are as they were."
    return f"What was made in the step {result.step} is damaged: it is made again."


def _is_whole(result: Result) -> bool:
    """Whether the files of a result are those that were written."""
    if result.step in DOCUMENT_STEPS:
        return _is(places.document_path(result.key), result.made["sha256"]) if _bound(result.key) else True
    if result.step not in places.STEPS:
        return True
    folder = places.result_path(result.step, result.key)
    if result.step == "measure":
        return (folder / THUMB).exists() and view_path(folder) is not None
    if result.step == "read":
        return _is(folder / READING, result.made.get("sha256"))
    return _is(folder / "image", result.made.get("sha256")) and (folder / THUMB).exists() and view_path(folder) is not None


def _bound(key: str) -> bool:
    return Document.everything.filter(key=key).exists()


def _is(path: Path, sha256: str | None) -> bool:
    """Whether a file is there and has that digest; those of older programs have none."""
    if sha256 is None:
        return path.exists()
    try:
        return sha256_of(path) == sha256
    except FileNotFoundError:
        return False
