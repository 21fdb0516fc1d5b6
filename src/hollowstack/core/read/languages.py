"""Languages by the names of the engine's models, and by those of the world."""

import langcodes

_ENGINES_OWN = {
    "frk": "de-Latf", "deu_latf": "de-Latf", "deu_frak": "de-Latf", "dan_frak": "da-Latf", "slk_frak": "sk-Latf",
    "chi_sim": "zh-Hans", "chi_tra": "zh-Hant", "srp_latn": "sr-Latn", "aze_cyrl": "az-Cyrl", "uzb_cyrl": "uz-Cyrl",
    "ita_old": "it", "spa_old": "es", "kat_old": "ka",
}  # fmt: skip
"""Models of the OCR engine whose names are no codes of ISO 639: Fraktur, scripts, older orthographies."""
_VERTICAL = "_vert"
_UNDETERMINED = "und"


def language_tag(ocr_language: str) -> str:
    """BCP 47 tag for the first of the OCR engine's languages; ``und`` where its name is no language's.

    Source:
        BCP 47 (RFC 5646, 2.2.1): the shortest code of ISO 639 there is.
    """
    first = ocr_language.split("+")[0].removesuffix(_VERTICAL)
    tag = _ENGINES_OWN.get(first, first)
    return langcodes.standardize_tag(tag) if langcodes.tag_is_valid(tag) else _UNDETERMINED
