"""A document is opened by another program and held against what was meant, before anybody has it."""

import datetime as dt
from pathlib import Path

import numpy as np
import pikepdf
import pytest

from hollowstack.core.bind import Binding, BoundPage, Description, bind, looking
from hollowstack.core.bind.codecs import encode_flate
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.jpeg2000 import encode_at
from hollowstack.core.bind.looking import Looked, looks_like
from hollowstack.core.bind.spool import Spool
from hollowstack.core.page.errors import BindError
from tests.core.test_lossy import old_paper

ABOUT = Binding(Description("Lamp", dt.datetime(2026, 3, 1, 9, tzinfo=dt.UTC)))


def pages(*images: EncodedImage) -> list[BoundPage]:
    return [BoundPage(image, (100, 100), None, str(at)) for at, image in enumerate(images)]


def test_a_page_that_viewers_show_otherwise_is_not_kept(tmp_path: Path, monkeypatch):
    """Grey by JPEG 2000 whose depth is not told: PDFium takes it for black and white, and every clause holds."""
    grey = old_paper(colour=False)
    good = pages(encode_flate(grey), encode_at(grey, 34.0))
    bind(good, tmp_path / "a.pdf", ABOUT)
    assert (tmp_path / "a.pdf").exists()
    (tmp_path / "a.pdf").unlink()
    put = Spool.put

    def untold(spool: Spool, entries: str, data: bytes) -> int:
        return put(spool, entries.replace(" /BitsPerComponent 8", "") if "JPX" in entries else entries, data)

    monkeypatch.setattr(Spool, "put", untold)
    with pytest.raises(BindError, match=r"^Page 2 is shown otherwise than it was made\. .* choose another profile"):
        bind(good, tmp_path / "a.pdf", ABOUT)
    assert list(tmp_path.iterdir()) == []


def test_each_kind_is_looked_at_once(tmp_path: Path):
    looked, page = Looked(), old_paper()
    for number, image in enumerate([encode_flate(page), encode_flate(page), encode_at(page, 30.0)], 1):
        looked.note(number, image)
    assert [number for number, _ in looked._meant.values()] == [1, 3]


def test_pages_that_changed_places_are_told(tmp_path: Path):
    page, empty = encode_flate(old_paper()), encode_at(np.full((640, 500, 3), 250, np.uint8), 30.0)
    bind(pages(page, empty), tmp_path / "a.pdf", ABOUT)
    looked = Looked()
    looked.note(1, empty)
    looked.note(2, page)
    assert [*looked.faults(tmp_path / "a.pdf")] == [f"Page {at} is shown otherwise than it was made." for at in (1, 2)]


@pytest.mark.parametrize(
    ("shown", "same"),
    [
        (lambda page: page, True),
        (lambda page: 255 - page, False),
        (lambda page: np.where(page < 128, 0, 255), False),
        (lambda page: np.full_like(page, 255), False),
        (lambda page: page[::-1], False),
        (lambda page: np.clip(page.astype(float) ** 1.2 * 0.3, 0, 255), True),
    ],
)
def test_looks_are_compared_by_order_not_by_value(shown, same):
    page = np.linspace(20, 240, 100 * 70).reshape(100, 70).astype(np.uint8)
    assert looks_like(np.asarray(shown(page)).astype(np.uint8), page) is same


@pytest.mark.parametrize(("off", "same"), [(0, True), (12, True), (13, False)])
def test_an_even_page_may_be_off_by_so_much(off, same):
    page = np.full((100, 70), 200, np.uint8)
    assert looks_like((page + off).astype(np.uint8), page) is same


def test_a_page_that_hardly_varies_is_even(monkeypatch):
    page = np.full((100, 70), 200, np.uint8)
    page[::2] = 204
    assert page.std() == 2.0
    even = np.full_like(page, 202)
    assert not looks_like(even, page)
    monkeypatch.setattr(looking, "_VARIED", 2.1)
    assert looks_like(even, page)


def test_strips_are_looked_at_too(tmp_path: Path):
    strip = np.full((9000, 60), 240, np.uint8)
    strip[3000:6000] = 20
    bind(pages(encode_flate(strip)), tmp_path / "a.pdf", ABOUT)
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        assert len(pdf.pages) == 1
