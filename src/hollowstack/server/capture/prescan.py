"""The quick look over the glass: passed on to the browser piece by piece as it comes, and never a page."""

import contextlib
import math
import re
import secrets
import time
from collections.abc import AsyncIterator
from pathlib import Path

import httpx
from asgiref.sync import sync_to_async
from django.conf import settings
from django.db import transaction
from django.http import HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse

from hollowstack.core.measure.layout.lid import Lid, is_open
from hollowstack.server.accounts.access import closed_to
from hollowstack.server.accounts.rights import OPERATIONS
from hollowstack.server.capture.escl import ScanSettings, SourceCapabilities, StationError
from hollowstack.server.capture.models import Station
from hollowstack.server.capture.station_list import capabilities_of, talk_to
from hollowstack.server.errors import Refused

PPI = 75
_CLOSE_PPI, _CLOSE_PIXELS = 300, 8_000_000
"""How finely a part of the glass is looked at, and the most pixels of it."""
_NONCE = re.compile(r"[0-9a-f]{16,64}")
_JOB, _LEFT, _OF = ".job", ".left", ".of"
_KEPT_SECONDS = 3600.0
_PATIENCE, _LITTLE_PATIENCE = 60.0, 5.0
_UNCLAIMED = 30.0
"""Seconds after which a look whose picture nobody fetched is over: the station is held by it."""
_LEAST_MM = 5.0
_REMEMBERED = 9
Part = tuple[float, float, float, float]
"""x, y, width and height in mm of the glass."""
_MOST_BYTES, _MOST_SECONDS = 60_000_000, 300.0
"""What a first look may come to; the browser sees a torn image beyond that."""


def path_of(nonce: str) -> Path | None:
    """Where a prescan lies for an hour, for frames to be found on it; None where that is no name for one."""
    if not _NONCE.fullmatch(nonce):
        return None
    folder = Path(settings.DATA) / "prescans"
    folder.mkdir(exist_ok=True)
    return folder / f"{nonce}.jpg"


def begin(station: Station, part: Part | None = None) -> str:
    """Have a station look over its glass, or more closely at a part of it.

    Returns:
        The name under which the picture is then fetched, once.

    Raises:
        StationError: It has no glass, is busy, or does not answer.
        Refused: The server may not go there.
    """
    glass = capabilities_of(station).platen
    if glass is None:
        raise StationError("refused", "This station has no glass to look at: capture from its feeder.")
    region = _within(part, glass) if part else (0.0, 0.0, glass.width_mm, glass.height_mm)
    ppi = _ppi(glass, region) if part else _nearest(glass, PPI)
    let_go(station, unclaimed=5.0)
    with talk_to(station.address, _PATIENCE) as client:
        job = client.start(ScanSettings("Platen", False, "RGB24", ppi, "image/jpeg", region))
    nonce = secrets.token_hex(16)
    path = path_of(nonce)
    assert path is not None
    path.with_suffix(_JOB).write_text(f"{station.pk}\n{job}")
    return nonce


def _nearest(glass: SourceCapabilities, ppi: float) -> int:
    return min(glass.resolutions, key=lambda step: abs(step - ppi)) if glass.resolutions else round(ppi)


def _ppi(glass: SourceCapabilities, region: Part) -> int:
    """As finely as it can be shown while somebody waits."""
    most = min(_CLOSE_PPI, 25.4 * math.sqrt(_CLOSE_PIXELS / (region[2] * region[3])))
    return max((step for step in glass.resolutions if step <= most), default=_nearest(glass, most))


def _within(part: Part, glass: SourceCapabilities) -> Part:
    left, top, width, height = part
    right, bottom = min(left + width, glass.width_mm), min(top + height, glass.height_mm)
    left, top = max(0.0, left), max(0.0, top)
    if right - left < _LEAST_MM or bottom - top < _LEAST_MM:
        raise Refused("That part of the glass is too small to be looked at: choose a larger one.")
    return left, top, right - left, bottom - top


def lid_is_open(nonce: str, lid: Lid) -> bool:
    """Whether the lid of the glass that was looked at looks open; each look is remembered for the next ones."""
    path = path_of(nonce)
    try:
        station_id = int(path.with_suffix(_OF).read_text()) if path else 0
    except (FileNotFoundError, ValueError):
        return is_open(lid)
    with transaction.atomic():
        station = Station.objects.filter(pk=station_id).first()
        if station is None or path is None:
            return is_open(lid)
        found = is_open(lid, station.lid_tones)
        path.with_suffix(_OF).unlink(missing_ok=True)  # asked twice, it is one look all the same
        station.lid_tones = [*station.lid_tones, lid.tone][-_REMEMBERED:]
        station.save(update_fields=["lid_tones"])
    return found


def let_go(station: Station | None = None, unclaimed: float = _UNCLAIMED) -> None:
    """End looks that hold their station for nobody: begun, and not fetched within ``unclaimed`` seconds, or broken off.

    Whoever goes to another station before the answer is there leaves one behind. A station that is not there is left
    alone, and one that hangs is not waited for: whoever asks has others to look after.
    """
    for path in (Path(settings.DATA) / "prescans").glob("*.*"):
        if path.suffix not in {_JOB, _LEFT}:
            continue
        with contextlib.suppress(FileNotFoundError, StationError, Refused, Station.DoesNotExist):
            held, _, job = path.read_text().partition("\n")
            if station is not None and held != str(station.pk):
                continue
            if path.suffix == _JOB and time.time() - path.stat().st_mtime < unclaimed:
                continue
            path.unlink()
            if not held.isdigit():
                continue  # by a version of the program that did not write down whose it is
            with talk_to((station or Station.objects.get(pk=held)).address, _LITTLE_PATIENCE) as client:
                client.cancel(job)


async def stream(request: HttpRequest, nonce: str) -> HttpResponseBase:
    """GET: a prescan that was begun, as it comes."""
    if (closed := await sync_to_async(closed_to)(request, OPERATIONS["getPrescan"])) is not None:
        return closed
    path = path_of(nonce)
    if path is None or (job := _taken(path)) is None:
        return HttpResponse(status=404)
    response = StreamingHttpResponse(_pieces(*job, path), content_type="image/jpeg")
    response.headers["Cache-Control"] = "no-store"
    return response


def _taken(path: Path) -> tuple[str, str] | None:
    """Station and job of a prescan, whose picture the station gives once: to whoever asks first."""
    mine = path.with_suffix(".taken")
    try:
        path.with_suffix(_JOB).rename(mine)
        held, _, job = mine.read_text().partition("\n")
    except FileNotFoundError:
        return None
    mine.unlink()
    return held, job


async def _pieces(held: str, job: str, path: Path) -> AsyncIterator[bytes]:
    _tidy(path.parent)
    part, whole = path.with_suffix(".part"), False
    try:
        async with httpx.AsyncClient(timeout=_PATIENCE, trust_env=False) as http:
            async with http.stream("GET", f"{job}/NextDocument") as answer:
                if answer.status_code != 200:
                    return
                came, until = 0, time.monotonic() + _MOST_SECONDS
                with part.open("wb") as file:
                    async for piece in answer.aiter_bytes(1 << 13):
                        came += len(piece)
                        if came > _MOST_BYTES or time.monotonic() > until:
                            return
                        file.write(piece)
                        yield piece
            path.with_suffix(_OF).write_text(held)
            part.replace(path)
            whole = True
            await http.delete(job)
    except httpx.HTTPError:
        return  # the browser sees a torn image and says so
    finally:
        part.unlink(missing_ok=True)
        if not whole:
            path.with_suffix(_LEFT).write_text(f"{held}\n{job}")


def _tidy(folder: Path) -> None:
    for old in folder.iterdir():
        if time.time() - old.stat().st_mtime > _KEPT_SECONDS:
            old.unlink(missing_ok=True)
