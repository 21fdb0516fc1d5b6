"""Keeping views of the shelf."""

from django.contrib.auth.models import User
from django.db import transaction

from hollowstack.server.errors import Refused
from hollowstack.server.names import checked_name
from hollowstack.server.shelf.models import SavedView

MOST = 40


def views_of(user: User) -> list[SavedView]:
    """What somebody keeps, by name."""
    return list(SavedView.objects.filter(by=user))


def keep(user: User, name: str, asked: str) -> SavedView:
    """Keep a view under a name; one of that name is replaced. Raises Refused without a name, or with too many."""
    name = checked_name(name, "A view")
    with transaction.atomic():
        mine = SavedView.objects.filter(by=user)
        if mine.exclude(name=name).count() >= MOST:
            raise Refused(f"You keep {MOST} views, which is the most: delete one first.")
        view, _ = mine.update_or_create(by=user, name=name, defaults={"asked": asked})
    return view


def forget(user: User, view_id: int) -> None:
    """Keep a view no longer. Raises SavedView.DoesNotExist where it is not theirs."""
    SavedView.objects.get(pk=view_id, by=user).delete()
