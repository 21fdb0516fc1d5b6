"""Pages in other languages: how well they are read in their own, and whether that is found when they are read as English."""

import random
from pathlib import Path

import cv2
import numpy as np
from PIL import Image, ImageDraw, ImageFont

from benchmarks.accuracy.reading_pages import error_rate
from benchmarks.accuracy.truth import Row
from hollowstack.core.measure import measure
from hollowstack.core.ocr.models import models
from hollowstack.core.page.raster import Raster, as_pixels
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.run.reading import read_rendered
from hollowstack.core.settings.treatment import Treatment
from hollowstack.standins.skerry import sheet

_FONTS = Path(sheet.__file__).parent / "fonts"
_LATIN = "OldStandardTT-Regular.ttf"
_POLISH = "/usr/share/fonts/truetype/dejavu/DejaVuSerif.ttf"
"""The fonts of the demo have no Polish letters; this one comes with Debian's browser."""
TEXTS = {
    "deu": (_LATIN, "Der Wärter zündete die Lampe bei Sonnenuntergang an und schrieb in das Buch, dass der Wind über Nacht auf "
            "Norden gedreht hatte. Zwei Schiffe fuhren vorüber; keines grüßte. Das Öl reicht noch für neun Tage, das Brot für vier."),
    "nld": (_LATIN, "De wachter stak de lamp aan bij zonsondergang en schreef in het boek dat de wind in de nacht naar het noorden "
            "was gedraaid. Twee schepen voeren voorbij; geen van beide groette. De olie is genoeg voor negen dagen, het brood voor vier."),
    "fra": (_LATIN, "Le gardien alluma la lampe au coucher du soleil et nota dans le registre que le vent avait tourné au nord pendant "
            "la nuit. Deux bateaux passèrent sans saluer. Il reste de l’huile pour neuf jours, et du pain pour quatre à peine."),
    "spa": (_LATIN, "El guardián encendió la lámpara al anochecer y escribió en el libro que el viento había girado al norte durante "
            "la noche. Pasaron dos barcos; ninguno saludó. Queda aceite para nueve días y pan para cuatro, según el señor Núñez."),
    "ita": (_LATIN, "Il guardiano accese la lampada al tramonto e scrisse nel registro che il vento era girato a nord durante la notte. "
            "Passarono due navi; nessuna salutò. L’olio basta ancora per nove giorni, il pane per quattro. Domani si vedrà."),
    "pol": (_POLISH, "Latarnik zapalił lampę o zachodzie słońca i zapisał w księdze, że wiatr w nocy obrócił się na północ. Przepłynęły "
            "dwa statki; żaden nie pozdrowił. Oliwy wystarczy jeszcze na dziewięć dni, chleba na cztery."),
    "ell": ("GFSDidot-Greek.ttf", "Ο φύλακας άναψε τη λάμπα στο ηλιοβασίλεμα και έγραψε στο βιβλίο ότι ο άνεμος γύρισε τη νύχτα στον "
            "βορρά. Πέρασαν δύο πλοία· κανένα δεν χαιρέτησε. Το λάδι φτάνει για εννέα μέρες, το ψωμί για τέσσερις."),
    "rus": ("OldStandardTT-Cyrillic.ttf", "Смотритель зажёг лампу на закате и записал в книгу, что ветер ночью повернул на север. Прошли "
            "два корабля; ни один не поздоровался. Масла хватит ещё на девять дней, хлеба на четыре."),
}  # fmt: skip
"""Made up for this."""
_MOST = 3.0
"""Wrong characters in a hundred that a page of print in its own language may have."""


def rows(seed: int, each: int) -> list[Row]:
    """One row a language with a model here."""
    there = {model.code for model in models()}
    made = []
    for language in TEXTS:
        if language not in there or not (_FONTS / TEXTS[language][0]).exists():
            print(f"         {language}: there is no model or no font here; left out")
            continue
        made.append(_row(language, seed, max(1, each // 10)))
    return made


def _row(language: str, seed: int, pages: int) -> Row:
    own, english, found = [], [], 0
    for number in range(pages):
        image, truth = _page(language, seed + number)
        plan = plan_page(measure(image), Treatment())
        own.append(error_rate(truth, " ".join(read_rendered(image, plan, language).text.split())))
        other = read_rendered(image, plan, "eng")
        english.append(error_rate(truth, " ".join(other.text.split())))
        found += other.guess is not None and other.guess.language == language
    rate = 100 * float(np.mean(own))
    said = f"CER {rate:.1f} %, read as English {100 * np.mean(english):.1f} %; language found {found} of {pages}"
    return Row(f"pages in {language}", said, f"≤ {_MOST:g} %, all found", rate <= _MOST and found == pages)


def _page(language: str, seed: int) -> tuple[Raster, str]:
    """A page of print, a little soft and grainy, with the text on it."""
    font, text = TEXTS[language]
    chance = random.Random(f"{language} {seed}")
    sentences = [one.strip(" .") + "." for one in text.split(". ")]
    face = ImageFont.truetype(str(_FONTS / font), chance.randrange(40, 56))
    page = Image.new("L", (2000, 2600), 238)
    draw, truth, top = ImageDraw.Draw(page), [], 220
    words = " ".join(chance.choice(sentences) for _ in range(30)).split()
    while top < 2300 and words:
        line = [words.pop(0)]
        while words and draw.textlength(" ".join([*line, words[0]]), font=face) < 1500:
            line.append(words.pop(0))
        draw.text((240, top), " ".join(line), font=face, fill=45)
        truth += line
        top += round(face.size * 1.45)
    soft = cv2.GaussianBlur(np.asarray(page), None, chance.uniform(0.6, 1.4)).astype(np.float32)  # type: ignore[call-overload]
    soft += np.random.default_rng(seed).normal(0, chance.uniform(2, 7), soft.shape)
    return Raster(as_pixels(np.clip(soft, 0, 255).astype(np.uint8)), (300.0, 300.0)), " ".join(truth)
