"""Results whose files are no longer what was written: they are forgotten, and so made again."""

from django.db import transaction
from django.db.models import Exists, OuterRef, Q
from django.utils import timezone

from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.results import faults
from hollowstack.server.results.models import DOCUMENT_STEPS, Result
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.services import next_change
from hollowstack.server.stacks.standing import NAMED
from hollowstack.server.stacks.telling import tell

_CHANGED_SINCE = "A page of this document was damaged on the disk and has been changed since: bind the stack again."


def forget(key: str) -> None:
    """Have a result made again. A document that needs one which nobody makes any more ends, with a sentence."""
    with transaction.atomic():
        step = Result.objects.filter(key=key).values_list("step", flat=True).first()
        Result.objects.filter(key=key).delete()
        if step in NAMED:
            tell([key])
            for_documents = DocumentPage.objects.filter(rendered=key, plan__isnull=False)
            if not Page.objects.filter(**{NAMED[step]: key}, removed=False).exists() and not for_documents.exists():
                _give_up_documents_of({key})
        elif step in DOCUMENT_STEPS:
            _bind_again(key)


def _bind_again(key: str) -> None:
    for document in Document.everything.filter(key=key):
        next_change(document.stack_id)
        wanted = document.results()
        there = Result.objects.filter(key__in=wanted, state=Result.State.MADE).values_list("key", flat=True)
        made_for_it = document.pages.filter(plan__isnull=False).values_list("rendered", flat=True)
        named = Page.objects.filter(removed=False, rendered_id__in=wanted).values_list("rendered_id", "reading_id")
        kept = {*there, *made_for_it, *(one for pair in named for one in pair)}
        _give_up_documents_of(wanted - kept)


def give_up_for(key: str) -> None:
    """Have documents fail for which a page could not be made, for good."""
    failed = Result.objects.filter(key=key, state=Result.State.FAILED).first()
    page = DocumentPage.objects.filter(rendered=key, plan__isnull=False).select_related("document").first()
    if failed is not None and page is not None:
        profile = page.document.order.get(
            "profile", "preservation"
        )  # forms other than PDF know no profile, and lose nothing
        _give_up_documents_of({key}, f"Page {page.number} could not be made as “{profile}”: {failed.error}")


def _give_up_documents_of(keys: set[str], why: str = _CHANGED_SINCE) -> None:
    """Documents not yet bound that hold a page which nobody makes any more."""
    if not keys:
        return
    bound = Result.objects.filter(key=OuterRef("key"), state=Result.State.MADE)
    holding = DocumentPage.objects.filter(Q(rendered__in=keys) | Q(reading__in=keys)).values("document")
    for document in Document.everything.filter(~Exists(bound), pk__in=holding):
        faults.fail(document.key, document.step, Result.Kind.PROGRAM, why, timezone.now())
        next_change(document.stack_id)
