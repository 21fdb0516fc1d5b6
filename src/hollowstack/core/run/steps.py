"""The steps of a page as the engine runs them: paths and plain data in, small results out, images through files.

Each writes its files into a folder that appears whole or not at all.
"""

import hashlib
import os
import shutil
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import cv2
from PIL import Image

from hollowstack.core.bind import BoundPage
from hollowstack.core.bind.codecs import decode_encoded
from hollowstack.core.bind.encoded import TWO_TONES
from hollowstack.core.bind.layers.composing import compose
from hollowstack.core.bind.layers.parts import Layered
from hollowstack.core.check import Read
from hollowstack.core.check.sequence import number_candidates
from hollowstack.core.decode import count_frames, decode
from hollowstack.core.decode.origin import origin_of
from hollowstack.core.measure import measure
from hollowstack.core.measure.content.path_sheet import LyingSheet, find_path_sheet
from hollowstack.core.measure.layout.frames import Frame, propose_frames
from hollowstack.core.measure.layout.lid import Lid, look_at_lid
from hollowstack.core.ocr.reading import Reading
from hollowstack.core.page.digest import sha256_of
from hollowstack.core.page.durable import make_folder, settle
from hollowstack.core.page.errors import BindError, DamagedResultError, fault_of
from hollowstack.core.page.geometry import Quad, Transform
from hollowstack.core.page.raster import Pixels, as_pixels
from hollowstack.core.plan.plan import Plan
from hollowstack.core.read.corrections import laid_again
from hollowstack.core.read.looks import looks_of
from hollowstack.core.read.same_text import text_sketch
from hollowstack.core.run.binding import BindOrder, bind_order
from hollowstack.core.run.encoding import encode_page
from hollowstack.core.run.guarding import render_guarded
from hollowstack.core.run.keeping import Encoded, data_of, described, restored
from hollowstack.core.run.reading import read_with_ground

VIEW, THUMB, READING, LOOKS = "view", "thumb.webp", "reading.json", "looks.bin"
_THUMB_PX = 400
_VIEW_QUALITY = 88


def expand(master: str) -> dict[str, Any]:
    """How many pages a master holds, and what it says of its making. Raises DecodeError."""
    path = Path(master)
    return {"frames": count_frames(path), "origin": origin_of(path).model_dump(mode="json")}


def look_step(picture: str) -> tuple[list[Frame], Lid]:
    """Frames proposed for what lies on a glass, and how its lid looks, from a first look at it. Raises DecodeError."""
    seen = decode(Path(picture), 0)
    return propose_frames(seen), look_at_lid(seen)


def path_sheet_step(picture: str) -> LyingSheet | None:
    """A test sheet on what a station has captured; None where there is none. Raises DecodeError."""
    return find_path_sheet(decode(Path(picture), 0))


def measure_step(master: str, frame: int, folder: str) -> dict[str, Any]:
    """Measure a page as captured, and keep a picture of it that a browser can show."""
    start = time.perf_counter()
    image = decode(Path(master), frame)
    found = measure(image, photographed=origin_of(Path(master)).photographed)
    with _whole(Path(folder)) as part:
        _write_view(image.pixels, part)
    return {"measurements": found.model_dump(mode="json"), "seconds": round(time.perf_counter() - start, 3)}


def render_step(master: str, frame: int, plan: dict[str, Any], folder: str) -> dict[str, Any]:
    """Make the clean page, as it will be bound and as a browser shows it; by a milder plan where more would be lost."""
    start = time.perf_counter()
    planned = Plan.model_validate(plan)
    image = decode(Path(master), frame)
    made = render_guarded(image, planned, lambda page, how: encode_page(page, how, Path(master), frame, image))
    done, encoded = made.plan, made.encoded
    assert encoded is not None
    data = data_of(encoded)
    with _whole(Path(folder)) as part:
        (part / "image").write_bytes(data)
        _write_pictures(encoded, part)
    return {
        **described(encoded),
        "ppi": encoded.ppi_of(done.size_px, done.ppi),
        "bytes": len(data),
        "sha256": hashlib.sha256(data).hexdigest(),
        "findings": [one.model_dump(mode="json") for one in made.findings],
        "plan": None if done == planned else done.model_dump(mode="json"),
        "seconds": round(time.perf_counter() - start, 3),
    }


def _write_pictures(encoded: Encoded, folder: Path) -> None:
    """What a browser shows of a page; a JPEG is shown by the very bytes that are bound."""
    if isinstance(encoded, Layered):
        _write_view(compose(encoded), folder)
        return
    if encoded.icc:
        (folder / "profile.icc").write_bytes(encoded.icc)
    if encoded.filter == "DCTDecode":
        os.link(folder / "image", folder / f"{VIEW}.jpg")
        _write_thumb(decode_encoded(encoded), folder)
    else:
        _write_view(decode_encoded(encoded), folder, bitonal=encoded.filter in TWO_TONES)


def read_step(master: str, frame: int, plan: dict[str, Any], language: str, folder: str) -> dict[str, Any]:
    """Read a clean page; the words go to a file, their number and certainty are returned."""
    start = time.perf_counter()
    image, planned = decode(Path(master), frame), Plan.model_validate(plan)
    reading, ground = read_with_ground(image, planned, language)
    read = Read.of(reading)
    data = reading.model_dump_json(exclude_defaults=True).encode()
    with _whole(Path(folder)) as part:
        (part / READING).write_bytes(data)
        if reading.words:
            (part / LOOKS).write_bytes(looks_of(reading, ground).tobytes())
    return {
        "sha256": hashlib.sha256(data).hexdigest(),
        "words": len(reading.words),
        "numbers": number_candidates(reading),
        "sketch": text_sketch(reading),
        "mean_confidence": reading.mean_confidence,
        "as_captured": reading.as_captured,
        "language": language,
        "sure_words": read.sure_words,
        "slope_deg": read.slope_deg,
        "level_line": read.level_line,
        "unread": reading.unread,
        "characters": read.characters,
        "sideways": read.sideways,
        "guess": reading.guess.model_dump() if reading.guess else None,
        "seconds": round(time.perf_counter() - start, 3),
    }


def bind_step(pages: list[dict[str, Any]], target: str, order: dict[str, Any]) -> dict[str, Any]:
    """Bind clean pages into ``target``, each {folder, clean, ppi, reading, read, words, master}: two folders, what their
    steps returned, what hands have put right in the text, and the digest of its master; ``order`` is a ``BindOrder``.

    Raises:
        DamagedResultError: Files of a step are missing or not those that it wrote; none of them is bound.
        BindError: The pages cannot be bound.
        WorkerError: The document cannot be written.
    """
    start = time.perf_counter()
    path = Path(target)
    make_folder(path.parent)
    told = BindOrder.model_validate(order)
    try:
        made = bind_order(map(bound_page, pages), [page["master"] for page in pages], path, told)
    except BindError as error:
        if isinstance(error.__cause__, OSError):
            raise fault_of(error.__cause__) from None
        raise
    return {
        "pages": made.pages,
        "flavour": told.flavour,
        "checked": [one.model_dump(mode="json") for one in made.conformance.checked],
        "page_bytes": [page["clean"]["bytes"] for page in pages],
        "bytes": path.stat().st_size,
        "sha256": sha256_of(path),
        "seconds": round(time.perf_counter() - start, 3),
    }


def bound_page(page: dict[str, Any]) -> BoundPage:
    """A page as ``bind_step`` is given it. Raises DamagedResultError."""
    reading = None
    if page["reading"]:
        folder = Path(page["reading"])
        reading = Reading.model_validate_json(_checked(folder, READING, (page["read"] or {}).get("sha256")))
        if words := page.get("words"):
            reading = laid_again(reading, words)
        if (read_on := page.get("read_on")) is not None:
            before = Transform.onto(Quad.of(read_on["quad"]), *read_on["size_px"]).inverse()
            size_px = (page["clean"]["size_px"][0], page["clean"]["size_px"][1])
            reading = reading.moved(before.then(Transform.onto(Quad.of(page["quad"]), *size_px)), size_px)
    ppi = tuple(page["clean"].get("ppi") or page["ppi"])
    return BoundPage(bound_image(Path(page["folder"]), page["clean"]), ppi, reading)


def bound_image(folder: Path, clean: dict[str, Any]) -> Encoded:
    """A page as it is bound: the folder of its step, and what that returned. Raises DamagedResultError."""
    data, profile = _checked(folder, "image", clean.get("sha256")), folder / "profile.icc"
    return restored(data, clean, profile.read_bytes() if profile.exists() else b"")


def _checked(folder: Path, name: str, sha256: str | None) -> bytes:
    """A step's file, if it is the one that was written; results of older programs carry no digest."""
    try:
        data = (folder / name).read_bytes()
    except FileNotFoundError:
        raise DamagedResultError(folder.name) from None
    if sha256 is not None and hashlib.sha256(data).hexdigest() != sha256:
        raise DamagedResultError(folder.name)
    return data


def _write_view(pixels: Pixels, folder: Path, *, bitonal: bool = False) -> None:
    if bitonal:
        Image.fromarray(pixels).convert("1", dither=Image.Dither.NONE).save(folder / f"{VIEW}.png", compress_level=3)
    elif max(pixels.shape[:2]) > 65_500:
        Image.fromarray(pixels).save(folder / f"{VIEW}.png", compress_level=1)  # beyond what a JPEG can hold
    else:
        Image.fromarray(pixels).save(folder / f"{VIEW}.jpg", quality=_VIEW_QUALITY)
    _write_thumb(pixels, folder)


def _write_thumb(pixels: Pixels, folder: Path) -> None:
    scale = min(1.0, _THUMB_PX / max(pixels.shape[:2]))
    size = (max(1, round(pixels.shape[1] * scale)), max(1, round(pixels.shape[0] * scale)))
    small = as_pixels(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA))
    Image.fromarray(small).save(folder / THUMB, quality=82)


@contextmanager
def _whole(folder: Path) -> Iterator[Path]:
    """A folder to write into that takes its final name only once everything is in it."""
    make_folder(folder.parent)
    part = Path(tempfile.mkdtemp(dir=folder.parent, prefix=".part-"))
    try:
        yield part
        part.chmod(0o755)
        if folder.exists():
            # Left by a run that was stopped before it could note the result: made of the same, so as good.
            shutil.rmtree(folder)
        settle(part, folder)
    finally:
        shutil.rmtree(part, ignore_errors=True)
