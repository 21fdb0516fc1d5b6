"""The rules of stacks and pages, without HTTP. Every change is counted, so that a browser can ask for what is new."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import F, Max
from django.utils import timezone

from hollowstack.core.errors import HollowStackError
from hollowstack.core.measure import Measurements
from hollowstack.core.pipeline import expand_key, measure_key, read_key, render_key
from hollowstack.core.plan import plan_page
from hollowstack.core.treatment import SHIPPED, Override, Treatment
from hollowstack.server.engine.models import Result
from hollowstack.server.stacks.models import Master, Page, Source, Stack

FRAMES_A_FILE = 100_000
"""Positions left for the pages of one file."""
MOST_NAME = 200


class Refused(HollowStackError):
    """What was asked for cannot be done; nothing was changed."""


class Conflict(HollowStackError):
    """Somebody else changed it in the meantime; nothing was changed."""


def create_stack(name: str, user: AbstractBaseUser | None) -> Stack:
    """A new, empty stack with the everyday treatment. Raises Refused without a name."""
    name = " ".join(name.split())
    if not name:
        raise Refused("A stack needs a name: give it one.")
    if len(name) > MOST_NAME:
        raise Refused(f"The name has {len(name)} characters; the most is {MOST_NAME}: shorten it.")
    treatment = SHIPPED["everyday"].model_dump(mode="json", by_alias=True)
    return Stack.objects.create(name=name, created_by=user, treatment=treatment, opened_at=timezone.now())


def add_file(stack_id: int, name: str, position: int, sha256: str, size: int) -> Page:
    """A stored master as the stack's file at a position; its first page stands for it until it is opened.

    Adding the same bytes at the same place again changes nothing. Raises Refused where another file has that place.
    """
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        master, _ = Master.objects.get_or_create(sha256=sha256, defaults={"bytes": size})
        source, new = Source.objects.get_or_create(
            stack=stack, position=position, defaults={"master": master, "name": name[:255] or "without a name"}
        )
        if not new:
            if source.master_id != sha256:
                raise Refused(f"Place {position + 1} of the stack holds “{source.name}” already: add the file at the end.")
            return source.pages.get(frame=0)
        page = Page(stack=stack, source=source, position=position * FRAMES_A_FILE, opened_id=expand_key(sha256))
        page.change = next_change(stack.pk)
        page.save()
        known = Result.objects.filter(key=page.opened_id).first()
        if known and known.body:
            open_source(source, known.body["frames"])
        return page


def next_position(stack_id: int) -> int:
    """The place after the stack's last file."""
    last = Source.objects.filter(stack_id=stack_id).aggregate(last=Max("position"))["last"]
    return 0 if last is None else last + 1


def open_source(source: Source, frames: int) -> None:
    """A file turned out to hold a number of pages: give each its place and let it be measured."""
    change = next_change(source.stack_id)
    first = source.pages.get(frame=0)
    have = set(source.pages.values_list("frame", flat=True))
    Page.objects.bulk_create(
        Page(
            stack_id=source.stack_id,
            source=source,
            frame=frame,
            position=source.position * FRAMES_A_FILE + frame,
            opened_id=first.opened_id,
        )
        for frame in range(min(frames, FRAMES_A_FILE))
        if frame not in have
    )
    if frames > 1:  # every later page of the stack now bears another number
        Page.objects.filter(stack_id=source.stack_id, position__gt=first.position).update(change=change)
    pages = list(source.pages.all())
    found = Result.objects.in_bulk([measure_key(source.master_id, page.frame) for page in pages])
    treatment = treatment_of(source.stack)
    for page in pages:
        page.measured_id = measure_key(source.master_id, page.frame)
        page.change = change
        result = found.get(page.measured_id)
        if result and result.body:
            plan(page, treatment, Measurements.model_validate(result.body["measurements"]))
    Page.objects.bulk_update(pages, ["measured", "change", "plan", "aside", "rendered", "reading"])


def treatment_of(stack: Stack) -> Treatment:
    """The stack's treatment as settings."""
    return Treatment.model_validate(stack.treatment)


def plan(page: Page, treatment: Treatment, found: Measurements) -> None:
    """Decide what is done to a page, and name the results that are wanted for it. Does not save."""
    decided = plan_page(found, treatment, Override.model_validate(page.override))
    page.plan = decided.model_dump(mode="json")
    page.aside = decided.aside or ""
    page.rendered_id = render_key(page.source.master_id, page.frame, decided)
    # A page that is held out is not read: nobody searches it, and reading is the slowest step.
    page.reading_id = None if decided.aside else read_key(page.rendered_id, page.stack.language)


def set_aside(page_id: int, aside: bool | None, *, seen: int) -> Page:
    """Hold a page out of the output (True), keep it in (False), or leave that to the plan (None).

    Raises:
        Page.DoesNotExist: There is no such page.
        Conflict: ``seen`` is not the page's revision.
        Refused: The page has not been measured yet.
    """
    with transaction.atomic():
        page = Page.objects.select_related("stack", "source", "measured").get(pk=page_id)
        if page.measured is None or page.measured.body is None:
            raise Refused("The page has not been measured yet: wait a moment.")
        if not Page.objects.filter(pk=page_id, revision=seen).update(revision=seen + 1):
            raise Conflict("Somebody else has changed this page in the meantime: look at it again.")
        page.revision = seen + 1
        page.override = Override.model_validate({**page.override, "aside": aside}).model_dump(mode="json", exclude_none=True)
        plan(page, treatment_of(page.stack), Measurements.model_validate(page.measured.body["measurements"]))
        page.change = next_change(page.stack_id)
        page.save()
    return page


def look_at(stack_id: int, page_id: int | None) -> None:
    """Note what somebody looks at, so that it is worked on first."""
    Stack.objects.filter(pk=stack_id).update(opened_at=timezone.now(), open_page=page_id)


def next_change(stack_id: int) -> int:
    """Count one more change of a stack, in a transaction; returns its number."""
    Stack.objects.filter(pk=stack_id).update(change=F("change") + 1)
    return Stack.objects.values_list("change", flat=True).get(pk=stack_id)
