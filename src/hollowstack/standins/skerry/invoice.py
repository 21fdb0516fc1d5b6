"""A supplier's invoice on pink paper."""

import random

from hollowstack.standins.skerry.sheet import BLUE_BLACK, RED, VIOLET, Sheet

LINES = (
    ("4", "gross lamp wicks, Argand pattern, No. 6", "1", "12", "0"),
    ("30", "gallons paraffin oil, water white", "2", "17", "6"),
    ("1", "barrel ship's biscuit, guaranteed dry", "0", "18", "9"),
    ("6", "tins brass polish, Harbour brand", "0", "7", "6"),
    ("2", "coils manila rope, 3 inch, 40 fathom", "3", "4", "0"),
    ("1", "davit, east pattern, galvanised", "6", "10", "0"),
    ("24", "eggs, fresh, at carrier's risk", "0", "3", "0"),
    ("1", "concertina, repaired, new reeds", "0", "9", "3"),
)


def invoice(rng: random.Random) -> Sheet:
    """The sheet, 200 × 255 mm."""
    sheet = Sheet(200, 255)
    sheet.print(100, 26, "PETTIGREW & DAUGHTERS", "LeagueGothic-Regular", 34, VIOLET, "ms")
    sheet.print(100, 34, "Ship Chandlers and Lamp Furnishers", "GoudyBookletter1911-Regular", 15, VIOLET, "ms")
    sheet.print(
        100,
        40,
        "Quayside, Port Annet  ·  Everything for the sea but the sea itself",
        "OldStandardTT-Italic",
        10.5,
        VIOLET,
        "ms",
    )
    sheet.rule(16, 45, 184, 45, VIOLET, 0.5)
    sheet.print(18, 57, "Invoice No.", "OldStandardTT-Regular", 11, VIOLET)
    sheet.print(42, 57, "2260", "OldStandardTT-Bold", 14, RED)
    sheet.print(18, 66, "To the Principal Keeper, Skerry Light", "OldStandardTT-Regular", 12, VIOLET)
    sheet.print(130, 57, "Date", "OldStandardTT-Regular", 11, VIOLET)
    sheet.write(142, 57, "22 Feb. 1927", rng, 20)
    sheet.rule(140, 58, 184, 58, VIOLET, 0.12, 160)
    top, step = 76.0, 11.5
    sheet.rule(16, top, 184, top, VIOLET, 0.4)
    for x, head, anchor in (
        (18, "No.", "ls"),
        (34, "Article", "ls"),
        (153, "£", "ms"),
        (166, "s.", "ms"),
        (178, "d.", "ms"),
    ):
        sheet.print(x, top + 6.4, head, "OldStandardTT-Bold", 11, VIOLET, anchor)
    sheet.rule(16, top + 9, 184, top + 9, VIOLET, 0.2)
    for index, (count, article, pounds, shillings, pence) in enumerate(LINES):
        y = top + 17 + index * step
        sheet.type(18, y, count, rng, BLUE_BLACK)
        sheet.type(34, y, article, rng, BLUE_BLACK)
        for x, figure in ((150, pounds), (163, shillings), (176, pence)):
            sheet.type(x, y, figure, rng, BLUE_BLACK)
        sheet.rule(16, y + 3, 184, y + 3, VIOLET, 0.08, 110)
    bottom = top + 17 + len(LINES) * step
    for x in (31, 147, 160, 172):
        sheet.rule(x, top, x, bottom + 8, VIOLET, 0.15, 170)
    sheet.rule(147, bottom - 6, 184, bottom - 6, VIOLET, 0.3)
    sheet.print(120, bottom + 2, "Total", "OldStandardTT-Bold", 13, VIOLET)
    for x, figure in ((150, "16"), (163, "2"), (176, "0")):
        sheet.type(x, bottom + 2, figure, rng, BLUE_BLACK)
    sheet.rule(16, bottom + 8, 184, bottom + 8, VIOLET, 0.4)
    sheet.print(
        18,
        bottom + 22,
        "Terms: one month. Goods lost to the sea are lost to the buyer.",
        "OldStandardTT-Italic",
        11,
        VIOLET,
    )
    x, y = 118, bottom + 34
    sheet.print(x, y, "PAID", "LeagueGothic-Regular", 40, RED, "ls", 150)
    sheet.write(x + 26, y - 1, "A. Merriwether", rng, 22, BLUE_BLACK)
    sheet.write(24, y, "17 eggs arrived whole.", rng, 20, BLUE_BLACK)
    return sheet
