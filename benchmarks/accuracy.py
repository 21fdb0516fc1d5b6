"""``make accuracy``: the measurements against drawn truth, over pages made for it and over the demo's own.

Every page is drawn, worn and scanned by the stand-ins with a fixed seed, so the figures are the same on every machine.
"""

import argparse
import json
import random
from collections.abc import Iterator
from pathlib import Path

import cv2
import numpy as np

from hollowstack.core.geometry import Quad
from hollowstack.core.measure import SURE_OF_TURN, measure
from hollowstack.core.pipeline import process_page
from hollowstack.core.plan import SURE_OF_TILT
from hollowstack.core.raster import Raster
from hollowstack.core.treatment import Treatment
from hollowstack.standins.skerry import cards, invoice, letters, logbook, notices
from hollowstack.standins.skerry.make import BUFF, CREAM, PINK, WHITE
from hollowstack.standins.skerry.paper import Wear, worn
from hollowstack.standins.skerry.scan import Capture, Glass, scan
from hollowstack.standins.skerry.sheet import Sheet

DEMO = Path(__file__).parents[1] / "demo" / "skerry-light"
Made = tuple[str, str, Sheet, Capture]


def drawn(seed: int, count: int) -> Iterator[Made]:
    """Pages of every kind with chance tilts, turns, lids and wear: kind, true colour content, sheet, capture."""
    for number in range(count):
        rng, noise = random.Random(seed + number), np.random.default_rng(seed + number)
        kinds = (
            ("letter", letters.letter(number % 4, rng), CREAM, "colour"),
            ("log", logbook.log_page(number % 4, number, rng), CREAM, "colour"),
            ("invoice", invoice.invoice(rng), PINK, "colour"),
            ("card", cards.card(number % 4, rng), BUFF, "colour"),
            ("report", notices.report_pages()[0], WHITE, "bitonal"),
            ("notice", notices.notice(number % 3, rng), WHITE, "bitonal"),
            ("blank", letters.blank(148, 210), CREAM, ""),
        )
        kind, sheet, paper, content = kinds[number % len(kinds)]
        lid = rng.choice((18, 40, 70, 205))
        margins = tuple(rng.uniform(4, 12) for _ in range(4)) if rng.random() < 0.7 else (0.0, 0.0, 0.0, 0.0)
        turn = rng.choice((0, 0, 90, 180, 270))
        wear = Wear(age=rng.uniform(0, 0.7), foxing=rng.uniform(0, 0.5), folds=rng.randint(0, 2), fade=rng.uniform(0, 0.25))
        back = letters.letter(number % 4, rng) if kind in {"blank", "log"} and rng.random() < 0.6 else None
        if back is not None and back.size != sheet.size:
            back = None
        surface = worn(sheet, paper, wear, noise, back)
        glass = Glass(tilt=rng.uniform(-5, 5), turn=turn, margins_mm=margins, lid=lid)  # type: ignore[arg-type]
        yield kind, content, sheet, scan(surface, sheet.words, glass, sheet.ppi, noise)


def overlap(one: Quad, other: Quad) -> float:
    shared, _ = cv2.intersectConvexConvex(one.array().astype(np.float32), other.array().astype(np.float32))
    return shared / (one.area() + other.area() - shared)


def upright(quad: Quad, turn: int) -> Quad:
    """A quad in reading order of the upright page, from one in the order of its scan."""
    return Quad.of(np.roll(quad.array(), turn // 90, axis=0))


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--pages", type=int, default=56)
    count = parser.parse_args().pages
    tilts, unsure_tilts, turns, unsure_turns, boxes, colours, blanks, false_blanks = [], 0, [], 0, [], [], [], []
    for kind, content, _, made in drawn(4200, count):
        found = measure(Raster(made.pixels, (300.0, 300.0)))
        blank = found.ink_percent < Treatment().blank_below
        if kind == "blank":
            blanks.append(blank)
            continue
        false_blanks.append(blank)
        if found.turn_confidence >= SURE_OF_TURN:
            turns.append(found.turn == (360 - made.turn) % 360)
        else:
            unsure_turns += 1
        if found.turn == (360 - made.turn) % 360:
            if found.tilt_confidence >= SURE_OF_TILT:
                tilts.append(abs(found.tilt_deg - made.tilt))
            else:
                unsure_tilts += 1
        if found.lid_seen:
            boxes.append(overlap(upright(found.page_quad, (360 - made.turn) % 360), made.quad))
        colours.append(found.colour == content)
    print(f"{count} drawn pages at 300 ppi, tilted up to 5 degrees, every way up, with and without a lid")
    off = np.array(tilts)
    print(
        f"tilt: mean error {off.mean():.3f}°, {100 * (off <= 0.1).mean():.0f} % within 0.1°, worst {off.max():.2f}°, {unsure_tilts} unsure"
    )
    print(f"upright turn: {100 * np.mean(turns):.1f} % of {len(turns)} right, {unsure_turns} unsure")
    print(f"page edges on a lid: mean IoU {np.mean(boxes):.4f}, least {min(boxes):.4f}, of {len(boxes)}")
    print(f"colour content: {100 * np.mean(colours):.0f} % right")
    print(
        f"blank pages found: {sum(blanks)} of {len(blanks)}; others taken for blank: {sum(false_blanks)} of {len(false_blanks)}"
    )
    words_read()


def words_read() -> None:
    """Recall of the demo's words in the reading, raw and clean, by kind of page."""
    truth = json.loads((DEMO / ".truth.json").read_text())
    shares: dict[str, list[float]] = {}
    for name, pages in truth.items():
        kind = name[3:].split(" ")[0].split(".")[0]
        for frame, known in enumerate(pages):
            if known["blank"] or name.startswith("07"):
                continue
            made = process_page(DEMO / name, frame, Treatment(), "eng")
            assert made.reading is not None
            read = {w.strip(".,:;") for w in made.reading.text.split()}
            shares.setdefault(kind, []).append(np.mean([w["text"].strip(".,:;") in read for w in known["words"]]))
    print("words read, of those drawn:", ", ".join(f"{kind} {100 * np.mean(s):.1f} %" for kind, s in shares.items()))


if __name__ == "__main__":
    main()
