"""What people want of deliveries: to have something sent, held, sent again, given up, looked at again."""

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Annotated, TypeVar

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F, Model, QuerySet
from django.utils import timezone
from pydantic import BaseModel, ConfigDict, StringConstraints

from hollowstack.core.export import FORMS
from hollowstack.core.page.name_patterns import Named, filled_in, named
from hollowstack.core.settings.original import Original
from hollowstack.server.collections import tree
from hollowstack.server.dispatch import course
from hollowstack.server.dispatch.destinations import present
from hollowstack.server.dispatch.models import Delivery, Destination
from hollowstack.server.dispatch.places import Address, Line, MailPlace, place_of
from hollowstack.server.documents.models import Document
from hollowstack.server.documents.texts import first_words
from hollowstack.server.errors import Refused
from hollowstack.server.ids import Id
from hollowstack.server.results.models import Result
from hollowstack.server.sharing import links
from hollowstack.server.sharing.models import Share
from hollowstack.server.stacks.services import next_change

Chosen = TypeVar("Chosen", bound=Model)
_MOST = 2000
"""Deliveries asked for at once."""


class MessageAsked(BaseModel):
    """A mail as it is to go; what is in braces is filled in for each document."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    recipients: tuple[Address, ...]
    subject: Line
    text: Annotated[str, StringConstraints(max_length=4000)]
    link: bool = False
    """Whether a link to the file goes in its place."""


class DispatchAsked(BaseModel):
    """Documents to be sent, and where to."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    documents: tuple[Id, ...]
    destinations: tuple[Id, ...]
    messages: dict[Id, MessageAsked] = {}
    """Of destinations that are mail: by their number; the destination's own where none is given."""


def dispatch(asked: DispatchAsked, user: User | None, root: str = "") -> list[Delivery]:
    """Have documents sent to destinations, all in one step; the delivery process does it.

    Documents that are still being bound go as soon as they are. What a destination does not take is not sent there.
    ``root`` is where this program is reached, for links that go by mail.

    Raises:
        Refused: Nothing would be sent, or something that is named is not there.
    """
    documents = _chosen(Document.objects.select_related("stack"), asked.documents, "document")
    destinations = _chosen(present(), asked.destinations, "destination")
    pairs = [(to, of) for to in destinations for of in documents if takes(to, of)]
    if not pairs:
        raise Refused("None of the destinations takes what was chosen: choose other documents, or other destinations.")
    if len(pairs) > _MOST:
        raise Refused(f"These are {len(pairs)} deliveries; {_MOST} can be asked for at once: choose fewer documents.")
    messages = {to.pk: _message(to, asked.messages.get(to.pk)) for to in destinations}
    numbers = {document.pk: at for at, document in enumerate(documents, 1)}
    now = timezone.now()
    with transaction.atomic():
        made = []
        for to, of in pairs:
            Destination.objects.filter(pk=to.pk).update(counter=F("counter") + 1)
            to.refresh_from_db(fields=["counter"])
            delivery = Delivery(
                document=of, destination=to, title=of.title, stack_name=of.stack.name, asked_at=now, asked_by=user,
                pattern=to.pattern, number=numbers[of.pk], counter=to.counter, due=now.timestamp(),
            )  # fmt: skip
            delivery.name = name_of(delivery, of)
            if (message := messages[to.pk]) is not None:
                mail = written(message, of, delivery.number, delivery.counter)
                if mail.link:
                    mail = mail.model_copy(update={"text": f"{mail.text}\n\n{_link_to(of, user, mail.recipients, root)}"})
                delivery.message = mail.model_dump(mode="json")
            delivery.save()
            made.append(delivery)
        for stack_id in {one.stack_id for one in documents}:
            next_change(stack_id)
    return made


def takes(destination: Destination, document: Document) -> bool:
    """Whether documents of its kind go there."""
    return not destination.takes or document.kind in destination.takes


def names_of(pattern: str, documents: Sequence[Document], counter: int) -> list[str]:
    """The names that documents would have by a pattern. Raises PatternError."""
    return [named(pattern, _known(of, at, counter + at), suffix_of(of)) for at, of in enumerate(documents, 1)]


def name_of(delivery: Delivery, document: Document) -> str:
    """The name of a file where it goes, by the pattern that was in force when it was asked for."""
    return named(delivery.pattern, _known(document, delivery.number, delivery.counter), suffix_of(document))


def suffix_of(document: Document) -> str:
    """Of its file, with the dot."""
    return FORMS[document.order["form"]].suffix if document.kind == Document.Kind.EXPORT else ".pdf"


def _known(document: Document, number: int, counter: int) -> Named:
    said = document.order.get("described", {})
    filed = tree.names_of(document.stack.collection)
    where = Original.model_validate(document.original)
    return Named(
        box=where.box, shelf=where.shelf, position=where.position, first_words=lambda: first_words(document),
        title=document.title, stack=document.stack.name, created=timezone.localtime(document.created_at), number=number,
        counter=counter, pages=document.page_count, identifier=str(said.get("identifier", "")),
        creator=", ".join(said.get("creators", [])),
        date=str(said.get("date", "")), collection=filed[-1] if filed else "", fonds=filed[0] if filed else "",
    )  # fmt: skip


def own_message(to: Destination) -> MessageAsked | None:
    """The mail that a destination sends where nothing else is said; None where it is none."""
    place = place_of(to.place)
    if not isinstance(place, MailPlace):
        return None
    return MessageAsked(recipients=place.recipients, subject=place.subject, text=place.text)


def _message(to: Destination, asked: MessageAsked | None) -> MessageAsked | None:
    own = own_message(to)
    if own is None:
        return None
    if not (message := asked or own).recipients:
        raise Refused(f"{to.name} has nobody to send to: name somebody.")
    return message


def written(message: MessageAsked, document: Document, number: int, counter: int) -> MessageAsked:
    """A mail as it goes with a document: what is in braces is filled in."""
    of = _known(document, number, counter)
    return message.model_copy(update={"subject": filled_in(message.subject, of), "text": filled_in(message.text, of)})


LINK_DAYS = 30
"""For so long a link that went by mail leads to its document."""


def _link_to(document: Document, user: User | None, recipients: Sequence[str], root: str) -> str:
    """A link for people to whom a document is sent, and until when it leads there."""
    last = timezone.localdate() + timedelta(days=LINK_DAYS)
    share = links.make(document, user, Share.Lets.TAKE, last_day=last, whom=", ".join(recipients)[:200])
    return f"{root.rstrip('/')}/shared/{links.secret_of(share)}\n{link_words(last)}"


def link_words(last: date) -> str:
    """What stands below a link in a mail."""
    return f"The link leads to the file until {last.day} {last:%B %Y}."


def steer(delivery_id: int, event: course.Event) -> Delivery:
    """Hold a delivery, let it go on, give it up, or try it again. Raises Refused where it has no place."""
    with transaction.atomic():
        delivery = Delivery.objects.select_for_update().get(pk=delivery_id)
        if isinstance(event, course.Again) and delivery.document is None:
            raise Refused("The document is gone: bind it again, and send that.")
        tell(delivery, event)
    return delivery


def tell(delivery: Delivery, event: course.Event, **also: object) -> None:
    """Have the state machine say how a delivery goes on, and keep that. Raises Refused where the event has no place."""
    try:
        delivery.stand(course.after(delivery.standing, event, timezone.now().timestamp(), settings.DELIVERY_SECONDS))
    except course.OutOfTurn:
        raise Refused(_OUT_OF_TURN.get(delivery.state, "The delivery has gone on meanwhile: look again.")) from None
    for name, value in also.items():
        setattr(delivery, name, value)
    delivery.save(update_fields=[*Delivery.STANDING, *also])
    if delivery.document_id:
        next_change(delivery.document.stack_id)  # type: ignore[union-attr]


_OUT_OF_TURN = {
    "arrived": "It has arrived: send the document again, if it is to be there once more.",
    "cancelled": "It was given up: send it again instead.",
}


def ask_for_check(ids: Sequence[int], stack_id: int | None = None) -> int:
    """Have receipts looked at again where they lie: some, all of a stack, or all there are; how many. Mail cannot be."""
    among = Delivery.objects.filter(state="arrived", proof="read")
    if stack_id is not None:
        among = among.filter(document__stack=stack_id)
    return (among.filter(pk__in=ids) if ids else among).update(check_due=timezone.now().timestamp())


def bytes_of(document: Document) -> int | None:
    """Of its file; None while it is being bound."""
    result = Result.objects.filter(key=document.key, body__isnull=False).first()
    return int(result.made["bytes"]) if result else None


def problem_of(to: Destination, document: Document, size: int | None, *, twice: bool, linked: bool = False) -> str:
    """Why a document cannot go to a destination as it is, or what becomes of its name; empty where nothing is in the way.

    ``linked`` where a link goes in its place.
    """
    if not takes(to, document):
        return f"{to.name} does not take it."
    place = place_of(to.place)
    if linked:
        return ""
    if isinstance(place, MailPlace) and size is not None and size * _MAIL_GROWS > place.limit_mb * 1_000_000:
        return f"It is larger than a message may be ({place.limit_mb:g} MB): send a link in its place, or an access copy."
    if twice:
        return "Another one has the same name: " + (
            "one of them is numbered." if to.clash == "number" else "only the first can be kept there."
        )
    return ""


_MAIL_GROWS = 4 / 3 * 78 / 76
"""What base 64 with its line ends makes of a file (RFC 2045, 6.8)."""


def _chosen(among: QuerySet[Chosen], ids: Sequence[int], what: str) -> list[Chosen]:
    """Those of the numbers, in their order. Raises Refused where one is not there, or none was chosen."""
    there = among.in_bulk(list(dict.fromkeys(ids)))
    if not ids:
        raise Refused(f"No {what} is chosen: choose one.")
    if len(there) < len(set(ids)):
        raise Refused(f"A {what} that was chosen is gone: look at the list again.")
    return [there[one] for one in dict.fromkeys(ids)]


def addresses_used(most: int) -> list[str]:
    """To whom mail was sent, whoever was written to last first."""
    found: dict[str, None] = {}
    messages = Delivery.objects.exclude(message={}).order_by("-pk").values_list("message__recipients", flat=True)
    for recipients in messages[: 50 * most]:
        found |= dict.fromkeys(recipients or ())
        if len(found) >= most:
            break
    return list(found)[:most]
