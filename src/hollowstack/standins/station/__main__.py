"""Start the simulated stations: ``python -m hollowstack.standins.station --ports 8351 8352 8353``."""

import argparse
import os
import sys
import time

from hollowstack.standins.station.announcing import Announcer
from hollowstack.standins.station.device import MODELS
from hollowstack.standins.station.server import Station


def main() -> int:
    """Run until stopped, or until the parent is gone."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--ports", type=int, nargs=3, default=[8351, 8352, 8353])
    parser.add_argument("--parent", type=int, default=0, help="process whose end ends the stations")
    parser.add_argument("--announce", action="store_true", help="let them be found on this machine (DNS-SD)")
    words = parser.parse_args()
    try:
        announcer = Announcer() if words.announce else None
        stations = [Station(model, port, announcer=announcer) for model, port in zip(MODELS, words.ports, strict=True)]
    except OSError as error:
        print(f"The simulated stations cannot start: {error.strerror}. Choose other ports with --ports.", file=sys.stderr)
        return 2
    for station, bundle in zip(stations, ("photographs", "register", "strip"), strict=True):
        station.start()
        station.lay(bundle)
        print(f"{station.device.model.name}: {station.address}", flush=True)
    try:
        while not words.parent or os.getppid() == words.parent:
            time.sleep(1)
    except KeyboardInterrupt:
        pass
    finally:
        if announcer:
            announcer.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
