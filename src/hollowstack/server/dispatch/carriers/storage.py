"""An object storage that speaks S3."""

import atexit
import tempfile
from functools import cache
from pathlib import Path
from typing import Any

import certifi
import s3fs
from botocore.exceptions import BotoCoreError, ClientError

from hollowstack.server.dispatch.carriers.carrying import (
    BLOCK,
    CarrierFault,
    Gone,
    Parcel,
    Placed,
    Sink,
    Taken,
    digest_there,
)
from hollowstack.server.dispatch.places import StoragePlace

_PATIENCE = 20
_CONFIG = {"connect_timeout": _PATIENCE, "read_timeout": _PATIENCE, "retries": {"max_attempts": 1}}


class StorageCarrier:
    """Puts an object with its digest; a storage shows objects whole or not at all, and is asked to take no name twice."""

    reads_back = True

    def __init__(self, place: StoragePlace, secret: str = "", certificates: Path | None = None) -> None:
        self._place, self._secret, self._certificates = place, secret, certificates

    def put(self, parcel: Parcel) -> Placed:  # noqa: D102
        fs, key = self._fs(), self._at(parcel.name)
        try:
            if fs.exists(key):
                if digest_there(self, parcel.name) != parcel.sha256:
                    raise Taken(parcel.name)
            else:
                fs.put_file(str(parcel.file), key, mode="create", Metadata={"sha256": parcel.sha256})
        except FileExistsError:
            raise Taken(parcel.name) from None
        except (OSError, BotoCoreError, ClientError) as error:
            raise self._fault(error) from error
        return Placed(f"s3://{key}")

    def fetch(self, name: str, sink: Sink) -> None:  # noqa: D102
        fs = self._fs()
        try:
            _read(fs, self._at(name), sink)
        except FileNotFoundError:
            raise Gone(name) from None
        except (OSError, BotoCoreError, ClientError) as error:
            raise self._fault(error) from error

    def remove(self, name: str) -> None:  # noqa: D102
        try:
            self._fs().rm_file(self._at(name))
        except FileNotFoundError:
            pass
        except (OSError, BotoCoreError, ClientError) as error:
            raise self._fault(error) from error

    def _fs(self) -> Any:
        client = {"region_name": self._place.region}
        if self._certificates is not None:
            client["verify"] = _bundle(self._certificates)
        return s3fs.S3FileSystem(
            key=self._place.access_key, secret=self._secret, endpoint_url=self._place.endpoint,
            client_kwargs=client, config_kwargs=_CONFIG, skip_instance_cache=True,
            use_listings_cache=False,
        )  # fmt: skip

    def _at(self, name: str) -> str:
        return f"{self._place.bucket}/{self._place.prefix}{name}"

    def _fault(self, error: Exception) -> CarrierFault:
        place = self._place.endpoint
        if isinstance(error, PermissionError):
            return CarrierFault(f"{place} does not take the access key, or forbids writing: put it right.", lasting=True)
        if isinstance(error, FileNotFoundError):
            return CarrierFault(
                f"There is no bucket {self._place.bucket} at {place}: make it, or name another.", lasting=True
            )
        reason = str(error).split("\n")[0].rstrip(".") or type(error).__name__
        return CarrierFault(f"{place} did not take it, or does not answer ({reason}).")


@cache
def _bundle(certificates: Path) -> str:
    """A file of the usual certificates and of these: the package takes one file, in the place of the usual ones."""
    with tempfile.NamedTemporaryFile(prefix="certificates-", suffix=".pem", delete=False) as made:
        made.write(Path(certifi.where()).read_bytes() + b"\n" + certificates.read_bytes())
    atexit.register(Path(made.name).unlink, missing_ok=True)
    return made.name


def _read(fs: Any, key: str, sink: Sink) -> None:
    with fs.open(key, "rb", block_size=BLOCK * 20, cache_type="readahead") as file:
        while block := file.read(BLOCK):
            sink(block)
