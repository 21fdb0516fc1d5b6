"""How words are compared when they are looked for: small letters without accents, and all else parts them."""

import re
import unicodedata
from functools import lru_cache

_PLAIN = re.compile(r"[a-z0-9]+")
_MARKS = re.compile("[\u0300-\u036f\u0591-\u05c7\u064b-\u065f\u0670]+")
"""Accents of Latin, Greek and Cyrillic letters, points of Hebrew ones, short vowels of Arabic ones: often not written."""
_ALONE = "\u3040-\u30ff\u3400-\u4dbf\u4e00-\u9fff\uf900-\ufaff\U00020000-\U0003ffff"
"""Kana and Han, written without spaces: each is a word, and words of several are phrases."""
_LETTERS = str.maketrans({"ø": "o", "ł": "l", "đ": "d", "ħ": "h", "ı": "i", "æ": "ae", "œ": "oe"})
"""Letters that no table of Unicode takes apart, and that keyboards elsewhere do not have."""


def tokens(text: str) -> list[str]:
    """The words of a text as they are compared, in their order.

    Source:
        Unicode Standard Annex 15 (compatibility decomposition) and its default case folding; parted as SQLite's
        ``unicode61`` parts text, but that marks that carry a word (of Indic scripts) belong to it, and that kana and Han
        stand alone.
    """
    if text.isascii():
        return _PLAIN.findall(text.lower())
    apart = unicodedata.normalize("NFKD", unicodedata.normalize("NFKD", text).casefold())
    bare = unicodedata.normalize("NFC", _MARKS.sub("", apart)).translate(_LETTERS)
    found: list[str] = _any_script().findall(bare)
    return found


@lru_cache(maxsize=1)
def _any_script() -> re.Pattern[str]:
    """What a word is made of in any script: letters, figures, and marks among them."""
    marks = "".join(_ranges([code for code in range(0x300, 0x10000) if unicodedata.category(chr(code)).startswith("M")]))
    return re.compile(rf"[{_ALONE}]|(?:(?![{_ALONE}])(?:[^\W_]|[{marks}]))+")


def _ranges(codes: list[int]) -> list[str]:
    """Characters as they stand in a class of a pattern."""
    found: list[str] = []
    first = last = codes[0]
    for code in [*codes[1:], -1]:
        if code == last + 1:
            last = code
            continue
        found.append(f"\\u{first:04x}-\\u{last:04x}")
        first = last = code
    return found
