"""The rules of shares: making links, opening them, taking them back."""

from datetime import date, datetime, time, timedelta

from django.contrib.auth.hashers import check_password, make_password
from django.contrib.auth.models import User
from django.core.signing import BadSignature, Signer, TimestampSigner
from django.db import transaction
from django.db.models import F
from django.utils import timezone

from hollowstack.server.accounts.record import note
from hollowstack.server.documents.models import Document
from hollowstack.server.errors import Refused
from hollowstack.server.sharing.models import Share, Use

LASTS = timedelta(hours=12)
"""For so long a link that was opened need not be opened again."""
_MOST_WRONG, _REST = 10, timedelta(hours=1)
"""After so many wrong passwords in a row, no other is looked at for so long."""
_SHORTEST = 8
_LINK = Signer(salt="hollowstack.share", sep=".")
_VISIT = TimestampSigner(salt="hollowstack.share.visit", sep=".")


class Ended(Refused):
    """The link leads nowhere any more; the sentence says why."""


class WrongPassword(Refused):
    """The password is not that of the link."""


def make(
    document: Document, user: User | None, right: Share.Lets, *, last_day: date | None, password: str = "", whom: str = ""
) -> Share:
    """A link to a document.

    Args:
        document: To what.
        user: Who gives it.
        right: What it lets people do.
        last_day: The last day on which it leads there; None for no end.
        password: That is asked for; empty for none.
        whom: For whom it is.

    Raises:
        Refused: The day is over, the password is too short, or there are no words to be put right in it.
    """
    if right == Share.Lets.MEND and document.kind != Document.Kind.ARCHIVE:
        raise Refused("Words are put right in documents for the archive alone: choose one of them, or let people look.")
    if password and len(password) < _SHORTEST:
        raise Refused(f"The password has {len(password)} characters: it needs {_SHORTEST} at least.")
    ends = None
    if last_day is not None:
        if last_day < timezone.localdate():
            raise Refused("The link would have ended already: choose a later day.")
        ends = timezone.make_aware(datetime.combine(last_day + timedelta(days=1), time.min))
    hashed = make_password(password) if password else ""
    share = Share.objects.create(
        document=document, right=right, by=user, whom=" ".join(whom.split()), password=hashed, ends_at=ends
    )
    note(user.get_username() if user else "", "link given", document.title)
    return share


def secret_of(share: Share) -> str:
    """What stands in its link: signed, so that nobody can make one up."""
    return _LINK.sign(str(share.pk))


def withdraw(share_id: int, user: User) -> None:
    """Have a link lead nowhere from now on. Raises Share.DoesNotExist."""
    share = Share.objects.select_related("document").get(pk=share_id)
    if share.withdrawn_at is None:
        share.withdrawn_at = timezone.now()
        share.save(update_fields=["withdrawn_at"])
        note(user.get_username(), "link withdrawn", share.document.title)


def found(secret: str) -> Share:
    """What a link leads to. Raises Share.DoesNotExist where it is none, Ended where it leads nowhere any more."""
    try:
        pk = int(_LINK.unsign(secret))
    except (BadSignature, ValueError):
        raise Share.DoesNotExist from None
    share = Share.objects.select_related("document__stack", "by").get(pk=pk)
    if share.withdrawn_at is not None:
        raise Ended("This link was withdrawn: ask whoever gave it to you.")
    if share.ended:
        raise Ended("This link has ended: ask whoever gave it to you for another.")
    if share.document.deleted_at is not None or share.document.stack.deleted_at is not None:
        raise Ended("The document of this link is no longer here: ask whoever gave it to you.")
    return share


def opened(share: Share, password: str) -> str:
    """Open a link; returns a pass for its pages and its file. Raises WrongPassword."""
    if share.password:
        _prove(share, password)
    Use.objects.create(share=share, what=Use.Done.OPENED)
    return _VISIT.sign(str(share.pk))


def _prove(share: Share, password: str) -> None:
    now = timezone.now()
    if share.wrong >= _MOST_WRONG and share.wrong_at is not None and share.wrong_at + _REST > now:
        raise WrongPassword("There were too many wrong passwords: try again in an hour.")
    if check_password(password, share.password):
        Share.objects.filter(pk=share.pk).update(wrong=0)
        return
    with transaction.atomic():
        Share.objects.filter(pk=share.pk).update(wrong=F("wrong") + 1, wrong_at=now)
    raise WrongPassword("The password is not right: try again." if password else "This link asks for a password.")


def let_in(secret: str, visit: str) -> Share:
    """What a link leads to, for somebody who has opened it. Raises as ``found``, and WrongPassword without a pass of it."""
    share = found(secret)
    try:
        pk = _VISIT.unsign(visit, max_age=LASTS)
    except BadSignature:
        pk = ""
    if pk != str(share.pk):
        raise WrongPassword("Open the link again: it was opened too long ago.")
    return share


def taken(share: Share) -> None:
    """Note that the file is fetched. Raises Refused where the link lets people look alone."""
    if share.right == Share.Lets.LOOK:
        raise Refused("This link is for looking at the pages: ask whoever gave it to you for the file.")
    Use.objects.create(share=share, what=Use.Done.TAKEN)
