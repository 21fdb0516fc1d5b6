"""Small secrets that are needed later: sealed in the database, so that a copy of that alone does not tell them."""

import base64

from cryptography.fernet import Fernet, InvalidToken
from cryptography.hazmat.primitives.hashes import SHA256
from cryptography.hazmat.primitives.kdf.hkdf import HKDF
from django.conf import settings

from hollowstack.server.errors import Refused


def seal(text: str) -> str:
    """A text that only this server can read again."""
    return _box().encrypt(text.encode()).decode()


def unseal(sealed: str) -> str:
    """The text again. Raises Refused where the server's secret is another one now."""
    try:
        return _box().decrypt(sealed.encode()).decode()
    except InvalidToken:
        raise Refused("A password that was kept cannot be read any more: the server's secret is another one now.") from None


def _box() -> Fernet:
    """Source: RFC 5869 (HKDF) over the server's secret; the Fernet specification (AES-128-CBC with HMAC-SHA-256)."""
    derived = HKDF(algorithm=SHA256(), length=32, salt=None, info=b"sealed").derive(settings.SECRET_KEY.encode())
    return Fernet(base64.urlsafe_b64encode(derived))
