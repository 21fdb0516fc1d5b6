"""Where documents go, and what became of each that was sent."""

import time
import uuid
from pathlib import PurePosixPath

from django.conf import settings
from django.db import models

from hollowstack.server.dispatch.course import Standing
from hollowstack.server.documents.models import Document


class Destination(models.Model):
    """A place that documents are sent to. One that was taken away stays for its receipts."""

    name = models.CharField(max_length=80)
    place = models.JSONField()
    """Where it is: one of ``places.PLACES``, by its kind."""
    secret = models.TextField(blank=True)
    """A password or key, sealed; empty where there is none."""
    pattern = models.CharField(max_length=300, default="{title}")
    """By which what is sent there is named."""
    clash = models.CharField(max_length=10, default="number")
    """What becomes of a name that is taken there by something else: ``number`` it, or ``ask`` a person."""
    takes = models.JSONField(default=list)
    """Kinds of documents that go there; empty where all do."""
    counter = models.PositiveIntegerField(default=0)
    """How many were named for it."""
    tried_at = models.DateTimeField(null=True)
    tried_said = models.TextField(blank=True)
    """What came of the last try: empty where it was proven."""
    removed_at = models.DateTimeField(null=True)

    class Meta:  # noqa: D106
        ordering = ["name", "pk"]
        constraints = [
            models.UniqueConstraint(fields=["name"], condition=models.Q(removed_at=None), name="one_destination_a_name")
        ]

    @property
    def kind(self) -> str:
        """Of its place."""
        return str(self.place["kind"])


STUCK, LOST = models.Q(state="stuck"), models.Q(state="arrived") & ~models.Q(missing="")
"""Deliveries that wait for a person; such as arrived and are not there, or not whole, any more."""


class Delivery(models.Model):
    """A document on its way to a destination, and afterwards the receipt of it."""

    mark = models.UUIDField(default=uuid.uuid4, unique=True)
    """By which the place can tell that something was sent already: in temporary names, in message IDs."""
    document = models.ForeignKey(Document, null=True, on_delete=models.SET_NULL, related_name="deliveries")
    """Null where it is gone; what was sent is told here."""
    destination = models.ForeignKey(Destination, on_delete=models.PROTECT, related_name="deliveries")
    title = models.CharField(max_length=200)
    stack_name = models.CharField(max_length=200)
    asked_at = models.DateTimeField()
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    pattern = models.CharField(max_length=300)
    number = models.PositiveIntegerField(default=1)
    counter = models.PositiveIntegerField(default=1)
    name = models.TextField(blank=True)
    """Of the file there; empty until it is known."""
    message = models.JSONField(default=dict)
    """Of a mail: to whom, its subject and text, as they were seen before it went."""

    state = models.CharField(max_length=10, default="waiting", db_index=True)
    tries = models.PositiveIntegerField(default=0)
    due = models.FloatField(default=0)
    """Seconds since 1970."""
    held = models.BooleanField(default=False)
    said = models.TextField(blank=True)

    sha256 = models.CharField(max_length=64, blank=True)
    bytes = models.PositiveBigIntegerField(default=0)
    where = models.TextField(blank=True)
    """Its address there."""
    proof = models.CharField(max_length=10, blank=True)
    """How its arrival is known: ``read`` back and compared, or by the server's ``answer``."""
    answer = models.TextField(blank=True)
    """What the other side said when it took it."""
    arrived_at = models.DateTimeField(null=True)
    check_due = models.FloatField(default=0)
    """When it is looked at there again, in seconds since 1970; 0 for never."""
    check_said = models.TextField(blank=True)
    """Why it could not be looked at last time."""
    checked_at = models.DateTimeField(null=True)
    """When it was last looked at there after it had arrived."""
    missing = models.TextField(blank=True)
    """What was wrong with it then; empty where it was there and whole."""

    class Meta:  # noqa: D106
        ordering = ["-pk"]

    @property
    def standing(self) -> Standing:
        """For the state machine."""
        return Standing(self.state, self.tries, self.due, self.held, self.said)  # type: ignore[arg-type]

    def stand(self, standing: Standing) -> None:
        """Take over what the state machine said; not saved yet."""
        self.state, self.tries, self.due = standing.state, standing.tries, standing.due
        self.held, self.said = standing.held, standing.said

    STANDING = ("state", "tries", "due", "held", "said")

    @property
    def is_looked_at(self) -> bool:
        """Whether it is about to be looked at again where it lies."""
        return self.state == "arrived" and 0 < self.check_due <= time.time()

    @property
    def file_name(self) -> str:
        """Without the folders it lies in."""
        return PurePosixPath(self.name).name
