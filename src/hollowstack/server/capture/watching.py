"""Watched folders: what is put into one comes into its stack, each file once and only when it is complete.

A file that is in is moved to the folder ``taken``, one that cannot be taken to ``left out``: nothing is ever deleted.
"""

import time
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F
from natsort import os_sorted

from hollowstack.core.decode import count_frames
from hollowstack.core.decode.archive import is_zip
from hollowstack.core.decode.complete import is_complete
from hollowstack.core.page.errors import HollowStackError, WorkerError, is_full
from hollowstack.core.run.worker import PageWorker
from hollowstack.server.capture.models import Watch
from hollowstack.server.errors import OverQuota
from hollowstack.server.intake import archives, batches
from hollowstack.server.intake.quotas import require_quota
from hollowstack.server.stacks.models import Batch, Source, Stack
from hollowstack.server.stacks.services import next_change
from hollowstack.server.storage.spools import Spool, spooled

TAKEN, LEFT_OUT = "taken", "left out"
_STEADY_SECONDS = 1.5
"""A file that has not changed for so long, and ends as its format does, is complete."""
_STUCK_SECONDS = 30.0
"""One that has not changed for so long, and does not, is spoken of."""
_MOST_NOTES = 12
_COUNT_SECONDS = 60.0
"""How long it may take to tell what a file is."""


def folder_of(stack_id: int) -> Path:
    """The folder that is watched for a stack."""
    return Path(settings.INCOMING) / f"stack-{stack_id}"


def switch(stack_id: int, user: User | None, *, on: bool) -> Watch:
    """Watch a stack's folder, or no longer. What was put in while it was off comes in when it is on."""
    stack = Stack.objects.get(pk=stack_id)
    with transaction.atomic():
        watch, _ = Watch.objects.get_or_create(stack=stack)
        if on and not watch.on:
            watch.batch, watch.by, watch.notes = None, user, []
        watch.on = on
        watch.save(update_fields=["on", "batch", "by", "notes"])
        next_change(stack_id)
    if on:
        folder_of(stack_id).mkdir(parents=True, exist_ok=True)
    return watch


class Watcher:
    """Looks into all watched folders; remembers how large each file was, and since when."""

    def __init__(self, steady: float = _STEADY_SECONDS, stuck: float = _STUCK_SECONDS) -> None:
        self._steady, self._stuck = steady, stuck
        self._seen: dict[Path, tuple[tuple[int, int], float]] = {}
        self._begun: dict[Path, int] = {}
        """Places in their batch of files that the disk had no room for: at the same one nothing is doubled."""
        self._worker = PageWorker()

    def close(self) -> None:
        """Stop the process that looks at files."""
        self._worker.close()

    def look(self) -> None:
        """Take in what has become complete; one folder's trouble is not another's."""
        there: set[Path] = set()
        for watch in Watch.objects.filter(on=True, stack__deleted_at=None).select_related("stack", "batch", "by"):
            there |= self._folder(watch)
        self._seen = {path: known for path, known in self._seen.items() if path in there}

    def _folder(self, watch: Watch) -> set[Path]:
        folder = folder_of(watch.stack_id)
        try:
            folder.mkdir(parents=True, exist_ok=True)
            files = [path for path in folder.iterdir() if not path.name.startswith(".")]
        except OSError as error:
            _note(watch, {str(folder): f"The folder cannot be read ({error.strerror}): see that the server may read it."})
            return set()
        waiting: dict[str, str] = {}
        for path in os_sorted(files):
            if path.is_dir():
                if path.name not in {TAKEN, LEFT_OUT}:
                    waiting[path.name] = "This is a folder: put its files beside it, one by one or as a ZIP file."
                continue
            try:
                sentence = self._file(watch, path)
            except OSError as error:
                sentence = f"It cannot be read or moved ({error.strerror}): see that the server may do so."
            if sentence:
                waiting[path.name] = sentence
        _note(watch, waiting)
        return set(files)

    def _file(self, watch: Watch, path: Path) -> str:
        """One file; returns why it is still there, where that is worth saying."""
        state = path.stat()
        size, now = (state.st_size, state.st_mtime_ns), time.monotonic()
        known, since = self._seen.get(path, (None, now))
        if known != size or path.is_symlink():
            self._seen[path] = (size, now)
            return "It is a link: put the file itself here." if path.is_symlink() else ""
        if now - since < self._steady:
            return ""
        if not is_complete(path):
            if now - since < self._stuck:
                return ""
            return "It has stopped growing and is not complete: copy it again, or take it away."
        try:
            self._take_in(watch, path)
        except WorkerError as error:
            return f"{str(error).rstrip('.')}. It is looked at again."
        except OverQuota as error:
            return f"{error} It comes in once there is more."
        except HollowStackError as error:
            _move(path, LEFT_OUT)
            _left_out(watch, path.name, str(error))
        except OSError as error:
            if is_full(error):
                return "There is no room for it on the disk: it comes in once there is."
            return f"It cannot be read or kept ({error.strerror or error}): it comes in once it can."
        self._begun.pop(path, None)
        return ""

    def _take_in(self, watch: Watch, path: Path) -> None:
        require_quota(watch.stack_id, watch.by_id, path.stat().st_size)
        # From a copy on the program's own disk: a share that goes away in the middle is no fault of the file.
        with path.open("rb") as stream, spooled(stream) as spool:
            with spool.path.open("rb") as copy:
                packed = is_zip(copy.read(4))
            if not packed:
                # What is no image or PDF is refused before it is kept, and looked at where it can do no harm.
                self._worker.run(_COUNT_SECONDS, count_frames, spool.path)
            if watch.batch is None:
                watch.batch = batches.open_batch(watch.stack_id, watch.by, record={"watched": True})
                watch.save(update_fields=["batch"])
            # It may be in already: the process died before it could move the file.
            known = Source.objects.filter(batch=watch.batch, name=path.name[:255], master_id=spool.sha256)
            if packed or not known.exists():
                self._add(watch, watch.batch, path, spool)
        _move(path, TAKEN)

    def _add(self, watch: Watch, batch: Batch, path: Path, spool: Spool) -> None:
        indices = batch.sources.values_list("index", flat=True)
        index = self._begun.setdefault(path, 1 + max(indices, default=-1))
        _, left_out = archives.take_in(batch.pk, index, path.name, spool, again=False)
        for sentence in left_out:
            _left_out(watch, path.name, sentence)
        Watch.objects.filter(pk=watch.pk).update(taken=F("taken") + 1)


def _move(path: Path, to: str) -> None:
    """Into a folder beside it, under a name that is free there."""
    folder = path.parent / to
    folder.mkdir(exist_ok=True)
    target, number = folder / path.name, 2
    while target.exists():
        target = folder / f"{path.stem} ({number}){path.suffix}"
        number += 1
    path.rename(target)


def _left_out(watch: Watch, name: str, sentence: str) -> None:
    watch.notes = [*watch.notes, {"name": name, "sentence": sentence, "gone": True}][-_MOST_NOTES:]
    watch.save(update_fields=["notes"])
    next_change(watch.stack_id)


def _note(watch: Watch, waiting: dict[str, str]) -> None:
    """What is still in the folder and why, behind what was left out of it."""
    gone = [note for note in watch.notes if note["gone"]]
    notes = gone + [{"name": name, "sentence": sentence, "gone": False} for name, sentence in waiting.items()]
    if notes[-_MOST_NOTES:] != watch.notes:
        watch.notes = notes[-_MOST_NOTES:]
        watch.save(update_fields=["notes"])
        next_change(watch.stack_id)
