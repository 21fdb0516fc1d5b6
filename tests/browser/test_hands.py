"""By keyboard alone, and for eyes of every kind: axe finds nothing serious on any view."""

import re

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.live import Live, until


@pytest.fixture(scope="module")
def stack(live: Live, chosen) -> int:
    made = live.take_in("By hand", chosen[:4])
    until(lambda: live.settled(made), 180, "the stack to be finished")
    return made


VIEWS = {
    "shelf": "/",
    "intake": "/new",
    "stack": "/stacks/{stack}",
    "page": "/stacks/{stack}/pages/{page}",
    "bench": "/stacks/{stack}/bench/{page}",
    "text": "/stacks/{stack}/text",
    "bind": "/stacks/{stack}/bind",
    "treatments": "/treatments/index%20cards",
}


@pytest.mark.parametrize("view", ["sign in", *VIEWS])
def test_axe_finds_nothing_serious(page: Page, live: Live, stack: int, view: str, request):
    if view == "sign in":
        page.goto("/")
        page.get_by_label("User name").wait_for()
    else:
        signed_in = request.getfixturevalue("signed_in")
        first = live.pages(stack)[0]["id"]
        signed_in.goto(VIEWS[view].format(stack=stack, page=first))
        signed_in.get_by_role("button", name="keeper").wait_for()
        signed_in.wait_for_timeout(800)
    found = Axe().run(page).response["violations"]
    serious = [(v["id"], [n["target"] for n in v["nodes"]]) for v in found if v["impact"] in {"serious", "critical"}]
    assert serious == []


def test_the_whole_stack_by_keyboard(signed_in: Page, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}")
    grid = page.get_by_role("listbox", name="Pages")
    expect(grid.get_by_role("option", selected=True)).to_have_accessible_name(re.compile("^Page 1,"))
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    expect(grid.get_by_role("option", selected=True)).to_have_accessible_name(re.compile("^Page 3,"))
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("page-image")).to_be_visible()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("complementary", name="Measured")).to_contain_text("Page 4")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_contain_text("1:1")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("Escape")
    expect(grid).to_be_visible()
    page.keyboard.press("Escape")
    expect(page).to_have_url(re.compile("/$"))


def test_the_fore_edge_is_a_selector(signed_in: Page, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}")
    edge = page.get_by_role("slider", name="Fore-edge")
    expect(edge).to_have_attribute("aria-valuemax", "4")
    edge.focus()
    page.keyboard.press("End")
    expect(edge).to_have_attribute("aria-valuenow", "4")
    page.keyboard.press("ArrowUp")
    expect(page.get_by_role("complementary", name="Measured")).to_contain_text("Page 3")
    edge.click(position={"x": 40, "y": 12})
    expect(edge).to_have_attribute("aria-valuenow", "2")


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (1920, 1080)])
def test_work_views_do_not_scroll_as_a_whole(signed_in: Page, stack: int, width: int, height: int):
    page = signed_in
    page.set_viewport_size({"width": width, "height": height})
    for view in ("", "/bind"):
        page.goto(f"/stacks/{stack}{view}")
        page.get_by_role("navigation", name="Steps").wait_for()
        assert page.evaluate(
            "document.documentElement.scrollHeight <= innerHeight && document.documentElement.scrollWidth <= innerWidth"
        )


def test_nothing_is_fetched_from_elsewhere(signed_in: Page, stack: int, live: Live):
    hosts = set()
    signed_in.on("request", lambda request: hosts.add(request.url.split("/")[2]))
    signed_in.goto(f"/stacks/{stack}")
    signed_in.get_by_role("listbox", name="Pages").wait_for()
    signed_in.wait_for_timeout(500)
    assert hosts == {live.address.split("/")[2]}
