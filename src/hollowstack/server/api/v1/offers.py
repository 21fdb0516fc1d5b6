"""What pages say of their document themselves, over HTTP: dates and identifiers, offered; patterns of identifiers."""

from ninja import Query, Schema, Status
from pydantic import BaseModel, Field

from hollowstack.core.ocr.model import Box
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.documents import offers
from hollowstack.server.documents.models import IdentifierPattern
from hollowstack.server.ids import Id
from hollowstack.server.stacks.models import Stack

router = Router(tags=["documents"])


class OfferOut(BaseModel):
    """Something that a page says."""

    value: str
    """As it would be taken."""
    text: str
    """As it is written."""
    page: int
    number: int
    """The place of the page among those looked through, from 1."""
    clean: str | None
    """Key of the clean page, in whose pixels the boxes are."""
    size_px: tuple[int, int] | None
    box: Box
    line: Box
    """The line that it stands in."""


class OffersOut(Schema):
    """What the pages of a document to come say of it."""

    dates: list[OfferOut]
    """As ISO 8601 has them, whole days first."""
    identifiers: list[OfferOut]


class PatternIn(Schema):
    """A pattern of identifiers, or an example that makes one."""

    example: str = Field("", max_length=200)
    pattern: str = Field("", max_length=200)
    """# for figures, @ for letters, all else as it stands; taken where it is not empty."""


class PatternAsked(PatternIn):
    """A pattern to be tried on a stack."""

    stack: Id


class PatternOut(Schema):
    """A pattern that is kept."""

    id: int
    pattern: str


class TrialOut(Schema):
    """What a pattern finds."""

    pattern: str
    found: list[OfferOut]
    """Some of them."""
    count: int
    """Different ones."""
    pages: int
    """So many pages were looked through."""


@router.get("/stacks/{int:stack_id}/offers", response={200: OffersOut, 404: Problem})
def get_offers(request: Request, stack_id: int, page: Id) -> OffersOut:
    """Dates and identifiers on the pages of the document that begins with a page."""
    found = offers.offered(Stack.objects.get(pk=stack_id), page)
    return OffersOut(dates=[_out(one) for one in found.dates], identifiers=[_out(one) for one in found.identifiers])


@router.get("/identifier-patterns", response=list[PatternOut])
def list_identifier_patterns(request: Request) -> list[IdentifierPattern]:
    """How identifiers are written here."""
    return list(IdentifierPattern.objects.all())


@router.get("/identifier-patterns/trial", response={200: TrialOut, 404: Problem})
def try_identifier_pattern(request: Request, asked: Query[PatternAsked]) -> TrialOut:
    """The pattern that an example makes, or one as it is written, and what it finds in a stack; nothing is kept."""
    tried = offers.tried(Stack.objects.get(pk=asked.stack), asked.pattern.strip() or offers.pattern_for(asked.example))
    return TrialOut(
        pattern=tried.pattern, found=[_out(one) for one in tried.found], count=tried.different, pages=tried.pages
    )


@router.post("/identifier-patterns", response={201: PatternOut})
def keep_identifier_pattern(request: Request, new: PatternIn) -> Status[IdentifierPattern]:
    """Keep a pattern: what it finds is offered from now on."""
    return Status(201, offers.keep_pattern(new.pattern.strip() or offers.pattern_for(new.example), request.user))


@router.delete("/identifier-patterns/{int:pattern_id}", response={204: None, 404: Problem})
def delete_identifier_pattern(request: Request, pattern_id: int) -> Status[None]:
    """Keep a pattern no longer."""
    IdentifierPattern.objects.get(pk=pattern_id).delete()
    return Status(204, None)


def _out(offer: offers.Offer) -> OfferOut:
    rendered = offer.page.rendered
    clean = rendered if rendered is not None and rendered.body is not None else None
    return OfferOut(
        value=offer.value, text=offer.text, page=offer.page.pk, number=offer.number, clean=clean.key if clean else None,
        size_px=clean.body["size_px"] if clean else None, box=offer.box, line=offer.line,
    )  # fmt: skip
