"""Printed matter: a report in two columns, and notices to mariners."""

import random

from hollowstack.standins.skerry.sheet import BLACK, Sheet, fitted

REPORT_TITLE = "On the Lantern and its Clockwork"
REPORT: tuple[str, ...] = (
    "The lantern of Skerry Light stands one hundred and twelve feet above high water of spring tides, and may be seen in clear weather "
    "for sixteen miles. It was first lit on the evening of the 9th of November 1847, in the presence of the Trustees, who had been put ashore with "
    "difficulty and were not taken off again for three days.",
    "The apparatus consists of eight panels of glass, each built up of a lens at the middle with rings of prisms above and below. Together they "
    "gather the light of a single lamp into eight beams. As the whole turns about the lamp once in twenty-four minutes, an observer at sea sees a flash "
    "every three minutes, which is the mark by which this light is known from Annet Head.",
    "The turning is done by a falling weight of two hundredweight, hung in the hollow of the stair. It must be wound each half hour through the "
    "night. The keepers say that one wakes when the sound stops, and never before.",
    "The rollers upon which the carriage runs were renewed in 1889 and again in 1912. They are of gun metal, turned true, and are wiped with "
    "clean oil on the first day of each month. Any flat that may be worn upon a roller is felt as a tremor in the beam, and was in 1911 remarked upon by "
    "the master of a steamer eleven miles away.",
    "The lamp has three wicks, one within another. In the short nights of June it consumes five pints of oil, and in December fourteen. Oil is "
    "carried from the landing in cans of two gallons, up one hundred and ninety-one steps, and no keeper has yet been found who could not give their "
    "number without reflection.",
    "In fog a bell was rung by hand until 1893, when the present signal was fitted. It is heard at five miles with the wind and at one against "
    "it. The Trustees wish it to be understood that no signal can be heard at all by a ship whose own engines are running, and that masters who "
    "complain of silence should first stop and listen.",
    "It remains to speak of the keepers. There are three at the light and one ashore. Each serves six weeks and is relieved, if the sea allows, for "
    "two. The longest that relief was ever delayed was seventy-one days, in the winter of 1862. The log of those weeks is complete, and on its last page, "
    "below the barometer, is written: biscuit finished, spirits good.",
)
NOTICES: tuple[tuple[str, tuple[str, ...]], ...] = (
    (
        "FOG SIGNAL AT SKERRY LIGHT",
        (
            "Mariners are hereby informed that from the 1st day of October 1927 the fog signal at this station will give one blast of five "
            "seconds in every ninety seconds, in place of one in every two minutes as heretofore.",
            "Position: latitude and longitude as charted. Height of the trumpet above high water, ninety-four feet.",
            "The signal will be sounded whenever the light at Annet Head cannot be seen, by day or night, and at no other time except "
            "by order of the Trustees.",
        ),
    ),
    (
        "BUOY ADRIFT FROM THE LOW ROCK",
        (
            "The conical buoy marking the eastern end of the Low Rock, painted black, has parted its moorings in the late gale and was last "
            "seen two miles to the south, travelling at about one knot and, in the words of the keeper, in good heart.",
            "Vessels are cautioned not to rely upon any mark at the Low Rock until further notice. A temporary spar has been set, carrying a "
            "red flag by day. It shows no light.",
            "A reward of ten shillings is offered for the return of the buoy to Port Annet, whole.",
        ),
    ),
    (
        "VISITORS TO THE STATION",
        (
            "Persons wishing to view the lantern may do so between the hours of ten and four, on week days, when a landing can be made. They "
            "do so at their own risk, and are asked to wipe their feet.",
            "Children must be held by the hand upon the gallery. Dogs may be left with the boatman. The keepers may not accept gratuities, "
            "but are partial to newspapers, fresh bread, and conversation not concerned with the weather.",
            "By order of the Trustees of Skerry Light, Harbour Office, Port Annet, this 14th day of April 1928.",
        ),
    ),
)


def report_pages() -> list[Sheet]:
    """The report, set in two columns on as many sheets of 170 × 240 mm as it takes."""
    pages: list[Sheet] = []
    column, y = 2, 0.0
    points, lead, width = 12.5, 5.9, 66.0
    for number, paragraph in enumerate(REPORT):
        probe = Sheet(170, 240)
        for index, line in enumerate(fitted(probe, "   " + paragraph, "OldStandardTT-Regular", points, width)):
            if column == 2 or y > 218:
                column += 1
                if column >= 2:
                    column = 0
                    pages.append(_report_sheet(len(pages) + 1))
                y = 52.0 if len(pages) == 1 else 32.0
            left = 15 + column * 74
            indent = 4.0 if index == 0 and number else 0.0
            pages[-1].print(left + indent, y, line, "OldStandardTT-Regular", points)
            y += lead
        y += 1.0
    return pages


def _report_sheet(number: int) -> Sheet:
    sheet = Sheet(170, 240)
    if number == 1:
        sheet.print(85, 26, REPORT_TITLE, "OldStandardTT-Bold", 20, BLACK, "ms")
        sheet.print(
            85, 35, "An account prepared for the Trustees by their Secretary", "OldStandardTT-Italic", 12, BLACK, "ms"
        )
        sheet.rule(65, 40, 105, 40, BLACK, 0.2)
    else:
        sheet.print(85, 20, "THE SKERRY LIGHT TRUST", "OldStandardTT-Regular", 10, BLACK, "ms")
        sheet.rule(15, 23, 155, 23, BLACK, 0.15)
    sheet.rule(85, 46 if number == 1 else 27, 85, 222, BLACK, 0.12, 160)
    sheet.print(85, 231, f"— {number} —", "OldStandardTT-Regular", 11, BLACK, "ms")
    return sheet


def notice(number: int, rng: random.Random) -> Sheet:
    """A printed notice, 180 × 250 mm."""
    title, paragraphs = NOTICES[number]
    sheet = Sheet(180, 250)
    for inset, width in ((10.0, 0.7), (11.8, 0.2)):
        for x1, y1, x2, y2 in (
            (inset, inset, 180 - inset, inset), (inset, 250 - inset, 180 - inset, 250 - inset),
            (inset, inset, inset, 250 - inset), (180 - inset, inset, 180 - inset, 250 - inset),
        ):  # fmt: skip
            sheet.rule(x1, y1, x2, y2, BLACK, width)
    sheet.print(90, 36, "NOTICE", "LeagueGothic-Regular", 48, BLACK, "ms")
    sheet.print(90, 46, "TO MARINERS AND OTHERS", "LeagueGothic-Regular", 18, BLACK, "ms")
    sheet.rule(60, 51, 120, 51, BLACK, 0.4)
    sheet.print(90, 65, title, "OldStandardTT-Bold", 16, BLACK, "ms")
    y = 80.0
    for paragraph in paragraphs:
        for line in fitted(sheet, paragraph, "GoudyBookletter1911-Regular", 15, 138):
            sheet.print(21, y, line, "GoudyBookletter1911-Regular", 15)
            y += 8.0
        y += 5
    sheet.print(90, 222, "A. MERRIWETHER, Secretary", "OldStandardTT-Regular", 12, BLACK, "ms")
    sheet.print(90, 230, "Printed at the Annet Press", "OldStandardTT-Italic", 9, BLACK, "ms")
    sheet.write(138, 234, f"No. {number + 7}", rng, 17)
    return sheet
