"""Stations, and what is captured with them."""

from django.conf import settings
from django.db import models

from hollowstack.server.stacks.models import Batch, Stack


class Station(models.Model):
    """A capture device on the network, added by its address or as it was found."""

    name = models.CharField(max_length=80, unique=True)
    place = models.CharField(max_length=80, blank=True)
    """Where it stands, as people say it: "by the window"."""
    uuid = models.CharField(max_length=80, blank=True)
    """By which it is known again at another address; empty where it tells none."""
    address = models.CharField(max_length=200, unique=True)
    capabilities = models.JSONField()
    """As it told them when it was added."""
    paper = models.JSONField(default=dict)
    """How paper goes into each of its sources, by source, where somebody has said or a test sheet has shown it."""
    lid_tones = models.JSONField(default=list)
    """How light its lid was at the last looks at its glass, 0 to 255."""


class QualityCheck(models.Model):
    """How well a station captured, by an image of the quality target that came from it."""

    station = models.ForeignKey(Station, on_delete=models.CASCADE, related_name="quality")
    at = models.DateTimeField()
    """When the image came."""
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    master = models.CharField(max_length=64)
    """SHA-256 of the image."""
    kind = models.CharField(max_length=40)
    """With what it was captured: values of one kind alone are compared, as "glass, 300 ppi"."""
    quality = models.JSONField()

    class Meta:  # noqa: D106
        ordering = ["at", "pk"]
        constraints = [models.UniqueConstraint(fields=["station", "master"], name="one_check_an_image")]


class FoundStation(models.Model):
    """A station that announces itself now, whether it is on the list or not. Only the capture process writes these."""

    service = models.CharField(max_length=255, unique=True)
    name = models.CharField(max_length=80)
    place = models.CharField(max_length=80, blank=True)
    uuid = models.CharField(max_length=80, blank=True)
    address = models.CharField(max_length=200)
    capabilities = models.JSONField(null=True)
    """None where it did not answer."""
    problem = models.CharField(max_length=300, blank=True)
    """Why it cannot be added, and what to do."""

    class Meta:  # noqa: D106
        ordering = ["name", "service"]


class Run(models.Model):
    """One capture: what was asked for, how far it is. The capture process carries it out; everybody else changes states."""

    class State(models.TextChoices):
        """Wanted, pausing, finishing, cancelling are wishes: the capture process turns them into the states that follow."""

        WANTED = "wanted"
        RUNNING = "running"
        PAUSING = "pausing"
        STOPPED = "stopped"
        FINISHING = "finishing"
        CANCELLING = "cancelling"
        CANCELLED = "cancelled"
        DONE = "done"

    OPEN = (State.WANTED, State.RUNNING, State.PAUSING, State.FINISHING, State.CANCELLING)
    """The capture process is at it, or is to be."""
    UNFINISHED = (*OPEN, State.STOPPED)
    """Or it waits for somebody."""

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="runs")
    station = models.ForeignKey(Station, null=True, on_delete=models.SET_NULL)
    batch = models.ForeignKey(Batch, null=True, on_delete=models.SET_NULL)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    settings = models.JSONField()
    started_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)
    state = models.CharField(max_length=12, choices=State.choices, default=State.WANTED)
    problem = models.CharField(max_length=300, blank=True)
    """Why it stopped, and what to do, as one sentence."""
    outcome = models.CharField(max_length=300, blank=True)
    """How it ended, where that was not by itself with all that was laid in."""
    claimed_by = models.CharField(max_length=32, blank=True)
    """The capture process that carries it out, or did last: one that finds another's name there lets go of it."""
    job = models.CharField(max_length=300, blank=True)
    """The job's address at the station while one is under way."""
    received = models.PositiveIntegerField(default=0)
    """Images that are in."""
    before_job = models.PositiveIntegerField(default=0)
    """Images that were in when the job under way began."""
    jobs = models.PositiveIntegerField(default=0)
    seconds = models.FloatField(default=0.0)
    """Jobs that the station has carried out to their end, and how long it was at them: what is learned from."""
    single = models.JSONField(default=list)
    """Of a load of fronts: its sheets, from 0, that have no back."""
    bind_as = models.CharField(max_length=200, blank=True)
    """Title to bind the stack under once all its pages are worked through; empty where nothing follows."""
    send_to = models.JSONField(default=list)
    """Destinations that what is bound is sent to."""

    class Meta:  # noqa: D106
        ordering = ["pk"]


class OrderSlip(models.Model):
    """A saved capture job: one press captures, corrects, reads and binds."""

    name = models.CharField(max_length=80, unique=True)
    station = models.ForeignKey(Station, null=True, on_delete=models.SET_NULL, related_name="slips")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    settings = models.JSONField()
    treatment = models.CharField(max_length=80)
    new_document_after = models.CharField(max_length=20)
    pages_a_document = models.PositiveIntegerField(default=1)
    naming = models.CharField(max_length=400)
    """Name of the stacks and titles of the documents, as a pattern (``core.page.name_patterns``)."""
    send_to = models.JSONField(default=list)
    """Destinations that what is bound is sent to."""
    asks = models.JSONField(default=list)
    """What is asked before the first sheet: "title", or fields of ``core.settings.original``."""
    original = models.JSONField(default=dict)
    """Where the papers are, and what becomes of them, where that is always the same."""
    shared = models.BooleanField(default=True)
    """Whether others see it; whoever made it always does."""
    position = models.PositiveIntegerField(default=0)
    """Its place on the shelf; those of one place go by name."""
    used = models.PositiveIntegerField(default=0)

    class Meta:  # noqa: D106
        ordering = ["position", "name"]


class WaitingSlip(models.Model):
    """A slip that waits at its station for paper, or for the device's key; one at each station."""

    class Seen(models.TextChoices):
        """What was seen in the feeder last: paper that has just come, that something was started for, or once none of it."""

        NOTHING = ""
        PAPER = "paper"
        STARTED = "started"
        LEAVING = "leaving"

    station = models.OneToOneField(Station, on_delete=models.CASCADE, related_name="waiting")
    slip = models.ForeignKey(OrderSlip, on_delete=models.CASCADE, related_name="waiting")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    answers = models.JSONField(default=dict)
    """To what the slip asks: given once, when it was told to wait."""
    seen = models.CharField(max_length=8, choices=Seen.choices, blank=True)
    keys = models.PositiveIntegerField(null=True)
    """How often the device's key had been pressed when it was looked at last; None before the first look."""
    problem = models.CharField(max_length=300, blank=True)
    """Why what was due could not be started."""


class Watch(models.Model):
    """A folder whose files come into a stack as soon as each is complete."""

    stack = models.OneToOneField(Stack, on_delete=models.CASCADE, related_name="watch")
    on = models.BooleanField(default=False)
    batch = models.ForeignKey(Batch, null=True, on_delete=models.SET_NULL)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    taken = models.PositiveIntegerField(default=0)
    """Files that are in."""
    notes = models.JSONField(default=list)
    """The last files that were left out or are waited for: [{"name", "sentence"}]."""
