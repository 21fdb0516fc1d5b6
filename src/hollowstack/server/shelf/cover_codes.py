"""The code on the cover sheet of a stack, by which the stack is known when its papers are captured."""

import io

import segno
from django.utils.crypto import constant_time_compare, salted_hmac

from hollowstack.core.measure.content.sheet_code import COVER

_SIGNS = 12
"""Of the seal: a code of another installation fits by chance once in 10¹⁴ times."""

_MODULE_PX = 16
"""So that a printer of 1200 dots an inch has a dot for each pixel."""


def picture_of(stack_id: int) -> bytes:
    """The code of a stack's cover sheet as a PNG of two tones, with its quiet zone.

    Source:
        QR Code, ISO/IEC 18004:2015, error correction level H: a fold or a stamp does not hurt it.
    """
    made = io.BytesIO()
    segno.make(COVER + code_of(stack_id), error="h", micro=False).save(made, kind="png", border=4, scale=_MODULE_PX)
    return made.getvalue()


def code_of(stack_id: int) -> str:
    """A stack's number, sealed: sheets of another installation, on which the same number means other papers, do not fit."""
    return f"{stack_id} {_seal(str(stack_id))}"


def stack_of(code: str) -> int | None:
    """The stack whose code that is; None where it is none of ours."""
    number, _, seal = code.partition(" ")
    if not number.isdecimal() or not number.isascii() or not constant_time_compare(seal, _seal(number)):
        return None
    return int(number)


def _seal(number: str) -> str:
    return salted_hmac("cover sheet", number, algorithm="sha256").hexdigest()[:_SIGNS].upper()
