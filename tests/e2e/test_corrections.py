"""Correcting a chart in the browser: every desk, without a mouse as well as with one."""

import itertools
import re
from typing import Any

import pytest
from playwright.sync_api import Page, Route, expect

from tests.e2e.axe import DESK, hindrances
from tests.e2e.controls import choice, choose, tick
from tests.e2e.test_interface import open_view, symbol


def last_change(page: Page) -> Any:
    return page.get_by_role("banner").get_by_role("status")


def test_a_change_is_split_off_moved_and_joined_again_by_keys(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    held = symbol(page)
    count = page.locator("[data-start]").count()
    page.keyboard.press("s")
    expect(page.locator("[data-start]")).to_have_count(count + 1)
    page.keyboard.press(".")
    expect(last_change(page)).to_contain_text("moved from")
    page.keyboard.press("j")
    expect(page.locator("[data-start]")).to_have_count(count)
    expect(last_change(page)).to_contain_text("sounds on")
    assert held


def test_two_quick_moves_and_a_name_typed_at_once_mean_the_same_chord(page: Page, charted: str) -> None:
    """Keys are not held up by answers: while the first is on its way the chord stands where the eyes see it, and keeps the hand's attention."""
    open_view(page, charted, "survey")
    slow_down(page, 400)
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    start = page.locator("[data-start][aria-pressed=true]").get_attribute("data-start")
    page.keyboard.press(".")
    page.keyboard.press(".")
    page.keyboard.press("t")
    page.keyboard.type("Bdim")
    page.keyboard.press("Enter")
    expect(last_change(page)).to_contain_text("Bdim")
    expect(page.locator("[data-start][aria-pressed=true]")).to_have_attribute("data-start", str(int(start or 0) + 1))
    expect(page.locator("[data-start][aria-pressed=true]")).to_contain_text("Bdim")
    page.evaluate("document.activeElement.blur()")
    for _ in range(3):
        page.keyboard.press("Control+z")
    expect(page.locator("[data-start][aria-pressed=true]")).to_have_attribute("data-start", start or "")


def test_a_row_of_chords_is_written_over_bars_and_copied(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    page.keyboard.press("y")
    page.get_by_label("Go to bar").fill("2")
    page.keyboard.press("Enter")
    page.get_by_label("Chords from bar 2 on").fill("Bdim | F#7 _ Em7:1 | %")
    page.keyboard.press("Enter")
    expect(last_change(page)).to_contain_text("bars 2 to 4: chords written anew")
    for start, name in (("3", "Bdim"), ("6", "F♯7"), ("8", "Em7"), ("9", "F♯7"), ("11", "Em7")):
        expect(page.locator(f"[data-start='{start}']")).to_contain_text(name)
    page.get_by_label("Go to bar").fill("5")
    page.keyboard.press("Enter")
    page.get_by_label("First bar to copy").fill("2")
    page.get_by_label("Half steps higher").fill("2")
    page.get_by_role("button", name="copy them to bar 5").click()
    expect(last_change(page)).to_contain_text("bar 2 copied to bar 5, 2 half steps higher")
    expect(page.locator("[data-start='12']")).to_contain_text("C♯dim")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Control+z")
    expect(page.locator("[data-start='12']")).not_to_contain_text("C♯dim")
    page.keyboard.press("Control+z")
    expect(page.locator("[data-start='3']")).not_to_contain_text("Bdim")
    expect(last_change(page)).not_to_contain_text("written anew")  # the song is other tests' as well


def test_bars_are_marked_by_keys_and_on_the_ground(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    repeat = choice(page, "repeat")
    page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("b")
    page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("b")
    page.keyboard.press("Shift+ArrowDown")  # what is marked stays
    expect(page.locator("path[data-marked]").first).to_be_visible()
    page.keyboard.press("l")
    expect(repeat).to_contain_text("bars")
    marked = repeat.inner_text()
    first, last = (int(word) for word in re.findall(r"\d+", marked))
    assert last == first + 2
    page.keyboard.press("y")
    expect(page.get_by_label("First bar to copy")).to_have_value(str(first))
    expect(page.get_by_label("Last bar to copy")).to_have_value(str(last))
    page.get_by_role("button", name="these bars half a step up").click()
    expect(last_change(page)).to_contain_text(f"bars {first} to {last}: 1 half step up")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Control+z")
    expect(last_change(page)).not_to_contain_text("half step up")
    page.keyboard.press("b")
    expect(page.locator("path[data-marked]")).to_have_count(0)
    row = page.locator(".row svg").first
    row.click(position={"x": 30, "y": 80})
    row.click(position={"x": 300, "y": 80}, modifiers=["Shift"])
    expect(page.locator("path[data-marked]").first).to_be_visible()


def test_played_keys_name_the_chord(page: Page, charted: str) -> None:
    page.add_init_script("""
        const input = {name: "Test keys", onmidimessage: null};
        window.__keys = input;
        navigator.requestMIDIAccess = async () => ({inputs: new Map([["a", input]]), onstatechange: null});
    """)
    open_view(page, charted, "survey")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("p")
    page.get_by_role("button", name="use a MIDI keyboard").click()
    expect(page.get_by_text("Listening to Test keys.")).to_be_visible()
    page.evaluate("""() => {
        for (const key of [54, 62, 69]) window.__keys.onmidimessage({data: [0x90, key, 80]});
        for (const key of [54, 62, 69]) window.__keys.onmidimessage({data: [0x80, key, 0]});
    }""")
    expect(page.get_by_text("F♯ is the third", exact=False).first).to_be_visible()
    page.locator("body").click(position={"x": 5, "y": 5})
    page.keyboard.press("Enter")
    expect(last_change(page)).to_contain_text("D/F♯")
    page.keyboard.press("Control+z")


def test_the_tune_is_walked_and_bent_note_by_note(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    page.locator("g[data-note]").first.click(force=True)
    pitch = page.get_by_role("tabpanel").get_by_role("heading", level=2).first
    before = pitch.inner_text()
    page.keyboard.press("ArrowUp")
    expect(pitch).not_to_have_text(before)
    expect(last_change(page)).to_contain_text(f"instead of {before}")
    page.keyboard.press("Control+z")
    expect(pitch).to_have_text(before)


def test_the_grid_and_the_key_are_changed_from_a_bar_on(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    page.get_by_role("button", name=re.compile("^Bar 5, beat 1")).click()
    page.keyboard.press("y")
    choose(page, "metre from this bar on", "4/4")
    expect(last_change(page)).to_contain_text("bar 5: 4/4 from here on")
    expect(page.locator("svg text", has_text="5 · 4/4")).to_be_attached()
    choose(page, "Tonic", "A♭")
    page.get_by_role("button", name="set it").click()
    expect(page.get_by_role("banner")).to_contain_text("then A♭ major")
    page.get_by_label("Cue word").fill("the turn")
    page.keyboard.press("Enter")
    expect(page.get_by_text("“the turn”").first).to_be_visible()
    for _ in range(3):
        page.evaluate("document.activeElement.blur()")
        page.keyboard.press("Control+z")
    expect(page.get_by_role("banner")).not_to_contain_text("A♭ major")


# Where the recording is at each key press, as the page itself could see it.
NOTE_TAPS = """
const play = HTMLMediaElement.prototype.play;
HTMLMediaElement.prototype.play = function () { window.sounding = this; return play.call(this); };
window.tapped = [];
window.addEventListener("keydown", (e) => e.key === "t" && window.tapped.push(window.sounding?.currentTime ?? 0), true);
"""


def test_a_tapped_tempo_is_taken_from_the_recording(page: Page, charted: str) -> None:
    page.add_init_script(NOTE_TAPS)
    open_view(page, charted, "survey")
    page.keyboard.press("y")
    page.keyboard.press("t")
    expect(page.get_by_role("button", name="Stop", exact=True)).to_be_visible()
    for _ in range(6):
        page.wait_for_timeout(508)  # the waltz goes at 118; a busy machine taps later, and its recording may wait
        page.keyboard.press("t")
    taps = page.evaluate("window.tapped.slice(-6)")
    page.get_by_role("button", name="use these taps").click()
    expect(last_change(page)).to_contain_text(re.compile(r"tempo tapped, \d+ to the minute"))
    shown = int(re.findall(r"\d+", last_change(page).inner_text())[0])
    between = [b - a for a, b in itertools.pairwise(taps)]
    assert 0.9 * 60 / max(between) < shown < 1.1 * 60 / min(between), (shown, between)
    page.keyboard.press("Control+z")


def test_versions_are_compared_and_brought_back(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("t")
    page.keyboard.type("Ebmaj7")
    page.keyboard.press("Enter")
    expect(last_change(page)).to_contain_text("E♭maj7")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("v")
    page.get_by_role("list", name="Versions").get_by_role("button", name=re.compile("Heard in the recording")).click()
    expect(page.get_by_text(re.compile("E♭maj7 instead of")).last).to_be_visible()
    page.get_by_role("button", name="Bring version 1 back").click()
    expect(last_change(page)).to_contain_text("version 1 brought back")
    page.reload()
    expect(last_change(page)).to_contain_text("version 1 brought back")


def test_listening_again_keeps_what_was_set(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    page.locator("[data-start]").nth(2).click()
    page.get_by_label("Type it").fill("F#maj7")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="F♯maj7, set by you")).to_be_visible()
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("v")
    page.get_by_role("button", name="Listen again").click()
    told = re.compile(r"Listened again; what you set is kept; it hears \d+ of your chords otherwise")  # other tests may have set some too
    expect(last_change(page)).to_have_text(told, timeout=180_000)  # a whole hearing, beside other suites
    page.keyboard.press("q")
    expect(page.get_by_text(re.compile("Valley hears .* here"))).to_be_visible()
    expect(page.locator("[data-start]").nth(2)).to_contain_text("F♯maj7")


def test_parts_are_split_named_and_planned(page: Page, charted: str) -> None:
    open_view(page, charted, "parts")
    page.get_by_label("new part at bar").fill("3")
    page.keyboard.press("Enter")
    expect(last_change(page)).to_contain_text("split at bar 3")
    page.get_by_label("called").fill("opening")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Part 1 opening")).to_be_visible()
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("w")
    expect(page.get_by_role("heading", level=3).first).to_be_visible()
    page.keyboard.press("y")
    choose(page, "lessons of about", "5 minutes")
    expect(page.get_by_text(re.compile("Lesson 2: part"))).to_be_visible()
    choose(page, "lessons of about", "any length")
    expect(page.get_by_text(re.compile("Lesson 2: part"))).not_to_be_visible()


@pytest.mark.parametrize("keys", ["", "p", "w", "y", "v"])
def test_a_screen_reader_finds_nothing_amiss_at_any_desk(page: Page, charted: str, keys: str) -> None:
    open_view(page, charted, "survey")
    if keys:
        page.keyboard.press(keys)
    page.wait_for_timeout(400)
    assert hindrances(page, within=DESK if keys else "") == []


def slow_down(page: Page, milliseconds: int = 700) -> None:
    """Every change takes its time, as on a machine that is busy."""

    def later(route: Route) -> None:
        if route.request.method != "GET":
            page.wait_for_timeout(milliseconds)
        route.continue_()

    page.route("**/api/**", later)


def test_what_is_typed_faster_than_answers_come_is_kept(page: Page, charted: str) -> None:
    """A chord typed just after another correction was answered by a conflict, and was gone after a reload."""
    open_view(page, charted, "survey")
    slow_down(page)
    page.locator("[data-start]").nth(1).click()
    page.keyboard.press("2")
    for n, text in ((2, "Am7"), (3, "F#dim"), (4, "Gsus4")):
        page.locator("[data-start]").nth(n).click()
        page.get_by_label("Type it").fill(text)
        page.keyboard.press("Enter")
    expect(page.locator("[data-start]").nth(4)).to_contain_text("Gsus4")
    page.unroute_all(behavior="wait")
    page.reload()
    for n, text in ((2, "Am7"), (3, "F♯dim"), (4, "Gsus4")):
        expect(page.locator("[data-start]").nth(n)).to_contain_text(text)
    expect(last_change(page)).to_contain_text("Gsus4 instead of")
    expect(page.get_by_role("alert")).to_have_count(0)
    page.reload()
    expect(page.locator("[data-start]").nth(4)).to_contain_text("Gsus4")
    for _ in range(4):
        page.keyboard.press("Control+z")


def test_a_tick_does_not_take_back_the_minutes_of_the_same_day(page: Page, charted: str) -> None:
    page.goto("/calendar")
    minutes = page.get_by_label("Minutes on Sunday")
    expect(minutes).to_be_visible()
    boxes = [page.get_by_label(f"{deed} on Sunday") for deed in ("Film", "Publish")]
    wanted = [not box.is_checked() for box in boxes]
    slow_down(page)
    minutes.fill("75")
    for box, checked in zip(boxes, wanted, strict=True):
        tick(page, str(box.get_attribute("aria-label")))
        expect(box).to_be_checked(checked=checked)
    page.unroute_all(behavior="wait")
    week = "(await (await fetch('/api/calendar')).json()).week"
    kept = f"week.minutes[6] === 75 && {_has('film', wanted[0])} && {_has('publish', wanted[1])}"
    page.wait_for_function(f"async () => {{ const week = {week}; return {kept}; }}")
    page.reload()
    expect(page.get_by_label("Minutes on Sunday")).to_have_value("75")
    for box, checked in zip(boxes, wanted, strict=True):
        expect(box).to_be_checked(checked=checked)


def _has(deed: str, wanted: bool) -> str:
    return f"week.{deed}.includes(6) === {str(wanted).lower()}"
