"""Findings of stacks, by what pages are known among their fellows, and how stacks are sampled and signed for."""

from django.conf import settings
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


class Sample(models.Model):
    """Pages drawn by chance from a lot, gone through to decide on all of it."""

    class State(models.TextChoices):
        """Open while it is gone through; withdrawn where another one was drawn instead."""

        OPEN = "open"
        ACCEPTED = "accepted"
        REJECTED = "rejected"
        WITHDRAWN = "withdrawn"

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="samples")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    first = models.PositiveBigIntegerField(null=True)
    """The page with which the document begins that is the lot; null where that is the whole stack."""
    source = models.CharField(max_length=400)
    """Who captured it, and where."""
    level = models.CharField(max_length=3)
    aql = models.CharField(max_length=4)
    severity = models.CharField(max_length=10)
    letter = models.CharField(max_length=1, blank=True)
    accept = models.PositiveIntegerField()
    reject = models.PositiveIntegerField()
    seed = models.PositiveBigIntegerField()
    """By which it can be drawn again the same."""
    lot = models.JSONField()
    """The pages of the lot in their order: id, and what names its state when the sample was drawn."""
    drawn = models.JSONField()
    """Those that are looked at, by id and in order."""
    everything = models.BooleanField(default=False)
    """Whether all pages are gone through after the lot was not accepted; then none of them may be bad."""
    state = models.CharField(max_length=10, choices=State.choices, default=State.OPEN)
    returned = models.BooleanField(default=False)
    """Whether it went back to the technician with the list of what is bad."""
    decided_at = models.DateTimeField(null=True)
    decided_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:  # noqa: D106
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["stack"], condition=models.Q(state="open"), name="one_open_sample_a_stack")
        ]


class Look(models.Model):
    """What an inspector said of a page of a sample."""

    sample = models.ForeignKey(Sample, on_delete=models.CASCADE, related_name="looks")
    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="looks")
    worst = models.CharField(max_length=8, blank=True)
    """The class of its worst defect; empty where it is good."""
    note = models.CharField(max_length=400, blank=True)
    judged = models.CharField(max_length=64)
    """Names the state of the page that was looked at."""
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:  # noqa: D106
        constraints = [models.UniqueConstraint(fields=["sample", "page"], name="one_look_a_page")]


class Signature(models.Model):
    """That somebody has signed for a stack, with all that was known of it then."""

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="signatures")
    by = models.CharField(max_length=150)
    """Name of whoever signed: it stays when they are gone."""
    at = models.DateTimeField()
    record = models.JSONField()
    reopened_at = models.DateTimeField(null=True)
    reopened_by = models.CharField(max_length=150, blank=True)
    reopened_why = models.CharField(max_length=400, blank=True)

    class Meta:  # noqa: D106
        ordering = ["pk"]
