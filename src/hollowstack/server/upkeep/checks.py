"""Settings that do not work together, each said in a sentence before anything is started (Django's system checks)."""

from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.core.checks import CheckMessage, Error, Warning, register

TAG = "hollowstack"


@register(TAG)
def check_settings(**_: Any) -> list[CheckMessage]:
    """All that can be told from the settings alone."""
    return [*_addresses(), *_numbers(), *_folders()]


def _addresses() -> list[CheckMessage]:
    found: list[CheckMessage] = []
    if settings.PUBLIC_URL:
        parts = urlsplit(settings.PUBLIC_URL)
        if parts.scheme not in {"http", "https"} or not parts.hostname or parts.path or parts.query:
            found.append(_wrong(1, "HOLLOWSTACK_PUBLIC_URL is an address without a path: write https://papers.example.org."))
        elif not settings.TLS:
            found.append(
                Warning("HOLLOWSTACK_PUBLIC_URL has no TLS: passwords and pages can be read on the way.", id=f"{TAG}.W001")
            )
    if settings.SECURE_PROXY_SSL_HEADER and not settings.TLS:
        found.append(
            _wrong(2, "HOLLOWSTACK_PROXY says that a proxy speaks TLS: set HOLLOWSTACK_PUBLIC_URL to its https address too.")
        )
    if settings.SCHEDULER and not settings.SCHEDULER.startswith("tls://"):
        found.append(
            _wrong(3, "HOLLOWSTACK_SCHEDULER is reached over TLS: start it with the keys in the data folder, as tls://…")
        )
    return found


def _numbers() -> list[CheckMessage]:
    counts = {
        "HOLLOWSTACK_WORKERS": settings.WORKERS,
        "HOLLOWSTACK_LEAST_FREE_MB": settings.LEAST_FREE_MB,
        "HOLLOWSTACK_STACK_GB": settings.STACK_GB,
        "HOLLOWSTACK_PERSON_GB": settings.PERSON_GB,
        "HOLLOWSTACK_RECEIPT_DAYS": settings.RECEIPT_DAYS,
    }
    times = {"HOLLOWSTACK_PAGE_SECONDS": settings.PAGE_SECONDS, "HOLLOWSTACK_STATION_SECONDS": settings.STATION_SECONDS}
    times["HOLLOWSTACK_DELIVERY_SECONDS"] = settings.DELIVERY_SECONDS
    return [
        *(_wrong(4, f"{name} is {value}: set 0 or more.") for name, value in counts.items() if value < 0),
        *(_wrong(5, f"{name} is {value:g}: set more than 0.") for name, value in times.items() if value <= 0),
    ]


def _folders() -> list[CheckMessage]:
    own = [Path(settings.DATA) / name for name in ("masters", "results", "documents", "uploads", "prescans", "cluster")]
    incoming = Path(settings.INCOMING).resolve()
    if any(incoming.is_relative_to(folder) or folder.is_relative_to(incoming) for folder in own):
        return [_wrong(6, "HOLLOWSTACK_INCOMING lies over the program's own files: name a folder of its own.")]
    return []


def _wrong(number: int, sentence: str) -> Error:
    return Error(sentence, id=f"{TAG}.E{number:03d}")
