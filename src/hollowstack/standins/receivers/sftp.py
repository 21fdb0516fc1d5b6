"""A machine that takes files by SFTP, into a folder, with one user and one password."""

import asyncio
import threading
from pathlib import Path

import asyncssh

from hollowstack.standins.receivers.mishaps import SLOW_SECONDS, Mishaps, spoiled

USER, PASSWORD = "skerry", "lantern"


class SftpMachine:
    """Runs in a thread of its own until it is stopped."""

    def __init__(self, port: int, folder: Path, host: str = "127.0.0.1") -> None:
        """``folder`` is where files come to lie; the machine's key lies beside it."""
        self.mishaps, self.folder = Mishaps(), folder
        folder.mkdir(parents=True, exist_ok=True)
        self._loop = asyncio.new_event_loop()
        key = machine_key(folder)
        self._thread = threading.Thread(target=self._loop.run_forever, name="sftp", daemon=True)
        self._thread.start()
        started = asyncio.run_coroutine_threadsafe(self._listen(host, port, key), self._loop)
        self._acceptor = started.result(20)

    async def _listen(self, host: str, port: int, key: asyncssh.SSHKey) -> asyncssh.SSHAcceptor:
        return await asyncssh.listen(
            host, port, server_factory=lambda: _Door(self.mishaps), server_host_keys=[key],
            sftp_factory=lambda channel: _Files(channel, self), config=None,
        )  # fmt: skip

    def stop(self) -> None:
        """No longer."""
        asyncio.run_coroutine_threadsafe(self._close(), self._loop).result(10)
        self._loop.call_soon_threadsafe(self._loop.stop)
        self._thread.join(5)
        self._loop.close()

    async def _close(self) -> None:
        self._acceptor.close()
        await self._acceptor.wait_closed()


class _Door(asyncssh.SSHServer):
    def __init__(self, mishaps: Mishaps) -> None:
        self._mishaps = mishaps

    def password_auth_supported(self) -> bool:
        return True

    def validate_password(self, username: str, password: str) -> bool:
        return (username, password) == (USER, PASSWORD) and not self._mishaps.happens("password")


class _Files(asyncssh.SFTPServer):
    """Writing, as it goes wrong."""

    def __init__(self, channel: asyncssh.SSHServerChannel[bytes], machine: SftpMachine) -> None:
        super().__init__(channel, chroot=str(machine.folder).encode())
        self._mishaps = machine.mishaps

    async def write(self, file_obj: object, offset: int, data: bytes) -> int:
        if self._mishaps.happens("slow"):
            await asyncio.sleep(SLOW_SECONDS)
        if self._mishaps.happens("refuses"):
            raise asyncssh.SFTPPermissionDenied("not here")
        if self._mishaps.happens("full"):
            raise asyncssh.SFTPFailure("no space left")
        if self._mishaps.happens("drops"):
            self.connection.abort()
        if self._mishaps.happens("corrupts"):
            data = spoiled(data)
        written = super().write(file_obj, offset, data)
        return written if isinstance(written, int) else await written


def machine_key(folder: Path) -> asyncssh.SSHKey:
    """The key of the machine whose files lie in a folder; made where there is none."""
    path = folder.with_name(f"{folder.name}.key")
    if path.exists():
        return asyncssh.read_private_key(path)
    key = asyncssh.generate_private_key("ssh-ed25519")
    path.parent.mkdir(parents=True, exist_ok=True)
    path.touch(mode=0o600)
    path.write_bytes(key.export_private_key())
    return key
