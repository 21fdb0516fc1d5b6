"""Pages tell in what language and script they are written, whatever they were read in."""

from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont

from hollowstack.core.check import Read, check_page
from hollowstack.core.measure import measure
from hollowstack.core.ocr.model import Guess, Line, Reading, Word, block_of
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.read import proposing
from hollowstack.core.read.languages import language_name, language_tag
from hollowstack.core.read.proposing import guess_language, worth_saying
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry import sheet
from tests.conftest import typed_sheet

WHITE = Raster(np.full((300, 300), 250, np.uint8), (300.0, 300.0))
TEXTS = {
    "eng": "The keeper lit the lamp at sunset, and wrote in the book that the wind had gone round to the north in the night.",
    "deu": "Der Wärter zündete die Lampe bei Sonnenuntergang an und schrieb in das Buch, dass der Wind gedreht hatte.",
    "fra": "Le gardien alluma la lampe au coucher du soleil et nota dans le registre que le vent avait tourné pendant la nuit.",
    "nld": "De wachter stak de lamp aan bij zonsondergang en schreef in het boek dat de wind in de nacht was gedraaid.",
    "ita": "Il guardiano accese la lampada al tramonto e scrisse nel registro che il vento era girato durante la notte.",
    "spa": "El guardián encendió la lámpara al anochecer y escribió en el libro que el viento había cambiado en la noche.",
    "pol": "Latarnik zapalił lampę o zachodzie słońca i zapisał w księdze, że wiatr w nocy zmienił kierunek na północny.",
}


def reading_of(text: str, confidence: float = 90.0, language: str = "eng") -> Reading:
    words = [Word(text=one, box=(0, 0, 9, 9), confidence=confidence) for one in text.split()]
    return Reading(language=language, size_px=(300, 300), blocks=[block_of([Line(words=words, baseline=(0, 9, 9, 9))])])


@pytest.mark.parametrize("language", TEXTS)
def test_the_language_of_words_is_told(language):
    found = guess_language(reading_of(TEXTS[language]), WHITE)
    assert found is not None
    assert (found.script, found.language, found.sure > 0.95) == ("Latn", language, True)


def test_accents_lost_in_reading_leave_the_language():
    text = TEXTS["fra"].translate(str.maketrans("éèà", "eea"))
    assert guess_language(reading_of(text), WHITE).language == "fra"


@pytest.mark.parametrize(("letters", "told"), [(59, False), (60, True)])
def test_little_text_tells_nothing(letters, told):
    text = "".join(c for c in TEXTS["deu"] if c.isalpha())[:letters]
    assert (guess_language(reading_of(text), WHITE) is not None) is told


@pytest.mark.parametrize(("confidence", "told"), [(59.9, False), (60.0, True)])
def test_words_that_are_noise_are_not_asked(confidence, told, monkeypatch):
    monkeypatch.setattr(proposing, "_script_seen", lambda page: None)
    assert (guess_language(reading_of(TEXTS["deu"], confidence), WHITE) is not None) is told


def test_a_page_without_words_tells_nothing():
    assert guess_language(Reading(language="eng", size_px=(300, 300), blocks=[]), WHITE) is None


def drawn(text: str, font: str) -> Raster:
    page = Image.new("L", (1800, 1300), 250)
    face = ImageFont.truetype(str(Path(sheet.__file__).parent / "fonts" / font), 44)
    words, draw = text.split() * 4, ImageDraw.Draw(page)
    for row in range(14):
        draw.text((120, 100 + 80 * row), " ".join(words[7 * row % 40 : 7 * row % 40 + 7]), font=face, fill=20)
    return Raster(np.asarray(page), (300.0, 300.0))


@pytest.mark.parametrize(
    ("font", "text", "script", "language"),
    [
        ("OldStandardTT-Cyrillic.ttf", "Смотритель зажёг лампу на закате и записал в книгу что ветер ночью переменился", "Cyrl", "rus"),
        ("GFSDidot-Greek.ttf", "Ο φύλακας άναψε τη λάμπα στο ηλιοβασίλεμα και έγραψε στο βιβλίο ότι ο άνεμος γύρισε", "Grek", "ell"),
    ],
)  # fmt: skip
def test_another_script_is_seen_where_reading_gives_noise(font, text, script, language):
    """Read as English such a page gives words that are none, of which the engine is unsure."""
    found = guess_language(reading_of("xj qv", 30.0), drawn(text, font))
    assert found == Guess(script=script, language=language, sure=0.5)
    assert worth_saying(found, "eng")


@pytest.mark.parametrize(("noise", "asked"), [(12, False), (13, True)])
def test_the_script_is_looked_at_only_where_most_words_are_noise(noise, asked, monkeypatch):
    """Handwriting is taken for Arabic at times, though most of its words are read."""
    seen = []
    monkeypatch.setattr(proposing, "_script_seen", seen.append)
    sure, unsure = reading_of(" ".join(["lantern"] * 12)), reading_of(" ".join(["xjqv"] * noise), 30.0)
    guess_language(sure.model_copy(update={"blocks": [*sure.blocks, *unsure.blocks]}), WHITE)
    assert bool(seen) is asked


def test_latin_letters_read_badly_are_still_latin():
    (ink,) = typed_sheet(6, ppi=300).layers.values()
    page = Raster(255 - np.asarray(ink), (300.0, 300.0))
    assert guess_language(reading_of(TEXTS["deu"], 30.0), page) is None


@pytest.mark.parametrize(
    ("guess", "language", "said"),
    [
        (Guess(script="Latn", language="fra", sure=0.95), "eng", True),
        (Guess(script="Latn", language="fra", sure=0.949), "eng", False),
        (Guess(script="Latn", language="fra", sure=1.0), "eng+fra", False),
        (Guess(script="Latn", language="fra", sure=1.0), "thorough/fra", False),
        (Guess(script="Cyrl", language="rus", sure=0.5), "eng", True),
        (Guess(script="Cyrl", language="rus", sure=0.5), "eng+rus", False),
        (Guess(script="Latf", language="frk", sure=0.5), "Fraktur", False),
    ],
)
def test_what_is_read_already_is_not_said(guess, language, said):
    assert worth_saying(guess, language) is said


def test_a_page_in_another_language_is_told_with_both():
    (ink,) = typed_sheet(6, ppi=300).layers.values()
    found = measure(Raster(255 - np.asarray(ink), (300.0, 300.0)))
    guess = Guess(script="Latn", language="fra", sure=1.0)
    findings = check_page(found, plan_page(found, Treatment()), Read(200, 88.0, False, "eng", guess))
    (told,) = [one for one in findings if one.check in {"language", "reading"}]
    assert (told.check, told.verdict) == ("language", "review")
    assert told.message == "It seems to be written in French, and was read as English: have it read in French."


@pytest.mark.parametrize(
    ("code", "tag", "name"),
    [
        ("eng", "en", "English"), ("thorough/eng", "en", "English"), ("frk", "de-Latf", "German in Fraktur"),
        ("Fraktur", "de-Latf", "Fraktur, any language"), ("island", "und", "island"), ("ell", "el", "Greek"),
    ],
)  # fmt: skip
def test_models_are_named_in_words(code, tag, name):
    assert (language_tag(code), language_name(code)) == (tag, name)
