"""Images that show two facing pages, split by themselves where the fold is sure and the treatment says so, or whoever took
them did."""

from collections.abc import Sequence

from django.contrib.auth.models import User

from hollowstack.core.measure import Measurements
from hollowstack.core.plan.planning import split_overrides
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.stacks import history
from hollowstack.server.stacks.models import Change, Page, Source, Stack
from hollowstack.server.stacks.services import shift_behind, treatment_of


def split_facing(stack_id: int, pages: Sequence[Page], user: User | None = None) -> Change | None:
    """Make two pages of each image with a sure fold, as one change that can be undone; call it in a transaction.

    An image that was split before is left as it is now: whoever made one page of it again meant that.

    Args:
        stack_id: The stack.
        pages: Some of its pages, measured.
        user: Who made this come about; None where the engine did.

    Returns:
        The change; None where no page is to be split.
    """
    stack = Stack.everything.get(pk=stack_id)
    treatment = treatment_of(stack)
    facing = list(pages) if treatment.split_facing else _taken_as_facing(pages)
    if not facing:
        return None
    treatment = treatment.model_copy(update={"split_facing": True})
    chosen = [
        (page, halves) for page in facing if len(halves := _halves(page, treatment)) == 2 and not _was_split(stack, page)
    ]
    if not chosen:
        return None
    fields: dict[int, dict[str, object]] = {}
    # From the last one on, so that making room behind one does not move those that are still to come.
    for page, (left, right) in sorted(chosen, key=lambda one: -one[0].position):
        shift_behind(stack.pk, page.position, 1)
        other = Page.objects.create(
            stack=stack, source=page.source, frame=page.frame, position=page.position + 1, removed=True
        )
        fields[page.pk] = {"override": _kept(left)}
        fields[other.pk] = {"override": _kept(right), "removed": False}
    what = "Split 1 image of facing pages" if len(chosen) == 1 else f"Split {len(chosen):,} images of facing pages"
    stack.refresh_from_db()
    return history.record(stack, user, what, seen=stack.change, pages=fields)


def _taken_as_facing(pages: Sequence[Page]) -> list[Page]:
    sources = {page.source_id for page in pages}
    facing = set(Source.objects.filter(pk__in=sources, batch__record__facing=True).values_list("pk", flat=True))
    return [page for page in pages if page.source_id in facing]


def _halves(page: Page, treatment: Treatment) -> list[Override]:
    body = page.measured.body if page.measured is not None and not page.removed else None
    if body is None or body["measurements"].get("gutter") is None:
        return []
    found = Measurements.model_validate(body["measurements"])
    return split_overrides(found, treatment, Override.model_validate(page.override))


def _was_split(stack: Stack, page: Page) -> bool:
    touching = stack.changes.filter(after__pages__has_key=str(page.pk)).values_list("after", flat=True)
    return any("split" in (after["pages"][str(page.pk)].get("override") or {}) for after in touching)


def _kept(override: Override) -> dict[str, object]:
    return override.model_dump(mode="json", exclude_none=True, exclude_defaults=True)
