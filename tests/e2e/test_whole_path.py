"""From an uploaded recording to downloaded sheet music, as a newcomer goes."""

import re
import shutil
from pathlib import Path

import mido
import partitura
from playwright.sync_api import Page, expect

from tests.e2e.conftest import WALTZ


def test_from_recording_to_sheet_music(page: Page, tmp_path: Path) -> None:
    copy = tmp_path / "Evening Round.mp3"
    shutil.copy(WALTZ, copy)
    with copy.open("ab") as file:
        file.write(b"\0" * 16)  # so that it is not the same file as the other tests'
    page.goto("/")
    page.set_input_files("input[type=file]", str(copy))
    line = page.get_by_role("listitem").filter(has=page.get_by_role("link", name="Evening Round"))
    progress = line.get_by_role("progressbar")
    expect(progress).to_be_visible()
    expect(line.get_by_label("Found so far")).to_contain_text("beats to the minute", timeout=60_000)
    expect(line).to_contain_text("G major · 3/4 · 118 to the minute", timeout=60_000)
    line.get_by_role("link").first.click()

    # Survey: pick another reading, then type a chord; both survive a reload.
    expect(page).to_have_url(re.compile(r"/survey$"))
    chord = page.locator("[data-start]").nth(2)
    chord.click()
    second = page.get_by_label("Readings of this chord").get_by_role("button").nth(1)
    picked = second.locator("b").inner_text()
    second.click()
    expect(chord).to_have_attribute("aria-label", re.compile(re.escape(picked) + ".*set by you"))
    page.locator("[data-start]").nth(3).click()
    page.keyboard.press("t")
    page.keyboard.type("F#m7b5/C")
    expect(page.locator("#chord-says")).to_contain_text("F♯m7♭5/C: F♯ A C E. Enter keeps it.")
    page.keyboard.press("Enter")
    expect(page.locator("[data-start]").nth(3)).to_contain_text("F♯m7♭5/C")
    page.reload()
    expect(page.locator("[data-start]").nth(3)).to_contain_text("F♯m7♭5/C")
    expect(page.locator("[data-start]").nth(2)).to_have_attribute("aria-label", re.compile("set by you"))

    # Parts: places on the map.
    page.get_by_role("link", name="Parts").click()
    expect(page.get_by_label("Map of the song's parts").get_by_role("button").first).to_be_visible()
    expect(page.get_by_text("bars to play")).to_be_visible()

    # Valley: the typed chord has come down to the hands.
    page.get_by_role("link", name="Valley").click()
    grip = page.get_by_role("button", name=re.compile("F♯m7♭5.C; left C"))
    expect(grip).to_be_visible()
    grip.click()
    expect(page.get_by_label("The selected grip")).to_contain_text("mm")
    page.get_by_label("voicing").select_option("root-and-chord")
    expect(page.get_by_role("button", name=re.compile("F♯m7♭5.C; left C.*right"))).to_be_visible()

    # Hand-outs: files that other programs read.
    page.get_by_role("link", name="Hand-outs").click()
    expect(page.get_by_label("The lesson in words")).to_contain_text("F♯m7♭5/C")
    files = {}
    for title in ("Sheet music", "MIDI file", "The lesson in words"):
        with page.expect_download() as waiting:
            page.get_by_role("link", name=title).click()
        files[title] = tmp_path / waiting.value.suggested_filename
        waiting.value.save_as(files[title])
    assert files["Sheet music"].name == "Evening Round score.musicxml"
    score = partitura.load_musicxml(str(files["Sheet music"]))
    assert len(score.note_array()) > 200
    assert "<staves>2</staves>" in files["Sheet music"].read_text()
    assert "half-diminished" in files["Sheet music"].read_text()
    midi = mido.MidiFile(files["MIDI file"])
    assert [t.name for t in midi.tracks[1:]] == ["Right hand", "Left hand"]
    assert abs(midi.length - 86) < 4
    assert "F#m7b5/C" in files["The lesson in words"].read_text()
