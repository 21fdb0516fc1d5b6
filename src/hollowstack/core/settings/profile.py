"""How pages are packed when they are bound: profiles, each with its reason in a line."""

from typing import Final, Literal

from hollowstack.core.settings.adjustments import Adjustments
from hollowstack.core.settings.treatment import Treatment

Profile = Literal["compact", "preservation", "text only", "pictures", "as captured"]

PROFILES: Final[dict[Profile, str]] = {
    "compact": "As the treatment says: writing sharp, paper and pictures small. For every day.",
    "preservation": "Every value of the clean page comes back. Ten times the size as a rule; for what is kept once.",
    "text only": "Bitonal, without greys: the smallest, where only the words count. Pictures suffer.",
    "pictures": "Each page as one picture, little compressed. For photographs, plates and half-tones.",
    "as captured": "The masters' own image data, untouched: what the device gave, not the clean page.",
}
_PICTURES_QUALITY: Final = 85


def packed_as(treatment: Treatment, profile: Profile) -> Treatment:
    """The treatment by which pages are made for a profile; what a hand has set on a page stands above it all the same.

    ``compact`` changes nothing: a treatment that keeps every pixel keeps it there, too.
    """
    match profile:
        case "compact":
            return treatment
        case "preservation":
            return treatment.model_copy(update={"lossless": True, "layers": False})
        case "text only":
            return treatment.model_copy(update={"colour": "bitonal", "lossless": False, "layers": False})
        case "pictures":
            quality = max(treatment.jpeg_quality, _PICTURES_QUALITY)
            return treatment.model_copy(update={"layers": False, "lossless": False, "jpeg_quality": quality})
        case "as captured":
            return treatment.model_copy(update=_AS_CAPTURED)


_AS_CAPTURED: Final = {
    "turn_upright": False, "level": False, "crop": False, "clear_surround": "never", "page_size": "as found",
    "margin_mm": 0.0, "target_ppi": None, "enlarge": False, "colour": "as it came", "even_tone": False,
    "reduce_show_through": False, "balance": "as captured", "calibration": None, "adjust": Adjustments(), "lossless": True,
    "layers": False,
}  # fmt: skip
