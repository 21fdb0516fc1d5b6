"""Two tones by JBIG2: every pixel comes back, shapes are shared, and what did not come back is kept as Group 4."""

import logging

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw, ImageFont

from hollowstack.core.bind import jbig2, two_tones
from hollowstack.core.bind.codecs import encode, encode_lossless
from hollowstack.core.bind.jbig2 import generic, segments, shapes
from hollowstack.core.bind.two_tones import decode_two_tones, encode_two_tones
from hollowstack.core.page.raster import Raster
from tests.examples import about

SYMBOLS, TEXT, GENERIC = 0, 7, 39


def back(bitmap: np.ndarray) -> np.ndarray:
    """A bitmap coded and decoded, without the net that catches what was not coded rightly."""
    data = jbig2.encode_page(bitmap)
    image = two_tones.EncodedImage("JBIG2Decode", data, (bitmap.shape[1], bitmap.shape[0]), gray=True)
    return (decode_two_tones(image) == 0).astype(np.uint8)


def kinds(data: bytes) -> list[int]:
    """The types of the segments of a page."""
    found, at = [], 0
    while at < len(data):
        found.append(data[at + 4] & 0x3F)
        referred = data[at + 5] >> 5
        length = int.from_bytes(data[at + 7 + referred : at + 11 + referred], "big")
        at += 11 + referred + length
    assert at == len(data)
    return found


def letters(text: str, size: int = 40, wide: int = 1600) -> np.ndarray:
    image = Image.new("L", (wide, 2 * size), 255)
    font = ImageFont.truetype("src/hollowstack/standins/skerry/fonts/CourierPrime-Regular.ttf", size)
    ImageDraw.Draw(image).text((10, 10), text, fill=0, font=font)
    return (np.asarray(image) < 128).astype(np.uint8)


@settings(max_examples=about(60))
@given(st.integers(1, 40), st.integers(1, 40), st.randoms(use_true_random=False))
def test_any_bitmap_comes_back(rows, cols, chance):
    bitmap = np.array([[chance.random() < 0.4 for _ in range(cols)] for _ in range(rows)], np.uint8)
    assert np.array_equal(back(bitmap), bitmap)


@pytest.mark.parametrize("value", [0, 1])
@pytest.mark.parametrize("shape", [(1, 1), (1, 3000), (3000, 1), (64, 64)])
def test_all_paper_and_all_ink(shape, value):
    bitmap = np.full(shape, value, np.uint8)
    assert np.array_equal(back(bitmap), bitmap)


def test_letters_that_come_again_are_shared():
    page = letters("eeee oooo eeee oooo eeee oooo")
    data = jbig2.encode_page(page)
    assert kinds(data) == [48, SYMBOLS, TEXT]
    assert np.array_equal(back(page), page)
    assert len(data) < 0.6 * len(jbig2.segment(1, GENERIC, jbig2._region(page, segments.Place(1600, 80))))


def test_a_six_never_becomes_an_eight():
    """Shapes that are alike are coded with all that makes them differ; here nothing but a few pixels tells one from another."""
    page = letters("8888888888888888")
    count, labels = cv2.connectedComponents(page, connectivity=8)
    for at in range(2, count, 2):
        rows, cols = np.nonzero(labels == at)
        page[rows.min() + (at % 7), cols.max() - (at % 3) : cols.max() + 1] ^= 1
    assert TEXT in kinds(jbig2.encode_page(page))
    assert np.array_equal(back(page), page)


def test_a_shape_that_stands_once_is_no_symbol():
    assert kinds(jbig2.encode_page(letters("abc"))) == [48, GENERIC]


@pytest.mark.parametrize("gap", [3, 19, 20, 83, 84, 339, 340, 4435, 4436, 9000])
def test_shapes_stand_however_far_apart(gap):
    """The places of T.88, table A.1, where a number takes more bits."""
    for across in (True, False):
        page = np.zeros((40, gap + 120) if across else (gap + 120, 40), np.uint8)
        shape = letters("g", 30, 60)[8:50, 8:30]
        for at in (0, gap + 60):
            top, left = (0, at) if across else (at, 0)
            part = page[top : top + shape.shape[0], left : left + shape.shape[1]]
            part |= shape[: part.shape[0], : part.shape[1]]
        assert np.array_equal(back(page), page)


def test_symbols_at_their_places_and_the_rest_are_the_page():
    rng = np.random.default_rng(8)
    page = letters("the lantern and the boat") | (rng.random((80, 1600)) < 0.002).astype(np.uint8)
    found = shapes.shapes_of(page)
    assert found is not None
    whole = found.rest.copy()
    for use in found.uses:
        bitmap = use.bitmap if use.bitmap is not None else found.symbols[use.symbol]
        top = use.bottom - bitmap.shape[0] + 1
        assert not (whole[top : top + bitmap.shape[0], use.left : use.left + bitmap.shape[1]] & bitmap).any()
        whole[top : top + bitmap.shape[0], use.left : use.left + bitmap.shape[1]] |= bitmap
    assert np.array_equal(whole, page)
    assert [one.shape for one in found.symbols] == sorted(one.shape for one in found.symbols)
    assert found.rest.sum() < 0.3 * page.sum()


@pytest.mark.parametrize(("side", "shared"), [(160, True), (161, False)])
def test_what_is_larger_than_a_letter_is_none(side, shared):
    page = np.zeros((200, 500), np.uint8)
    page[10 : 10 + side, 10:30] = page[10 : 10 + side, 200:220] = 1
    assert (shapes.shapes_of(page) is not None) == shared


@pytest.mark.parametrize(("side", "shared"), [(5, True), (4, False)])
def test_specks_are_no_letters(side, shared):
    page = np.zeros((60, 60), np.uint8)
    page[5 : 5 + side, 5 : 5 + side] = page[5 : 5 + side, 30 : 30 + side] = 1
    assert (shapes.shapes_of(page) is not None) == shared


def test_more_shapes_than_a_page_of_text_has_are_a_screen(monkeypatch):
    page = letters("eeee oooo")
    count = len(shapes.shapes_of(page).uses)
    monkeypatch.setattr(shapes, "_MOST_SHAPES", count + 1)  # the background counts, too
    assert shapes.shapes_of(page) is not None
    monkeypatch.setattr(shapes, "_MOST_SHAPES", count)
    assert shapes.shapes_of(page) is None


@pytest.mark.parametrize("period", [6, 9, 17])
def test_a_screen_is_coded_by_its_period(period):
    rng = np.random.default_rng(4)
    cells = rng.random((300, 40, period)) < 0.5
    page = np.tile(cells[:, :1], (1, 40, 1)).reshape(300, -1).astype(np.uint8)
    page ^= (rng.random(page.shape) < 0.01).astype(np.uint8)
    at = generic.adaptive_for(page)
    assert at == (-period, 0)
    assert np.array_equal(back(page), page)


def test_text_leaves_the_template_as_it_is():
    assert generic.adaptive_for(letters("the lantern burned clear")) == (3, -1)


def test_a_page_is_smaller_than_by_group_4():
    text = "the lantern burned clear until dawn, and the boat lay off the landing"
    page = np.where(letters(text, 30, 1400) > 0, 0, 255).astype(np.uint8)
    small, large = (encode_two_tones(page, how) for how in ("JBIG2", "Group 4"))
    assert (small.filter, large.filter) == ("JBIG2Decode", "CCITTFaxDecode")
    assert len(small.data) < 0.75 * len(large.data)
    for one in (small, large):
        assert np.array_equal(decode_two_tones(one), page)


def test_what_does_not_come_back_is_kept_as_group_4(monkeypatch, caplog):
    page = np.where(letters("the lantern") > 0, 0, 255).astype(np.uint8)
    true = jbig2.encode_page

    def spoilt(bitmap):
        wrong = bitmap.copy()
        wrong[3, 3] ^= 1
        return true(wrong)

    monkeypatch.setattr(jbig2, "encode_page", spoilt)
    with caplog.at_level(logging.ERROR):
        made = encode_two_tones(page, "JBIG2")
    assert made.filter == "CCITTFaxDecode"
    assert np.array_equal(decode_two_tones(made), page)
    assert "did not come back" in caplog.text


def test_what_no_viewer_opens_is_kept_as_group_4(monkeypatch):
    page = np.where(letters("the lantern") > 0, 0, 255).astype(np.uint8)
    true = jbig2.encode_page
    monkeypatch.setattr(jbig2, "encode_page", lambda bitmap: true(bitmap)[:-40])
    assert encode_two_tones(page, "JBIG2").filter == "CCITTFaxDecode"


def test_a_rule_is_not_made_into_one_that_lies_beside_it():
    """Of two rules of a pixel's height the one would be moved by its own height: a decoder is known to leave it where it is."""
    page = np.zeros((300, 1200), np.uint8)
    for at, (high, wide) in enumerate(((1, 33), (3, 33), (1, 33), (3, 33), (2, 33)) * 4):
        page[10 + 11 * at : 10 + 11 * at + high, 40 * at : 40 * at + wide] = 1
    found = shapes.shapes_of(page)
    assert found is not None
    for use in found.uses:
        rows, cols = found.symbols[use.symbol].shape
        assert abs(use.dx) < cols and abs(use.dy) < rows  # noqa: PT018
    assert np.array_equal(back(page), page)


@pytest.mark.parametrize(("packing", "filter_"), [("JBIG2", "JBIG2Decode"), ("Group 4", "CCITTFaxDecode")])
def test_a_bitonal_page_is_packed_as_is_said(packing, filter_):
    page = Raster(np.full((30, 40), 255, np.uint8), (300.0, 300.0))
    assert encode(page, "bitonal", 50, packing).filter == filter_
    assert encode_lossless(page, "bitonal", packing).filter == filter_


@pytest.mark.parametrize(("number", "refers_to"), [(256, []), (-1, []), (0, [1, 2, 3, 4, 5])])
def test_segments_have_bounds(number, refers_to):
    with pytest.raises(ValueError, match="numbered below 256"):
        segments.segment(number, GENERIC, b"", refers_to=refers_to)
