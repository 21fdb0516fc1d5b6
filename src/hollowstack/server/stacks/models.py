"""Stacks of pages. A page refers to its master and carries decisions; what was computed of it lies under keys."""

from typing import Any

from django.conf import settings
from django.db import models

from hollowstack.server.engine.models import Result


def _wanted(name: str) -> Any:
    """A reference to a result that may not be there yet."""
    return models.ForeignKey(Result, null=True, on_delete=models.DO_NOTHING, db_constraint=False, related_name=name)


class Stack(models.Model):
    """Pages taken in and worked on together."""

    name = models.CharField(max_length=200)
    created_at = models.DateTimeField(auto_now_add=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    treatment = models.JSONField()
    language = models.CharField(max_length=80, default="eng")
    change = models.PositiveBigIntegerField(default=0)
    """Counts every change to the stack and its pages; a page carries the count of its last one."""
    opened_at = models.DateTimeField(null=True)
    """When somebody last looked at it: that stack is worked on first."""
    open_page = models.PositiveBigIntegerField(null=True)
    """The page somebody looks at: that one before the others."""


class Master(models.Model):
    """The bytes of a file as they came, named by their SHA-256."""

    sha256 = models.CharField(max_length=64, primary_key=True)
    bytes = models.PositiveBigIntegerField()
    added_at = models.DateTimeField(auto_now_add=True)


class Source(models.Model):
    """A file in a stack: one master under the name it came with."""

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="sources")
    master = models.ForeignKey(Master, on_delete=models.PROTECT)
    name = models.CharField(max_length=255)
    position = models.PositiveIntegerField()

    class Meta:  # noqa: D106
        constraints = [models.UniqueConstraint(fields=["stack", "position"], name="one_file_a_place")]


class Page(models.Model):
    """One image on its way to one page of a document."""

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="pages")
    source = models.ForeignKey(Source, on_delete=models.CASCADE, related_name="pages")
    frame = models.PositiveIntegerField(default=0)
    position = models.PositiveBigIntegerField()
    override = models.JSONField(default=dict)
    revision = models.PositiveIntegerField(default=1)
    """Raised by every change made by hand; whoever changes a page names the one it saw."""
    plan = models.JSONField(null=True)
    aside = models.CharField(max_length=20, blank=True)
    """Why the page is held out of the output; empty where it is not. Part of the plan, here to be counted."""
    # The results wanted for the page, by key: a row that is not there yet is work still to be done.
    opened = _wanted("pages_opened")
    measured = _wanted("pages_measured")
    rendered = _wanted("pages_rendered")
    reading = _wanted("pages_read")
    change = models.PositiveBigIntegerField(default=0)

    class Meta:  # noqa: D106
        ordering = ["position"]
        constraints = [models.UniqueConstraint(fields=["stack", "position"], name="one_page_a_place")]
        indexes = [models.Index(fields=["stack", "change"])]
