"""Corrections by hand, what a page would look like, and one size for all pages."""

import io
import json
from email import message_from_bytes

import numpy as np
import pytest
from PIL import Image

from hollowstack.core.page.geometry import Quad
from hollowstack.server.engine.recording import Outcome, record
from hollowstack.server.errors import Refused
from hollowstack.server.stacks import history
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.storage import places
from tests.core.test_calibrate import CORNERS, captured_target, patch_text, target
from tests.server.conftest import MEASURED, walk
from tests.server.test_arranging import hand, post

TONE = {"adjust": {"gamma": 1.5}}


@pytest.fixture
def three(pages):
    return [walk(page) for page in pages(3)]


@pytest.fixture
def pictured(three):
    """The first page with the picture that measuring leaves."""
    folder = places.result_path("measure", three[0].measured_id)
    folder.mkdir(parents=True, exist_ok=True)
    light = np.full((1400, 1000), 236, np.uint8)
    light[100:1300:40, 100:900] = 40
    Image.fromarray(light).save(folder / "view.jpg", quality=92)
    return three[0]


def look(client, page, **asked):
    return with_picture(client.post(f"/api/v1/pages/{page.pk}/preview", asked, content_type="application/json"), "preview")


def with_picture(response, name):
    if response.status_code != 200:
        return response.status_code, response.json()
    # Read by the standard library, as a reader of its own.
    parts = message_from_bytes(
        b"Content-Type: " + response.headers["Content-Type"].encode() + b"\r\n\r\n" + response.content
    )
    told, picture = parts.get_payload()
    assert [part.get_param("name", header="Content-Disposition") for part in (told, picture)] == [name, "picture"]
    return 200, {**json.loads(told.get_payload()), "picture": picture.get_payload(decode=True)}


def test_corrections_are_set_added_to_and_taken_back(stack, three):
    ids = [page.pk for page in three]
    hand(stack).correct(ids[:2], {"skew": 1.5})
    hand(stack).correct(ids[:1], TONE)
    first, second, third = Page.objects.filter(stack=stack)
    assert (first.override["skew"], first.override["adjust"]["gamma"]) == (1.5, 1.5)
    assert first.plan["skew_deg"] == second.plan["skew_deg"] == 1.5
    assert third.override == {}
    hand(stack).correct(ids[:1], {"skew": None})
    assert "skew" not in Page.objects.get(pk=ids[0]).override
    assert Page.objects.get(pk=ids[0]).plan["skew_deg"] == 0.8


def test_a_correction_leaves_where_the_page_belongs(stack, three):
    hand(stack).aside([three[0].pk], True, "duplicate")
    hand(stack).correct([three[0].pk], {"skew": 1.0})
    hand(stack).correct([three[0].pk], {"skew": None})
    assert Page.objects.get(pk=three[0].pk).override == {"aside": True, "reason": "duplicate"}


def test_undone_and_done_again(stack, three):
    was = three[0].rendered_id
    change = hand(stack).correct([page.pk for page in three], TONE)
    assert change.what == "Set tone of 3 pages"
    assert Page.objects.get(pk=three[0].pk).rendered_id != was
    history.undo(stack.pk, change.pk)
    assert Page.objects.get(pk=three[0].pk).rendered_id == was
    history.redo(stack.pk, change.pk)
    assert Page.objects.get(pk=three[0].pk).override["adjust"]["gamma"] == 1.5


def test_only_what_is_sent_is_set(client, stack, three):
    post(client, stack, do="correct", pages=[three[0].pk], correction={"clear": False})
    response = post(client, stack, do="correct", pages=[three[0].pk], correction={"crop": False})
    assert response.json()["what"] == "Set crop of 1 page"
    row = client.get(f"/api/v1/stacks/{stack.pk}/pages").json()["pages"][0]
    assert row["own"] == ["crop", "clear"]
    assert row["origin"] == "file"


@pytest.mark.parametrize("wish", [{"skew": 90}, {"adjust": {"white": 3}}, {"quad": [[0, 0]]}, {"nothing": 1}])
def test_nonsense_is_refused_and_changes_nothing(client, stack, three, wish):
    assert post(client, stack, do="correct", pages=[three[0].pk], correction=wish).status_code == 422
    assert Page.objects.get(pk=three[0].pk).override == {}


def test_an_empty_wish_or_an_unmeasured_page_is_refused(stack, pages, three):
    with pytest.raises(Refused, match="Nothing was set"):
        hand(stack).correct([three[0].pk], {})
    with pytest.raises(Refused, match="not been measured"):
        hand(stack).correct([pages(1)[0].pk], TONE)


def test_a_preview_shows_what_would_be_and_keeps_nothing(client, pictured):
    status, plain = look(client, pictured, longest=700)
    assert status == 200
    status, tilted = look(client, pictured, correction={"skew": 3.0, "colour": "grey"}, longest=700)
    assert (plain["plan"]["skew_deg"], tilted["plan"]["skew_deg"]) == (0.8, 3.0)
    assert tilted["px"] == [500, 700]
    picture = Image.open(io.BytesIO(tilted["picture"]))
    assert picture.size == (500, 700)
    assert sum(plain["histogram"]) == pytest.approx(1, abs=1e-3)
    assert Page.objects.get(pk=pictured.pk).override == {}


def test_a_preview_by_another_treatment(client, pictured):
    shipped = {t["name"]: t for t in client.get("/api/v1/treatments").json()}
    assert "bound volume" in shipped
    status, made = look(client, pictured, treatment={"schema": "hollowstack.treatment/1", "name": "x", "level": False})
    assert status == 200
    assert made["plan"]["skew_deg"] == 0


def test_a_preview_with_the_split_line_elsewhere(client, stack, pictured):
    wide = look(client, pictured, longest=700)[1]["plan"]["size_px"][0]
    elsewhere = {"start": [wide / 4, 0], "end": [wide / 4, 1400]}
    assert look(client, pictured, split=elsewhere, longest=700)[1]["plan"]["size_px"][0] == wide
    post(client, stack, do="split", page=pictured.pk, start=[wide / 2, 0], end=[wide / 2, 1400])
    half = look(client, pictured, longest=700)[1]["plan"]["size_px"][0]
    quarter = look(client, pictured, split=elsewhere, longest=700)[1]["plan"]["size_px"][0]
    assert quarter < 0.7 * half < 0.5 * wide


def test_a_preview_of_what_is_not_there_yet(client, pages, three):
    status, answer = look(client, pages(1)[0])
    assert status == 422
    assert "not been measured" in answer["detail"]
    status, answer = look(client, three[1])  # measured, but its picture is gone
    assert "is missing" in answer["detail"]
    assert client.post("/api/v1/pages/99999/preview", {}, content_type="application/json").status_code == 404


def difference(client, page):
    return with_picture(client.get(f"/api/v1/pages/{page.pk}/difference"), "difference")


def test_what_went_and_came_is_told_with_a_picture(client, pictured):
    """Its clean page has lost its last line, and has a blot."""
    folder = places.result_path("render", pictured.rendered_id)
    folder.mkdir(parents=True, exist_ok=True)
    light = np.full((1400, 1000), 236, np.uint8)
    light[100:1240:40, 100:900] = 40
    light[1320:1360, 400:440] = 40
    Image.fromarray(light).save(folder / "view.jpg", quality=92)
    whole = {"quad": [[0, 0], [1000, 0], [1000, 1400], [0, 1400]], "size_px": [1000, 1400], "clear_outside": None}
    pictured.plan = {**pictured.plan, **whole, "skew_deg": 0.0}
    pictured.save()
    status, told = difference(client, pictured)
    assert status == 200
    assert told["went"]
    assert all(1180 <= box[1] <= 1300 for box in told["went"])
    assert any(380 <= box[0] <= 400 and 1300 <= box[1] <= 1320 for box in told["came"])
    assert list(Image.open(io.BytesIO(told["picture"])).size) == told["px"]


def test_a_difference_of_what_is_not_there_yet(client, pages, three):
    status, answer = difference(client, pages(1)[0])
    assert (status, answer["detail"]) == (422, "This page has no clean page yet: wait until it is made.")
    assert client.get("/api/v1/pages/99999/difference").status_code == 404


def test_a_page_that_changed_meanwhile_is_a_conflict(client, stack, three):
    seen = Stack.objects.get(pk=stack.pk).change
    Arranging(stack.pk, None, seen).correct([three[0].pk], TONE)
    assert post(client, stack, do="correct", pages=[three[0].pk], correction={"skew": 1}, seen=seen).status_code == 409


@pytest.fixture
def target_page(stack, three):
    """A page that shows a colour target, its corners set to those of the patches."""
    image = captured_target()
    size = (image.width, image.height)
    whole = Quad.rectangle(0, 0, *size)
    record([Outcome("measure", three[2].measured_id, {"measurements": {**MEASURED, "size_px": size, "page_quad": whole,
                                                                  "bright_quad": whole, "colour": "colour", "paper": [230, 230, 230]}})])  # fmt: skip
    folder = places.result_path("measure", three[2].measured_id)
    folder.mkdir(parents=True, exist_ok=True)
    Image.fromarray(image.pixels).save(folder / "view.jpg", quality=95, subsampling=0)
    hand(stack).correct([three[2].pk], {"quad": CORNERS})
    return three[2]


def calibrated(client, page, patches):
    response = client.post(
        f"/api/v1/pages/{page.pk}/calibration", {"patches": patches, "name": "Glass A4"}, content_type="application/json"
    )
    return response.status_code, response.json()


def test_a_target_calibrates_a_treatment(client, target_page):
    status, made = calibrated(client, target_page, patch_text(target().lab))
    assert status == 200
    assert made["after"][0] < 1 < made["before"][0]
    settings = client.get("/api/v1/treatments/settings?name=pictures").json()
    saved = client.post("/api/v1/treatments", {**settings, "calibration": made}, content_type="application/json").json()
    assert saved["version"] == 1
    kept = client.get("/api/v1/treatments/settings?name=pictures").json()
    assert kept["calibration"] == made
    status, shown = look(client, target_page, treatment=kept)
    assert status == 200
    assert shown["plan"]["icc"] == made["icc"]


def test_what_is_no_target_is_refused_in_words(client, target_page, three):
    assert calibrated(client, target_page, "hello")[1]["detail"].startswith("This is no patch file")
    status, answer = calibrated(client, three[1], patch_text(target().lab))
    assert status == 422
    assert "is missing" in answer["detail"]


def shape(width: int, text: int) -> dict:
    whole = Quad.rectangle(0, 0, width, 1400)
    return {"size_px": (width, 1400), "page_quad": whole, "bright_quad": whole, "skew_deg": 0.0,
            "text_quad": Quad.rectangle(text, 200, text + 600, 1200)}  # fmt: skip


def uniform(stack) -> None:
    settings = Stack.objects.get(pk=stack.pk).treatment
    Stack.objects.filter(pk=stack.pk).update(treatment={**settings, "page_size": "uniform"})


def test_uniform_pages_get_one_size_once_all_are_measured(stack, pages):
    uniform(stack)
    made = pages(5)
    for number, page in enumerate(made[:-1]):
        walk(page, until="measure", **shape(990 + 5 * number, 100 if number % 2 == 0 else 150))
    assert {Page.objects.get(pk=page.pk).plan["size_px"][0] for page in made[:-1]} == {990, 995, 1000, 1005}
    walk(made[-1], until="measure", **shape(1010, 100))
    plans = [Page.objects.get(pk=page.pk).plan for page in made]
    assert len({tuple(plan["size_px"]) for plan in plans}) == 1
    # Rectos have their text at one place, versos at theirs.
    assert [round(100 - plan["quad"][0][0]) for plan in plans[0::2]] == [100] * 3
    assert [round(150 - plan["quad"][0][0]) for plan in plans[1::2]] == [150] * 2


def test_moved_pages_change_sides(stack, pages):
    uniform(stack)
    made = [walk(page, until="measure", **shape(1000, 100 + 50 * (number % 2))) for number, page in enumerate(pages(4))]
    hand(stack).move([made[0].pk], made[1].pk)
    first = Page.objects.filter(stack=stack, removed=False).first()
    assert first.pk == made[1].pk
    assert Stack.objects.get(pk=stack.pk).page_group["recto"]["text_left_mm"] == pytest.approx(125 / 300 * 25.4, abs=0.1)


def test_a_treatment_of_ones_own_that_was_taken_back_can_be_brought_back(client):
    settings = client.get("/api/v1/treatments/settings?name=everyday").json()
    json = {"content_type": "application/json"}
    client.post("/api/v1/treatments", {**settings, "name": "Ledgers"}, **json)
    taken = client.post("/api/v1/treatments/take-back", {"name": "Ledgers", "version": 1}, **json).json()
    assert (taken["offered"], taken["version"]) == (False, 1)
    assert client.get("/api/v1/treatments").json()[-1]["name"] == "Ledgers"
    back = client.post("/api/v1/treatments/bring-back", {"name": "Ledgers", "version": 1}, **json).json()
    assert back["offered"]
