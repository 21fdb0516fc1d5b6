"""A content stream: its operators, and by name what it uses."""

import re
import struct
from dataclasses import dataclass, field
from typing import Final, NamedTuple

import pikepdf

from hollowstack.core.bind.conformance.scan import TOKEN, Tokens, closing, unescaped

OPERATORS: Final = frozenset((
    "b", "B", "b*", "B*", "BDC", "BI", "BMC", "BT", "BX", "c", "cm", "CS", "cs", "d", "d0", "d1", "Do", "DP", "EI",
    "EMC", "ET", "EX", "f", "F", "f*", "G", "g", "gs", "h", "i", "ID", "j", "J", "K", "k", "l", "M", "m", "MP", "n",
    "q", "Q", "re", "RG", "rg", "ri", "s", "S", "SC", "sc", "SCN", "scn", "sh", "T*", "Tc", "Td", "TD", "Tf", "Tj",
    "TJ", "TL", "Tm", "Tr", "Ts", "Tw", "Tz", "v", "w", "W", "W*", "y", "'", '"',
))  # fmt: skip
"""Those of ISO 32000-1, annex A."""
DEVICE: Final = {
    "rg": "/DeviceRGB",
    "RG": "/DeviceRGB",
    "k": "/DeviceCMYK",
    "K": "/DeviceCMYK",
    "g": "/DeviceGray",
    "G": "/DeviceGray",
}
_PLAIN: Final = frozenset(b"Tm Tz cm re f n W h l m S c Td TL Tc Tw".split())
"""Those that say nothing to be taken note of."""
_VALUES: Final = frozenset((b"true", b"false", b"null"))
_OWN: Final = {"/DeviceRGB", "/DeviceCMYK", "/DeviceGray", "/Pattern", "/G", "/RGB", "/CMYK"}


@dataclass(slots=True)
class Contents:
    """What a content stream says."""

    error: str = ""
    """Why it cannot be read; empty where it can."""
    undefined: set[str] = field(default_factory=set)
    """Operators that are none."""
    deepest: int = 0
    """How deep its graphics states are nested."""
    fonts: dict[str, tuple[set[int], set[int]]] = field(default_factory=dict)
    """By name: rendering modes, and codes of two bytes that are shown."""
    xobjects: set[str] = field(default_factory=set)
    states: set[str] = field(default_factory=set)
    spaces: set[str] = field(default_factory=set)
    patterns: set[str] = field(default_factory=set)
    device: set[str] = field(default_factory=set)
    """Device colour spaces that are chosen by an operator."""
    intents: set[str] = field(default_factory=set)
    inline: list[pikepdf.Object] = field(default_factory=list)
    """Dictionaries of inline images."""
    mcids: list[int] = field(default_factory=list)
    """Numbers of marked contents that belong to the structure."""
    tokens: Tokens = field(default_factory=Tokens)
    """What is written there beyond the ordinary."""
    unbalanced: bool = False
    """Whether marked content or graphics states are not closed, or closed without being open."""


def read_contents(holder: pikepdf.Object) -> Contents:
    """Go through the contents of a page, a form or a pattern."""
    found = Contents()
    try:
        reader = _Reader(found, _data(holder))
        reader.read()
    except (pikepdf.PdfError, TypeError, ValueError, IndexError) as error:
        found.error = str(error).splitlines()[0] if str(error) else "it ends too early"
    return found


def _data(holder: pikepdf.Object) -> bytes:
    """All of it; the parts of a page's contents stand apart by white space (ISO 32000-1, table 30)."""
    given = holder if isinstance(holder, pikepdf.Stream) else holder.get("/Contents")
    parts = [given] if isinstance(given, pikepdf.Stream) else list(given or [])
    return b"\n".join(part.read_bytes() for part in parts)


class _Reader:
    """Takes operands and operators one by one, without making objects of them: pages are full of them."""

    def __init__(self, found: Contents, data: bytes) -> None:
        self.found, self.data = found, data
        self.font, self.mode, self.depth, self.marked = "", 0, 0, 0
        self.kept: list[tuple[str, int]] = []

    def read(self) -> None:
        """All of it."""
        operands: list[bytes | str | _Shown] = []
        at: int | None = 0
        while at is not None:
            at = self._some(at, operands)
        self.found.unbalanced |= self.depth != 0 or self.marked != 0

    def _some(self, start: int, operands: "list[bytes | str | _Shown]") -> int | None:
        """From there to what a pattern cannot follow, a string or an image; behind that, or None at the end."""
        data, tokens = self.data, self.found.tokens
        for match in TOKEN.finditer(data, start):
            kind, token = match.lastgroup, match[0]
            if kind == "number":
                operands.append(token)
                tokens.note_number(token)
            elif kind == "word":
                if token not in _PLAIN:
                    if token == b"BI":
                        operands.clear()
                        return self._inline(match.end())
                    if token in _VALUES:
                        operands.append(token)
                        continue
                    self._operator(token.decode("latin-1"), operands)
                operands.clear()
            elif kind == "hex":
                tokens.note_hex(token[1:-1])
                operands.append(_Shown(_unhexed(token[1:-1])))
            elif kind == "name":
                name = unescaped(token)
                tokens.note_name(name)
                operands.append("/" + name.decode("latin-1"))
            elif kind == "string":
                end = closing(data, match.end())
                tokens.note_string(data[match.end() : end - 1])
                operands.append(_Shown(bytes(pikepdf.Object.parse(data[match.start() : end]))))
                return end
            elif kind != "comment":
                operands.append(token)
        return None

    def _operator(self, operator: str, operands: "list[bytes | str | _Shown]") -> None:
        found = self.found
        match operator:
            case "Tj" | "TJ" | "'" | '"':
                modes, codes = found.fonts.setdefault(self.font, (set(), set()))
                modes.add(self.mode)
                for one in operands:
                    if isinstance(one, _Shown):
                        codes.update(struct.unpack(f">{len(one.text) // 2}H", one.text[: len(one.text) // 2 * 2]))
            case "Tf":
                self.font = str(operands[0])
            case "Tr":
                self.mode = int(operands[0])  # type: ignore[arg-type]
            case "q":
                self.depth += 1
                self.kept.append((self.font, self.mode))
                found.deepest = max(found.deepest, self.depth)
            case "Q":
                self.depth -= 1
                if self.kept:
                    self.font, self.mode = self.kept.pop()
                found.unbalanced |= self.depth < 0
            case "Do":
                found.xobjects.add(str(operands[0]))
            case "gs":
                found.states.add(str(operands[0]))
            case "cs" | "CS":
                name = str(operands[0])
                (found.device if name in _OWN else found.spaces).add(name)
            case "scn" | "SCN":
                if operands and isinstance(operands[-1], str):
                    found.patterns.add(operands[-1])
            case "rg" | "RG" | "g" | "G" | "k" | "K":
                found.device.add(DEVICE[operator])
            case "ri":
                found.intents.add(str(operands[0]))
            case "BMC" | "BDC":
                self.marked += 1
                if b"<<" in operands and "/MCID" in operands:
                    found.mcids.append(int(operands[operands.index("/MCID") + 1]))  # type: ignore[arg-type]
            case "EMC":
                self.marked -= 1
                found.unbalanced |= self.marked < 0
            case _:
                if operator not in OPERATORS:
                    found.undefined.add(operator)

    def _inline(self, at: int) -> int:
        """An image within the contents, from behind BI to behind EI."""
        end = re.compile(rb"[\0\t\n\f\r ]EI(?=[\0\t\n\f\r ]|$)").search(self.data, at)
        begin = re.compile(rb"[\0\t\n\f\r ]ID[\0\t\n\f\r ]").search(self.data, at)
        if end is None or begin is None:
            raise ValueError("an image within it does not end")
        self.found.inline.append(pikepdf.Object.parse(b"<<" + self.data[at : begin.start()] + b">>"))
        return end.end()


class _Shown(NamedTuple):
    """A string among operands."""

    text: bytes


def _unhexed(figures: bytes) -> bytes:
    try:
        return bytes.fromhex(figures.decode("ascii"))
    except ValueError:
        kept = bytes(figure for figure in figures if figure in b"0123456789abcdefABCDEF").decode("ascii")
        return bytes.fromhex(kept + "0" * (len(kept) % 2))
