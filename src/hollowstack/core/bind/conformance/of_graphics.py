"""Rules of what is drawn: contents, colours, images, states, transparency (ISO 19005-1: 6.2, 6.4; -2, -3, -4: 6.2)."""

import struct
from collections.abc import Iterator
from typing import Final, NamedTuple

import pikepdf

from hollowstack.core.bind.conformance.model import rule
from hollowstack.core.bind.conformance.opened import Opened, Used

_INTENTS: Final = {"/RelativeColorimetric", "/AbsoluteColorimetric", "/Perceptual", "/Saturation"}
_BLENDS: Final = {
    "/Normal", "/Compatible", "/Multiply", "/Screen", "/Overlay", "/Darken", "/Lighten", "/ColorDodge", "/ColorBurn",
    "/HardLight", "/SoftLight", "/Difference", "/Exclusion", "/Hue", "/Saturation", "/Color", "/Luminosity",
}  # fmt: skip
_OUTPUT_CLASSES, _INPUT_CLASSES = {b"prtr", b"mntr"}, {b"prtr", b"mntr", b"scnr", b"spac"}
_OUTPUT_SPACES, _INPUT_SPACES = {b"RGB ", b"CMYK", b"GRAY"}, {b"RGB ", b"CMYK", b"GRAY", b"Lab "}
_COMPONENTS: Final = {b"GRAY": 1, b"RGB ": 3, b"Lab ": 3, b"CMYK": 4}
_DEPTHS: Final = {1, 2, 4, 8, 16}
_JPEG2000: Final = "/JPXDecode"


@rule({1: "6.2.10", 2: "6.2.2", 4: "6.2.2"}, "Contents: operators of the standard, resources of their own")
def contents(file: Opened) -> Iterator[str]:
    for number, (page, found) in enumerate(file.pages, 1):
        if found.error:
            yield f"The contents of page {number} cannot be read: {found.error.rstrip('.')}."
        for name in sorted(found.undefined):
            yield f"The contents of page {number} have an operator “{name}”, which is none."
        if found.unbalanced:
            yield f"On page {number} something is begun and not ended, or ended and not begun."
        uses = found.fonts or found.xobjects or found.states or found.spaces
        if uses and "/Resources" not in page and file.part > 1:
            yield f"Page {number} has no resources of its own."
        resources = page.get("/Resources")
        for kind, names in (("/Font", set(found.fonts)), ("/XObject", found.xobjects), ("/ExtGState", found.states)):
            there = resources.get(kind) if isinstance(resources, pikepdf.Dictionary) else None
            for name in sorted(names):
                if name and not (isinstance(there, pikepdf.Dictionary) and name in there):
                    yield f"Page {number} uses {name[1:]}, which its resources do not hold."


class Profile(NamedTuple):
    """The head of an ICC profile."""

    kind: bytes
    space: bytes
    version: int


def _profile(stream: object) -> Profile | None:
    """Class, colour space and version (ICC.1, 7.2); None of what is no profile."""
    if not isinstance(stream, pikepdf.Stream):
        return None
    try:
        data = stream.read_bytes()
    except pikepdf.PdfError:
        return None
    return Profile(data[12:16], data[16:20], data[8]) if len(data) >= 128 and data[36:40] == b"acsp" else None


def _newest(part: int) -> int:
    """The first version of ICC profiles that a part has no room for."""
    return 3 if part == 1 else 5


@rule({1: "6.2.2", 2: "6.2.3", 4: "6.2.3"}, "Output intent")
def output_intents(file: Opened) -> Iterator[str]:
    profiles = set()
    for intent in file.pdf.Root.get("/OutputIntents", []):
        if file.part > 1 and "/DestOutputProfileRef" in intent and (file.part == 4 or intent.get("/S") == "/GTS_PDFX"):
            yield "An output intent names a profile that lies elsewhere."
        profile = intent.get("/DestOutputProfile")
        if profile is None:
            continue
        profiles.add(profile.objgen)
        found = _profile(profile)
        if found is None:
            yield "The profile of the output intent is none."
        elif found.kind not in _OUTPUT_CLASSES or found.space not in _OUTPUT_SPACES:
            yield "The profile of the output intent is not one of a printer or a display."
        elif found.version >= _newest(file.part):
            yield f"The profile of the output intent is of version {found.version}, which is too new."
    if len(profiles) > 1:
        yield "Output intents have more than one profile."


def output_space(file: Opened) -> bytes | None:
    """Of what the output intent for archives is: b"RGB ", b"CMYK" or b"GRAY"; None without."""
    for intent in file.pdf.Root.get("/OutputIntents", []):
        if intent.get("/S") == "/GTS_PDFA1" and (found := _profile(intent.get("/DestOutputProfile"))) is not None:
            return found.space
    return None


@rule({1: "6.2.3", 2: "6.2.4", 4: "6.2.4"}, "Colours: device colours only of the output intent, profiles that are sound")
def colours(file: Opened) -> Iterator[str]:
    space = output_space(file)
    for number, (page, found) in enumerate(file.pages, 1):
        defaults = page.get("/Resources", pikepdf.Dictionary()).get("/ColorSpace", pikepdf.Dictionary())
        for name in sorted(found.device):
            yield from _device(name, f"Page {number}", space, set(defaults.keys()))
    for one in file.used["colours"]:
        yield from _space(one.object, f"Page {one.page}", space, file.part)
    for form in file.used["forms"]:
        group = form.object.get("/Group")
        if isinstance(group, pikepdf.Dictionary) and "/CS" in group:
            yield from _space(group.CS, f"Page {form.page}", space, file.part)


def _device(name: str, where: str, space: bytes | None, defaults: set[str] = frozenset()) -> Iterator[str]:  # type: ignore[assignment]
    plain = {"/G": "/DeviceGray", "/RGB": "/DeviceRGB", "/CMYK": "/DeviceCMYK"}.get(name, name)
    if "/Default" + plain.removeprefix("/Device") in defaults:
        return
    wanted = {"/DeviceRGB": b"RGB ", "/DeviceCMYK": b"CMYK"}.get(plain)
    if plain == "/DeviceGray" and space is None:
        yield f"{where} has grey of no stated meaning: there is no output intent."
    elif wanted is not None and space != wanted:
        yield f"{where} has colours ({plain.removeprefix('/Device')}) that are not those of the output intent."


def _space(given: object, where: str, output: bytes | None, part: int) -> Iterator[str]:
    if isinstance(given, pikepdf.Name):
        yield from _device(str(given), where, output)
        return
    if not isinstance(given, pikepdf.Array) or not len(given):
        return
    kind = str(given[0])
    match kind:
        case "/ICCBased":
            yield from _icc(given[1], where, part)
        case "/Indexed" | "/I" | "/Pattern":
            if len(given) > 1:
                yield from _space(given[1], where, output, part)
        case "/Separation":
            yield from _space(given[2], where, output, part)
        case "/DeviceN":
            if len(given[1]) > (8 if part == 1 else 32):
                yield f"{where} has a colour space of too many colourants."
            yield from _space(given[2], where, output, part)
        case _:
            yield from _device(kind, where, output)


def _icc(stream: object, where: str, part: int) -> Iterator[str]:
    found = _profile(stream)
    if found is None:
        yield f"{where} has a colour space by a profile that is none."
        return
    if found.kind not in _INPUT_CLASSES or found.space not in _INPUT_SPACES:
        yield f"{where} has a colour space by a profile of a kind that may not be."
    if found.version >= _newest(part):
        yield f"{where} has a profile of version {found.version}, which is too new for this part."
    assert isinstance(stream, pikepdf.Stream)
    if int(stream.get("/N", 0)) != _COMPONENTS.get(found.space):
        yield f"{where} has a profile whose number of components is not the one told."


@rule({1: "6.2.8", 2: "6.2.5", 4: "6.2.5"}, "Graphics states: no transfer functions")
def states(file: Opened) -> Iterator[str]:
    for one in file.used["states"]:
        state, where = one.object, f"Page {one.page}"
        if "/TR" in state:
            yield f"{where} has a transfer function (TR)."
        if state.get("/TR2", "/Default") != "/Default":
            yield f"{where} has a transfer function (TR2)."
        if file.part in (2, 3) and "/HTP" in state:
            yield f"{where} has a phase of half-tones (HTP)."
        if file.part == 4 and "/HTO" in state:
            yield f"{where} has an origin of half-tones (HTO)."
        halftone = state.get("/HT")
        if file.part > 1 and isinstance(halftone, pikepdf.Dictionary | pikepdf.Stream):
            if halftone.get("/HalftoneType") not in (1, 5):
                yield f"{where} has half-tones of a kind that may not be."
            if "/HalftoneName" in halftone:
                yield f"{where} has half-tones by name."


@rule({1: "6.2.9", 2: "6.2.6", 4: "6.2.6"}, "Rendering intents")
def intents(file: Opened) -> Iterator[str]:
    for number, (_, found) in enumerate(file.pages, 1):
        for name in found.intents - _INTENTS:
            yield f"Page {number} has a rendering intent “{name[1:]}”, which is none."
    for kind, key in (("images", "/Intent"), ("states", "/RI")):
        for one in file.used[kind]:
            if (name := one.object.get(key)) is not None and str(name) not in _INTENTS:
                yield f"Page {one.page} has a rendering intent “{str(name)[1:]}”, which is none."


@rule({1: "6.2.4", 2: "6.2.8", 4: "6.2.7.1"}, "Images: no alternatives, no smoothing, bits of a colour")
def images(file: Opened) -> Iterator[str]:
    for one in file.used["images"]:
        image, where = one.object, f"Page {one.page}"
        if "/Alternates" in image:
            yield f"{where} has an image with alternatives."
        if "/OPI" in image:
            yield f"{where} has an image that stands for another (OPI)."
        if image.get("/Interpolate", False) is not False:
            yield f"{where} has an image that is to be smoothed (Interpolate)."
        bits, mask = image.get("/BitsPerComponent"), image.get("/ImageMask", False) is True
        if mask and bits not in (None, 1):
            yield f"{where} has a stencil of {bits} bits."
        if not mask and bits is not None and (bits not in _DEPTHS or (file.part == 1 and bits > 8)):
            yield f"{where} has an image of {bits} bits a colour."
    for number, (_, found) in enumerate(file.pages, 1):
        for inline in found.inline:
            if inline.get("/I", inline.get("/Interpolate", False)) is not False:
                yield f"Page {number} has an image that is to be smoothed (Interpolate)."


@rule({2: "6.2.8.3", 4: "6.2.7.3"}, "JPEG 2000: channels, colour space, depth")
def jpeg2000(file: Opened) -> Iterator[str]:
    for one in file.used["images"]:
        given = one.object.get("/Filter")
        named = [given] if isinstance(given, pikepdf.Name) else list(given or [])
        if named and str(named[-1]) == _JPEG2000 and len(named) == 1:
            yield from _boxes_of(one.object.read_raw_bytes(), one, f"Page {one.page}")


def _boxes_of(data: bytes, one: Used, where: str) -> Iterator[str]:
    """Looks at the boxes of a JP2 file (ISO/IEC 15444-1, annex I)."""
    spaces: list[tuple[int, int, int]] = []
    channels = depth = None
    for kind, body in _boxes_in(data):
        if kind == b"ihdr" and len(body) >= 14:
            channels, depth = struct.unpack_from(">H", body, 8)[0], body[10]
        elif kind == b"bpcc":
            yield f"{where} has a JPEG 2000 image whose channels have different depths."
        elif kind == b"colr" and len(body) >= 3:
            spaces.append((body[0], body[2], struct.unpack_from(">I", body, 3)[0] if body[0] == 1 and len(body) >= 7 else 0))
    if channels is None or depth is None:
        yield f"{where} has a JPEG 2000 image without a head."
        return
    if channels not in (1, 3, 4):
        yield f"{where} has a JPEG 2000 image of {channels} channels."
    if depth != 255 and not 1 <= (depth & 0x7F) + 1 <= 38:
        yield f"{where} has a JPEG 2000 image of {(depth & 0x7F) + 1} bits a colour."
    if "/ColorSpace" in one.object:
        return
    if len(spaces) > 1 and sum(approximate == 1 for _, approximate, _ in spaces) != 1:
        yield f"{where} has a JPEG 2000 image with several colour spaces."
    if any(method not in (1, 2, 3) for method, _, _ in spaces) or any(number == 19 for _, _, number in spaces):
        yield f"{where} has a JPEG 2000 image in a colour space that may not be."


def _boxes_in(data: bytes, at: int = 0, end: int | None = None) -> Iterator[tuple[bytes, bytes]]:
    end = len(data) if end is None else end
    while at + 8 <= end:
        length, kind = struct.unpack_from(">I4s", data, at)
        head = 8
        if length == 1 and at + 16 <= end:
            (length,), head = struct.unpack_from(">Q", data, at + 8), 16
        stop = end if length == 0 else at + length
        if length and length < head:
            return
        if kind == b"jp2h":
            yield from _boxes_in(data, at + head, min(stop, end))
        else:
            yield kind, data[at + head : min(stop, at + head + 64)]
        at = stop


@rule({1: "6.2.5", 2: "6.2.9", 4: "6.2.8"}, "Forms: nothing that stands for something else, no PostScript")
def forms(file: Opened) -> Iterator[str]:
    for one in file.used["forms"]:
        form, where = one.object, f"Page {one.page}"
        if "/OPI" in form:
            yield f"{where} has a form that stands for another (OPI)."
        if file.part < 4 and ("/PS" in form or form.get("/Subtype2") == "/PS" or form.get("/Subtype") == "/PS"):
            yield f"{where} has a form in PostScript."
        if "/Ref" in form:
            yield f"{where} has a form that lies in another file (Ref)."


@rule({1: "6.4", 2: "6.2.10", 4: "6.2.9"}, "Transparency")
def transparency(file: Opened) -> Iterator[str]:
    if file.part == 1:
        yield from _opaque(file)
        return
    has_intent = output_space(file) is not None
    for one in file.used["states"]:
        blend = one.object.get("/BM")
        for name in [blend] if isinstance(blend, pikepdf.Name) else list(blend or []):
            if str(name) not in _BLENDS:
                yield f"Page {one.page} mixes colours in a way that is not in the standard ({str(name)[1:]})."
    for number, (page, _) in enumerate(file.pages, 1):
        group = page.get("/Group")
        if (
            not has_intent
            and isinstance(group, pikepdf.Dictionary)
            and group.get("/S") == "/Transparency"
            and "/CS" not in group
        ):
            yield f"Page {number} is transparent, and there is neither an output intent nor a colour space to mix in."


def _opaque(file: Opened) -> Iterator[str]:
    for one in file.used["states"]:
        state, where = one.object, f"Page {one.page}"
        if state.get("/SMask", "/None") != "/None":
            yield f"{where} has a soft mask, which part 1 has no room for."
        if str(state.get("/BM", "/Normal")) not in ("/Normal", "/Compatible"):
            yield f"{where} mixes colours, which part 1 has no room for."
        if any(abs(float(state.get(key, 1)) - 1) > 1e-6 for key in ("/CA", "/ca")):
            yield f"{where} is transparent, which part 1 has no room for."
    for kind in ("images", "forms"):
        for one in file.used[kind]:
            if "/SMask" in one.object:
                yield f"Page {one.page} has a soft mask, which part 1 has no room for."
            if _group(one.object):
                yield f"Page {one.page} is transparent, which part 1 has no room for."
    for number, (page, _) in enumerate(file.pages, 1):
        if _group(page):
            yield f"Page {number} is transparent, which part 1 has no room for."


def _group(holder: pikepdf.Object) -> bool:
    group = holder.get("/Group")
    return isinstance(group, pikepdf.Dictionary) and group.get("/S") == "/Transparency"
