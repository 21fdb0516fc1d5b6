"""Images of a run into its stack, each once, whatever dies in between.

An image that has come whole lies in a spool file named by run and number until it is in the database; whoever takes the run
up again first looks there.
"""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import transaction

from hollowstack.core.measure.layout.frames import Frame, bounds, corners
from hollowstack.server.capture.models import Run
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.errors import Conflict, Refused
from hollowstack.server.intake import archives, batches
from hollowstack.server.stacks.models import Batch, Page
from hollowstack.server.stacks.planning import plan_or_mark
from hollowstack.server.storage.spools import shared

_ENDINGS = {"image/jpeg": "jpg", "image/png": "png", "image/tiff": "tif", "application/pdf": "pdf"}


class Receiver:
    """What one capture process does with the images of a run; it counts them in the row of the run that it is given."""

    def __init__(self, run: Run, wish: CaptureSettings) -> None:
        self._run, self._wish = run, wish
        self._claim = run.claimed_by

    @property
    def _batch(self) -> Batch:
        if self._run.batch is None:
            raise Refused("What this capture brought is no longer in the stack: keep what came, and begin another.")
        return self._run.batch

    @property
    def spool(self) -> Path:
        """The file in which the image that comes next is to lie until it is in."""
        folder = Path(settings.DATA) / "uploads"
        folder.mkdir(parents=True, exist_ok=True)
        return folder / f"run-{self._run.pk}-{self._run.received}"

    def take_in(self, media_type: str) -> None:
        """The image in the spool, which has come whole. Raises Conflict where another process has taken the run over."""
        self._take_in(self.spool, _ENDINGS.get(media_type, "img"))

    def recover(self) -> None:
        """An image that had come whole when the process died."""
        if self._run.batch is None:
            return
        spool = self.spool
        for part in spool.parent.glob(f"{spool.name}.*.part"):
            length = int(part.name.split(".")[-2])
            if length and part.stat().st_size == length and not spool.exists():
                part.replace(spool)
            part.unlink(missing_ok=True)
        if spool.exists():
            suffix = {b"\xff\xd8": "jpg", b"\x89P": "png", b"%P": "pdf"}.get(spool.read_bytes()[:2], "tif")
            self._take_in(spool, suffix)

    def drop_half_sheet(self) -> None:
        """The front of a sheet whose back did not come is captured again with it."""
        if self._wish.two_sided and self._run.received % 2:
            batches.drop_file(self._batch.pk, self._run.received - 1)
            self._run.received -= 1
            Run.objects.filter(pk=self._run.pk).update(received=self._run.received)

    def clear(self) -> None:
        """Throw away what has come and is not in."""
        for part in self.spool.parent.glob(f"run-{self._run.pk}-*"):
            part.unlink(missing_ok=True)

    def _take_in(self, spool: Path, suffix: str) -> None:
        """A whole image from the spool into the stack; the same one again changes nothing."""
        index = self._run.received
        with shared(spool) as copy:
            sha256, size, _ = archives.keep(copy)
        name = f"{self._wish.name} {index + 1:03d}.{suffix}"
        with transaction.atomic():
            if self._wish.place == "instead":
                self._replace(name, sha256, size)
            else:
                page = batches.add_file(self._batch.pk, batches.Coming(index, name, sha256, size))
                self._frame(page, index)
            self._advance(index)
        spool.unlink(missing_ok=True)

    def _advance(self, index: int) -> None:
        """Count an image that is in. Raises Conflict where another process has taken the run over: nothing is in then."""
        mine = Run.objects.filter(pk=self._run.pk, claimed_by=self._claim, received=index)
        if not mine.update(received=index + 1):
            raise Conflict("Another process carries this capture out.")
        self._run.received = index + 1

    def _frame(self, page: Page, index: int) -> None:
        """A frame that was turned on the glass is cut out along its own sides; a page is upright as it was seen."""
        if override := self._seen_as(index):
            page.override = override
            plan_or_mark(page.stack, [page], ["override"])

    def _seen_as(self, index: int) -> dict[str, Any]:
        quad = self._quad(index)
        turned = self._wish.turn if self._wish.source == "platen" else 0
        return ({"quad": quad} if quad else {}) | ({"turn": turned} if turned else {})

    def _quad(self, index: int) -> list[tuple[float, float]] | None:
        if self._wish.source != "platen" or not self._wish.frames:
            return None
        frame = Frame(*self._wish.frames[index])
        if not frame.angle:
            return None
        left, top, _, _ = bounds(frame)
        px = self._wish.ppi / 25.4
        left, top = max(0.0, left), max(0.0, top)
        return [(round((x - left) * px, 2), round((y - top) * px, 2)) for x, y in corners(frame)]

    def _replace(self, name: str, sha256: str, size: int) -> None:
        source = batches.add_source(self._batch, batches.Coming(0, name, sha256, size))
        batches.replace_page(self._batch, source, self._wish.page or 0, self._seen_as(0) or None)
