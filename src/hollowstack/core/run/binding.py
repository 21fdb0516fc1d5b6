"""From an order to a document: what is said of it, how it is numbered and packed, what it carries."""

import json
from collections.abc import Iterable, Iterator, Sequence
from datetime import datetime
from importlib.metadata import version
from pathlib import Path
from typing import Any

from pydantic import BaseModel, ConfigDict

from hollowstack.core.bind import DEFAULT, FLAVOURS, Binding, Bookmark, Bound, BoundPage, Flavour, Provenance, bind
from hollowstack.core.bind.attachments import Attachment
from hollowstack.core.bind.description import Described, Event, description_of
from hollowstack.core.bind.labels import LabelRun, page_labels
from hollowstack.core.ocr.model import Reading
from hollowstack.core.read.texts import written
from hollowstack.core.settings.profile import Profile

SOFTWARE = f"Hollow Stack {version('hollowstack')}"


class BindOrder(BaseModel):
    """How a document is to be made of pages that are given apart; plain data, which tells a document from another."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    title: str
    created: datetime
    language: str = "en"
    flavour: Flavour = DEFAULT
    profile: Profile = "compact"
    described: Described = {}
    """What is said of it besides, by the names of ``description.STATEMENTS``."""
    labels: tuple[LabelRun, ...] = ()
    parts: tuple[Bookmark, ...] = ()
    """Its parts, which are its bookmarks."""
    mark_headings: bool = False
    treatment: dict[str, Any] = {}
    """By which its pages were made; goes with the document where the flavour has room for files."""


def bind_order(pages: Iterable[BoundPage], masters: Sequence[str], path: Path, order: BindOrder) -> Bound:
    """Bind pages as an order has it; their labels are the order's.

    Args:
        pages: In order; taken one at a time.
        masters: SHA-256 of the master of each of them.
        path: Where to write.
        order: What is wanted.

    Raises:
        BindError: As ``bind`` has it.
        ValueError: The description or the labels will not do; one sentence says why.
    """
    about = description_of(order.described, order.created, order.language, order.title)
    labels = page_labels(order.labels, len(masters))
    carried = FLAVOURS[order.flavour].attached
    readings: list[Reading] = []

    def numbered() -> Iterator[BoundPage]:
        for page, label in zip(pages, labels, strict=True):
            if carried and page.reading is not None:
                readings.append(page.reading)
            yield BoundPage(page.image, page.ppi, page.reading, label, page.alternatives)

    how = Binding(
        about, order.flavour, order.parts, order.mark_headings, Provenance(SOFTWARE, _events(order), tuple(masters)),
        attachments=lambda: _carried(order, readings, masters) if carried else (),
    )  # fmt: skip
    return bind(numbered(), path, how)


def _events(order: BindOrder) -> tuple[Event, ...]:
    name = order.treatment.get("name")
    made = (
        [Event("corrected", order.created, f"treatment {name}, version {order.treatment.get('version', 0)}")] if name else []
    )
    return (*made, Event("bound", order.created, f"{order.flavour}, {order.profile}"))


def _carried(order: BindOrder, readings: list[Reading], masters: Sequence[str]) -> tuple[Attachment, ...]:
    """The text with its places, where the pages are from, and how they were made."""
    listed = [{"page": number, "sha256": sha256} for number, sha256 in enumerate(masters, 1)]
    files = [
        Attachment("masters.json", _json(listed), "application/json", "Source", "Digests of the masters, page by page"),
        Attachment("treatment.json", _json(order.treatment), "application/json", "Data", "By what the pages were corrected"),
    ]
    if readings:
        text = written("alto", readings, order.title)
        files.append(
            Attachment("text.alto.xml", text, "application/xml", "Alternative", "The text, with the place of each word")
        )
    return tuple(files)


def _json(value: object) -> bytes:
    return json.dumps(value, ensure_ascii=False, indent=1).encode()
