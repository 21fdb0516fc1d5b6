"""Documents for viewers of other houses, as IIIF has them: what is in a manifest and in collections, words found in one."""

from collections.abc import Sequence
from typing import NamedTuple

from hollowstack.core.bind.bookmarks import Bookmark
from hollowstack.core.bind.description import Description, description_of
from hollowstack.core.bind.labels import page_labels
from hollowstack.core.export.presentation import Found, ShownPage
from hollowstack.core.find import QuestionError, answer_of, question_of
from hollowstack.core.read.languages import language_tag
from hollowstack.core.run.binding import BindOrder
from hollowstack.server.collections.models import Collection
from hollowstack.server.collections.tree import ids_of, tree
from hollowstack.server.documents.drafts import draft_of
from hollowstack.server.documents.models import Document, DocumentPage
from hollowstack.server.documents.texts import bound_reading
from hollowstack.server.errors import Refused
from hollowstack.server.reading import index
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.languages import language_of_stack
from hollowstack.server.stacks.models import Stack

MOST_FOUND = 500
"""Words told of one question: whoever finds more asks otherwise."""


class Presented(NamedTuple):
    """A document as it is shown: its keys of pictures stand where addresses will."""

    about: Description
    pages: list[ShownPage]
    parts: Sequence[Bookmark]
    is_read: bool
    first_page: int | None
    """Of its stack."""


def bound_documents(stack_id: int | None = None) -> list[Document]:
    """Documents that are shown to others, of a stack or all: for the archive, and bound; the newest first."""
    documents = Document.objects.filter(kind=Document.Kind.ARCHIVE).select_related("stack__collection").order_by("-pk")
    documents = documents.defer("order")  # large, and told of one document alone
    if stack_id is not None:
        documents = documents.filter(stack=stack_id)
    keys = documents.order_by().values("key")
    made = set(Result.objects.filter(key__in=keys, body__isnull=False).values_list("key", flat=True))
    return [document for document in documents if document.key in made]


class Shelved(NamedTuple):
    """What a place in the tree holds that is shown."""

    collections: list[Collection]
    stacks: list[Stack]


def shown_in(collection: Collection | None) -> Shelved:
    """What lies right in a collection, or at the top: others with something shown in them, and stacks with such documents.

    Stacks come the newest first, collections by name.
    """
    stacks = sorted({document.stack for document in bound_documents()}, key=lambda stack: -stack.pk)
    filled = {pk for stack in stacks if stack.collection for pk in ids_of(stack.collection)}
    inside = [branch.collection for branch in tree() if branch.collection.pk in filled]
    here = collection.pk if collection else None
    return Shelved(
        [one for one in inside if one.parent_id == here],
        [stack for stack in stacks if stack.collection_id == here],
    )


def presented(document: Document, image: str, thumbnail: str) -> Presented:
    """A document for a viewer.

    Args:
        document: For the archive, and bound.
        image: Address of the images of pages, with ``{key}`` in it.
        thumbnail: Of their small pictures, likewise.

    Raises:
        Refused: It is no such document, or its pages are being made again.
    """
    if document.kind != Document.Kind.ARCHIVE or not document.order:
        raise Refused("Only documents bound for the archive are shown so.")
    order = BindOrder.model_validate(document.order)
    rows = list(document.pages.all())
    bodies = dict(Result.objects.filter(key__in={row.rendered for row in rows}).values_list("key", "body"))
    labels = page_labels(order.labels, len(rows))
    pages = []
    for row, label in zip(rows, labels, strict=True):
        if not (body := bodies.get(row.rendered)):
            raise Refused("A page of it is being made again: try again in a moment.")
        width, height = body["size_px"]
        pages.append(ShownPage(image.format(key=row.rendered), thumbnail.format(key=row.rendered), (width, height), label))
    about = description_of(order.described, order.created, order.language, order.title)
    return Presented(about, pages, order.parts, any(row.reading for row in rows), rows[0].page_id if rows else None)


def said_of_stack(stack: Stack) -> Description:
    """What is said of a stack's documents together."""
    return description_of(draft_of(stack.pk).stack, stack.created_at, language_tag(language_of_stack(stack)), stack.name)


def found_in(document: Document, asked: str) -> list[Found]:
    """Where words stand in a document, in its order, up to ``MOST_FOUND``; a word parted between lines as two places.

    Raises Refused where the question cannot be asked.
    """
    try:
        question = question_of(asked)
    except QuestionError as error:
        raise Refused(str(error)) from None
    found: list[Found] = []
    for row in _worth_a_look(document, question.match):
        marked = answer_of(bound_reading(row), question).marked
        found += [Found(row.number, one.text, one.box) for one in marked]
        if len(found) >= MOST_FOUND:
            break
    return found[:MOST_FOUND]


def _worth_a_look(document: Document, match: str) -> list[DocumentPage]:
    """Its pages whose words answer now, and those that say other words than the page of the stack does now."""
    now = set(index.pages_with(index.WORDS, match))
    rows = document.pages.exclude(reading="").select_related("page")
    return [
        row
        for row in rows
        if row.page is None
        or row.page_id in now
        or row.page.reading_id != row.reading
        or bool(row.page.words) != bool(row.words)
    ]
