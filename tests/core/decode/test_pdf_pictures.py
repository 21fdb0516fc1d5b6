"""Pictures in a PDF: taken out exactly where they are the page, and reckoned by their true place on it elsewhere."""

from pathlib import Path

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name, Pdf, Stream

from hollowstack.core.decode import decode
from hollowstack.core.page.raster import Raster

A4 = (595.276, 841.89)
Box = tuple[float, float, float, float]


def noise(width: int, height: int, seed: int = 1) -> np.ndarray:
    """Coarse blocks, so that a page of them is told from another by a look at it small."""
    coarse = np.random.default_rng(seed).integers(0, 256, (height // 100 + 1, width // 100 + 1), dtype=np.uint8)
    fine = np.random.default_rng(seed + 1).integers(0, 3, (height, width), dtype=np.uint8)
    return np.minimum(coarse.repeat(100, 0).repeat(100, 1)[:height, :width], 250) + fine


def written(folder: Path, pictures: list[tuple[np.ndarray, Box]], box: tuple[float, float], **page: object) -> Path:
    """A PDF of one page; ``form`` puts its pictures into a form with that matrix."""
    pdf = Pdf.new()
    objects, content = {}, ""
    for number, (pixels, (x, y, wide, high)) in enumerate(pictures):
        stream = Stream(pdf, pixels.tobytes())
        stream.Type, stream.Subtype, stream.BitsPerComponent = Name.XObject, Name.Image, 8
        stream.Width, stream.Height, stream.ColorSpace = pixels.shape[1], pixels.shape[0], Name.DeviceGray
        objects[f"/I{number}"] = pdf.make_indirect(stream)
        content += f"q {wide} 0 0 {high} {x} {y} cm /I{number} Do Q\n"
    if matrix := page.pop("form", None):
        form = Stream(pdf, content.encode())
        form.Type, form.Subtype, form.BBox = Name.XObject, Name.Form, Array([0, 0, 5000, 5000])
        form.Matrix, form.Resources = Array(matrix), Dictionary(XObject=Dictionary(objects))  # type: ignore[arg-type]
        objects, content = {"/F": pdf.make_indirect(form)}, "/F Do"
    entry = Dictionary(
        Type=Name.Page, MediaBox=Array([0, 0, *box]), Resources=Dictionary(XObject=Dictionary(objects)),
        Contents=pdf.make_indirect(Stream(pdf, content.encode())), **page,
    )  # fmt: skip
    pdf.pages.append(pikepdf.Page(pdf.make_indirect(entry)))
    path = folder / "page.pdf"
    pdf.save(path)
    return path


def whole(pixels: np.ndarray, folder: Path, **page: object) -> Raster:
    return decode(written(folder, [(pixels, (0, 0, *A4))], A4, **page))


@pytest.mark.parametrize(("size", "ppi"), [((2480, 3508), 300), ((1240, 1754), 150), ((1654, 2339), 200)])
def test_a_page_that_is_one_picture_comes_back_pixel_for_pixel(tmp_path, size, ppi):
    pixels = noise(*size)
    page = whole(pixels, tmp_path)
    assert np.array_equal(page.pixels, pixels)
    assert page.ppi == (ppi, ppi)


@pytest.mark.parametrize("turn", [90, 180, 270])
def test_a_turned_page_is_turned_exactly(tmp_path, turn):
    pixels = noise(1240, 1754)
    assert np.array_equal(whole(pixels, tmp_path, Rotate=turn).pixels, np.rot90(pixels, -turn // 90))


def test_user_units_are_reckoned_in(tmp_path):
    pixels = noise(2480, 3508)
    half = (A4[0] / 2, A4[1] / 2)
    page = decode(written(tmp_path, [(pixels, (0, 0, *half))], half, UserUnit=2))
    assert page.ppi == (300, 300)
    assert page.pixels.shape == pixels.shape


def test_the_finest_of_the_layers_that_cover_the_page_gives_its_resolution(tmp_path):
    layers = [(noise(827, 1169), (0, 0, *A4)), (noise(4961, 7016, 3), (0, 0, *A4))]
    page = decode(written(tmp_path, layers, A4))  # type: ignore[arg-type]
    assert page.ppi == pytest.approx((600, 600), abs=0.5)


def test_strips_count_together(tmp_path):
    strips = [(noise(4961, 1754, seed), (0, seed * A4[1] / 4, A4[0], A4[1] / 4)) for seed in range(4)]
    page = decode(written(tmp_path, strips, A4))  # type: ignore[arg-type]
    assert page.ppi == pytest.approx((600, 600), abs=0.5)


def test_a_small_picture_of_high_resolution_does_not_count(tmp_path):
    pictures = [(noise(1240, 1754), (0, 0, *A4)), (noise(900, 900, 5), (50, 50, 80, 80))]
    page = decode(written(tmp_path, pictures, A4))  # type: ignore[arg-type]
    assert page.ppi == pytest.approx((150, 150), abs=0.5)


def test_a_form_places_its_picture(tmp_path):
    picture = [(noise(2480, 3508), (0, 0, A4[0] * 2, A4[1] * 2))]
    page = decode(written(tmp_path, picture, A4, form=[0.5, 0, 0, 0.5, 0, 0]))  # type: ignore[arg-type]
    assert page.ppi == pytest.approx((300, 300), abs=0.5)


def test_a_picture_that_shows_otherwise_than_it_is_stored_is_drawn(tmp_path):
    path = written(tmp_path, [(noise(1240, 1754), (0, 0, *A4))], A4)
    with pikepdf.open(path, allow_overwriting_input=True) as pdf:
        pdf.pages[0].Resources.XObject["/I0"].Decode = Array([1, 0])
        pdf.save(path)
    assert np.mean(np.abs(decode(path).pixels.astype(int) - (255 - noise(1240, 1754)))) < 3


@pytest.mark.parametrize(
    ("form", "picture"),
    [
        ((0.5, 0, 0, 0.5, 0, 0), (0, 0, 2, 2)),
        ((0.5, 0, 0, 0.5, -100, -50), (200, 100, 2, 2)),
        ((2, 0, 0, 1, -300, -40), (150, 40, 0.5, 1)),
        ((0, 1, -1, 0, 595.276, 0), (0, 0, 841.89 / 595.276, 595.276 / 841.89)),
    ],
)
def test_a_picture_in_a_form_is_the_page_where_both_matrices_together_say_so(tmp_path, form, picture):
    """ISO 32000-1, 8.3.4: the picture's place in the form's space, times the form's place on the page."""
    x, y, across, down = picture
    pixels = noise(3508, 2480, 7) if form[0] == 0 else noise(2480, 3508)
    placed = [(pixels, (x, y, A4[0] * across, A4[1] * down))]
    page = decode(written(tmp_path, placed, A4, form=list(form)))  # type: ignore[arg-type]
    assert page.ppi == pytest.approx((300, 300), abs=0.5)
    shown = np.rot90(pixels) if form[0] == 0 else pixels
    assert np.abs(page.pixels.astype(int) - shown).mean() <= (0 if form[0] else 2)
