"""Clean pages and their readings to one archival document."""

from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

import pikepdf
from pikepdf import Array, Dictionary, Name, Pdf, Stream

from hollowstack.core.bind.codecs import EncodedImage
from hollowstack.core.bind.font import TextFont
from hollowstack.core.bind.metadata import CONFORMANCE, Description, describe
from hollowstack.core.bind.text_layer import page_content
from hollowstack.core.calibrate.icc import gray_profile
from hollowstack.core.ocr.model import Reading
from hollowstack.core.page.durable import settle
from hollowstack.core.page.errors import BindError

__all__ = ["CONFORMANCE", "BoundPage", "Description", "bind", "check_bindable"]

_POINTS_PER_INCH = 72
_LEAST_POINTS = 3
_MOST_POINTS = 14_400
"""A page's longest side in default units (ISO 32000-1, annex C; PDF/A-2, 6.1.13)."""


@dataclass(frozen=True, slots=True)
class BoundPage:
    """One page of a document; ``label`` is what viewers show as its number."""

    image: EncodedImage
    ppi: tuple[float, float]
    reading: Reading | None
    label: str


def bind(pages: Iterable[BoundPage], path: Path, about: Description) -> int:
    """Write a PDF/A-2u: each page its image, with its words invisibly over it.

    The file appears under its name only once it is whole. The same pages and description give the same bytes.

    Args:
        pages: In order; taken one at a time.
        path: Where to write; a file that is there is replaced.
        about: Title, date and language.

    Returns:
        How many pages were bound.

    Raises:
        BindError: There are no pages, one is too large for a PDF, or the file cannot be written.

    Source:
        ISO 19005-2:2011, level U; ISO 32000-1:2008.
    """
    pdf = Pdf.new()
    shared = _Shared(TextFont(), pdf.make_indirect(Dictionary()), {})
    labels: list[str] = []
    for page in pages:
        _add(pdf, page, shared)
        labels.append(page.label)
    if not labels:
        raise BindError("There is no page to bind: every page is aside or failed.")
    shared.font.build(pdf, shared.font_object)
    pdf.Root.PageLabels = Dictionary(Nums=_labels(labels))
    describe(pdf, about)
    part = path.with_name(path.name + ".part")
    try:
        pdf.save(
            part, deterministic_id=True, compress_streams=True, force_version="1.7",
            object_stream_mode=pikepdf.ObjectStreamMode.generate, recompress_flate=False,
        )  # fmt: skip
        settle(part, path)
    except OSError as error:
        raise BindError(f"The document cannot be written to {path}: {error.strerror or error}.") from error
    finally:
        part.unlink(missing_ok=True)
        pdf.close()
    return len(labels)


def check_bindable(size_px: tuple[int, int], ppi: tuple[float, float]) -> None:
    """Refuse a page that no PDF can hold.

    Raises:
        BindError: It is smaller than 3 points on a side (ISO 19005-2, 6.1.13).
    """
    size = (size_px[0] / ppi[0] * _POINTS_PER_INCH, size_px[1] / ppi[1] * _POINTS_PER_INCH)
    if min(size) / max(1.0, max(size) / _MOST_POINTS) < _LEAST_POINTS:
        raise BindError(f"A page of {size[0]:.1f} × {size[1]:.1f} points is too small for a PDF: check its resolution.")


@dataclass(frozen=True, slots=True)
class _Shared:
    """What all pages of a document refer to."""

    font: TextFont
    font_object: pikepdf.Object
    profiles: dict[bytes, pikepdf.Object]


def _add(pdf: Pdf, page: BoundPage, shared: _Shared) -> None:
    width, height = page.image.size_px
    size = (width / page.ppi[0] * _POINTS_PER_INCH, height / page.ppi[1] * _POINTS_PER_INCH)
    # A page too long for plain points is given larger units (UserUnit), so that it keeps its true size.
    unit = max(1.0, max(size) / _MOST_POINTS)
    box = (round(size[0] / unit, 4), round(size[1] / unit, 4))
    check_bindable(page.image.size_px, page.ppi)
    image = Stream(pdf, page.image.data)
    image.Type, image.Subtype, image.Width, image.Height = Name.XObject, Name.Image, width, height
    image.ColorSpace = _colour_space(pdf, page, shared)
    image.Filter = Name("/" + page.image.filter)
    if page.image.filter == "CCITTFaxDecode":
        image.BitsPerComponent = 1
        image.DecodeParms = Dictionary(K=-1, Columns=width, Rows=height)
        if page.image.black_is_one:
            image.DecodeParms.BlackIs1 = True
    else:
        image.BitsPerComponent = 8
    if page.image.filter == "FlateDecode":
        image.DecodeParms = Dictionary(Predictor=15, Colors=1 if page.image.gray else 3, BitsPerComponent=8, Columns=width)
    entry = Dictionary(
        Type=Name.Page, MediaBox=Array([0, 0, *box]),
        Resources=Dictionary(XObject=Dictionary(Im=pdf.make_indirect(image)), Font=Dictionary(F=shared.font_object)),
        Contents=pdf.make_indirect(Stream(pdf, page_content(box, page.reading, shared.font))),
    )  # fmt: skip
    if unit > 1:
        entry.UserUnit = round(unit, 6)
    pdf.pages.append(pikepdf.Page(pdf.make_indirect(entry)))


def _colour_space(pdf: Pdf, page: BoundPage, shared: _Shared) -> pikepdf.Object:
    """Colour is the output intent's sRGB and grey has sRGB's curve, unless the image's own profile says otherwise."""
    if page.image.filter == "CCITTFaxDecode":
        return Name.DeviceGray
    if not page.image.gray and not page.image.icc:
        return Name.DeviceRGB
    data = page.image.icc or gray_profile()
    if data not in shared.profiles:
        profile = Stream(pdf, data)
        profile.N = 1 if page.image.gray else 3
        shared.profiles[data] = pdf.make_indirect(profile)
    return Array([Name.ICCBased, shared.profiles[data]])


def _labels(labels: list[str]) -> Array:
    """A number tree: runs of consecutive numbers as one entry, everything else as its own text."""
    tree: list[object] = []
    expected: int | None = None
    for index, label in enumerate(labels):
        number = int(label) if label.isascii() and label.isdigit() and not label.startswith("0") else None
        if number is None:
            tree += [index, Dictionary(P=pikepdf.String(label))]
        elif number != expected:
            tree += [index, Dictionary(S=Name.D, St=number)]
        expected = number + 1 if number is not None else None
    return Array(tree)
