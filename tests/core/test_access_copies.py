"""Access copies: what is covered is gone, from image, text and metadata; they are marked, locked, and never PDF/A."""

from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pikepdf
import pypdfium2 as pdfium
import pytest

from hollowstack.core.access import AccessOrder, AccessPage, Mark, Passwords, Watermark, copying, make_access_copy
from hollowstack.core.access.covering import Covered, without_pixels, without_words
from hollowstack.core.access.proving import Expected, prove
from hollowstack.core.bind import Bookmark, BoundPage
from hollowstack.core.bind.codecs import decode_encoded, encode, encode_flate
from hollowstack.core.bind.drawn_pages import Part, drawn_pages
from hollowstack.core.bind.layers.parts import Box, Layered, Patch
from hollowstack.core.bind.layers.separating import separate
from hollowstack.core.page.errors import BindError
from hollowstack.core.page.raster import Raster

CREATED = datetime(2026, 3, 1, 9, tzinfo=UTC)
SECRET = "Merriwether"


@pytest.fixture(scope="module")
def pages() -> list[BoundPage]:
    text = f"The keeper {SECRET} wrote on 24 January that the east davit was carried away by the sea."
    one, two = (next(drawn_pages(f"Letter {n}", [Part("On the storm", [text] * 3)], "Box 27")) for n in (1, 2))
    return [replace(one, label="i"), replace(two, label="ii")]


def place_of(page: BoundPage, text: str, which: int = 0) -> tuple[float, float, float, float]:
    assert page.reading is not None
    box = [word.box for word in page.reading.words if word.text == text][which]
    width, height = page.image.size_px
    return box[0] / width, box[1] / height, box[2] / width, box[3] / height


def cover(page: BoundPage, text: str, which: int = 0) -> Mark:
    return Mark(kind="cover", box=place_of(page, text, which))


def all_covered(page: BoundPage) -> tuple[Mark, ...]:
    return tuple(cover(page, SECRET, which) for which in range(3))


def ordered(**changes: object) -> AccessOrder:
    return AccessOrder.model_validate({"title": "Letters", "created": CREATED, "labels": ("i", "ii"), **changes})


def copied(pages: list[AccessPage], path: Path, passwords: Passwords = Passwords(), **changes: object):  # noqa: B008
    changes.setdefault("labels", tuple(page.bound.label for page in pages))
    return make_access_copy(pages, path, ordered(**changes), passwords)


def every_byte(path: Path, password: str = "") -> bytes:
    """All strings and streams of a file, unpacked."""
    with pikepdf.open(path, password=password) as pdf:
        found = [
            one.read_bytes() for one in pdf.objects if isinstance(one, pikepdf.Stream) and one.get("/Subtype") != "/Image"
        ]
        return b"\n".join([*found, *(bytes(repr(one), "utf-8") for one in pdf.objects), repr(dict(pdf.docinfo)).encode()])


def seen(path: Path, at: int, password: str = "", scale: float = 2) -> np.ndarray:
    with pdfium.PdfDocument(path, password=password or None) as pdf:
        return (
            pdf[at].render(scale=scale, grayscale=True).to_numpy().reshape(round(pdf[at].get_height() * scale + 0.499), -1)
        )


def text_of(path: Path, password: str = "") -> str:
    with pdfium.PdfDocument(path, password=password or None) as pdf:
        return "\n".join(page.get_textpage().get_text_range() for page in pdf)


@pytest.mark.parametrize("ppi", [None, 150])
def test_what_is_covered_is_gone_everywhere(pages, tmp_path, ppi):
    path = tmp_path / "copy.pdf"
    done = copied(
        [AccessPage(page, all_covered(page)) for page in pages], path, ppi=ppi, title=f"Letters of {SECRET}", mark_headings=True,
        described={"creators": [SECRET], "description": f"From {SECRET.upper()}, keeper", "identifier": f"SL/{SECRET}"},
        parts=(Bookmark(f"{SECRET}, one", 0),),
    )  # fmt: skip
    assert (done.pages, done.covers) == (2, 6)
    assert SECRET not in text_of(path)
    assert "keeper" in text_of(path)
    everything = every_byte(path)
    for spelled in (SECRET, SECRET.upper(), SECRET.lower()):
        assert spelled.encode() not in everything
        assert spelled.encode("utf-16-be") not in everything
    drawn = seen(path, 0)
    left, top, right, bottom = (round(one) for one in all_covered(pages[0])[0].on((drawn.shape[1], drawn.shape[0])))
    assert drawn[top + 2 : bottom - 2, left + 2 : right - 2].max() < 30
    assert "held words that are covered" in done.remarks[0]


def test_the_images_data_hold_nothing_of_it(pages, tmp_path):
    path = tmp_path / "copy.pdf"
    mark = cover(pages[0], SECRET)
    copied([AccessPage(pages[0], (mark,))], path, ppi=None)
    with pikepdf.open(path) as pdf:
        (image,) = pdf.pages[0].get_images().values()
        data = np.asarray(pikepdf.PdfImage(image).as_pil_image().convert("L"))
    left, top, right, bottom = mark.on((data.shape[1], data.shape[0]))
    assert data[int(top) + 1 : int(bottom), int(left) + 1 : int(right)].max() < 16


def test_a_cover_takes_whole_pixels_and_no_more():
    white = np.full((10, 10), 255, np.uint8)
    made = without_pixels(white, [Mark(kind="cover", box=(0.25, 0.2, 0.55, 0.41)), Mark(kind="frame", box=(0.8, 0.8, 1, 1))])
    assert np.argwhere(made == 0).min(axis=0).tolist() == [2, 2]
    assert np.argwhere(made == 0).max(axis=0).tolist() == [4, 5]
    assert white.min() == 255


def test_words_are_gone_once_any_of_them_is_covered_but_not_those_of_the_line_above(pages):
    reading = pages[0].reading
    width, height = reading.size_px
    word = next(one for one in reading.words if one.text == SECRET)
    left, top, right, bottom = word.box
    tip = Mark(kind="cover", box=((right - 2) / width, top / height, (right + 1) / width, bottom / height))
    kept, gone = without_words(reading, [tip])
    assert gone == [[SECRET]]
    assert len(kept.words) == len(reading.words) - 1
    head = Mark(kind="cover", box=((left - 2) / width, top / height, (left + 1) / width, bottom / height))
    assert without_words(reading, [head])[1] == [[SECRET]]
    beside = Mark(kind="cover", box=((left - 2) / width, top / height, (left - 0.5) / width, bottom / height))
    assert [SECRET] not in without_words(reading, [beside])[1]
    for share, hidden in ((0.14, 0), (0.16, 1)):
        under = Mark(
            kind="cover", box=(left / width, (bottom - share * (bottom - top)) / height, right / width, bottom / height)
        )
        assert len(without_words(reading, [under])[1]) == hidden
    assert without_words(reading, [Mark(kind="highlight", box=(0, 0, 1, 1))]) == (reading, [])


def test_words_side_by_side_are_taken_out_of_titles_together_and_short_ones_stay():
    covered = Covered()
    covered.add([["The", "light", "of", "27"]])
    assert covered.taken_out("On the Light of 27, and on THE LIGHT, of 1927") == "On \u2026, and on THE \u2026, of 1927"
    assert covered.taken_out("The keeper of lights") == "The keeper of lights"
    covered.add([["Old", "Bay"]])
    assert covered.taken_out("In old Bay, of old") == "In \u2026, of old"


def test_what_can_still_be_read_elsewhere_is_said(pages, tmp_path):
    done = copied([AccessPage(pages[0], all_covered(pages[0])), AccessPage(pages[1])], tmp_path / "copy.pdf")
    assert done.remarks == (f"Covered words can still be read elsewhere: \u201c{SECRET}\u201d, on page ii.",)
    assert copied([AccessPage(page, all_covered(page)) for page in pages], tmp_path / "copy.pdf").remarks == ()


def test_notes_lie_apart_from_the_page(pages, tmp_path):
    path = tmp_path / "copy.pdf"
    marks = (
        Mark(kind="note", box=(0.5, 0.5, 0.6, 0.6), text=f"Ask {SECRET} about it"),
        Mark(kind="highlight", box=(0.1, 0.2, 0.5, 0.25)),
        Mark(kind="frame", box=(0.1, 0.6, 0.5, 0.7), text="Torn here"),
    )
    copied([AccessPage(pages[0], (cover(pages[0], SECRET), *marks))], path)
    with pikepdf.open(path) as pdf:
        page = pdf.pages[0]
        width, height = float(page.MediaBox[2]), float(page.MediaBox[3])
        found = {str(one.Subtype): one for one in page.Annots}
        assert list(found) == ["/Text", "/Highlight", "/Square"]
        assert str(found["/Text"].Contents) == "Ask \u2026 about it"
        assert str(found["/Square"].Contents) == "Torn here"
        assert [float(one) for one in found["/Square"].Rect] == pytest.approx(
            [0.1 * width, 0.3 * height, 0.5 * width, 0.4 * height], abs=0.01
        )
        assert [float(one) for one in found["/Highlight"].QuadPoints[:2]] == pytest.approx(
            [0.1 * width, 0.8 * height], abs=0.01
        )
        assert all("/N" in one.AP for one in found.values())


def test_a_copy_says_that_it_is_one_and_claims_nothing(pages, tmp_path):
    path = tmp_path / "copy.pdf"
    copied([AccessPage(pages[0])], path, left_out=("ii",), described={"description": "From the box"})
    with pikepdf.open(path) as pdf:
        assert str(pdf.docinfo.Title) == "Letters (access copy)"
        assert str(pdf.docinfo.Subject) == "From the box Access copy, not for keeping. Left out: page ii."
        assert "/OutputIntents" not in pdf.Root
        with pdf.open_metadata() as told:
            assert "pdfaid:part" not in told
            assert told["dc:title"] == "Letters (access copy)"
        assert pdf.pages[0].label == "i"


def test_many_pages_left_out_are_told_in_short(pages, tmp_path):
    path = tmp_path / "copy.pdf"
    copied([AccessPage(pages[0])], path, left_out=tuple(str(n) for n in range(1, 15)))
    with pikepdf.open(path) as pdf:
        assert str(pdf.docinfo.Subject).endswith("Left out: pages 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12 and 2 more.")


@pytest.mark.parametrize("colour", [False, True])
def test_pictures_get_as_coarse_as_was_asked_and_pages_keep_their_size(tmp_path, colour):
    chance = np.random.default_rng(7)
    picture = chance.integers(0, 255, (1200, 900, 3) if colour else (1200, 900), np.uint8)
    bound = BoundPage(encode(Raster(picture, (300, 300)), "colour" if colour else "grey", 90), (300, 300), None, "1")
    for ppi, width in ((75, 225), (150, 450), (299, 897), (300, 900), (None, 900)):
        path = tmp_path / f"{ppi}.pdf"
        copied([AccessPage(bound)], path, ppi=ppi)
        with pikepdf.open(path) as pdf:
            (image,) = pdf.pages[0].get_images().values()
            assert int(image.Width) == pytest.approx(width, abs=1)
            assert (image.read_raw_bytes() == bound.image.data) == (width == 900)
            assert [float(one) for one in pdf.pages[0].MediaBox[2:]] == pytest.approx([216, 288])


def test_writing_stays_as_it_is_bound_where_that_is_smaller(pages, tmp_path):
    copied([AccessPage(pages[0])], tmp_path / "copy.pdf", ppi=75)
    with pikepdf.open(tmp_path / "copy.pdf") as pdf:
        (image,) = pdf.pages[0].get_images().values()
        assert image.read_raw_bytes() == pages[0].image.data
    tinted = np.where(decode_encoded(pages[0].image) > 0, 232, 40).astype(np.uint8)
    layered = separate(Raster(tinted, (300, 300)), 60)
    assert layered is not None
    done = copied(
        [AccessPage(BoundPage(layered, (300, 300), None, "1"))], tmp_path / "copy.pdf", watermark=Watermark(text="Copy")
    )
    assert done.page_bytes[0] < encode(Raster(tinted, (300, 300)).reduced(150), "grey", 60).bytes


def test_what_would_get_larger_stays_as_it_is_bound(tmp_path):
    stripes = np.tile(np.repeat(np.array([230, 40, 90, 160], np.uint8), 3), 75)
    even = BoundPage(encode_flate(np.tile(stripes, (1200, 1))), (300, 300), None, "1")
    copied([AccessPage(even)], tmp_path / "copy.pdf", ppi=150)
    with pikepdf.open(tmp_path / "copy.pdf") as pdf:
        (image,) = pdf.pages[0].get_images().values()
        assert image.read_raw_bytes() == even.image.data


def test_a_cover_that_is_even_but_light_is_no_cover(tmp_path, monkeypatch):
    even = BoundPage(encode_flate(np.full((1200, 900), 230, np.uint8)), (300, 300), None, "1")
    monkeypatch.setattr(copying, "access_image", lambda image, *_: image)
    with pytest.raises(BindError, match="Something can be seen"):
        copied([AccessPage(even, (Mark(kind="cover", box=(0.1, 0.1, 0.5, 0.5)),))], tmp_path / "copy.pdf")


def test_pictures_among_layers_get_coarser_and_their_places_stay(tmp_path):
    picture = encode(Raster(np.random.default_rng(7).integers(0, 255, (300, 600), np.uint8), (300, 300)), "grey", 90)
    page = Layered((900, 1200), gray=True, paper=(240,), patches=(Patch(picture, Box(100, 200, 700, 500)),), ink=None)
    copied([AccessPage(BoundPage(page, (300, 300), None, "1"))], tmp_path / "copy.pdf", ppi=100)
    with pikepdf.open(tmp_path / "copy.pdf") as pdf:
        (image,) = pdf.pages[0].get_images().values()
        assert (int(image.Width), int(image.Height)) == (200, 100)
    drawn = seen(tmp_path / "copy.pdf", 0, scale=300 / 72)
    assert np.argwhere(drawn < 200).min(axis=0) == pytest.approx([200, 100], abs=6)
    assert np.argwhere(drawn < 200).max(axis=0) == pytest.approx([500, 700], abs=6)


def test_nothing_asked_for_leaves_the_images_as_they_are_bound(pages, tmp_path):
    copied([AccessPage(pages[0])], tmp_path / "copy.pdf", ppi=None)
    with pikepdf.open(tmp_path / "copy.pdf") as pdf:
        (image,) = pdf.pages[0].get_images().values()
        assert image.read_raw_bytes() == pages[0].image.data


@pytest.mark.parametrize("colour", [False, True])
def test_pages_in_layers_are_covered_through_all_of_them(pages, tmp_path, colour):
    pixels = np.where(decode_encoded(pages[0].image) > 0, 232, 40).astype(np.uint8)
    layered = separate(Raster(np.repeat(pixels[..., None], 3, axis=2) if colour else pixels, (300, 300)), 60)
    assert layered is not None
    bound = BoundPage(layered, (300, 300), None, "1")
    copied([AccessPage(bound, (Mark(kind="cover", box=(0, 0, 1, 0.5)),))], tmp_path / "copy.pdf", ppi=None)
    drawn = seen(tmp_path / "copy.pdf", 0, scale=1)
    half = drawn.shape[0] // 2
    assert drawn[: half - 2].max() < 80
    assert drawn[half + 2 :].mean() > 150


@pytest.mark.parametrize("place", ["across", "head", "foot"])
def test_a_watermark_is_in_the_pixels_of_every_page_and_both_show_through(tmp_path, place):
    white = encode(Raster(np.full((1100, 850), 255, np.uint8), (100, 100)), "grey", 80)
    black = encode(Raster(np.zeros((1100, 850, 3), np.uint8), (100, 100)), "colour", 80)
    mark = Watermark(text="Skerry Light Trust \u2014 \u0141\u00f3d\u017a", place=place, strength=0.3)
    pages = [AccessPage(BoundPage(one, (100, 100), None, str(at))) for at, one in enumerate((white, black))]
    copied(pages, tmp_path / "copy.pdf", watermark=mark)
    on_white, on_black = (seen(tmp_path / "copy.pdf", at, scale=100 / 72) for at in range(2))
    assert 255 * 0.55 < on_white.min() < 255 * 0.75
    assert 255 * 0.2 < on_black.max() < 255 * 0.45
    rows = np.flatnonzero((on_white < 220).any(axis=1))
    where = {"across": rows[0] < 400 and rows[-1] > 700, "head": rows[-1] < 100, "foot": rows[0] > 1000}
    assert where[place]


def test_covers_stay_black_under_a_watermark(pages, tmp_path):
    mark = Mark(kind="cover", box=(0.2, 0.2, 0.8, 0.8))
    copied([AccessPage(pages[0], (mark,))], tmp_path / "copy.pdf", watermark=Watermark(text="COPY", strength=0.8))
    drawn = seen(tmp_path / "copy.pdf", 0, scale=1)
    high, wide = drawn.shape
    assert drawn[int(0.21 * high) : int(0.79 * high), int(0.21 * wide) : int(0.79 * wide)].max() < 30


@pytest.mark.parametrize(("printing", "copying_"), [(True, True), (True, False), (False, True), (False, False)])
@pytest.mark.parametrize(
    "passwords", [Passwords(), Passwords("open sesame"), Passwords("open", "change"), Passwords("", "change")]
)
def test_a_copy_is_locked_as_it_was_ordered(pages, tmp_path, printing, copying_, passwords):
    path = tmp_path / "copy.pdf"
    copied([AccessPage(pages[0])], path, passwords, printing=printing, copying=copying_)
    locked = passwords != Passwords() or not (printing and copying_)
    if passwords.opening:
        with pytest.raises(pikepdf.PasswordError):
            pikepdf.open(path)
    with pikepdf.open(path, password=passwords.opening) as pdf:
        assert pdf.is_encrypted == locked
        if locked:
            assert pdf.encryption.R == 6
            assert (pdf.allow.print_lowres, pdf.allow.print_highres, pdf.allow.extract) == (printing, printing, copying_)
            assert pdf.allow.accessibility
            assert not pdf.allow.modify_other
    if passwords.changing:
        with pikepdf.open(path, password=passwords.changing) as pdf:
            assert pdf.owner_password_matched
    assert SECRET in text_of(path, passwords.opening)


@pytest.mark.parametrize(
    ("passwords", "words"),
    [
        (Passwords("x" * 127), None),
        (Passwords("x" * 128), "The password for opening is too long"),
        (Passwords("", "\u00fc" * 64), "The password for changing is too long"),
        (Passwords("same", "same"), "The two passwords are the same"),
    ],
)
def test_passwords_that_no_reader_takes_are_refused(pages, tmp_path, passwords, words):
    if words is None:
        assert copied([AccessPage(pages[0])], tmp_path / "copy.pdf", passwords).pages == 1
        return
    with pytest.raises(BindError, match=words):
        copied([AccessPage(pages[0])], tmp_path / "copy.pdf", passwords)
    assert not list(tmp_path.iterdir())


def test_a_copy_that_shows_what_is_covered_is_not_kept(pages, tmp_path, monkeypatch):
    marks = (cover(pages[0], SECRET),)
    monkeypatch.setattr(copying, "access_image", lambda image, *_: image)
    with pytest.raises(BindError, match="Something can be seen under a cover on page 1"):
        copied([AccessPage(pages[0], marks)], tmp_path / "copy.pdf")
    monkeypatch.undo()
    monkeypatch.setattr(copying, "without_words", lambda reading, _: (reading, []))
    with pytest.raises(BindError, match="Text is left under a cover on page 1"):
        copied([AccessPage(pages[0], marks)], tmp_path / "copy.pdf")
    assert not list(tmp_path.iterdir())


def test_the_proof_knows_what_is_not_as_ordered(pages, tmp_path):
    path = tmp_path / "copy.pdf"
    copied([AccessPage(pages[0])], path)
    faults = [fault for one in prove(path, Passwords("secret"), Expected({}, False, True, True)) for fault in one.faults]
    assert faults == ["It opens without its password.", "It is not locked as it was ordered."]
    with pikepdf.open(path, allow_overwriting_input=True) as pdf:
        with pdf.open_metadata() as told:
            told["pdfaid:part"], told["dc:title"] = "2", "Letters"
        pdf.Root.OutputIntents = pikepdf.Array([])
        pdf.save(path)
    faults = [fault for one in prove(path, Passwords(), Expected({}, True, True, False)) for fault in one.faults]
    assert len(faults) == 3


def test_no_page_is_no_copy(tmp_path):
    with pytest.raises(BindError, match="every page is left out"):
        copied([], tmp_path / "copy.pdf")


@pytest.mark.parametrize("box", [(0.5, 0.1, 0.5, 0.2), (0.1, 0.3, 0.2, 0.2), (-0.1, 0, 1, 1), (0, 0, 1, 1.01)])
def test_a_mark_is_a_rectangle_on_the_page(box):
    with pytest.raises(ValueError, match=r"mark|less|greater"):
        Mark(kind="cover", box=box)


def test_two_tones_are_read_as_they_are(pages):
    assert set(np.unique(decode_encoded(pages[0].image))) <= {0, 255}
