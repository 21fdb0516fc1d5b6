"""IIIF Image API 3.0 (iiif.io, version 3.0.0), section 4: the standard's own examples and their borders."""

import io

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from hollowstack.server import store
from hollowstack.server.images.iiif import BadRequest, information, parse

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
        {"quality": "fine"}, {"suffix": "tif"},
    ],
)  # fmt: skip
def test_what_the_standard_does_not_know_is_refused(words):
    with pytest.raises(BadRequest):
        asked(**words)


@given(width=st.integers(1, 40_000), height=st.integers(1, 40_000))
def test_tiles_cover_any_image(width, height):
    tiles = information("id", (width, height))["tiles"][0]
    assert max(width, height) / tiles["scaleFactors"][-1] <= tiles["width"]


def test_the_server_answers_as_a_viewer_expects(client, settings):
    key = "c" * 64
    folder = store.result_path("render", key)
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
    assert "immutable" in response.headers["Cache-Control"]
    assert client.get(f"/iiif/render/{key}/full/9,9,9/0/default.jpg").status_code == 400
    assert client.get(f"/iiif/render/{'d' * 64}/info.json").status_code == 404
    assert client.get("/iiif/render/..%2F..%2Fsecret/info.json").status_code == 404
