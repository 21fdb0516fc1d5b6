"""Commands about the data folder: ``hollowstack verify``, ``collect``, ``reindex`` and ``person``."""

import argparse
import os
import sys


def add_commands(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """Describe the commands' words."""
    verify = commands.add_parser("verify", help="read everything that is stored and say what is damaged")
    verify.set_defaults(run=lambda words: _call("verify"))
    collect = commands.add_parser("collect", help="remove what nothing wants any more and say what that freed")
    collect.add_argument("--all", action="store_true", help="results of the last days too, which undoing may want again")
    collect.set_defaults(run=lambda words: _call("collect", *(["--all"] if words.all else [])))
    reindex = commands.add_parser("reindex", help="build the index of all words anew from the words that are kept")
    reindex.set_defaults(run=lambda words: _call("reindex"))
    person = commands.add_parser("person", help="who may sign in", add_help=False)
    person.add_argument("rest", nargs=argparse.REMAINDER)
    person.set_defaults(run=lambda words: _call("person", *words.rest))


def _call(name: str, *words: str) -> int:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "hollowstack.server.config.settings")
    import django
    from django.core.management import CommandError, call_command

    django.setup()
    call_command("migrate", verbosity=0, interactive=False)
    try:
        call_command(name, *words)
    except CommandError as error:
        print(f"hollowstack {name}: {error}", file=sys.stderr)
        return error.returncode
    except SystemExit as ended:
        return int(ended.code or 0)
    return 0
