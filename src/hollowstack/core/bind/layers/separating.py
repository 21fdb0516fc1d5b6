"""Taking a page apart: ink to a stencil, what is smooth to coarse patches, pictures to patches as fine as the page."""

from functools import reduce
from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from hollowstack.core.bind.codecs import encode, encode_indexed, encode_lossless
from hollowstack.core.bind.encoded import EncodedImage
from hollowstack.core.bind.layers.boxes import boxes_around, within
from hollowstack.core.bind.layers.inks import find_inks
from hollowstack.core.bind.layers.levels import Levels, find_levels
from hollowstack.core.bind.layers.parts import Box, Colour, Ink, Layered, Patch
from hollowstack.core.bind.layers.rims import wide_rims
from hollowstack.core.bind.layers.spread import Mask, Planes, cell_means, coarse, ink_colours
from hollowstack.core.bind.layers.stencil import find_ink
from hollowstack.core.bind.two_tones import encode_two_tones
from hollowstack.core.page.colour_mode import ColourMode
from hollowstack.core.page.raster import ASSUMED_PPI, MM_PER_INCH, Raster, as_pixels

_CELL_PPI = 75.0
"""Resolution of what is smooth, and at which a page is held against its layers."""
_FLAT = 5
"""Gray values by which paper may differ from its one colour and still be that."""
_OFF, _OFF_CELLS = 8.0, 3
"""Gray values by which layers may be lighter or darker than the page over so many cells each way."""
_ROUGH, _ROUGH_CELLS = 14.0, 9
"""Gray values by which single cells may be off, over so many each way: rims of strokes are off here and there, and a picture
everywhere."""
_MIXED, _CORE_PX = 36.0, 2
"""Gray values by which ink may be off the colour it is painted in, so far inside its strokes: more, and something is written
on what was taken for ink."""
_LEAST_MM2 = 1.0
"""Smaller places that are off are rims of strokes."""
_AROUND_MM = 1.5
"""Around what is patched, so that the edge of a patch runs over paper."""
_MOST_PICTURE = 0.4
"""Share of a page from which pictures are the page."""
_RIM_MM, _SOFT_MM = 0.25, 0.4
"""Around ink, where pixels are neither that nor paper: as far as they are counted to it, and as far as they are no paper."""
_GROUND_QUALITY = 60
"""Of JPEG data of what is smooth anyway."""
_FEW_VALUES = 4000
"""An image of fewer values may take less than the tables of a JPEG."""
_FAINT, _FAINT_SHARE, _GRAIN_SHARE = 10, 0.0005, 0.03
"""Gray values by which paper is darker in places than it is around, and share of a page in such places, from which there is
something faint on it, pencil or ruled lines, which is too fine for coarse cells; so much of it is the paper's own grain."""


class _Cells(NamedTuple):
    """A page by cells of ``step`` pixels: what it is without its ink, and in what colours that is painted.

    ``bare`` is 1 where a pixel is neither ink nor its rim.
    """

    bare: Mask
    step: int
    ground: Planes
    tint: Planes


def separate(page: Raster, quality: int) -> Layered | None:
    """A page in layers; None where it is mostly picture, or holds no ink.

    Args:
        page: A clean page, gray or colour.
        quality: Of JPEG data of pictures, 20 to 95.

    Source:
        The idea of mixed raster content, ITU-T T.44 and ISO/IEC 16485; the way here is our own.
    """
    planes = page.pixels.reshape(page.height, page.width, -1)
    ppi = min(page.ppi or (ASSUMED_PPI, ASSUMED_PPI))
    levels = find_levels(planes, ppi)
    ink = find_ink(levels)
    paper = _colour_of_paper(planes, ink)
    cells = _celled(planes, ink, ppi)
    pictures = _off(planes, ink, cells, levels)
    if sum(box.area for box in pictures) > _MOST_PICTURE * page.width * page.height:
        return None
    for left, top, right, bottom in pictures:
        ink[top:bottom, left:right] = 0
    if not ink.any():
        return None
    finer = _with_faint(planes, cells)
    smooth = [patch for patch in _smooth(finer, paper, ppi) if not any(within(patch.box, box) for box in pictures)]
    patches = [Patch(_jpeg(planes[box.top : box.bottom, box.left : box.right], quality), box) for box in pictures]
    # As large as the cells of its tint, which hang over the page's sides: one lies exactly on the other.
    over = ((0, -page.height % cells.step), (0, -page.width % cells.step))
    stencil = np.where(np.pad(ink, over), 0, 255).astype(np.uint8)
    made = Ink(encode_two_tones(as_pixels(stencil), "JBIG2"), _tint(ink, cells))
    return Layered((page.width, page.height), page.is_gray, paper, (*smooth, *patches), made)


def _colour_of_paper(planes: Planes, ink: Mask) -> Colour:
    """The colour that most of the page has which is no ink."""
    rows, cols = (max(1, side // 500) for side in ink.shape)
    bare = planes[::rows, ::cols][ink[::rows, ::cols] == 0]
    if not len(bare):
        return (255,) * int(planes.shape[2])
    return tuple(int(np.argmax(np.bincount(bare[:, at], minlength=256))) for at in range(planes.shape[2]))


def _near(ink: Mask, px: float) -> Mask:
    """Ink, and what lies so near."""
    side = 2 * max(1, round(px)) + 1
    return as_pixels(cv2.dilate(ink, np.ones((side, side), np.uint8)))


def _celled(planes: Planes, ink: Mask, ppi: float) -> _Cells:
    mm, step = ppi / MM_PER_INCH, max(1, round(ppi / _CELL_PPI))
    near = _near(ink, _RIM_MM * mm)
    bare = as_pixels(1 - _near(ink, _SOFT_MM * mm))
    ground = coarse(planes, bare, step)
    return _Cells(bare, step, ground, ink_colours(planes, ink, near, ground, step))


def _off(planes: Planes, ink: Mask, cells: _Cells, levels: Levels) -> list[Box]:
    """Where the layers are not what the page is, seen from so far that rims of strokes do not count, if they are narrow."""
    everywhere = np.ones(ink.shape, np.uint8)
    page = coarse(planes, everywhere, cells.step).astype(np.float32)
    covered = coarse((ink * 255)[:, :, None], everywhere, cells.step).astype(np.float32) / 255
    shown = covered * cells.tint + (1 - covered) * cells.ground
    off = (page - shown).reshape(shown.shape)
    lost = np.abs(cv2.boxFilter(off, -1, (_OFF_CELLS, _OFF_CELLS)).reshape(off.shape)).max(axis=2) > _OFF
    rough = cv2.boxFilter(np.abs(off).max(axis=2), -1, (_ROUGH_CELLS, _ROUGH_CELLS)) > _ROUGH
    mm = levels.ppi / cells.step / MM_PER_INCH
    marked = as_pixels((lost | rough | _mixed(planes, ink, cells) | wide_rims(levels, cells.step)).astype(np.uint8))
    height, width = ink.shape
    boxes = boxes_around(marked, max(1, round(_LEAST_MM2 * mm * mm)), round(_AROUND_MM * mm))
    scaled = [[side * cells.step for side in box] for box in boxes]
    return [Box(left, top, min(width, right), min(height, bottom)) for left, top, right, bottom in scaled]


def _mixed(planes: Planes, ink: Mask, cells: _Cells) -> npt.NDArray[np.bool_]:
    """Cells in which ink has several colours at once: letters on a dark band, say, that was taken for ink with them."""
    core = cv2.erode(ink, np.ones((2 * _CORE_PX + 1, 2 * _CORE_PX + 1), np.uint8))
    height, width = ink.shape
    painted = cv2.resize(cells.tint, None, fx=cells.step, fy=cells.step, interpolation=cv2.INTER_NEAREST)
    painted = painted.reshape(*painted.shape[:2], -1)[:height, :width]
    off = reduce(cv2.max, cv2.split(cv2.absdiff(np.ascontiguousarray(painted), planes))) * core
    around = (_OFF_CELLS, _OFF_CELLS)
    sums, counts = (cv2.boxFilter(cell_means(one[:, :, None], cells.step)[:, :, 0], -1, around) for one in (off, core))
    return np.asarray((counts > 1 / cells.step**2) & (sums > _MIXED * counts))


def _with_faint(planes: Planes, cells: _Cells) -> _Cells:
    """The ground by cells half as large, where something faint is on it."""
    if cells.step % 2:
        return cells
    height, width = cells.bare.shape
    ground = cv2.resize(cells.ground, None, fx=cells.step, fy=cells.step, interpolation=cv2.INTER_LINEAR)
    darker = cv2.subtract(ground.reshape(*ground.shape[:2], -1)[:height, :width].copy(), planes)
    # Grain is darker from pixel to pixel, a stroke over some that lie together.
    faint = (cv2.blur(reduce(cv2.max, cv2.split(darker)), (3, 3)) > _FAINT) & (cells.bare > 0)
    if not _FAINT_SHARE <= np.mean(faint) <= _GRAIN_SHARE:
        return cells
    return cells._replace(step=cells.step // 2, ground=coarse(planes, cells.bare, cells.step // 2))


def _smooth(cells: _Cells, paper: Colour, ppi: float) -> list[Patch]:
    """Patches where the page without its ink is of another colour than its paper; at its sides they may hang over.

    Each place by itself or all in one, whichever takes less: an image has its own tables, and bare paper costs nothing.
    """
    away = np.abs(cells.ground.astype(np.int16) - np.array(paper)).max(axis=2) > _FLAT
    around = round(_AROUND_MM * ppi / cells.step / MM_PER_INCH)
    boxes = boxes_around(as_pixels(away.astype(np.uint8)), 1, around)
    if len(boxes) < 2:
        return [_ground(cells, box) for box in boxes]
    sides = np.array(boxes)
    whole = Box(*sides[:, :2].min(axis=0).tolist(), *sides[:, 2:].max(axis=0).tolist())
    single, several = [_ground(cells, whole)], [_ground(cells, box) for box in boxes]
    return min(several, single, key=lambda patches: sum(patch.image.bytes for patch in patches))


def _ground(cells: _Cells, box: Box) -> Patch:
    """The ground of some cells."""
    part = cells.ground[box.top : box.bottom, box.left : box.right]
    return Patch(_jpeg(part, _GROUND_QUALITY), Box(*(side * cells.step for side in box)))


def _tint(ink: Mask, cells: _Cells) -> EncodedImage | Colour:
    """The colour of ink, or an image of its colours by cells."""
    inks = find_inks(ink, cells.tint, cells.step)
    if len(inks.colours) == 1:
        return tuple(int(value) for value in inks.colours[0])
    return encode_indexed(inks.cells, inks.colours)


_MODES: dict[int, ColourMode] = {2: "grey", 3: "colour"}


def _jpeg(planes: Planes, quality: int) -> EncodedImage:
    """By JPEG, or, of few pixels, without loss, which takes less than the tables of a JPEG."""
    pixels = as_pixels(np.ascontiguousarray(planes[:, :, 0] if planes.shape[2] == 1 else planes))
    made, mode = Raster(pixels, None), _MODES[pixels.ndim]
    coded = encode(made, mode, quality)
    if pixels.size > _FEW_VALUES:
        return coded
    whole = encode_lossless(made, mode)
    return min(coded, whole, key=lambda one: len(one.data))
