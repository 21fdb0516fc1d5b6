"""How libraries say that a file is damaged, and what is said of it instead."""

import lzma
import struct
import zlib

DAMAGED = (
    OSError, SyntaxError, ValueError, TypeError, AttributeError, LookupError, EOFError, RuntimeError, ArithmeticError,
    struct.error, zlib.error, lzma.LZMAError,
)  # fmt: skip
"""Every way a library has to say that a file is damaged."""
CUT_SHORT = "The image is incomplete, as if the file had been cut short: copy or scan it again."
TOO_LARGE = "The image does not fit into memory: scan it at a lower resolution or in parts."
