"""The engine's sign of life."""

from django.db import models


class Heartbeat(models.Model):
    """The engine's sign of life: one row."""

    beat_at = models.DateTimeField()
    workers = models.PositiveIntegerField(default=0)
    versions = models.CharField(max_length=40, default="", blank=True)
    """Versions of the steps by which the pages were last planned."""
