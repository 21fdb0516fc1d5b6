"""A storm warning with letters as wide as a thumb and a photograph, and the green sheet that divides a file."""

import random

import cv2
import numpy as np

from hollowstack.standins.skerry.sheet import BLACK, RED, Layer, Sheet, fitted

_TEXT = (
    "On the evening of the 28th the glass fell faster than any keeper here has seen it fall. All vessels are advised to "
    "lie in Port Annet until the cone is taken down.",
    "The view shows the station at half tide, taken from the relief boat in better weather.",
)


def poster(rng: random.Random) -> Sheet:
    """A storm warning, 180 × 250 mm: solid letters, a solid band, a photograph in the text."""
    sheet = Sheet(180, 250)
    sheet.block(12, 12, 168, 30, RED)
    sheet.print(90, 78, "STORM", "LeagueGothic-Regular", 190, BLACK, "ms")
    sheet.print(90, 94, "THE CONE IS HOISTED AT SKERRY LIGHT", "LeagueGothic-Regular", 26, BLACK, "ms")
    sheet.tone(22, 104, station_view(rng, sheet.px(88), sheet.px(66)), BLACK)
    y = 110.0
    for line in fitted(sheet, _TEXT[0], "GoudyBookletter1911-Regular", 14, 46):
        sheet.print(116, y, line, "GoudyBookletter1911-Regular", 14)
        y += 7.4
    y = 186.0
    for line in fitted(sheet, _TEXT[1], "OldStandardTT-Italic", 12, 136):
        sheet.print(22, y, line, "OldStandardTT-Italic", 12)
        y += 6.4
    sheet.block(22, 204, 52, 234, BLACK)
    sheet.print(60, 216, "A. MERRIWETHER, Secretary", "OldStandardTT-Regular", 12)
    sheet.print(60, 226, "By order of the Trustees, 29th October 1927", "OldStandardTT-Regular", 12)
    return sheet


def divider(rng: random.Random) -> Sheet:
    """A sheet of plain coloured card with nothing on it: it says where a file begins."""
    return Sheet(210, 297)


def station_view(rng: random.Random, width: int, height: int) -> Layer:
    """A light on its rock as a photograph has it, drawn: coverage of ink, 0 (paper) to 1, (height, width)."""
    chance = np.random.default_rng(rng.randrange(1 << 30))
    x, y = np.meshgrid(np.linspace(0, 1, width, dtype=np.float32), np.linspace(0, 1, height, dtype=np.float32))
    light = 0.86 - 0.42 * y + 0.10 * _clouds(chance, width, height, 5) * (1 - y)
    sea = 0.34 + 0.10 * _clouds(chance, width, height, 40) + 0.12 * np.exp(-(((x - 0.62) / 0.12) ** 2))
    light = np.where(y > 0.72, sea, light)
    rock = y > 0.80 - 0.16 * np.exp(-(((x - 0.36) / 0.17) ** 2)) + 0.02 * np.sin(31 * x)
    light = np.where(rock & (np.abs(x - 0.36) < 0.36), 0.20 + 0.07 * _clouds(chance, width, height, 24), light)
    half = 0.030 + 0.020 * (y - 0.14) / 0.52
    tower = (np.abs(x - 0.36) < half) & (y > 0.20) & (y < 0.66)
    light = np.where(tower, 0.92 - 0.5 * np.clip((x - 0.33) / 0.09, 0, 1), light)
    lamp = (np.abs(x - 0.36) < 0.022) & (y > 0.12) & (y <= 0.20)
    light = np.where(lamp, 0.10 + 0.8 * (np.abs(x - 0.36) < 0.008), light)
    light = cv2.GaussianBlur(light.astype(np.float32), (0, 0), 1.6)
    light += 0.015 * chance.standard_normal(light.shape).astype(np.float32)
    return np.asarray(1 - np.clip(light, 0.04, 0.97), np.float32)


def _clouds(chance: np.random.Generator, width: int, height: int, fine: int) -> Layer:
    small = chance.standard_normal((max(2, fine * height // width), fine)).astype(np.float32)
    return np.asarray(cv2.resize(small, (width, height), interpolation=cv2.INTER_CUBIC), np.float32)
