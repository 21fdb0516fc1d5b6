"""In which script and language a page seems to be written, by what was read of it."""

from functools import cache
from typing import NamedTuple

import langcodes
from py3langid.langid import MODEL_FILE, LanguageIdentifier

from hollowstack.core.ocr.engine import orientation_engine, set_page
from hollowstack.core.ocr.model import Guess, Reading
from hollowstack.core.ocr.models import plain
from hollowstack.core.page.raster import Raster
from hollowstack.core.read.languages import PROPOSED, language_tag

_LEAST_CHARACTERS = 60
"""Of less text nothing is said of its language (chosen on drawn pages: from here on the right one is first)."""
_SURE_WORD = 60.0
"""Confidence of words that are asked; those read by the wrong script's model are noise."""
_ENOUGH_SURE = 0.5
"""Share of words of which the engine must be sure before they are asked at all: letters of another script give few."""
_SURE_SCRIPT = 2.5
"""Confidence of the engine's script model from which it is believed: on the real pages Fraktur has 17 and Arabic 94, Latin
that it takes for Cyrillic up to 2.1; on drawn ones Cyrillic has 3.6 and Greek 15."""


class _Script(NamedTuple):
    iso: str
    """ISO 15924."""
    language: str
    """Of the language that most pages in it have, the engine's code."""


_SCRIPTS = {
    "Latin": _Script("Latn", ""),
    "Cyrillic": _Script("Cyrl", "rus"),
    "Greek": _Script("Grek", "ell"),
    "Fraktur": _Script("Latf", "frk"),
    "Hebrew": _Script("Hebr", "heb"),
    "Arabic": _Script("Arab", "ara"),
    "Armenian": _Script("Armn", "hye"),
    "Georgian": _Script("Geor", "kat"),
    "Han": _Script("Hans", "chi_sim"),
    "Japanese": _Script("Jpan", "jpn"),
    "Korean": _Script("Kore", "kor"),
    "Devanagari": _Script("Deva", "hin"),
}
"""What the engine's script model tells apart, as far as archives have it."""
_SCRIPTS_OF_MODELS = {"Fraktur": "Latf", "frk": "Latf", "deu_latf": "Latf"}


def guess_language(reading: Reading, page: Raster) -> Guess | None:
    """The script and the language of a page, with how sure, 0 to 1; None where there is too little to tell.

    Where the engine is sure of most words, these tell. Where it is not, as letters of another script are read as noise, its
    script model is asked; it takes handwriting for Arabic at times, which is why words go before it.

    Args:
        reading: What was read of it, in whatever language.
        page: The clean page in gray, upright.

    Source:
        Words: M. Lui and T. Baldwin, langid.py: an off-the-shelf language identification tool, ACL 2012. Script:
        R. Unnikrishnan and R. Smith, Combined script and page orientation estimation using the Tesseract OCR engine,
        MOCR 2009.
    """
    words = [word.text for word in reading.words if word.confidence >= _SURE_WORD]
    script = _script_of(reading.language)
    if len(words) < _ENOUGH_SURE * len(reading.words):
        seen = _script_seen(page)
        if seen is not None and seen.iso != script and seen.language:
            return Guess(script=seen.iso, language=seen.language, sure=_FROM_SCRIPT_ALONE)
    return _by_words(" ".join(words), script)


def _by_words(text: str, script: str) -> Guess | None:
    if sum(map(str.isalpha, text)) < _LEAST_CHARACTERS:
        return None
    tag, sure = _identifier().classify(text.lower())
    return Guess(script=script, language=_code_of(tag, script), sure=round(float(sure), 3))


_SURE_LANGUAGE = 0.95
"""How sure a language must be to be said: the identifier is nearly always either surer or far from it."""
_FROM_SCRIPT_ALONE = 0.5
"""How sure a language is of which only the script is known (a guess, said as one)."""


def worth_saying(guess: Guess, language: str) -> bool:
    """Whether a page seems to be written in a language that is not among those that it was read in.

    One known by its script alone is said, too: what was read in another script is noise.
    """
    read = {language_tag(code) for code in plain(language).split("+")}
    wanted = language_tag(guess.language)
    by_script = guess.script not in {_script_of(code) for code in language.split("+")}
    return wanted not in read and (by_script or guess.sure >= _SURE_LANGUAGE)


@cache
def _identifier() -> LanguageIdentifier:
    made = LanguageIdentifier.from_model_file(MODEL_FILE, norm_probs=True)
    made.set_languages(list(PROPOSED))
    return made


def _code_of(tag: str, script: str) -> str:
    """The engine's name for a language: the three letters of ISO 639-2, but for German in Fraktur."""
    code = langcodes.Language.get(tag).to_alpha3()
    return "frk" if script == "Latf" and code == "deu" else code


def _script_of(language: str) -> str:
    """ISO 15924 of the first language's letters."""
    first = plain(language).split("+")[0]
    return _SCRIPTS_OF_MODELS.get(first) or langcodes.get(language_tag(first)).maximize().script or "Latn"


def _script_seen(page: Raster) -> _Script | None:
    engine = orientation_engine()
    gray = page.gray()
    set_page(engine, gray.pixels, gray.scale_ppi[0])
    try:
        found = engine.DetectOrientationScript()
    finally:
        engine.Clear()
    if not found or not found["script_conf"] >= _SURE_SCRIPT:
        return None
    return _SCRIPTS.get(found["script_name"])
