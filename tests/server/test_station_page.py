"""The simulated station's own page, for whoever stands beside the machine: laying paper in, and mishaps."""

import io
import json
from collections.abc import Iterator
from http.client import RemoteDisconnected
from urllib.error import HTTPError
from urllib.parse import urlencode
from urllib.request import Request, urlopen

import pytest
from PIL import Image

from hollowstack.standins.station.device import MODELS, Order
from hollowstack.standins.station.server import Station


@pytest.fixture
def station() -> Iterator[Station]:
    made = Station(MODELS[2])
    made.start()
    yield made
    made.shutdown()
    made.server_close()


def get(station: Station, path: str = "/") -> str:
    with urlopen(station.address + path, timeout=10) as response:
        return response.read().decode()


def post(station: Station, path: str, data: bytes) -> int:
    with urlopen(Request(station.address + path, data=data, method="POST"), timeout=10) as response:
        return response.status


def state(station: Station) -> dict:
    return json.loads(get(station, "/control"))


def press(station: Station, **button: str) -> None:
    post(station, "/tray", urlencode(button).encode())


def test_it_says_that_it_is_a_simulation_and_what_lies_in_it(station):
    assert "A simulated station. Now in the feeder: nothing." in get(station)
    press(station, load="letters")
    assert state(station)["tray"] == [f"letter {n + 1}" for n in range(4)]
    assert "letter 1, letter 2" in get(station)
    press(station, load="")
    assert state(station)["tray"] == []


def test_what_lies_in_the_feeder_is_drawn_a_line_a_sheet(station):
    assert "aria-label='The feeder is empty'" in get(station)
    press(station, load="letters")
    page = get(station)
    assert "aria-label='4 sheets in the feeder'" in page
    assert page.count("fill=#f2ead8") == 4


def test_what_lies_on_the_glass_is_drawn_where_it_lies():
    made = Station(MODELS[0])
    made.start()
    try:
        made.lay("photographs")
        page = get(made)
        assert "aria-label='3 sheets on the glass'" in page
        for lying in made.device.on_glass():
            assert f"translate({lying.x_mm:.1f} {lying.y_mm:.1f})" in page
            assert f"width={lying.leaf.width_mm:.1f}" in page
    finally:
        made.shutdown()
        made.server_close()


def test_mishaps_by_button(station):
    press(station, load="letters")
    press(station, jam_after="2")
    press(station, offline="1")
    said = state(station)["faults"]
    assert (said["jam_after"], said["offline"]) == (2, True)
    with pytest.raises((HTTPError, OSError)):
        get(station, "/eSCL/ScannerStatus")
    press(station, offline="0")
    assert "ScannerStatus" in get(station, "/eSCL/ScannerStatus")


def test_any_image_can_be_laid_in(station):
    buffer = io.BytesIO()
    Image.new("RGB", (300, 600), (200, 180, 160)).save(buffer, "PNG", dpi=(150, 150))
    assert post(station, "/tray/file", buffer.getvalue()) == 200
    (leaf,) = station.device.tray
    assert (round(leaf.width_mm, 1), round(leaf.height_mm, 1)) == (50.8, 101.6)
    with pytest.raises(HTTPError, match="400"):
        post(station, "/tray/file", b"no image")


def test_nonsense_is_refused(station):
    for body in (b"{", b'{"load": "nothing of that name"}', b'{"jam_after": "soon"}'):
        with pytest.raises(HTTPError, match="400"):
            post(station, "/control", body)


def test_its_panel_has_a_start_key_and_says_what_it_is_at(station):
    page = get(station)
    assert "<output>Ready</output>" in page
    assert "name=cancel" not in page
    press(station, start="1")
    assert state(station)["keys"] == 1
    press(station, load="letters")
    job = station.device.start(Order("Feeder", False, "RGB24", 75, "image/jpeg", (0, 0, 2551, 3507)))
    assert "<output>Capturing, 0 images so far</output>" in get(station)
    press(station, cancel="1")
    assert (job.state, "<output>Ready</output>" in get(station)) == ("Canceled", True)


def test_it_shows_which_one_it_is_until_that_was_seen(station):
    station.device.shown = "By the <window>: this one"
    assert "By the &lt;window&gt;: this one" in get(station)
    press(station, seen="1")
    assert "this one" not in get(station)


def test_switched_off_it_answers_nobody(station):
    press(station, power="off")
    with pytest.raises(RemoteDisconnected):
        urlopen(f"{station.address}/eSCL/ScannerStatus", timeout=2)
    press(station, power="on")
    assert "ScannerStatus" in get(station, "/eSCL/ScannerStatus")
