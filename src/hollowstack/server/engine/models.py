"""Results under keys. Only the engine writes here."""

from django.db import models


class Result(models.Model):
    """What a step made: a result with the right key is valid, one without is not there yet."""

    key = models.CharField(max_length=64, primary_key=True)
    step = models.CharField(max_length=10)
    body = models.JSONField(null=True)
    """Null where the step failed."""
    error = models.TextField(blank=True)
    """One sentence for the operator where it failed."""
    made_at = models.DateTimeField(auto_now_add=True)


class Heartbeat(models.Model):
    """The engine's sign of life: one row."""

    beat_at = models.DateTimeField()
    workers = models.PositiveIntegerField(default=0)
    versions = models.CharField(max_length=40, default="", blank=True)
    """Versions of the steps by which the pages were last planned."""
