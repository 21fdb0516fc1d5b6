"""Index cards of passing ships, 127 × 76 mm."""

import random

from hollowstack.standins.skerry.sheet import BLACK, BLUE_BLACK, RED, Sheet, wrapped

SHIPS: tuple[tuple[str, str, str, str], ...] = (
    (
        "CONSTANT ANNE",
        "Brig, 184 tons, Port Annet",
        "6 June 1927",
        "Bound east with slate. All sail set and making nine knots. Answered our flag with a concertina.",
    ),
    (
        "ORLANDO GREY",
        "Steamer, 2,310 tons, Halvern",
        "7 June 1927",
        "Bound west in ballast. Asked the time and was told it. Funnel freshly painted, green.",
    ),
    (
        "HOPEFUL JANE",
        "Trawler, 96 tons, Annet Head",
        "9 June 1927",
        "Hailed at two in the morning wanting lemons. Given two onions. Parted friends.",
    ),
    (
        "PATIENCE DUNMORE",
        "Schooner, 122 tons, Port Annet",
        "1 Dec. 1927",
        "Overdue. Seen at ten past four under a patched foresail. All six aboard and cold.",
    ),
)


def card(number: int, rng: random.Random) -> Sheet:
    """One ship's card."""
    name, kind, seen, remark = SHIPS[number]
    sheet = Sheet(127, 76)
    sheet.rule(0, 14, 127, 14, RED, 0.25, 150)
    for row in range(9):
        sheet.rule(0, 20.5 + row * 6.35, 127, 20.5 + row * 6.35, BLUE_BLACK, 0.1, 80)
    sheet.type(8, 11, name, rng, BLACK)
    sheet.print(119, 11, f"{number + 41}", "OldStandardTT-Bold", 12, RED, "rs")
    sheet.type(8, 19.6, kind, rng)
    sheet.type(8, 25.95, f"Seen: {seen}", rng)
    for index, line in enumerate(wrapped(remark, 42)):
        sheet.type(8, 38.65 + index * 6.35, line, rng)
    sheet.write(98, 71, "I.M.", rng, 17, BLUE_BLACK)
    return sheet
