"""What the engine has found on a page, taken out of it: lines of words, by blocks."""

import tesserocr

from hollowstack.core.ocr.choices import alternatives, margin
from hollowstack.core.ocr.model import BlockKind, Line, Word
from hollowstack.core.ocr.tiles import FoundLine

_LEVEL = tesserocr.RIL


def found_lines(engine: tesserocr.PyTessBaseAPI) -> list[FoundLine]:
    """All lines that hold a word, in the engine's order; call it between ``Recognize`` and ``Clear``."""
    lines: list[FoundLine] = []
    words: list[Word] = []
    begun = FoundLine(Line(words=[], baseline=(0.0, 0.0, 0.0, 0.0)))
    iterator = engine.GetIterator()
    if iterator is None:
        return lines
    several = len(engine.GetLoadedLanguages()) > 1
    for item in tesserocr.iterate_level(iterator, _LEVEL.WORD):
        if item.IsAtBeginningOf(_LEVEL.TEXTLINE):
            if words:
                lines.append(begun._replace(line=Line(words=words, baseline=begun.line.baseline)))
            words, begun = [], _begun(item)
        if (word := _word(item, several=several)) is not None:
            words.append(word)
    if words:
        lines.append(begun._replace(line=Line(words=words, baseline=begun.line.baseline)))
    return lines


def _begun(item: tesserocr.PyResultIterator) -> FoundLine:
    """A line that begins here, without its words."""
    box = item.BoundingBox(_LEVEL.TEXTLINE) or (0, 0, 0, 0)
    (x1, y1), (x2, y2) = item.Baseline(_LEVEL.TEXTLINE) or ((box[0], box[3]), (box[2], box[3]))
    kind: BlockKind = "table" if item.BlockType() == tesserocr.PT.TABLE else "text"
    line = Line(words=[], baseline=(float(x1), float(y1), float(x2), float(y2)))
    return FoundLine(line, bool(item.IsAtBeginningOf(_LEVEL.BLOCK)), kind)


def _word(item: tesserocr.PyResultIterator, *, several: bool) -> Word | None:
    if item.Empty(_LEVEL.WORD):
        return None
    text = (item.GetUTF8Text(_LEVEL.WORD) or "").strip()
    box = item.BoundingBox(_LEVEL.WORD)
    if not text or not box:
        return None
    left, top, right, bottom = box
    choices = item.GetBestLSTMSymbolChoices() or []
    return Word(
        text=text,
        box=(left, top, max(right, left + 1), max(bottom, top + 1)),
        confidence=round(float(item.Confidence(_LEVEL.WORD)), 1),
        alternatives=alternatives(text, choices),
        margin=margin(text, choices),
        known=bool(item.WordIsFromDictionary() or item.WordIsNumeric()),
        language=str(item.WordRecognitionLanguage() or "") if several else "",
    )
