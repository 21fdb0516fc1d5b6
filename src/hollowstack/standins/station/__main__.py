"""Start the simulated stations: ``python -m hollowstack.standins.station --ports 8351 8352 8353``."""

import argparse
import os
import sys
import time

from hollowstack.standins.station.device import MODELS
from hollowstack.standins.station.server import Station


def main() -> int:
    """Run until stopped, or until the parent is gone."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--ports", type=int, nargs=3, default=[8351, 8352, 8353])
    parser.add_argument("--parent", type=int, default=0, help="process whose end ends the stations")
    words = parser.parse_args()
    try:
        stations = [Station(model, port) for model, port in zip(MODELS, words.ports, strict=True)]
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
    return 0


if __name__ == "__main__":
    sys.exit(main())
