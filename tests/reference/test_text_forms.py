"""Text against things outside the project: error rates, ALTO and hOCR as other programs read them, places of words in the PDF."""

import random
import re
import subprocess
from datetime import UTC, datetime
from pathlib import Path

import jiwer
import pytest
from alto_tools import alto_tools
from hocr_parser import parser as hocr_parser

from benchmarks.accuracy.reading_pages import error_rate
from hollowstack.core.bind import Binding, BoundPage, Description, bind
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.ocr.model import Line, Reading, Word, block_of
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.read.alto import to_alto
from hollowstack.core.read.corrections import Correction, lay_over
from hollowstack.core.read.hocr import to_hocr
from hollowstack.standins.skerry.readable import some

SIZE = (1200, 1600)


@pytest.fixture(scope="module")
def page() -> Reading:
    """Three blocks of made-up text."""
    rng = random.Random(8)
    blocks = []
    for block in range(3):
        lines = []
        for row in range(4):
            top = 100 + 480 * block + 70 * row
            words, left = [], 100
            for text in some(rng, 5):
                words.append(Word(text=text, box=(left, top, left + 18 * len(text), top + 32), confidence=90 - row))
                left += 18 * len(text) + 18
            lines.append(Line(words=words, baseline=(100, top + 26, left, top + 26)))
        blocks.append(block_of(lines))
    return Reading(language="eng", size_px=SIZE, blocks=blocks)


def test_error_rates_are_those_of_their_definition():
    """CER and WER as jiwer (a package of its own) counts them: edits over the length of the truth."""
    rng = random.Random(5)
    for _ in range(40):
        truth = some(rng, rng.randint(5, 60))
        read = [word if rng.random() > 0.3 else word[::-1] for word in truth if rng.random() > 0.1]
        said, got = " ".join(truth), " ".join(read)
        assert error_rate(said, got) == pytest.approx(jiwer.cer(said, got))


def test_another_reader_finds_the_words_of_an_alto_file(page, tmp_path, capsys):
    """alto-tools 0.1.0, which knows the namespace of ALTO 4: text, pictures, mean confidence."""
    file = tmp_path / "page.xml"
    file.write_bytes(to_alto([page], "page.pdf"))
    with file.open("r", encoding="utf-8") as opened:
        alto, xml, namespace = alto_tools.alto_parse(opened)
        assert namespace == "http://www.loc.gov/standards/alto/ns-v4#"
        alto_tools.alto_text(xml, namespace)
        assert capsys.readouterr().out.split() == page.text.split()
        assert alto_tools.alto_confidence(alto, xml, namespace) == pytest.approx(page.mean_confidence, abs=0.06)


def test_another_reader_finds_the_words_of_an_hocr_file_and_where_they_are(page, tmp_path):
    """hocr-parser, over lxml's reading of the file as HTML."""
    file = tmp_path / "page.hocr"
    file.write_bytes(to_hocr([page], "page.pdf"))
    whole, *found = hocr_parser.hocr_to_json(str(file))["responses"][0]["textAnnotations"]
    assert whole["description"].split() == page.text.split()
    for word, told in zip(page.words, found, strict=True):
        first, _, third, _ = told["boundingPoly"]["vertices"]
        assert told["description"] == word.text
        assert (int(first["x"]), int(first["y"]), int(third["x"]), int(third["y"])) == word.box


def test_a_word_put_right_stands_in_the_pdf_where_it_was(page, tmp_path):
    """``pdftotext -bbox`` (Poppler) tells every word of the text layer with its place."""
    word = page.words[7]
    left, top, right, bottom = word.box
    one = Correction(
        image="m:0", place=Quad.rectangle(*word.box), at=((left + right) / 2 / 1200, (top + bottom) / 2 / 1600),
        before=word.text, after="Merriwether",
    )  # fmt: skip
    laid = lay_over(page, {"a": one}, Transform.onto(Quad.rectangle(0, 0, *SIZE), *SIZE), "m:0").reading
    for row, found in zip(laid.words, _boxes(laid, tmp_path), strict=True):
        assert found[0] == row.text
        # A point of the page is a hundredth of an inch and a bit; the ink's box to two pixels at 100 ppi.
        assert found[1] == pytest.approx(row.box[0] * 0.72, abs=1.5)
        assert found[3] == pytest.approx(row.box[2] * 0.72, abs=1.5)
    assert laid.words[7].text == "Merriwether"


def _boxes(reading: Reading, folder: Path) -> list[tuple[str, float, float, float, float]]:
    image = EncodedImage("FlateDecode", _white(), (1, 1), True)
    file = folder / "bound.pdf"
    about = Description(title="Words", created=datetime(2026, 3, 1, tzinfo=UTC))
    bind([BoundPage(image, (1 / 12, 1 / 16), reading, "1")], file, Binding(about))
    told = subprocess.run(["pdftotext", "-bbox", str(file), "-"], check=True, capture_output=True, text=True).stdout
    words = re.findall(r'<word xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">(.*?)</word>', told)
    return [(text, *(float(value) for value in box)) for *box, text in words]  # type: ignore[misc]


def _white() -> bytes:
    import zlib

    return zlib.compress(b"\x00\xff")
