"""Written documents drawn as pages: what is on them is seen and searched, and goes on over as many as it takes."""

import re
import subprocess
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pikepdf
import pytest

from hollowstack.core.bind import Binding, BoundPage, Description, bind
from hollowstack.core.bind.codecs import decode_encoded
from hollowstack.core.bind.drawn_pages import Part, Table, drawn_pages
from hollowstack.core.page.errors import PaperError

TABLE = Table(("Page", "File"), (0.2, 0.8), [(str(number), f"letter {number}.jpg") for number in range(1, 121)])


def pages_of(*parts: Part) -> list[BoundPage]:
    return list(drawn_pages("Record", parts, "Box 27"))


def words_of(page: BoundPage) -> list[str]:
    assert page.reading is not None
    return [line.text for line in page.reading.lines]


def test_a_document_has_what_it_says(tmp_path: Path):
    path = tmp_path / "record.pdf"
    parts = [Part("Plan", ["Five of twenty."]), Part("Pages", (), TABLE)]
    bind(drawn_pages("Record", parts, "Box 27"), path, Binding(Description("Record", datetime(2026, 11, 28, tzinfo=UTC))))
    text = subprocess.run(["pdftotext", "-layout", path, "-"], capture_output=True, check=True, text=True).stdout
    for line in ("Record", "Plan", "Five of twenty.", "letter 120.jpg"):
        assert line in text
    assert re.search(r"^57 +letter 57\.jpg$", text, re.MULTILINE)
    with pikepdf.open(path) as document:
        assert [float(side) for side in document.pages[0].MediaBox[2:]] == pytest.approx([595.2, 841.9], abs=0.5)


def test_words_lie_where_they_are_drawn():
    (page,) = pages_of(Part("Plan", ["Five of twenty."]))
    pixels = decode_encoded(page.image)
    assert set(np.unique(pixels)) == {0, 255}
    assert page.reading is not None
    for word in page.reading.words:
        left, top, right, bottom = word.box
        assert (pixels[top:bottom, left:right] == 0).mean() > 0.02, word.text


def test_a_table_goes_on_with_its_heads():
    pages = pages_of(Part("Pages", (), TABLE))
    assert len(pages) == 3
    assert [page.label for page in pages] == ["1", "2", "3"]
    told = [words_of(page) for page in pages]
    assert all("Page" in words and "File" in words for words in told)
    numbers = [int(line) for words in told for line in words if line.isdigit()]
    assert numbers == list(range(1, 121))
    assert [words[-1] for words in told] == ["Box 27 · 1", "Box 27 · 2", "Box 27 · 3"]


def test_nothing_leaves_the_page():
    long = "a-name-without-any-space-" * 12
    pages = pages_of(Part("Plan", [long * 3]), Part("Pages", (), Table(("File", "State"), (0.3, 0.7), [(long, long)])))
    for page in pages:
        assert page.reading is not None
        wide, high = page.reading.size_px
        for word in page.reading.words:
            assert 0 < word.box[0] < word.box[2] <= wide - 200
            assert word.box[3] < high
    drawn = "".join(line.text for page in pages if page.reading for line in page.reading.lines)
    assert drawn.count("a-name-without-any-space-") >= 36 + 12


def test_a_cell_longer_than_a_page_is_kept_whole():
    words = [f"word{number}" for number in range(1500)]
    pages = pages_of(Part("Notes", (), Table(("Note",), (1.0,), [(" ".join(words),)])))
    assert len(pages) > 1
    drawn = [word for page in pages for line in words_of(page) for word in line.split() if word.startswith("word")]
    assert drawn == words


def test_what_no_font_has_can_be_searched_all_the_same():
    (page,) = pages_of(Part("Σκύρος", ["港"]))
    assert "Σκύρος" in words_of(page)
    assert "港" in words_of(page)


def test_no_such_paper():
    with pytest.raises(PaperError):
        list(drawn_pages("Record", [], "", paper="A99"))
