"""When what is stored was looked after last."""

from django.db import models


class Round(models.Model):
    """One nightly round: one row, the last."""

    ended_at = models.DateTimeField()
    share = models.PositiveIntegerField(default=0)
    """Which part of the files was read."""
    read = models.PositiveBigIntegerField(default=0)
    """How many files that were."""
    damaged = models.PositiveIntegerField(default=0)
    freed = models.PositiveBigIntegerField(default=0)
    """Bytes that nothing wanted any more."""
