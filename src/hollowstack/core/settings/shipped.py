"""Treatments that come with the program, each with its reasons in one line; and treatments from files."""

from pathlib import Path

from pydantic import ValidationError

from hollowstack.core.page.errors import TreatmentError
from hollowstack.core.settings.adjustments import Adjustments
from hollowstack.core.settings.treatment import Treatment


def _named(name: str, purpose: str, **settings: object) -> Treatment:
    return Treatment.model_validate({"name": name, "purpose": purpose, **settings})


_ALL = (
    _named("everyday", "Level, cropped and evened; blank pages are held aside.", split_facing=True),
    _named("single-sided", "The same, and blank pages stay in.", hold_blanks=False, split_facing=True),
    _named(
        "bound volume",
        "From the glass: borders and gutter bar are cleared, pages get one size with their text in the same place.",
        clear_surround="always", page_size="uniform", hold_blanks=False, split_facing=True,
    ),
    _named(
        "loose sheets",
        "From the feeder: there are no borders to clear, blank backs are held aside.",
        clear_surround="never",
    ),
    _named(
        "faint typescript",
        "Faded ribbon and carbon copies: strokes are strengthened, and kept in grey, where they do not break up.",
        colour="grey", adjust=Adjustments(strengthen=70, sharpen=20), layers=False,
    ),
    _named(
        "index cards",
        "Small cards, often dyed: colours are kept, every card keeps its own size, and a card with one word is not blank.",
        blank_below=0.0005, jpeg_quality=55,
    ),
    _named(
        "photographs of pages",
        "From a camera: the page is made flat and evened, shadows go, edges are sharpened a little.",
        clear_surround="always", adjust=Adjustments(sharpen=30),
    ),
    _named(
        "pictures",
        "Photographs and drawings: every tone and colour stays as captured, nothing is cleared, little is compressed.",
        clear_surround="never", hold_blanks=False, even_tone=False, colour="colour", jpeg_quality=85, layers=False,
    ),
    _named(
        "oversize strip",
        "Recorder strips and plans: not turned by their sparse text; 200 ppi keep what a pen drew, in a small file.",
        turn_upright=False, hold_blanks=False, target_ppi=200, jpeg_quality=40,
    ),
    _named(
        "as-captured",
        "Nothing is corrected: pages are bound as they came, to the bit where a PDF can hold them so.",
        turn_upright=False, level=False, crop=False, clear_surround="never", hold_blanks=False, even_tone=False,
        colour="as it came", lossless=True,
    ),
)  # fmt: skip
SHIPPED: dict[str, Treatment] = {one.name: one for one in _ALL}
"""Treatments that come with the program, by name."""


def load_treatment(name_or_file: str) -> Treatment:
    """A shipped treatment by name, or one from a JSON file.

    Raises:
        TreatmentError: There is no such treatment, or the file does not describe one.
    """
    if name_or_file in SHIPPED:
        return SHIPPED[name_or_file]
    path = Path(name_or_file)
    if path.suffix.lower() != ".json":
        raise TreatmentError(
            f"There is no treatment “{name_or_file}”: choose from {', '.join(SHIPPED)}, or give a .json file."
        )
    try:
        return Treatment.model_validate_json(path.read_bytes())
    except OSError as error:
        raise TreatmentError(f"The treatment {path} cannot be opened: {error.strerror}.") from None
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the file"
        raise TreatmentError(f"The treatment {path} is not valid: {where}: {first['msg']}.") from None
