"""An object storage that speaks S3, by a package's own server, with mishaps before it."""

import threading
import time
from collections.abc import Callable, Iterable
from io import BytesIO
from typing import Any

import boto3
from moto.moto_server.werkzeug_app import DomainDispatcherApplication, create_backend_app
from werkzeug.serving import WSGIRequestHandler, make_server

from hollowstack.standins.receivers.mishaps import SLOW_SECONDS, Mishaps, spoiled

ACCESS_KEY, SECRET, BUCKET = "SKERRYLIGHT", "lantern", "skerry"
_REFUSALS = {
    "password": ("403 Forbidden", "InvalidAccessKeyId", "nobody has this key"),
    "refuses": ("403 Forbidden", "AccessDenied", "not here"),
    "full": ("503 Service Unavailable", "ServiceUnavailable", "no room left"),
}


class ObjectStorage:
    """Runs in a thread of its own until it is stopped; what it holds is in memory."""

    def __init__(self, port: int, host: str = "127.0.0.1") -> None:
        """It begins with one empty bucket."""
        self.mishaps = Mishaps()
        self.address = f"http://{host}:{port}"
        inner = DomainDispatcherApplication(create_backend_app)
        self._server = make_server(host, port, _Before(inner, self.mishaps), threaded=True, request_handler=_Silent)
        threading.Thread(target=self._server.serve_forever, name="storage", daemon=True).start()
        self._client().create_bucket(Bucket=BUCKET)

    def objects(self) -> list[tuple[str, int]]:
        """Keys of what it holds, and their sizes."""
        found = self._client().list_objects_v2(Bucket=BUCKET).get("Contents", [])
        return [(one["Key"], one["Size"]) for one in found]

    def read(self, key: str) -> bytes:
        """An object."""
        return bytes(self._client().get_object(Bucket=BUCKET, Key=key)["Body"].read())

    def damage(self, key: str) -> None:
        """Change a byte of an object behind everybody's back."""
        self._client().put_object(Bucket=BUCKET, Key=key, Body=spoiled(self.read(key)))

    def stop(self) -> None:
        """No longer."""
        self._server.shutdown()
        self._server.server_close()

    def _client(self) -> Any:
        return boto3.client(
            "s3", endpoint_url=self.address, aws_access_key_id=_OWN, aws_secret_access_key=SECRET, region_name="us-east-1"
        )


_OWN = "ITSELF"
"""The key by which the storage looks into itself, with which nothing goes wrong."""


class _Before:
    """What goes wrong before a request comes to the storage."""

    def __init__(self, inner: Callable[..., Iterable[bytes]], mishaps: Mishaps) -> None:
        self._inner, self._mishaps = inner, mishaps

    def __call__(self, environ: dict[str, Any], start: Callable[..., Any]) -> Iterable[bytes]:
        key = _key_of(environ)
        if key == _OWN:
            return self._inner(environ, start)
        if key != ACCESS_KEY or self._mishaps.happens("password"):
            return _refuse(environ, start, "password")
        if environ["REQUEST_METHOD"] != "PUT":
            return self._inner(environ, start)
        if self._mishaps.happens("slow"):
            time.sleep(SLOW_SECONDS)
        for mishap in ("refuses", "full"):
            if self._mishaps.happens(mishap):
                return _refuse(environ, start, mishap)
        if self._mishaps.happens("drops"):
            raise ConnectionAbortedError("the line is dropped, as was asked for")
        if self._mishaps.happens("corrupts"):
            data = environ["wsgi.input"].read(int(environ.get("CONTENT_LENGTH") or 0))
            environ["wsgi.input"] = BytesIO(spoiled(data))
            # Sums of it would tell.
            for name in [name for name in environ if name.startswith(("HTTP_X_AMZ_CHECKSUM", "HTTP_CONTENT_MD5"))]:
                del environ[name]
        return self._inner(environ, start)


def _key_of(environ: dict[str, Any]) -> str:
    """Whose request it is (AWS Signature Version 4: Credential=KEY/date/…)."""
    _, _, rest = environ.get("HTTP_AUTHORIZATION", "").partition("Credential=")
    return str(rest.partition("/")[0])


def _refuse(environ: dict[str, Any], start: Callable[..., Any], mishap: str) -> list[bytes]:
    status, code, said = _REFUSALS[mishap]
    body = f'<?xml version="1.0" encoding="UTF-8"?><Error><Code>{code}</Code><Message>{said}</Message></Error>'.encode()
    if environ["REQUEST_METHOD"] == "HEAD":
        body = b""
    start(status, [("Content-Type", "application/xml"), ("Content-Length", str(len(body)))])
    return [body]


class _Silent(WSGIRequestHandler):
    """Nobody wants to read of each request."""

    def log(self, type: str, message: str, *args: Any) -> None:
        """No."""
