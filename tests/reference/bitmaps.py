"""Bitmaps of every kind, and what two decoders that have nothing to do with ours make of their code."""

import subprocess
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.two_tones import decode_two_tones

_FONTS = sorted(Path("src/hollowstack/standins/skerry/fonts").glob("*.[ot]tf"))
_WORDS = ["the", "lantern", "burned", "clear", "from", "dusk", "until", "the", "relief", "boat", "came", "alongside", "at", "ten", "past", "seven", "with", "12", "casks", "of", "oil", "and", "the", "mail", "No.", "4471", "£18", "6s", "2d"]  # fmt: skip


def random_bitmap(seed: int) -> np.ndarray:
    """A small bitmap: noise of any density, a screen, blots, rules or a few shapes that come again; 1 is ink."""
    rng = np.random.default_rng(seed)
    rows, cols = (int(value) for value in rng.integers(1, 120, 2))
    kind = seed % 5
    if kind == 0:
        return (rng.random((rows, cols)) < rng.random()).astype(np.uint8)
    y, x = np.mgrid[0:rows, 0:cols]
    if kind == 1:
        step = int(rng.integers(2, 12))
        return ((x % step + y % step) < rng.integers(1, step + 1)).astype(np.uint8)
    page = np.zeros((rows, cols), np.uint8)
    if kind == 2:
        page[:: int(rng.integers(1, 9))] = 1
        return page
    shape = (rng.random((int(rng.integers(4, 12)), int(rng.integers(4, 12)))) < 0.8).astype(np.uint8)
    for _ in range(int(rng.integers(1, 30))):
        one = shape ^ (rng.random(shape.shape) < (0 if kind == 3 else 0.04))
        top, left = int(rng.integers(0, rows)), int(rng.integers(0, cols))
        part = page[top : top + one.shape[0], left : left + one.shape[1]]
        part |= one[: part.shape[0], : part.shape[1]].astype(np.uint8)
    return page


def page_bitmap(seed: int) -> np.ndarray:
    """A page of text in some type at some resolution: crisp, or with edges as a scanner gives them; some with a screen."""
    rng = np.random.default_rng(seed)
    ppi = float(rng.choice([100, 150, 200, 300]))
    size = (round(5.8 * ppi), round(8.3 * ppi))
    image = Image.new("L", size, 255)
    pen = ImageDraw.Draw(image)
    font = ImageFont.truetype(str(rng.choice(np.array(_FONTS, str))), round(ppi * rng.uniform(9, 14) / 72))
    line, left, down = "", ppi / 2, ppi / 2
    while down < size[1] - ppi / 2:
        word = str(rng.choice(_WORDS))
        if font.getlength(f"{line} {word}") > size[0] - ppi:
            pen.text((left, down), line, fill=0, font=font)
            line, down = word, down + 1.4 * font.size
        else:
            line = f"{line} {word}".strip()
    pixels = np.asarray(image, np.float32)
    if seed % 3:
        pixels = pixels + rng.normal(0, 40, pixels.shape).astype(np.float32)
    if seed % 4 == 0:
        high, wide = round(ppi), round(2 * ppi)
        y, x = np.mgrid[0:high, 0:wide]
        pixels[-high - 50 : -50, 50 : 50 + wide] = 255 * ((x // 3 + y // 3) % 2)
    return (pixels < 128).astype(np.uint8)


def by_jbig2dec(data: bytes, folder: Path) -> np.ndarray:
    """What Debian's decoder makes of a page as a PDF holds it; it says nothing."""
    source, target = folder / "page.jb2", folder / "page.pbm"
    source.write_bytes(data)
    done = subprocess.run(["jbig2dec", "-e", "-t", "pbm", "-o", target, source], check=True, capture_output=True, text=True)
    assert done.stdout + done.stderr == ""
    with Image.open(target) as image:
        return 1 - np.asarray(image.convert("1")).astype(np.uint8)


def by_pdfium(data: bytes, shape: tuple[int, int]) -> np.ndarray:
    """What PDFium makes of it."""
    image = EncodedImage("JBIG2Decode", data, (shape[1], shape[0]), gray=True)
    return (decode_two_tones(image) == 0).astype(np.uint8)
