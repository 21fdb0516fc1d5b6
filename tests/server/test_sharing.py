"""Links to documents for people without an account: what they let people do, when they end, who used them."""

import asyncio
import io
from datetime import timedelta
from typing import Any
from urllib.parse import urlencode

import numpy as np
import pypdfium2 as pdfium
import pytest
from django.test import Client
from django.utils import timezone
from PIL import Image

from hollowstack.server.accounts.models import Entry
from hollowstack.server.dispatch import courier
from hollowstack.server.dispatch.deliveries import LINK_DAYS
from hollowstack.server.documents.drafts import DraftChange, change_draft, draft_of
from hollowstack.server.documents.models import Document
from hollowstack.server.documents.services import ask_to_bind, delete_document
from hollowstack.server.errors import Refused
from hollowstack.server.sharing import links
from hollowstack.server.sharing.models import Share
from hollowstack.server.stacks.models import Page, Stack
from tests.server.conftest import answer
from tests.server.dispatching import allowed, bind, destination, document
from tests.server.readings import box_of, written
from tests.server.receivers import nothing_goes_wrong, receivers

__all__ = ["allowed", "nothing_goes_wrong", "receivers", "written"]
JSON = "application/json"
PASSWORD = "lamp on the rock"


@pytest.fixture
def pdf() -> bytes:
    """Two pages, the second of which is dark."""
    made, buffer = pdfium.PdfDocument.new(), io.BytesIO()
    for tone in (250, 20):
        page = made.new_page(300, 400)
        image = pdfium.PdfImage.new(made)
        picture = Image.fromarray(np.full((40, 30), tone, np.uint8)).convert("RGB")
        image.set_bitmap(pdfium.PdfBitmap.from_pil(picture))
        image.set_matrix(pdfium.PdfMatrix().scale(300, 400))
        page.insert_obj(image)
        page.gen_content()
    made.save(buffer)
    return buffer.getvalue()


@pytest.fixture
def letters(stack: Any, pdf: bytes) -> Any:
    return document(stack, data=pdf)


@pytest.fixture
def stranger() -> Client:
    return Client()


def given(client: Client, letters: Any, **said: Any) -> dict[str, Any]:
    response = client.post(f"/api/v1/documents/{letters.pk}/shares", {"right": "look", **said}, JSON)
    assert response.status_code == 201, response.content
    found: dict[str, Any] = response.json()
    return found


def secret(share: dict[str, Any]) -> str:
    return str(share["address"].rpartition("/")[2])


def opened(stranger: Client, share: dict[str, Any], password: str = "") -> Any:
    return stranger.post(f"/api/v1/shared/{secret(share)}/visits", {"password": password}, JSON)


async def _whole(response: Any) -> bytes:
    return b"".join([piece async for piece in response.streaming_content])


def page(stranger: Client, share: dict[str, Any], visit: str, number: int = 1) -> Any:
    return stranger.get(f"/api/v1/shared/{secret(share)}/pages/{number}", {"visit": visit})


def test_a_stranger_looks_at_pages_and_takes_nothing(client, stranger, letters):
    share = given(client, letters, whom="  The   reading room ")
    assert stranger.get(f"/api/v1/shared/{secret(share)}").json() == {"asks_password": False}
    told = opened(stranger, share).json()
    assert (told["title"], told["by"], told["pages"], told["may_take"]) == ("Letters", "keeper", 2, False)
    tones = []
    for number in (1, 2):
        response = page(stranger, share, told["visit"], number)
        assert response["Content-Type"] == "image/webp"
        picture = Image.open(io.BytesIO(response.content))
        assert max(picture.size) == 1800
        tones.append(int(np.asarray(picture.convert("L")).mean()))
    assert tones[0] > 240
    assert tones[1] < 30
    refused = stranger.get(f"/api/v1/shared/{secret(share)}/file", {"visit": told["visit"]})
    assert refused.status_code == 422
    assert "for looking" in answer(refused)["detail"]
    (told,) = client.get(f"/api/v1/stacks/{letters.stack_id}/shares").json()
    assert (told["opened"], told["taken"], told["whom"]) == (1, 0, "The reading room")


@pytest.mark.parametrize("number", [0, 3])
def test_pages_that_are_not_there(client, stranger, letters, number):
    share = given(client, letters)
    visit = opened(stranger, share).json()["visit"]
    assert page(stranger, share, visit, number).status_code == 422


def test_a_file_is_taken_and_counted(client, stranger, letters, pdf):
    share = given(client, letters, right="take")
    visit = opened(stranger, share).json()["visit"]
    response = stranger.get(f"/api/v1/shared/{secret(share)}/file", {"visit": visit})
    assert asyncio.run(_whole(response)) == pdf
    (told,) = client.get(f"/api/v1/stacks/{letters.stack_id}/shares").json()
    assert [use["what"] for use in told["uses"]] == ["taken", "opened"]
    assert told["taken"] == 1


def test_a_link_cannot_be_made_up_nor_a_pass_carried_to_another(client, stranger, letters, stack, pdf):
    share = given(client, letters)
    other = given(client, document(stack, 2, "Others", pdf))
    made_up = f"{share['id']}.{secret(other).partition('.')[2]}"
    assert stranger.get(f"/api/v1/shared/{made_up}").status_code == 404
    assert stranger.get("/api/v1/shared/x").status_code == 404
    visit = opened(stranger, share).json()["visit"]
    assert page(stranger, share, visit).status_code == 200
    for wrong in (
        opened(stranger, other).json()["visit"],
        "",
        secret(share),
        visit[:-1] + ("a" if visit[-1] != "a" else "b"),
    ):
        assert page(stranger, share, wrong).status_code == 422


def test_a_pass_lasts_so_long(client, stranger, letters, monkeypatch):
    share = given(client, letters)
    visit = opened(stranger, share).json()["visit"]
    monkeypatch.setattr(links, "LASTS", timedelta(seconds=-1))
    refused = page(stranger, share, visit)
    assert refused.status_code == 422
    assert "too long ago" in answer(refused)["detail"]


def test_a_password_is_asked_for_and_not_kept_in_words(client, stranger, letters):
    share = given(client, letters, password=PASSWORD)
    assert share["has_password"]
    assert PASSWORD not in Share.objects.get().password
    assert stranger.get(f"/api/v1/shared/{secret(share)}").json() == {"asks_password": True}
    assert "asks for a password" in answer(opened(stranger, share))["detail"]
    wrong = opened(stranger, share, "another one")
    assert (wrong.status_code, answer(wrong)["detail"]) == (422, "The password is not right: try again.")
    assert opened(stranger, share, PASSWORD).status_code == 201
    assert (
        client.post(f"/api/v1/documents/{letters.pk}/shares", {"right": "look", "password": "short"}, JSON).status_code
        == 422
    )


def test_after_ten_wrong_passwords_none_is_looked_at_for_an_hour(client, stranger, letters):
    share = given(client, letters, password=PASSWORD)
    for _ in range(9):
        opened(stranger, share, "wrong password")
    assert opened(stranger, share, PASSWORD).status_code == 201  # and the count begins anew
    opened(stranger, share, "wrong password")
    assert opened(stranger, share, PASSWORD).status_code == 201
    for _ in range(10):
        opened(stranger, share, "wrong password")
    closed = opened(stranger, share, PASSWORD)
    assert closed.status_code == 422
    assert "in an hour" in answer(closed)["detail"]
    Share.objects.update(wrong_at=timezone.now() - timedelta(hours=1, seconds=1))
    assert opened(stranger, share, PASSWORD).status_code == 201


def test_a_link_ends_behind_its_last_day(client, stranger, letters):
    today = timezone.localdate()
    share = given(client, letters, last_day=today.isoformat())
    kept = Share.objects.get()
    assert timezone.localtime(kept.ends_at).date() == today + timedelta(days=1)
    visit = opened(stranger, share).json()["visit"]
    Share.objects.update(ends_at=timezone.now())
    assert "has ended" in answer(opened(stranger, share))["detail"]
    assert page(stranger, share, visit).status_code == 422
    (told,) = client.get(f"/api/v1/stacks/{letters.stack_id}/shares").json()
    assert told["ended"]
    with pytest.raises(Refused, match="ended already"):
        links.make(letters, None, Share.Lets.LOOK, last_day=today - timedelta(days=1))


def test_a_link_is_withdrawn_by_its_giver(client, stranger, letters):
    share = given(client, letters)
    visit = opened(stranger, share).json()["visit"]
    assert client.delete(f"/api/v1/shares/{share['id']}").status_code == 204
    assert "was withdrawn" in answer(opened(stranger, share))["detail"]
    assert page(stranger, share, visit).status_code == 422
    assert client.delete(f"/api/v1/shares/{share['id']}").status_code == 204
    assert list(Entry.objects.order_by("-pk").values_list("what", flat=True)[:2]) == ["link withdrawn", "link given"]
    assert client.delete("/api/v1/shares/999").status_code == 404


def test_nothing_is_shown_of_what_is_in_the_bin(client, stranger, letters, user):
    share = given(client, letters)
    delete_document(letters.pk, user)
    assert "no longer here" in answer(opened(stranger, share))["detail"]
    assert client.get(f"/api/v1/stacks/{letters.stack_id}/shares").json() == []


def test_what_cannot_be_shown_in_a_browser_has_no_pages(client, stranger, stack):
    share = given(client, document(stack, data=b"%PDF-1.7 broken"))
    told = opened(stranger, share).json()
    assert told["pages"] == 0
    assert page(stranger, share, told["visit"]).status_code == 422


def test_what_is_still_being_bound_is_waited_for(client, stranger, stack):
    share = given(client, document(stack, data=None))
    waits = opened(stranger, share)
    assert waits.status_code == 422
    assert "not ready yet" in answer(waits)["detail"]


def test_a_link_goes_by_mail_in_the_place_of_what_is_too_large(client, stranger, letters, receivers):
    place, secret_of_place = receivers.places["mail"]
    to = destination(receivers, "mail", place={**place, "limit_mb": 0.001}, secret=secret_of_place)
    message = {"recipients": ["keeper@skerry.example.org"], "subject": "{title}", "text": "Here it is.", "link": True}
    ahead = client.post(
        "/api/v1/dispatches/preview", {"destination": to.pk, "documents": [letters.pk], "message": message}, JSON
    ).json()["rows"][0]
    assert ahead["problem"] == ""
    assert "(here the link stands)\nThe link leads to the file until" in ahead["text"]
    without = {**message, "link": False}
    told = client.post(
        "/api/v1/dispatches/preview", {"destination": to.pk, "documents": [letters.pk], "message": without}, JSON
    ).json()["rows"][0]
    assert told["problem"].endswith("send a link in its place, or an access copy.")
    assert not Share.objects.exists()  # looking makes none
    asked = {"documents": [letters.pk], "destinations": [to.pk], "messages": {to.pk: message}}
    (made,) = client.post("/api/v1/dispatches", asked, JSON).json()
    before = len(receivers.mail.mails)
    courier.carry(made["id"])
    (mail,) = receivers.mail.mails[before:]
    assert not mail.message.is_multipart()
    text = mail.message.get_payload(decode=True).decode()
    address = next(line for line in text.splitlines() if line.startswith("http://testserver/shared/"))
    share = Share.objects.get()
    assert (share.right, share.whom) == ("take", "keeper@skerry.example.org")
    assert timezone.localtime(share.ends_at).date() == timezone.localdate() + timedelta(days=LINK_DAYS + 1)
    assert opened(stranger, {"address": address}).status_code == 201


def test_addresses_that_were_written_to_are_offered_and_papers_may_go(client, letters, receivers, stack):
    to = destination(receivers, "mail")
    message = {"recipients": ["b@skerry.example.org", "a@skerry.example.org"], "subject": "x", "text": "y"}
    asked = {"documents": [letters.pk], "destinations": [to.pk], "messages": {to.pk: message}}
    client.post("/api/v1/dispatches", asked, JSON)
    assert client.get("/api/v1/recipients").json() == ["b@skerry.example.org", "a@skerry.example.org"]

    def papers() -> Any:
        return client.get(f"/api/v1/stacks/{stack.pk}/papers").json()

    assert papers()["may"] is None
    client.patch(f"/api/v1/stacks/{stack.pk}", {"original": {"after": "destroyed"}}, JSON)
    assert (papers()["may"], "proven to lie elsewhere" in papers()["said"]) == (False, True)
    folder = destination(receivers, "folder", pattern="papers {title}")
    asked = {"documents": [letters.pk], "destinations": [folder.pk]}
    (made,) = client.post("/api/v1/dispatches", asked, JSON).json()
    courier.carry(made["id"])
    assert papers()["said"] == "The papers may not be destroyed yet: nobody has signed for the stack."
    Stack.objects.filter(pk=stack.pk).update(signed_at=timezone.now())
    assert papers()["may"] is True


class TestMending:
    """A link may let people put words and descriptions right: as a change of the stack, told and undone like any other."""

    @pytest.fixture
    def bound(self, stack: Any, written: Any, user: Any, pdf: bytes) -> Any:
        written(["Dear", ("Macleine", 0.6, "Maclaine")], ["Second"])
        (made,) = ask_to_bind(stack.pk, "Letters", user)
        bind(made, pdf)
        return made

    def opened(self, client: Client, stranger: Client, document: Any, **said: Any) -> tuple[str, dict[str, Any]]:
        share = given(client, document, **{"right": "mend", "whom": "the reading room", **said})
        address = f"/api/v1/shared/{share['address'].rsplit('/', 1)[1]}"
        return address, answer(stranger.post(f"{address}/visits", {}, JSON))

    def words(self, stranger: Client, address: str, visit: str, page: int = 1) -> Any:
        return stranger.get(f"{address}/pages/{page}/words", {"visit": visit})

    def mend(self, stranger: Client, address: str, visit: str, **said: Any) -> Any:
        body = {"box": box_of(0, 1), "before": "Macleine", "after": "Maclaine", **said}
        return stranger.post(f"{address}/pages/1/words?{urlencode({'visit': visit})}", body, JSON)

    def test_a_word_is_put_right_and_undone_by_the_house(self, client, stranger, stack, bound):
        address, visit = self.opened(client, stranger, bound)
        assert (visit["may_take"], visit["may_mend"]) == (True, True)
        told = answer(self.words(stranger, address, visit["visit"]))
        assert [[(word["text"], word["unsure"]) for word in line] for line in told["lines"]] == [
            [("Dear", False), ("Macleine", True)]
        ]
        assert self.mend(stranger, address, visit["visit"]).status_code == 204
        (line,) = answer(self.words(stranger, address, visit["visit"]))["lines"]
        assert [(word["text"], word["unsure"]) for word in line][1] == ("Maclaine", False)
        history = answer(client.get(f"/api/v1/stacks/{stack.pk}/changes"))
        what = "Put “Macleine” right: “Maclaine”, by a link for the reading room"
        assert (history["changes"][0]["what"], history["changes"][0]["by"]) == (what, "keeper")
        client.post(f"/api/v1/stacks/{stack.pk}/changes/{history['undo']}/undo")
        (line,) = answer(self.words(stranger, address, visit["visit"]))["lines"]
        assert line[1]["text"] == "Macleine"
        (share,) = answer(client.get(f"/api/v1/stacks/{stack.pk}/shares"))
        assert (share["opened"], share["mended"], share["uses"][0]["what"]) == (1, 1, "mended")

    def test_a_word_that_reads_otherwise_by_now_is_not_written_over(self, client, stranger, bound):
        address, visit = self.opened(client, stranger, bound)
        refused = self.mend(stranger, address, visit["visit"], before="Macleane")
        assert (refused.status_code, "has changed in the meantime" in refused.json()["detail"]) == (409, True)
        assert self.mend(stranger, address, visit["visit"], after=" ").status_code == 422

    @pytest.mark.parametrize("right", ["look", "take"])
    def test_other_links_put_nothing_right(self, client, stranger, bound, right):
        address, visit = self.opened(client, stranger, bound, right=right)
        assert visit["may_mend"] is False
        asked = {"visit": visit["visit"]}
        answers = [
            self.words(stranger, address, visit["visit"]),
            self.mend(stranger, address, visit["visit"]),
            stranger.get(f"{address}/description", asked),
            stranger.put(f"{address}/description?{urlencode(asked)}", {"title": "X", "described": {}}, JSON),
        ]
        assert {one.status_code for one in answers} == {422}
        assert {one.json()["detail"] for one in answers} == {
            "This link is not for putting words right: ask whoever gave it to you."
        }

    def test_without_a_pass_nothing_is_told_or_put_right(self, client, stranger, bound):
        address, _ = self.opened(client, stranger, bound)
        assert self.words(stranger, address, "made up").status_code == 422
        assert self.mend(stranger, address, "made up").status_code == 422

    def test_what_is_said_of_it_is_put_right(self, client, stranger, stack, bound):
        first = bound.pages.get(number=1).page_id
        said = {
            "stack": {"creators": ["The trust"], "rights": "free"},
            "documents": {first: {"described": {"identifier": "SL/27"}}},
        }
        change_draft(stack.pk, DraftChange.model_validate(said))
        address, visit = self.opened(client, stranger, bound)
        asked = {"visit": visit["visit"]}
        told = answer(stranger.get(f"{address}/description", asked))
        assert told == {"title": "Letters", "described": {"creators": ["The trust"]}}
        told = {"title": "Letters of 1927", "described": {**told["described"], "date": "1927", "rights": "mine"}}
        assert stranger.put(f"{address}/description?{urlencode(asked)}", told, JSON).status_code == 204
        kept = draft_of(stack.pk).documents[first]
        assert (kept.title, kept.described) == ("Letters of 1927", {"identifier": "SL/27", "date": "1927"})

    def test_a_closed_stack_and_a_page_that_is_gone_stay_as_they_are(self, client, stranger, stack, bound):
        address, visit = self.opened(client, stranger, bound)
        Stack.objects.filter(pk=stack.pk).update(closed_at=timezone.now())
        assert "closed to changes" in self.mend(stranger, address, visit["visit"]).json()["detail"]
        Stack.objects.filter(pk=stack.pk).update(closed_at=None)
        Page.objects.update(removed=True)
        assert "no longer in its stack" in self.mend(stranger, address, visit["visit"]).json()["detail"]

    def test_in_access_copies_no_words_are_put_right(self, client, stack, bound):
        Document.objects.filter(pk=bound.pk).update(kind="access")
        refused = client.post(f"/api/v1/documents/{bound.pk}/shares", {"right": "mend"}, JSON)
        assert refused.json()["detail"].startswith("Words are put right in documents for the archive alone")
