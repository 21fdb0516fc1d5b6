"""Under what results are kept: the hash of what went into them, and of the version of the step."""

import hashlib

from hollowstack.core.bind.codecs import ENCODE_VERSION
from hollowstack.core.decode import DECODE_VERSION
from hollowstack.core.measure import MEASURE_VERSION
from hollowstack.core.ocr.reading import READ_VERSION
from hollowstack.core.plan.plan import Plan
from hollowstack.core.render import RENDER_VERSION


def versions() -> str:
    """The versions of all steps: where they differ from those that made a result, it is made again."""
    return f"{DECODE_VERSION}.{MEASURE_VERSION}.{RENDER_VERSION}.{ENCODE_VERSION}.{READ_VERSION}"


def expand_key(master_sha256: str) -> str:
    """Key of how many pages a master holds."""
    return _key("expand", DECODE_VERSION, master_sha256)


def measure_key(master_sha256: str, frame: int) -> str:
    """Key of the measurements of a frame."""
    return _key("measure", DECODE_VERSION, MEASURE_VERSION, master_sha256, frame)


def render_key(master_sha256: str, frame: int, plan: Plan) -> str:
    """Key of a clean page."""
    return _key("render", DECODE_VERSION, RENDER_VERSION, ENCODE_VERSION, master_sha256, frame, plan.digest())


def read_key(clean_key: str, language: str) -> str:
    """Key of the reading of a clean page."""
    return _key("read", READ_VERSION, clean_key, language)


def _key(*parts: object) -> str:
    return hashlib.sha256("\n".join(str(p) for p in parts).encode()).hexdigest()
