"""Segments that hold symbols, and that say where on a page they stand."""

import struct
from collections.abc import Sequence
from itertools import groupby

import numpy as np

from hollowstack.core.bind.jbig2.arithmetic import Coder
from hollowstack.core.bind.jbig2.generic import CONTEXTS, Adaptive, Bitmap, adaptive_bytes, code_generic
from hollowstack.core.bind.jbig2.integers import OUT_OF_BAND, Names, Numbers
from hollowstack.core.bind.jbig2.refinement import CONTEXTS as REFINEMENT_CONTEXTS
from hollowstack.core.bind.jbig2.refinement import code_refinement
from hollowstack.core.bind.jbig2.segments import Place, region_information
from hollowstack.core.bind.jbig2.shapes import Use

_REFINED, _TEMPLATE_1 = 0x0002, 0x8000
_STRIP_BITS = 1
"""Strips are two rows high, as letters of a line stand about so level (chosen by bytes)."""
_BOTTOM_LEFT = 0


def dictionary(symbols: Sequence[Bitmap]) -> bytes:
    """What a symbol dictionary segment holds: the symbols by height and width, each pixel by pixel.

    Args:
        symbols: In the order of their heights, and of their widths within one.

    Source:
        ITU-T T.88 (08/2018), 6.5 and 7.4.2: arithmetic coding, template 0, neither refinement nor aggregation.
    """
    coder = Coder()
    contexts = np.zeros(CONTEXTS, np.uint8)
    heights, widths, exported = Numbers(coder), Numbers(coder), Numbers(coder)
    high = 0
    for height, row in groupby(symbols, key=lambda one: one.shape[0]):
        heights.code(height - high)
        high, wide = height, 0
        for bitmap in row:
            widths.code(bitmap.shape[1] - wide)
            wide = bitmap.shape[1]
            code_generic(coder, contexts, bitmap, Adaptive(), typical=False)
        widths.code(OUT_OF_BAND)
    # None is kept back, then all are given out.
    exported.code(0)
    exported.code(len(symbols))
    return (
        struct.pack(">H", 0) + adaptive_bytes(Adaptive()) + struct.pack(">II", len(symbols), len(symbols)) + coder.finish()
    )


def text_region(place: Place, uses: Sequence[Use], symbols: Sequence[Bitmap]) -> bytes:
    """What a text region segment holds: which symbols stand where, and what those are made into that are merely near.

    Source:
        ITU-T T.88 (08/2018), 6.4 and 7.4.3: arithmetic coding, reference corner bottom left.
    """
    refined = any(use.bitmap is not None for use in uses)
    coder = Coder()
    downs, firsts, gaps, inside = Numbers(coder), Numbers(coder), Numbers(coder), Numbers(coder)
    names = Names(coder, len(symbols))
    changed, wider, higher, across, down = (Numbers(coder) for _ in range(5))
    contexts = np.zeros(REFINEMENT_CONTEXTS, np.uint8)
    downs.code(0)  # the strip before the first
    before = start = 0
    ordered = sorted(uses, key=lambda use: (use.bottom >> _STRIP_BITS, use.left, use.bottom))
    for strip, row in groupby(ordered, key=lambda use: use.bottom >> _STRIP_BITS):
        downs.code(strip - before)
        before, here = strip, None
        for use in row:
            if here is None:
                firsts.code(use.left - start)
                start = use.left
            else:
                gaps.code(use.left - here)
            inside.code(use.bottom & ((1 << _STRIP_BITS) - 1))
            names.code(use.symbol)
            bitmap = symbols[use.symbol]
            if refined:
                changed.code(int(use.bitmap is not None))
            if use.bitmap is not None:
                more_high, more_wide = (new - old for new, old in zip(use.bitmap.shape, bitmap.shape, strict=True))
                wider.code(more_wide)
                higher.code(more_high)
                across.code(use.dx - (more_wide >> 1))
                down.code(use.dy - (more_high >> 1))
                code_refinement(coder, contexts, use.bitmap, bitmap, use.dx, use.dy)
                bitmap = use.bitmap
            here = use.left + bitmap.shape[1] - 1
        gaps.code(OUT_OF_BAND)
    flags = (_REFINED | _TEMPLATE_1 if refined else 0) | _STRIP_BITS << 2 | _BOTTOM_LEFT << 4
    return region_information(place) + struct.pack(">HI", flags, len(uses)) + coder.finish()
