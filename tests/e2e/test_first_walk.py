"""The first walk: offered once, led from the doubtful chord to the printed page, left at any time, found again under the keys."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.e2e.axe import hindrances


def test_a_newcomer_is_led_from_a_chord_to_the_printed_page(page: Page, charted: str) -> None:
    song = int(re.findall(r"\d+", charted)[0])
    page.goto("/")
    page.evaluate(f"localStorage.setItem('valley-walk', JSON.stringify({{fresh: false, stop: 0, song: {song}}}))")
    page.goto(charted)
    walk = page.get_by_role("region", name="First walk")
    expect(walk).to_contain_text("Where Valley is unsure")
    expect(page.locator("[data-stop=ground]")).to_have_css("outline-style", "dotted")
    assert hindrances(page) == []
    walk.get_by_role("button", name="Go on").click()
    expect(walk).to_contain_text("Say what you hear")
    page.reload()
    expect(walk).to_contain_text("Say what you hear")  # it stands where it stood
    expect(page.get_by_label("Readings of this chord")).to_be_visible()
    page.keyboard.press("1")  # what it waits for: a reading is chosen
    expect(page).to_have_url(re.compile(r"/parts$"))
    expect(walk).to_contain_text("3 of 6")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Redo")).to_be_enabled()
    expect(walk).to_contain_text("3 of 6")
    for view, words in (("valley", "What two hands play"), ("script", "The words to film"), ("hand-outs", "What viewers get")):
        walk.get_by_role("button", name="Go on").click()
        expect(page).to_have_url(re.compile(rf"/{view}$"))
        expect(walk).to_contain_text(words)
        expect(page.locator("[data-stop]").first).to_be_visible()
    page.get_by_role("link", name="Records").click()  # whoever goes elsewhere is shown the way back
    walk.get_by_role("button", name="Back to the walk").click()
    expect(page).to_have_url(re.compile(r"/hand-outs$"))
    walk.get_by_role("button", name="That was the way").click()
    expect(walk).to_have_count(0)
    page.reload()
    expect(page.get_by_role("link", name="Records")).to_be_visible()
    expect(walk).to_have_count(0)


def test_it_is_offered_once_and_stays_under_the_keys(page: Page, charted: str) -> None:
    page.goto("/")
    page.get_by_role("button", name="not now").click()
    expect(page.get_by_text("New here?")).to_have_count(0)
    page.reload()
    expect(page.get_by_role("list", name="Songs")).to_be_visible()
    expect(page.get_by_text("New here?")).to_have_count(0)
    page.keyboard.press("?")
    page.get_by_role("button", name="take the first walk").click()
    walk = page.get_by_role("region", name="First walk")
    expect(walk).to_contain_text("Where Valley is unsure")
    expect(page).to_have_url(re.compile(r"/survey$"))
    walk.get_by_role("button", name="leave").click()
    expect(walk).to_have_count(0)
