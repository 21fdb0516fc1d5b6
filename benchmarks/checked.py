"""Pages as if the engine had checked them, or it would while something else is measured."""

from hollowstack.server.inspection.models import PageFacts, StackCheck
from hollowstack.server.stacks.models import Page, Stack

_AT_ONCE = 5000


def all_checked() -> None:
    """All pages there are, alone and among their fellows."""
    pages = Page.objects.order_by("pk").values_list("pk", "change")
    PageFacts.objects.bulk_create(
        (PageFacts(page_id=page, checked=change) for page, change in pages.iterator()), batch_size=_AT_ONCE
    )
    stacks = Stack.objects.values_list("pk", "change")
    StackCheck.objects.bulk_create(StackCheck(stack_id=stack, wanted=change, done=change) for stack, change in stacks)
