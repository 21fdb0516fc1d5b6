"""The rules of the tree of collections, without HTTP."""

import re
from collections.abc import Iterable
from typing import NamedTuple

from django.db import transaction
from django.db.models import F, Value
from django.db.models.functions import Concat, Substr

from hollowstack.server.collections.models import Collection
from hollowstack.server.errors import Refused
from hollowstack.server.names import checked_name

MOST_DEEP = 8


class Told(NamedTuple):
    """What is said of a collection."""

    name: str
    level: str = ""
    identifier: str = ""
    parent: int | None = None


class Branch(NamedTuple):
    """A collection where it stands in the tree."""

    collection: Collection
    names: tuple[str, ...]
    """From the top down to its own."""

    @property
    def ids(self) -> list[int]:
        """From the top down to its own."""
        return ids_of(self.collection)


def ids_of(collection: Collection) -> list[int]:
    """The ids from the top of the tree down to a collection."""
    return [int(one) for one in collection.path.strip("/").split("/")]


def natural(name: str) -> list[tuple[bool, int, str]]:
    """By what names are put in order: figures in them count as numbers, so that Box 9 comes before Box 10."""
    parts = re.split(r"(\d+)", name.casefold())
    return [(False, int(part), "") if part.isdecimal() else (True, 0, part) for part in parts if part]


def tree() -> list[Branch]:
    """All collections, each behind the one that it is in, by name."""
    below: dict[int | None, list[Collection]] = {}
    for one in sorted(Collection.objects.all(), key=lambda one: (natural(one.name), one.pk)):
        below.setdefault(one.parent_id, []).append(one)
    return list(_walk(below, None, ()))


def _walk(below: dict[int | None, list[Collection]], parent: int | None, names: tuple[str, ...]) -> Iterable[Branch]:
    for one in below.get(parent, ()):
        yield Branch(one, own := (*names, one.name))
        yield from _walk(below, one.pk, own)


def names_of(collection: Collection | None) -> tuple[str, ...]:
    """The names from the top of the tree down to a collection."""
    if collection is None:
        return ()
    ids = ids_of(collection)
    found = dict(Collection.objects.filter(pk__in=ids).values_list("pk", "name"))
    return tuple(found[pk] for pk in ids)


def create(told: Told) -> Collection:
    """Put a collection into the tree. Raises Refused where it will not do, Collection.DoesNotExist."""
    with transaction.atomic():
        parent = _parent(told.parent)
        one = Collection(parent=parent, name=_named(told), level=told.level, identifier=told.identifier.strip())
        _refuse_twin(one)
        _refuse_deep(parent, 1)
        one.save()
        one.path = f"{parent.path if parent else '/'}{one.pk}/"
        one.save(update_fields=["path"])
    return one


def change(collection_id: int, told: Told) -> Collection:
    """Say a collection anew, and move it with all that is in it. Raises as ``create``, and where it would be in itself."""
    with transaction.atomic():
        one = Collection.objects.get(pk=collection_id)
        parent = _parent(told.parent)
        if parent is not None and parent.path.startswith(one.path):
            raise Refused("A collection cannot be put into itself: choose another place.")
        one.parent, one.name, one.level, one.identifier = (
            parent,
            _named(told),
            told.level,
            told.identifier.strip(),
        )
        _refuse_twin(one)
        under = Collection.objects.filter(path__startswith=one.path)
        levels = max(path.count("/") for path in under.values_list("path", flat=True)) - one.path.count("/") + 1
        _refuse_deep(parent, levels)
        old, new = one.path, f"{parent.path if parent else '/'}{one.pk}/"
        one.save()
        if old != new:
            under.update(path=Concat(Value(new), Substr(F("path"), len(old) + 1)))
            one.path = new
    return one


def remove(collection_id: int) -> None:
    """Take a collection out of the tree; whoever files stacks sees to it that none is in it.

    Raises Refused where others are in it, Collection.DoesNotExist.
    """
    with transaction.atomic():
        one = Collection.objects.get(pk=collection_id)
        if inside := one.parts.count():
            others = (
                "another collection: move or delete it first."
                if inside == 1
                else f"{inside} others: move or delete them first."
            )
            raise Refused(f"{one.name} holds {others}")
        one.delete()


def _named(told: Told) -> str:
    return checked_name(told.name, "A collection")


def _parent(pk: int | None) -> Collection | None:
    return None if pk is None else Collection.objects.get(pk=pk)


def _refuse_twin(one: Collection) -> None:
    beside = Collection.objects.filter(parent=one.parent).exclude(pk=one.pk).values_list("name", flat=True)
    if one.name.casefold() in {name.casefold() for name in beside}:
        raise Refused(f"There is a collection {one.name} in the same place already: give it another name.")


def _refuse_deep(parent: Collection | None, levels: int) -> None:
    above = 0 if parent is None else parent.path.count("/") - 1
    if above + levels > MOST_DEEP:
        raise Refused(f"It would lie {above + levels} levels deep; the most is {MOST_DEEP}.")
