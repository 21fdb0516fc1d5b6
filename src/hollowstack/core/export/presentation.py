"""Documents for viewers of other houses: IIIF Presentation API 3, with words found on them by Content Search API 2."""

import re
from collections.abc import Iterable, Sequence
from typing import Any, Final, NamedTuple

from hollowstack.core.bind.bookmarks import Bookmark
from hollowstack.core.bind.description import Description, is_calendar_date
from hollowstack.core.ocr.model import Box

Json = dict[str, Any]
PRESENTATION: Final = "http://iiif.io/api/presentation/3/context.json"
SEARCH: Final = "http://iiif.io/api/search/2/context.json"
MEDIA_TYPE: Final = f'application/ld+json;profile="{PRESENTATION}"'
SEARCH_MEDIA_TYPE: Final = f'application/ld+json;profile="{SEARCH}"'
_LICENSES: Final = re.compile(r"https?://(?:creativecommons\.org|rightsstatements\.org)/\S+")
"""Which rights a manifest may name by address (section 3.1, rights); all others are said in words."""
_NAMES: Final = (
    ("creators", "Creator"), ("date", "Date"), ("identifier", "Identifier"), ("type", "Type"), ("subjects", "Subject"),
    ("relations", "Relation"),
)  # fmt: skip


class ShownPage(NamedTuple):
    """A page as a viewer shows it."""

    image: str
    """Address of its image service (IIIF Image API 3, level 2)."""
    thumbnail: str
    size_px: tuple[int, int]
    label: str
    """Its number as it is printed, or counted."""


class Addresses(NamedTuple):
    """Where a document and what belongs to it are; absolute. ``alto`` is empty where it was not read."""

    manifest: str
    pdf: str
    alto: str
    search: str
    homepage: str


class Member(NamedTuple):
    """Something in a collection: another collection, or a document."""

    address: str
    kind: str
    """``Collection`` or ``Manifest``."""
    label: str
    thumbnail: str = ""


class Found(NamedTuple):
    """Words found on a page, counted from 1, with the box around them in pixels of the page."""

    page: int
    text: str
    box: Box


def manifest_of(about: Description, pages: Sequence[ShownPage], parts: Sequence[Bookmark], at: Addresses) -> Json:
    """A document as a manifest.

    Args:
        about: What is said of it.
        pages: In order, at least one.
        parts: Its parts, by their first pages; none where it is one.
        at: Where it is.

    Source:
        IIIF Presentation API 3.0.0, sections 5.2 to 5.6; rights by section 3.1.
    """
    made: Json = {
        "@context": PRESENTATION,
        "id": at.manifest,
        "type": "Manifest",
        "label": {about.language: [about.title]},
        **_told(about),
    }
    if is_calendar_date(about.date):
        year, month, day = [*about.date.split("-"), "01", "01"][:3]
        made["navDate"] = f"{year}-{month}-{day}T00:00:00Z"
    made |= {
        "behavior": ["paged"] if len(pages) > 1 else ["individuals"],
        "thumbnail": [_thumbnail(pages[0].thumbnail)],
        "homepage": [{"id": at.homepage, "type": "Text", "label": {"en": ["Where it is worked on"]}, "format": "text/html"}],
        "rendering": [{"id": at.pdf, "type": "Text", "label": {"en": ["PDF/A"]}, "format": "application/pdf"}],
    }
    if at.alto:
        alto = {"id": at.alto, "type": "Dataset", "label": {"en": ["ALTO"]}, "format": "application/xml"}
        made["seeAlso"] = [{**alto, "profile": "http://www.loc.gov/standards/alto/v4/alto.xsd"}]
        made["service"] = [{"id": at.search, "type": "SearchService2"}]
    made["items"] = [_canvas(at, number, page) for number, page in enumerate(pages, 1)]
    if ranges := _ranges(at, parts, len(pages)):
        made["structures"] = ranges
    return made


def canvas_id(manifest: str, number: int) -> str:
    """The name of a page of a document, from 1; a place on it is added as ``#xywh=``."""
    return f"{manifest.removesuffix('/manifest')}/canvas/{number}"


def _told(about: Description) -> Json:
    """What is said of a resource, by its properties (section 3.1)."""
    made: Json = {"metadata": metadata} if (metadata := _metadata(about)) else {}
    if about.description:
        made["summary"] = {about.language: [about.description]}
    if _LICENSES.fullmatch(about.rights):
        made["rights"] = about.rights.replace("https://", "http://", 1)  # by which they are known
    elif about.rights:
        made["requiredStatement"] = {"label": {"en": ["Rights"]}, "value": {about.language: [about.rights]}}
    return made


def _metadata(about: Description) -> list[Json]:
    found = []
    for name, label in _NAMES:
        value = getattr(about, name)
        values = [value] if isinstance(value, str) else list(value)
        if any(values):
            found.append({"label": {"en": [label]}, "value": {about.language: values}})
    return found


def _thumbnail(address: str) -> Json:
    return {"id": address, "type": "Image", "format": "image/webp"}


def _canvas(at: Addresses, number: int, page: ShownPage) -> Json:
    width, height = page.size_px
    canvas = canvas_id(at.manifest, number)
    image = {
        "id": f"{page.image}/full/max/0/default.jpg", "type": "Image", "format": "image/jpeg",
        "width": width, "height": height,
        "service": [{"id": page.image, "type": "ImageService3", "profile": "level2"}],
    }  # fmt: skip
    painting = {
        "id": f"{canvas}/painting/1", "type": "Annotation", "motivation": "painting", "body": image, "target": canvas,
    }  # fmt: skip
    return {
        "id": canvas, "type": "Canvas", "label": {"none": [page.label]}, "width": width, "height": height,
        "thumbnail": [_thumbnail(page.thumbnail)],
        "items": [{"id": f"{canvas}/painting", "type": "AnnotationPage", "items": [painting]}],
    }  # fmt: skip


def _ranges(at: Addresses, parts: Sequence[Bookmark], pages: int) -> list[Json]:
    """A range a part, each up to the next one (section 5.4)."""
    starts = sorted((part for part in parts if part.page < pages), key=lambda part: part.page)
    found = []
    for number, part in enumerate(starts, 1):
        end = starts[number].page if number < len(starts) else pages
        canvases = [
            {"id": canvas_id(at.manifest, page + 1), "type": "Canvas"} for page in range(part.page, max(end, part.page + 1))
        ]
        name = f"{at.manifest.removesuffix('/manifest')}/range/{number}"
        found.append({"id": name, "type": "Range", "label": {"none": [part.title]}, "items": canvases})
    return found


def collection_of(address: str, label: str, members: Iterable[Member], about: Description | None = None) -> Json:
    """Documents, or collections of them, as a collection; ``about`` is what is said of them together.

    Source:
        IIIF Presentation API 3.0.0, section 5.1.
    """
    items = []
    for member in members:
        item: Json = {"id": member.address, "type": member.kind, "label": {"none": [member.label]}}
        if member.thumbnail:
            item["thumbnail"] = [_thumbnail(member.thumbnail)]
        items.append(item)
    made: Json = {"@context": PRESENTATION, "id": address, "type": "Collection", "label": {"none": [label]}}
    return {**made, **(_told(about) if about else {}), "items": items}


def search_answer(address: str, manifest: str, found: Iterable[Found], ignored: Sequence[str]) -> Json:
    """Words found in a document, as annotations on its pages.

    Args:
        address: Of the question, with its words.
        manifest: Of the document.
        found: In order.
        ignored: Parameters of the question that mean nothing here.

    Source:
        IIIF Content Search API 2.0.0, section 3 (request, ``ignored``) and 4 (response).
    """
    items = []
    for number, (page, text, (left, top, right, bottom)) in enumerate(found, 1):
        target = f"{canvas_id(manifest, page)}#xywh={left},{top},{right - left},{bottom - top}"
        body = {"type": "TextualBody", "value": text, "format": "text/plain"}
        note = {
            "id": f"{address}#{number}",
            "type": "Annotation",
            "motivation": "highlighting",
            "body": body,
            "target": target,
        }
        items.append(note)
    made: Json = {"@context": SEARCH, "id": address, "type": "AnnotationPage", "items": items}
    return {**made, "ignored": list(ignored)} if ignored else made
