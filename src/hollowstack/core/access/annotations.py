"""Notes and marks that lie on a page without being part of it."""

from collections.abc import Iterable

from pikepdf import Array, Dictionary, Name, Pdf, Stream, String

from hollowstack.core.access.marks import Mark
from hollowstack.core.access.order import AccessOrder
from hollowstack.core.bind.drawing import number
from hollowstack.core.bind.metadata import pdf_date
from hollowstack.core.bind.plain import plain

_PRINTED = 4
"""Flag of annotations that go to the printer, too (ISO 32000-1, table 165)."""
_HIGHLIGHT, _LINE, _NOTE = (1.0, 0.86, 0.35), (0.05, 0.35, 0.4), (0.98, 0.93, 0.75)
_NOTE_PT = 16.0


def annotate(pdf: Pdf, page: Dictionary, size_pt: tuple[float, float], marks: Iterable[Mark], order: AccessOrder) -> None:
    """Lay the marks of a page on it, all but covers.

    Source:
        ISO 32000-1:2008, 12.5: text, square and highlight annotations, each with an appearance of its own.
    """
    made = [_annotation(pdf, mark, size_pt, order) for mark in marks if mark.kind != "cover"]
    if made:
        page.Annots = pdf.make_indirect(Array([pdf.make_indirect(one) for one in made]))


def _annotation(pdf: Pdf, mark: Mark, size_pt: tuple[float, float], order: AccessOrder) -> Dictionary:
    left, top, right, bottom = mark.on(size_pt)
    box = (left, size_pt[1] - bottom, right, size_pt[1] - top)
    if mark.kind == "note":
        box = (left, size_pt[1] - top - _NOTE_PT, left + _NOTE_PT, size_pt[1] - top)
    made = Dictionary(
        Type=Name.Annot, Subtype=_SUBTYPES[mark.kind], Rect=Array([round(one, 3) for one in box]), F=_PRINTED,
        M=String(pdf_date(order.created)), C=Array(_HIGHLIGHT if mark.kind == "highlight" else _LINE),
    )  # fmt: skip
    if text := plain(mark.text):
        made.Contents = String(text)
    if mark.kind == "highlight":
        x0, y0, x1, y1 = box
        made.QuadPoints = Array([round(one, 3) for one in (x0, y1, x1, y1, x0, y0, x1, y0)])
    if mark.kind == "note":
        made.Name = Name.Note
    wide, high = box[2] - box[0], box[3] - box[1]
    shape = Stream(pdf, _drawn(mark, wide, high).encode("ascii"))
    shape.Type, shape.Subtype, shape.BBox = Name.XObject, Name.Form, Array([0, 0, round(wide, 3), round(high, 3)])
    if mark.kind == "highlight":  # what is written under it stays black
        shape.Resources = Dictionary(ExtGState=Dictionary(M=Dictionary(Type=Name.ExtGState, BM=Name.Multiply)))
    made.AP = Dictionary(N=pdf.make_indirect(shape))
    return made


_SUBTYPES = {"highlight": Name.Highlight, "frame": Name.Square, "note": Name.Text}


def _drawn(mark: Mark, wide: float, high: float) -> str:
    w, h = number(wide), number(high)
    match mark.kind:
        case "highlight":
            return f"/M gs {_colour(_HIGHLIGHT)} rg 0 0 {w} {h} re f"
        case "frame":
            return f"{_colour(_LINE)} RG 1.5 w 0.75 0.75 {number(wide - 1.5)} {number(high - 1.5)} re S"
        case _:
            lines = " ".join(
                f"3.5 {number(high - down)} m {number(wide - 3.5)} {number(high - down)} l S" for down in (5, 8, 11)
            )
            box = f"0.5 0.5 {number(wide - 1)} {number(high - 1)} re B"
            return f"{_colour(_NOTE)} rg {_colour(_LINE)} RG 1 w {box} {lines}"


def _colour(colour: tuple[float, float, float]) -> str:
    return " ".join(number(one) for one in colour)
