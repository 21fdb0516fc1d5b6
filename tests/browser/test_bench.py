"""The bench: 24 pages corrected by keyboard alone and by mouse, taken back, done again, and still there after a reload."""

import re
from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from hollowstack.standins.skerry.scan import Glass
from tests.browser.hands import go_by_menu, pick
from tests.conftest import captured, typed_sheet
from tests.core.test_calibrate import CORNERS, captured_target, patch_text, target
from tests.live import Live, until

PAGES = 24


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> list[Path]:
    """A bound volume: rectos with the gutter on their left, versos on their right."""
    folder = tmp_path_factory.mktemp("volume")
    made = []
    for number in range(1, PAGES + 1):
        side = "left" if number % 2 else "right"
        glass = Glass(skew=0.4 + 0.1 * (number % 5), margins_mm=(9, 7, 9, 7), lid=30, gutter=side)  # type: ignore[arg-type]
        sheet = captured(typed_sheet(4 + number % 3, seed=number), glass, seed=number)
        file = folder / f"leaf {number:02}.jpg"
        Image.fromarray(sheet.pixels).save(file, quality=88, dpi=(150, 150))
        made.append(file)
    return made


@pytest.fixture
def stack(live: Live, files: list[Path]) -> int:
    made = live.take_in("A bound volume", files)
    until(lambda: live.counts(made)["corrected"] == PAGES, 240, "the pages to be corrected")
    return made


def override(live: Live, stack: int, number: int) -> dict[str, Any]:
    page = live.pages(stack)[number - 1]["id"]
    return {
        name: value for name, value in live.call("GET", f"/api/v1/pages/{page}")["override"].items() if value is not None
    }


def saved(live: Live, stack: int, number: int, field: str) -> Any:
    until(lambda: field in override(live, stack, number), 30, f"{field} of page {number} to be saved")
    return override(live, stack, number)[field]


def on_bench(page: Page, number: int) -> None:
    expect(page.get_by_role("img", name=f"Page {number} corrected")).to_be_visible()
    expect(page.get_by_test_id("tilt")).to_be_visible()


def tab_to(page: Page, label: str) -> None:
    """Press Tab until what has that label has the keyboard."""
    named = """el => el.labels?.[0]?.textContent ?? el.getAttribute('aria-label')
        ?? document.getElementById(el.getAttribute('aria-labelledby'))?.textContent ?? el.textContent"""
    for _ in range(60):
        page.keyboard.press("Tab")
        if page.evaluate(f"({named})(document.activeElement)") == label:
            return
    raise AssertionError(f"Tab does not lead to {label}")


def test_a_volume_by_keyboard_alone(signed_in: Page, live: Live, stack: int):
    page, keys = signed_in, signed_in.keyboard
    page.goto(f"/stacks/{stack}")
    page.get_by_role("listbox", name="Pages").get_by_role("option").first.wait_for()
    keys.press("e")
    on_bench(page, 1)

    # One page levelled, by half a degree and back by a tenth.
    planned = live.call("GET", f"/api/v1/pages/{live.pages(stack)[0]['id']}")["plan"]["skew_deg"]
    keys.press("t")
    keys.press("Shift+ArrowRight")
    keys.press("ArrowLeft")
    keys.press("ArrowLeft")
    expect(page.get_by_test_id("tilt")).to_have_text(re.compile(f"{planned + 0.4:.2f}"))
    assert saved(live, stack, 1, "skew") == pytest.approx(planned + 0.4, abs=0.002)

    # A quad by its corner and by a side.
    keys.press("PageDown")
    on_bench(page, 2)
    keys.press("q")
    before = live.call("GET", f"/api/v1/pages/{live.pages(stack)[1]['id']}")["plan"]["quad"]
    expect(page.get_by_role("button", name="top left corner")).to_be_focused()
    for _ in range(3):
        keys.press("Shift+ArrowRight")
    keys.press("Tab")
    expect(page.get_by_role("button", name="top side")).to_be_focused()
    for _ in range(2):
        keys.press("Shift+ArrowDown")
    quad = saved(live, stack, 2, "quad")
    until(lambda: override(live, stack, 2)["quad"][1][1] > before[1][1] + 15, 30, "the side to be saved")
    quad = override(live, stack, 2)["quad"]
    assert quad[0][0] == pytest.approx(before[0][0] + 30, abs=2)
    assert quad[0][1] == pytest.approx(before[0][1] + 20, abs=2)
    assert quad[2] == pytest.approx(before[2], abs=1)

    # A border put back.
    keys.press("Escape")
    keys.press("PageDown")
    on_bench(page, 3)
    keys.press("d")
    expect(page.get_by_role("button", name="Border on the top side")).to_be_focused()
    for _ in range(3):
        keys.press("Tab")
    expect(page.get_by_role("button", name="Border on the left side")).to_be_focused()
    keys.press("Delete")
    plain = saved(live, stack, 3, "plain")
    found = live.call("GET", f"/api/v1/pages/{live.pages(stack)[2]['id']}")["measurements"]
    assert plain[0][0] < found["page_quad"][0][0] < found["bright_quad"][0][0]

    # Tone on all even pages, from one of them.
    keys.press("Escape")
    keys.press("PageDown")
    on_bench(page, 4)
    tab_to(page, "Strengthen faint text")
    keys.press("End")  # one key, one change: many of them, on a busy machine, may be several
    keys.press("w")
    expect(page.get_by_role("button", name=f"Apply to {PAGES // 2 - 1} pages")).to_be_visible()
    expect(page.get_by_role("radio", name="Even pages")).to_be_focused()
    tab_to(page, f"Apply to {PAGES // 2 - 1} pages")
    keys.press("Enter")
    until(lambda: "adjust" in override(live, stack, PAGES), 30, "the last verso to have it")
    strengthened = [override(live, stack, n).get("adjust", {}).get("strengthen") for n in range(1, PAGES + 1)]
    assert strengthened == [None, 100] * (PAGES // 2)
    assert "quad" in override(live, stack, 2)

    # Undone, done again, reloaded.
    keys.press("z")
    until(lambda: "adjust" not in override(live, stack, PAGES), 30, "the versos to be as they were")
    assert override(live, stack, 4)["adjust"]["strengthen"] == 100
    keys.press("z")
    until(lambda: "adjust" not in override(live, stack, 4), 30, "the page to be as it was")
    keys.press("y")
    keys.press("y")
    until(lambda: "adjust" in override(live, stack, PAGES), 30, "the versos to have it again")
    page.reload()
    on_bench(page, 4)
    expect(page.get_by_role("slider", name="Strengthen faint text")).to_have_attribute("aria-valuenow", "100")
    keys.press("h")
    keys.press("h")
    expect(page.get_by_role("list", name="History")).to_contain_text(f"Set tone and show-through of {PAGES // 2 - 1} pages")

    # As planned.
    keys.press("h")
    keys.press("j")
    until(lambda: "adjust" not in override(live, stack, 4), 30, "the page to be as planned")
    expect(page.get_by_text("Nothing set by hand")).to_be_visible()


def test_by_mouse(signed_in: Page, live: Live, stack: int):
    page = signed_in
    first = live.pages(stack)[0]["id"]
    page.goto(f"/stacks/{stack}/bench/{first}")
    on_bench(page, 1)
    # A line along the text: it is measured, not guessed.
    page.keyboard.press("t")
    box = page.get_by_test_id("level").bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 90, box["y"] + 250)
    page.mouse.down()
    page.mouse.move(box["x"] + 290, box["y"] + 257, steps=4)
    page.mouse.up()
    assert saved(live, stack, 1, "skew") == pytest.approx(2.0, abs=0.2)
    # A side handle, dragged inwards; what was levelled before is in the corners.
    page.keyboard.press("q")
    handle = page.get_by_role("button", name="right side").bounding_box()
    assert handle is not None
    page.mouse.move(handle["x"] + 12, handle["y"] + 12)
    page.mouse.down()
    page.mouse.move(handle["x"] - 28, handle["y"] + 12, steps=4)
    page.mouse.up()
    corners = saved(live, stack, 1, "quad")
    assert corners[1][0] < live.call("GET", f"/api/v1/pages/{first}")["measurements"]["page_quad"][1][0] - 40
    # The white point, on the histogram.
    white = page.get_by_role("slider", name="White point").bounding_box()
    assert white is not None
    page.mouse.move(white["x"] + 12, white["y"] + 12)
    page.mouse.down()
    page.mouse.move(white["x"] - 56, white["y"] + 12, steps=4)
    page.mouse.up()
    assert saved(live, stack, 1, "adjust")["white"] == pytest.approx(75, abs=3)
    expect(page.get_by_role("region", name="Corrected", exact=True)).to_contain_text("Corrected")
    page.get_by_role("button", name="Back to treatment").click()
    until(lambda: override(live, stack, 1) == {"reason": "by hand"}, 30, "the page to be as planned")


def test_looking_closely(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/bench/{live.pages(stack)[4]['id']}")
    on_bench(page, 5)
    page.keyboard.press("1")
    expect(page.get_by_test_id("zoom")).to_have_text("100%")
    page.keyboard.press("0")
    page.keyboard.press("m")
    page.mouse.move(450, 420)
    loupe = page.get_by_role("img", name=re.compile("^Loupe"))
    expect(loupe.get_by_role("img", name="Original in the loupe")).to_have_count(1)
    expect(loupe).to_be_visible()
    page.keyboard.press("c")
    curtain = page.get_by_role("slider", name="Curtain")
    expect(curtain).to_have_attribute("aria-valuenow", "50")
    page.keyboard.press("]")
    expect(curtain).to_have_attribute("aria-valuenow", "52")
    page.keyboard.press("c")
    expect(page.get_by_role("img", name="Page 5 corrected")).to_be_visible()
    page.keyboard.press("o")
    expect(page.get_by_role("img", name="Page 5 as captured")).to_be_visible()
    page.keyboard.press("o")
    page.keyboard.press("c")
    page.keyboard.press("m")
    expect(loupe).to_have_count(0)


def test_regions_are_shown_over_the_page_at_a_key(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/bench/{live.pages(stack)[0]['id']}")
    on_bench(page, 1)
    expect(page.get_by_test_id("region")).to_have_count(0)
    page.keyboard.press("Shift+o")
    expect(page.get_by_test_id("region").first).to_be_visible()
    found = live.call("GET", f"/api/v1/pages/{live.pages(stack)[0]['id']}")
    assert page.get_by_test_id("region").count() == len(found["measurements"]["regions"])
    assert [one["value"] for one in found["findings"] if one["check"] == "content"] == [0]
    page.keyboard.press("Shift+o")
    expect(page.get_by_test_id("region")).to_have_count(0)


def test_a_page_turned_keeps_its_corners(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/bench/{live.pages(stack)[5]['id']}")
    on_bench(page, 6)
    page.keyboard.press("q")
    page.keyboard.press("Shift+ArrowRight")
    corners = saved(live, stack, 6, "quad")
    page.keyboard.press("r")
    assert saved(live, stack, 6, "turn") == 90
    assert override(live, stack, 6)["quad"] == corners
    width, height = live.call("GET", f"/api/v1/pages/{live.pages(stack)[5]['id']}")["plan"]["size_px"]
    assert width > height


def test_a_treatment_is_saved_as_a_version_and_taken_back(signed_in: Page, live: Live, stack: int):
    page = signed_in
    go_by_menu(page, "Treatments")
    page.get_by_role("link", name=re.compile("^everyday")).click()
    shown = page.get_by_role("figure").first.get_by_role("img")
    before = shown.get_attribute("src")
    pick(page, "Colour", "colour")
    until(lambda: shown.get_attribute("src") != before, 30, "the sample to be made anew")
    page.get_by_role("button", name="Save as the next version").click()
    expect(page.get_by_role("link", name=re.compile("^everyday version 1"))).to_be_visible()

    # The stack goes on with what it was given, until it is given another.
    def treated() -> tuple[str, int]:
        now = live.call("GET", f"/api/v1/stacks/{stack}")
        return now["treatment"], now["treatment_version"]

    assert treated() == ("everyday", 0)
    page.goto(f"/stacks/{stack}/intake")
    page.get_by_role("button", name="Use version 1 of it").click()
    until(lambda: treated() == ("everyday", 1), 30, "the stack to have version 1")
    assert {row["colour"] for row in live.pages(stack)} == {"colour"}
    page.goto("/treatments/everyday")
    page.get_by_role("button", name="Withdraw version 1").click()
    expect(page.get_by_role("link", name=re.compile("^everyday supplied"))).to_be_visible()
    assert treated() == ("everyday", 1)
    page.get_by_role("button", name="Restore version 1").click()
    expect(page.get_by_role("link", name=re.compile("^everyday version 1"))).to_be_visible()
    page.get_by_role("button", name="Withdraw version 1").click()
    expect(page.get_by_role("button", name="Restore version 1")).to_be_visible()


def test_a_colour_target_calibrates_a_treatment(signed_in: Page, live: Live, tmp_path: Path):
    image, patches = tmp_path / "target.png", tmp_path / "target.txt"
    Image.fromarray(captured_target().pixels).save(image, dpi=(300, 300))
    patches.write_text(patch_text(target().lab), encoding="ascii")
    stack = live.take_in("A colour target", [image])
    until(lambda: live.counts(stack)["corrected"] == 1, 180, "the target to be corrected")
    wish = {"quad": [list(corner) for corner in CORNERS], "turn": 0}
    doing = {"do": "correct", "pages": [live.pages(stack)[0]["id"]], "correction": wish}
    live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": 10_000, "doing": doing})
    page = signed_in
    page.goto("/treatments/pictures")
    page.get_by_label(re.compile("^Patch file")).set_input_files(image)
    expect(page.get_by_role("alert")).to_be_visible()
    page.get_by_label(re.compile("^Patch file")).set_input_files(patches)
    group = page.get_by_role("group", name="Calibration")
    expect(group).to_contain_text("32")
    expect(group.get_by_role("link", name="Save the profile")).to_be_visible()
    group.get_by_role("button", name="Remove it").click()
    expect(group).to_contain_text("Capture a colour target")


def test_what_went_and_came_is_seen_and_gone_through_by_key(signed_in: Page, live: Live, stack: int):
    page = signed_in
    page.goto(f"/stacks/{stack}/bench/{live.pages(stack)[0]['id']}")
    on_bench(page, 1)
    for _ in range(3):
        page.keyboard.press("c")
    pane = page.get_by_role("region", name="Difference")
    expect(pane.get_by_role("img", name="Page 1: what went and what came")).to_be_visible()
    expect(pane).to_contain_text(re.compile("Difference · (Nothing went or came|\\d+ places? where something)"))

    # So light that letters fade: what went is framed, and gone to by key.
    pages = live.call("GET", f"/api/v1/stacks/{stack}/pages")
    fade = {"do": "correct", "pages": [live.pages(stack)[0]["id"]], "correction": {"adjust": {"white": 30, "gamma": 2.2}}}
    live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": pages["change"], "doing": fade})
    expect(pane).to_contain_text(re.compile(r"Difference · \d+ places where something went"), timeout=60_000)
    expect(pane.get_by_test_id("went").first).to_be_attached()
    page.keyboard.press("]")
    page.keyboard.press("c")
    expect(page.get_by_role("region", name="Original")).to_be_visible()
