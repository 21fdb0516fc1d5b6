"""Findings of stacks, and by what pages are known among their fellows."""

from django.db import models

from hollowstack.server.stacks.models import Page, Stack


class StackCheck(models.Model):
    """How far the pages of a stack have been seen together, by the stack's count of changes."""

    stack = models.OneToOneField(Stack, on_delete=models.CASCADE, primary_key=True, related_name="checked_together")
    wanted = models.PositiveBigIntegerField(default=0)
    """When a page of it was checked last."""
    done = models.PositiveBigIntegerField(default=0)
    """Up to which count that was looked at."""


class PageFacts(models.Model):
    """What a page is known by among its fellows, so that nobody has to open its results to compare it."""

    page = models.OneToOneField(Page, on_delete=models.CASCADE, primary_key=True, related_name="facts")
    checked = models.PositiveBigIntegerField()
    """The page's count of changes when it was checked last."""
    image = models.CharField(max_length=100, blank=True)
    bits = models.CharField(max_length=128, blank=True)
    sketch = models.CharField(max_length=512, blank=True)
    numbers = models.JSONField(default=list)
    size_mm = models.JSONField(null=True)
    turn = models.PositiveSmallIntegerField(null=True)
    """By which it was made upright; null where nothing tells which way is up, or it has none."""
    asks_turn = models.BooleanField(default=False)
    """Whether nothing tells that, and nobody has said it."""


class Finding(models.Model):
    """Something worth a look."""

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="findings")
    page = models.ForeignKey(Page, null=True, on_delete=models.CASCADE, related_name="findings")
    """Where it shows; null where it concerns the stack."""
    kind = models.CharField(max_length=40)
    """The name of the check (``core.check.kinds``)."""
    verdict = models.CharField(max_length=6)
    value = models.FloatField(null=True)
    limit = models.FloatField(null=True)
    message = models.CharField(max_length=400)
    spot = models.JSONField(null=True)
    """Left, top, width, height in pixels of the image as captured."""
    clean_spot = models.JSONField(null=True)
    """The same on the corrected page, in its pixels."""
    judged = models.CharField(max_length=64)
    """Names what it judges: a verdict stands as long as that is the same."""
    together = models.BooleanField(default=False)
    """Whether it shows only among its fellows."""

    class Meta:  # noqa: D106
        indexes = [models.Index(fields=["stack", "page"], name="findings_of_stacks")]
