"""Kill -9 of the engine, of a cluster worker and of a page worker in the middle of a stack: the same result in the end."""

from pathlib import Path

import psutil
import pytest
from distributed import Client, LocalCluster

from hollowstack.core.run.pipeline import process_page
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.engine.tls import security
from tests.live import Live, until

NAMES = [
    "04 card 41.jpg",
    "04 card 42.jpg",
    "04 card 43.jpg",
    "04 card 44.jpg",
    "05 report on the lantern.tif",
    "07 log 161.jpg",
]


@pytest.fixture(scope="module")
def expected(skerry: Path) -> list[tuple[int, int, float] | str]:
    """Bytes, words and certainty of each page by the core alone; the sentence where one fails."""
    found: list[tuple[int, int, float] | str] = []
    for name, frame in [(n, 0) for n in NAMES[:5]] + [(NAMES[4], 1)]:
        made = process_page(skerry / name, frame, Treatment(), "eng")
        assert made.image
        assert made.reading
        found.append((made.image.bytes, len(made.reading.words), made.reading.mean_confidence))
    return [*found, "The image is incomplete, as if the file had been cut short: copy or scan it again."]


@pytest.fixture
def live(tmp_path: Path):
    made = Live(tmp_path / "data", HOLLOWSTACK_WORKERS="2")
    yield made
    assert made.stop() == 0


def outcome(live: Live, stack: int) -> list[tuple[int, int, float] | str]:
    return [p["error"] or (p["bytes"], p["words"], p["confidence"]) for p in live.pages(stack)]


def kill(process: psutil.Process | None) -> None:
    assert process is not None
    process.kill()


def test_killed_again_and_again(live: Live, skerry: Path, expected):
    stack = live.take_in("Box", [skerry / name for name in NAMES])
    until(lambda: live.counts(stack)["measured"] >= 2, 90, "the first pages to be measured")
    assert not live.settled(stack)
    first = live.engine()
    kill(first)
    until(lambda: (now := live.engine()) and now.pid != first.pid, 60, "the engine to be started again")
    until(lambda: live.cluster_workers(), 60, "the cluster to be there again")
    assert not live.settled(stack)
    kill(live.cluster_workers()[0])
    until(lambda: live.page_workers(), 60, "page work to go on")
    until(lambda: live.settled(stack), 180, "the stack to be finished")
    assert outcome(live, stack) == expected


def test_a_page_worker_that_dies_costs_its_page_alone(live: Live, skerry: Path):
    """What memory exhaustion does: the page in hand is held up and tried again, the others go on."""
    stack = live.take_in("Box", [skerry / name for name in NAMES[:4]])
    until(lambda: live.counts(stack)["opened"] == 4, 90, "the files to be opened")
    until(lambda: live.page_workers(), 60, "page work to begin")
    kill(live.page_workers()[0])
    until(lambda: live.settled(stack), 180, "the stack to be finished")
    pages = live.pages(stack)
    assert len(pages) == 4
    assert {page["state"] for page in pages} <= {"ready", "aside"}
    assert [page["error"] for page in pages] == [""] * 4


def test_another_scheduler(tmp_path: Path, skerry: Path, expected, settings):
    """``HOLLOWSTACK_SCHEDULER``: the same way with a cluster that somebody else has started."""
    (tmp_path / "data").mkdir()
    settings.DATA = tmp_path / "data"
    keys = security()
    with LocalCluster(
        n_workers=1,
        threads_per_worker=1,
        processes=True,
        dashboard_address="127.0.0.1:0",
        host="tls://127.0.0.1",
        security=keys,
    ) as cluster:
        with pytest.raises((OSError, TimeoutError)):  # a stranger on this machine has no key
            Client(cluster.scheduler_address.replace("tls", "tcp"), timeout=5)
        live = Live(tmp_path / "data", HOLLOWSTACK_SCHEDULER=cluster.scheduler_address)
        stack = live.take_in("Box", [skerry / NAMES[0]])
        until(lambda: live.settled(stack), 120, "the page to be finished")
        assert live.cluster_workers() == []
        assert outcome(live, stack) == expected[:1]
        assert live.stop() == 0


def test_nothing_is_left_running_after_ctrl_c(tmp_path: Path):
    live = Live(tmp_path / "data")
    until(lambda: live.cluster_workers(), 60, "the cluster to be there")
    family = psutil.Process(live.process.pid).children(recursive=True)
    assert live.stop() == 0
    _, alive = psutil.wait_procs(family, timeout=15)
    assert not alive
