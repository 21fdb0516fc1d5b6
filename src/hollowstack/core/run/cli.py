"""``hollowstack process``: the main job without the web application. Its words are a contract, only ever added to."""

import argparse
import json
import sys
from datetime import UTC, datetime
from pathlib import Path

from hollowstack.core.bind import DEFAULT, FLAVOURS
from hollowstack.core.bind.description import STATEMENTS, Described, description_of
from hollowstack.core.export import FORMS
from hollowstack.core.ocr.models import by_thorough_models, check_language
from hollowstack.core.page.errors import HollowStackError
from hollowstack.core.page.file_names import readable
from hollowstack.core.read.texts import SUFFIXES
from hollowstack.core.run.batch import Order, Progress, run
from hollowstack.core.run.report import Report, unreported
from hollowstack.core.settings.profile import PROFILES
from hollowstack.core.settings.shipped import SHIPPED, load_treatment

ALL_DONE, SOME_FAILED, WRONG_USAGE, NOTHING_BOUND = 0, 1, 2, 3
STOPPED = 130
"""As shells have it for Ctrl-C: 128 and the number of the signal."""
_FORMS = tuple(form for form in FORMS if form != "pdf")
"""Of forms, what can be written besides the PDF/A that is made anyway."""


def add_process(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """Describe the command's words."""
    parser = commands.add_parser("process", help="work through scans and bind one PDF/A", description=__doc__)
    parser.add_argument("inputs", metavar="INPUT", nargs="+", type=Path, help="file, or folder of files in natural order")
    parser.add_argument("--out", metavar="DIR", required=True, type=Path, help="folder for NAME.pdf and report.json")
    parser.add_argument(
        "--treatment", metavar="NAME|FILE.json", default="everyday", help=f"one of {', '.join(SHIPPED)}, or a file"
    )
    parser.add_argument("--name", help="name of the document (default: the first input's)")
    parser.add_argument("--lang", metavar="eng[+deu…]", help="languages to read (default: the treatment's)")
    parser.add_argument("--no-ocr", action="store_true", help="leave reading out")
    parser.add_argument(
        "--text", metavar="txt[,alto,hocr]", default="", help="forms to write the text in as well, as NAME.…"
    )
    parser.add_argument(
        "--profile",
        metavar="NAME",
        default="compact",
        help=f"how pages are packed: {', '.join(PROFILES)} (default: compact)",
    )
    parser.add_argument("--flavour", metavar="PDF/A-…", default=DEFAULT, help=f"{', '.join(FLAVOURS)} (default: {DEFAULT})")
    parser.add_argument(
        "--describe", metavar="FILE.json", type=Path,
        help=f"what is said of the document: a JSON object with some of {', '.join(STATEMENTS)}, language",
    )  # fmt: skip
    parser.add_argument("--bookmarks", action="store_true", help="bookmark the headings that are read")
    parser.add_argument(
        "--export", metavar="FORM[,FORM…]", default="", help=f"other forms to write as well: {', '.join(_FORMS)}"
    )
    parser.add_argument("--workers", metavar="N", type=int, default=1, help="pages worked on at the same time")
    parser.add_argument("--seed-time", metavar="ISO8601", help="the time to write into the document; same input, same bytes")
    parser.set_defaults(run=process)


def process(words: argparse.Namespace) -> int:
    """Run the command; returns its exit status."""
    try:
        order = _order(words)
    except (HollowStackError, ValueError) as error:
        print(f"hollowstack process: {error}", file=sys.stderr)
        return WRONG_USAGE
    try:
        order.out.mkdir(parents=True, exist_ok=True)
        report = run(order, _progress())
        target = order.out / "report.json"
        target.write_text(report.model_dump_json(indent=1, exclude=unreported(report)) + "\n", encoding="utf-8")
    except (HollowStackError, OSError) as error:
        print(f"hollowstack process: {error}", file=sys.stderr)
        return NOTHING_BOUND
    except KeyboardInterrupt:
        print("hollowstack process: stopped; nothing was bound.", file=sys.stderr)
        return STOPPED
    if report.document:
        print(report.document.path)
        for form in order.texts:
            print(readable(str(order.out / (order.name + SUFFIXES[form]))))
    for made in report.exports:
        if made.path:
            print(made.path)
        for said in filter(None, (made.error, *made.remarks)):
            print(f"hollowstack process: {made.form}: {said}", file=sys.stderr)
    print(readable(str(target)))
    return _status(report)


def _order(words: argparse.Namespace) -> Order:
    missing = [readable(str(path)) for path in words.inputs if not path.exists()]
    if len(missing) == len(words.inputs):
        raise ValueError(f"there is no {missing[0]}")
    if words.workers < 1:
        raise ValueError("--workers takes a number from 1 up")
    name = words.name if words.name is not None else words.inputs[0].resolve().stem
    if not name or name in {".", ".."} or any(c in name for c in "/\\\0"):
        raise ValueError("--name takes a plain file name without a folder")
    treatment = load_treatment(words.treatment)
    language = None if words.no_ocr else words.lang if words.lang is not None else treatment.languages
    if language is not None and treatment.models == "thorough":
        language = by_thorough_models(language)
    if language is not None:
        check_language(language)
    forms = [form for form in SUFFIXES if form in (named := words.text.split(","))] if words.text else []
    if words.text and len(forms) != len(named):
        raise ValueError(f"--text takes some of {', '.join(SUFFIXES)}, with commas between them")
    if forms and language is None:
        raise ValueError("--text and --no-ocr do not go together: without reading there is no text")
    exports = tuple(form for form in _FORMS if form in (given := words.export.split(","))) if words.export else ()
    if words.export and len(exports) != len(given):
        raise ValueError(f"--export takes some of {', '.join(_FORMS)}, with commas between them")
    if words.profile not in PROFILES:
        raise ValueError(f"--profile takes one of {', '.join(PROFILES)}")
    if words.flavour not in FLAVOURS:
        raise ValueError(f"--flavour takes one of {', '.join(FLAVOURS)}")
    created = datetime.now(UTC)
    if words.seed_time:
        try:
            created = datetime.fromisoformat(words.seed_time)
        except ValueError:
            raise ValueError("--seed-time takes a date and time such as 2026-03-01T09:00:00Z") from None
    if created.tzinfo is None:
        created = created.replace(tzinfo=UTC)
    return Order(
        inputs=tuple(words.inputs), out=words.out, name=name, treatment=treatment,
        language=language, workers=words.workers, created=created, texts=tuple(forms), flavour=words.flavour,
        profile=words.profile, described=_described(words.describe, created), mark_headings=words.bookmarks,
        exports=exports,
    )  # fmt: skip


def _described(file: Path | None, created: datetime) -> Described:
    """What a file says of the document."""
    if file is None:
        return {}
    try:
        told = json.loads(file.read_text(encoding="utf-8"))
    except OSError as error:
        raise ValueError(f"--describe: {readable(str(file))} cannot be opened: {error.strerror}") from None
    except ValueError:
        raise ValueError(f"--describe: {readable(str(file))} is no JSON in UTF-8") from None
    if not isinstance(told, dict):
        raise ValueError("--describe takes a file with a JSON object")
    description_of(told, created, "en", "any")  # refuses what will not do before work begins
    return told


def _progress() -> Progress:
    on_terminal = sys.stderr.isatty()

    def show(done: int, total: int, source: str) -> None:
        if on_terminal:
            filled = 30 * done // total
            end = "\n" if done == total else ""
            print(f"\r[{'#' * filled}{'·' * (30 - filled)}] {done}/{total}", end=end, file=sys.stderr, flush=True)
        else:
            print(f"{done}/{total} {source}", file=sys.stderr, flush=True)

    return show


def _status(report: Report) -> int:
    if report.document is None:
        return NOTHING_BOUND
    failed = any(page.status == "failed" for page in report.pages) or any(one.error for one in report.exports)
    return SOME_FAILED if failed else ALL_DONE
