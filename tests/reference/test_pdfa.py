"""PDF/A-2u by the open reference validator (ISO 19005-2:2011), and proof that the check bites."""

import subprocess
from collections.abc import Callable
from datetime import UTC, datetime, timedelta, timezone
from pathlib import Path

import numpy as np
import pikepdf
import pytest

from hollowstack.core.bind import Binding, BoundPage, Description, bind
from hollowstack.core.bind.codecs import encode, encode_lossless
from hollowstack.core.bind.drawn_pages import Part, Table, drawn_pages
from hollowstack.core.ocr.model import Line, Reading, Word
from hollowstack.core.page.raster import Raster

ABROAD = timezone(-timedelta(hours=3, minutes=30))


def test_the_demos_document_conforms(bound, validator):
    assert bound.report["document"]["conformance"] == "PDF/A-2u"
    assert validator(bound.pdf) == "ok"


def without_output_intent(pdf: pikepdf.Pdf) -> None:
    del pdf.Root.OutputIntents


def without_unicode(pdf: pikepdf.Pdf) -> None:
    del pdf.pages[0].Resources.Font.F.ToUnicode


def without_font_file(pdf: pikepdf.Pdf) -> None:
    del pdf.pages[0].Resources.Font.F.DescendantFonts[0].FontDescriptor.FontFile2


def with_a_script(pdf: pikepdf.Pdf) -> None:
    pdf.Root.OpenAction = pikepdf.Dictionary(S=pikepdf.Name.JavaScript, JS=pikepdf.String("app.alert(1)"))


def without_metadata(pdf: pikepdf.Pdf) -> None:
    del pdf.Root.Metadata


def with_a_claim_of_another_level(pdf: pikepdf.Pdf) -> None:
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as xmp:
        xmp["pdfaid:part"] = "1"


def with_a_transfer_function(pdf: pikepdf.Pdf) -> None:
    state = pikepdf.Dictionary(Type=pikepdf.Name.ExtGState, TR=pikepdf.Name.Identity)
    pdf.pages[0].Resources.ExtGState = pikepdf.Dictionary(G=state)
    pdf.pages[0].Contents = pdf.make_stream(b"/G gs " + pdf.pages[0].Contents.read_bytes())


def with_widths_that_are_not_the_fonts(pdf: pikepdf.Pdf) -> None:
    pdf.pages[0].Resources.Font.F.DescendantFonts[0].DW = 700


@pytest.mark.parametrize(
    "break_it",
    [
        without_output_intent, without_unicode, without_font_file, with_a_script, without_metadata, with_a_claim_of_another_level,
        with_a_transfer_function, with_widths_that_are_not_the_fonts,
    ],
)  # fmt: skip
def test_broken_files_are_refused(bound, validator, tmp_path: Path, break_it: Callable[[pikepdf.Pdf], None]):
    with pikepdf.open(bound.pdf) as pdf:
        break_it(pdf)
        pdf.save(tmp_path / "broken.pdf")
    if break_it in {with_widths_that_are_not_the_fonts, without_font_file}:
        # Text in rendering mode 3 draws nothing, so its font is held to less (6.2.11.4, 6.2.11.5): make it visible first.
        with pikepdf.open(tmp_path / "broken.pdf", allow_overwriting_input=True) as pdf:
            page = pdf.pages[0]
            page.Contents = pdf.make_stream(page.Contents.read_bytes().replace(b"BT 3 Tr", b"BT 0 Tr"))
            pdf.save(tmp_path / "broken.pdf")
    assert validator(tmp_path / "broken.pdf").startswith("broken")


def test_a_file_that_is_no_pdf_is_refused(validator, tmp_path: Path):
    (tmp_path / "a.pdf").write_text("not a PDF")
    assert validator(tmp_path / "a.pdf") != "ok"


def test_a_drawn_record_conforms(validator, tmp_path: Path):
    """Inspection records are written by the same binder, with words in scripts that the drawn letters have not."""
    table = Table(("Page", "Found"), (0.2, 0.8), [(str(number), "good, гут, 港") for number in range(90)])
    pages = drawn_pages("Record “Σκύρος”", [Part("Sample", ["All of it."], table)], "Box 27 & more")
    bind(pages, tmp_path / "record.pdf", Binding(Description("Record", datetime(2026, 11, 28, tzinfo=UTC))))
    assert validator(tmp_path / "record.pdf") == "ok"


def test_qpdf_finds_no_fault(bound):
    done = subprocess.run(["qpdf", "--check", str(bound.pdf)], capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout + done.stderr


def test_the_demo_is_compact(bound):
    """The issue's own limit, not a standard: 150 kB a page on average."""
    assert bound.report["document"]["bytes"] / bound.report["document"]["pages"] < 150_000


def line(text: str) -> Reading:
    words = [Word(text=text, box=(20, 20, 180, 60), confidence=90.0)]
    return Reading(language="eng", lines=[Line(words=words, baseline=(20, 55, 180, 55))], size_px=(200, 300))


NOISE = np.random.default_rng(5).integers(0, 256, (300, 200, 3)).astype(np.uint8)
COLOUR, GRAY = Raster(NOISE), Raster(np.ascontiguousarray(NOISE[..., 0]))


@pytest.mark.parametrize(
    ("image", "ppi", "title", "created", "language", "text"),
    [
        (encode(GRAY, "grey", 50), (300.0, 300.0), "Box\x01 27 & <more>", datetime(2026, 3, 1, 9, tzinfo=UTC), "en", "plain"),
        (encode(COLOUR, "colour", 50), (0.9, 0.9), "Strip", datetime(2026, 3, 1, 23, 59, tzinfo=ABROAD), "de", "Ü ß ﬁ"),
        (encode_lossless(COLOUR, "colour"), (300.0, 300.0), "שלום 港 𝄞", datetime(1999, 12, 31, tzinfo=UTC), "he", "שלום 港 𝄞"),
        (encode_lossless(GRAY, "grey"), (204.0, 98.0), "-" * 3000, datetime(2026, 3, 1, tzinfo=UTC), "zh-Hans", "x" * 900),
        (encode(GRAY, "bitonal", 50), (300.0, 300.0), "()\\ \ud83d", datetime(2026, 3, 1, tzinfo=UTC), "und", "\x00a\ufffe"),
    ],
    ids=["control character", "user units, abroad", "scripts", "long", "half a character"],
)  # fmt: skip
def test_odd_pages_conform(validator, tmp_path: Path, image, ppi, title, created, language, text):
    about = Description(title=title, created=created, language=language)
    bind([BoundPage(image, ppi, line(text), "1")], tmp_path / "odd.pdf", Binding(about))
    assert validator(tmp_path / "odd.pdf") == "ok"
