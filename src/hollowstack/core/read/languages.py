"""Languages by the names of the engine's models, and by those of the world."""

import langcodes

_ENGINES_OWN = {
    "frk": "de-Latf", "deu_latf": "de-Latf", "deu_frak": "de-Latf", "dan_frak": "da-Latf", "slk_frak": "sk-Latf",
    "Fraktur": "de-Latf",
    "chi_sim": "zh-Hans", "chi_tra": "zh-Hant", "srp_latn": "sr-Latn", "aze_cyrl": "az-Cyrl", "uzb_cyrl": "uz-Cyrl",
    "ita_old": "it", "spa_old": "es", "kat_old": "ka",
}  # fmt: skip
"""Models of the OCR engine whose names are no codes of ISO 639: Fraktur, scripts, older orthographies."""
PROPOSED = {
    "af": "Afrikaans", "ar": "Arabic", "be": "Belarusian", "bg": "Bulgarian", "bs": "Bosnian", "ca": "Catalan",
    "cs": "Czech", "cy": "Welsh", "da": "Danish", "de": "German", "el": "Greek", "en": "English", "es": "Spanish",
    "et": "Estonian", "eu": "Basque", "fa": "Persian", "fi": "Finnish", "fr": "French", "ga": "Irish", "gl": "Galician",
    "he": "Hebrew", "hr": "Croatian", "hu": "Hungarian", "is": "Icelandic", "it": "Italian", "la": "Latin",
    "lb": "Luxembourgish", "lt": "Lithuanian", "lv": "Latvian", "mk": "Macedonian", "mt": "Maltese", "nl": "Dutch",
    "no": "Norwegian", "pl": "Polish", "pt": "Portuguese", "ro": "Romanian", "ru": "Russian", "sk": "Slovak",
    "sl": "Slovenian", "sq": "Albanian", "sr": "Serbian", "sv": "Swedish", "tr": "Turkish", "uk": "Ukrainian",
}  # fmt: skip
"""What a page may be found to be written in, by ISO 639-1: what archives of Europe and around it hold. Without limits a line
of names is any language of the world."""
_OTHER_NAMES = {
    "hy": "Armenian", "ka": "Georgian", "zh-Hans": "Chinese", "zh-Hant": "Chinese", "ja": "Japanese", "ko": "Korean",
    "hi": "Hindi", "de-Latf": "German in Fraktur",
}  # fmt: skip
_SCRIPT_MODELS = {"Fraktur": "Fraktur, any language"}
_VERTICAL = "_vert"
_UNDETERMINED = "und"


def language_tag(ocr_language: str) -> str:
    """BCP 47 tag for the first of the OCR engine's languages; ``und`` where its name is no language's.

    Source:
        BCP 47 (RFC 5646, 2.2.1): the shortest code of ISO 639 there is.
    """
    first = ocr_language.split("+")[0].rsplit("/")[-1].removesuffix(_VERTICAL)
    tag = _ENGINES_OWN.get(first, first)
    return langcodes.standardize_tag(tag) if langcodes.tag_is_valid(tag) else _UNDETERMINED


def language_name(ocr_language: str) -> str:
    """The English name of a language of the OCR engine; its code where it has none."""
    if ocr_language in _SCRIPT_MODELS:
        return _SCRIPT_MODELS[ocr_language]
    tag = language_tag(ocr_language)
    return PROPOSED.get(tag) or _OTHER_NAMES.get(tag) or ocr_language
