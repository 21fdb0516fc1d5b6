"""A link to a document, and its uses."""

from django.conf import settings
from django.db import models
from django.utils import timezone

from hollowstack.server.documents.models import Document


class Share(models.Model):
    """A link to a document for people without an account. The link itself is signed, and not kept."""

    class Lets(models.TextChoices):
        """``LOOK``: at its pages; ``TAKE``: the file, too; ``MEND``: put its words and what is said of it right, too."""

        LOOK = "look"
        TAKE = "take"
        MEND = "mend"

    document = models.ForeignKey(Document, on_delete=models.CASCADE, related_name="shares")
    right = models.CharField(max_length=10, choices=Lets.choices)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    whom = models.CharField(max_length=200, blank=True)
    """For whom it is, as its giver says."""
    password = models.CharField(max_length=200, blank=True)
    """Hashed; empty where none is asked for."""
    ends_at = models.DateTimeField(null=True)
    withdrawn_at = models.DateTimeField(null=True)

    @property
    def ended(self) -> bool:
        """Whether it was withdrawn, or its last day is over."""
        return self.withdrawn_at is not None or (self.ends_at is not None and self.ends_at <= timezone.now())

    wrong = models.PositiveIntegerField(default=0)
    """Wrong passwords in a row."""
    wrong_at = models.DateTimeField(null=True)


class Use(models.Model):
    """That somebody used a link."""

    class Done(models.TextChoices):
        """``OPENED``: its pages were shown; ``TAKEN``: the file was fetched; ``MENDED``: something was put right."""

        OPENED = "opened"
        TAKEN = "taken"
        MENDED = "mended"

    share = models.ForeignKey(Share, on_delete=models.CASCADE, related_name="uses")
    at = models.DateTimeField(auto_now_add=True)
    what = models.CharField(max_length=10, choices=Done.choices)

    class Meta:  # noqa: D106
        ordering = ["-pk"]
