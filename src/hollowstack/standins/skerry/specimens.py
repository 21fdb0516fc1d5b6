"""Pages of every layout, made for measuring against: each different with its seed, none of them part of the demo."""

import math
import random
from collections.abc import Callable

from hollowstack.standins.skerry.notices import REPORT
from hollowstack.standins.skerry.sheet import BLACK, BLUE_BLACK, Sheet, fitted

Draw = Callable[[random.Random], Sheet]

_GREEK = (
    "Ο φάρος στέκεται στην άκρη του βράχου και φωτίζει τη θάλασσα όλη τη νύχτα. Ο φύλακας γράφει τον άνεμο "
    "και τον καιρό σε κάθε βάρδια, και στο περιθώριο ό,τι άλλο είδε: μια φώκια, ένα πανί, έναν ήχο από τα βράχια. "
    "Κανείς δεν του το ζήτησε και κανείς δεν το έσβησε."
)
_CYRILLIC = (
    "Маяк стоит на краю скалы и светит над морем всю ночь. Смотритель записывает ветер и погоду в каждую вахту, "
    "а на полях всё, что видел ещё: тюленя, парус, звук со стороны камней. Никто его об этом не просил, и никто "
    "этого не вычеркнул. В тумане звонили в колокол, а зимой лодка не приходила семьдесят один день."
)
_WORDS = tuple(word for paragraph in REPORT for word in paragraph.split())
_FACES = ("OldStandardTT-Regular", "GoudyBookletter1911-Regular", "CourierPrime-Regular")


def prose(rng: random.Random) -> Sheet:
    """One block of print, as many lines as chance has it."""
    sheet = _half_sheet(rng)
    _block(sheet, _some(rng, 260), rng.choice(_FACES), rng.uniform(9, 14), 16, 24, sheet.width_mm - 32, rng.randint(8, 30))
    return sheet


def columns(rng: random.Random) -> Sheet:
    """Two or three narrow columns under a heading."""
    sheet = Sheet(170, 240)
    count = rng.choice((2, 3))
    width = (170 - 24 - 5 * (count - 1)) / count
    sheet.print(85, 24, " ".join(rng.sample(_WORDS, 3)).upper(), "LeagueGothic-Regular", 26, BLACK, "ms")
    for column in range(count):
        _block(
            sheet, _some(rng, 200), "OldStandardTT-Regular", 9.5, 12 + column * (width + 5), 36, width, rng.randint(20, 44)
        )
    return sheet


def few_lines(rng: random.Random) -> Sheet:
    """A short note on an otherwise empty page."""
    sheet = _half_sheet(rng)
    left, top = rng.uniform(14, 40), rng.uniform(25, 120)
    for line in range(rng.randint(3, 5)):
        sheet.print(left, top + 7 * line, " ".join(_some(rng, rng.randint(5, 9))), _FACES[line % 2], 12)
    return sheet


def table(rng: random.Random) -> Sheet:
    """Figures in ruled columns."""
    sheet = Sheet(180, 250)
    rows, cols = rng.randint(12, 24), rng.randint(4, 7)
    left, top, step = 16.0, 40.0, 8.0
    width = (180 - 2 * left) / cols
    sheet.print(90, 26, "Return of " + " ".join(_some(rng, 3)), "OldStandardTT-Bold", 15, BLACK, "ms")
    for row in range(rows + 1):
        sheet.rule(left, top + row * step, 180 - left, top + row * step, BLACK, 0.15)
    for col in range(cols + 1):
        sheet.rule(left + col * width, top, left + col * width, top + rows * step, BLACK, 0.15)
    for row in range(rows):
        for col in range(cols):
            text = rng.choice(_WORDS)[:9] if row == 0 or col == 0 else f"{rng.randint(0, 9999) / 10:.1f}"
            x = left + col * width + (2 if col == 0 else width - 2)
            sheet.print(x, top + row * step + 5.6, text, "OldStandardTT-Regular", 10, BLACK, "ls" if col == 0 else "rs")
    return sheet


def form(rng: random.Random) -> Sheet:
    """Labels with boxes and dotted lines, some of them filled in by hand."""
    sheet = Sheet(180, 250)
    sheet.print(90, 26, "REPORT OF ARRIVAL", "LeagueGothic-Regular", 26, BLACK, "ms")
    y = 42.0
    for _ in range(rng.randint(9, 14)):
        label = " ".join(_some(rng, rng.randint(1, 3))).strip(".,:;").capitalize()
        end = sheet.print(18, y, label, "OldStandardTT-Regular", 11)
        if rng.random() < 0.4:
            for x1, y1, x2, y2 in (
                (end + 4, y - 6, 162, y - 6),
                (end + 4, y + 2, 162, y + 2),
                (end + 4, y - 6, end + 4, y + 2),
                (162, y - 6, 162, y + 2),
            ):
                sheet.rule(x1, y1, x2, y2, BLACK, 0.2)
        else:
            sheet.rule(end + 4, y + 1, 162, y + 1, BLACK, 0.12, 150)
        if rng.random() < 0.7:
            sheet.write(end + 8, y, " ".join(_some(rng, rng.randint(1, 3))), rng, 17)
        y += rng.uniform(13, 16)
    return sheet


def figure(rng: random.Random) -> Sheet:
    """A drawing of a coast with soundings, and little text."""
    sheet = Sheet(170, 240)
    points = []
    for step in range(60):
        angle = step / 60 * 2 * math.pi
        radius = 42 + 10 * math.sin(3 * angle + rng.random()) + rng.uniform(-3, 3)
        points.append((85 + radius * math.cos(angle), 105 + radius * math.sin(angle)))
    for (x1, y1), (x2, y2) in zip(points, [*points[1:], points[0]], strict=True):
        sheet.rule(x1, y1, x2, y2, BLACK, 0.3)
    for _ in range(rng.randint(14, 30)):
        sheet.print(rng.uniform(20, 150), rng.uniform(40, 180), str(rng.randint(2, 48)), "OldStandardTT-Regular", 9)
    sheet.print(
        85, 204, "Fig. " + str(rng.randint(1, 9)) + ". " + " ".join(_some(rng, 5)), "OldStandardTT-Italic", 12, BLACK, "ms"
    )
    sheet.print(85, 212, " ".join(_some(rng, 8)), "OldStandardTT-Regular", 10, BLACK, "ms")
    return sheet


def ledger(rng: random.Random) -> Sheet:
    """A ruled account book, written by hand in every other line."""
    sheet = Sheet(190, 260)
    for x in (18, 40, 128, 150, 172):
        sheet.rule(x, 20, x, 240, (158, 38, 34), 0.15, 140)
    for row in range(26):
        y = 34 + row * 8.0
        sheet.rule(14, y, 176, y, BLUE_BLACK, 0.1, 90)
        if row % 2 == 0 and rng.random() < 0.9:
            sheet.write(19, y - 1, f"{rng.randint(1, 30)} {rng.choice(('Jan', 'June', 'Oct'))}", rng, 15)
            sheet.write(43, y - 1, " ".join(_some(rng, rng.randint(2, 4)))[:34], rng, 15)
            sheet.write(131, y - 1, f"{rng.randint(0, 40)} {rng.randint(0, 19)}", rng, 15)
    return sheet


def greek(rng: random.Random) -> Sheet:
    """Print in Greek."""
    return _foreign(_GREEK, "GFSDidot-Greek", rng)


def cyrillic(rng: random.Random) -> Sheet:
    """Print in Cyrillic."""
    return _foreign(_CYRILLIC, "OldStandardTT-Cyrillic", rng)


LAYOUTS: dict[str, Draw] = {
    "prose": prose,
    "columns": columns,
    "few lines": few_lines,
    "table": table,
    "form": form,
    "figure": figure,
    "ledger": ledger,
    "Greek": greek,
    "Cyrillic": cyrillic,
}
"""By name."""


def _half_sheet(rng: random.Random) -> Sheet:
    return Sheet(*rng.choice(((148, 210), (170, 240), (210, 297))))


def _some(rng: random.Random, count: int) -> list[str]:
    start = rng.randrange(len(_WORDS) - count)
    return list(_WORDS[start : start + count])


def _foreign(text: str, face: str, rng: random.Random) -> Sheet:
    words = text.split()
    start = rng.randrange(len(words))
    sheet = Sheet(148, 210)
    _block(sheet, [*words[start:], *words * 4], face, rng.uniform(10, 13), 15, 26, 118, rng.randint(10, 26))
    return sheet


def _block(
    sheet: Sheet, words: list[str], face: str, points: float, left: float, top: float, width: float, most: int
) -> None:
    lead = points * 0.48
    for number, line in enumerate(fitted(sheet, " ".join(words), face, points, width)[:most]):
        if top + number * lead > sheet.height_mm - 16:
            break
        sheet.print(left, top + number * lead, line, face, points)
