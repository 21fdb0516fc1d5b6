"""Documents: what is in them, and that they are the same every time."""

import datetime as dt
import io
from pathlib import Path

import numpy as np
import pikepdf
import pypdfium2
import pytest

from hollowstack.core.bind import Binding, BoundPage, Description, bind
from hollowstack.core.bind.codecs import decode_encoded, encode
from hollowstack.core.bind.font import truetype
from hollowstack.core.ocr.model import Line, Reading, Word
from hollowstack.core.page.errors import BindError
from hollowstack.core.page.raster import Raster
from hollowstack.core.read.languages import language_tag

ABOUT = Binding(Description("Box 27 & <more>", dt.datetime(2026, 3, 1, 9, tzinfo=dt.UTC), "en"))
RNG = np.random.default_rng(4)


def page(mode="grey", size=(600, 800), words=("Lamp", "burning", "clear"), label="1") -> BoundPage:
    width, height = size
    pixels = np.full((height, width, 3) if mode == "colour" else (height, width), 255, np.uint8)
    pixels[100:130, 80:400] = 0
    found = [Word(text=w, box=(80 + 110 * i, 100, 170 + 110 * i, 130), confidence=90) for i, w in enumerate(words)]
    reading = (
        Reading(language="eng", size_px=size, lines=[Line(words=found, baseline=(80, 126, 400, 126))]) if words else None
    )
    return BoundPage(encode(Raster(pixels, (200, 200)), mode, 60), (200, 200), reading, label)


@pytest.mark.parametrize("mode", ["bitonal", "grey", "colour"])
def test_the_picture_is_seen_as_it_was(tmp_path: Path, mode):
    bind([page(mode)], tmp_path / "a.pdf", ABOUT)
    shown = pypdfium2.PdfDocument(tmp_path / "a.pdf")[0].render(scale=200 / 72).to_numpy()
    assert shown.shape[:2] == (800, 600)
    assert shown[115, 200].max() < 10
    assert shown[400, 300].min() > 245


@pytest.mark.parametrize("size", [(1, 1), (7, 3), (64, 64), (601, 333)])
def test_group_4_is_lossless(size):
    pixels = np.where(RNG.random((size[1], size[0])) > 0.4, 255, 0).astype(np.uint8)
    assert np.array_equal(decode_encoded(encode(Raster(pixels), "bitonal", 50)), pixels)


@pytest.mark.parametrize(("mode", "space"), [("bitonal", "/DeviceGray"), ("grey", "/ICCBased"), ("colour", "/DeviceRGB")])
def test_tones_are_tagged(tmp_path: Path, mode, space):
    """Grey has a profile with the curve of sRGB; colour has the output intent's sRGB profile."""
    bind([page(mode)], tmp_path / "a.pdf", ABOUT)
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        found = pdf.pages[0].Resources.XObject.Im.ColorSpace
        assert str(found[0] if isinstance(found, pikepdf.Array) else found) == space
        assert pdf.Root.OutputIntents[0].DestOutputProfile.N == 3


def test_page_size_is_the_papers(tmp_path: Path):
    bind([page(size=(600, 800))], tmp_path / "a.pdf", ABOUT)
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        assert [float(v) for v in pdf.pages[0].MediaBox] == pytest.approx([0, 0, 216, 288])


def test_a_strip_longer_than_a_page_may_be_keeps_its_true_size(tmp_path: Path):
    long = page(size=(50, 45_000), words=())
    bind([BoundPage(long.image, (200, 200), None, "1")], tmp_path / "a.pdf", ABOUT)
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        one = pdf.pages[0]
        assert float(one.MediaBox[3]) <= 14_400
        assert float(one.MediaBox[3]) * float(one.UserUnit) == pytest.approx(45_000 / 200 * 72, rel=1e-4)


def test_same_pages_same_bytes(tmp_path: Path):
    for name in ("a.pdf", "b.pdf"):
        bind([page(), page("bitonal"), page("colour")], tmp_path / name, ABOUT)
    assert (tmp_path / "a.pdf").read_bytes() == (tmp_path / "b.pdf").read_bytes()


def test_text_of_every_script_comes_back(tmp_path: Path):
    words = ("Größe", "ναῦς", "маяк", "𝔉𝔯", "fi\ufeffn\x00")
    bind([page(words=words)], tmp_path / "a.pdf", ABOUT)
    text = pypdfium2.PdfDocument(tmp_path / "a.pdf")[0].get_textpage().get_text_bounded()
    assert text.split() == ["Größe", "ναῦς", "маяк", "𝔉𝔯", "fin"]


def test_metadata_says_the_same_twice(tmp_path: Path):
    bind([page()], tmp_path / "a.pdf", ABOUT)
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        xmp = pdf.open_metadata()
        assert (xmp["pdfaid:part"], xmp["pdfaid:conformance"]) == ("2", "U")
        assert xmp["dc:title"] == str(pdf.docinfo.Title) == "Box 27 & <more>"
        assert str(pdf.docinfo.CreationDate) == "D:20260301090000+00'00'"
        assert xmp["xmp:CreateDate"] == "2026-03-01T09:00:00+00:00"
        assert str(pdf.Root.Lang) == "en"


def test_labels(tmp_path: Path):
    bind([page(label=label) for label in ("i", "ii", "1", "2", "7a", "8")], tmp_path / "a.pdf", ABOUT)
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        assert [one.label for one in pdf.pages] == ["i", "ii", "1", "2", "7a", "8"]


def test_nothing_to_bind_leaves_nothing_behind(tmp_path: Path):
    with pytest.raises(BindError, match="no page"):
        bind([], tmp_path / "a.pdf", ABOUT)
    assert list(tmp_path.iterdir()) == []


def test_a_failing_page_leaves_no_partial_file(tmp_path: Path):
    def pages():
        yield page()
        raise RuntimeError

    with pytest.raises(RuntimeError):
        bind(pages(), tmp_path / "a.pdf", ABOUT)
    assert list(tmp_path.iterdir()) == []


def test_a_folder_that_is_not_there_is_said(tmp_path: Path):
    with pytest.raises(BindError, match="cannot be written"):
        bind([page()], tmp_path / "none" / "a.pdf", ABOUT)


def test_the_font_is_a_font():
    """Opened by FreeType, which reads the tables itself."""
    from PIL import ImageFont

    font = ImageFont.truetype(io.BytesIO(truetype()), 100)
    assert font.getlength("\uf000") == 50
    assert font.getmask("\uf000").getbbox() is None  # nothing is drawn


@pytest.mark.parametrize(
    ("engine", "tag"),
    [
        ("eng", "en"), ("deu+eng", "de"), ("ell", "el"), ("grc", "grc"), ("chi_sim", "zh-Hans"), ("chi_tra_vert", "zh-Hant"),
        ("frk", "de-Latf"), ("deu_latf", "de-Latf"), ("jpn_vert", "ja"), ("ita_old", "it"), ("osd", "und"), ("snum", "und"),
    ],
)  # fmt: skip
def test_languages_are_named_as_bcp_47_has_them(engine, tag):
    """Codes by RFC 5646; what Tesseract calls ``frk`` is German Fraktur, not Frankish."""
    assert language_tag(engine) == tag


@pytest.mark.parametrize("fall", [-14, 0, 14])
def test_words_lie_on_a_baseline_that_rises_or_falls(tmp_path: Path, fall):
    """PDFium finds each word where its box is, and the line turned as its baseline is."""
    words = [
        Word(text=text, box=(60 + 180 * n, 200 + fall * n, 220 + 180 * n, 230 + fall * n), confidence=90)
        for n, text in enumerate(("lamp", "beam", "oil"))
    ]
    line = Line(words=words, baseline=(60.0, 226.0 - fall * 0.44, 600.0, 226.0 + fall * 2.56))
    made = BoundPage(page().image, (200, 200), Reading(language="eng", size_px=(600, 800), lines=[line]), "1")
    bind([made], tmp_path / "a.pdf", ABOUT)
    shown = pypdfium2.PdfDocument(tmp_path / "a.pdf")[0]
    text = shown.get_textpage()
    for word in words:
        hit = text.search(word.text).get_next()
        assert hit is not None
        boxes = [text.get_charbox(at, loose=True) for at in range(hit[0], hit[0] + hit[1])]
        middle = sum(box[1] + box[3] for box in boxes) / (2 * len(boxes))
        wanted = (800 - (word.box[1] + word.box[3]) / 2) * 72 / 200
        assert middle == pytest.approx(wanted, abs=4)
        first, last = ((box[1] + box[3]) / 2 for box in (boxes[0], boxes[-1]))
        assert np.sign(round(first - last, 1)) == np.sign(fall)


@pytest.mark.parametrize("fall", [0.0, 0.3, -0.8, 5.0])
@pytest.mark.parametrize("ppi", [100.0, 300.0, 317.3])
def test_what_is_rounded_does_not_add_up_along_a_line(tmp_path: Path, ppi, fall):
    """Sixty words, each found where it is within two tenths of a point, on one line said once."""
    boxes = [(31 + 37.3 * n, 400 + fall * n, 62 + 37.3 * n, 431 + fall * n) for n in range(60)]
    words = [Word(text=f"w{n:02}", box=tuple(map(round, box)), confidence=90) for n, box in enumerate(boxes)]
    start = 428.0 - fall * 30 / 37.3
    line = Line(words=words, baseline=(0.0, start, 2300.0, start + fall * 2300 / 37.3))
    reading = Reading(language="eng", size_px=(2400, 1200), lines=[line, line])
    image = encode(Raster(np.full((1200, 2400), 255, np.uint8)), "bitonal", 50)
    bind([BoundPage(image, (ppi, ppi), reading, "1")], tmp_path / "a.pdf", ABOUT)
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        said = pdf.pages[0].Contents.read_bytes()
    assert said.count(b"Tm") <= 2
    assert said.count(b"Td") >= 118
    text, per_px = pypdfium2.PdfDocument(tmp_path / "a.pdf")[0].get_textpage(), 72 / ppi
    leaning = abs(fall) / 37.3 * 40 * per_px  # a turned letter's box is wider than the letter
    for word in words:
        at, count = text.search(word.text).get_next()
        boxes = [text.get_charbox(one, loose=True) for one in range(at, at + count)]
        assert boxes[0][0] == pytest.approx(word.box[0] * per_px, abs=0.25 + leaning)
        assert boxes[-1][2] == pytest.approx(word.box[2] * per_px, abs=0.45 + leaning)


def test_quality_is_worth_its_bytes():
    pixels = RNG.integers(0, 256, (300, 300, 3), dtype=np.uint8)
    low, high = (encode(Raster(pixels), "colour", quality) for quality in (30, 90))
    assert len(high.data) > 1.5 * len(low.data)
    off = [np.abs(decode_encoded(made).astype(int) - pixels).mean() for made in (low, high)]
    assert off[1] < off[0]


@pytest.mark.parametrize(("baseline", "middle"), [(228.0, 215), (258.0, 233), (262.0, 215), (150.0, 215)])
def test_a_baseline_that_runs_past_its_word_is_not_gone_by(tmp_path: Path, baseline, middle):
    """No farther below the word than it is high: then its box alone is trusted."""
    line = Line(
        words=[Word(text="lamp", box=(60, 200, 220, 230), confidence=90)], baseline=(60.0, baseline, 600.0, baseline)
    )
    made = BoundPage(page().image, (200, 200), Reading(language="eng", size_px=(600, 800), lines=[line]), "1")
    bind([made], tmp_path / "a.pdf", ABOUT)
    text = pypdfium2.PdfDocument(tmp_path / "a.pdf")[0].get_textpage()
    bottom, top = (text.get_charbox(0, loose=True)[n] for n in (1, 3))
    assert 800 - (bottom + top) / 2 * 200 / 72 == pytest.approx(middle, abs=3)
