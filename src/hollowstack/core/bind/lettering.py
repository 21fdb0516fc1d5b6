"""Letters drawn into images, by the fonts that ship."""

from functools import cache, lru_cache
from pathlib import Path

from PIL import ImageFont

_FONTS = Path(__file__).parent / "fonts"
_NO_SHAPE = "\u25a1"
"""Drawn for a character that none of the fonts has."""


@lru_cache(20_000)
def length(text: str, size_px: float, *, bold: bool = False) -> float:
    """How wide a text is drawn, in pixels."""
    return sum(font.getlength(piece) for piece, font in by_font(text, size_px, bold=bold))


def by_font(text: str, size_px: float, *, bold: bool = False) -> list[tuple[str, ImageFont.FreeTypeFont]]:
    """A text in runs of characters that one of the fonts has; others are drawn as a box."""
    fonts = _fonts(round(size_px), bold)
    runs: list[tuple[str, ImageFont.FreeTypeFont]] = []
    for char in text:
        font = next((one for one in fonts if _has(one, char)), None)
        shape, font = (char, font) if font is not None else (_NO_SHAPE, fonts[0])
        if runs and runs[-1][1] is font:
            runs[-1] = (runs[-1][0] + shape, font)
        else:
            runs.append((shape, font))
    return runs


@cache
def _fonts(size_px: int, bold: bool) -> tuple[ImageFont.FreeTypeFont, ...]:
    weight = 600 if bold else 400
    return tuple(
        ImageFont.truetype(
            str(_FONTS / f"atkinson-hyperlegible-next-{part}-{weight}-normal.woff"),
            size_px,
            layout_engine=ImageFont.Layout.BASIC,
        )
        for part in ("latin", "latin-ext")
    )


@cache
def _has(font: ImageFont.FreeTypeFont, char: str) -> bool:
    """Whether a font has a shape of its own for a character: all that it has not look like one that none has."""
    return char.isspace() or bytes(font.getmask(char)) != bytes(font.getmask("\uffff"))
