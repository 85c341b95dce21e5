"""Records as a creator uses them: a wish noted, the post sorted, a song brought on its way, a calendar, files of notes, one's own playing."""

import json
import re
import urllib.request
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.axe import hindrances
from tests.e2e.controls import choice, choose, tick

CHART = "title: Small Hours\nkey: G major\n\n[One]\n| G | Em | C | D |\n[Two]\n| G | Em | C | G |\n"


def open_shelf(page: Page) -> None:
    page.goto("/")
    expect(choice(page, "order")).to_be_visible()


def line_of(page: Page, title: str):
    return page.get_by_role("list", name="Songs").get_by_role("listitem").filter(has=page.get_by_role("link", name=title, exact=True))


def test_a_wish_is_noted_chosen_searched_and_promised(page: Page) -> None:
    open_shelf(page)
    page.keyboard.press("r")
    form = page.get_by_role("form", name="Note a request")
    form.get_by_label("song").fill("Velvet Compass")
    form.get_by_label("who asks").fill("@fern")
    form.get_by_label("what for").fill("the bridge only")
    page.keyboard.press("Enter")
    expect(line_of(page, "Velvet Compass")).to_contain_text("1 viewer asks")
    page.keyboard.press("r")
    form.get_by_label("song").fill("velvet compas")
    form.get_by_label("who asks").fill("@moss")
    page.keyboard.press("Enter")
    expect(line_of(page, "Velvet Compass")).to_contain_text("2 viewers ask")
    page.get_by_role("button", name="Good").click()
    page.keyboard.press("/")
    page.keyboard.type("bridge fern")
    expect(page.get_by_role("status").filter(has_text="1 song")).to_be_visible()
    line_of(page, "Velvet Compass").get_by_role("button", name="Choose Velvet Compass").click()
    expect(line_of(page, "Velvet Compass")).to_contain_text("add a recording")
    page.get_by_role("group", name="Only songs at one waymark").get_by_role("button", name=re.compile("asked$")).click()
    expect(page.get_by_text("Nothing here fits.")).to_be_visible()
    page.get_by_role("button", name="Show all songs").click()
    line_of(page, "Velvet Compass").get_by_role("link").click()
    expect(page.get_by_role("heading", name="Who asks for it")).to_be_visible()
    page.get_by_label("promised for").fill("2031-03-04")
    page.get_by_label("Promised to @fern").fill("before spring")
    page.get_by_label("Promised to @fern").press("Enter")
    page.reload()
    expect(page.get_by_label("Promised to @fern")).to_have_value("before spring")
    expect(page.get_by_label("promised for")).to_have_value("2031-03-04")


def test_the_post_becomes_requests_and_reports_and_can_be_taken_back(page: Page, charted: str) -> None:
    page.goto("/post")
    expect(page.get_by_role("button", name="Get new comments")).to_be_visible()
    page.keyboard.press("g")
    expect(page.get_by_role("status").filter(has_text="new comments came")).to_be_visible()
    wishes = page.get_by_role("region", name="Wishes").get_by_role("list").first
    first = wishes.get_by_role("listitem").filter(has=page.get_by_role("button", name="Take as a request")).first
    title = first.get_by_label("Song asked for").input_value()
    first.get_by_label("Song asked for").fill(f"{title} (asked)")
    first.get_by_role("button", name="Take as a request").click()
    expect(page.get_by_role("status").filter(has_text=f"noted for “{title} (asked)”")).to_be_visible()
    page.get_by_role("button", name="Take it back").click()
    expect(page.get_by_label("Song asked for").and_(page.locator(f'[value="{title}"]'))).to_have_count(1)
    faults = page.get_by_role("region", name="Reported mistakes").get_by_role("listitem")
    fault = faults.first
    words = fault.get_by_role("paragraph").first.inner_text()
    if choice(fault, "Song of this report").count():
        choose(fault, "Song of this report", "last tram waltz")
    fault.get_by_role("button", name="Note it with the song").click()
    expect(page.get_by_role("status").filter(has_text="Noted with")).to_be_visible()
    expect(page.get_by_text(words, exact=True)).to_have_count(0)
    page.get_by_role("button", name=re.compile(r"Set all \d+ aside")).click()
    expect(page.get_by_role("heading", name="The rest")).to_have_count(0)


def test_reports_lead_to_their_bar_and_the_way_is_marked(page: Page, charted: str) -> None:
    page.goto(f"{charted}/records")
    page.get_by_label("What is reported as wrong").fill("bar 4 should be Ebm, not D")
    page.get_by_label("Who reports it").fill("@pedal")
    page.get_by_role("region", name="Records of this song").get_by_role("button", name="Note", exact=True).last.click()
    report = page.get_by_role("list", name="Reports of viewers").get_by_role("listitem").filter(has_text="@pedal")
    expect(report).to_contain_text("Bar 4 has")
    report.get_by_role("link", name="look at bar 4").click()
    expect(page).to_have_url(re.compile(r"survey\?bar=4"))
    page.go_back()
    report.get_by_label("Answer to @pedal").fill("the recording has it so")
    report.get_by_role("button", name="Keep it as it is").click()
    expect(report).to_contain_text("kept as it is: the recording has it so")
    expect(page.get_by_role("list", name="Lines of the logbook")).to_contain_text("@pedal reported")
    page.get_by_role("button", name="filmed, not reached; mark it").click()
    expect(page.get_by_role("button", name="filmed, reached; take it back")).to_be_visible()
    page.get_by_role("button", name="filmed, reached; take it back").click()
    expect(page.get_by_role("button", name="filmed, not reached; mark it")).to_be_visible()
    page.get_by_label("Minutes of other work").fill("25")
    choose(page, "Stage of this work", "arranged")
    page.get_by_role("button", name="Note", exact=True).first.click()
    expect(page.get_by_text("took 25 min so far")).to_be_visible()


def test_the_calendar_follows_the_hours(page: Page, charted: str) -> None:
    page.goto("/calendar")
    expect(page.get_by_role("heading", name="Out when")).to_be_visible()
    weeks = page.get_by_role("region", name="The weeks ahead")
    expect(weeks).to_contain_text("film it")
    for day in ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"):
        page.get_by_label(f"Minutes on {day}").fill("0")
        page.get_by_label(f"Minutes on {day}").press("Enter")
        expect(page.get_by_label(f"Minutes on {day}")).to_have_value("0")
    expect(weeks).not_to_contain_text("film it")
    page.get_by_label("Minutes on Sunday").fill("240")
    page.get_by_label("Minutes on Sunday").press("Enter")
    tick(page, "Film on Sunday")
    expect(weeks).to_contain_text("film it")
    with page.expect_download() as taken:
        page.get_by_role("link", name="Take it along as a calendar file").click()
    assert taken.value.path().read_text().startswith("BEGIN:VCALENDAR")


def test_a_chart_as_people_write_it_is_pasted_on_any_page(page: Page) -> None:
    page.goto("/calendar")
    expect(page.get_by_role("heading", name="Calendar")).to_be_visible()
    page.evaluate(
        """text => { const data = new DataTransfer(); data.setData("text/plain", text);
        document.body.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true })); }""",
        "Slow Water (132 bpm, 3/4, in G)\n\nVERSE\nG  Em  C  D\nGoing down to the river\nCHORUS (2x)\n| C D | G/B . Em |\n",
    )
    page.get_by_role("link", name="Open it").click()
    expect(page.get_by_text("G major · 3/4 · 132 to the minute")).to_be_visible()
    expect(page.get_by_text("“Going”").first).to_be_visible()


def test_a_chord_chart_is_dropped_played_and_held_against_ones_own_playing(page: Page, tmp_path: Path, base_url: str) -> None:
    path = tmp_path / "small_hours.txt"
    path.write_text(CHART)
    open_shelf(page)
    page.set_input_files("input[type=file]", str(path))
    line_of(page, "Small Hours").get_by_role("link").click()
    expect(page).to_have_url(re.compile("survey"))
    expect(choice(page, "hear")).to_contain_text("piano")
    page.keyboard.press("Space")
    expect(page.get_by_text(re.compile(r"bar 1, beat [2-4]"))).to_be_visible()
    page.keyboard.press("Space")
    song = re.search(r"songs/(\d+)", page.url)[1]
    midi = urllib.request.urlopen(f"{base_url}/api/songs/{song}/handouts/hands.mid").read()  # noqa: S310 - our own server
    mine = tmp_path / "mine.mid"
    mine.write_bytes(midi)
    page.goto(f"/songs/{song}/valley")
    page.get_by_role("tab", name="playing").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Compare a MIDI file").click()
    chooser.value.set_files(str(mine))
    expect(page.get_by_text("100 % of")).to_be_visible()
    page.get_by_role("button", name=re.compile(r"Take \d+ grips as played")).click()
    expect(page.get_by_text("are now as you played them")).to_be_visible()
    page.keyboard.press("Control+z")
    revision = json.loads(urllib.request.urlopen(f"{base_url}/api/songs/{song}/chart").read())  # noqa: S310 - our own server
    assert revision["last_change"]


def test_a_file_becomes_the_next_version_and_undo_brings_the_old_one_back(page: Page, tmp_path: Path) -> None:
    first, second = tmp_path / "first_try.txt", tmp_path / "second_try.txt"
    first.write_text("| C | F | G | C |")
    second.write_text("| C | Dm | G7 | C |")
    open_shelf(page)
    page.set_input_files("input[type=file]", str(first))
    line_of(page, "first try").get_by_role("link").click()
    expect(page.get_by_role("button", name="Bar 2, beat 1: F")).to_be_visible()
    page.keyboard.press("v")
    expect(page.get_by_text("There is no recording to hear.")).to_be_visible()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Read a file").click()
    chooser.value.set_files(str(second))
    expect(page.get_by_role("button", name="Bar 2, beat 1: Dm")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Bar 2, beat 1: F")).to_be_visible()


def test_a_file_that_cannot_be_read_says_where_and_leaves_nothing(page: Page, tmp_path: Path) -> None:
    path = tmp_path / "broken.txt"
    path.write_text("| G | Qx7 |")
    open_shelf(page)
    page.set_input_files("input[type=file]", str(path))
    expect(page.get_by_role("alert").filter(has_text="line 1")).to_be_visible()
    expect(line_of(page, "broken")).to_have_count(0)


def test_a_song_taken_off_is_found_again_and_put_back(page: Page) -> None:
    open_shelf(page)
    page.keyboard.press("r")
    page.get_by_role("form", name="Note a request").get_by_label("song").fill("Fog over Fennel")
    page.keyboard.press("Enter")
    line_of(page, "Fog over Fennel").get_by_role("button", name="Take Fog over Fennel off the shelf").click()
    expect(line_of(page, "Fog over Fennel")).to_have_count(0)
    page.reload()
    tick(page, "taken off the shelf")
    page.get_by_role("button", name="Put Fog over Fennel back on the shelf").click()
    tick(page, "taken off the shelf")
    expect(line_of(page, "Fog over Fennel")).to_be_visible()


@pytest.mark.parametrize("view", ["post", "calendar", "records"])
def test_records_can_be_used_by_everyone(page: Page, charted: str, view: str) -> None:
    page.goto(f"{charted}/records" if view == "records" else f"/{view}")
    page.wait_for_load_state("networkidle")
    assert hindrances(page) == []
