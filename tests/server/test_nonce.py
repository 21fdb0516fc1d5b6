"""A change that comes again because its answer was lost is done once."""

import pytest

from hollowstack.server.stacks.models import Change, Page, Stack

pytestmark = pytest.mark.django_db
NONCE = "b3c1a5f0-7d34-4b53-9a51-2f4cc08c7f11"


def turn(client, stack, page, **more):
    doing = {"do": "break", "pages": [page.pk], "on": True}
    seen = Stack.objects.get(pk=stack.pk).change
    return client.post(
        f"/api/v1/stacks/{stack.pk}/changes", {"seen": seen, "doing": doing, **more}, content_type="application/json"
    )


def test_a_change_that_comes_again_is_answered_and_not_done_again(client, stack, pages):
    (page,) = pages(1)
    first = turn(client, stack, page, nonce=NONCE)
    count = Stack.objects.get(pk=stack.pk).change
    again = turn(client, stack, page, nonce=NONCE, seen=0)
    assert (first.status_code, again.status_code) == (200, 200)
    assert first.json()["id"] == again.json()["id"]
    assert again.json()["count"] == count == Stack.objects.get(pk=stack.pk).change
    assert Change.objects.filter(stack=stack, batch=None).count() == 1


def test_without_a_nonce_or_with_another_it_is_another_change(client, stack, pages):
    (page,) = pages(1)
    for more in ({}, {}, {"nonce": NONCE}, {"nonce": NONCE.upper()}):
        assert turn(client, stack, page, **more).status_code == 200
    assert Change.objects.filter(stack=stack, batch=None).count() == 4


def test_a_change_that_is_refused_leaves_its_nonce_free(client, stack, pages):
    (page,) = pages(1)
    turn(client, stack, page)
    assert turn(client, stack, page, nonce=NONCE, seen=0).status_code == 409
    assert turn(client, stack, page, nonce=NONCE).status_code == 200


def test_the_count_is_one_by_which_the_list_shows_the_change(client, stack, pages):
    (page,) = pages(1)
    count = turn(client, stack, page).json()["count"]
    told = client.get(f"/api/v1/stacks/{stack.pk}/pages?since=0").json()
    assert told["change"] >= count
    assert Page.objects.get(pk=page.pk).change <= count


@pytest.mark.parametrize("way", ["undo", "redo"])
def test_undone_and_done_again_once_however_often_it_is_asked(client, stack, pages, way):
    (page,) = pages(1)
    change = turn(client, stack, page).json()["id"]
    ways = ["undo", "redo"][: 1 + (way == "redo")]
    for one in ways:
        client.post(f"/api/v1/stacks/{stack.pk}/changes/{change}/{one}", {}, content_type="application/json")
    count = Stack.objects.get(pk=stack.pk).change
    again = client.post(f"/api/v1/stacks/{stack.pk}/changes/{change}/{way}", {}, content_type="application/json")
    assert again.status_code == 200
    assert Stack.objects.get(pk=stack.pk).change == count
    assert Page.objects.get(pk=page.pk).breaks is (way == "redo")
