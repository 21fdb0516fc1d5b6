"""Stations are measured by images of the quality target that came from them, and what drifts is said where one captures."""

import io
from dataclasses import asdict
from datetime import UTC, datetime, timedelta

import pytest
from PIL import Image

from hollowstack.server.accounts.rights import Role
from hollowstack.server.capture.escl import Capabilities
from hollowstack.server.capture.models import QualityCheck, Station
from hollowstack.server.capture.quality import word_of
from hollowstack.server.intake import batches
from tests.server.conftest import answer
from tests.server.test_rights import somebody
from tests.targets import captured

GOOD = {
    "sampling_error": 0.1, "efficiency": 95.0, "mtf50": 52.0, "tone": 1.0, "noise": 0.4, "white_balance": 1.0,
    "evenness": 0.5, "colour_mean": 1.5, "colour_worst": 4.0, "misregistration": 0.1,
}  # fmt: skip


@pytest.fixture
def station(db) -> Station:
    capabilities = asdict(Capabilities("Quay", None, None, False))
    return Station.objects.create(name="Quay", address="http://127.0.0.1:9", capabilities=capabilities)


def png(image) -> bytes:
    out = io.BytesIO()
    Image.fromarray(image.pixels).save(out, "PNG", dpi=image.ppi)
    return out.getvalue()


@pytest.fixture(scope="session")
def target() -> bytes:
    return png(captured(blur=0.8))


def come(client, stack, body: bytes, **record) -> int:
    """A page that came from a station."""
    batch = batches.open_batch(stack.pk, None, record=record)
    address = f"/api/v1/batches/{batch.pk}/files/0?name=target.png"
    (page,) = answer(client.put(address, body, content_type="application/octet-stream"))["pages"]
    return page


def measure(client, page: int, patches: str = ""):
    return client.post(f"/api/v1/pages/{page}/station-check", {"patches": patches}, content_type="application/json")


def test_a_station_is_measured_by_a_page(client, stack, station, target):
    page = come(client, stack, target, station="Quay", source="platen")
    told = answer(measure(client, page))
    assert told["name"] == "Quay"
    (chart,) = told["charts"]
    assert chart["kind"] == "glass, 300 ppi"
    assert [one["name"] for one in chart["figures"]] == list(GOOD)
    assert chart["checks"][0]["quality"]["ppi"] == pytest.approx([300, 300], abs=0.3)
    assert not chart["checks"][0]["quality"]["measured"]
    # The same image again is no second check.
    answer(measure(client, page))
    assert QualityCheck.objects.count() == 1
    assert answer(client.get(f"/api/v1/stations/{station.pk}/quality")) == told


@pytest.mark.parametrize(
    ("record", "patches", "told"),
    [
        ({}, "", "This page was not captured at a station on the list"),
        ({"station": "Gone"}, "", "This page was not captured at a station on the list"),
        ({"station": "Quay"}, "no patches", "This is no patch file"),
    ],
)
def test_what_cannot_be_measured(client, stack, station, target, record, patches, told):
    page = come(client, stack, target, **record)
    refused = measure(client, page, patches)
    assert refused.status_code == 422
    assert answer(refused)["detail"].startswith(told)
    assert not QualityCheck.objects.exists()


def test_a_page_that_is_no_target_is_refused(client, stack, station):
    body = png(type(captured())(captured().pixels[:600, :600].copy(), (300.0, 300.0)))
    page = come(client, stack, body, station="Quay")
    assert answer(measure(client, page))["detail"].startswith("This page does not show the whole quality target")


def checks(station: Station, noises: list[float], kind: str = "glass, 300 ppi", **more) -> list[QualityCheck]:
    quality = {"ppi": [300, 300], "said_ppi": [300, 300], "mtf50": [3, 3], "mtf10": [5, 5], "greys": [], "measured": True}
    start = datetime(2026, 11, 1, tzinfo=UTC)
    return [
        QualityCheck.objects.create(
            station=station, at=start + timedelta(days=day), master=f"{kind} {day}", kind=kind,
            quality={**quality, "figures": {**GOOD, **more, "noise": noise}},
        )
        for day, noise in enumerate(noises)
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("noises", "more", "word"),
    [
        ([0.4, 0.41, 0.39, 0.4], {}, ""),
        ([0.4, 0.42] * 10 + [0.41], {}, ""),
        ([0.4, 0.42] * 10 + [0.6], {}, "Drifts: noise"),
        ([0.4] * 3 + [2.1], {}, "Out of tolerance: noise"),
        ([0.4], {"efficiency": 70.0, "mtf50": 30.0}, "Out of tolerance: sampling efficiency and 1 more"),
    ],
)
def test_what_is_said_of_a_station(station, noises, more, word):
    assert word_of(checks(station, noises, **more)) == word


def test_sources_and_resolutions_are_not_mixed(client, station):
    checks(station, [0.4, 0.41] * 10)
    checks(station, [0.9, 0.91], kind="feeder, 150 ppi")
    assert word_of(list(station.quality.all())) == ""
    charts = answer(client.get(f"/api/v1/stations/{station.pk}/quality"))["charts"]
    assert [(one["kind"], len(one["checks"])) for one in charts] == [("glass, 300 ppi", 20), ("feeder, 150 ppi", 2)]
    noise = next(one for one in charts[0]["figures"] if one["name"] == "noise")
    assert noise["lower"] < 0.4 < noise["upper"]
    assert noise["middle"] == pytest.approx(0.405)
    assert next(one for one in charts[1]["figures"] if one["name"] == "noise")["middle"] is None


def test_it_is_said_where_one_captures(client, station):
    checks(station, [0.4, 3.0])
    (told,) = answer(client.get("/api/v1/stations"))
    assert told["quality"] == "Out of tolerance: noise"


def test_the_target_to_print(client):
    answered = client.get("/api/v1/quality-target")
    assert answered.content.startswith(b"%PDF")
    assert answered.headers["Content-Disposition"] == 'attachment; filename="quality target.pdf"'


def test_readers_look_on(client, stack, station, target):
    page = come(client, stack, target, station="Quay")
    reader = somebody(Role.READER)
    assert measure(reader, page).status_code == 403
    assert reader.get(f"/api/v1/stations/{station.pk}/quality").status_code == 200
