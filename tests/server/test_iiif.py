"""IIIF Image API 3.0 (iiif.io, version 3.0.0), section 4: the standard's own examples and their borders."""

import io

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from hollowstack.server.images import views
from hollowstack.server.images.iiif import BadRequest, information, parse
from hollowstack.server.images.pictures import PictureWorkers
from hollowstack.server.storage import places

FULL = (300, 200)  # the size of the image in the examples of 4.1 and 4.2


def asked(region="full", size="max", rotation="0", quality="default", suffix="jpg", full=FULL):
    return parse(region, size, rotation, quality, suffix, full)


@pytest.mark.parametrize(
    ("region", "box"),
    [
        ("full", (0, 0, 300, 200)),
        ("square", (50, 0, 200, 200)),
        ("125,15,120,140", (125, 15, 120, 140)),
        ("pct:41.6,7.5,40,70", (125, 15, 120, 140)),
        ("125,15,200,200", (125, 15, 175, 185)),
        ("pct:41.6,7.5,66.6,100", (125, 15, 175, 185)),
    ],
)
def test_regions_of_the_standard(region, box):
    assert asked(region).region == box


@pytest.mark.parametrize(
    ("size", "result"),
    [
        ("max", (300, 200)), ("150,", (150, 100)), (",150", (225, 150)), ("pct:50", (150, 100)), ("225,100", (225, 100)),
        ("!225,100", (150, 100)), ("^360,", (360, 240)), ("^,240", (360, 240)), ("^pct:120", (360, 240)), ("^!360,360", (360, 240)),
        ("!600,600", (300, 200)),
    ],
)  # fmt: skip
def test_sizes_of_the_standard(size, result):
    assert asked(size=size).size == result


@pytest.mark.parametrize(
    ("rotation", "result"), [("0", (False, 0)), ("180", (False, 180)), ("!0", (True, 0)), ("!90", (True, 90))]
)
def test_rotations(rotation, result):
    made = asked(rotation=rotation)
    assert (made.mirror, made.turn) == result


@pytest.mark.parametrize(
    "words",
    [
        {"region": "300,0,10,10"}, {"region": "0,0,0,10"}, {"region": "a,b,c,d"}, {"region": "1,2,3"}, {"size": "360,"},
        {"size": "^pct:9999"}, {"size": "0,0"}, {"size": ","}, {"size": "big"}, {"rotation": "45"}, {"rotation": "north"},
        {"quality": "fine"}, {"suffix": "tif"}, {"region": "pct:nan,0,10,10"}, {"region": "pct:inf,0,1,1"},
        {"region": "-1,0,10,10"}, {"region": "0,0,10"}, {"region": f"0,0,{'9' * 400},1"}, {"size": f"{'9' * 400},"},
        {"size": "^8193,"}, {"size": "301,"}, {"size": ",201"}, {"rotation": "nan"}, {"rotation": "1e2"}, {"region": "0,0,10,0"},
        {"region": "0,200,10,10"}, {"size": "!0,10"},
    ],
)  # fmt: skip
def test_what_the_standard_does_not_know_is_refused(words):
    with pytest.raises(BadRequest):
        asked(**words)


@pytest.mark.parametrize(
    ("region", "size", "box", "result"),
    [
        ("299,199,1,1", "max", (299, 199, 1, 1), (1, 1)),
        ("299,199,9,9", "max", (299, 199, 1, 1), (1, 1)),
        ("full", "300,200", (0, 0, 300, 200), (300, 200)),
        ("full", "^8192,1", (0, 0, 300, 200), (8192, 1)),
        ("0,0,300,1", "3,", (0, 0, 300, 1), (3, 1)),
        ("0,0,1,200", ",2", (0, 0, 1, 200), (1, 2)),
        ("full", "!300,200", (0, 0, 300, 200), (300, 200)),
        ("pct:50,50,50,50", "max", (150, 100, 150, 100), (150, 100)),
    ],
)
def test_what_only_just_can_be_asked_for(region, size, box, result):
    made = asked(region=region, size=size)
    assert (made.region, made.size) == (box, result)


def test_a_square_of_an_upright_image_is_cut_from_its_middle():
    assert asked("square", full=(200, 300)).region == (0, 50, 200, 200)


def test_an_image_larger_than_an_answer_may_be_is_shrunk_at_max():
    assert asked(full=(16384, 100)).size == (8192, 50)
    assert asked(full=(8192, 100)).size == (8192, 100)


@pytest.mark.parametrize(("side", "factors"), [(512, [1]), (513, [1, 2]), (1024, [1, 2]), (1025, [1, 2, 4])])
def test_tiles_shrink_until_one_holds_the_image(side, factors):
    assert information("id", (side, 10))["tiles"][0]["scaleFactors"] == factors
    assert information("id", (10, side))["tiles"][0]["scaleFactors"] == factors


@given(width=st.integers(1, 40_000), height=st.integers(1, 40_000))
def test_tiles_cover_any_image(width, height):
    tiles = information("id", (width, height))["tiles"][0]
    assert max(width, height) / tiles["scaleFactors"][-1] <= tiles["width"]


def test_the_server_answers_as_a_viewer_expects(client, settings):
    key = "c" * 64
    folder = places.result_path("render", key)
    folder.mkdir(parents=True, exist_ok=True)
    pixels = np.zeros((200, 300, 3), np.uint8)
    pixels[:, 150:] = 250
    Image.fromarray(pixels).save(folder / "view.png")
    info = client.get(f"/iiif/render/{key}/info.json").json()
    assert (info["width"], info["height"], info["profile"]) == (300, 200, "level2")
    assert info["id"].endswith(f"/iiif/render/{key}")
    response = client.get(f"/iiif/render/{key}/100,0,100,200/50,/90/default.png")
    with Image.open(io.BytesIO(response.content)) as image:
        assert image.size == (100, 50)
        shown = np.asarray(image)
    assert shown[10, 50].max() < 10  # the dark left half is on top after the clockwise turn
    assert shown[40, 50].min() > 240
    for words, dark in (
        ("full/max/0", "left"),
        ("full/max/!0", "right"),
        ("full/max/180", "right"),
        ("full/max/!180", "left"),
    ):
        response = client.get(f"/iiif/render/{key}/{words}/gray.png")
        with Image.open(io.BytesIO(response.content)) as image:
            assert (image.mode, image.size) == ("L", (300, 200))
            shown = np.asarray(image)
        assert (shown[100, 10] < 10, shown[100, 290] < 10) == (dark == "left", dark == "right")
    grown = client.get(f"/iiif/render/{key}/140,0,20,20/^40,40/0/bitonal.png")
    with Image.open(io.BytesIO(grown.content)) as image:
        assert image.size == (40, 40)
        assert set(np.unique(np.asarray(image))) == {0, 255}
    assert "immutable" in response.headers["Cache-Control"]
    assert client.get(f"/iiif/render/{key}/full/9,9,9/0/default.jpg").status_code == 400
    assert client.get(f"/iiif/render/{'d' * 64}/info.json").status_code == 404
    assert client.get("/iiif/render/..%2F..%2Fsecret/info.json").status_code == 404


def test_the_address_of_an_image_leads_to_what_is_known_of_it(client):
    """Section 2 of the standard: the base URI redirects to info.json."""
    response = client.get(f"/iiif/render/{'e' * 64}")
    assert (response.status_code, response.headers["Location"]) == (303, f"/iiif/render/{'e' * 64}/info.json")


@pytest.mark.django_db
def test_no_picture_is_decoded_in_the_web_process(client, settings, tmp_path, monkeypatch):
    """Whatever lies in a result's folder: a worker opens it, and one that it takes down is no loss to anybody."""
    settings.DATA = tmp_path
    monkeypatch.setattr(views, "WORKERS", workers := PictureWorkers(1))
    views._size_of.cache_clear()
    monkeypatch.setattr(Image, "open", lambda *_: pytest.fail("a picture was opened in this process"))
    folder = places.result_path("render", "a" * 64)
    folder.mkdir(parents=True)
    address = f"/iiif/render/{'a' * 64}"
    (folder / "view.png").write_bytes(b"no picture")
    broken = client.get(f"{address}/info.json")
    assert (broken.status_code, broken.headers["Content-Type"]) == (503, "text/plain; charset=utf-8")
    (folder / "view.png").write_bytes(cv2.imencode(".png", np.full((30, 40), 200, np.uint8))[1].tobytes())
    assert client.get(f"{address}/info.json").json()["width"] == 40
    part = client.get(f"{address}/0,0,20,10/max/0/default.png").content
    assert cv2.imdecode(np.frombuffer(part, np.uint8), cv2.IMREAD_UNCHANGED).shape[:2] == (10, 20)
    child = workers._workers[0][0]._process
    assert child is not None
    child.kill()
    child.wait()
    assert client.get(f"{address}/0,0,20,10/max/0/default.jpg").status_code == 200
    workers.close()
