"""The text of the document by two readers that know nothing of us (Poppler, PDFium), and against what was drawn."""

import difflib
import html
import re
import subprocess
from collections import Counter

import numpy as np
import pypdfium2
import pytest

from hollowstack.core.page.geometry import Quad, Transform

LATIN_PRINT = {
    "01 letter 1a.jpg",
    "01 letter 2a.jpg",
    "01 letter 4a.jpg",
    "04 card 41.jpg",
    "05 report on the lantern.tif",
    "06 notices.pdf",
}


def name_of(page) -> str:
    return page["source"].rsplit("/", 1)[-1]


def poppler_words(pdf) -> list[list[tuple[str, tuple[float, float, float, float]]]]:
    """Words of every page with their boxes in points, from pdftotext -bbox."""
    text = subprocess.run(["pdftotext", "-bbox", str(pdf), "-"], capture_output=True, text=True, check=True).stdout
    word = re.compile(r'<word xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">(.*?)</word>')
    return [
        [(html.unescape(w[4]), tuple(float(v) for v in w[:4])) for w in word.findall(page)]
        for page in text.split("<page ")[1:]
    ]


def test_pdfium_reads_what_was_read(bound):
    """In order, but for a stroke of a stamp, a table or a frame here and there that was read as a letter and touches others;
    PDFium puts the head of a table line by line, where the engine puts it cell by cell."""
    document = pypdfium2.PdfDocument(bound.pdf)
    for page, shown in zip(bound.pages, document, strict=True):
        words, ours = shown.get_textpage().get_text_range().split(), page["ocr"]["text"].split()
        least = 0.94 if name_of(page).startswith(("02", "03")) else 0.98
        assert difflib.SequenceMatcher(a=words, b=ours, autojunk=False).ratio() > least, page["source"]


def test_poppler_reads_the_same_words(bound):
    """But for a word in fifty: where handwriting was read as crowded letters, Poppler takes some for printed twice."""
    for page, words in zip(bound.pages, poppler_words(bound.pdf), strict=True):
        theirs, ours = Counter(word for word, _ in words), Counter(page["ocr"]["text"].split())
        assert (theirs & ours).total() >= 0.98 * ours.total(), page["source"]


def test_poppler_reads_prose_in_order(bound):
    """In its default layout mode; columns and tables are left out, whose order is a matter of taste. Beside the stamp on a
    letter Poppler takes two lines for columns."""
    for number, page in enumerate(bound.pages, 1):
        if name_of(page) not in {"01 letter 1a.jpg", "06 notices.pdf", "04 card 41.jpg"}:
            continue
        words = ["pdftotext", "-f", str(number), "-l", str(number), str(bound.pdf), "-"]
        text = subprocess.run(words, capture_output=True, text=True, check=True).stdout.split()
        assert difflib.SequenceMatcher(a=text, b=page["ocr"]["text"].split(), autojunk=False).ratio() > 0.94, page["source"]


def iou(one, other) -> float:
    left, top = np.maximum(one[:2], other[:2])
    right, bottom = np.minimum(one[2:], other[2:])
    shared = max(0.0, right - left) * max(0.0, bottom - top)
    area = lambda b: (b[2] - b[0]) * (b[3] - b[1])  # noqa: E731
    return shared / (area(one) + area(other) - shared)


def test_words_lie_where_they_were_drawn(bound, truth):
    """Boxes from pdftotext against the drawn ink, taken through the report's own quad: the whole chain of geometry."""
    best_of, found = [], 0
    for page, words in zip(bound.pages, poppler_words(bound.pdf), strict=True):
        if name_of(page) not in LATIN_PRINT:
            continue
        known = truth[name_of(page)][page["frame"]]
        width, height = page["output_size_px"]
        to_page = Transform.onto(Quad.of(page["quad_px"]), width, height)
        scale = np.array([72 / page["output_ppi"][0], 72 / page["output_ppi"][1]] * 2)
        for word in known["words"]:
            l, t, r, b = word["box"]  # noqa: E741
            corners = to_page.apply([(l, t), (r, t), (r, b), (l, b)])
            box = np.concatenate([corners.min(axis=0), corners.max(axis=0)]) * scale
            same = [iou(box, at) for text, at in words if text == word["text"]]
            best_of.append(max(same, default=0.0))
            found += max(same, default=0.0) > 0.4
    assert found / len(best_of) > 0.93, f"{found} of {len(best_of)} words found in their places"
    assert np.mean([v for v in best_of if v > 0.4]) > 0.6


def test_searching_finds_the_spot(bound):
    """PDFium's own search: the hit's rectangle lies on dark ink."""
    document = pypdfium2.PdfDocument(bound.pdf)
    hits = 0
    for number, page in enumerate(bound.pages):
        if name_of(page) != "01 letter 1a.jpg":
            continue
        shown = document[number]
        text = shown.get_textpage()
        search = text.search("biscuit")
        while hit := search.get_next():
            first, last = text.get_charbox(hit[0], loose=True), text.get_charbox(hit[0] + hit[1] - 1, loose=True)
            left, bottom, right, top = first[0], first[1], last[2], first[3]
            image = shown.render(scale=2).to_numpy()
            part = image[
                int((shown.get_height() - top) * 2) : int((shown.get_height() - bottom) * 2) + 1,
                int(left * 2) : int(right * 2) + 1,
            ]
            assert part.min() < 140
            assert part.max() > 180
            hits += 1
    assert hits == 1


@pytest.mark.parametrize("name", sorted(LATIN_PRINT))
def test_reading_comes_close_to_what_was_drawn(bound, truth, name):
    """Share of drawn words that were read, in any order; handwriting on the pages does not count."""
    for page in bound.pages:
        if name_of(page) != name:
            continue
        drawn = [w["text"].strip(".,:;") for w in truth[name][page["frame"]]["words"]]
        read = {w.strip(".,:;") for w in page["ocr"]["text"].split()}
        assert sum(word in read for word in drawn) / len(drawn) > 0.88, page["source"]
