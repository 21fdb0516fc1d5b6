"""Typed letters of the Skerry Light Trust, with the keeper's pencil here and there."""

import random

from hollowstack.standins.skerry.sheet import BLUE_BLACK, PENCIL, RED, Sheet, wrapped

LETTERS: tuple[dict[str, object], ...] = (
    {
        "ref": "SL/27/114",
        "date": "11th February 1927",
        "to": ("Mr. E. Harrow,", "Principal Keeper,", "Skerry Light."),
        "greeting": "Dear Mr. Harrow,",
        "body": (
            "I have your letter of the 29th, which came ashore with the relief boat in a biscuit tin and was the drier for it. "
            "The Trustees were sorry to learn that the storm of the 24th carried away the east davit and stove in the coal store door. "
            "They ask me to say that the light was seen from Port Annet throughout, and that the harbour master speaks of it still.",
            "A joiner will cross with the next relief, weather permitting. Until then you are authorised to draw upon the reserve of "
            "deal planks in the lower store, taking care to enter each in the book.",
            "You ask whether the lamp may be trimmed at the half hour instead of the quarter on nights of hard frost. The Trustees have no "
            "objection, provided that the watch is kept as before and that the hour of each trimming is written down.",
            "The two dozen eggs promised by Mrs. Pettigrew will travel with the mail. Nineteen of them may be expected to arrive.",
        ),
        "signed": "A. Merriwether",
        "note": "davit ordered 14 Feb.  E.H.",
    },
    {
        "ref": "SL/27/131",
        "date": "3rd May 1927",
        "to": ("Mr. E. Harrow,", "Principal Keeper,", "Skerry Light."),
        "greeting": "Dear Mr. Harrow,",
        "body": (
            "The new barograph is on its way to you, packed in wool. It is a delicate thing and does not care to be spoken to loudly. Kindly "
            "place it on the north wall of the watch room, out of the sun, and change the chart each Monday before breakfast.",
            "The old instrument is to be returned in the same box. Mr. Tolliver of the Institute believes that it has been reading two "
            "millibars low since the winter of 1921, which would account for a number of unexpectedly fine days.",
            "Miss Maclaine writes that the boy Rennie has a good hand and may be trusted with the fair copy of the log. The Trustees are "
            "content that he should keep it from the 1st of June, under your eye.",
            "Paraffin is up by a penny. Please burn it as though it were two.",
        ),
        "signed": "A. Merriwether",
        "note": "",
    },
    {
        "ref": "SL/27/158",
        "date": "19th August 1927",
        "to": ("Miss I. Maclaine,", "Assistant Keeper,", "Skerry Light."),
        "greeting": "Dear Miss Maclaine,",
        "body": (
            "Your drawings of the lens were laid before the Trustees on Tuesday and passed from hand to hand for the better part of an hour. "
            "Nobody could remember a clearer account of how the light goes round. They are to be framed and hung upon the stairs.",
            "Touching the crack in the third panel: it should on no account be filled with putty. A glazier who understands prisms will "
            "come from the mainland in September. Until then please cover it with a square of clean linen by day, and leave it bare at night.",
            "The Trustees further resolved that the assistant keeper's allowance for lamp oil, soap and candles be made equal to that of "
            "the principal keeper, there being, as the chairman said, only one darkness.",
        ),
        "signed": "A. Merriwether",
        "note": "equal at last!",
    },
    {
        "ref": "SL/27/176",
        "date": "30th November 1927",
        "to": ("Mr. E. Harrow,", "Principal Keeper,", "Skerry Light."),
        "greeting": "Dear Mr. Harrow,",
        "body": (
            "I write in haste to catch the tide. The schooner Patience Dunmore, of Port Annet, is four days overdue from the herring ground with "
            "a crew of six. Any sighting, by day or night, is to be signalled to the coast station at once and without regard to the cost.",
            "She carries a white hull, two masts, and a patched foresail. Her master knows your light well and will try to keep it on his "
            "starboard bow until he has the measure of the bar.",
            "The lifeboat is standing by at Annet Head. The Trustees ask that the fog signal be sounded through the night of the 30th whether "
            "there be fog or no, so that he may hear where you are if he cannot see it.",
        ),
        "signed": "A. Merriwether",
        "note": "SEEN 4.10 a.m. 1 Dec. All six.  I.M.",
    },
)


def letter(number: int, rng: random.Random) -> Sheet:
    """The front of one of the letters."""
    content = LETTERS[number]
    sheet = Sheet(210, 297)
    sheet.print(105, 27, "THE SKERRY LIGHT TRUST", "LeagueGothic-Regular", 23, BLUE_BLACK, "ms")
    sheet.print(
        105,
        33,
        "Founded 1847 for the keeping of one light, and of those who keep it",
        "OldStandardTT-Italic",
        9.5,
        BLUE_BLACK,
        "ms",
    )
    sheet.print(105, 38, "Harbour Office, Port Annet", "OldStandardTT-Regular", 9.5, BLUE_BLACK, "ms")
    sheet.rule(28, 41, 182, 41, BLUE_BLACK, 0.35)
    sheet.rule(28, 42, 182, 42, BLUE_BLACK, 0.12)
    at = 53.0
    sheet.type(26, at, f"Our ref.: {content['ref']}", rng)
    sheet.type(131, at, str(content["date"]), rng)
    at += 12.7
    for line in content["to"]:  # type: ignore[attr-defined]
        sheet.type(26, at, line, rng)
        at += 4.233
    at += 8
    sheet.type(26, at, str(content["greeting"]), rng)
    at += 9
    for paragraph in content["body"]:  # type: ignore[attr-defined]
        for index, line in enumerate(wrapped("     " + paragraph, 62)):
            sheet.type(26 if index else 26 + 5 * 2.54, at, line, rng)
            at += 6.35
        at += 3
    at += 3
    sheet.type(118, at, "Yours faithfully,", rng)
    sheet.write(120, at + 14, str(content["signed"]), rng, 26, BLUE_BLACK)
    sheet.type(118, at + 22, "Secretary to the Trustees.", rng)
    if content["note"]:
        sheet.write(30, at + 12, str(content["note"]), rng, 19, PENCIL, 190)
    _received(sheet, rng)
    return sheet


def _received(sheet: Sheet, rng: random.Random) -> None:
    """The station's rubber stamp, never quite straight or even."""
    x, y = 146 + rng.uniform(-6, 6), 62 + rng.uniform(-3, 4)
    for inset, width in ((0.0, 0.6), (1.2, 0.2)):
        box = (x + inset, y + inset, x + 40 - inset, y + 15 - inset)
        sheet.rule(box[0], box[1], box[2], box[1], RED, width, 150)
        sheet.rule(box[0], box[3], box[2], box[3], RED, width, 135)
        sheet.rule(box[0], box[1], box[0], box[3], RED, width, 140)
        sheet.rule(box[2], box[1], box[2], box[3], RED, width, 120)
    sheet.print(x + 20, y + 6.6, "RECEIVED", "LeagueGothic-Regular", 15, RED, "ms", 165)
    sheet.print(x + 20, y + 12.2, "SKERRY LIGHT", "LeagueGothic-Regular", 12, RED, "ms", 140)


def blank(width_mm: float = 210, height_mm: float = 297) -> Sheet:
    """A back with nothing on it."""
    return Sheet(width_mm, height_mm)
