"""Checks of a stack as a whole, and sorting by what is printed."""

from hollowstack.server.engine.recording import record
from hollowstack.server.stacks import loads
from hollowstack.server.stacks.arranging import Arranging
from hollowstack.server.stacks.models import Page, Stack
from hollowstack.server.stacks.services import order_of
from tests.server.conftest import READ, answer, walk


def numbered(pages: list[Page], *numbers: int | None) -> list[int]:
    """Pages read with these printed numbers."""
    for page, number in zip(pages, numbers, strict=True):
        walked = walk(page, until="render")
        record([("read", walked.reading_id, {**READ, "numbers": [] if number is None else [number]}, "")])
    return [page.pk for page in pages]


def checks(client, stack) -> list[tuple[str, int | None]]:
    return [(one["check"], one["page"]) for one in answer(client.get(f"/api/stacks/{stack.pk}/checks"))]


def test_gaps_doubles_and_swaps_are_told_on_their_pages(client, stack, pages):
    ids = numbered(pages(7), 1, 2, 2, 6, 9, 7, 8)
    assert checks(client, stack) == [("double", ids[2]), ("gap", ids[3]), ("swap", ids[4])]


def test_sorting_by_printed_number(stack, pages):
    ids = numbered(pages(4), 3, None, 1, 2)
    Arranging(stack.pk, None, Stack.objects.get(pk=stack.pk).change).sort(ids, "number")
    assert order_of(stack.pk) == [ids[2], ids[3], ids[0], ids[1]]


def test_the_same_image_twice(client, stack, pages):
    ids = numbered(pages(3), None, None, None)
    again = loads.add_file(loads.open_load(stack.pk, None).pk, 0, "again.jpg", f"{2:064x}", 10)
    assert checks(client, stack) == [("same image", again.pk)]
    assert again.pk not in ids


def test_halves_of_a_split_image_are_no_doubles(client, stack, pages):
    ids = numbered(pages(2), None, None)
    Arranging(stack.pk, None, Stack.objects.get(pk=stack.pk).change).split(ids[0], (500, 0), (500, 1400))
    assert checks(client, stack) == []


def test_a_page_unlike_its_fellows(client, stack, pages):
    made = pages(7)
    for page in made[:6]:
        walk(page)
    odd = walk(made[6], size_px=[500, 700], page_quad=[[0, 0], [500, 0], [500, 700], [0, 700]])
    assert checks(client, stack) == [("odd size", odd.pk)]


def test_fewer_images_than_sheets(client, stack):
    load = loads.open_load(stack.pk, None, record={"station": "Feeder One", "sheets": 8, "two_sided": False})
    loads.add_file(load.pk, 0, "page 1.jpg", f"{1:064x}", 10)
    assert checks(client, stack) == [("count", None)]
