"""Nothing lost, nobody in, as somebody at the screen meets it: faults that pass, a full disk, the bin, rights in words."""

import contextlib
import os
import re
import shutil
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import psutil
import pytest
from playwright.sync_api import Browser, Page, Route, expect

from tests.browser.conftest import sign_in, watched
from tests.browser.hands import go_by_menu
from tests.live import Live, until

FILES = ["01 letter 1a.jpg", "01 letter 2a.jpg", "01 letter 3a.jpg", "01 letter 4a.jpg"]


def never_seen(files: list[Path], folder: Path) -> list[Path]:
    """Copies of which nothing is known yet, though the same pages have been worked on in another stack."""
    made = [folder / file.name for file in files]
    for file, copy in zip(files, made, strict=True):
        copy.write_bytes(file.read_bytes() + os.urandom(8))
    return made


def test_a_page_that_failed_by_a_passing_fault_is_tried_again(signed_in: Page, live: Live, skerry: Path, tmp_path: Path):
    page = signed_in
    stack = live.take_in("Held up", never_seen([skerry / name for name in FILES[:2]], tmp_path))
    page.goto(f"/stacks/{stack}")
    until(lambda: live.page_workers() and live.counts(stack)["opened"], 60, "page work to begin")
    until(lambda: _held_up(live, stack), 60, "a page to be held up")
    bar = page.get_by_role("status").filter(has_text="held up")
    expect(bar).to_contain_text("ended without an answer")
    expect(bar).to_contain_text("Tried again at")
    page.keyboard.press("Shift+F")
    expect(page.get_by_text(re.compile(r"^Tried again: [12] pages?\.$"))).to_be_visible()
    expect(bar).to_have_count(0, timeout=60_000)
    until(lambda: live.settled(stack), 120, "the stack to be finished")
    assert {row["state"] for row in live.pages(stack)} == {"ready"}


def _held_up(live: Live, stack: int) -> bool:
    """Kill whatever works on pages until one of this stack's is held up by it."""
    for worker in live.page_workers():
        with contextlib.suppress(psutil.NoSuchProcess):
            worker.kill()
    time.sleep(0.4)
    return any(row["trouble"] for row in live.pages(stack))


def test_a_stack_is_deleted_and_taken_back(signed_in: Page, live: Live, skerry: Path):
    page = signed_in
    stack = live.take_in("Thrown away too soon", [skerry / FILES[0]])
    page.goto(f"/stacks/{stack}/intake")
    page.get_by_test_id("stack-line").get_by_role("button", name="More …").click()
    page.get_by_role("button", name="Delete the stack …").click()
    expect(page.get_by_role("alertdialog", name="Delete “Thrown away too soon”?")).to_contain_text("It holds 1 page.")
    page.get_by_role("button", name="Delete", exact=True).click()
    expect(page).to_have_url(f"{live.address}/")
    expect(page.get_by_role("link", name="Thrown away too soon")).to_have_count(0)
    go_by_menu(page, "Bin")
    page.get_by_role("button", name="Take back Thrown away too soon").click()
    expect(page.get_by_role("button", name="Take back Thrown away too soon")).to_have_count(0)
    page.keyboard.press("Escape")
    expect(page.get_by_role("link", name="Thrown away too soon")).to_be_visible()


def test_pages_are_deleted_by_key_and_taken_back(signed_in: Page, live: Live, skerry: Path):
    page = signed_in
    stack = live.take_in("One too many", [skerry / name for name in FILES[:2]])
    until(lambda: live.settled(stack), 120, "the stack to be finished")
    page.goto(f"/stacks/{stack}")
    page.get_by_role("option", name="Page 1, ").wait_for()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Delete")
    expect(page.get_by_role("option", name="Page 2, ")).to_have_count(0)
    page.goto("/bin")
    page.get_by_role("button", name=f"Take back {FILES[1]}").click()
    expect(page.get_by_role("button", name=f"Take back {FILES[1]}")).to_have_count(0)
    assert len(live.pages(stack)) == 2
    page.goto(f"/stacks/{stack}")
    page.get_by_role("option", name="Page 1, ").wait_for()
    page.keyboard.press("Control+a")
    page.keyboard.press("Delete")
    expect(page.get_by_role("option")).to_have_count(0)
    page.goto("/bin")
    page.get_by_role("button", name="Take back all 2").press("Enter")
    expect(page.get_by_role("heading", name="The bin is empty")).to_be_visible()
    assert len(live.pages(stack)) == 2


def test_a_technician_is_refused_in_words_what_only_an_administrator_may(browser: Browser, live: Live):
    with watched(browser, live) as page:
        sign_in(page, "mender")
        page.get_by_role("button", name="mender").click()
        expect(page.get_by_role("menuitem", name="Treatments")).to_be_visible()
        expect(page.get_by_role("menuitem", name="People")).to_have_count(0)
        page.keyboard.press("Escape")
        page.goto("/people")
        expect(page).to_have_url(f"{live.address}/")
        said = page.evaluate(
            """async () => {
              const { csrf } = await (await fetch("/api/v1/session")).json();
              const headers = { "Content-Type": "application/json", "X-CSRFToken": csrf };
              const body = JSON.stringify({ address: "http://192.0.2.7" });
              const answer = await fetch("/api/v1/stations", { method: "POST", headers, body });
              return [answer.status, (await answer.json()).detail];
            }"""
        )
        assert said == [403, "Only administrators may do that: ask one of them."]
        page.get_by_role("link", name="New stack").click()
        page.get_by_role("region", name="Order slip").wait_for()
        expect(page.get_by_role("button", name="Stations …")).to_have_count(0)


def test_a_reader_sees_and_changes_nothing(browser: Browser, live: Live, skerry: Path):
    stack = live.take_in("To be read", [skerry / FILES[0]])
    until(lambda: live.settled(stack), 120, "the stack to be finished")
    with watched(browser, live) as page:
        sign_in(page, "visitor")
        expect(page.get_by_role("link", name="New stack")).to_have_count(0)
        page.goto(f"/stacks/{stack}")
        page.get_by_role("option", name="Page 1, ").wait_for()
        page.keyboard.press("Home")
        page.keyboard.press("k")
        page.get_by_role("tab", name="Arrange").click()
        # What is not allowed is not offered: no key, no button, no menu.
        panel = page.get_by_role("complementary", name="Arrange")
        expect(panel).to_contain_text("Page 1 chosen")
        expect(panel.get_by_role("button", name="Document begins here")).to_have_count(0)
        assert not live.pages(stack)[0]["breaks"]


def test_an_inspector_marks_for_recapture_and_nothing_else(browser: Browser, live: Live, skerry: Path):
    stack = live.take_in("To be looked over", [skerry / FILES[0]])
    until(lambda: live.settled(stack), 120, "the stack to be finished")
    with watched(browser, live) as page:
        sign_in(page, "auditor")
        page.goto(f"/stacks/{stack}")
        page.get_by_role("option", name="Page 1, ").wait_for()
        page.keyboard.press("x")
        page.keyboard.press("g")
        until(lambda: live.pages(stack)[0]["rescan"], 30, "the page to be marked")
        page.get_by_role("tab", name="Arrange").click()
        expect(page.get_by_role("button", name="No recapture")).to_be_visible()
        expect(page.get_by_role("button", name="Cut", exact=True)).to_have_count(0)


def test_an_invitation_makes_a_person(signed_in: Page, browser: Browser, live: Live):
    page = signed_in
    page.goto("/people")
    invite = page.get_by_label("Invite somebody")
    invite.get_by_role("combobox", name="As").click()
    page.get_by_role("option", name="inspector").click()
    invite.get_by_role("button", name="Make a link").click()
    link = invite.get_by_role("status").locator("span").first.inner_text()
    with watched(browser, live) as guest:
        guest.goto(link)
        guest.get_by_label("User name").fill("new hand")
        guest.get_by_label("Password").fill("short")
        guest.get_by_role("button", name="Begin").click()
        expect(guest.get_by_role("alert")).to_contain_text("choose another password")
        guest.get_by_label("Password").fill("three gulls on a rock")
        guest.get_by_role("button", name="Begin").click()
        expect(guest.get_by_role("button", name="new hand")).to_be_visible()
    page.reload()
    expect(page.get_by_role("combobox", name="Role of new hand")).to_have_text("inspector")


# A disk that is full


@contextmanager
def small_disk(folder: Path, megabytes: int) -> Iterator[Path]:
    """A file system of its own, so that it can be full; skipped where this user may not mount one."""
    folder.mkdir(parents=True)
    options = f"size={megabytes}m,uid={os.getuid()},gid={os.getgid()}"
    for prefix in ([], ["sudo", "-n"]):
        if prefix and shutil.which("sudo") is None:
            continue
        made = subprocess.run([*prefix, "mount", "-t", "tmpfs", "-o", options, "tmpfs", str(folder)], capture_output=True)
        if made.returncode == 0:
            try:
                yield folder
            finally:
                subprocess.run([*prefix, "umount", "-l", str(folder)], check=True)
            return
    pytest.skip("no file system can be mounted here, so none can be filled")


def test_a_disk_that_fills_while_a_load_comes_in_loses_and_doubles_nothing(browser: Browser, tmp_path: Path, skerry: Path):
    files = [skerry / name for name in FILES]
    with small_disk(tmp_path / "small", 200) as folder:
        live = Live(folder / "data", HOLLOWSTACK_LEAST_FREE_MB="0", HOLLOWSTACK_WORKERS="1")
        try:
            with watched(browser, live) as page:
                sign_in(page)
                filler, pieces = folder / "filler", []

                def piece(route: Route) -> None:
                    """The second file finds no room any more."""
                    if route.request.method == "PATCH":
                        pieces.append(route.request.url)
                        if len(pieces) == 2:
                            _fill(filler)
                    route.continue_()

                page.route("**/api/v1/uploads/*", piece)
                page.goto("/new")
                page.get_by_role("heading", level=1).get_by_role("button").click()
                page.get_by_label("Name of the stack").fill("A load")
                page.keyboard.press("Enter")
                page.locator("input[type=file]").first.set_input_files(files)
                expect(page.get_by_role("alert").filter(has_text="room").first).to_be_visible(timeout=60_000)
                expect(page.get_by_text("goes on by itself").first).to_be_visible()
                filler.unlink()
                expect(page.get_by_text("4/4")).to_be_visible(timeout=60_000)
            (stack,) = [one["id"] for one in live.call("GET", "/api/v1/stacks")["stacks"] if one["name"] == "A load"]
            until(lambda: live.settled(stack), 300, "the load to be worked through")
            rows = live.pages(stack)
            assert [row["source"] for row in rows] == FILES
            assert {row["state"] for row in rows} == {"ready"}
        finally:
            live.stop()


def _fill(file: Path) -> None:
    """Take what room there is, to the last byte, whatever others take of it meanwhile."""
    with contextlib.suppress(OSError), file.open("wb", buffering=0) as filler:
        while filler.write(b"x" * (1 << 20)):
            pass
