"""Pages of the watch log: a printed form, filled in by hand, out of a bound volume."""

import random

from hollowstack.standins.skerry.sheet import BLACK, BLUE_BLACK, PENCIL, Sheet, fitted

Entry = tuple[str, str, str, str]

DAYS: tuple[tuple[str, tuple[Entry, ...], str], ...] = (
    (
        "Monday, 6th June 1927",
        (
            ("12 mn", "SW 4", "1009", "Lamp burning clear. Wick trimmed at a quarter to."),
            ("2 am", "SW 5", "1008", "Two steam drifters passed north, lights in order."),
            ("4 am", "WSW 5", "1007", "Rain began. Glass wiped inside and out."),
            ("6 am", "W 6", "1006", "Lamp put out at sunrise. Lens covered."),
            ("8 am", "W 6", "1006", "Barograph chart changed before breakfast, as ordered."),
            ("10 am", "W 5", "1007", "Painted the north rail. Gulls unhelpful."),
            ("12 n", "W 5", "1008", "Brig Constant Anne to the east, all sail set."),
            ("4 pm", "WNW 4", "1010", "Boat landed with stores. Eggs: seventeen whole."),
            ("8 pm", "NW 3", "1012", "Machine wound. Lamp lit at sunset."),
            ("10 pm", "NW 3", "1013", "Clear. Annet Head light bright and regular."),
        ),
        "J. Rennie, for E. Harrow",
    ),
    (
        "Tuesday, 7th June 1927",
        (
            ("12 mn", "NW 2", "1014", "Lamp burning clear. Sea going down."),
            ("2 am", "NW 1", "1015", "Seals singing on the low rock until three."),
            ("4 am", "calm", "1016", "Mist in the sound. Fog signal made ready."),
            ("5 am", "calm", "1016", "Fog. Signal sounded every ninety seconds."),
            ("8 am", "calm", "1016", "Fog thinning. Signal stopped at ten past."),
            ("10 am", "S 1", "1017", "Brass polished. Spare mantles counted: forty."),
            ("12 n", "S 2", "1017", "Steamer Orlando Grey bound west, asked the time."),
            ("4 pm", "S 2", "1016", "Miss Maclaine drew the lens from the gallery."),
            ("8 pm", "SSE 3", "1015", "Lamp lit at sunset. Machine running a little slow."),
            ("10 pm", "SSE 3", "1014", "Weights cleaned. Turn now three minutes exactly."),
        ),
        "J. Rennie, for E. Harrow",
    ),
    (
        "Wednesday, 8th June 1927",
        (
            ("12 mn", "SE 4", "1012", "Lamp burning clear. High cloud from the south."),
            ("2 am", "SE 5", "1010", "A bird struck the lantern. Stunned only."),
            ("4 am", "SE 6", "1007", "Sea getting up. Landing under water at half flood."),
            ("6 am", "SE 7", "1004", "Lamp put out. Shutters closed on the weather side."),
            ("8 am", "SE 8", "1001", "The bird fed and let go from the lee gallery."),
            ("10 am", "SE 8", "0999", "Spray over the lantern. No vessels in sight."),
            ("12 n", "S 8", "0997", "Coal store door holding. New hinges good."),
            ("4 pm", "SW 7", "0998", "Wind veered in a squall with hail."),
            ("8 pm", "W 6", "1002", "Lamp lit early, at seven, for the murk."),
            ("10 pm", "W 5", "1005", "Clearing. Stars in the north. All well."),
        ),
        "J. Rennie, for E. Harrow",
    ),
    (
        "Thursday, 9th June 1927",
        (
            ("12 mn", "W 4", "1008", "Lamp burning clear. Salt washed from the panes."),
            ("2 am", "WNW 4", "1010", "Trawler Hopeful Jane hailed us, wanting lemons."),
            ("4 am", "NW 3", "1012", "None to spare. Gave her two onions and the news."),
            ("6 am", "NW 3", "1014", "Lamp put out at sunrise. Oil used: nine pints."),
            ("8 am", "NW 2", "1015", "Linen square laid over the third panel."),
            ("10 am", "N 2", "1016", "Gallery swept. One slate found from the coal store."),
            ("12 n", "N 2", "1017", "Sounded the well: four feet one inch, sweet."),
            ("4 pm", "N 1", "1018", "Boat seen off Annet Head, standing in."),
            ("8 pm", "calm", "1018", "Lamp lit at sunset. A green flash, all saw it."),
            ("10 pm", "calm", "1019", "Quiet. The machine is the only sound."),
        ),
        "J. Rennie, for E. Harrow",
    ),
)
_COLUMNS = (15.0, 39.0, 65.0, 86.0)


def log_page(day: int, page_number: int, rng: random.Random) -> Sheet:
    """One day's page, 195 × 270 mm."""
    date, entries, signed = DAYS[day]
    sheet = Sheet(195, 270)
    verso = page_number % 2 == 0
    sheet.print(14 if verso else 181, 15, str(page_number), "OldStandardTT-Regular", 11, BLACK, "ls" if verso else "rs")
    sheet.print(97.5, 20, "SKERRY LIGHT  ·  REGISTER OF WATCHES", "OldStandardTT-Bold", 14, BLACK, "ms")
    sheet.print(14, 31, "Day and date", "OldStandardTT-Italic", 10.5)
    sheet.write(38, 31, date, rng, 22)
    sheet.rule(36, 32.2, 181, 32.2, BLACK, 0.12, 150)
    heads = ("Hour", "Wind", "Bar.", "Remarks of the watch")
    sheet.rule(12, 38, 183, 38, BLACK, 0.4)
    sheet.rule(12, 46, 183, 46, BLACK, 0.2)
    for x, head in zip(_COLUMNS, heads, strict=True):
        sheet.print(x, 43.6, head, "OldStandardTT-Bold", 10.5)
    for row in range(21):
        sheet.rule(12, 54.5 + row * 8.5, 183, 54.5 + row * 8.5, BLUE_BLACK, 0.1, 95)
    for x in (37, 63, 84):
        sheet.rule(x, 38, x, 233, BLACK, 0.15, 170)
    sheet.rule(12, 233, 183, 233, BLACK, 0.4)
    for index, (hour, wind, bar, remark) in enumerate(entries):
        y = 53.2 + index * 17
        for x, text in zip(_COLUMNS[:3], (hour, wind, bar), strict=True):
            sheet.write(x, y, text, rng, 18)
        for line, part in enumerate(fitted(sheet, remark, "LaBelleAurore-Regular", 19, 86)):
            sheet.write(_COLUMNS[3], y + line * 8.5, part, rng, 18)
    sheet.print(14, 243, "The foregoing is a true record.", "OldStandardTT-Italic", 10.5)
    sheet.print(14, 253, "Keeper on watch", "OldStandardTT-Italic", 10.5)
    sheet.write(46, 252.5, signed, rng, 21)
    sheet.rule(44, 254, 120, 254, BLACK, 0.12, 150)
    if day == 2:
        sheet.write(124, 262, "0997 lowest since 1921", rng, 15, PENCIL, 180)
    return sheet
