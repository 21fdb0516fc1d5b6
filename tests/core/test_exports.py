"""Documents in other forms: everything that stands on the pages is in them, at its place."""

import csv
import hashlib
import io
import zipfile
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import docx
import numpy as np
import odfdo
import openpyxl
import pikepdf
import pytest
from PIL import Image

from hollowstack.core.bind.codecs import encode_lossless
from hollowstack.core.bind.conformance import check_conformance
from hollowstack.core.bind.drawn_pages import Part, drawn_pages
from hollowstack.core.bind.layers.composing import pixels_of
from hollowstack.core.bind.lossy import encode_jpeg
from hollowstack.core.export import FORMS, ExportOrder, ExportPage, export
from hollowstack.core.export.flow import Heading, Paragraph, Picture, Table, flow_of, joined, paragraphs_of, rows_of
from hollowstack.core.export.images import with_resolution
from hollowstack.core.export.sheets import NamedTable, csv_of, xlsx_of
from hollowstack.core.ocr.model import Block, Line, Reading, Word, block_of
from hollowstack.core.page.errors import ExportError
from hollowstack.core.page.file_names import safe_name
from hollowstack.core.page.raster import Raster

CREATED = datetime(2026, 3, 1, 9, tzinfo=UTC)


def line(*words: tuple[str, int, int], top: int = 0, high: int = 20) -> Line:
    made = [Word(text=text, box=(left, top, right, top + high), confidence=90) for text, left, right in words]
    return Line(words=made, baseline=(made[0].box[0], top + high, made[-1].box[2], top + high))


@pytest.fixture(scope="module")
def letter() -> ExportPage:
    page = next(drawn_pages("Letters", [Part("On the storm", ["The keeper wrote that the davit was carried away."])], "1"))
    return ExportPage(page.image, page.ppi, page.reading, "i")


@pytest.fixture(scope="module")
def log() -> ExportPage:
    rows = [line(("Lamp", 0, 60), ("Oil", 200, 240), ("Wind", 400, 460)), line(("lit", 0, 40), ("=2+3", 205, 250), top=30)]
    text = [line(("twenty", 0, 90), ("barrels", 100, 200), top=320), line(("of", 0, 40), ("oil", 50, 190), top=350)]
    reading = Reading(
        language="eng", size_px=(600, 400),
        blocks=[
            block_of([line(("WATCH", 0, 200), ("LOG", 220, 320), top=0, high=48)]), block_of(rows, "table"),
            Block(kind="picture", box=(100, 200, 400, 300)), Block(kind="not read", box=(0, 350, 10, 400)), block_of(text),
        ],
    )  # fmt: skip
    pixels = np.random.default_rng(1).integers(0, 255, (400, 600, 3), np.uint8)
    return ExportPage(encode_lossless(Raster(pixels), "colour"), (200, 200), reading, "2")


@pytest.fixture(scope="module")
def unread() -> ExportPage:
    return ExportPage(encode_jpeg(np.full((300, 200), 180, np.uint8), 80), (100, 100), None, "3")


def written(pages: list[ExportPage], folder: Path, form: str, **rest: object) -> Path:
    path = folder / f"made{FORMS[form].suffix}"  # type: ignore[index]
    export(pages, path, ExportOrder.model_validate({"form": form, "title": "Box 27", "created": CREATED, **rest}))
    return path


# What stands on a page


def test_a_page_is_headings_paragraphs_tables_and_pictures_in_order(log):
    assert list(flow_of(log.reading)) == [
        Heading(1, "WATCH LOG"), Table((("Lamp", "Oil", "Wind"), ("lit", "=2+3", ""))), Picture((100, 200, 400, 300)),
        Paragraph("twenty barrels of oil"),
    ]  # fmt: skip


def test_cells_stand_under_those_above_them():
    rows = [
        line(("a", 0, 50), ("b", 100, 150), ("c", 200, 250)), line(("only", 190, 260), top=30),
        line(("x", 10, 30), ("z", 210, 240), top=60), line(("wide", 60, 140), top=90),
    ]  # fmt: skip
    assert rows_of(block_of(rows, "table")) == [("a", "b", "c"), ("", "", "only"), ("x", "", "z"), ("", "wide", "")]


@pytest.mark.parametrize(
    ("before", "after", "together"),
    [
        ("the light-", "house stood", "the lighthouse stood"),
        ("Port", "Annet", "Port Annet"),
        ("the north-", "East wind", "the north-East wind"),
        ("27-", "114", "27-114"),
        ("gone \u2014", "away", "gone \u2014 away"),
        ("he said -", "nothing", "he said - nothing"),
        ("see 27-", "they", "see 27-they"),
        ("light\u00ad", "house", "lighthouse"),
        ("-", "and", "- and"),
    ],
)
def test_lines_run_on_and_parted_words_are_whole_again(before, after, together):
    assert joined(before, after) == together


@pytest.mark.parametrize(("right", "count"), [(59, 2), (60, 1)])
def test_a_short_line_ends_a_paragraph(right, count):
    block = block_of([line(("long", 0, 100)), line(("end", 0, right), top=30), line(("next", 0, 100), top=60)])
    assert len(paragraphs_of(block)) == count


# Texts to be edited


def test_docx(letter, log, unread, tmp_path):
    made = docx.Document(str(written([letter, log, unread], tmp_path, "docx")))
    told = [(one.style.name, one.text) for one in made.paragraphs if one.text.strip()]
    assert ("Heading 2", "Letters") in told
    assert ("Normal", "The keeper wrote that the davit was carried away.") in told
    assert [[cell.text for cell in row.cells] for row in made.tables[0].rows] == [
        ["Lamp", "Oil", "Wind"],
        ["lit", "=2+3", ""],
    ]
    assert len(made.inline_shapes) == 2
    assert made.inline_shapes[0].width.mm == pytest.approx(300 / 200 * 25.4, abs=0.1)
    assert made.core_properties.title == "Box 27"
    assert sum('w:type="page"' in one._p.xml for one in made.paragraphs) == 2


def test_odt(letter, log, unread, tmp_path):
    made = odfdo.Document(str(written([letter, log, unread], tmp_path, "odt")))
    assert "Letters" in [one.text_recursive for one in made.body.headers]
    assert "The keeper wrote that the davit was carried away." in [one.text_recursive for one in made.body.paragraphs]
    (table,) = made.body.tables
    assert [row.get_values() for row in table.rows] == [["Lamp", "Oil", "Wind"], ["lit", "=2+3", ""]]
    assert len(made.body.images) == 2
    assert made.meta.title == "Box 27"


@pytest.mark.parametrize("form", ["docx", "odt"])
def test_characters_that_no_document_may_hold_are_left_out(form, letter, tmp_path):
    reading = Reading(language="eng", size_px=(100, 100), blocks=[block_of([line(("a\x00b\x0bc", 0, 50))])])
    path = str(written([replace(letter, reading=reading)], tmp_path, form, title="Box\x01 27"))
    if form == "docx":
        text = docx.Document(path).paragraphs[0].text
    else:
        text = odfdo.Document(path).body.paragraphs[0].text_recursive
    assert text.replace(" ", "") == "abc"


# Tables


def test_tables_are_sheets_of_their_own_and_no_cell_is_a_formula(letter, log, tmp_path):
    book = openpyxl.load_workbook(written([letter, log, log], tmp_path, "xlsx"))
    assert book.sheetnames == ["page 0002", "page 0003"]
    cell = book["page 0002"]["B2"]
    assert (cell.value, cell.data_type) == ("=2+3", "s")


def test_csv_of_every_table(log, tmp_path):
    with zipfile.ZipFile(written([log, log], tmp_path, "csv")) as made:
        assert made.namelist() == ["page 0001.csv", "page 0002.csv"]
        rows = list(csv.reader(io.StringIO(made.read("page 0001.csv").decode("utf-8-sig"))))
    assert rows == [["Lamp", "Oil", "Wind"], ["lit", "'=2+3", ""]]


@pytest.mark.parametrize(
    ("text", "kept"), [("-12.5", "-12.5"), ("+44", "+44"), ("-x", "'-x"), ("@a", "'@a"), ("a,b", "a,b"), ("-", "'-")]
)
def test_numbers_stay_numbers(text, kept):
    (row,) = csv.reader(io.StringIO(csv_of(NamedTable("a", ((text,),))).decode("utf-8-sig")))
    assert row == [kept]


def test_a_cell_takes_what_a_sheet_can_hold():
    data = xlsx_of([NamedTable("a", (("x\x01y", "z" * 40_000),))], "Box")
    row = next(openpyxl.load_workbook(io.BytesIO(data))["a"].values)
    assert (row[0], len(row[1])) == ("xy", 32_767)


@pytest.mark.parametrize("form", ["csv", "xlsx"])
def test_no_table_is_said(letter, tmp_path, form):
    with pytest.raises(ExportError, match="no table on these pages"):
        written([letter], tmp_path, form)
    assert not list(tmp_path.iterdir())


# Pictures


@pytest.mark.parametrize("packing", ["Deflate", "LZW", "Group 4"])
def test_tiff_holds_all_pages_with_resolution_and_profile(letter, log, unread, tmp_path, packing):
    with Image.open(written([letter, log, unread], tmp_path, "tiff", tiff_packing=packing)) as made:
        assert made.n_frames == 3
        for at, page in enumerate((letter, log, unread)):
            made.seek(at)
            assert made.info["dpi"] == pytest.approx(page.ppi)
            assert made.tag_v2[285] == page.label
            pixels = pixels_of(page.image)
            if packing == "Group 4" or at == 0:
                assert made.mode == "1"
                assert np.array_equal(np.asarray(made), np.asarray(Image.fromarray(pixels).convert("L")) >= 128)
            else:
                assert np.array_equal(np.asarray(made), pixels)
                assert made.info["icc_profile"]


@pytest.mark.parametrize("form", ["png", "jp2"])
def test_pictures_come_back_pixel_for_pixel(letter, log, unread, tmp_path, form):
    with zipfile.ZipFile(written([letter, log, unread], tmp_path, form)) as made:
        assert made.namelist() == [f"0001 i.{form}", f"0002.{form}", f"0003.{form}"]
        for name, page in zip(made.namelist(), (letter, log, unread), strict=True):
            with Image.open(io.BytesIO(made.read(name))) as image:
                grey = image.convert("L") if image.mode == "1" else image
                assert np.array_equal(np.asarray(grey), pixels_of(page.image))
                assert image.info["dpi"] == pytest.approx(page.ppi, rel=0.01)


def test_jpeg_data_are_not_packed_again(unread, log, tmp_path):
    with zipfile.ZipFile(written([unread, log], tmp_path, "jpeg")) as made:
        assert made.read(made.namelist()[0]) == unread.image.data
        with Image.open(io.BytesIO(made.read(made.namelist()[1]))) as image:
            assert (image.size, image.info["dpi"]) == ((600, 400), (200, 200))


def test_the_resolution_of_a_jpeg_2000_file_is_told_in_dots_a_metre():
    head = b"\x00\x00\x00\x0cjP  \x0d\x0a\x87\x0a" + b"\x00\x00\x00\x0ajp2hxx" + b"rest"
    made = with_resolution(head, (254, 127))
    assert made.endswith(b"rest")
    assert made[12:16] == (10 + 26).to_bytes(4, "big")
    at = made.index(b"resc") + 4
    assert made[at : at + 10] == bytes([0x13, 0x88, 0, 1, 0x27, 0x10, 0, 1, 0, 0])


# Packages, and all forms


def test_a_bag_holds_masters_document_text_and_what_is_said_of_them(letter, unread, tmp_path):
    master = tmp_path / "master"
    master.write_bytes(b"as it came")
    sha256 = hashlib.sha256(b"as it came").hexdigest()
    pages = [
        replace(one, master=master, master_name="Brief \u00fc/1.JPG", master_sha256=sha256, frame=frame)
        for frame, one in enumerate((letter, unread))
    ]
    (tmp_path / "out").mkdir()
    path = written(pages, tmp_path / "out", "bag", described={"creators": ["E. Harrow"]})
    with zipfile.ZipFile(path) as made:
        names = {name.removeprefix("Box 27/") for name in made.namelist()}
        assert names == {
            "bagit.txt", "bag-info.txt", "manifest-sha256.txt", "tagmanifest-sha256.txt", "data/Box 27.pdf", "data/mets.xml",
            "data/Box 27.alto.xml", "data/masters/0001 1.jpg",
        }  # fmt: skip
        assert made.read("Box 27/data/masters/0001 1.jpg") == b"as it came"
        assert made.read("Box 27/data/Box 27.pdf").startswith(b"%PDF-1.7")
        assert b"E. Harrow" in made.read("Box 27/data/mets.xml")
    before = path.read_bytes()
    assert before == written(pages, tmp_path / "out", "bag", described={"creators": ["E. Harrow"]}).read_bytes()


@pytest.mark.parametrize("damage", ["gone", "changed"])
def test_a_master_that_is_not_as_it_came_makes_no_bag(letter, tmp_path, damage):
    master = tmp_path / "master"
    if damage == "changed":
        master.write_bytes(b"something else")
    page = replace(letter, master=master, master_name="1.jpg", master_sha256="ab" * 32)
    (tmp_path / "out").mkdir()
    with pytest.raises(ExportError, match="is not there" if damage == "gone" else "is damaged"):
        written([page], tmp_path / "out", "bag")
    assert not list((tmp_path / "out").iterdir())


@pytest.mark.parametrize("form", list(FORMS))
def test_no_page_is_no_file(form, tmp_path):
    with pytest.raises(ExportError, match=r"no page|no table"):
        written([], tmp_path, form)
    assert not list(tmp_path.iterdir())


@pytest.mark.parametrize("form", ["txt", "alto", "hocr", "docx", "odt"])
def test_pages_that_were_not_read_are_said(form, letter, unread, tmp_path):
    order = ExportOrder(form=form, title="Box 27", created=CREATED)
    (remark,) = export([letter, unread], tmp_path / "made", order).remarks
    assert remark.startswith("1 page was not read: ")
    assert export([letter], tmp_path / "made", order).remarks == ()


def test_a_place_that_cannot_be_written_is_said(letter, tmp_path):
    with pytest.raises(ExportError, match="cannot be written"):
        export([letter], tmp_path / "none" / "made.txt", ExportOrder(form="txt", title="Box", created=CREATED))


@pytest.mark.parametrize(("text", "name"), [("Box 27/a: b?", "Box 27_a_ b_"), (" .. ", "none"), ("L\u00e4rm", "L\u00e4rm")])
def test_names_do_on_any_machine(text, name):
    assert safe_name(text, "none") == name


def test_some_pages_as_a_pdf_conform_and_say_what_they_are(letter, log, tmp_path):
    (tmp_path / "out").mkdir()
    path = written([letter, log], tmp_path / "out", "pdf", described={"creators": ["E. Harrow"]})
    assert check_conformance(path, "PDF/A-2u").holds
    with pikepdf.open(path) as pdf:
        assert len(pdf.pages) == 2
        assert pdf.open_metadata()["dc:creator"] == ["E. Harrow"]
