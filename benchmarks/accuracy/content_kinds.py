"""The kinds of pages with more than text on them that ``content`` measures: how each is drawn."""

import random

import cv2
import numpy as np

from benchmarks.accuracy.content_pages import (
    PHOTOGRAPHS,
    PPI,
    Box,
    Made,
    Place,
    captured,
    ink,
    photograph,
    picture,
    text,
    tint,
)
from hollowstack.standins.skerry.paper import Image3
from hollowstack.standins.skerry.sheet import RED, Sheet

SOLIDS_MM = (3, 5, 8, 12, 20, 30, 50, 80)
COLOURS = (
    (45, 45, 45), (90, 90, 90), (140, 140, 140), (190, 40, 45), (40, 70, 160), (30, 120, 60), (230, 190, 40), (120, 40, 110),
)  # fmt: skip


def solids(chance: random.Random, rng: np.random.Generator) -> Made:
    """Text, and solid areas of several sizes below it and in its margin."""
    sheet = text(chance)
    places = []
    left = 15.0
    for size in chance.sample(SOLIDS_MM[:6], 4):
        places.append(Place("solid", (left, 236.0, left + size, 236.0 + min(size, 45)), chance.choice(COLOURS)))
        left += size + 8
    size = chance.choice(SOLIDS_MM[5:])
    places.append(Place("solid", (195.0 - size, 150.0, 195.0, 150.0 + size), chance.choice(COLOURS)))

    def print_on(surface: Image3) -> None:
        for place in places:
            assert place.colour is not None
            ink(surface, place.box, place.colour)

    return captured(sheet, places, chance, rng, print_on)


def pictures(chance: random.Random, rng: np.random.Generator) -> Made:
    """A photograph in a page of text, over half of it, or over all; some of them half-tones."""
    sheet = (
        text(chance) if (where := chance.choice(("in text", "half", "bleed"))) == "in text" else text(chance, "few lines")
    )
    box: Box = {
        "in text": (20.0, 170.0, chance.uniform(90, 180), 270.0),
        "half": (0.0, 0.0, 210.0, chance.uniform(110, 150)),
        "bleed": (0.0, 0.0, 210.0, 297.0),
    }[where]
    if where == "bleed":
        sheet = Sheet(210, 297)
    name, dots = chance.choice(PHOTOGRAPHS), chance.choice((0.0, 0.0, 85.0, 120.0))
    kind = "picture" if not dots else "half-tone"
    return captured(
        sheet, [Place(kind, box)], chance, rng, lambda surface: picture(surface, box, photograph(name), halftone=dots)
    )


def fills(chance: random.Random, rng: np.random.Generator) -> Made:
    """Pale boxes and zebra rows under a table, ruled lines over it."""
    sheet = text(chance, "table")
    share = 1 - chance.uniform(0.06, 0.18)
    hue = chance.choice(((1.0, 1.0, 1.0), (1.02, 1.0, 0.9), (0.95, 1.0, 1.03)))
    boxes: list[Box] = [(25.0, top, 185.0, top + 8) for top in np.arange(66.0, 190.0, 16.0).tolist()]
    boxes.append((25.0, 245.0, 120.0, 275.0))

    def print_on(surface: Image3) -> None:
        for box in boxes:
            tint(surface, box, tuple(min(1.0, share * h) for h in hue))  # type: ignore[arg-type]

    return captured(sheet, [Place("fill", box) for box in boxes], chance, rng, print_on)


def bleeds(chance: random.Random, rng: np.random.Generator) -> Made:
    """Covers, banners, maps and magazine pages whose print reaches the rim."""
    sheet = text(chance, chance.choice(("few lines", "prose")))
    kind = chance.choice(("cover", "banner", "side column", "map", "photograph above"))
    colour = chance.choice(COLOURS[3:])
    box: Box = {
        "cover": (0, 0, 210, 297), "banner": (0, 0, 210, 40), "side column": (0, 0, 45, 297), "map": (0, 0, 210, 297),
        "photograph above": (0, 0, 210, 133),
    }[kind]  # fmt: skip

    def print_on(surface: Image3) -> None:
        if kind in {"cover", "banner", "side column"}:
            ink(surface, box, colour)
            words = np.full(surface.shape[:2], 0, np.uint8)
            for line in range(1 if kind == "banner" else 6):
                at = (round(12 * PPI / 25.4), round((28 + 40 * line) * PPI / 25.4))
                cv2.putText(words, "THE KEEPER", at, cv2.FONT_HERSHEY_DUPLEX, 4.0 if kind != "side column" else 1.6, 255, 12)
            surface[words > 0] = (240, 236, 225)
        elif kind == "map":
            _map(surface, chance)
        else:
            picture(surface, box, photograph(chance.choice(PHOTOGRAPHS)))

    return captured(sheet, [Place("bleed", box)], chance, rng, print_on, lidded=False)


def _map(surface: Image3, chance: random.Random) -> None:
    rows, cols = surface.shape[:2]
    small = np.zeros((rows // 8, cols // 8), np.float32)
    cv2.randu(small, 0, 1)
    noise = cv2.GaussianBlur(
        np.random.default_rng(chance.randrange(2**31)).standard_normal(small.shape, np.float32), (0, 0), 40
    )
    land = cv2.resize((noise > 0).astype(np.float32), (cols, rows), interpolation=cv2.INTER_LINEAR)
    surface *= np.where(
        land[..., None] > 0.5, np.array([0.93, 0.86, 0.62], np.float32), np.array([0.66, 0.82, 0.93], np.float32)
    )
    edge = cv2.morphologyEx((land > 0.5).astype(np.uint8), cv2.MORPH_GRADIENT, np.ones((7, 7), np.uint8))
    surface[edge > 0] = (60, 60, 90)


def dividers(chance: random.Random, rng: np.random.Generator) -> Made:
    """Dyed dividers, endpapers, soft pictures: nothing is written on them, and they are not blank."""
    sheet = Sheet(210, 297)
    kind = chance.choice(("blue", "green", "pink", "grey", "endpaper", "soft picture", "sky"))
    box: Box = (0.0, 0.0, 210.0, 297.0)

    def print_on(surface: Image3) -> None:
        rows, cols = surface.shape[:2]
        if kind in {"blue", "green", "pink", "grey"}:
            dye = {"blue": (150, 180, 215), "green": (160, 205, 165), "pink": (240, 185, 190), "grey": (150, 150, 152)}[kind]
            surface *= np.array(dye, np.float32) / 240
        elif kind == "endpaper":
            y, x = np.mgrid[0:rows, 0:cols].astype(np.float32)
            wave = np.sin(x / 37 + 4 * np.sin(y / 90)) * np.sin(y / 53 + 3 * np.sin(x / 70))
            surface *= (0.72 + 0.22 * wave)[..., None]
        else:
            down = np.linspace(0.45, 1, rows, dtype=np.float32)[:, None]
            tone = down * (1 - 0.1 * np.sin(np.linspace(0, 5, cols, dtype=np.float32)))[None]
            hue = np.array([0.7, 0.85, 1.0] if kind == "sky" else [1, 1, 1], np.float32)
            surface *= tone[..., None] * hue

    return captured(sheet, [Place(kind, box)], chance, rng, print_on)


def negatives(chance: random.Random, rng: np.random.Generator) -> Made:
    """A photostat, white on black, or a blueprint."""
    sheet = text(chance, chance.choice(("prose", "columns", "table")))
    blue = chance.random() < 0.5
    return captured(
        sheet, [Place("negative", (0, 0, 210, 297))], chance, rng, lambda surface: _negative(surface, blue), lidded=False
    )


def _negative(surface: Image3, blue: bool) -> None:
    tone = surface.mean(axis=2, keepdims=True)
    light = 1 - tone / 255
    low, high = ((28, 52, 110), (225, 235, 245)) if blue else ((26, 24, 24), (236, 232, 226))
    surface[:] = np.array(low, np.float32) + np.clip(light * 1.15, 0, 1) * (
        np.array(high, np.float32) - np.array(low, np.float32)
    )


def marks_of(kind: str, chance: random.Random, rng: np.random.Generator) -> Made:
    """A sheet that bears one small thing."""
    sheet = Sheet(148, 210)
    x, y = chance.uniform(15, 110), chance.uniform(20, 190)
    if kind == "faint pencil":
        sheet.write(x - 10, y, chance.choice(("see 14", "copied", "no. 7")), chance, 14, (150, 148, 150), 120)
    elif kind == "number at the edge":
        sheet.print(chance.uniform(20, 120), 208.2, str(chance.randint(2, 400)), "OldStandardTT-Regular", 8)
    elif kind == "trimmed number":
        sheet.print(147.0, chance.uniform(20, 190), str(chance.randint(20, 400)), "OldStandardTT-Regular", 9, anchor="rs")
    elif kind == "coloured dot":
        pen = sheet.pen(RED)
        pen.ellipse([sheet.px(x), sheet.px(y), sheet.px(x + 4), sheet.px(y + 4)], fill=200)
    elif kind == "pale rule":
        sheet.rule(20, y, 128, y, (120, 120, 130), 0.3, 110)
        sheet.print(22, y - 1, "Name", "OldStandardTT-Italic", 9, strength=150)
    elif kind == "tick":
        sheet.rule(x, y, x + 2, y + 3, (60, 60, 90), 0.4)
        sheet.rule(x + 2, y + 3, x + 6, y - 4, (60, 60, 90), 0.4)
    elif kind == "stamp":
        sheet.print(x - 10, y, "RECEIVED", "LeagueGothic-Regular", 18, RED, "ls", 110)
    elif kind == "one word":
        sheet.print(x, y, chance.choice(("Finis", "Index", "Notes")), "OldStandardTT-Regular", 11)
    elif kind == "signature":
        sheet.write(x - 10, y, "A. Merriwether", chance, 18, (38, 44, 78), 190)
    box = (x, y, x + 16, y + 12)

    def print_on(surface: Image3) -> None:
        if kind == "pale label":
            tint(surface, box, (0.85, 0.85, 0.85))

    return captured(sheet, [], chance, rng, print_on)


MARKS = (
    "faint pencil", "number at the edge", "trimmed number", "coloured dot", "pale rule", "tick", "stamp", "one word",
    "signature", "pale label",
)  # fmt: skip
