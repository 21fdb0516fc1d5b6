"""After an upgrade: pages that were planned by older versions of the steps are planned by those of today."""

from django.db import transaction

from hollowstack.server.stacks.bulk import save_pages
from hollowstack.server.stacks.models import Stack
from hollowstack.server.stacks.services import PLANNED, next_change, replan, treatment_of

_AT_ONCE = 500
_FIELDS = ("opened_id", "measured_id", "rendered_id", "reading_id", "plan", "aside")


def renew() -> int:
    """Name the results that are wanted today for the pages of every stack; how many pages that changed.

    What was made by the same versions stays; everything else is work still to be done.
    """
    count = 0
    for stack in Stack.objects.all():
        treatment = treatment_of(stack)
        ids = list(stack.pages.values_list("pk", flat=True))
        for first in range(0, len(ids), _AT_ONCE):
            with transaction.atomic():
                chosen = stack.pages.filter(pk__in=ids[first : first + _AT_ONCE])
                pages = list(chosen.select_related("source__batch", "stack"))
                before = [[getattr(page, field) for field in _FIELDS] for page in pages]
                replan(pages, treatment)
                changed = [
                    page
                    for page, was in zip(pages, before, strict=True)
                    if [getattr(page, field) for field in _FIELDS] != was
                ]
                if changed:
                    number = next_change(stack.pk)
                    for page in changed:
                        page.change = number
                    save_pages(changed, [*PLANNED, "change"])
                count += len(changed)
    return count
