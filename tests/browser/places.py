"""Destinations for the program under test: a folder of its own, and the receivers that run beside it."""

import re
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from playwright.sync_api import Locator, Page

from tests.live import Live
from tests.server.receivers import Receivers

NAMES = {"folder": "Reading room", "storage": "Regional store", "sftp": "Harbour trust", "mail": "Keeper's post"}
FOLDER = "reading room"


@contextmanager
def kept(live: Live, receivers: Receivers, pattern: str) -> Iterator[dict[str, Any]]:
    """One destination of each kind, with a pattern of names, for as long as it lasts."""
    shutil.copy(receivers.certificates, live.data / "mail.pem")
    folder = live.data / "outgoing" / FOLDER
    folder.mkdir(parents=True, exist_ok=True)
    made = {}
    for kind, (place, secret) in receivers.places.items():
        told = {**place, "path": str(folder)} if kind == "folder" else place
        body = {"name": NAMES[kind], "place": told, "secret": secret or None, "pattern": pattern}
        made[kind] = live.call("POST", "/api/v1/destinations", body)
    yield made
    for one in made.values():
        live.call("DELETE", f"/api/v1/destinations/{one['id']}")


def delivered(page: Page, place: str, said: str | re.Pattern[str]) -> Locator:
    """Rows of deliveries to a place, of which something is said."""
    listed = page.get_by_role("region", name="Deliveries and receipts").get_by_role("listitem")
    return listed.filter(has_text=place).filter(has_text=said)
