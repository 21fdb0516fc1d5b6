"""The rules of binding, without HTTP."""

import hashlib
import json

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from hollowstack.server.documents.models import Document
from hollowstack.server.stacks.models import Stack
from hollowstack.server.stacks.overview import WAITING, state_of, with_results
from hollowstack.server.stacks.services import MOST_NAME, Refused, next_change


def ask_to_bind(stack_id: int, title: str, user: AbstractBaseUser | None) -> Document:
    """Fix what is bound and let the engine bind it.

    Raises:
        Refused: Pages are still being worked on, none is left to bind, or the title will not do.
    """
    title = " ".join(title.split())
    if not title:
        raise Refused("A document needs a title: give it one.")
    if len(title) > MOST_NAME:
        raise Refused(f"The title has {len(title)} characters; the most is {MOST_NAME}: shorten it.")
    with transaction.atomic():
        stack = Stack.objects.get(pk=stack_id)
        pages = list(with_results(stack.pages.filter(removed=False)))
        states = [state_of(page) for page in pages]
        waiting = sum(state in WAITING for state in states)
        if waiting:
            these = "1 page is" if waiting == 1 else f"{waiting} pages are"
            raise Refused(f"{these} still being worked on: wait until the counts above the pages are full.")
        bound = [page for page, state in zip(pages, states, strict=True) if state == "ready"]
        if not bound:
            raise Refused("There is no page to bind: every page is aside or failed.")
        chosen = [{"rendered": p.rendered_id, "reading": p.reading_id, "ppi": p.plan["ppi"]} for p in bound]
        created = timezone.now().replace(microsecond=0)
        made_of = json.dumps([title, stack.language, created.isoformat(), chosen])
        document = Document.objects.create(
            stack=stack,
            title=title,
            created_at=created,
            created_by=user,
            key=hashlib.sha256(made_of.encode()).hexdigest(),
            pages=chosen,
        )
        next_change(stack_id)
    return document
