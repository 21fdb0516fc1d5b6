"""The record of sign-ins, rights and deletions: lines are only added, and each holds the digest of the one before.

Whoever changes or removes a line breaks the chain; whoever cuts off its end is found out by a digest noted elsewhere.
"""

import hashlib
import json
from datetime import datetime

from django.db import transaction
from django.utils import timezone

from hollowstack.server.accounts.models import Entry


def note(who: str, what: str, about: str = "") -> Entry:
    """Add a line."""
    with transaction.atomic():
        last = Entry.objects.order_by("-pk").values_list("digest", flat=True).first() or ""
        now = timezone.now()
        who, what, about = who[:150], what[:40], about[:300]
        return Entry.objects.create(
            at=now, who=who, what=what, about=about, before=last, digest=_digest(now, who, what, about, last)
        )


def first_broken() -> Entry | None:
    """The first line that is not what was written, or does not follow the one before; None where all are sound."""
    last = ""
    for entry in Entry.objects.order_by("pk").iterator():
        if entry.before != last or entry.digest != _digest(entry.at, entry.who, entry.what, entry.about, entry.before):
            return entry
        last = entry.digest
    return None


def _digest(at: datetime, who: str, what: str, about: str, before: str) -> str:
    return hashlib.sha256(json.dumps([at.isoformat(), who, what, about, before]).encode()).hexdigest()
