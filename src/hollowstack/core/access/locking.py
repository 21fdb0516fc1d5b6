"""Passwords of access copies."""

import secrets
from typing import NamedTuple

from pikepdf import Encryption, Permissions

from hollowstack.core.page.errors import BindError

_MOST_BYTES = 127
"""Of a password in UTF-8 (ISO 32000-2:2020, 7.6.4.3.4)."""


class Passwords(NamedTuple):
    """``opening`` is asked for whoever opens the copy, ``changing`` lifts what is forbidden; empty for none."""

    opening: str = ""
    changing: str = ""


def check_passwords(passwords: Passwords) -> None:
    """Refuse what no reader would take. Raises BindError."""
    for name, password in passwords._asdict().items():
        if len(password.encode()) > _MOST_BYTES:
            raise BindError(f"The password for {name} is too long: the most is {_MOST_BYTES} bytes. Shorten it.")
    if passwords.opening and passwords.opening == passwords.changing:
        raise BindError("The two passwords are the same, so whoever opens the copy could change it: choose another one.")


def lock_of(passwords: Passwords, *, printing: bool, copying: bool) -> Encryption | None:
    """How a copy is encrypted; None where everybody may do everything.

    What is forbidden without a password for changing stays forbidden: that is drawn then, and told nobody.

    Source:
        ISO 32000-2:2020, 7.6.4.4 (revision 6, AES-256); table 22 (permissions; reading aloud is always allowed).
    """
    if passwords == Passwords() and printing and copying:
        return None
    return Encryption(
        user=passwords.opening, owner=passwords.changing or secrets.token_urlsafe(32), R=6,
        allow=Permissions(
            accessibility=True, extract=copying, print_lowres=printing, print_highres=printing,
            modify_annotation=False, modify_assembly=False, modify_form=False, modify_other=False,
        ),
    )  # fmt: skip
