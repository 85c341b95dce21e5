"""The Valley view in the browser: stepping, changing a grip, patterns, links, comparing, pictures; by keys and by pointer."""

import re

from playwright.sync_api import Page, expect

from tests.e2e.axe import DESK, hindrances
from tests.e2e.controls import choice, choose, tick
from tests.e2e.test_corrections import last_change
from tests.e2e.test_interface import open_view


def open_hands(page: Page, address: str, style: str = "Root below, chord above") -> None:
    open_view(page, address, "valley")
    choose(page, "voicing", style)
    expect(last_change(page)).to_contain_text(f"voicing “{style}”")
    expect(page.get_by_role("tab", name="grip")).to_be_visible()


def chosen_notes(page: Page) -> list[str]:
    return page.get_by_label("Notes of the grip").get_by_role("button").all_inner_texts()


def test_a_grip_is_changed_by_keys_spread_undone_and_kept(page: Page, charted: str) -> None:
    open_hands(page, charted)
    page.keyboard.press("ArrowDown")
    before = chosen_notes(page)
    page.keyboard.press("ArrowRight")
    page.keyboard.press("d")
    expect(last_change(page)).to_contain_text("doubled")
    assert len(chosen_notes(page)) == len(before) + 1
    choose(page, "changes hold", "wherever this chord is")
    page.keyboard.press("i")
    expect(last_change(page)).to_contain_text("turned up")
    page.reload()
    expect(page.locator("[stroke-dasharray='1 3']")).not_to_have_count(0)  # what the creator set is marked
    page.keyboard.press("Control+z")
    expect(last_change(page)).to_contain_text("doubled")
    page.keyboard.press("Control+z")
    expect(last_change(page)).to_contain_text("voicing “Root below, chord above”")


def test_a_note_is_drawn_to_another_key_with_the_pointer(page: Page, charted: str) -> None:
    open_hands(page, charted, "Shell")
    mark = page.locator("g.grip").first.locator("g.mark").last
    box = mark.bounding_box()
    assert box
    page.mouse.move(box["x"] + 10, box["y"] + 10)
    page.mouse.down()
    page.mouse.move(box["x"] + 60, box["y"] + 10, steps=5)
    page.mouse.up()
    expect(last_change(page)).to_contain_text(re.compile(r"moved \d+ half steps? up"))
    page.keyboard.press("b")
    expect(last_change(page)).to_contain_text("as Valley chooses it")


def test_another_way_is_taken_by_its_number(page: Page, charted: str) -> None:
    open_hands(page, charted)
    ways = page.get_by_label("Other grips for this chord").get_by_role("button")
    expect(ways.nth(3)).to_be_visible()
    page.keyboard.press("3")
    expect(last_change(page)).to_contain_text("another grip taken")
    expect(page.get_by_role("tabpanel")).to_contain_text("set by you")
    page.keyboard.press("Control+z")


def test_patterns_are_chosen_and_written(page: Page, charted: str) -> None:
    open_hands(page, charted)
    page.keyboard.press("w")
    page.get_by_role("button", name="Low, then the upper notes").click()
    expect(last_change(page)).to_contain_text("pattern “Low, then the upper notes”")
    page.get_by_role("button", name="write a pattern of your own").click()
    page.get_by_label("name", exact=True).fill("Slow waltz")
    page.get_by_label("left hand", exact=True).fill("low@1 upper@1")
    expect(page.get_by_text("a bar of 3/4 has 3")).to_be_visible()
    expect(page.get_by_role("button", name="Keep it")).to_be_disabled()
    page.get_by_label("left hand", exact=True).fill("low@1 upper@2")
    expect(page.get_by_text("It fills the bar.")).to_be_visible()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("button", name="Slow waltz", exact=True)).to_be_visible()


def test_links_and_variations_are_taken_and_left(page: Page, charted: str) -> None:
    open_hands(page, charted)
    page.keyboard.press("y")
    page.get_by_label("Links").get_by_role("button", name="play it").first.click()
    expect(page.get_by_label("Links").get_by_role("button", name="leave it out").first).to_be_visible()
    tick(page, "drop the last chord")
    expect(last_change(page)).to_contain_text("without its last chord")
    choose(page, "ending", "in octaves, full")
    expect(last_change(page)).to_contain_text("ending in octaves")


def test_two_voicings_stand_side_by_side(page: Page, charted: str) -> None:
    open_hands(page, charted)
    page.keyboard.press("v")
    choose(page, "compare with", "Big finish")
    expect(page.get_by_role("region", name="Voicing the other")).to_contain_text("half steps")
    page.get_by_role("button", name="hear the other").click()
    page.get_by_role("button", name="Take it for part").click()
    expect(last_change(page)).to_contain_text("voicing “Big finish”")


def test_a_picture_of_the_grip_is_taken_away(page: Page, charted: str) -> None:
    open_hands(page, charted)
    with page.expect_download() as download:
        page.get_by_role("link", name="picture of this grip").click()
    content = download.value.path().read_text("utf-8")
    assert content.startswith("<svg") and 'class="right"' in content


def test_notes_of_a_bar_are_put_pulled_and_changed_by_keys(page: Page, charted: str) -> None:
    open_hands(page, charted)
    page.keyboard.press("u")
    notes = page.get_by_role("listbox", name=re.compile("^Notes of"))
    marks = notes.get_by_role("option")
    expect(marks.first).to_be_visible()
    before = marks.count()
    box = notes.bounding_box()
    assert box
    page.mouse.click(box["x"] + 40, box["y"] + 34 + 14 + 46)  # an empty place on the second count
    expect(last_change(page)).to_contain_text("put in on")
    expect(marks).to_have_count(before + 1)
    notes.focus()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("3")  # no key waits for the answer to the one before
    expect(last_change(page)).to_contain_text("with finger 3")
    page.keyboard.press("Delete")
    expect(last_change(page)).to_contain_text("taken out")
    line = page.get_by_role("textbox", name="Right hand")
    line.fill("1 C5 2& E5")
    line.press("Enter")
    expect(last_change(page)).to_contain_text("the right hand as it was written, 2 notes")
    back = page.get_by_role("button", name="As Valley proposes")
    for left in (1, 0):  # the song is as it was for those that come after
        expect(back).to_have_count(left + 1)
        back.last.click()
        expect(last_change(page)).to_contain_text("as Valley proposes it")
    expect(back).to_have_count(0)


def test_a_pass_is_played_in_and_taken(page: Page, charted: str) -> None:
    open_hands(page, charted)
    page.keyboard.press("p")
    page.get_by_role("button", name="Record from part").click()
    pad = page.get_by_label("A keyboard to play on")
    expect(pad).to_be_visible()
    box = pad.bounding_box()
    assert box
    for x in (30, 90, 150, 210):
        page.mouse.click(box["x"] + x, box["y"] + box["height"] - 6)
        page.wait_for_timeout(250)
    page.get_by_role("button", name="Stop recording").click()
    expect(page.get_by_text(re.compile("4 keys in bars"))).to_be_visible()
    page.get_by_role("button", name="Take it").click()
    expect(last_change(page)).to_contain_text("both hands as you played, 4 notes")
    page.keyboard.press("Control+z")
    expect(last_change(page)).not_to_contain_text("as you played")


def test_every_desk_of_the_hands_can_be_used_by_everyone(page: Page, charted: str) -> None:
    open_hands(page, charted)
    for desk in "quwyvp":
        page.keyboard.press(desk)
        page.wait_for_timeout(300)
        assert hindrances(page, within="" if desk == "q" else DESK) == [], desk
    choice(page, "voicing").click()
    expect(page.get_by_role("listbox")).to_be_visible()
    assert hindrances(page, within="[role=listbox]") == []
