"""What is gathered of the words of pages, so that nobody has to open readings to count, sort or find them."""

from django.db import models

from hollowstack.server.stacks.models import Page, Stack


class PageWords(models.Model):
    """The words of one page in figures, as its reading and the corrections laid over it have them."""

    page = models.OneToOneField(Page, on_delete=models.CASCADE, primary_key=True, related_name="text")
    words = models.PositiveIntegerField()
    characters = models.PositiveIntegerField()
    errors = models.FloatField()
    """How many of the characters are expected to be wrong."""
    spread = models.FloatField()
    """The standard deviation of that."""
    counts = models.JSONField(default=dict)
    """How often words stand on it that are sure, by the words."""
    lost = models.JSONField(default=list)
    """Keys of corrections that have found no place."""


class IndexedText(models.Model):
    """What of a page is in the index: words as they are compared, packed. It outlives the page until that is taken out."""

    page_id = models.BigIntegerField(primary_key=True)
    packed = models.BinaryField()


class Doubt(models.Model):
    """A doubtful word of a page, as it stands there now."""

    # Without an index of its own, which would be taken in the place of the one that has them in order.
    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="+", db_index=False)
    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="doubts")
    place = models.PositiveIntegerField()
    """Its place among the words of the page, from 0."""
    text = models.CharField(max_length=400)
    plain = models.CharField(max_length=400)
    """The text as the stack's words are kept: small letters, nothing before or behind."""
    doubt = models.FloatField()
    box = models.JSONField()
    """Left, top, right, bottom in pixels of the clean page."""
    alternatives = models.JSONField(default=list)
    known = models.BooleanField(default=False)
    """Whether the stack's own words have it, so that nobody need look at it."""

    class Meta:  # noqa: D106
        indexes = [
            models.Index(
                fields=["stack", "-doubt", "page", "place"], condition=models.Q(known=False), name="doubts_worst_first"
            ),
            models.Index(fields=["stack", "plain"], name="doubts_by_word"),
        ]


class StackWord(models.Model):
    """A word of a stack: how often it stands there for sure, and whether somebody has put it on the stack's list."""

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="+")
    word = models.CharField(max_length=400)
    """Plain: small letters, nothing before or behind."""
    written = models.CharField(max_length=400)
    """As it stood, or was put down, first."""
    count = models.PositiveIntegerField(default=0)
    listed = models.BooleanField(default=False)

    class Meta:  # noqa: D106
        constraints = [models.UniqueConstraint(fields=["stack", "word"], name="one_row_a_word")]
        indexes = [models.Index(fields=["stack", "word"], condition=models.Q(listed=True), name="words_listed")]
