"""A process that does page work for its owner and can be stopped: whatever a file does to it, only that page is lost."""

import contextlib
import os
import pickle
import resource
import select
import struct
import subprocess
import sys
import time
from collections.abc import Callable
from typing import IO, ParamSpec, TypeVar, cast

from hollowstack.core.page.errors import HollowStackError, WorkerError, fault_of

P = ParamSpec("P")
R = TypeVar("R")
PAGE_SECONDS = 300.0
"""Time limit of one page."""
_MEMORY_BYTES = 10 * 1024**3
_HEADER = struct.Struct(">Q")
_ONE_THREAD = {"OPENCV_FOR_THREADS_NUM": "1"}
"""One page a process: OpenCV's own threads would only fight for the same cores, as the OCR engine's would."""


class PageWorker:
    """Runs one function call at a time in a child process; close it, or use it in a ``with``.

    For one thread, but for ``stop``, which any may call.
    """

    def __init__(self) -> None:
        self._process: subprocess.Popen[bytes] | None = None
        self._stopped = False

    def __enter__(self) -> "PageWorker":
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def run(self, seconds: float, function: Callable[P, R], /, *args: P.args, **kwargs: P.kwargs) -> R:
        """The function's result, computed in the child.

        Args:
            seconds: Time limit.
            function: Importable by name; its arguments and result can be pickled.

        Raises:
            HollowStackError: What the function raised.
            WorkerError: It took too long, or took the process down, or failed in an unforeseen way.
        """
        process = self._process
        if process is None or process.poll() is not None:
            process = self._start()
        if self._stopped:  # asked after the start, so that either this thread sees it or ``stop`` sees the process
            self.close()
            raise WorkerError("The page was stopped.", "lost")
        assert process.stdin is not None
        assert process.stdout is not None
        try:
            _write(process.stdin, (function, args, kwargs))
            answer = _read_within(process.stdout, seconds)
        except TimeoutError:
            self.close()
            raise WorkerError(
                f"The page took longer than {seconds:.0f} s and was stopped: try again when less is going on.",
                "time",
            ) from None
        except (EOFError, BrokenPipeError):
            self.close()
            raise WorkerError(
                "The process working on the page ended without an answer: try again; if it happens again, report it.", "lost"
            ) from None
        ok, value = answer
        if ok:
            return cast("R", value)
        raise cast("HollowStackError", value)

    def stop(self) -> None:
        """End the call in hand, if any, with a ``WorkerError``, and every later one."""
        self._stopped = True
        process = self._process
        if process is not None:
            process.kill()

    def close(self) -> None:
        """Stop the child, at once."""
        if self._process is not None:
            process, self._process = self._process, None
            process.kill()
            process.wait()
            for stream in (process.stdin, process.stdout):
                if stream:
                    with contextlib.suppress(BrokenPipeError):
                        stream.close()

    def _start(self) -> "subprocess.Popen[bytes]":
        self.close()
        # In a group of its own, because Ctrl-C reaches a whole group: the owner decides what it means.
        self._process = subprocess.Popen(
            [sys.executable, "-m", "hollowstack.core.run.worker"],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            env=_ONE_THREAD | dict(os.environ),
            process_group=0,
        )
        return self._process


def _write(stream: IO[bytes], message: object) -> None:
    data = pickle.dumps(message, protocol=pickle.HIGHEST_PROTOCOL)
    stream.write(_HEADER.pack(len(data)) + data)
    stream.flush()


def _read_within(stream: IO[bytes], seconds: float) -> tuple[bool, object]:
    deadline = time.monotonic() + seconds
    file = stream.fileno()
    (size,) = _HEADER.unpack(_take(file, _HEADER.size, deadline))
    return cast("tuple[bool, object]", pickle.loads(_take(file, size, deadline)))


def _take(file: int, size: int, deadline: float) -> bytes:
    parts = bytearray()
    while len(parts) < size:
        ready, _, _ = select.select([file], [], [], max(0.0, deadline - time.monotonic()))
        if not ready:
            raise TimeoutError
        part = os.read(file, min(size - len(parts), 1 << 20))
        if not part:
            raise EOFError
        parts += part
    return bytes(parts)


def _serve() -> None:
    """The child's loop: calls in, answers out, until its owner is gone."""
    calls = sys.stdin.buffer
    # Libraries that print must not speak into the answers.
    answers = os.fdopen(os.dup(1), "wb")
    os.dup2(2, 1)
    resource.setrlimit(resource.RLIMIT_AS, (_MEMORY_BYTES, resource.getrlimit(resource.RLIMIT_AS)[1]))
    while header := calls.read(_HEADER.size):
        (size,) = _HEADER.unpack(header)
        function, args, kwargs = pickle.loads(calls.read(size))
        try:
            answer: tuple[bool, object] = (True, function(*args, **kwargs))
        except HollowStackError as error:
            answer = (False, error)
        except Exception as error:
            fault = fault_of(error)
            if fault.kind == "program":
                print(f"page worker: {type(error).__name__}: {error}", file=sys.stderr, flush=True)
            answer = (False, fault)
        try:
            _write(answers, answer)
        except BrokenPipeError:
            return


if __name__ == "__main__":
    _serve()
