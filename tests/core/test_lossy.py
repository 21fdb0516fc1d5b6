"""Packing with loss: JPEG 2000 only where it is as near in every way and smaller, else JPEG."""

import datetime as dt
import io

import cv2
import numpy as np
import pikepdf
import pytest
from PIL import Image, ImageDraw, ImageFont

from hollowstack.core.bind import Binding, BoundPage, Description, bind, lossy
from hollowstack.core.bind.codecs import decode_encoded, encode_flate
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.jpeg2000 import encode_at, encode_reversible, is_reversible
from hollowstack.core.bind.layers.parts import Box, Layered, Patch
from hollowstack.core.bind.lossy import encode_jpeg, encode_lossy
from hollowstack.core.bind.without_jpeg2000 import without_jpeg2000

FONT = "src/hollowstack/standins/skerry/fonts/CourierPrime-Regular.ttf"


def old_paper(size: tuple[int, int] = (500, 640), *, colour: bool = True, grain: float = 9.0) -> np.ndarray:
    """A small page of old paper: writing over grain, a red line, soft rims."""
    image = Image.new("RGB", size, (222, 208, 176))
    pen, font = ImageDraw.Draw(image), ImageFont.truetype(FONT, 15)
    for at in range(20, size[1] - 20, 24):
        ink = (150, 30, 30) if at % 5 == 0 else (40, 34, 30)
        pen.text((18, at), "the lantern burned clear from dusk until the relief", fill=ink, font=font)
    values = cv2.GaussianBlur(np.asarray(image), (0, 0), 0.7).astype(np.float32)
    values += cv2.GaussianBlur(np.random.default_rng(7).normal(0, grain, values.shape), (0, 0), 0.8).astype(np.float32)
    page = np.clip(values, 0, 255).astype(np.uint8)
    return page if colour else cv2.cvtColor(page, cv2.COLOR_RGB2GRAY)


def light(pixels: np.ndarray) -> np.ndarray:
    return np.asarray(Image.fromarray(pixels).convert("L"), np.float64)


@pytest.mark.parametrize("quality", [40, 60, 85])
@pytest.mark.parametrize("colour", [True, False])
def test_what_takes_the_place_of_a_jpeg_is_as_near_and_smaller(colour, quality):
    page = old_paper(colour=colour)
    jpeg, made = encode_jpeg(page, quality), encode_lossy(page, quality)
    assert made.filter == "JPXDecode"
    assert made.bytes <= 0.9 * jpeg.bytes
    assert made.gray is not colour
    shown = {one.filter: decode_encoded(one) for one in (jpeg, made)}
    edges = cv2.morphologyEx(light(page).astype(np.uint8), cv2.MORPH_GRADIENT, np.ones((3, 3))) > 40
    assert 0.02 < edges.mean() < 0.5
    for where in (edges, np.ones_like(edges)):
        off = {name: ((light(page) - light(one)) ** 2)[where].mean() for name, one in shown.items()}
        assert off["JPXDecode"] <= off["DCTDecode"] * 1.01
    if colour:
        blues = {name: ((page[..., 2] - light(page)) - (one[..., 2] - light(one))) ** 2 for name, one in shown.items()}
        assert blues["JPXDecode"].mean() <= blues["DCTDecode"].mean() * 1.15


def test_no_more_pixels_than_a_viewer_unpacks_at_once(monkeypatch):
    page = old_paper()
    monkeypatch.setattr(lossy, "_MOST_PIXELS", 500 * 640)
    assert encode_lossy(page, 50).filter == "JPXDecode"
    monkeypatch.setattr(lossy, "_MOST_PIXELS", 500 * 640 - 1)
    assert encode_lossy(page, 50).filter == "DCTDecode"


def test_what_does_not_pay_stays_jpeg(monkeypatch):
    page = old_paper()
    share = encode_lossy(page, 50).bytes / encode_jpeg(page, 50).bytes
    monkeypatch.setattr(lossy, "_PAYS", share - 0.05)
    assert encode_lossy(page, 50).filter == "DCTDecode"


@pytest.mark.parametrize("shape", [(1, 1), (7, 300), (8, 300), (300, 8, 3), (40, 40), (3, 3, 3)])
@pytest.mark.parametrize("value", [0, 200, None])
def test_any_shape_and_any_values_are_packed(shape, value):
    values = np.random.default_rng(1).integers(0, 256, shape) if value is None else np.full(shape, value)
    made = encode_lossy(values.astype(np.uint8), 50)
    shown = decode_encoded(made)
    assert shown.shape == shape
    if value is not None:
        assert np.abs(shown.astype(int) - value).max() <= 2


def test_what_was_lost_can_be_told():
    page = old_paper(colour=False)
    exact = encode_reversible(page)
    assert exact is not None
    assert is_reversible(exact)
    assert not is_reversible(encode_at(page, 35.0))


def test_more_decibels_are_nearer():
    page = old_paper()
    far, near = (encode_at(page, level) for level in (28.5, 29.0))
    assert far.bytes < near.bytes
    off = [np.mean((decode_encoded(one).astype(int) - page) ** 2) for one in (far, near)]
    assert off[1] < off[0]


def test_part_1_gets_jpeg_of_what_had_lost_something_and_all_values_of_the_rest():
    page = old_paper()
    lost, exact, flate = encode_at(page, 34.0), encode_reversible(page), encode_flate(page)
    assert exact is not None
    made = without_jpeg2000(lost)
    assert isinstance(made, EncodedImage)
    assert made.filter == "DCTDecode"
    assert np.abs(decode_encoded(made).astype(int) - decode_encoded(lost)).mean() < 4
    kept = without_jpeg2000(exact)
    assert isinstance(kept, EncodedImage)
    assert kept.filter == "FlateDecode"
    assert np.array_equal(decode_encoded(kept), page)
    assert without_jpeg2000(flate) is flate


def test_part_1_takes_no_patch_by_jpeg_2000(tmp_path):
    page = old_paper()
    layered = Layered((500, 640), False, (222, 208, 176), (Patch(encode_at(page, 34.0), Box(0, 0, 500, 640)),), None)
    about = Description("Lamp", dt.datetime(2026, 3, 1, 9, tzinfo=dt.UTC))
    for flavour, filters in (("PDF/A-1b", {"/DCTDecode"}), ("PDF/A-2u", {"/JPXDecode"})):
        path = tmp_path / "a.pdf"
        bind([BoundPage(layered, (100, 100), None, "1")], path, Binding(about, flavour))
        with pikepdf.open(path) as pdf:
            assert {str(one.Filter) for one in pdf.pages[0].Resources.XObject.values()} == filters


def test_the_jpeg_is_progressive_with_colour_at_half():
    jpeg = Image.open(io.BytesIO(encode_jpeg(old_paper(), 50).data))
    assert jpeg.info["progressive"]
    assert [component[1:3] for component in jpeg.layer] == [(2, 2), (1, 1), (1, 1)]
