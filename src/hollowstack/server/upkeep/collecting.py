"""Removing what nothing wants any more: never a master of a stack that is there, nor of one in the bin."""

import shutil
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import timedelta
from pathlib import Path

from django.conf import settings
from django.db import transaction
from django.db.models import Exists, OuterRef, Q, QuerySet
from django.utils import timezone

from hollowstack.core.run.keys import expand_key, measure_key
from hollowstack.server.documents.forecasting import sampled_keys
from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.reading import gathering
from hollowstack.server.results.models import DOCUMENT_STEPS, Result
from hollowstack.server.search import things
from hollowstack.server.stacks import bin as trash
from hollowstack.server.stacks.models import Change, Master, Page, Source, Upload
from hollowstack.server.storage import places
from hollowstack.server.storage.spools import PREFIX

FRESH = timedelta(days=7)
"""What was made since then is kept though nothing names it, because undoing may name it again."""
_LEFT_OVER = 24 * 3600.0
"""A file that belongs to nothing is left by a process that died, once it is that many seconds old."""
_AT_ONCE = 200


@dataclass
class Freed:
    """What was removed, by kind: how many, and how many bytes."""

    counts: dict[str, int] = field(default_factory=dict)
    sizes: dict[str, int] = field(default_factory=dict)

    def note(self, kind: str, size: int) -> None:
        """One more of a kind."""
        self.counts[kind] = self.counts.get(kind, 0) + 1
        self.sizes[kind] = self.sizes.get(kind, 0) + size

    @property
    def bytes(self) -> int:
        """All of it."""
        return sum(self.sizes.values())


def collect(fresh: timedelta = FRESH) -> Freed:
    """Empty the bin of what has been there too long, and remove results, masters and files that nothing wants.

    Args:
        fresh: What was made since then stays, wanted or not.
    """
    freed = Freed()
    stacks, pages = trash.empty()
    for kind, count in (("stacks of the bin", stacks), ("pages of the bin", pages)):
        if count:
            freed.counts[kind] = count
    gathering.forget_gone()
    _documents()
    things.forget_gone()
    _results(freed, fresh)
    _masters(freed)
    _left_over(freed)
    return freed


def _documents() -> None:
    before = timezone.now() - trash.KEPT
    Document.everything.filter(deleted_at__lt=before).delete()


def wanted_results() -> set[str]:
    """Keys of all results that a page, a former image of one, or a document names."""
    keys: set[str] = set()
    for named in Page.objects.order_by().values_list("opened_id", "measured_id", "rendered_id", "reading_id").iterator():
        keys.update(key for key in named if key)
    masters = dict(Source.objects.values_list("pk", "master_id"))
    keys.update(expand_key(master) for master in masters.values())
    # Images that a page had before it was captured again are still shown with it.
    for change in Change.objects.filter(before__has_key="pages").values_list("before", flat=True).iterator():
        for fields in change["pages"].values():
            if (master := masters.get(fields.get("source_id"))) is not None:
                keys.add(measure_key(master, fields.get("frame", 0)))
    keys.update(Document.everything.values_list("key", flat=True))
    keys.update(sampled_keys())
    for pair in _to_bind().values_list("rendered", "reading").iterator():
        keys.update(key for key in pair if key)
    return keys


def _to_bind() -> QuerySet[DocumentPage]:
    """Pages of documents that are still to be bound."""
    bound = Result.objects.filter(key=OuterRef("document__key"), state=Result.State.MADE)
    return DocumentPage.objects.filter(~Exists(bound)).order_by()


def _results(freed: Freed, fresh: timedelta) -> None:
    old = Result.objects.filter(made_at__lt=timezone.now() - fresh).values_list("key", flat=True)
    unwanted = sorted(set(old) - wanted_results())
    for first in range(0, len(unwanted), _AT_ONCE):
        with transaction.atomic():
            # Asked again with nobody else writing: what has been named meanwhile stays.
            keys = [key for key in unwanted[first : first + _AT_ONCE] if not _is_named(key)]
            steps = dict(Result.objects.filter(key__in=keys).values_list("key", "step"))
            Result.objects.filter(key__in=keys).delete()
        for key, step in steps.items():
            path = places.document_path(key) if step in DOCUMENT_STEPS else _folder(step, key)
            freed.note("results", _remove(path) if path is not None else 0)


def _is_named(key: str) -> bool:
    pages = Page.objects.order_by()
    names = ("opened_id", "measured_id", "rendered_id", "reading_id")
    return (
        any(pages.filter(**{name: key}).exists() for name in names)
        or Document.everything.filter(key=key).exists()
        or _to_bind().filter(Q(rendered=key) | Q(reading=key)).exists()
        or key in sampled_keys()
    )


def _folder(step: str, key: str) -> Path | None:
    return places.result_path(step, key) if step in places.STEPS else None


def _masters(freed: Freed) -> None:
    known = set(Master.objects.values_list("sha256", flat=True))
    unwanted = Master.objects.filter(source=None).values_list("sha256", flat=True)
    stray = (path.name for path in _files("masters") if path.name not in known)
    for sha256 in [*unwanted, *stray]:
        path = places.master_path(sha256)
        if path.exists() and _age(path) < _LEFT_OVER:
            continue  # just come, perhaps, and not yet in its stack
        with transaction.atomic():
            if Source.objects.filter(master_id=sha256).exists():
                continue
            Master.objects.filter(sha256=sha256).delete()
            freed.note("masters", _remove(path))


def _left_over(freed: Freed) -> None:
    """Files of processes that died: parts, spools, pictures of a first look."""
    announced = {f"upload-{pk}.part" for pk in Upload.objects.values_list("pk", flat=True)}
    for path in places.spools().iterdir():
        ours = path.name.startswith((PREFIX, "upload-")) and path.name not in announced
        if ours and _age(path) >= _LEFT_OVER:
            freed.note("left-over files", _remove(path))
    for step in places.STEPS:
        for path in _files(f"results/{step}"):
            orphan = not places.is_digest(path.name) or not Result.objects.filter(key=path.name).exists()
            if orphan and _age(path) >= _LEFT_OVER:
                freed.note("left-over files", _remove(path))
    for path in _files("documents"):
        orphan = not places.is_digest(path.name) or not Document.everything.filter(key=path.name).exists()
        if orphan and _age(path) >= _LEFT_OVER:
            freed.note("left-over files", _remove(path))


def _files(kind: str) -> Iterator[Path]:
    """What lies in the folders of a kind, two letters each."""
    root = Path(settings.DATA) / kind
    for folder in sorted(root.iterdir()) if root.is_dir() else ():
        yield from sorted(folder.iterdir())


def _age(path: Path) -> float:
    return time.time() - path.stat().st_mtime


def _remove(path: Path) -> int:
    """Remove a file or a folder of files; returns how many bytes they had."""
    if path.is_dir():
        size = sum(file.stat().st_size for file in path.iterdir())
        shutil.rmtree(path)
        return size
    if not path.exists():
        return 0
    size = path.stat().st_size
    path.unlink()
    return size
