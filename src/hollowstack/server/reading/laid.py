"""The text of a page as it is now: what was read, with what hands have put right laid over it."""

from typing import Any, NamedTuple

from hollowstack.core.ocr.model import Box, Reading
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.read.corrections import Correction, Laid, lay_over
from hollowstack.core.read.looks import LOOK_BYTES
from hollowstack.core.run.steps import LOOKS, READING
from hollowstack.server.errors import Refused
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.overview import plan_done
from hollowstack.server.storage import places

BEING_READ = "A page is being read again: try again in a moment."


class Ground(NamedTuple):
    """What corrections are laid by: which image the page is of, and the way from that to the clean page."""

    image: str
    onto: Transform


def ground_of(page: Page) -> Ground:
    """The ground of a page; it comes with its source and its rendered result. Raises Refused while it is not planned."""
    plan = plan_done(page)
    if plan is None:
        raise Refused(BEING_READ)
    return Ground(image_of(page), Transform.onto(Quad.of(plan["quad"]), *plan["size_px"]))


def image_of(page: Page) -> str:
    """Names the image that places of a page are on."""
    return f"{page.source.master_id}:{page.frame}"


def laid_text(page: Page) -> Laid:
    """A page's reading with its corrections. Raises Refused where it has not been read, or is being read again."""
    if not page.words:
        return Laid(reading_of(page.reading_id), (), {})  # most pages: nothing more of them is asked for
    ground = ground_of(page)
    return lay_over(reading_of(page.reading_id), corrections_of(page.words), ground.onto, ground.image)


def corrections_of(words: dict[str, Any]) -> dict[str, Correction]:
    """Corrections as a page keeps them, in the order in which they were made."""
    by_count = sorted(words.items(), key=lambda one: (one[1].get("count", 0), one[0]))
    return {
        key: Correction.model_validate({name: value for name, value in one.items() if name != "count"})
        for key, one in by_count
    }


def fixed(page: Page) -> dict[str, Any]:
    """All that it takes to lay a page's corrections over its reading later, as ``core.read.corrections.laid_again`` does."""
    ground = ground_of(page)
    kept = corrections_of(page.words).items()
    return {
        "image": ground.image,
        "onto": ground.onto.matrix.tolist(),
        "corrections": {key: one.model_dump(mode="json", exclude_defaults=True) for key, one in kept},
    }


def reading_of(key: str | None) -> Reading:
    """What was read, by its key. Raises Refused where it is not there."""
    if key is None:
        raise Refused("This page has no text: it is held aside, or not read yet.")
    try:
        return Reading.model_validate_json((places.result_path("read", key) / READING).read_bytes())
    except FileNotFoundError:
        raise Refused(BEING_READ) from None


def looks_on(page: Page) -> dict[Box, bytes]:
    """The looks of a page's words as they were read, by their places; none of readings made before there were looks."""
    if page.reading_id is None:
        return {}
    file = places.result_path("read", page.reading_id) / LOOKS
    data = file.read_bytes() if file.exists() else b""
    words = reading_of(page.reading_id).words
    if len(data) != LOOK_BYTES * len(words):
        return {}
    return {word.box: data[LOOK_BYTES * at : LOOK_BYTES * (at + 1)] for at, word in enumerate(words)}
