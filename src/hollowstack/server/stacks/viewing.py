"""What people have before their eyes: that is worked on first."""

from datetime import timedelta

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from hollowstack.server.stacks.models import Page, Stack, Viewing

FRESH = timedelta(minutes=30)
"""For so long somebody is believed to look at what was opened last."""


def look_at(user: User, stack_id: int, page_id: int | None) -> None:
    """Note what somebody looks at. Raises Stack.DoesNotExist, Page.DoesNotExist."""
    now = timezone.now()
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        page = Page.objects.get(pk=page_id, stack=stack) if page_id is not None else None
        Viewing.objects.update_or_create(by=user, stack=stack, defaults={"page": page, "at": now})
        Stack.objects.filter(pk=stack_id).update(opened_at=now)
