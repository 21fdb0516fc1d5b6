"""Rules of the structure of a document (ISO 19005-1: 6.8; -2, -3: 6.7): level A, and languages for all."""

import re
from collections.abc import Iterator
from typing import Final

import pikepdf

from hollowstack.core.bind.conformance.model import rule
from hollowstack.core.bind.conformance.opened import Opened

STANDARD: Final = frozenset(
    [
        "Document",
        "Part",
        "Art",
        "Sect",
        "Div",
        "BlockQuote",
        "Caption",
        "TOC",
        "TOCI",
        "Index",
        "NonStruct",
        "Private",
        "P",
        "H",
        "H1",
        "H2",
        "H3",
        "H4",
        "H5",
        "H6",
        "L",
        "LI",
        "Lbl",
        "LBody",
        "Table",
        "TR",
        "TH",
        "TD",
        "THead",
        "TBody",
        "TFoot",
        "Span",
        "Quote",
        "Note",
        "Reference",
        "BibEntry",
        "Code",
        "Link",
        "Annot",
        "Ruby",
        "RB",
        "RT",
        "RP",
        "Warichu",
        "WT",
        "WP",
        "Figure",
        "Formula",
        "Form",
    ]
)
"""Types of ISO 32000-1, 14.8.4."""
_LANGUAGE = re.compile(r"[a-zA-Z]{1,8}(-[a-zA-Z0-9]{1,8})*")


def elements(file: Opened) -> Iterator[pikepdf.Object]:
    """Each element of the structure, from the root down."""
    root = file.pdf.Root.get("/StructTreeRoot")
    waiting = [root.get("/K")] if isinstance(root, pikepdf.Dictionary) else []
    seen: set[tuple[int, int]] = set()
    while waiting:
        one = waiting.pop()
        if isinstance(one, pikepdf.Array):
            waiting += list(one)
        elif isinstance(one, pikepdf.Dictionary) and "/S" in one and one.objgen not in seen:
            if one.is_indirect:
                seen.add(one.objgen)
            yield one
            waiting.append(one.get("/K"))


@rule({1: "6.8.2", 2: "6.7.2"}, "Structure: marked", levels="A")
def marked(file: Opened) -> Iterator[str]:
    info = file.pdf.Root.get("/MarkInfo")
    if not isinstance(info, pikepdf.Dictionary) or info.get("/Marked", False) is not True:
        yield "The document does not say that its contents are marked."


@rule({1: "6.8.3", 2: "6.7.3"}, "Structure: a tree of known types", levels="A")
def tree(file: Opened) -> Iterator[str]:
    root = file.pdf.Root.get("/StructTreeRoot")
    if not isinstance(root, pikepdf.Dictionary):
        yield "The document has no structure."
        return
    roles = root.get("/RoleMap")
    told = {key[1:]: str(role)[1:] for key, role in roles.items()} if isinstance(roles, pikepdf.Dictionary) else {}
    for kind in sorted({str(one.S)[1:] for one in elements(file)}):
        if kind in STANDARD:
            continue
        seen = {kind}
        while kind in told and kind not in STANDARD:
            kind = told[kind]
            if kind in seen:
                yield f"The type “{kind}” of the structure leads in a circle."
                break
            seen.add(kind)
        if kind not in STANDARD:
            yield f"The structure has a type “{kind}” that is not in the standard."
    for kind in sorted(set(told) & STANDARD):
        yield f"The structure gives a type of the standard another meaning ({kind})."


@rule({1: "6.8.4", 2: "6.7.4"}, "Languages: named as they are everywhere", levels="A")
def languages(file: Opened) -> Iterator[str]:
    told = [file.pdf.Root.get("/Lang"), *(one.get("/Lang") for one in elements(file))]
    for one in {str(one) for one in told if one is not None}:
        if one and not _LANGUAGE.fullmatch(one):
            yield f"“{one}” is not the name of a language."


@rule({2: "6.7.3.3"}, "Structure: contents hang in it where it says", levels="A")
def parents(file: Opened) -> Iterator[str]:
    root = file.pdf.Root.get("/StructTreeRoot")
    if not isinstance(root, pikepdf.Dictionary):
        return
    nums = _numbers(root.get("/ParentTree"))
    for number, (page, contents) in enumerate(file.pages, 1):
        if not contents.mcids:
            continue
        under = nums.get(int(page.get("/StructParents", -1)))
        if not isinstance(under, pikepdf.Array) or len(under) <= max(contents.mcids):
            yield f"The contents of page {number} are marked, and do not hang in the structure."


def _numbers(node: object) -> dict[int, object]:
    """A number tree as a table (ISO 32000-1, 7.9.7)."""
    found: dict[int, object] = {}
    waiting = [node]
    while waiting:
        one = waiting.pop()
        if isinstance(one, pikepdf.Dictionary):
            pairs = list(one.get("/Nums", []))
            found.update({int(key): value for key, value in zip(pairs[::2], pairs[1::2], strict=False)})
            waiting += list(one.get("/Kids", []))
    return found


@rule({2: "6.8", 4: "6.9"}, "Attached files: named, of a known kind, and part of the document")
def attachments(file: Opened) -> Iterator[str]:
    related = {one.objgen for holder in _holders(file) for one in holder}
    for one in file.everything():
        if not isinstance(one, pikepdf.Dictionary) or not isinstance(one.get("/EF"), pikepdf.Dictionary):
            continue
        name = str(one.get("/UF", one.get("/F", "")))
        if "/F" not in one or "/UF" not in one:
            yield f"The attached file {name} is not named twice (F and UF)."
        data = one.EF.get("/F", one.EF.get("/UF"))
        kind = str(data.get("/Subtype", ""))[1:] if isinstance(data, pikepdf.Stream) else ""
        if file.part in (3, 4) and not re.fullmatch(r"[-\w+.]+/[-\w+.]+", kind):
            yield f"The attached file {name} has no media type."
        if file.part in (3, 4) and "/AFRelationship" not in one:
            yield f"The attached file {name} does not say what it is to the document."
        if file.part == 3 and one.objgen not in related:
            yield f"The attached file {name} belongs to no part of the document (AF)."
        if file.part in (2, 4) and not _is_archival(data):
            yield f"The attached file {name} is no PDF/A itself, as it is to be."


def _holders(file: Opened) -> Iterator[list[pikepdf.Object]]:
    for one in file.everything():
        if isinstance(one, pikepdf.Dictionary | pikepdf.Stream) and "/AF" in one:
            given = one["/AF"]
            yield list(given) if isinstance(given, pikepdf.Array) else [given]


def _is_archival(data: object) -> bool:
    """Whether an attached file claims to be PDF/A; whether it is, is for whoever made it to check."""
    return isinstance(data, pikepdf.Stream) and data.read_bytes()[:5] == b"%PDF-" and b"pdfaid" in data.read_bytes()
