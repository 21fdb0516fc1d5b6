"""What a document is besides its pages: labels, bookmarks, description, structure, attached files, profiles."""

from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pikepdf
import pypdfium2
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollowstack.core.bind import FLAVOURS, Binding, Bookmark, BoundPage, Description, Provenance, bind
from hollowstack.core.bind import document as document_module
from hollowstack.core.bind.attachments import Attachment
from hollowstack.core.bind.codecs import decode_encoded, encode, encode_lossless
from hollowstack.core.bind.conformance import check_conformance
from hollowstack.core.bind.conformance.model import Checked, Conformance
from hollowstack.core.bind.description import MOST_TEXT, Event, description_of, is_calendar_date
from hollowstack.core.bind.jpeg2000 import encode_reversible
from hollowstack.core.bind.labels import LabelRun, label_tree, page_labels, roman
from hollowstack.core.bind.structure import caption_of
from hollowstack.core.ocr.model import Block, Line, Reading, Word
from hollowstack.core.page.errors import BindError
from hollowstack.core.page.raster import Raster
from hollowstack.core.read.headings import cells_of, heading_level, usual_height
from hollowstack.core.settings.profile import PROFILES, packed_as
from hollowstack.core.settings.shipped import SHIPPED
from tests.examples import about

WHEN = datetime(2026, 3, 1, 9, tzinfo=UTC)
ABOUT = Description("Letters", WHEN)
SIZE = (200, 300)
WHITE = encode(Raster(np.full((300, 200), 255, np.uint8)), "bitonal", 50, "Group 4")


def word(text: str, left: int, top: int, right: int, bottom: int) -> Word:
    return Word(text=text, box=(left, top, right, bottom), confidence=90.0)


def line(text: str, top: int, height: int = 10, left: int = 20) -> Line:
    words, at = [], left
    for one in text.split():
        words.append(word(one, at, top, at + 6 * len(one), top + height))
        at += 6 * len(one) + 6
    return Line(words=words, baseline=(left, top + height - 2, at, top + height - 2))


def read(*blocks: Block) -> Reading:
    return Reading(language="eng", size_px=SIZE, blocks=list(blocks))


def text_block(*lines: Line) -> Block:
    return Block(kind="text", box=(20, lines[0].box[1], 180, lines[-1].box[3]), lines=list(lines))


def bound(path: Path, pages: list[BoundPage], **how) -> pikepdf.Pdf:
    bind(pages, path, Binding(**{"about": ABOUT, **how}))
    return pikepdf.open(path)


def blank(label: str = "1", reading: Reading | None = None) -> BoundPage:
    return BoundPage(WHITE, (72, 72), reading, label)


# Labels


@pytest.mark.parametrize(
    ("number", "figures"),
    [(1, "i"), (4, "iv"), (9, "ix"), (40, "xl"), (99, "xcix"), (1987, "mcmlxxxvii"), (3999, "mmmcmxcix")],
)
def test_roman_figures(number, figures):
    """Worked examples, common practice."""
    assert roman(number) == figures


def test_roman_figures_end():
    assert (roman(4000), roman(0)) == ("4000", "0")


def test_runs_of_labels():
    runs = [
        LabelRun(2, "roman", first=3),
        LabelRun(4, "leaves", first=12),
        LabelRun(7, "arabic", "A-"),
        LabelRun(9, "text", "map"),
    ]
    assert page_labels(runs, 10) == ["1", "2", "iii", "iv", "12r", "12v", "13r", "A-1", "A-2", "map"]
    assert page_labels([LabelRun(0, "ROMAN"), LabelRun(0, "arabic", first=5)], 2) == ["5", "6"]


@pytest.mark.parametrize("run", [LabelRun(-1), LabelRun(0, first=0)])
def test_runs_that_cannot_be(run):
    with pytest.raises(ValueError, match="begins"):
        page_labels([run], 3)


@settings(max_examples=about(60))
@given(
    st.lists(
        st.one_of(
            st.integers(1, 30).map(str),
            st.integers(1, 30).map(roman),
            st.sampled_from(["12r", "C", "007", "A-3", "x9", "Ⅷ"]),
        ),
        min_size=1,
        max_size=12,
    )
)
def test_every_label_comes_back(labels):
    """As a reader of PDF works labels out of their tree."""
    with pikepdf.Pdf.new() as pdf:
        for _ in labels:
            pdf.add_blank_page()
        pdf.Root.PageLabels = pikepdf.Dictionary(Nums=label_tree(labels))
        assert [page.label for page in pdf.pages] == labels


def test_runs_are_one_entry_each():
    assert len(label_tree(["i", "ii", "iii", "1", "2", "3"])) == 4


# Bookmarks and headings


def test_bookmarks_lie_under_each_other(tmp_path: Path):
    marks = (
        Bookmark("One", 0),
        Bookmark("Within", 1, 1),
        Bookmark("Deep", 1, 7),
        Bookmark("Two", 2),
        Bookmark("Nowhere", 9),
    )
    with bound(tmp_path / "a.pdf", [blank() for _ in range(3)], bookmarks=marks) as pdf, pdf.open_outline() as outline:
        assert [item.title for item in outline.root] == ["One", "Two"]
        assert [item.title for item in outline.root[0].children] == ["Within"]
        assert [item.title for item in outline.root[0].children[0].children] == ["Deep"]
        assert pdf.Root.PageMode == "/UseOutlines"


def test_headings_are_bookmarked_where_asked(tmp_path: Path):
    prose = text_block(*(line("the keeper wrote down wind and weather", 60 + 14 * at) for at in range(6)))
    reading = read(text_block(line("The Storm", 20, height=22)), prose)
    with bound(tmp_path / "a.pdf", [blank(reading=reading)], mark_headings=True) as pdf, pdf.open_outline() as outline:
        assert [item.title for item in outline.root] == ["The Storm"]
    with bound(tmp_path / "b.pdf", [blank(reading=reading)]) as pdf:
        assert "/Outlines" not in pdf.Root


@pytest.mark.parametrize(("height", "level"), [(13, 0), (14, 2), (18, 2), (19, 1), (30, 1)])
def test_what_is_a_heading(height, level):
    usual = usual_height(read(text_block(line("plain prose of usual size", 100))))
    assert heading_level(text_block(line("Heading", 20, height=height)), usual) == level


def test_long_or_wordless_blocks_are_no_headings():
    assert heading_level(text_block(*(line("large", 20 + 40 * at, height=30) for at in range(4))), 10) == 0
    assert heading_level(text_block(line("12", 20, height=30)), 10) == 0
    assert heading_level(Block(kind="table", box=(0, 0, 9, 9), lines=[line("Heading", 20, height=30)]), 10) == 0
    assert heading_level(text_block(line("Heading", 20, height=30)), 0) == 0


def test_cells_of_a_row():
    row = Line(
        words=[word("NW", 20, 0, 32, 10), word("7", 36, 0, 42, 10), word("rain", 58, 0, 80, 10)], baseline=(20, 9, 80, 9)
    )
    assert [cell.text for cell in cells_of(row)] == ["NW 7", "rain"]
    near = row.model_copy(update={"words": [row.words[0], row.words[1], word("rain", 57, 0, 80, 10)]})
    assert [cell.text for cell in cells_of(near)] == ["NW 7 rain"]


# Description


def test_a_description_is_told_in_xmp_and_information(tmp_path: Path):
    about = Description(
        "Letters & <others>", WHEN, "en", ("A. Merriwether", "E. Harrow"), ("storms", "lights"), "On the storm", "1927-02",
        "SL/27/114", "Skerry Light Trust",
    )  # fmt: skip
    with bound(tmp_path / "a.pdf", [blank()], about=about) as pdf, pdf.open_metadata() as xmp:
        assert xmp["dc:creator"] == ["A. Merriwether", "E. Harrow"]
        assert xmp["dc:subject"] == {"storms", "lights"}
        assert (xmp["dc:description"], xmp["dc:identifier"], xmp["dc:rights"]) == (
            "On the storm",
            "SL/27/114",
            "Skerry Light Trust",
        )
        assert xmp["dc:date"] == ["1927-02"]
        assert (str(pdf.docinfo.Author), str(pdf.docinfo.Keywords)) == ("A. Merriwether; E. Harrow", "storms; lights")
        assert str(pdf.docinfo.Subject) == "On the storm"


def test_what_no_metadata_can_hold_is_left_out(tmp_path: Path):
    """Control characters and halves of characters, wherever something is said."""
    odd = "a\x00b\ud800"
    about = Description(odd, WHEN, "en", (odd,), (odd,), odd, odd, odd, odd)
    origin = Provenance(odd, (Event(odd, WHEN, odd),), (odd,))
    for flavour in FLAVOURS:
        marks = (Bookmark(odd, 0),)
        with bound(
            tmp_path / "a.pdf",
            [blank(label=odd, reading=read(text_block(line("half\ud800 word", 60))))],
            flavour=flavour,
            about=about,
            provenance=origin,
            bookmarks=marks,
        ) as pdf:
            assert pdf.open_metadata()["dc:title"] == "a b"


def test_what_is_no_date_is_kept_as_a_statement(tmp_path: Path):
    with (
        bound(tmp_path / "a.pdf", [blank()], about=Description("L", WHEN, date="winter of 1926")) as pdf,
        pdf.open_metadata() as xmp,
    ):
        assert "dc:date" not in xmp
        assert xmp["dc:coverage"] == "winter of 1926"


@pytest.mark.parametrize(
    ("text", "is_one"),
    [
        ("1927", True),
        ("1927-02", True),
        ("1927-02-29", False),
        ("1928-02-29", True),
        ("1927-13", False),
        ("27", False),
        ("1927-2", False),
    ],
)
def test_dates(text, is_one):
    assert is_calendar_date(text) is is_one


def test_a_description_from_a_file():
    told = {"creators": "A. Merriwether", "subjects": ["storms ", " "], "identifier": " SL/27\n/114", "title": ""}
    about = description_of(told, WHEN, "de", "Box 27")
    assert (about.title, about.creators, about.subjects, about.identifier) == (
        "Box 27",
        ("A. Merriwether",),
        ("storms",),
        "SL/27 /114",
    )
    assert about.language == "de"


@pytest.mark.parametrize(
    ("told", "said"),
    [
        ({"author": "A"}, "knows no “author”"),
        ({"creators": 7}, "list of texts"),
        ({"title": ["A"]}, "is a text"),
        ({"creators": ["A", 3]}, "is a text"),
        ({"rights": "x" * (MOST_TEXT + 1)}, "2001 characters"),
    ],
)
def test_descriptions_that_will_not_do(told, said):
    with pytest.raises(ValueError, match=said):
        description_of(told, WHEN, "en", "Box 27")


# Structure


def structured(tmp_path: Path, reading: Reading, **how) -> pikepdf.Pdf:
    return bound(tmp_path / "a.pdf", [blank(reading=reading)], flavour="PDF/A-2a", **how)


def kinds(element: pikepdf.Object) -> list:
    """Types of a tree, as nested lists; marked contents as numbers."""
    below = [kinds(one) if isinstance(one, pikepdf.Dictionary) else int(one) for one in element.K]
    return [str(element.S)[1:], *below]


def test_the_structure_follows_the_reading(tmp_path: Path):
    table = Block(kind="table", box=(20, 150, 180, 180), lines=[row("12 h", "NW 7", 150), row("16 h", "NW 9", 166)])
    picture = Block(kind="picture", box=(20, 200, 180, 260))
    caption = text_block(line("The boathouse", 264))
    prose = text_block(line("I have your letter", 60), line("of the first", 74))
    reading = read(text_block(line("The Storm", 20, height=22)), prose, table, picture, caption)
    with structured(tmp_path, reading, bookmarks=(Bookmark("Letter", 0),)) as pdf:
        assert kinds(pdf.Root.StructTreeRoot.K) == [
            "Document",
            [
                "Part",
                ["H1", 1],
                ["P", 2, 3],
                ["Table", ["TR", ["TD", 4], ["TD", 5]], ["TR", ["TD", 6], ["TD", 7]]],
                ["Figure", 0],
                ["P", 8],
            ],
        ]
        figure = pdf.Root.StructTreeRoot.K.K[0].K[3]
        assert str(figure.Alt) == "The boathouse"
        assert pdf.Root.MarkInfo.Marked is True
        under = pdf.Root.StructTreeRoot.ParentTree.Nums[1]
        assert [str(one.S) for one in under][:3] == ["/Figure", "/H1", "/P"]


def row(first: str, second: str, top: int) -> Line:
    return Line(words=[*line(first, top).words, *line(second, top, left=120).words], baseline=(20, top + 8, 180, top + 8))


def test_a_picture_without_words_near_by_says_so(tmp_path: Path):
    with structured(tmp_path, read(Block(kind="picture", box=(20, 20, 180, 100)))) as pdf:
        assert str(pdf.Root.StructTreeRoot.K.K[0].Alt) == "Picture without a caption"


@pytest.mark.parametrize(("top", "found"), [(100, "Near"), (118, "Near"), (119, ""), (60, "")])
def test_captions_stand_near(top, found):
    picture = Block(kind="picture", box=(20, 20, 180, 100))
    assert caption_of(picture, read(picture, text_block(line("Near", top)))) == found


def test_a_structured_page_looks_the_same(tmp_path: Path):
    page = np.random.default_rng(3).integers(0, 256, (300, 200, 3)).astype(np.uint8)
    image = encode_lossless(Raster(page), "colour")
    reading = read(Block(kind="picture", box=(20, 20, 180, 100)), text_block(line("Words", 120)))
    seen = []
    for flavour in ("PDF/A-2u", "PDF/A-2a"):
        with bound(tmp_path / "a.pdf", [BoundPage(image, (72, 72), reading, "1")], flavour=flavour):
            seen.append(pypdfium2.PdfDocument(tmp_path / "a.pdf")[0].render().to_numpy())
    assert np.array_equal(*seen)


# Text


def test_ligatures_are_found_by_their_letters(tmp_path: Path):
    reading = read(text_block(line("the ﬁrst oﬃce", 60)))
    with bound(tmp_path / "a.pdf", [blank(reading=reading)]):
        text = pypdfium2.PdfDocument(tmp_path / "a.pdf")[0].get_textpage().get_text_bounded()
    assert text.split() == ["the", "first", "office"]


@pytest.mark.parametrize("up", [True, False])
def test_lines_that_run_up_or_down_lie_over_their_words(tmp_path: Path, up):
    tall = Line(words=[word("margin", 20, 50, 32, 150)], baseline=(30, 150, 30, 50) if up else (22, 50, 22, 150))
    with bound(tmp_path / "a.pdf", [blank(reading=read(Block(kind="text", box=(20, 50, 32, 150), lines=[tall])))]):
        page = pypdfium2.PdfDocument(tmp_path / "a.pdf")[0].get_textpage()
    assert page.get_text_bounded().strip() == "margin"
    assert page.count_rects() == 1
    left, bottom, right, top = page.get_rect(0)
    assert (left, right) == pytest.approx((20, 32), abs=3)
    assert (300 - top, 300 - bottom) == pytest.approx((50, 150), abs=3)


# Flavours, attached files


def test_only_part_3_carries_files(tmp_path: Path):
    files = [Attachment("ä.txt", b"words", "text/plain", "Alternative", "Its words")]
    for flavour in FLAVOURS:
        with bound(tmp_path / "a.pdf", [blank()], flavour=flavour, attachments=lambda: files) as pdf:
            assert [*pdf.attachments] == (["ä.txt"] if flavour == "PDF/A-3u" else [])
            if flavour == "PDF/A-3u":
                assert pdf.attachments["ä.txt"].get_file().read_bytes() == b"words"


def test_part_1_takes_no_jpeg_2000_and_no_long_pages(tmp_path: Path):
    values = np.random.default_rng(3).integers(0, 256, (300, 200)).astype(np.uint8)
    image = encode_reversible(values)
    assert image is not None
    for flavour, filter_name in (("PDF/A-1b", "/FlateDecode"), ("PDF/A-2u", "/JPXDecode")):
        with bound(tmp_path / "a.pdf", [BoundPage(image, (72, 72), None, "1")], flavour=flavour) as pdf:
            shown = pdf.pages[0].Resources.XObject.Im
            assert shown.Filter == filter_name
            if flavour == "PDF/A-1b":
                assert np.array_equal(np.asarray(pikepdf.PdfImage(shown).as_pil_image().convert("L")), values)
    with pytest.raises(BindError, match="another flavour"):
        bind([BoundPage(WHITE, (1, 1), None, "1")], tmp_path / "b.pdf", Binding(ABOUT, "PDF/A-1b"))


def test_a_file_that_would_not_conform_is_not_kept(tmp_path: Path, monkeypatch):
    broken = Conformance(
        flavour="PDF/A-2u", checked=(Checked(clause="6.2.4", what="Colours", faults=("Page 1 is wrong.",)),)
    )
    monkeypatch.setattr(document_module, "check_conformance", lambda path, flavour: broken)
    with pytest.raises(BindError, match=r"would not conform to PDF/A-2u and was not kept: Page 1 is wrong \(clause 6.2.4\)"):
        bind([blank()], tmp_path / "a.pdf", Binding(ABOUT))
    assert list(tmp_path.iterdir()) == []


def test_another_flavour_than_was_wanted_does_not_conform(tmp_path: Path):
    bound(tmp_path / "a.pdf", [blank()], flavour="PDF/A-2b").close()
    assert check_conformance(tmp_path / "a.pdf").flavour == "PDF/A-2b"
    assert [one.what for one in check_conformance(tmp_path / "a.pdf", "PDF/A-2u").broken] == ["Flavour"]


def test_what_is_no_pdf_is_said(tmp_path: Path):
    (tmp_path / "a.pdf").write_text("words")
    found = check_conformance(tmp_path / "a.pdf", "PDF/A-2u")
    assert not found.holds
    assert "no PDF file" in found.broken[0].faults[0]


# Profiles


@pytest.mark.parametrize("profile", PROFILES)
@pytest.mark.parametrize("name", ["everyday", "pictures", "as-captured"])
def test_a_profile_keeps_which_pages_there_are(profile, name):
    """What is blank and where documents begin belongs to the treatment."""
    treatment = SHIPPED[name]
    packed = packed_as(treatment, profile)
    kept = ("hold_blanks", "blank_below", "new_document_after", "languages", "split_facing")
    assert [getattr(packed, one) for one in kept] == [getattr(treatment, one) for one in kept]


def test_profiles():
    everyday = SHIPPED["everyday"]
    assert packed_as(everyday, "compact") == everyday
    kept = packed_as(everyday, "preservation")
    assert (kept.lossless, kept.layers, kept.even_tone) == (True, False, True)
    assert packed_as(everyday, "text only").colour == "bitonal"
    assert packed_as(everyday, "pictures").jpeg_quality == 85
    assert packed_as(everyday.model_copy(update={"jpeg_quality": 95}), "pictures").jpeg_quality == 95
    captured = packed_as(everyday, "as captured")
    assert (captured.level, captured.crop, captured.even_tone, captured.colour, captured.lossless) == (
        False,
        False,
        False,
        "as it came",
        True,
    )


def test_grain_is_packed_by_jpeg_2000_and_even_paper_as_png_does():
    rng = np.random.default_rng(5)
    grain = np.clip(rng.normal(200, 4, (400, 300, 3)), 0, 255).astype(np.uint8)
    for values, filter_name in ((grain, "JPXDecode"), (np.full((400, 300, 3), 250, np.uint8), "FlateDecode")):
        made = encode_lossless(Raster(values), "colour")
        assert made.filter == filter_name
        assert np.array_equal(decode_encoded(made), values)


def test_what_holds_itself_is_gone_through_once(tmp_path: Path):
    """A pattern and a form that are drawn within themselves: the check comes to an end."""
    bound(tmp_path / "a.pdf", [blank()]).close()
    with pikepdf.open(tmp_path / "a.pdf", allow_overwriting_input=True) as pdf:
        pattern, form = (pdf.make_indirect(pikepdf.Stream(pdf, data)) for data in (b"/Pattern cs /P scn", b"/X Do"))
        pattern.Resources = pikepdf.Dictionary(Pattern=pikepdf.Dictionary(P=pattern))
        form.Type, form.Subtype, form.BBox = pikepdf.Name.XObject, pikepdf.Name.Form, pikepdf.Array([0, 0, 9, 9])
        form.Resources = pikepdf.Dictionary(XObject=pikepdf.Dictionary(X=form))
        page = pdf.pages[0]
        page.Resources.Pattern, page.Resources.XObject["/X"] = pikepdf.Dictionary(P=pattern), form
        page.Contents = pdf.make_stream(b"/Pattern cs /P scn /X Do " + page.Contents.read_bytes())
        pdf.save(tmp_path / "a.pdf", fix_metadata_version=False)
    assert check_conformance(tmp_path / "a.pdf").holds
