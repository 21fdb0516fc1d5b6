"""Stacks of pages. A page refers to its master and carries decisions; what was computed of it lies under keys."""

from typing import Any

from django.conf import settings
from django.db import models

from hollowstack.core.page.aside import COVER_SHEET
from hollowstack.server.collections.models import Collection
from hollowstack.server.results.models import Result


def _wanted(name: str) -> Any:
    """A reference to a result that may not be there yet."""
    return models.ForeignKey(Result, null=True, on_delete=models.DO_NOTHING, db_constraint=False, related_name=name)


class Present(models.Manager["Stack"]):
    """Stacks that have not been thrown into the bin."""

    def get_queryset(self) -> models.QuerySet["Stack"]:
        """Those alone."""
        return super().get_queryset().filter(deleted_at=None)


class Stack(models.Model):
    """Pages taken in and worked on together. ``objects`` are those that are not in the bin, ``everything`` all."""

    objects = Present()
    everything = models.Manager["Stack"]()

    name = models.CharField(max_length=200)
    collection = models.ForeignKey(Collection, null=True, on_delete=models.PROTECT, related_name="stacks")
    """Where it is filed; null where it is not."""
    created_at = models.DateTimeField(auto_now_add=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    treatment = models.JSONField()
    language = models.CharField(max_length=80, blank=True)
    """What its pages are read in, as eng+deu; empty where its treatment says that."""
    read_later = models.BooleanField(default=False)
    """Whether reading is put off."""
    change = models.PositiveBigIntegerField(default=0)
    """Counts every change to the stack and its pages; a page carries the count of its last one."""
    deleted_at = models.DateTimeField(null=True)
    """When it was thrown into the bin."""
    deleted_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    opened_at = models.DateTimeField(null=True)
    """When somebody last looked at it: that stack is worked on first."""
    order_change = models.PositiveBigIntegerField(default=0)
    """The count when pages last came, went or changed places."""
    arranged = models.PositiveBigIntegerField(default=0)
    """The count when somebody last changed places by hand: whoever does must have seen that one."""
    page_group = models.JSONField(default=dict)
    """The common shape of its rectos and versos, where its treatment makes pages uniform; empty while it is not known."""
    regroup = models.CharField(max_length=10, blank=True)
    """Why the common shape of its pages is to be found anew: some were ``measured`` or ``moved``; empty where it is not."""
    original = models.JSONField(default=dict)
    """Where its papers are, and what becomes of them (``core.settings.original``)."""
    word_list = models.JSONField(default=list)
    """Words of its own, such as names, that are no doubts when they are read."""
    signed_at = models.DateTimeField(null=True)
    """When somebody signed for it; it is closed to changes then. Null where it is open."""
    signed_by = models.CharField(max_length=150, blank=True)
    closed_at = models.DateTimeField(null=True)
    """When somebody put it away, signed for or not; it is closed to changes until it is reopened. Null where nobody has."""
    closed_by = models.CharField(max_length=150, blank=True)


class Master(models.Model):
    """The bytes of a file as they came, named by their SHA-256."""

    sha256 = models.CharField(max_length=64, primary_key=True)
    bytes = models.PositiveBigIntegerField()
    added_at = models.DateTimeField(auto_now_add=True)
    damaged_at = models.DateTimeField(null=True)
    """When its file was found to be no longer what came; null where it is sound, as far as is known."""


class Batch(models.Model):
    """Files or sheets that came into a stack together, and how they were captured."""

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="batches")
    base = models.PositiveBigIntegerField()
    """Position of its first file's first page; each file has room for its pages behind that."""
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)
    taken_back = models.BooleanField(default=False)
    """Undone: what came, or still comes, is out of the stack, and kept."""
    record = models.JSONField(default=dict)
    """With which station and settings it was captured; for files only what they stand in for, as {"instead": page}."""


class Source(models.Model):
    """A file in a stack: one master under the name it came with."""

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="sources")
    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="sources")
    index = models.PositiveIntegerField()
    """Its place in the batch, from 0."""
    part = models.PositiveIntegerField(default=0)
    """Its place in the archive that stood at that place; 0 for a file that came by itself."""
    master = models.ForeignKey(Master, on_delete=models.PROTECT)
    name = models.CharField(max_length=255)
    added_at = models.DateTimeField(auto_now_add=True)
    modified_at = models.DateTimeField(null=True)
    """When the file was last written, as whoever sent it says."""

    class Meta:  # noqa: D106
        constraints = [models.UniqueConstraint(fields=["batch", "index", "part"], name="one_file_a_place")]


class Upload(models.Model):
    """A file announced for a batch, whose bytes come piece by piece; gone when it is in, or left out."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="uploads")
    index = models.PositiveIntegerField()
    name = models.CharField(max_length=255)
    bytes = models.PositiveBigIntegerField()
    modified_at = models.DateTimeField(null=True)
    at_once = models.BooleanField(default=False)
    """Whether it is taken in as soon as it has come whole, because nobody will ask for that."""
    announced_at = models.DateTimeField(auto_now_add=True)

    class Meta:  # noqa: D106
        constraints = [models.UniqueConstraint(fields=["batch", "index"], name="one_upload_a_place")]


class Page(models.Model):
    """One image on its way to one page of a document."""

    class State(models.TextChoices):
        """The step a page waits for, or where it ended."""

        OPEN = "open"
        MEASURE = "measure"
        CORRECT = "correct"
        READ = "read"
        READY = "ready"
        ASIDE = "aside"
        FAILED = "failed"

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="pages")
    source = models.ForeignKey(Source, on_delete=models.CASCADE, related_name="pages")
    frame = models.PositiveIntegerField(default=0)
    position = models.PositiveBigIntegerField()
    """Says which page comes before which, and nothing else."""
    override = models.JSONField(default=dict)
    breaks = models.BooleanField(default=False)
    """Whether a document begins with this page."""
    rescan = models.CharField(max_length=200, blank=True)
    """Why the page is to be captured again; empty where it is not."""
    removed = models.BooleanField(default=False)
    """No longer part of the stack, by a change that can be undone."""
    deleted_at = models.DateTimeField(null=True)
    """When it was thrown into the bin, where that is why it is no longer part of the stack."""
    under_cover = models.BooleanField(default=False)
    """Whether it has been filed by the cover sheet that lay on it: whoever takes that back wants it to stay."""
    plan = models.JSONField(null=True)
    aside = models.CharField(max_length=20, blank=True)
    """Why the page is held out of the output; empty where it is not. Part of the plan, here to be counted."""
    # The results wanted for the page, by key: a row that is not there yet is work still to be done.
    opened = _wanted("pages_opened")
    measured = _wanted("pages_measured")
    rendered = _wanted("pages_rendered")
    reading = _wanted("pages_read")
    language = models.CharField(max_length=80, blank=True)
    """What it is read in; empty where its stack says that."""
    words = models.JSONField(default=dict)
    """What hands have put right in its text: corrections (``core.read.corrections``) by their keys, each with the stack's
    ``count`` of changes when it was made."""
    indexed = models.CharField(max_length=64, blank=True)
    """Key of the reading whose words can be searched and asked for; empty where they are to be gathered anew."""
    open_findings = models.PositiveSmallIntegerField(default=0)
    """How many things on it are worth a look and have no verdict, kept by ``inspection.checking``."""
    to_plan = models.BooleanField(default=False)
    """Whether its plan and the results that it names are of before the last change, and are still to be made anew."""
    # Where it stands, kept by ``standing.settle`` from the results there are.
    state = models.CharField(max_length=10, choices=State.choices, default=State.OPEN)
    passed = models.PositiveSmallIntegerField(default=0)
    """How many steps have been made of it, or have failed for good."""
    change = models.PositiveBigIntegerField(default=0)
    """The stack's count at the page's last change of any kind."""
    edited = models.PositiveBigIntegerField(default=0)
    """The stack's count at the page's last change by hand: whoever changes a page must have seen that one."""

    class Meta:  # noqa: D106
        ordering = ["position", "pk"]
        indexes = [
            models.Index(fields=["stack", "change"]),
            models.Index(fields=["stack", "position"]),
            models.Index(fields=["stack", "removed", "state", "passed"], name="pages_counted"),
            models.Index(
                fields=["stack", "position"],
                condition=models.Q(removed=False, state__in=["open", "measure", "correct", "read"]),
                name="pages_waiting",
            ),
            models.Index(fields=["stack"], condition=models.Q(to_plan=True), name="pages_to_plan"),
            models.Index(fields=["stack"], condition=models.Q(open_findings__gt=0, removed=False), name="pages_to_inspect"),
            models.Index(
                fields=["stack"],
                condition=models.Q(removed=False, state="ready") & ~models.Q(indexed=models.F("reading")),
                name="pages_to_index",
            ),
            models.Index(
                fields=["stack"], condition=models.Q(removed=False, aside=COVER_SHEET), name="pages_that_are_covers"
            ),
            # A search looks up thousands of pages by their ids: here they lie close together, with what filters ask for.
            models.Index(
                fields=["id", "stack", "source"], condition=models.Q(removed=False, aside=""), name="pages_to_be_found"
            ),
        ]


class CoverSheet(models.Model):
    """A page that is the cover sheet of a stack, and what became of the pages behind it in its batch."""

    page = models.OneToOneField(Page, on_delete=models.CASCADE, primary_key=True, related_name="cover_sheet")
    of = models.ForeignKey(Stack, null=True, on_delete=models.SET_NULL, related_name="cover_sheets")
    """Whose it is; null where no stack here has it."""
    filed = models.PositiveIntegerField(default=0)
    """How many pages were filed there."""
    left = models.PositiveIntegerField(default=0)
    """How many stay, because that stack takes none."""
    done = models.BooleanField(default=False)
    """Whether nothing more is to be filed by it."""


class Viewing(models.Model):
    """What somebody has before their eyes: that is worked on first."""

    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="viewings")
    page = models.ForeignKey(Page, null=True, on_delete=models.CASCADE, related_name="viewings")
    at = models.DateTimeField()

    class Meta:  # noqa: D106
        constraints = [models.UniqueConstraint(fields=["by", "stack"], name="one_viewing_a_person")]


class Verdict(models.Model):
    """That somebody has looked at a finding (``inspection.models``) and found it fine as it is."""

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="verdicts")
    page = models.ForeignKey(Page, null=True, on_delete=models.CASCADE, related_name="verdicts")
    kind = models.CharField(max_length=40)
    judged = models.CharField(max_length=64)
    """Names what it judges: it stands as long as that is the same."""
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField()

    class Meta:  # noqa: D106
        constraints = [models.UniqueConstraint(fields=["stack", "page", "kind", "judged"], name="one_verdict_a_finding")]


class Change(models.Model):
    """One thing done by hand to a stack: enough to undo it, to do it again, and to read what was done."""

    class State(models.TextChoices):
        """Dropped: undone, and then something else was done, so that it cannot be done again."""

        DONE = "done"
        UNDONE = "undone"
        DROPPED = "dropped"

    stack = models.ForeignKey(Stack, on_delete=models.CASCADE, related_name="changes")
    what = models.CharField(max_length=200)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)
    state = models.CharField(max_length=10, choices=State.choices, default=State.DONE)
    batch = models.ForeignKey(Batch, null=True, on_delete=models.CASCADE, related_name="changes")
    """The batch that came in by it."""
    nonce = models.CharField(max_length=40, null=True)
    """By which whoever sent it knows it: when it comes again because its answer was lost, it is not done again."""
    turn_nonce = models.CharField(max_length=40, null=True)
    """The nonce under which it was undone or done again last."""
    before = models.JSONField(default=dict)
    """{"pages": {id: {field: value}}, "words": {id: {key: correction}}, "order": [ids], "treatment": {…}}: each may be
    missing."""
    after = models.JSONField(default=dict)

    class Meta:  # noqa: D106
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["stack", "nonce"], name="one_change_a_nonce"),
            models.UniqueConstraint(fields=["stack", "turn_nonce"], name="one_turn_a_nonce"),
        ]
