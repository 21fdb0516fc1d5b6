"""The OCR engine (Tesseract, in-process), held ready in each process with the models in use."""

import os
from functools import lru_cache

# One page a process: the engine's own threads would only fight for the same cores. Read when the library loads.
os.environ.setdefault("OMP_THREAD_LIMIT", "1")

import tesserocr
from PIL import Image

from hollowstack.core.ocr.models import folder_with
from hollowstack.core.page.raster import Pixels


@lru_cache(maxsize=4)
def text_engine(language: str) -> tesserocr.PyTessBaseAPI:
    """The engine set to read whole pages in a language. Raises ReadError where a model is missing."""
    # Thorough models come with an older recogniser beside the one by LSTM, and are read worse by both than by that alone.
    lstm = tesserocr.OEM.LSTM_ONLY
    engine = tesserocr.PyTessBaseAPI(path=str(folder_with(language)), lang=language, psm=tesserocr.PSM.AUTO, oem=lstm)
    engine.SetVariable("lstm_choice_mode", "2")  # what each character might be, too
    return engine


@lru_cache(maxsize=1)
def orientation_engine() -> tesserocr.PyTessBaseAPI:
    """The engine set to tell which way is up."""
    return tesserocr.PyTessBaseAPI(path=str(folder_with("osd")), lang="osd", psm=tesserocr.PSM.OSD_ONLY)


def set_page(engine: tesserocr.PyTessBaseAPI, pixels: Pixels, ppi: float) -> None:
    """Hand a gray page to the engine, without a file in between."""
    engine.SetImage(Image.fromarray(pixels))
    engine.SetSourceResolution(max(70, round(ppi)))
