"""Results under keys. Only the engine writes what was made; anybody may ask for another try."""

from typing import Any

from django.db import models

DOCUMENT_STEPS = frozenset({"bind", "copy", "export"})
"""Those that make a document of many pages: their result is one file, and lies among the documents."""


class Result(models.Model):
    """What a step made of what its key names: once made it is valid, and without a row it is still to be made."""

    class State(models.TextChoices):
        """``WAITING``: it failed by no fault of the page and is tried again at ``next_try_at``."""

        MADE = "made"
        WAITING = "waiting"
        FAILED = "failed"

    class Kind(models.TextChoices):
        """Where a fault lies: in the page, in this program, or in the machine, by what it is short of."""

        PAGE = "page"
        PROGRAM = "program"
        ROOM = "room"
        STORAGE = "storage"
        MEMORY = "memory"
        TIME = "time"
        LOST = "lost"

    key = models.CharField(max_length=64, primary_key=True)
    step = models.CharField(max_length=10)
    state = models.CharField(max_length=10, choices=State.choices, default=State.MADE)
    body = models.JSONField(null=True)
    """What was made; null where nothing was."""
    error = models.TextField(blank=True)
    """One sentence for the operator where nothing was made."""
    kind = models.CharField(max_length=10, choices=Kind.choices, blank=True)
    tries = models.PositiveIntegerField(default=1)
    """How often it was tried in vain, where nothing was made."""
    next_try_at = models.DateTimeField(null=True)
    """When it is tried again; null where that is left to a person."""
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:  # noqa: D106
        indexes = [
            models.Index(fields=["next_try_at"], condition=models.Q(state="waiting"), name="results_to_try_again"),
        ]

    @property
    def made(self) -> dict[str, Any]:
        """What was made. Raises ValueError where nothing was."""
        if self.body is None:
            raise ValueError(f"{self.step} {self.key}: nothing was made")
        return dict(self.body)
