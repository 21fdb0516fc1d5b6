"""Kill -9 of the delivery process at random moments of sixty deliveries to four places.

Afterwards all have arrived and none is there twice; of mail, which cannot be looked at, what came twice has one Message-ID.
``HOLLOWSTACK_DELIVERY_KILLS`` sets how often, ``HOLLOWSTACK_SEED`` when.
"""

import hashlib
import json
import os
import random
import sqlite3
import subprocess
import sys
import time
from collections import Counter
from contextlib import closing
from pathlib import Path

from tests.server.receivers import Receivers, receivers

__all__ = ["receivers"]

KILLS = int(os.environ.get("HOLLOWSTACK_DELIVERY_KILLS", "30"))
SEED = int(os.environ.get("HOLLOWSTACK_SEED", "15"))
DOCUMENTS = 15
_LONGEST = 300.0

_ASK = """
import hashlib, json, os, sys
import django
django.setup()
from django.core.management import call_command
call_command("migrate", verbosity=0, interactive=False)
from django.utils import timezone
from hollowstack.server.dispatch import deliveries, destinations
from hollowstack.server.documents.models import Document
from hollowstack.server.results.models import Result
from hollowstack.server.stacks.services import create_stack
from hollowstack.server.storage import places
stack, made = create_stack("Box 27", None), []
for at in range(int(sys.argv[2])):
    key, data = f"{at + 1:064x}", b"%PDF-1.7 " + bytes([at]) * (300_000 + 40_000 * at)
    made.append(Document.objects.create(stack=stack, title=f"Letter {at + 1}", key=key, created_at=timezone.now()).pk)
    path = places.document_path(key)
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(data)
    Result.objects.create(key=key, step="bind", body={"bytes": len(data), "sha256": hashlib.sha256(data).hexdigest()})
to = []
for name, (place, secret) in json.loads(sys.argv[1]).items():
    asked = {"name": name, "place": place, "secret": secret, "pattern": "killed/{title}"}
    to.append(destinations.keep(destinations.DestinationAsked.model_validate(asked), None).pk)
deliveries.dispatch(deliveries.DispatchAsked(documents=tuple(made), destinations=tuple(to)), None)
"""


def test_killed_at_any_moment_nothing_is_lost_and_nothing_is_there_twice(tmp_path: Path, receivers: Receivers) -> None:
    data = tmp_path / "data"
    env = {
        **os.environ, "HOLLOWSTACK_DATA": str(data), "HOLLOWSTACK_DELIVERY_NETWORKS": "127.0.0.0/8",
        "HOLLOWSTACK_DELIVERY_FOLDERS": str(receivers.folder), "HOLLOWSTACK_DELIVERY_SECONDS": "0.2",
        "HOLLOWSTACK_DELIVERY_CERTIFICATES": str(receivers.certificates),
        "DJANGO_SETTINGS_MODULE": "hollowstack.server.config.settings",
    }  # fmt: skip
    ask = [sys.executable, "-c", _ASK, json.dumps(receivers.places), str(DOCUMENTS)]
    subprocess.run(ask, env=env, check=True, timeout=60)
    chance, killed, begun = random.Random(SEED), 0, time.monotonic()
    deliver = [sys.executable, "-m", "hollowstack.server.manage", "deliver"]
    running = subprocess.Popen(deliver, env=env)
    try:
        while states(data)["arrived"] < DOCUMENTS * 4:
            assert time.monotonic() - begun < _LONGEST, states(data)
            if killed < KILLS and is_at_work(data):
                time.sleep(chance.uniform(0, 0.25))
                running.kill()
                running.wait()
                killed += 1
                running = subprocess.Popen(deliver, env=env)
            time.sleep(0.05)
    finally:
        running.kill()
        running.wait()
    wanted = {f"Letter {at + 1}.pdf": digest_of(data, at) for at in range(DOCUMENTS)}
    folders = {"folder": receivers.folder / "killed", "sftp": receivers.sftp.folder / "in" / "killed"}
    for folder in folders.values():
        assert {
            one.name: hashlib.sha256(one.read_bytes()).hexdigest() for one in folder.iterdir() if one.suffix == ".pdf"
        } == wanted
    objects = [key for key, _ in receivers.storage.objects() if key.startswith("killed/")]
    assert {
        key.removeprefix("killed/"): hashlib.sha256(receivers.storage.read(key)).hexdigest() for key in objects
    } == wanted
    came = Counter(one.message["Message-ID"] for one in receivers.mail.mails)
    assert len(came) == DOCUMENTS
    left = [one for folder in folders.values() for one in folder.iterdir() if one.suffix != ".pdf"]
    print(
        f"{DOCUMENTS * 4} deliveries, {killed} kills: all arrived, none lost; folder, SFTP and storage hold each once; "
        f"{sum(came.values()) - len(came)} mails came again under their Message-ID; {len(left)} files half written stayed"
    )
    assert killed == KILLS
    assert not left


def states(data: Path) -> Counter[str]:
    with closing(sqlite3.connect(f"file:{data / 'hollowstack.sqlite3'}?mode=ro", uri=True)) as database:
        return Counter(state for (state,) in database.execute("SELECT state FROM dispatch_delivery"))


def is_at_work(data: Path) -> bool:
    found = states(data)
    return bool(found["sending"] or found["proving"])


def digest_of(data: Path, at: int) -> str:
    key = f"{at + 1:064x}"
    return hashlib.sha256((data / "documents" / key[:2] / key).read_bytes()).hexdigest()
