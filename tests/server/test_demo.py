"""The demo: boxes in the middle of their work, made once however often it is asked for."""

import socket

import pytest
from django.contrib.auth import get_user_model
from django.core.management import CommandError, call_command
from PIL import Image

from hollowstack.server.capture.models import OrderSlip, Run
from hollowstack.server.capture.slips import bind_what_is_ready
from hollowstack.server.stacks.models import Change, Page, Stack, Upload
from tests.server.conftest import signed_in

pytestmark = pytest.mark.django_db
FILES = ("01 letter 1a.jpg", "02 log 157.jpg", "02 log 158.jpg", "03 invoice.png", "07 log 161.jpg")


@pytest.fixture
def folder(tmp_path):
    made = tmp_path / "pages"
    made.mkdir()
    for shade, name in enumerate(FILES):
        Image.new("L", (60, 80), 200 + shade).save(made / name)
    (made / ".truth.json").write_text("{}")
    return made


@pytest.mark.usefixtures("folder")
def test_two_boxes_of_which_one_waits_for_hands(folder):
    for _ in range(2):
        call_command("demo", str(folder))
    logs, box = Stack.objects.order_by("pk")
    assert [page.source.name for page in Page.objects.filter(stack=logs)] == ["02 log 157.jpg", "02 log 158.jpg"]
    pages = list(Page.objects.filter(stack=box))
    assert [page.source.name for page in pages] == list(FILES)
    assert [page.breaks for page in pages] == [False, True, False, True, False]
    assert [bool(page.rescan) for page in pages] == [False, False, False, False, True]
    assert Upload.objects.get().name == "10 letter 5a.jpg"
    told = signed_in("visitor", "skerry-light").get("/api/v1/stacks").json()["stacks"]
    waits = {row["name"]: row["waits"] for row in told}
    assert waits[box.name]["expected"] == 1
    assert {change.by.get_username() for change in Change.objects.filter(stack=box)} == {"keeper", "mender", "auditor"}


def test_the_small_box_is_bound_by_itself(folder):
    call_command("demo", str(folder))
    run = Run.objects.get()
    assert (run.state, run.bind_as, run.received) == ("done", "Watch logs, June 1927", 2)
    bind_what_is_ready()
    assert Run.objects.get().bind_as  # its pages are not worked through yet


def test_order_slips_for_stations_that_are_started_for_a_moment(folder):
    with socket.socket() as one, socket.socket() as two, socket.socket() as three:
        for probe in (one, two, three):
            probe.bind(("127.0.0.1", 0))
        ports = [probe.getsockname()[1] for probe in (one, two, three)]
    call_command("demo", str(folder), "--stations", *map(str, ports))
    slips = {slip.name: slip for slip in OrderSlip.objects.all()}
    assert set(slips) == {"Letters, both sides", "Log book, page by page"}
    assert slips["Letters, both sides"].settings["two_sided"]
    with socket.socket() as probe:
        assert probe.connect_ex(("127.0.0.1", ports[0])) != 0  # ended again


def test_an_empty_folder_gives_an_empty_stack(tmp_path):
    call_command("demo", str(tmp_path), "--name", "Empty box")
    assert Stack.objects.get().name == "Empty box"
    assert not Page.objects.exists()


def test_a_folder_with_people_of_its_own_is_left_alone(folder):
    get_user_model().objects.create_user("somebody", password="x")
    with pytest.raises(CommandError, match="people of its own"):
        call_command("demo", str(folder))
    assert not Stack.objects.exists()
