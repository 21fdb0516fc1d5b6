"""ITU-T T.88 (JBIG2) as we write it, against its own test sequence and two decoders: Debian's jbig2dec, and PDFium."""

from pathlib import Path

import numpy as np
import pytest

from hollowstack.core.bind.jbig2 import encode_page
from hollowstack.core.bind.jbig2.arithmetic import Coder
from tests.reference.bitmaps import by_jbig2dec, by_pdfium, page_bitmap, random_bitmap

GROUPS, EACH = 10, 100


def test_the_test_sequence_of_the_standard():
    """ITU-T T.88, annex H.2: 256 decisions in one context, and the 30 bytes that they make (from memory)."""
    told = bytes.fromhex("00020051000000C00352872AAAAAAAAA82C02000FCD79EF6BF7FED904F46A3BF")
    coded = bytes.fromhex("84C73BFCE1A1430402200000410DBB86F4317FFF88FF37471ADB6ADFFFAC")
    values = np.unpackbits(np.frombuffer(told, np.uint8))
    coder = Coder()
    coder.bits(np.zeros(1, np.uint8), np.zeros(len(values), np.int64), values)
    assert coder.finish() == coded


@pytest.mark.parametrize("group", range(GROUPS))
def test_a_thousand_bitmaps_come_back_bit_for_bit(tmp_path: Path, group: int):
    for seed in range(EACH * group, EACH * (group + 1)):
        bitmap = random_bitmap(seed)
        data = encode_page(bitmap)
        assert np.array_equal(by_jbig2dec(data, tmp_path), bitmap), seed
        assert np.array_equal(by_pdfium(data, bitmap.shape), bitmap), seed


@pytest.mark.parametrize("seed", range(12))
def test_pages_of_text_come_back_bit_for_bit(tmp_path: Path, seed: int):
    """``make conformance`` does so with 200."""
    page = page_bitmap(seed)
    data = encode_page(page)
    assert np.array_equal(by_jbig2dec(data, tmp_path), page)
    assert np.array_equal(by_pdfium(data, page.shape), page)
