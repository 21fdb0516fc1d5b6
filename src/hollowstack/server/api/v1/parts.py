"""Answers of two parts: what is told, and a picture as the bytes it is.

Source:
    RFC 7578 (multipart/form-data), which every browser reads by itself, and RFC 2046, 5.1.1 (boundaries).
"""

import secrets

from django.http import HttpResponse
from pydantic import BaseModel


def with_picture(name: str, told: BaseModel, jpeg: bytes) -> HttpResponse:
    """What is told as a part ``name`` in JSON, and a part ``picture``."""
    boundary = secrets.token_hex(16)
    body = b"".join(
        [
            f'--{boundary}\r\nContent-Disposition: form-data; name="{name}"\r\n'
            "Content-Type: application/json\r\n\r\n".encode(),
            told.model_dump_json().encode(),
            f'\r\n--{boundary}\r\nContent-Disposition: form-data; name="picture"; filename="picture.jpg"\r\n'
            "Content-Type: image/jpeg\r\n\r\n".encode(),
            jpeg,
            f"\r\n--{boundary}--\r\n".encode(),
        ]
    )
    return HttpResponse(body, content_type=f"multipart/form-data; boundary={boundary}")
