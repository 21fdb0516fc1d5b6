"""A page worker survives whatever its pages do."""

import os
import signal
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import cv2
import numpy as np
import pytest

from hollowstack.core.page.errors import DecodeError, WorkerError
from hollowstack.core.run.worker import PageWorker


def add(a, b):
    return a + b


def sleep(seconds):
    time.sleep(seconds)


def begin_and_sleep(sign, seconds):
    Path(sign).touch()
    time.sleep(seconds)


def die():
    os.kill(os.getpid(), signal.SIGKILL)


def refuse():
    raise DecodeError("The page is a fish: scan it again.")


def stumble():
    raise ZeroDivisionError("no reason")


def devour():
    return np.ones(40 * 1024**3, np.uint8).sum()


def threads():
    return cv2.getNumThreads()


def chatter():
    print("something a library says")  # noqa: T201
    os.write(1, b"something a C library says\n")
    return "done"


def test_results_come_back():
    with PageWorker() as worker:
        assert [worker.run(10, add, n, 1) for n in range(3)] == [1, 2, 3]


def test_large_results_come_back():
    with PageWorker() as worker:
        assert len(worker.run(20, add, b"a" * 5_000_000, b"b" * 5_000_000)) == 10_000_000


@pytest.mark.parametrize(
    ("function", "arguments", "says"),
    [
        pytest.param(sleep, (60,), "longer than", id="too slow"),
        pytest.param(die, (), "ended without an answer", id="killed"),
        pytest.param(stumble, (), "ZeroDivisionError: no reason", id="an error of ours"),
        pytest.param(devour, (), "memory", id="too large"),
    ],
)
def test_a_bad_page_fails_alone(function, arguments, says):
    with PageWorker() as worker:
        started = time.monotonic()
        with pytest.raises(WorkerError, match=says):
            worker.run(3, function, *arguments)
        assert time.monotonic() - started < 15
        assert worker.run(10, add, 2, 2) == 4


def test_refusals_keep_their_words():
    with PageWorker() as worker, pytest.raises(DecodeError, match="is a fish"):
        worker.run(10, refuse)


def test_printing_does_not_disturb_the_answers(capfd):
    with PageWorker() as worker:
        assert worker.run(10, chatter) == "done"


def test_the_child_ends_with_its_owner():
    worker = PageWorker()
    worker.run(10, add, 1, 1)
    child = worker._process
    assert child is not None
    child.stdin.close()  # as it happens when the owner is killed
    assert child.wait(10) == 0
    worker.close()


def test_another_thread_may_stop_it_at_any_time(tmp_path: Path):
    with PageWorker() as worker, ThreadPoolExecutor(1) as thread:
        page = thread.submit(worker.run, 60, begin_and_sleep, str(tmp_path / "begun"), 50)
        while not (tmp_path / "begun").exists():
            time.sleep(0.01)
        start = time.monotonic()
        worker.stop()
        with pytest.raises(WorkerError):
            page.result(timeout=10)
        assert time.monotonic() - start < 10
        with pytest.raises(WorkerError, match="stopped"):
            worker.run(60, add, 1, 2)


def test_a_worker_keeps_to_one_core():
    with PageWorker() as worker:
        assert worker.run(20, threads) == 1
