"""The program's one command, ``hollowstack``, and its sub-commands."""

import argparse
import sys

from hollowstack.client.commands import add_client
from hollowstack.core.run.cli import add_process
from hollowstack.server.commands import add_commands
from hollowstack.server.serve import add_serve


def main(argv: list[str] | None = None) -> int:
    """Run a sub-command and return its exit status."""
    parser = argparse.ArgumentParser(prog="hollowstack", description="From stacks of scanned pages to archival PDF/A.")
    commands = parser.add_subparsers(dest="command", required=True)
    add_process(commands)
    add_serve(commands)
    add_commands(commands)
    add_client(commands)
    words = parser.parse_args(argv)
    status: int = words.run(words)
    return status


if __name__ == "__main__":
    sys.exit(main())
