"""Which stacks are on the shelf: filters, orders, and how many there are of each."""

from dataclasses import dataclass
from datetime import date, datetime, time
from typing import Literal, get_args

from django.contrib.auth.models import User
from django.db.models import Count, Exists, Max, OuterRef, Q, QuerySet, Subquery
from django.db.models.functions import Coalesce
from django.utils import timezone

from hollowstack.server.capture.models import Run
from hollowstack.server.collections.models import Collection
from hollowstack.server.collections.tree import natural
from hollowstack.server.dispatch.models import LOST, STUCK, Delivery
from hollowstack.server.documents.models import Document
from hollowstack.server.stacks.models import Change, Page, Stack, Upload, Viewing
from hollowstack.server.stacks.standing import WAITING

At = Literal["everything", "waiting", "inspect", "working", "unbound", "undelivered", "bound", "signed", "closed"]
"""What stacks are at: something in them needs mending, findings wait to be judged, they are worked on, wait to be bound, a
delivery waits for somebody, they are bound, signed for, closed; of those that are closed nobody mends, judges or binds."""
Sort = Literal["opened", "touched", "begun", "name", "pages"]
"""What lies first: what whoever asks opened last, what was last worked on, the newest, A to Z, the most pages."""
STATES: tuple[At, ...] = get_args(At)
SORTS: tuple[Sort, ...] = get_args(Sort)


@dataclass(frozen=True)
class Wish:
    """What somebody wants to see of the shelf; what says nothing leaves all."""

    at: At = "everything"
    named: str = ""
    collection: int | None = None
    """Filed there or anywhere under it; 0 for those that are filed nowhere."""
    by: str = ""
    """Who began it, by the name they sign in with."""
    since: date | None = None
    """Begun on that day or later."""
    sort: Sort = "opened"


def at(state: At) -> QuerySet[Stack]:
    """Stacks by what they are at."""
    pages = Page.objects.filter(stack=OuterRef("pk"), removed=False)
    working = Exists(pages.filter(state__in=WAITING))
    bound = Exists(Document.objects.filter(stack=OuterRef("pk")))
    ready = Exists(pages.filter(state=Page.State.READY))
    stacks = Stack.objects.all()
    open_ = stacks.filter(signed_at=None, closed_at=None)
    match state:
        case "waiting":
            expected = Exists(Upload.objects.filter(batch__stack=OuterRef("pk"), batch__taken_back=False))
            stopped = Exists(Run.objects.filter(stack=OuterRef("pk"), state=Run.State.STOPPED))
            return open_.filter(Exists(pages.filter(state=Page.State.FAILED)) | expected | stopped)
        case "inspect":
            return open_.filter(Exists(pages.filter(open_findings__gt=0, rescan="")))
        case "working":
            return stacks.filter(working)
        case "unbound":
            return open_.filter(ready, ~working, ~bound)
        case "undelivered":
            sent = Delivery.objects.filter(document__stack=OuterRef("pk"), document__deleted_at=None)
            return stacks.filter(Exists(sent.filter(STUCK | LOST)))
        case "bound":
            return stacks.filter(bound)
        case "signed":
            return stacks.exclude(signed_at=None)
        case "closed":
            return stacks.exclude(signed_at=None, closed_at=None)
    return stacks


def under(collection: Collection) -> Q:
    """Stacks that are filed in a collection or anywhere under it."""
    return Q(collection__path__startswith=collection.path)


def stacks_for(wish: Wish) -> QuerySet[Stack]:
    """Stacks that a wish leaves, in no order. Raises Collection.DoesNotExist."""
    stacks = at(wish.at)
    if named := wish.named.strip():
        stacks = stacks.filter(name__icontains=named)
    if wish.collection == 0:
        stacks = stacks.filter(collection=None)
    elif wish.collection is not None:
        stacks = stacks.filter(under(Collection.objects.get(pk=wish.collection)))
    if wish.by:
        stacks = stacks.filter(created_by__username=wish.by)
    if wish.since is not None:
        stacks = stacks.filter(created_at__gte=timezone.make_aware(datetime.combine(wish.since, time.min)))
    return stacks


def in_order(wish: Wish, viewer: User) -> list[int]:
    """The ids of stacks that a wish leaves, in its order. Raises Collection.DoesNotExist."""
    stacks = stacks_for(wish)
    match wish.sort:
        case "name":
            rows = stacks.order_by().values_list("name", "pk")
            return [pk for _, pk in sorted(rows, key=lambda row: (natural(row[0]), row[1]))]
        case "opened":
            mine = Viewing.objects.filter(stack=OuterRef("pk"), by=viewer).values("at")[:1]
            stacks = stacks.annotate(first=Coalesce(Subquery(mine), "created_at"))
        case "touched":
            changes = Change.objects.filter(stack=OuterRef("pk")).order_by().values("stack")
            last = changes.annotate(last=Max("at")).values("last")
            stacks = stacks.annotate(first=Coalesce(Subquery(last), "created_at"))
        case "pages":
            pages = Page.objects.filter(stack=OuterRef("pk"), removed=False).order_by().values("stack")
            stacks = stacks.annotate(first=Coalesce(Subquery(pages.annotate(number=Count("pk")).values("number")), 0))
        case "begun":
            return list(stacks.order_by("-pk").values_list("pk", flat=True))
    return list(stacks.order_by("-first", "-pk").values_list("pk", flat=True))


def counted() -> dict[At, int]:
    """How many stacks there are of each kind."""
    return {state: at(state).count() for state in STATES}


def people() -> list[str]:
    """Who began stacks that are on the shelf, by name."""
    names = Stack.objects.exclude(created_by=None).order_by().values_list("created_by__username", flat=True).distinct()
    return sorted(names, key=str.casefold)
