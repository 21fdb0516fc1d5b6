"""Hands on the parts that every view is made of."""

import re
from collections.abc import Callable
from typing import Any

from playwright.sync_api import Locator, Page


def pick(page: Page, field: str, option: str | re.Pattern[str]) -> None:
    """Choose from a list that opens: a field, or a piece of the slip's sentence, by its label."""
    page.get_by_role("combobox", name=re.compile(rf"^{re.escape(field)}\b")).click()
    page.get_by_role("option", name=option).first.click()


def write(page: Page, piece: str, field: str, value: str) -> None:
    """Write in what opens at a piece of the slip's sentence."""
    page.get_by_role("button", name=re.compile(rf"^{re.escape(piece)}:")).click()
    page.get_by_role("textbox", name=field).fill(value)
    page.keyboard.press("Escape")


def meanwhile(page: Page, test: Callable[[], Any], seconds: float, what: str) -> Any:
    """Wait for something to be true while the browser, and what answers in its place, go on; returns it."""
    for _ in range(int(seconds / 0.15)):
        if found := test():
            return found
        page.wait_for_timeout(150)
    raise AssertionError(f"waited {seconds:.0f} s in vain for {what}")


def station(page: Page, name: str) -> Locator:
    """The drawn device of a station, or of one of its sources."""
    return page.get_by_role("list", name="Stations").get_by_role("button", name=re.compile(rf"^{re.escape(name)}"))


def cells(page: Page) -> Locator:
    """The pages of the grid."""
    return page.get_by_role("listbox", name="Pages").get_by_role("option")


def chosen(page: Page) -> Locator:
    """Those of them that are chosen."""
    return page.get_by_role("listbox", name="Pages").get_by_role("option", selected=True)


def go_by_menu(page: Page, place: str) -> None:
    """Go to a view by the menu of whoever is signed in."""
    page.get_by_role("button", name="keeper").click()
    page.get_by_role("menuitem", name=place).click()


def bound(page: Page) -> Locator:
    """The documents bound from a stack, the newest first, in the binding view."""
    return page.get_by_role("list", name="Documents bound").get_by_role("listitem")
