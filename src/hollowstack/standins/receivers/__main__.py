"""Start the simulated receivers: ``python -m hollowstack.standins.receivers --ports 8361 8362 8363 8364 --folder DIR``."""

import argparse
import logging
import os
import sys
import time
from pathlib import Path

from hollowstack.standins.receivers.mail import MailServer
from hollowstack.standins.receivers.page import Page, Running
from hollowstack.standins.receivers.sftp import SftpMachine, machine_key
from hollowstack.standins.receivers.storage import ObjectStorage


def main() -> int:
    """Run until stopped, or until the parent is gone."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument(
        "--ports", type=int, nargs=4, default=[8361, 8362, 8363, 8364], help="mail, SFTP, storage, their page"
    )
    parser.add_argument("--folder", type=Path, required=True, help="for their keys, and what comes by SFTP")
    parser.add_argument("--parent", type=int, default=0, help="process whose end ends the receivers")
    parser.add_argument("--show-key", action="store_true", help="print the key of the SFTP machine, and end")
    words = parser.parse_args()
    if words.show_key:
        print(machine_key(words.folder / "sftp").export_public_key().decode().strip())
        return 0
    # What they have to say of each line is of no use to whoever tries the program.
    for name in ("mail.log", "asyncssh", "werkzeug"):
        logging.getLogger(name).setLevel(logging.CRITICAL)
    try:
        mail = MailServer(words.ports[0], words.folder / "mail.pem")
        running = Running(mail, SftpMachine(words.ports[1], words.folder / "sftp"), ObjectStorage(words.ports[2]))
        page = Page(words.ports[3], running)
    except OSError as error:
        print(f"The simulated receivers cannot start: {error.strerror}. Choose other ports.", file=sys.stderr)
        return 2
    print(f"Receivers of documents: {page.address}", flush=True)
    try:
        while not words.parent or os.getppid() == words.parent:
            time.sleep(1)
    except KeyboardInterrupt:
        pass
    finally:
        for one in (page, *running):
            one.stop()
    return 0


if __name__ == "__main__":
    sys.exit(main())
