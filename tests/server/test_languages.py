"""Pages are read in the language said for them, their stack or by its treatment; only reading is done again for it."""

import pytest

from hollowstack.server.engine.wanting import wanted
from hollowstack.server.results.models import Result
from hollowstack.server.stacks import history
from hollowstack.server.stacks.languages import language_of
from hollowstack.server.stacks.models import Page, Stack
from tests.server.conftest import answer, walk


def change(client, stack, **doing):
    body = {"seen": Stack.objects.get(pk=stack.pk).change, "doing": doing}
    return client.post(f"/api/v1/stacks/{stack.pk}/changes", body, content_type="application/json")


def now(page: Page) -> Page:
    return Page.objects.select_related("stack").get(pk=page.pk)


def read_in(page: Page) -> str:
    fresh = now(page)
    return language_of(fresh, fresh.stack)


def test_the_narrower_word_counts(client, stack, pages):
    one, other = (walk(page) for page in pages(2))
    assert (read_in(one), now(one).stack.language) == ("eng", "")
    change(client, stack, do="read in", language="deu")
    change(client, stack, do="read in", language="eng+deu", pages=[one.pk])
    assert (read_in(one), read_in(other)) == ("eng+deu", "deu")
    change(client, stack, do="read in", language="", pages=[one.pk])
    assert read_in(one) == "deu"
    assert (
        answer(change(client, stack, do="read in", language=""))["what"] == "Left the language of the text to the treatment"
    )
    assert read_in(other) == "eng"


def test_only_reading_is_done_again(client, stack, pages):
    one, other = (walk(page) for page in pages(2))
    answer(change(client, stack, do="read in", language="deu", pages=[one.pk]))
    fresh = now(one)
    assert (fresh.state, fresh.rendered_id, fresh.measured_id) == ("read", one.rendered_id, one.measured_id)
    assert now(other).state == "ready"
    (task,) = wanted(9, frozenset())
    assert (task.step, task.key, task.arguments[3]) == ("read", fresh.reading_id, "deu")
    client.post(f"/api/v1/stacks/{stack.pk}/changes/{history.next_to_undo(stack).pk}/undo")
    assert (now(one).state, now(one).reading_id) == ("ready", one.reading_id)


def test_a_treatment_says_it_where_nobody_else_does(client, stack, pages):
    page = walk(pages(1)[0])
    Stack.objects.filter(pk=stack.pk).update(treatment={**stack.treatment, "languages": "deu"})
    assert read_in(page) == "deu"
    shown = answer(client.get(f"/api/v1/stacks/{stack.pk}"))
    assert (shown["language"], shown["own_language"]) == ("deu", False)


def test_thorough_models_are_taken_where_they_are(stack, pages, tmp_path, monkeypatch):
    page = walk(pages(1)[0])
    Stack.objects.filter(pk=stack.pk).update(treatment={**stack.treatment, "languages": "eng+deu", "models": "thorough"})
    assert read_in(page) == "eng+deu"
    (tmp_path / "thorough").mkdir()
    (tmp_path / "thorough" / "deu.traineddata").touch()
    monkeypatch.setenv("TESSDATA_PREFIX", str(tmp_path))
    assert read_in(page) == "eng+thorough/deu"


def test_a_treatment_without_a_model_is_refused(client):
    settings = {**answer(client.get("/api/v1/treatments/settings?name=everyday")), "languages": "eng+xyz", "name": "Mine"}
    refused = client.post("/api/v1/treatments", settings, content_type="application/json")
    assert (refused.status_code, "no model to read “xyz”" in answer(refused)["detail"]) == (422, True)


def test_reading_is_put_off_and_taken_up_again(client, stack, pages):
    page = pages(1)[0]
    answer(change(client, stack, do="read later", later=True))
    assert change(client, stack, do="read later", later=True).status_code == 422
    page = walk(page)
    assert (page.state, page.reading_id) == ("ready", None)
    assert wanted(9, frozenset()) == []
    assert client.get(f"/api/v1/pages/{page.pk}/words").status_code == 422
    answer(change(client, stack, do="read later", later=False))
    assert now(page).state == "read"
    (task,) = wanted(9, frozenset())
    assert task.step == "read"


def test_reading_waits_for_all_else(client, stack, pages):
    """Even for what is done to the pages of stacks that nobody has opened for longer."""
    read, other = pages(2)
    walk(read)
    answer(change(client, stack, do="read in", language="deu", pages=[read.pk]))
    older = Stack.objects.create(name="Older", treatment=stack.treatment)
    Page.objects.filter(pk=other.pk).update(stack=older)
    assert [task.step for task in wanted(9, frozenset())] == ["expand", "read"]


def guessed(page: Page, **guess: object) -> None:
    result = Result.objects.get(key=page.reading_id)
    result.body = {**result.body, "guess": guess}
    result.save()


def test_other_languages_are_proposed_with_their_pages(client, stack, pages):
    first, second, third, fourth = (walk(page) for page in pages(4))
    guessed(first, script="Latn", language="deu", sure=1.0)
    guessed(second, script="Cyrl", language="hye", sure=0.5)
    guessed(third, script="Latn", language="deu", sure=0.97)
    guessed(fourth, script="Latn", language="eng", sure=1.0)
    german, armenian = answer(client.get(f"/api/v1/stacks/{stack.pk}/languages"))
    assert (german["language"], german["name"], german["pages"], german["sure"], german["there"], german["missing"]) == (
        "deu", "German", [first.pk, third.pk], 0.97, True, "",
    )  # fmt: skip
    assert (armenian["there"], "tesseract-ocr-hye" in armenian["missing"]) == (False, True)
    answer(change(client, stack, do="read in", language="eng+deu", pages=[first.pk, third.pk]))
    (left,) = answer(client.get(f"/api/v1/stacks/{stack.pk}/languages"))
    assert left["language"] == "hye"


@pytest.mark.parametrize(("said", "bound"), [(["deu", "deu", ""], "deu"), (["", "", "deu"], "eng")])
def test_a_document_is_in_the_language_of_most_of_its_pages(client, stack, pages, said, bound):
    made = [walk(page) for page in pages(3)]
    for page, language in zip(made, said, strict=True):
        Page.objects.filter(pk=page.pk).update(language=language)
    answer(client.post(f"/api/v1/stacks/{stack.pk}/documents", {"title": "Box"}, content_type="application/json"))
    (task,) = [one for one in wanted(9, frozenset()) if one.step == "bind"]
    assert task.arguments[2]["language"] == {"deu": "de", "eng": "en"}[bound]
