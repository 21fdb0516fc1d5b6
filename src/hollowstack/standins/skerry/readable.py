"""Pages made to be read: layouts whose reading order is not from top to bottom, and words that no list of words has."""

import random
from collections.abc import Callable

from hollowstack.standins.skerry.notices import REPORT
from hollowstack.standins.skerry.sheet import BLACK, Sheet, fitted, wrapped

Draw = Callable[[random.Random], Sheet]

_WORDS = tuple(word for paragraph in REPORT for word in paragraph.split())
_FACES = ("OldStandardTT-Regular", "GoudyBookletter1911-Regular", "CourierPrime-Regular")
_ONSETS = [
    "b",
    "br",
    "d",
    "dr",
    "f",
    "g",
    "gr",
    "h",
    "k",
    "l",
    "m",
    "n",
    "p",
    "r",
    "s",
    "sk",
    "st",
    "t",
    "th",
    "tr",
    "v",
    "w",
]
_CORES = ["a", "e", "i", "o", "u", "ea", "ai", "oo", "ou", "ie"]
_CODAS = ["ck", "d", "ll", "m", "n", "nd", "ng", "r", "rn", "rt", "s", "sk", "st", "t", "th"]


def name(rng: random.Random) -> str:
    """A made-up name of one to three syllables."""
    parts = [rng.choice(_ONSETS) + rng.choice(_CORES) + rng.choice(_CODAS) for _ in range(rng.choice((1, 2, 2, 3)))]
    return "".join(parts).capitalize()


def some(rng: random.Random, count: int) -> list[str]:
    """Running words of the report, every ninth of them another one: a name, a date, an amount."""
    start = rng.randrange(max(1, len(_WORDS) - count))
    words = list(_WORDS[start : start + count])
    for at in range(rng.randrange(9), len(words), 9):
        words[at] = rng.choice(
            (name(rng), f"{rng.randint(1, 28)}th", f"£{rng.randint(1, 90)}.{rng.randint(10, 99)}", name(rng))
        )
    return words


def letter(rng: random.Random) -> Sheet:
    """Typed on a machine, in paragraphs."""
    sheet = Sheet(210, 297)
    sheet.type(25, 40, f"Mr. {name(rng)[0]}. {name(rng)},", rng)
    sheet.type(25, 46, f"{name(rng)} Head.", rng)
    y = 62.0
    for _ in range(rng.randint(2, 4)):
        for line in wrapped(" ".join(some(rng, rng.randint(30, 70))), 62):
            sheet.type(25, y, line, rng)
            y += 5.6
        y += 5.6
    sheet.type(110, y + 6, name(rng) + " " + name(rng), rng)
    return sheet


def noted(rng: random.Random) -> Sheet:
    """A column of print with short notes in its outer margin, each beside the line that it belongs to."""
    sheet = Sheet(170, 240)
    on_left = rng.random() < 0.5
    left, width = (52.0, 100.0) if on_left else (18.0, 100.0)
    face, lead = rng.choice(_FACES[:2]), 5.2
    count = rng.randint(24, 36)
    lines = fitted(sheet, " ".join([*some(rng, 240), *some(rng, 240)]), face, 10.5, width)[:count]
    for at, line in enumerate(lines):
        sheet.print(left, 26 + at * lead, line, face, 10.5)
    at = rng.randint(1, 5)
    while at < len(lines) - 4:
        for row, line in enumerate(fitted(sheet, " ".join(some(rng, rng.randint(3, 7))), face, 8.5, 26)):
            sheet.print(18.0 if on_left else 124.0, 26 + (at + row * 0.8) * lead, line, face, 8.5)
        at += rng.randint(9, 14)
    return sheet


def tally(rng: random.Random) -> Sheet:
    """Items with their figures in two to four columns, without a rule between them."""
    sheet = Sheet(170, 240)
    columns = rng.randint(2, 4)
    face, lead = rng.choice(_FACES), rng.uniform(5.6, 8.0)
    sheet.print(85, 22, f"Stores received at {name(rng)}", "OldStandardTT-Bold", 14, BLACK, "ms")
    for row in range(rng.randint(8, 22)):
        y = 36 + row * lead
        sheet.print(16, y, " ".join(some(rng, rng.randint(1, 4)))[:26].strip(), face, 10)
        for column in range(columns):
            sheet.print(154 - (columns - 1 - column) * 24, y, f"{rng.randint(1, 9999) / 100:.2f}", face, 10, BLACK, "rs")
    return sheet


def headed(rng: random.Random) -> Sheet:
    """Two columns, a heading across both, two columns again."""
    sheet = Sheet(170, 240)
    y = 20.0
    for _ in range(2):
        heading = " ".join(some(rng, 5)).strip(".,:;").upper()
        sheet.print(85, y, heading[:34], "LeagueGothic-Regular", 22, BLACK, "ms")
        rows = rng.randint(8, 16)
        for column in range(2):
            for at, line in enumerate(fitted(sheet, " ".join(some(rng, 120)), "OldStandardTT-Regular", 10, 68)[:rows]):
                sheet.print(14 + column * 74, y + 10 + at * 5.0, line, "OldStandardTT-Regular", 10)
        y += 22 + rows * 5.0
    return sheet


READABLE: dict[str, Draw] = {"letter": letter, "noted": noted, "tally": tally, "headed": headed}
"""By name."""
