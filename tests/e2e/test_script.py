"""The Script view and the hand-outs in the browser."""

import re

from playwright.sync_api import Page, expect

from tests.e2e.axe import DESK, hindrances
from tests.e2e.controls import choose
from tests.e2e.test_corrections import last_change
from tests.e2e.test_interface import open_view


def open_script(page: Page, address: str) -> None:
    open_view(page, address, "script")
    expect(page.get_by_label("Steps of the lesson")).to_contain_text("What you will learn")


def test_steps_are_walked_moved_left_out_and_added_by_keys(page: Page, charted: str) -> None:
    open_script(page, charted)
    steps = page.get_by_label("Steps of the lesson").get_by_role("heading")
    count = steps.count()
    page.keyboard.press("ArrowDown")
    title = steps.nth(1).inner_text()
    page.keyboard.press("Shift+ArrowDown")
    expect(last_change(page)).to_contain_text("moved")
    expect(steps.nth(2)).to_have_text(title)
    page.keyboard.press("a")
    expect(steps).to_have_count(count + 1)
    page.keyboard.press("Control+z")
    expect(steps).to_have_count(count)
    page.keyboard.press("Control+z")
    expect(steps.nth(1)).to_have_text(title)
    page.keyboard.press("x")
    expect(steps).to_have_count(count - 1)
    page.get_by_role("button", name=re.compile("take it in again")).first.click()
    expect(steps).to_have_count(count)


def test_the_prompter_goes_by_keys_and_pedal(page: Page, charted: str) -> None:
    open_script(page, charted)
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("f")
    stage = page.get_by_role("dialog", name="Prompter")
    expect(stage.get_by_role("img", name=re.compile("Keys of"))).to_be_visible()
    expect(page.get_by_role("dialog", name="Prompter, step 3 of")).to_be_visible()
    # The pedal goes to the step's next chord, and on to the next step after its last: how many it has, other tests may have changed.
    here = stage.inner_text()
    page.keyboard.press("PageDown")
    expect(stage).not_to_have_text(here, use_inner_text=True)
    number = int(re.search(r"step (\d+)", stage.get_attribute("aria-label") or "")[1])
    assert number in (3, 4)
    page.keyboard.press("ArrowDown")
    expect(page.get_by_role("dialog", name=f"Prompter, step {number + 1} of")).to_be_visible()
    page.keyboard.press("Escape")
    expect(stage).to_have_count(0)


def test_times_taken_on_the_stage_become_those_of_the_lesson(page: Page, charted: str) -> None:
    open_script(page, charted)
    length = page.locator("[data-chosen=true] time")
    before = length.inner_text()
    page.keyboard.press("f")
    stage = page.get_by_role("dialog", name="Prompter")
    page.keyboard.press("t")
    expect(stage.get_by_role("button", name=re.compile("0:02, stop"))).to_be_visible()
    page.keyboard.press("Escape")
    offer = page.get_by_label("Times of your rehearsal")
    expect(offer).to_contain_text("One step took you 0:0")
    offer.get_by_role("button", name="take these times").click()
    expect(length).not_to_have_text(before)
    expect(page.get_by_text("Timed at your rehearsal.")).to_be_visible()
    page.get_by_role("button", name="all times as Valley reckons them").click()
    expect(length).to_have_text(before)


def test_words_are_read_in_the_margin(page: Page, charted: str) -> None:
    open_script(page, charted)
    page.keyboard.press("y")
    page.get_by_label("Words to read").fill("In bar 2 we play C sharp major, hold it for nine beats.")
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_label("Wrong", exact=True)).to_contain_text("C sharp major")


def test_schools_change_the_words(page: Page, charted: str) -> None:
    open_script(page, charted)
    page.keyboard.press("v")
    choose(page, "notes", "German letters")
    expect(page.get_by_label("Steps of the lesson")).to_contain_text("G A H C D E Fis")
    page.keyboard.press("Control+z")


def test_a_line_is_written_into_the_logbook(page: Page, charted: str) -> None:
    open_script(page, charted)
    page.keyboard.press("u")
    page.get_by_label("A line for the logbook").fill("inverted to keep the hand still")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Lines of the logbook")).to_contain_text("inverted to keep the hand still")


def test_hand_outs_are_looked_at_before_they_are_taken(page: Page, charted: str) -> None:
    """Every one of them; the lesson sheet's frame was once forbidden by our own headers."""
    open_view(page, charted, "hand-outs")
    files = page.get_by_label("Files").locator("button.look")
    expect(files.first).to_be_visible()
    looks = files.all_inner_texts()
    assert len(looks) >= 20
    sheets = {
        "Lesson sheet": "lesson.pdf",
        "Board of grips": "board.pdf",
        "Page for the music stand": "stand.pdf",
        "Shot list": "shots.pdf",
        "A page for viewers": "viewers.html",
    }
    for look in looks:
        if look in sheets:
            with page.expect_response(lambda r, name=sheets[look]: name in r.url) as sheet:  # type: ignore[misc]
                page.get_by_role("button", name=look, exact=True).click()
            assert "frame-ancestors 'self'" in sheet.value.headers["content-security-policy"]
            expect(page.locator(f"iframe[title='{look}']")).to_be_visible()
            page.wait_for_function("() => !document.querySelector('iframe').contentDocument?.URL.startsWith('chrome-error')")
            continue
        page.get_by_role("button", name=look, exact=True).click()
        shown = page.get_by_role("region", name=f"{look}, to look at").locator("pre, img, .paper svg").first
        expect(shown).to_be_visible()
        if shown.evaluate("e => e.tagName") == "PRE":
            assert len(shown.inner_text()) > 20, look


def test_every_desk_of_the_script_can_be_used_by_everyone(page: Page, charted: str) -> None:
    open_script(page, charted)
    for key in ("q", "w", "y", "v", "u", "f"):
        page.keyboard.press(key)
        page.wait_for_timeout(300)
        assert hindrances(page, within="" if key == "q" else DESK) == [], key
