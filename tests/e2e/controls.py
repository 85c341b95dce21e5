"""Handling the page's own controls as a hand does."""

import re

from playwright.sync_api import Locator, Page, expect


def choice(page: Page | Locator, label: str) -> Locator:
    """A closed list; it is named by what is chosen, and then by its label."""
    return page.get_by_role("button", name=re.compile(rf"\s{re.escape(label)}$", re.IGNORECASE)).first


def choose(page: Page | Locator, label: str, words: str) -> None:
    """Opens a list and takes what begins with these words."""
    choice(page, label).click()
    whole = page if isinstance(page, Page) else page.page
    whole.get_by_role("option", name=re.compile("^" + re.escape(words).replace("/", "\\/"))).first.click()
    expect(whole.get_by_role("listbox")).to_have_count(0)


def tick(page: Page | Locator, label: str) -> None:
    """Changes a tick by a press on its words or its box."""
    page.get_by_role("checkbox", name=label).first.locator("xpath=ancestor::label").click()


def seek(page: Page, seconds: int) -> None:
    """To a place in the song by the bar in the player."""
    page.get_by_role("slider", name="Place in the recording").fill(str(seconds))
