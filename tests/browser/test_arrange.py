"""Putting pages in order in the browser, by mouse and by keyboard, and taking it back."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, Route, expect

from tests.live import Live, until


@pytest.fixture
def stack(live: Live, chosen: list[Path]) -> int:
    """Six pages, measured and corrected."""
    made = live.take_in("To be arranged", chosen[:5])
    until(lambda: live.counts(made)["corrected"] == 6, 180, "the pages to be corrected")
    return made


@pytest.fixture
def arranged(signed_in: Page, stack: int) -> Page:
    signed_in.goto(f"/stacks/{stack}")
    signed_in.get_by_role("listbox", name="Pages").get_by_role("option").first.wait_for()
    return signed_in


def names(page: Page) -> list[str]:
    """Which files stand where, as the grid shows them."""
    cells = page.get_by_role("listbox", name="Pages").get_by_role("option")
    shown = cells.evaluate_all("cells => cells.map((cell) => cell.ariaLabel)")
    return [re.sub(r"^Page \d+, (.*?\.\w+),.*$", r"\1", label) for label in shown]


def shows(page: Page, order: list[str]) -> None:
    until(lambda: names(page) == order, 30, f"the grid to show {order}")


A, B, C, D, E = "01 letter 1a.jpg", "01 letter 1b.jpg", "01 letter 2a.jpg", "04 card 41.jpg", "05 report on the lantern.tif"


def test_by_keyboard_alone(arranged: Page, stack: int):
    page, keys = arranged, arranged.keyboard
    shows(page, [A, B, C, D, E, E])
    for key in ("ArrowRight", "Shift+ArrowRight", "x", "End", "v"):
        keys.press(key)
    shows(page, [A, D, E, E, B, C])
    expect(page.get_by_role("listbox", name="Pages").get_by_role("option", selected=True)).to_have_count(1)
    keys.press("z")
    shows(page, [A, B, C, D, E, E])
    keys.press("y")
    shows(page, [A, D, E, E, B, C])
    page.reload()
    shows(page, [A, D, E, E, B, C])
    keys.press("Control+z")
    shows(page, [A, B, C, D, E, E])
    keys.press("Control+a")
    keys.press("Shift+r")
    shows(page, [E, E, D, C, B, A])
    keys.press("Home")
    keys.press("p")
    keys.type("3")
    keys.press("Enter")
    shows(page, [E, D, E, C, B, A])
    keys.press("h")  # from what can be done to the checks, and on to the history
    keys.press("h")
    keys.press("k")
    expect(page.get_by_role("list", name="History")).to_contain_text("Set a document break before 1 page")
    expect(page.get_by_role("option", name=re.compile("document begins"))).to_have_count(1)
    for _ in range(3):
        keys.press("z")
    shows(page, [A, B, C, D, E, E])


def test_dragging(arranged: Page, live: Live, stack: int):
    page = arranged
    cells = page.get_by_role("listbox", name="Pages").get_by_role("option")
    first, fourth = cells.nth(0).bounding_box(), cells.nth(3).bounding_box()
    assert first
    assert fourth
    page.mouse.move(first["x"] + 40, first["y"] + 40)
    page.mouse.down()
    page.mouse.move(fourth["x"] + fourth["width"] - 8, fourth["y"] + 60, steps=6)
    page.mouse.up()
    shows(page, [B, C, D, A, E, E])
    # A rectangle over empty ground chooses what it touches.
    page.mouse.move(first["x"] - 8, first["y"] + 20)
    page.mouse.down()
    page.mouse.move(first["x"] + first["width"] + 40, first["y"] + 50, steps=6)
    page.mouse.up()
    expect(page.get_by_role("listbox", name="Pages").get_by_role("option", selected=True)).to_have_count(2)
    cells.nth(4).click(modifiers=["Control"])
    expect(page.get_by_role("listbox", name="Pages").get_by_role("option", selected=True)).to_have_count(3)


def test_facing_pages(arranged: Page):
    page = arranged
    page.get_by_role("button", name="Layout").click()
    page.get_by_role("radio", name="Facing").click()
    page.keyboard.press("Escape")
    cells = page.get_by_role("listbox", name="Pages").get_by_role("option")
    alone, left, right = [cells.nth(n).bounding_box() for n in range(3)]
    assert alone["x"] > left["width"]  # type: ignore[index]  # nothing but room to its left
    assert right["x"] - left["x"] < left["x"] - alone["x"]  # type: ignore[index]  # 2 and 3 face each other, 1 and 2 do not
    page.get_by_role("button", name="Layout").click()
    page.get_by_role("checkbox", name="First page alone").click()
    until(lambda: cells.nth(0).bounding_box()["x"] < alone["x"], 30, "the first page to stand on the left")  # type: ignore[index]


def test_split_and_unsplit(arranged: Page, live: Live, stack: int):
    page, keys = arranged, arranged.keyboard
    for key in ("ArrowRight", "ArrowRight", "s"):
        keys.press(key)
    _drag(page, "Split line, top", 60)
    keys.press("Shift+ArrowLeft")
    keys.press("Enter")
    page.get_by_role("button", name="Split here").wait_for(state="detached")
    keys.press("Escape")
    shows(page, [A, B, C, C, D, E, E])
    until(lambda: live.counts(stack)["corrected"] == 7, 60, "both halves to be corrected")
    left, right = live.pages(stack)[2:4]
    assert left["clean"] != right["clean"]
    assert left["clean_px"][0] > right["clean_px"][0]
    # On the bench the line can be moved afterwards: both halves follow, and the page in hand shows it at once.
    keys.press("e")
    page.get_by_test_id("bench").wait_for()
    keys.press("s")
    _drag(page, "Split line, middle", -60)

    def wide(place: int) -> int:
        return (live.pages(stack)[place]["clean_px"] or [0])[0]

    until(lambda: 0 < wide(2) < left["clean_px"][0] - 50, 60, "the left half to be narrower")
    until(lambda: wide(3) > right["clean_px"][0] + 50, 60, "the right half to be wider")
    keys.press("z")
    until(lambda: wide(2) == left["clean_px"][0], 60, "the line to be back")
    keys.press("Escape")
    keys.press("Escape")
    shows(page, [A, B, C, C, D, E, E])
    keys.press("s")
    shows(page, [A, B, C, D, E, E])


def _drag(page: Page, handle: str, by: float) -> None:
    """Take hold of a handle and move it to the right."""
    box = page.get_by_role("button", name=handle).bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + by, y, steps=4)
    page.mouse.up()


def test_two_people(arranged: Page, live: Live, stack: int):
    """What somebody else did appears; a change based on what was before is refused and says so."""
    page = arranged
    ids = [row["id"] for row in live.pages(stack)]

    def they_are_quicker(route: Route) -> None:
        seen = live.call("GET", f"/api/v1/stacks/{stack}/pages")["change"]
        theirs = {"do": "move", "pages": [ids[0]], "after": ids[2]}
        live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": seen, "doing": theirs})
        route.continue_()

    page.route("**/changes", they_are_quicker)
    for key in ("Control+a", "Shift+r"):
        page.keyboard.press(key)
    expect(page.get_by_text("Somebody else has changed the order").first).to_be_visible()
    page.unroute_all()
    shows(page, [B, C, A, D, E, E])


def test_the_fore_edge_chooses_a_run(arranged: Page):
    page = arranged
    edge = page.get_by_role("slider", name="Fore-edge").bounding_box()
    assert edge
    pitch = 9  # px a page, as thick as a line gets
    page.mouse.move(edge["x"] + 30, edge["y"] + 1.5 * pitch)
    page.mouse.down()
    page.mouse.move(edge["x"] + 30, edge["y"] + 4.5 * pitch, steps=5)
    page.mouse.up()
    chosen = page.get_by_role("listbox", name="Pages").get_by_role("option", selected=True)
    expect(chosen).to_have_count(4)
    expect(chosen.first).to_have_accessible_name(re.compile("^Page 2,"))
    page.keyboard.press("Shift+ArrowLeft")
    expect(chosen).to_have_count(3)
