"""What of stacks and documents can be found by its name or description."""

from django.db import models

from hollowstack.server.documents.models import Document
from hollowstack.server.stacks.models import Page, Stack


class Thing(models.Model):
    """A stack, a document, or what is said of a document to come. Its words lie in ``search_things``, under its id."""

    class Kind(models.TextChoices):
        """``PLANNED``: described, and not bound yet."""

        STACK = "stack"
        DOCUMENT = "document"
        PLANNED = "planned"

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="things")
    kind = models.CharField(max_length=10, choices=Kind.choices)
    document = models.ForeignKey(Document, null=True, on_delete=models.CASCADE, related_name="+")
    page = models.ForeignKey(Page, null=True, on_delete=models.CASCADE, related_name="+")
    """Which it begins with."""
    title = models.CharField(max_length=200)
    said = models.JSONField(default=list)
    """What else is said of it: pairs of what it is (``identifier``, ``box``) and its words."""
    first_year = models.IntegerField(null=True)
    last_year = models.IntegerField(null=True)


class Indexed(models.Model):
    """Of which change of a stack its things are."""

    stack = models.OneToOneField(Stack, primary_key=True, on_delete=models.CASCADE, related_name="things_of")
    change = models.PositiveBigIntegerField()
