"""The screenshots in docs/screenshots, taken anew from the demo's data: ``make shots``."""

import json
import random
import re
import sqlite3
import sys
import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path

from PIL import Image, ImageFilter
from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from hollowstack.standins.skerry.photograph import View
from hollowstack.standins.table.film import film, notices
from tests.browser.conftest import FLAGS, sign_in
from tests.browser.hands import cells, pick, station, write
from tests.live import Live, until
from tests.server.receivers import Receivers, started

ROOT = Path(__file__).resolve().parents[1]
SHOTS, DEMO = ROOT / "docs" / "screenshots", ROOT / "demo" / "skerry-light"
GLASS, FEEDER, TWO_SIDED = range(3)
_TABLE_CAMERA = """
const label = Object.getOwnPropertyDescriptor(MediaStreamTrack.prototype, 'label');
Object.defineProperty(MediaStreamTrack.prototype, 'label', { ...label, get: () => 'Table camera' });
"""
"""The browser names a film by its file."""


class Shots:
    """One tab in which the program is gone through, and a picture taken at each view."""

    def __init__(self, live: Live, page: Page) -> None:
        self.live, self.page = live, page

    def shoot(self, name: str) -> None:
        self.page.wait_for_timeout(1200)
        self.page.screenshot(path=SHOTS / f"{name}.png")

    def keys(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)
            self.page.wait_for_timeout(300)

    def stack(self, stack: int) -> None:
        """The grid; pages put elsewhere, to be undone."""
        page = self.page
        page.goto(f"/stacks/{stack}")
        cells(page).nth(8).click()
        self.shoot("stack")
        self.keys("Home", "ArrowRight", "ArrowRight", "Shift+ArrowRight", "Shift+ArrowRight")
        page.get_by_role("tab", name="Arrange").click()
        self.keys("x", "End", "v", "Home")

    def bench(self, stack: int) -> None:
        """Original and corrected by curtain with the loupe; corners and tone; treatments."""
        page = self.page
        page.goto(f"/stacks/{stack}/bench/{self.live.pages(stack)[9]['id']}")
        page.get_by_test_id("tilt").wait_for()
        self.keys("c", "m")
        page.mouse.move(470, 390)
        self.shoot("bench-curtain")
        self.keys("m", "c", "c", "q")
        page.get_by_role("slider", name="Brightness").focus()
        self.keys(*["ArrowLeft"] * 12)
        self.keys("Escape", "Control+z")
        page.goto("/treatments/faint%20typescript")
        page.get_by_role("figure").first.get_by_role("img").wait_for()
        self.shoot("treatments")

    def text(self, stack: int) -> None:
        """The worst doubtful word of the stack under its picture."""
        page = self.page
        page.goto(f"/stacks/{stack}/text")
        page.get_by_test_id("line").wait_for()
        self.keys("ArrowDown", "ArrowDown")
        self.shoot("text")

    def inspect(self, stack: int) -> None:
        """Writing that came out soft, captured and corrected; what was cropped, on one sheet."""
        page, live = self.page, self.live
        folder = Path(tempfile.mkdtemp(prefix="hollowstack-soft-"))
        letters = [DEMO / f"01 letter {number}a.jpg" for number in (1, 2, 3)]
        soft = folder / "letter of 11 February.jpg"
        Image.open(letters[1]).filter(ImageFilter.GaussianBlur(5)).save(soft, quality=92, dpi=(300, 300))
        again = folder / "letter of 3 May, again.jpg"
        Image.open(letters[2]).save(again, quality=85, dpi=(300, 300))
        made = live.take_in("Letters of the secretary", [letters[0], soft, letters[2], again, DEMO / "07 log 161.jpg"])
        until(lambda: live.settled(made), 120, "the letters to be finished")
        until(lambda: len(live.call("GET", f"/api/v1/stacks/{made}/findings")) >= 3, 30, "them to be checked")
        page.goto(f"/stacks/{made}/inspect")
        page.get_by_test_id("finding").wait_for()
        self.shoot("inspect")
        page.goto(f"/stacks/{stack}")
        cells(page).nth(8).click()
        page.get_by_role("button", name="Sheets").click()
        page.get_by_role("button", name=re.compile("^Cropped pages")).click()
        self.keys("Escape")
        self.shoot("sheet")

    def sample(self, stack: int) -> None:
        """A sample before it is drawn, with what its plan means, and as it is gone through."""
        page, live = self.page, self.live
        pages = live.pages(stack)
        failed = [one["id"] for one in pages if one["state"] == "failed"]
        self._do(stack, {"do": "delete", "pages": failed})
        until(lambda: self._all_judged(stack), 60, "all findings to be judged")
        page.goto(f"/stacks/{stack}/sample")
        page.get_by_role("button", name="Draw the sample").wait_for()
        self.keys("d")
        page.get_by_test_id("looked").wait_for()
        self.keys("f", "f", "n")
        page.keyboard.type("a hair at the foot of the page")
        self.keys("Enter")
        self.shoot("sample")

    def _all_judged(self, stack: int) -> bool:
        waiting = [one for one in self.live.call("GET", f"/api/v1/stacks/{stack}/findings") if one["fine"] is None]
        if waiting:
            named = [{name: one[name] for name in ("page", "kind", "judged")} for one in waiting]
            self._do(stack, {"do": "judge", "findings": named, "fine": True})
        return not self.live.call("GET", f"/api/v1/stacks/{stack}/plan")["to_do"]

    def _do(self, stack: int, doing: dict[str, object]) -> None:
        self.live.call("POST", f"/api/v1/stacks/{stack}/changes", {"seen": 1 << 40, "doing": doing})

    def quality(self) -> None:
        """The charts of a station that was measured every other day: made-up figures, the last of which stray."""
        chance = random.Random(4)
        usual = {
            "sampling_error": 0.2, "efficiency": 91.0, "mtf50": 51.0, "tone": 1.4, "noise": 0.62, "white_balance": 1.3,
            "evenness": 0.9, "colour_mean": 2.1, "colour_worst": 5.6, "misregistration": 0.14,
        }  # fmt: skip
        told = {"ppi": [300.1, 300.2], "said_ppi": [300, 300], "mtf50": [3.01, 3.12], "mtf10": [5.4, 5.5], "greys": []}
        start = datetime(2026, 3, 2, 8, tzinfo=UTC)
        with sqlite3.connect(self.live.data / "hollowstack.sqlite3", timeout=30) as rows:
            for day in range(24):
                figures = {name: round(value * chance.gauss(1, 0.012), 3) for name, value in usual.items()}
                if day == 23:
                    figures["noise"] = 0.71
                quality = json.dumps({**told, "figures": figures, "measured": True})
                at = (start + timedelta(days=2 * day)).isoformat(sep=" ")
                values = (1, at, 1, f"target {day}", "glass, 300 ppi", quality)
                rows.execute(
                    "INSERT INTO capture_qualitycheck (station_id, at, by_id, master, kind, quality)"
                    " VALUES (?, ?, ?, ?, ?, ?)", values,
                )  # fmt: skip
        self.page.goto("/stations/1")
        self.page.get_by_role("img").first.wait_for()
        self.shoot("station-quality")

    def stations(self) -> None:
        """Stations that were found on the network; how paper goes into one of them."""
        page, live = self.page, self.live
        addresses = {one["address"]: one["id"] for one in live.call("GET", "/api/v1/stations/found")}
        live.call("POST", f"/api/v1/stations/found/{addresses[live.stations[FEEDER]]}", {})
        stack = live.call("POST", "/api/v1/stacks", {"name": "Post of the keepers, 1927"})["id"]
        page.goto(f"/stacks/{stack}/intake")
        page.get_by_role("list", name="Found on the network").get_by_role("listitem").nth(1).wait_for()
        self.keys("c")
        question = page.get_by_role("dialog")
        question.get_by_role("radio", name="Face down").click()
        self.keys("Escape")
        for address, found in addresses.items():
            if address != live.stations[FEEDER]:
                live.call("POST", f"/api/v1/stations/found/{found}", {})
        live.say_how_paper_goes_in()

    def slip(self) -> None:
        """An order slip as it is opened, tried dry."""
        page, live = self.page, self.live
        stack = live.call("POST", "/api/v1/stacks", {"name": "Letters, 1927"})["id"]
        live.control(TWO_SIDED, load="letters", speed=0)
        page.goto(f"/stacks/{stack}/intake")
        station(page, "Feeder Two").click()
        pick(page, "Sides", "both sides")
        page.get_by_role("button", name="Keep as a slip").click()
        slip = page.get_by_role("dialog")
        slip.get_by_label("Name of the slip").fill("Letters, both sides")
        slip.get_by_label("Stacks and documents are named").fill("Letters of {written}, box {box}")
        for asked in ("Year", "Box"):
            slip.get_by_role("checkbox", name=asked, exact=True).check()
        slip.get_by_role("button", name="Keep", exact=True).click()
        slip.wait_for(state="detached")
        page.get_by_role("button", name="Open the order slip Letters, both sides").click()
        slip.get_by_role("button", name="Try it dry").click()
        slip.get_by_text("There is room").wait_for()
        self.shoot("intake-slip")

    def ended(self) -> None:
        """A load that was cancelled at the station and kept as far as it came."""
        page, live = self.page, self.live
        stack = live.call("POST", "/api/v1/stacks", {"name": "Register of stores, continued"})["id"]
        live.control(TWO_SIDED, load="register", speed=20)
        page.goto(f"/stacks/{stack}/intake")
        station(page, "Feeder Two").click()
        write(page, "Sheets", "Sheets expected", "20")
        write(page, "File names begin with", "File names begin with", "register")
        self.keys("c")
        until(lambda: live.counts(stack)["pages"] >= 5, 60, "some sheets to come")
        live.control(TWO_SIDED, cancel=True)
        page.get_by_role("button", name="Keep what came").click()
        page.get_by_text("Ended early").first.wait_for()
        page.wait_for_timeout(4000)

    def glass(self) -> None:
        """A glass with three photographs, and a slip that is kept."""
        page, live = self.page, self.live
        stack = live.call("POST", "/api/v1/stacks", {"name": "Portraits of the keepers"})["id"]
        live.control(GLASS, load="photographs", speed=0)
        page.goto(f"/stacks/{stack}/intake")
        station(page, "Glass A4").click()
        page.get_by_role("button", name="Keep as a slip").click()
        slip = page.get_by_role("dialog")
        slip.get_by_label("Name of the slip").fill("Photographs, off the glass")
        slip.get_by_role("button", name="Keep", exact=True).click()
        slip.wait_for(state="detached")
        page.get_by_role("button", name="First look").click()
        page.get_by_role("button", name="Frame 2").focus()
        self.shoot("intake-glass")

    def load(self) -> None:
        """Leaves before they are put in order; which sheets have no back."""
        page, live = self.page, self.live
        stack = live.call("POST", "/api/v1/stacks", {"name": "Register of stores, 1927"})["id"]
        live.control(FEEDER, load="register-8", speed=0, jam_after=6)
        page.goto(f"/stacks/{stack}/intake")
        station(page, "Feeder One").click()
        pick(page, "Sides", "the fronts, then the backs")
        write(page, "Sheets", "Sheets expected", "8")
        page.get_by_role("button", name="Capture the fronts").click()
        page.get_by_role("button", name="Go on").wait_for()
        live.control(FEEDER, clear=True)
        page.get_by_role("button", name="Go on").click()
        page.get_by_role("button", name="Next load").click()
        until(lambda: live.counts(stack)["measured"] == 8, 120, "the fronts to be measured")
        page.get_by_role("button", name="Sheet 8 has no back").click()
        live.control(FEEDER, load="register-8", flipped=True, pick=list(range(7)))
        write(page, "Sheets", "Sheets expected", "")
        page.get_by_role("button", name="Capture the backs").click()
        until(lambda: live.counts(stack)["measured"] == 15, 120, "the pages to be measured")

    def camera(self) -> None:
        """A page before the camera, and the one taken before it."""
        page = self.page
        stack = self.live.call("POST", "/api/v1/stacks", {"name": "Notices to mariners"})["id"]
        page.context.grant_permissions(["camera"])
        page.add_init_script(_TABLE_CAMERA)
        page.goto(f"/stacks/{stack}/intake")
        page.get_by_role("button", name="Camera at the table").click()
        page.get_by_test_id("camera-count").get_by_text("2 pictures").wait_for(timeout=120_000)
        until(lambda: self.live.counts(stack)["measured"] >= 1, 60, "a picture to be judged")
        page.get_by_test_id("camera-says").get_by_text("It lies well").wait_for(timeout=120_000)
        page.screenshot(path=SHOTS / "intake-camera.png")
        page.get_by_role("button", name="Close the camera").click()

    def ends(self, stack: int) -> None:
        """Binding."""
        self.page.goto(f"/stacks/{stack}/bind")
        page = self.page
        page.get_by_role("img", name="Page 1 as it is bound").wait_for()
        self.shoot("bind")
        page.keyboard.press("l")
        page.get_by_role("img", name="Ink of page 1").wait_for()
        self.shoot("bind-layers")
        page.keyboard.press("l")
        self.access()
        page.keyboard.press("k")
        page.get_by_role("button", name=re.compile("^What was checked of")).first.click()
        page.get_by_role("cell", name="6.1.2", exact=True).wait_for()
        self.shoot("bind-checked")

    def describe(self, stack: int) -> None:
        """All documents to come in a table, dates filled down."""
        page = self.page
        for at in (4, 8, 12, 16):
            self._do(stack, {"do": "break", "pages": [self.live.pages(stack)[at]["id"]], "on": True})
        page.goto(f"/stacks/{stack}/describe")
        page.get_by_role("textbox", name="Title of document 1", exact=True).focus()
        for title in ("Letters of the Trust", "Watch log", "Invoice of the ship chandlers", "Cards of the stores"):
            page.keyboard.type(title)
            self.keys("Enter")
        page.get_by_role("textbox", name="Date of document 1", exact=True).focus()
        page.keyboard.type("1927")
        self.keys("Control+Shift+D", "Tab")
        page.keyboard.type("SL/27/114")
        self.keys("Enter")
        self.shoot("describe")

    def shelf(self, stack: int) -> None:
        """Two dozen stacks, filed in a tree of collections."""
        live = self.live

        def collection(name: str, level: str, parent: int | None) -> int:
            made = live.call("POST", "/api/v1/collections", {"name": name, "level": level, "parent": parent})
            return int(made["id"])

        top = collection("Skerry Light", "fonds", None)
        letters, logs, plans = (collection(name, "series", top) for name in ("Letters", "Log books", "Plans and notices"))
        files = sorted(file for file in DEMO.iterdir() if file.name[:2] in {"01", "02", "04"})
        filed: dict[int, list[int]] = {letters: [stack], logs: [], plans: []}
        for number in range(21):
            kinds = ((letters, "Letters of the Trust"), (logs, "Watch logs"), (plans, "Notices to mariners"))
            where, name = kinds[number % 3]
            some = files[number % 4 : number % 4 + 3 + number % 5]
            filed[where].append(live.take_in(f"{name}, {1908 + number}", some))
        for stacks in filed.values():
            for one in stacks:
                until(lambda one=one: live.settled(one), 300, "the stacks to be finished")
        for where, stacks in filed.items():
            live.call("POST", "/api/v1/filings", {"stacks": stacks, "collection": where})
        among = sum(len(stacks) for stacks in filed.values())
        until(lambda: len(live.call("GET", "/api/v1/search?q=light")["things"]) >= among, 60, "their collection to be found")
        self.page.goto("/")
        self.page.get_by_role("link", name=re.compile("1928")).wait_for()
        self.shoot("shelf")

    def search(self) -> None:
        """A word across everything: stacks by their names, pages by the line that holds it."""
        self.page.goto("/search?q=light")
        self.page.get_by_role("group", name="Pages").get_by_role("img").first.wait_for()
        self.keys("ArrowDown", "ArrowDown")
        self.shoot("search")

    def dispatch(self, stack: int, receivers: Receivers) -> None:
        """Receipts of what has arrived, what waits for somebody, and a message seen before it goes."""
        page, live = self.page, self.live
        names = {"folder": "Reading room", "sftp": "Harbour trust", "mail": "Keeper's post"}
        made = {}
        for kind, name in names.items():
            place, secret = receivers.places[kind]
            body = {"name": name, "place": place, "secret": secret or None, "pattern": "{stack}/{title}"}
            made[kind] = live.call("POST", "/api/v1/destinations", body)["id"]
        documents = [one["id"] for one in live.call("GET", f"/api/v1/stacks/{stack}/documents")]
        receivers.sftp.mishaps.ask("password", 1)
        live.call("POST", "/api/v1/dispatches", {"documents": documents[:1], "destinations": [made["folder"], made["sftp"]]})
        until(lambda: live.call("GET", "/api/v1/deliveries")["counts"]["open"] == 0, 30, "the deliveries")
        page.goto(f"/stacks/{stack}/dispatch")
        for box in page.get_by_role("group", name="Documents").get_by_role("checkbox").all()[1:]:
            box.set_checked(False)
        page.get_by_role("checkbox", name=names["mail"]).check()
        page.get_by_role("region", name=names["mail"]).get_by_role("row").nth(1).wait_for()
        self.shoot("dispatch")

    def access(self) -> None:
        """A copy to be looked at: a name covered, a note, a watermark."""
        page = self.page
        self.keys("a")
        sheet = page.get_by_role("img", name="Page 1 as it is seen in the access copy").bounding_box()
        assert sheet is not None

        def drag(left: float, top: float, right: float, bottom: float) -> None:
            page.mouse.move(sheet["x"] + left * sheet["width"], sheet["y"] + top * sheet["height"])
            page.mouse.down()
            page.mouse.move(sheet["x"] + right * sheet["width"], sheet["y"] + bottom * sheet["height"], steps=4)
            page.mouse.up()

        self.keys("x")
        drag(0.56, 0.715, 0.87, 0.772)
        self.keys("h")
        drag(0.62, 0.165, 0.86, 0.185)
        self.keys("t")
        drag(0.03, 0.3, 0.1, 0.33)
        page.get_by_label("Note 3, in words").fill("Ask the harbour office")
        page.get_by_label("Watermark").fill("Skerry Light Trust")
        page.keyboard.press("Enter")
        with page.expect_response(lambda answer: "/copy?" in answer.url, timeout=60_000):
            page.get_by_role("slider", name="Strength").focus()
            self.keys("ArrowRight")
        page.evaluate("document.activeElement.blur()")
        page.wait_for_timeout(1500)
        self.shoot("bind-access")


def main() -> None:
    SHOTS.mkdir(exist_ok=True)
    for old in SHOTS.glob("*.png"):
        old.unlink()
    home = Path(tempfile.mkdtemp(prefix="hollowstack-receivers-"))
    live = Live(
        Path(tempfile.mkdtemp(prefix="hollowstack-shots-")), stations=True, HOLLOWSTACK_FIND_STATIONS="true",
        HOLLOWSTACK_DELIVERY_NETWORKS="127.0.0.0/8", HOLLOWSTACK_DELIVERY_FOLDERS=str(home),
        HOLLOWSTACK_DELIVERY_CERTIFICATES=str(home / "mail.pem"),
    )  # fmt: skip
    files = sorted(file for file in DEMO.iterdir() if not file.name.startswith("."))
    try:
        live.take_in("Watch logs, June 1927", [file for file in files if file.name.startswith("02")])
        stack = live.take_in("Skerry Light papers, box 27", files)
        until(lambda: live.settled(stack), 300, "the stack to be finished")
        live.call("POST", f"/api/v1/stacks/{stack}/documents", {"title": "Skerry Light papers, box 27"})
        until(lambda: live.call("GET", f"/api/v1/stacks/{stack}/documents")[0]["state"] == "bound", 60, "the document")
        until(lambda: len(live.call("GET", "/api/v1/stations/found")) == 3, 60, "the stations")
        with started(home) as receivers, sync_playwright() as playwright:
            table = live.data / "table.mjpeg"
            film(table, notices(3), View(size_px=(1920, 1080), fills=0.92, lean=(6.0, 3.0), turned_deg=1.0), still_s=4.0)
            camera = ["--use-fake-device-for-media-stream", f"--use-file-for-fake-video-capture={table}"]
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=[*FLAGS, *camera])
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=live.address)
            page.set_default_timeout(60_000)
            shots = Shots(live, page)
            sign_in(page)
            shots.stations()
            shots.stack(stack)
            shots.bench(stack)
            shots.text(stack)
            shots.inspect(stack)
            shots.sample(stack)
            shots.quality()
            shots.glass()
            shots.slip()
            shots.load()
            shots.ended()
            shots.camera()
            shots.ends(stack)
            shots.dispatch(stack, receivers)
            shots.describe(stack)
            shots.shelf(stack)
            shots.search()
            browser.close()
    finally:
        live.stop()


if __name__ == "__main__":
    main()
