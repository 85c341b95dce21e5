"""The interface piece by piece: keys, sound, conflicts, errors, and what a screen reader finds."""

import re
import time
from itertools import pairwise
from pathlib import Path
from typing import Any, Literal

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.e2e.axe import hindrances
from tests.e2e.controls import choose, seek

VIEWS = ["survey", "parts", "valley", "hand-outs"]


def open_view(page: Page, charted: str, view: str) -> None:
    page.goto(f"{charted}/{view}")
    expect(page.get_by_role("navigation", name="Views of this song")).to_be_visible()
    if view == "survey":
        expect(page.locator("[role=group][aria-busy=false]")).to_be_visible()  # the rows out of sight are drawn as well


def symbol(page: Page) -> str:
    return page.locator("[data-start][aria-pressed=true]").inner_text()


def test_a_chart_is_corrected_by_keyboard_alone(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    before = symbol(page)
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    expect(page.locator("[data-start][aria-pressed=true]")).not_to_have_text(before)
    old = symbol(page)
    page.keyboard.press("3")
    expect(page.get_by_role("heading", name=re.compile("set by you"))).to_be_visible()
    new = symbol(page)
    assert new != old
    page.keyboard.press("Control+z")
    expect(page.locator("[data-start][aria-pressed=true]")).to_have_text(old)
    page.keyboard.press("Control+Shift+Z")
    expect(page.locator("[data-start][aria-pressed=true]")).to_have_text(new)
    page.keyboard.press("Control+z")
    expect(page.locator("[data-start][aria-pressed=true]")).to_have_text(old)


def test_the_next_doubt_is_one_key_away(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    page.keyboard.press("n")
    expect(page.locator("[data-start][aria-pressed=true]")).to_have_attribute("data-doubtful", "true")
    expect(page.get_by_role("heading", name="What is it?")).to_be_visible()


def test_what_is_no_chord_is_said_while_typing(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    page.get_by_label("Type it").fill("Xyz")
    expect(page.locator("#chord-says")).to_contain_text("no chord that Valley can read")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("no chord")


def test_two_windows_never_lose_a_change(page: Page, charted: str, browser: Browser, base_url: str) -> None:
    open_view(page, charted, "survey")
    other = browser.new_page(base_url=base_url)
    other.route("**/revision", lambda route: route.abort())  # it never learns of the other's change
    open_view(other, charted, "survey")
    for window, text in ((page, "Bm7"), (other, "Bb")):
        window.locator("[data-start]").nth(6).click()
        window.get_by_label("Type it").fill(text)
        window.keyboard.press("Enter")
        if window is page:
            expect(page.get_by_role("banner").get_by_role("status")).to_contain_text("Bm7 instead of")
    expect(other.get_by_role("alert")).to_contain_text("changed in another window")
    expect(other.locator("[data-start]").nth(6)).to_contain_text("Bm7")
    other.get_by_role("button", name="Make my change here too").click()
    expect(other.locator("[data-start]").nth(6)).to_contain_text("B♭")
    expect(other.get_by_role("banner").get_by_role("status")).to_contain_text("B♭ instead of")
    other.close()
    page.reload()
    expect(page.locator("[data-start]").nth(6)).to_contain_text("B♭")


def test_a_window_draws_what_another_changed(page: Page, charted: str, browser: Browser, base_url: str) -> None:
    open_view(page, charted, "survey")
    other = browser.new_page(base_url=base_url)
    open_view(other, charted, "survey")
    page.locator("[data-start]").nth(4).click()
    page.get_by_label("Type it").fill("F#dim")
    page.keyboard.press("Enter")
    expect(other.locator("[data-start]").nth(4)).to_contain_text("F♯dim", timeout=8000)
    other.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-start]").nth(4)).not_to_contain_text("F♯dim", timeout=8000)
    other.close()


def media(page: Page) -> dict[str, Any]:
    state: dict[str, Any] = page.evaluate("() => { const m = window.__valleyMedia; return {time: m.currentTime, paused: m.paused, rate: m.playbackRate} }")
    return state


@pytest.fixture
def sound(page: Page) -> None:
    """Lets a test look at the media element, which stands on no page."""
    page.add_init_script("const Plain = Audio; window.Audio = function (...a) { return (window.__valleyMedia = new Plain(...a)); };")


def test_the_recording_plays_seeks_slows_and_repeats(page: Page, charted: str, sound: None) -> None:
    ranges: list[int] = []
    page.on("response", lambda r: ranges.append(r.status) if "/recordings/" in r.url else None)
    open_view(page, charted, "valley")
    choose(page, "hear", "both together")
    page.keyboard.press("Space")
    page.wait_for_function("() => window.__valleyMedia.currentTime > 0.4")
    assert not media(page)["paused"]
    expect(page.get_by_role("button", name="Stop", exact=True)).to_be_visible()
    choose(page, "speed", "70")
    assert media(page)["rate"] == pytest.approx(0.7)
    seek(page, 40)
    page.wait_for_function("() => window.__valleyMedia.currentTime > 40.2")
    expect(page.locator("footer .where")).to_contain_text("bar")
    page.keyboard.press("Escape")
    choose(page, "repeat", "part")
    page.wait_for_function("() => window.__valleyMedia.currentTime < 12")
    page.evaluate("() => { window.__valleyMedia.currentTime = 1000 }")  # past the part's end
    page.wait_for_function("() => window.__valleyMedia.currentTime < 12")
    page.get_by_role("button", name="Stop", exact=True).click()
    assert media(page)["paused"]
    assert 206 in ranges


def test_space_plays_from_the_place_in_hand_whatever_has_the_focus(page: Page, charted: str, sound: None) -> None:
    open_view(page, charted, "survey")
    for _ in range(20):
        page.keyboard.press("ArrowRight")
    place = page.locator("footer .where")
    expect(place).not_to_contain_text("0:00")
    before = media(page)["time"]
    assert before > 5 and media(page)["paused"]
    page.get_by_role("button", name="all keys").focus()
    page.keyboard.press("Space")
    page.wait_for_function(f"() => !window.__valleyMedia.paused && window.__valleyMedia.currentTime > {before} + 0.3")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("Space")
    page.wait_for_function("() => window.__valleyMedia.paused")
    page.get_by_label("Bars and chords").locator("svg").first.click(position={"x": 30, "y": 90})
    page.wait_for_function("() => window.__valleyMedia.currentTime < 3")


def test_a_bar_is_counted_in(page: Page, charted: str, sound: None) -> None:
    open_view(page, charted, "survey")
    page.keyboard.press("k")
    page.keyboard.press("Space")
    expect(page.locator("footer .where")).to_contain_text("count 2")
    assert media(page)["paused"]
    page.wait_for_function("() => !window.__valleyMedia.paused")


def test_the_hands_are_walked_through_by_arrows(page: Page, charted: str) -> None:
    open_view(page, charted, "valley")
    expect(page.get_by_role("group", name=re.compile("Both hands in part"))).to_be_visible()
    margin = page.get_by_label("The selected grip")
    expect(margin).to_contain_text("Why here")
    first = margin.inner_text()
    page.keyboard.press("ArrowDown")
    expect(margin).to_contain_text("From the grip before")
    page.keyboard.press("ArrowUp")
    expect(margin).to_have_text(re.compile(re.escape(first.splitlines()[0])))


def test_a_part_is_chosen_on_the_route(page: Page, charted: str) -> None:
    open_view(page, charted, "valley")
    page.get_by_role("navigation", name="Parts of the song").get_by_role("button").nth(1).click()
    expect(page.get_by_role("group", name=re.compile("Both hands in part 2"))).to_be_visible()


def test_all_keys_are_listed_on_a_question_mark(page: Page, charted: str) -> None:
    open_view(page, charted, "parts")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("Alexander Holm")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_files_that_cannot_be_heard_say_why_and_stay(page: Page, tmp_path: Path) -> None:
    words = tmp_path / "shopping list.mp3"
    words.write_text("milk, bread, strings " * 200)
    page.goto("/")
    page.set_input_files("input[type=file]", str(words))
    line = page.get_by_role("listitem").filter(has=page.get_by_role("link", name="shopping list"))
    expect(line.get_by_role("alert")).to_contain_text("is no recording that can be read")
    line.get_by_role("button", name=re.compile("off the shelf")).click()
    expect(page.get_by_role("status").filter(has_text="taken off the shelf")).to_be_visible()
    page.get_by_role("button", name="Put it back").click()
    expect(line).to_be_visible()


def test_too_large_and_twin_files_are_answered_at_once(page: Page, charted: str, tmp_path: Path) -> None:
    from tests.e2e.conftest import WALTZ

    large = tmp_path / "large.wav"
    large.write_bytes(b"RIFF" + b"\0" * 5_000_000)
    page.goto("/")
    expect(page.get_by_role("listitem").first).to_be_visible()
    page.set_input_files("input[type=file]", str(large))
    expect(page.get_by_role("alert").filter(has_text="limit is 4 MB")).to_be_visible()
    page.set_input_files("input[type=file]", str(WALTZ))
    expect(page.get_by_role("alert").filter(has_text="already on the shelf")).to_be_visible()
    page.get_by_role("link", name="Open that song").click()
    expect(page).to_have_url(re.compile(charted))


def test_listening_can_be_stopped_and_begun_again(page: Page, tmp_path: Path) -> None:
    from tests.e2e.conftest import WALTZ

    copy = tmp_path / "Second Thought.mp3"
    copy.write_bytes(WALTZ.read_bytes() + b"\0" * 32)
    page.goto("/")
    page.set_input_files("input[type=file]", str(copy))
    line = page.get_by_role("listitem").filter(has=page.get_by_role("link", name="Second Thought"))
    line.get_by_role("button", name="Stop", exact=True).click()
    expect(line).to_contain_text("not listened to yet")
    line.get_by_role("button", name="Listen", exact=True).click()
    expect(line).to_contain_text("G major", timeout=60_000)


def test_a_song_is_renamed_in_place(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    page.get_by_role("heading", level=1).get_by_role("button").click()
    page.get_by_label("Title of the song").fill("Tram at Midnight")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text("Tram at Midnight")
    page.get_by_role("link", name="Shelf").click()
    page.get_by_role("link", name="Tram at Midnight").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Tram at Midnight")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("heading", level=1)).to_have_text("last tram waltz")
    page.get_by_role("link", name="Shelf").click()
    expect(page.get_by_role("link", name="last tram waltz")).to_be_visible()


@pytest.mark.parametrize("view", ["shelf", *VIEWS])
def test_nothing_hinders_a_screen_reader(page: Page, charted: str, view: str) -> None:
    page.emulate_media(reduced_motion="reduce")
    page.goto("/" if view == "shelf" else f"{charted}/{view}")
    expect(page.get_by_role("main").first).to_be_visible()
    expect(page.locator("[aria-busy=true]")).to_have_count(0)
    time.sleep(0.3)
    assert hindrances(page) == []


def test_three_links_lead_past_header_and_rail(page: Page, charted: str) -> None:
    open_view(page, charted, "survey")
    for place in ("view", "margin", "player"):
        page.evaluate("document.activeElement.blur()")
        page.keyboard.press("Tab")
        first = page.get_by_role("navigation", name="Skip").get_by_role("link").first
        expect(first).to_be_focused()
        expect(first).to_be_in_viewport()
        link = page.locator(f"nav a[href='#{place}']")
        link.focus()
        page.keyboard.press("Enter")
        expect(page.locator(f"#{place}")).to_be_focused()
        page.reload()
        expect(page.locator("[data-start]").first).to_be_visible()


def test_the_page_works_on_a_tablet(page: Page, charted: str) -> None:
    page.set_viewport_size({"width": 800, "height": 1100})
    open_view(page, charted, "valley")
    assert page.evaluate("document.documentElement.scrollWidth") <= 800


@pytest.mark.parametrize(("width", "height"), [(390, 800), (768, 1024)])
def test_on_a_stand_the_player_is_at_hand_and_nothing_is_wider_than_the_page(page: Page, charted: str, width: int, height: int) -> None:
    page.set_viewport_size({"width": width, "height": height})
    for view in ("survey", "parts", "valley", "script", "hand-outs", "records"):
        page.goto(f"{charted}/{view}")
        play = page.get_by_role("button", name="Play", exact=True)
        expect(play).to_be_visible()
        box = play.bounding_box()
        assert box and box["y"] + box["height"] <= height, view
        assert page.evaluate("document.documentElement.scrollWidth") <= width, view
    page.goto("/")
    expect(page.get_by_role("heading", name="Valley")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= width


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_where_the_system_chooses_the_colours_every_mark_is_kept(page: Page, charted: str, scheme: Literal["light", "dark"]) -> None:
    """Drawings stand out from the ground, whatever theme was chosen before; what is chosen is framed."""
    page.add_init_script("localStorage.setItem('valley-theme', 'light')")
    page.emulate_media(forced_colors="active", color_scheme=scheme)
    open_view(page, charted, "survey")
    page.keyboard.press("ArrowRight")
    chosen = page.locator("[data-start][aria-pressed=true]")
    expect(chosen).to_have_css("outline-style", "solid")
    look = "e => [getComputedStyle(e).color, getComputedStyle(e).stroke, getComputedStyle(document.body).backgroundColor]"
    part = page.get_by_role("navigation").locator("button[aria-current=true]")
    ink, _, ground = chosen.evaluate(look)
    _, stroke, _ = page.locator(".row svg path[stroke='var(--ink)']").first.evaluate(look)
    assert brightness(ink) == pytest.approx(brightness(stroke), abs=40)
    assert abs(brightness(stroke) - brightness(ground)) > 120
    on, _, _ = part.evaluate("e => [getComputedStyle(e).color, '', '']")
    assert abs(brightness(on) - brightness(part.evaluate("e => getComputedStyle(e).backgroundColor"))) > 120


def brightness(colour: str) -> float:
    """Of a computed colour such as "rgb(245, 240, 230)", 0 to 255."""
    red, green, blue = (float(n) for n in re.findall(r"[\d.]+", colour)[:3])
    return 0.3 * red + 0.59 * green + 0.11 * blue


@pytest.mark.parametrize(("width", "height"), [(360, 740), (640, 400), (760, 900), (1280, 800)])
def test_chords_do_not_lie_on_each_other_and_have_room_at_every_size(page: Page, charted: str, width: int, height: int) -> None:
    page.set_viewport_size({"width": width, "height": height})  # 640 by 400 is a window of 1280 by 800 at twice the size
    page.goto(charted)
    expect(page.locator("[data-start]").first).to_be_visible()
    rows = page.evaluate(
        """() => [...document.querySelectorAll('.row')].map((row) => [...row.querySelectorAll('[data-start]')]
            .map((e) => e.getBoundingClientRect()).sort((a, b) => a.left - b.left).map((b) => [b.left, b.right]))"""
    )
    crossed = [(a, b) for row in rows for a, b in pairwise(row) if a[1] > b[0] + 1]
    assert crossed == []
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    assert page.locator("#view").evaluate("e => e.clientHeight") >= 0.4 * height
