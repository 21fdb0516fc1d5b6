"""Documents bound from stacks."""

from django.conf import settings
from django.db import models

from hollowstack.server.stacks.models import Page, Stack


class Present(models.Manager["Document"]):
    """Documents that have not been thrown into the bin, nor their stacks."""

    def get_queryset(self) -> models.QuerySet["Document"]:
        """Those alone."""
        return super().get_queryset().filter(deleted_at=None, stack__deleted_at=None)


class Document(models.Model):
    """One request to bind a stack as it stood, and where it led. ``everything`` holds those in the bin too."""

    class Kind(models.TextChoices):
        """``ACCESS``: a copy to be looked at, which is no PDF/A; ``EXPORT``: another form than PDF."""

        ARCHIVE = "archive"
        ACCESS = "access"
        EXPORT = "export"

    objects = Present()
    everything = models.Manager["Document"]()

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="documents")
    title = models.CharField(max_length=200)
    created_at = models.DateTimeField()
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    key = models.CharField(max_length=64, db_index=True)
    """Of what it is bound from: the clean pages, their readings, the description."""
    deleted_at = models.DateTimeField(null=True)
    """When it was thrown into the bin."""
    deleted_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    language = models.CharField(max_length=80, blank=True)
    """What most of its pages were read in."""
    page_count = models.PositiveIntegerField(default=0)
    """How many pages it has, here to be listed."""
    original = models.JSONField(default=dict)
    """Where its papers were, and what was to become of them, when it was bound."""

    kind = models.CharField(max_length=10, choices=Kind.choices, default=Kind.ARCHIVE)
    order = models.JSONField(default=dict)
    """How it is made: ``core.run.binding.BindOrder``, ``core.access.AccessOrder`` of an access copy, or
    ``core.export.ExportOrder``; empty of documents of programs that knew no orders."""
    passwords = models.TextField(blank=True)
    """Of an access copy, sealed; empty where it has none."""

    @property
    def step(self) -> str:
        """Which step makes it."""
        return {Document.Kind.ACCESS: "copy", Document.Kind.EXPORT: "export"}.get(Document.Kind(self.kind), "bind")

    def results(self) -> set[str]:
        """The keys of all that it is bound from."""
        named = self.pages.values_list("rendered", "reading")
        return {key for pair in named for key in pair if key}


class Draft(models.Model):
    """What has been said of how a stack's documents are to be made (``drafts.DraftBody``)."""

    stack = models.OneToOneField(Stack, primary_key=True, on_delete=models.CASCADE, related_name="draft")
    body = models.JSONField(default=dict)
    samples = models.JSONField(default=list)
    """Pages by which it is forecast how large the documents are, each with the key of its result and what makes that."""


class DocumentPage(models.Model):
    """A page of a document: what is bound, fixed when it was asked for."""

    document = models.ForeignKey(Document, on_delete=models.CASCADE, related_name="pages")
    number = models.PositiveIntegerField()
    """Its place in the document, from 1."""
    rendered = models.CharField(max_length=64, db_index=True)
    """Key of the clean page."""
    reading = models.CharField(max_length=64, blank=True, db_index=True)
    """Key of its words; empty where it was not read."""
    words = models.JSONField(default=dict)
    """What hands have put right in its text, with what it takes to lay that over the reading; empty where nothing was."""
    x_ppi = models.FloatField()
    y_ppi = models.FloatField()
    page = models.ForeignKey(Page, null=True, on_delete=models.SET_NULL, related_name="+")
    """The page of the stack that it was made of; null where that is gone, and of documents of older programs."""
    master = models.CharField(max_length=64, blank=True)
    """SHA-256 of the file that it was made of; empty of documents of older programs."""
    frame = models.PositiveIntegerField(default=0)
    plan = models.JSONField(null=True)
    """By which it is made, where that is not how the page of the stack is made; null where it is."""
    read_on = models.JSONField(default=dict)
    """Corners and size of the page that was read, of a page with a plan: what is bound may lie otherwise."""
    marks = models.JSONField(default=list)
    """Of an access copy: ``core.access.Mark``, on the clean page."""
    label = models.CharField(max_length=80, blank=True)
    """Its number, where the order of the document does not tell it."""

    class Meta:  # noqa: D106
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["document", "number"], name="one_page_a_number")]


class IdentifierPattern(models.Model):
    """How identifiers are written here (``core.find.identifiers``): those that pages hold are offered for descriptions."""

    pattern = models.CharField(max_length=80, unique=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:  # noqa: D106
        ordering = ["pk"]
