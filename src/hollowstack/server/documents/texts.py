"""The words of documents and stacks, as they were read."""

from hollowstack.core.ocr.reading import Reading
from hollowstack.core.run.steps import READING
from hollowstack.server.documents.models import Document
from hollowstack.server.errors import Refused
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.models import Page
from hollowstack.server.storage import places

PAGE_END = "\f"
"""Between two pages: a form feed, as in plain text that is to be printed."""


def text_of_document(document: Document) -> str:
    """What is on its pages, in their order. Raises Refused where a page is just being read again."""
    return PAGE_END.join(_text(key or None) for key in document.pages.values_list("reading", flat=True))


def text_of_stack(stack_id: int) -> str:
    """What is on the pages that are not held out, in their order; nothing where a page has not been read yet."""
    pages = Page.objects.filter(stack_id=stack_id, removed=False, aside="")
    readings = pages.values_list("reading", "reading__state")
    return PAGE_END.join(_text(key if state == Result.State.MADE else None) for key, state in readings)


def _text(key: str | None) -> str:
    if key is None:
        return ""
    try:
        return Reading.model_validate_json((places.result_path("read", key) / READING).read_bytes()).text
    except FileNotFoundError:
        raise Refused("A page is being read again: try again in a moment.") from None
