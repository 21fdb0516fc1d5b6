"""How much a stack, and a person, may take of the disk; told before it is reached."""

from typing import Literal, NamedTuple

from django.conf import settings
from django.db.models import Q, Sum

from hollowstack.server.errors import OverQuota
from hollowstack.server.stacks.models import Source, Upload

_GB = 1_000_000_000


class Quota(NamedTuple):
    """What is taken of how much, in bytes: by files that are in, taken back ones too, and by those announced."""

    whose: Literal["stack", "person"]
    used: int
    most: int


def quotas_of(stack_id: int, person_id: int | None) -> list[Quota]:
    """The quotas that what comes into a stack by a person counts for; none where none are set."""
    found: list[Quota] = []
    if settings.STACK_GB:
        found.append(Quota("stack", _used(Q(batch__stack=stack_id)), settings.STACK_GB * _GB))
    if settings.PERSON_GB and person_id is not None:
        found.append(Quota("person", _used(Q(batch__by=person_id)), settings.PERSON_GB * _GB))
    return found


def require_quota(stack_id: int, person_id: int | None, more: int) -> None:
    """Raises OverQuota where so many bytes more are more than a stack, or a person, may have."""
    for quota in quotas_of(stack_id, person_id):
        if quota.used + more > quota.most:
            left = max(0, quota.most - quota.used) / _GB
            raise OverQuota(_SENTENCES[quota.whose].format(most=quota.most / _GB, left=left))


_SENTENCES = {
    "stack": "This stack may hold {most:,.0f} GB, and {left:,.2f} GB of that are left: begin another stack.",
    "person": "What you add may come to {most:,.0f} GB, and {left:,.2f} GB are left: ask an administrator for more.",
}


def _used(whose: Q) -> int:
    """A file that is there twice counts twice: what is quick to say is what is also easy to understand."""
    held = Source.objects.filter(whose).aggregate(sum=Sum("master__bytes"))["sum"] or 0
    announced = Upload.objects.filter(whose).aggregate(sum=Sum("bytes"))["sum"] or 0
    return int(held + announced)
