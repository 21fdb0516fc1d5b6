"""Rules of what a reader can do with a file: annotations, forms, actions, content that can be switched off.

ISO 19005-1: 6.5, 6.6, 6.9, 6.1.13; -2, -3: 6.3, 6.4, 6.5, 6.9 to 6.11; -4: 6.3, 6.4, 6.6, 6.10 to 6.12.
"""

from collections.abc import Iterator
from typing import Final

import pikepdf

from hollowstack.core.bind.conformance.model import rule
from hollowstack.core.bind.conformance.of_graphics import output_space
from hollowstack.core.bind.conformance.opened import Opened

_ANNOTATIONS: Final = {
    "/Text", "/Link", "/FreeText", "/Line", "/Square", "/Circle", "/Highlight", "/Underline", "/Squiggly", "/StrikeOut",
    "/Stamp", "/Ink", "/Popup", "/Widget", "/PrinterMark", "/TrapNet",
}  # fmt: skip
_LATER_ANNOTATIONS: Final = _ANNOTATIONS | {"/Polygon", "/PolyLine", "/Caret", "/FileAttachment", "/Watermark", "/Redact"}
_LATEST_ANNOTATIONS: Final = (_LATER_ANNOTATIONS - {"/TrapNet", "/FileAttachment"}) | {"/Projection"}
_ACTIONS: Final = {"/GoTo", "/GoToR", "/Thread", "/URI", "/Named", "/SubmitForm"}
_MORE_ACTIONS: Final = {2: {"/GoToE"}, 3: {"/GoToE"}, 4: {"/GoToE", "/JavaScript", "/RichMediaExecute", "/GoToDp"}}
_NAMED: Final = {"/NextPage", "/PrevPage", "/FirstPage", "/LastPage"}
_TRIGGERS: Final = {"/E", "/X", "/D", "/U", "/Fo", "/Bl"}
_INVISIBLE, _HIDDEN, _PRINT, _NO_VIEW, _TOGGLE = 1, 2, 4, 32, 256


def _annotations(file: Opened) -> Iterator[tuple[int, pikepdf.Object]]:
    for number, (page, _) in enumerate(file.pages, 1):
        for one in page.get("/Annots", []):
            if isinstance(one, pikepdf.Dictionary):
                yield number, one


@rule({1: "6.5.2", 2: "6.3.1", 4: "6.3.1"}, "Notes and links: of kinds that last")
def annotation_kinds(file: Opened) -> Iterator[str]:
    allowed = {1: _ANNOTATIONS, 4: _LATEST_ANNOTATIONS}.get(file.part, _LATER_ANNOTATIONS)
    for page, one in _annotations(file):
        kind = str(one.get("/Subtype", "/none"))
        if kind not in allowed:
            yield f"Page {page} has a note of a kind that may not be ({kind[1:]})."


@rule({1: "6.5.3", 2: "6.3.2", 4: "6.3.2"}, "Notes and links: printed, not hidden")
def annotation_flags(file: Opened) -> Iterator[str]:
    forbidden = _INVISIBLE | _HIDDEN | _NO_VIEW | (0 if file.part == 1 else _TOGGLE)
    for page, one in _annotations(file):
        flags = one.get("/F")
        if flags is None and (file.part == 1 or one.get("/Subtype") != "/Popup"):
            yield f"Page {page} has a note that does not say whether it is printed (F)."
        if flags is not None and (not int(flags) & _PRINT or int(flags) & forbidden):
            yield f"Page {page} has a note that is hidden or not printed."
        if file.part == 1 and abs(float(one.get("/CA", 1)) - 1) > 1e-6:
            yield f"Page {page} has a note that is transparent."
        if file.part == 1 and ("/C" in one or "/IC" in one) and output_space(file) != b"RGB ":
            yield f"Page {page} has a note in colours that are not those of the output intent."


@rule({1: "6.5.3", 2: "6.3.3", 4: "6.3.3"}, "Notes and links: drawn in one way")
def appearances(file: Opened) -> Iterator[str]:
    for page, one in _annotations(file):
        kind, appearance = one.get("/Subtype"), one.get("/AP")
        box = [float(value) for value in one.get("/Rect", [0, 0, 0, 0])]
        empty = len(box) == 4 and box[0] == box[2] and box[1] == box[3]
        if appearance is None:
            if file.part > 1 and not empty and kind not in ("/Popup", "/Link", "/Projection"):
                yield f"Page {page} has a note that is not drawn (AP)."
            continue
        if set(appearance.keys()) != {"/N"}:
            yield f"Page {page} has a note that is drawn in more than one way, or in none."
            continue
        button = kind == "/Widget" and one.get("/FT") == "/Btn"
        if button == isinstance(appearance.N, pikepdf.Stream):
            yield f"Page {page} has a note that is not drawn as its kind is to be."


@rule({1: "6.9", 2: "6.4", 4: "6.4"}, "Forms to fill in: drawn, and doing nothing")
def forms(file: Opened) -> Iterator[str]:
    form = file.pdf.Root.get("/AcroForm")
    if isinstance(form, pikepdf.Dictionary):
        if form.get("/NeedAppearances", False) is not False:
            yield "The form leaves it to programs how its fields look."
        if file.part > 1 and "/XFA" in form:
            yield "The form is described a second time (XFA)."
        for field in form.get("/Fields", []):
            if file.part < 4 and isinstance(field, pikepdf.Dictionary) and "/AA" in field:
                yield "A field of the form does something by itself."
    if file.part > 1 and file.pdf.Root.get("/NeedsRendering", False) is not False:
        yield "The document needs to be drawn anew by a program (NeedsRendering)."
    for page, one in _annotations(file):
        if one.get("/Subtype") == "/Widget":
            if "/A" in one or (file.part < 4 and "/AA" in one):
                yield f"Page {page} has a field that does something."
            if file.part == 1 and "/AP" not in one:
                yield f"Page {page} has a field that is not drawn."


@rule({1: "6.6", 2: "6.5", 4: "6.6"}, "Actions: only such as lead somewhere")
def actions(file: Opened) -> Iterator[str]:
    allowed = _ACTIONS | _MORE_ACTIONS.get(file.part, set())
    for one in _actions(file):
        kind = str(one.get("/S", "/none"))
        if kind not in allowed:
            yield f"The document does something that may not be ({kind[1:]})."
        if kind == "/Named" and str(one.get("/N", "/none")) not in _NAMED:
            yield "The document has an action by a name that may not be."
    holders = [("The document", file.pdf.Root), *((f"Page {n}", page) for n, (page, _) in enumerate(file.pages, 1))]
    for name, holder in holders:
        more = holder.get("/AA")
        if more is not None and (file.part < 4 or not set(more.keys()) <= _TRIGGERS):
            yield f"{name} does something by itself (AA)."


def _actions(file: Opened) -> Iterator[pikepdf.Object]:
    """Actions, and those that follow each other; an action is known by where it hangs."""
    waiting: list[object] = [file.pdf.Root.get("/OpenAction")]
    for holder in (file.pdf.Root, *(page for page, _ in file.pages)):
        more = holder.get("/AA")
        waiting += [value for _, value in more.items()] if isinstance(more, pikepdf.Dictionary) else []
    for _, one in _annotations(file):
        waiting.append(one.get("/A"))
        more = one.get("/AA")
        waiting += [value for _, value in more.items()] if isinstance(more, pikepdf.Dictionary) else []
    names = file.pdf.Root.get("/Names")
    if isinstance(names, pikepdf.Dictionary) and isinstance(names.get("/JavaScript"), pikepdf.Dictionary):
        waiting += [one for one in names.JavaScript.get("/Names", []) if isinstance(one, pikepdf.Dictionary)]
    outline = file.pdf.Root.get("/Outlines")
    item = outline.get("/First") if isinstance(outline, pikepdf.Dictionary) else None
    items, seen = [item], set()
    while items:
        one = items.pop()
        if isinstance(one, pikepdf.Dictionary) and one.objgen not in seen:
            seen.add(one.objgen)
            waiting.append(one.get("/A"))
            items += [one.get("/First"), one.get("/Next")]
    while waiting:
        one = waiting.pop()
        if isinstance(one, pikepdf.Dictionary):
            yield one
            following = one.get("/Next")
            waiting += list(following) if isinstance(following, pikepdf.Array) else [following]


@rule({1: "6.1.13", 2: "6.9", 4: "6.10"}, "Content that can be switched off")
def optional_content(file: Opened) -> Iterator[str]:
    options = file.pdf.Root.get("/OCProperties")
    if not isinstance(options, pikepdf.Dictionary):
        return
    if file.part == 1:
        yield "Content can be switched off, which part 1 has no room for."
        return
    sets = [options.get("/D"), *options.get("/Configs", [])]
    found: list[str] = []
    groups = {one.objgen for one in options.get("/OCGs", [])}
    for one in sets:
        if not isinstance(one, pikepdf.Dictionary):
            continue
        name = str(one.get("/Name", ""))
        if not name:
            yield "A set of what is switched on has no name."
        elif name in found:
            yield "Two sets of what is switched on have the same name."
        found.append(name)
        if file.part < 4 and "/AS" in one:
            yield "Content is switched off by itself (AS)."
        if "/Order" in one and not groups <= _listed(one.Order):
            yield "Content that can be switched off is not in the list of it (Order)."


def _listed(order: pikepdf.Object) -> set[tuple[int, int]]:
    found: set[tuple[int, int]] = set()
    for one in order:
        if isinstance(one, pikepdf.Array):
            found |= _listed(one)
        elif isinstance(one, pikepdf.Dictionary):
            found.add(one.objgen)
    return found


@rule({2: "6.10", 4: "6.11"}, "No other ways to be shown")
def presentations(file: Opened) -> Iterator[str]:
    names = file.pdf.Root.get("/Names")
    if isinstance(names, pikepdf.Dictionary) and "/AlternatePresentations" in names:
        yield "The document has another way to be shown."
    for number, (page, _) in enumerate(file.pages, 1):
        if "/PresSteps" in page:
            yield f"Page {number} is shown in steps."


@rule({2: "6.11", 4: "6.12"}, "No demands on the program that shows it")
def requirements(file: Opened) -> Iterator[str]:
    if "/Requirements" in file.pdf.Root:
        yield "The document demands something of the program that shows it."
