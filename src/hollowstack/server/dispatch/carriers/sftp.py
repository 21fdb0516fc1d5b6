"""A folder on another machine, by SFTP (draft-ietf-secsh-filexfer-02, as OpenSSH speaks it)."""

import asyncio
import contextlib
import hashlib
import posixpath
from collections.abc import AsyncIterator, Coroutine
from typing import Any, TypeVar

import asyncssh

from hollowstack.server.dispatch.carriers.carrying import BLOCK, CarrierFault, Gone, Parcel, Placed, Sink, Taken
from hollowstack.server.dispatch.places import SftpPlace

Result = TypeVar("Result")
_PATIENCE = 20.0
"""Seconds in which a machine answers, and in which a line that says nothing is asked whether it is there."""


class SftpCarrier:
    """Writes under another name, then renames; SFTP's own renaming takes no name that is taken."""

    reads_back = True

    def __init__(self, place: SftpPlace, secret: str = "") -> None:
        self._place, self._secret = place, secret

    def put(self, parcel: Parcel) -> Placed:  # noqa: D102
        return self._done(self._put(parcel))

    def fetch(self, name: str, sink: Sink) -> None:  # noqa: D102
        self._done(self._fetch(name, sink))

    def remove(self, name: str) -> None:  # noqa: D102
        self._done(self._remove(name))

    async def _put(self, parcel: Parcel) -> Placed:
        async with self._signed_in() as sftp:
            target = self._at(parcel.name)
            part = posixpath.join(posixpath.dirname(target), f".{parcel.mark}.part")
            if folder := posixpath.dirname(target):
                await sftp.makedirs(folder, exist_ok=True)
            if await sftp.exists(target):
                found = hashlib.sha256()
                await _read(sftp, target, found.update)
                if found.hexdigest() != parcel.sha256:
                    raise Taken(parcel.name)
            else:
                await _write(sftp, parcel, part, target)
            return Placed(f"sftp://{self._place.user}@{self._place.host}:{self._place.port}/{target.lstrip('/')}")

    async def _fetch(self, name: str, sink: Sink) -> None:
        async with self._signed_in() as sftp:
            try:
                await _read(sftp, self._at(name), sink)
            except asyncssh.SFTPNoSuchFile:
                raise Gone(name) from None

    async def _remove(self, name: str) -> None:
        async with self._signed_in() as sftp:
            with contextlib.suppress(asyncssh.SFTPNoSuchFile):
                await sftp.remove(self._at(name))

    def _at(self, name: str) -> str:
        return posixpath.join(self._place.folder, name)

    @contextlib.asynccontextmanager
    async def _signed_in(self) -> AsyncIterator[asyncssh.SFTPClient]:
        place = self._place
        if not place.host_key:
            raise CarrierFault("The machine's key is not known yet: try the destination first.", lasting=True)
        known = asyncssh.import_known_hosts(f"[{place.host}]:{place.port} {place.host_key}")
        keys = [asyncssh.import_private_key(self._secret)] if "PRIVATE KEY" in self._secret else []
        async with asyncssh.connect(
            place.host, place.port, username=place.user, password=None if keys else self._secret, client_keys=keys,
            known_hosts=known, config=None, agent_path=None, connect_timeout=_PATIENCE, login_timeout=_PATIENCE,
            keepalive_interval=_PATIENCE / 2, keepalive_count_max=2,
        ) as connection, connection.start_sftp_client() as sftp:  # fmt: skip
            yield sftp

    def _done(self, work: Coroutine[Any, Any, Result]) -> Result:
        host = self._place.host
        try:
            return asyncio.run(work)
        except asyncssh.PermissionDenied:
            raise CarrierFault(f"{host} does not take the name and password: put them right.", lasting=True) from None
        except asyncssh.HostKeyNotVerifiable:
            raise CarrierFault(
                f"{host} has another key than when it was tried: find out why, then try the destination anew.", lasting=True
            ) from None
        except asyncssh.KeyImportError:
            raise CarrierFault(
                "The private key cannot be read: give it unlocked, as OpenSSH writes it.", lasting=True
            ) from None
        except (asyncssh.SFTPPermissionDenied, asyncssh.SFTPWriteProtect):
            raise CarrierFault(
                f"Writing there is not allowed on {host}: give {self._place.user} the right to.", lasting=True
            ) from None
        except (asyncssh.SFTPNoSpaceOnFilesystem, asyncssh.SFTPQuotaExceeded):
            raise CarrierFault(f"There is no room left on {host}: make some.") from None
        except asyncssh.SFTPError as error:
            raise CarrierFault(f"{host} refused the file ({error.reason}).") from error
        except (asyncssh.Error, OSError, TimeoutError) as error:
            raise CarrierFault(f"{host} does not answer, or the line broke: {_reason(error)}.") from error


async def _write(sftp: asyncssh.SFTPClient, parcel: Parcel, part: str, target: str) -> None:
    try:
        await sftp.put(str(parcel.file), part)
        try:
            await sftp.rename(part, target)
        except asyncssh.SFTPError:
            if await sftp.exists(target):
                raise Taken(parcel.name) from None
            raise
    finally:
        with contextlib.suppress(asyncssh.Error, OSError):
            if await sftp.exists(part):
                await sftp.remove(part)


async def _read(sftp: asyncssh.SFTPClient, path: str, sink: Sink) -> None:
    async with sftp.open(path, "rb") as file:
        while block := await file.read(BLOCK):
            sink(block.encode() if isinstance(block, str) else block)


def host_key_of(host: str, port: int) -> str:
    """The public key that a machine shows, as OpenSSH writes it. Raises CarrierFault."""
    try:
        key = asyncio.run(asyncio.wait_for(asyncssh.get_server_host_key(host, port, config=None), _PATIENCE))
    except (asyncssh.Error, OSError, TimeoutError) as error:
        raise CarrierFault(f"{host} does not answer: {_reason(error)}.") from error
    if key is None:
        raise CarrierFault(f"{host} shows no key: is it a machine that speaks SFTP?")
    return key.export_public_key().decode().strip()


def fingerprint_of(host_key: str) -> str:
    """As people compare keys: SHA256:… (RFC 4648 base 64 of the digest)."""
    return asyncssh.import_public_key(host_key).get_fingerprint()


def _reason(error: BaseException) -> str:
    return (str(error) or "no answer in time").rstrip(".")
