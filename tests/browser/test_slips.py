"""Order slips in the browser: pressed, told to wait at a station, opened, changed, copied, tried dry."""

import re

from playwright.sync_api import Page, expect

from tests.browser.at_stations import TWO_SIDED, choose, finished, live, page, stack
from tests.browser.hands import pick, station
from tests.live import Live, until

__all__ = ["live", "page", "stack"]


def test_an_order_slip_captures_corrects_reads_and_binds_with_one_press(page: Page, live: Live, stack: int):
    folder = live.data / "outgoing" / "case room"
    folder.mkdir(parents=True)
    live.call("POST", "/api/v1/destinations", {"name": "Case room", "place": {"kind": "folder", "path": str(folder)}})
    live.control(TWO_SIDED, load="cases", speed=0)
    choose(page, "Feeder Two", 150, Sheets="4")
    pick(page, "Sides", "both sides")
    page.get_by_role("button", name="Keep as a slip").click()
    slip = page.get_by_role("dialog")
    slip.get_by_label("Name of the slip").fill("Cases")
    slip.get_by_label("Stacks and documents are named").fill("Cases, box {counter}")
    slip.get_by_role("button", name="Sent: nowhere").click()
    page.get_by_role("checkbox", name="Case room, Folder").click()
    page.keyboard.press("Escape")
    expect(slip.get_by_role("button", name="Sent: to Case room")).to_be_visible()
    slip.get_by_role("button", name="Keep", exact=True).click()
    expect(slip).to_have_count(0)
    page.goto("/")
    page.get_by_role("region", name="Order slips").get_by_role("button", name=re.compile("^Cases Feeder Two")).click()
    page.wait_for_url(re.compile(r"/stacks/(?!" + str(stack) + r"/)\d+/intake"))
    made = int(page.url.split("/")[-2])
    load = page.get_by_role("region", name="Load")
    expect(load).to_contain_text("then bound as “Cases, box 1”")
    finished(page)
    until(lambda: len(live.call("GET", f"/api/v1/stacks/{made}/documents")) == 2, 240, "both cases to be bound")
    until(
        lambda: {d["state"] for d in live.call("GET", f"/api/v1/stacks/{made}/documents")} == {"bound"}, 60, "the documents"
    )
    documents = live.call("GET", f"/api/v1/stacks/{made}/documents")
    assert [(d["title"], d["pages"]) for d in documents] == [
        ("Cases, box 1, 1 of 2", 2),
        ("Cases, box 1, 2 of 2", 1),
    ]
    # One press, and it is where it belongs.
    there = ["Cases, box 1, 1 of 2.pdf", "Cases, box 1, 2 of 2.pdf"]
    until(lambda: sorted(one.name for one in folder.glob("*.pdf")) == there, 60, "both to be in the case room")
    # Deleted, it is gone from the shelf; what it made stays.
    page.goto("/")
    page.get_by_role("button", name="Open the order slip Cases").click()
    page.get_by_role("button", name="Delete …").click()
    page.get_by_role("alertdialog").get_by_role("button", name="Delete").click()
    expect(page.get_by_role("region", name="Order slips")).to_have_count(0)
    expect(page.get_by_role("link", name=re.compile("Cases, box 1"))).to_be_visible()


def test_a_slip_that_waits_is_started_by_laying_paper_in(page: Page, live: Live, stack: int):
    live.control(TWO_SIDED, load="", speed=0)
    choose(page, "Feeder Two", 75)
    page.get_by_role("button", name="Keep as a slip").click()
    slip = page.get_by_role("dialog")
    slip.get_by_label("Name of the slip").fill("Post")
    slip.get_by_label("Stacks and documents are named").fill("Post {counter}")
    slip.get_by_role("button", name="Keep", exact=True).click()
    page.get_by_role("button", name="Let Post wait at the station").click()
    expect(station(page, "Feeder Two")).to_contain_text("Post waits here")
    page.goto("/")
    slips = page.get_by_role("region", name="Order slips")
    expect(slips).to_contain_text("Waits at Feeder Two: lay the paper in, or press its start key.")
    live.control(TWO_SIDED, load="letters")
    expect(page.get_by_role("link", name=re.compile("Post 1"))).to_contain_text("4 pages", timeout=60_000)
    live.control(TWO_SIDED, load="letters")
    expect(page.get_by_role("link", name=re.compile("Post 2"))).to_contain_text("4 pages", timeout=60_000)
    slips.get_by_role("button", name="Post: stop waiting").click()
    expect(slips).not_to_contain_text("Waits at")


def test_a_slip_is_read_as_its_sentence_changed_copied_tried_dry_and_asks_before_the_first_sheet(
    page: Page, live: Live, stack: int
):
    for one in live.call("GET", "/api/v1/order-slips"):  # by the tests before
        live.call("DELETE", f"/api/v1/order-slips/{one['id']}")
    live.control(TWO_SIDED, load="letters", speed=0)
    choose(page, "Feeder Two", 75)
    page.get_by_role("button", name="Keep as a slip").click()
    slip = page.get_by_role("dialog")
    slip.get_by_label("Name of the slip").fill("Letters")
    slip.get_by_role("button", name="Keep", exact=True).click()
    expect(slip).to_have_count(0)

    page.goto("/")
    shelf = page.get_by_role("region", name="Order slips")
    shelf.get_by_role("button", name="Open the order slip Letters").click()
    expect(slip.get_by_test_id("slip")).to_contain_text("Feeder Two captures the fronts only")
    pick(page, "Sides", "both sides")
    pick(page, "A new document after", "every page")
    page.get_by_role("button", name=re.compile("^The papers")).click()
    page.get_by_role("textbox", name="Box", exact=True).click()  # what opens lies above the sheet
    page.get_by_role("textbox", name="Box", exact=True).fill("27")
    page.keyboard.press("Escape")
    slip.get_by_label("Stacks and documents are named").fill("Letters of {written}")
    made = slip.get_by_role("region", name="Names that it makes")
    expect(made).to_contain_text("All of them have the same")
    slip.get_by_role("checkbox", name="Year").check()
    expect(made.get_by_role("listitem")).to_have_text(["Letters of ‹the year›"])
    slip.get_by_label("Stacks and documents are named").fill("Letters of {page}")
    expect(slip).to_contain_text("There is no placeholder {page}")
    expect(made).to_have_count(0)
    slip.get_by_label("Stacks and documents are named").fill("Letters of {written}")
    slip.get_by_role("button", name="Keep", exact=True).click()
    expect(slip).to_have_count(0)
    kept = {one["name"]: one for one in live.call("GET", "/api/v1/order-slips")}["Letters"]
    assert (kept["settings"]["two_sided"], kept["new_document_after"], kept["asks"]) == (True, "number of pages", ["year"])
    assert kept["original"]["box"] == "27"

    shelf.get_by_role("button", name="Open the order slip Letters").click()
    slip.get_by_role("button", name="Try it dry").click()
    expect(slip.get_by_role("list", name="Tried dry")).to_contain_text("Feeder Two is ready.")
    expect(slip.get_by_role("list", name="Tried dry")).to_contain_text("a new document begins after every page")
    slip.get_by_role("button", name="Copy").click()
    expect(shelf.get_by_role("listitem")).to_contain_text(["Letters", "Letters, copy"])
    shelf.get_by_role("button", name="Open the order slip Letters, copy").click()
    slip.get_by_role("button", name="Earlier").click()
    expect(slip.get_by_role("status")).to_have_text("1 of 2")
    slip.get_by_role("button", name="Delete …").click()
    page.get_by_role("alertdialog").get_by_role("button", name="Delete").click()
    expect(shelf.get_by_role("listitem")).to_have_count(1)

    shelf.get_by_role("button", name=re.compile("^Letters Feeder Two")).click()
    expect(slip).to_contain_text("Still to say: year.")
    slip.get_by_label("Year").fill("1927")
    page.keyboard.press("Enter")
    page.wait_for_url(re.compile(r"/stacks/(?!" + str(stack) + r"/)\d+/intake"))
    made = int(page.url.split("/")[-2])
    finished(page)
    told = live.call("GET", f"/api/v1/stacks/{made}")
    assert (told["name"], told["original"]["box"], told["original"]["year"]) == ("Letters of 1927", "27", "1927")
    until(lambda: len(live.call("GET", f"/api/v1/stacks/{made}/documents")) == 4, 240, "each letter to be a document")

    # What becomes of the paper is said in the stack, and printed on its cover sheet.
    page.get_by_role("button", name=re.compile("^The papers")).click()
    pick(page, "What becomes of the paper", "Back to its place")
    page.get_by_role("textbox", name="Who sees to it").fill("the reading room")
    page.keyboard.press("Escape")
    until(lambda: live.call("GET", f"/api/v1/stacks/{made}")["original"]["by"] == "the reading room", 30, "it to be kept")
    page.get_by_role("button", name=re.compile("^The papers")).click()
    page.get_by_role("link", name="Cover sheet to print").click()
    expect(page.get_by_role("heading", name="Letters of 1927")).to_be_visible()
    expect(page.get_by_role("main")).to_contain_text("Back to its place")
    live.call("DELETE", f"/api/v1/order-slips/{kept['id']}")
