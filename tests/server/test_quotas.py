"""How much may come: by stack, by person, by size and by kind; told before it is reached, and refused in one sentence."""

import io
import zipfile

import pytest

from hollowstack.server.capture import runs
from hollowstack.server.capture.models import Station
from hollowstack.server.capture.settings import CaptureSettings
from hollowstack.server.errors import OverQuota
from hollowstack.server.intake import archives, batches, quotas
from hollowstack.server.intake.quotas import Quota, quotas_of, require_quota
from hollowstack.server.stacks.models import Batch, Page, Source, Upload
from hollowstack.server.storage.spools import spooled
from tests.server.conftest import answer, sha
from tests.server.test_uploads import DATA, announce, patch, take_in


@pytest.fixture
def small(settings, monkeypatch):
    """Quotas of some thousand bytes."""
    monkeypatch.setattr(quotas, "_GB", 1000)
    settings.STACK_GB, settings.PERSON_GB = 10, 15
    return settings


def held(stack, user, count: int) -> None:
    batch = batches.open_batch(stack.pk, user)
    for number in range(count):
        batches.add_file(batch.pk, batches.Coming(number, f"{number}.jpg", sha(500 + number), 1000))


def test_without_quotas_nothing_is_counted(settings, stack, user):
    settings.STACK_GB = settings.PERSON_GB = 0
    held(stack, user, 1)
    assert quotas_of(stack.pk, user.pk) == []
    require_quota(stack.pk, user.pk, 10**18)


def test_what_is_in_and_what_was_announced_counts(small, client, stack, user):
    held(stack, user, 4)
    announce(client, stack, ("a.jpg", 2500))
    assert quotas_of(stack.pk, user.pk) == [Quota("stack", 6500, 10_000), Quota("person", 6500, 15_000)]
    told = client.get(f"/api/v1/stacks/{stack.pk}/quotas").json()
    assert told[0] == {"whose": "stack", "used": 6500, "most": 10_000}


@pytest.mark.parametrize(("more", "refused"), [(6000, False), (6001, True)])
def test_a_stack_takes_what_it_may_hold_and_no_byte_more(small, client, stack, user, more, refused):
    held(stack, user, 4)
    response = announce(client, stack, ("a.jpg", more))
    assert (response.status_code == 413) == refused
    if refused:
        assert answer(response)["code"] == "over-quota"
        assert answer(response)["detail"] == "This stack may hold 10 GB, and 6.00 GB of that are left: begin another stack."
    assert Upload.objects.count() == (0 if refused else 1)
    assert Batch.objects.count() == (1 if refused else 2)  # nothing in the history of what was refused


def test_a_person_may_fill_several_stacks_and_no_more(small, stack, user):
    other = type(stack).objects.create(name="Other", treatment=stack.treatment)
    held(stack, user, 9)
    held(other, user, 6)
    with pytest.raises(OverQuota, match=r"What you add may come to 15 GB, and 0\.00 GB are left"):
        require_quota(other.pk, user.pk, 1)
    require_quota(other.pk, None, 1)  # as what nobody in particular brings in


def test_a_file_that_is_put_is_refused_before_it_is_read(small, client, stack, user):
    held(stack, user, 10)
    batch = Batch.objects.get(stack=stack)
    response = client.put(f"/api/v1/batches/{batch.pk}/files/40?name=a.jpg", DATA, content_type="image/jpeg")
    assert (response.status_code, answer(response)["code"]) == (413, "over-quota")


def test_what_is_in_an_archive_counts_too_and_what_is_in_stays(small, stack, user, monkeypatch):
    monkeypatch.setattr(archives, "_AT_ONCE", 2)
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for number in range(6):
            archive.writestr(f"{number}.jpg", b"\xff\xd8\xff" + bytes([number]) * 2000)
    batch = batches.open_batch(stack.pk, user)
    packed.seek(0)
    with spooled(packed) as spool, pytest.raises(OverQuota):
        archives.take_in(batch.pk, 0, "box.zip", spool, again=False)
    assert Source.objects.filter(batch=batch).count() == 4
    # Taken in again, as after a break, what is in is not counted a second time.
    small.STACK_GB = 13
    packed.seek(0)
    with spooled(packed) as spool:
        pages, left_out = archives.take_in(batch.pk, 0, "box.zip", spool, again=False)
    assert (len(pages), left_out) == (6, [])


def test_an_archive_in_the_place_of_a_page_puts_its_first_file_there(stack, user, pages):
    """The others come behind, as they would anywhere else."""
    (page,) = pages(1)
    batch = batches.open_batch(stack.pk, user, record={"instead": page.pk})
    coming = [batches.Coming(0, f"{part}.jpg", sha(700 + part), 10, part) for part in range(3)]
    added = batches.add_files(batch.pk, coming, again=True)
    assert [type(one) for one in added] == [Page] * 3
    assert added[0].pk == page.pk
    assert stack.pages.filter(removed=False).count() == 3


def test_nothing_is_captured_into_a_full_stack(small, stack, user):
    held(stack, user, 10)
    station = Station.objects.create(name="Glass", address="http://192.0.2.1", capabilities={})
    with pytest.raises(OverQuota):
        runs.start(stack.pk, station.pk, CaptureSettings(source="feeder"), user)


def test_what_is_no_image_is_refused_before_it_is_kept(client, stack, settings, tmp_path):
    settings.DATA = tmp_path
    text = b"These are notes, and no scan."
    upload = answer(announce(client, stack, ("notes.jpg", len(text))))[0]["id"]
    patch(client, upload, text, 0)
    response = take_in(client, upload)
    assert (response.status_code, "not an image or PDF" in answer(response)["detail"]) == (422, True)
    assert Page.objects.count() == 0
    assert Upload.objects.count() == 1  # it can be left out, and nothing of it was lost
    assert not list(tmp_path.glob("masters/*/*"))
