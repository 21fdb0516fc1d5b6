"""What the receipts of a stack's documents say of its papers."""

from django.utils import timezone

from hollowstack.core.settings.original import Original
from hollowstack.core.settings.paper import Fate, Standing, fate_of
from hollowstack.server.dispatch.models import LOST, Delivery
from hollowstack.server.documents.models import Document
from hollowstack.server.stacks.models import Stack


def papers_of(stack: Stack) -> Fate:
    """Whether the papers of a stack may go, and why."""
    documents = Document.objects.filter(stack=stack, kind=Document.Kind.ARCHIVE)
    sent = Delivery.objects.filter(document__in=documents)
    proven = sent.filter(state="arrived", proof="read", missing="").values("document").distinct().count()
    standing = Standing(stack.signed_at is not None, documents.count(), proven, sent.filter(LOST).count())
    return fate_of(Original.model_validate(stack.original), standing, timezone.localdate())
