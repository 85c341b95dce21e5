"""From an uploaded recording to downloaded sheet music, as a newcomer goes."""

import base64
import csv
import hashlib
import io
import json
import re
import shutil
import zipfile
from pathlib import Path

import mido
import mir_eval
import partitura
from PIL import Image
from playwright.sync_api import Page, expect

from tests.e2e.conftest import WALTZ
from tests.e2e.controls import choose
from valley.pipeline.cli import main


def test_from_recording_to_sheet_music(page: Page, tmp_path: Path) -> None:
    copy = tmp_path / "Evening Round.mp3"
    shutil.copy(WALTZ, copy)
    with copy.open("ab") as file:
        file.write(b"\0" * 16)  # so that it is not the same file as the other tests'
    page.goto("/")
    page.set_input_files("input[type=file]", str(copy))
    line = page.get_by_role("listitem").filter(has=page.get_by_role("link", name="Evening Round"))
    heard = line.get_by_text("G major · 3/4 · 118 to the minute")
    progress = line.get_by_role("progressbar")
    expect(progress.or_(heard).first).to_be_visible()  # on a quick machine it is heard before the shelf looks again
    expect(line.get_by_label("Found so far").get_by_text("beats to the minute").or_(heard).first).to_be_visible(timeout=60_000)
    expect(heard).to_be_visible(timeout=60_000)
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
    choose(page, "voicing", "Root below, chord above")
    expect(page.get_by_role("banner").get_by_role("status")).to_contain_text("voicing “Root below, chord above”")
    expect(page.get_by_role("button", name=re.compile("F♯m7♭5.C; left C.*right"))).to_be_visible()

    # A grip is changed, wrongly: a note that is not in the chord.
    page.locator("g.grip").first.click()
    page.get_by_label("Notes of the grip").get_by_role("button").last.click()
    page.keyboard.press(".")
    expect(page.get_by_role("banner").get_by_role("status")).to_contain_text("moved 1 half step up")

    # Script: a step is rewritten with a slip; the planted errors are found in words and hands, and mended.
    page.get_by_role("link", name="Script").click()
    page.get_by_role("button", name=re.compile("^Part 1.*both hands")).first.click()
    page.keyboard.press("e")
    page.get_by_label("Words, one line a sentence").fill("Both hands. Bar 1 is B flat minor.")
    page.get_by_role("button", name="Keep these words").click()
    expect(page.get_by_text("in your own words").first).to_be_visible()
    page.keyboard.press("w")
    findings = page.get_by_label("Findings")
    expect(findings).to_contain_text("B flat minor")
    page.get_by_role("button", name="Ready", exact=True).click()
    expect(page.get_by_role("alert").filter(has_text="still open")).to_be_visible()
    findings.get_by_role("button", name="take Valley's grip").first.click()
    expect(page.get_by_role("banner").get_by_role("status")).to_contain_text("as Valley chooses it")
    page.get_by_role("button", name=re.compile("^Part 1.*both hands")).first.click()
    page.keyboard.press("b")
    expect(page.get_by_text("in your own words")).to_have_count(0)
    expect(page.get_by_role("heading", name=re.compile("wrong|Nothing"))).not_to_contain_text("things are wrong")

    # Hand-outs: every file taken along, and opened by a reader of its own.
    page.get_by_role("link", name="Hand-outs").click()
    expect(page.get_by_role("img", name="Sheet music, page 1")).to_be_visible()
    with page.expect_download() as waiting:
        page.get_by_role("link", name="everything in one file").click()
    bundle = tmp_path / "all.zip"
    waiting.value.save_as(bundle)
    assert waiting.value.suggested_filename == "Evening Round all.zip"
    archive = zipfile.ZipFile(bundle)
    manifest = json.loads(archive.read("manifest.json"))
    assert len(manifest["files"]) == 24
    for row in manifest["files"]:
        assert hashlib.sha256(archive.read(row["name"])).hexdigest() == row["sha256"]
    archive.extractall(tmp_path / "all")
    folder = tmp_path / "all"
    score = partitura.load_musicxml(str(folder / "score.musicxml"))
    assert len(score.note_array()) > 200
    assert "half-diminished" in (folder / "score.musicxml").read_text()
    midi = mido.MidiFile(folder / "hands.mid")
    assert [t.name for t in midi.tracks[1:]] == ["Right hand", "Left hand", "Tune"]
    assert abs(midi.length - 86) < 4
    for name in ("score.pdf", "lesson.pdf"):
        assert (folder / name).read_bytes().startswith(b"%PDF-")
    assert "F#m7b5/C" in (folder / "lesson.txt").read_text() and "F#m7b5/C" in (folder / "chords.txt").read_text()
    intervals, labels = mir_eval.io.load_labeled_intervals(str(folder / "chords.lab"))
    mir_eval.chord.validate(labels, labels)
    assert len(intervals) == len(list(csv.DictReader((folder / "chords.csv").open())))
    assert (folder / "captions.vtt").read_text().startswith("WEBVTT")
    assert json.loads((folder / "annotation.jams").read_text())["file_metadata"]["title"] == "Evening Round"
    pictures = zipfile.ZipFile(folder / "keyboards.zip")
    assert all(Image.open(io.BytesIO(pictures.read(n))).width > 300 for n in pictures.namelist() if n.endswith(".png"))
    assert main(["check", str(folder / "lesson.json")]) == 0


def test_from_a_dropped_recording_to_everything_in_forty_presses(page: Page, tmp_path: Path) -> None:
    """By the keys alone: a recording is dropped, its doubtful chords are looked at, every view is gone through, and the archive comes."""
    sound = base64.b64encode(WALTZ.read_bytes() + b"\0" * 48).decode()
    page.goto("/")
    expect(page.get_by_role("heading", name="Valley")).to_be_visible()  # the page takes in what is dropped on it once it stands
    page.evaluate(
        """text => {
            const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
            const data = new DataTransfer();
            data.items.add(new File([bytes], "Two Steps.mp3", { type: "audio/mpeg" }));
            window.dispatchEvent(new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true }));
        }""",
        sound,
    )
    expect(page.get_by_text("was taken in")).to_be_visible()
    presses = 0

    def press(*names: str) -> None:
        nonlocal presses
        for name in names:
            page.keyboard.press(name)
            presses += 1

    press("Enter")
    expect(page.locator("[data-start]").first).to_be_visible(timeout=90_000)
    for _ in range(5):
        press("n", "1")
    for key, view in (("P", "parts"), ("V", "valley"), ("C", "script"), ("H", "hand-outs")):
        press(f"Shift+{key}")
        expect(page).to_have_url(re.compile(rf"/{view}$"))
    expect(page.get_by_role("link", name="everything in one file")).to_be_visible()
    with page.expect_download(timeout=90_000) as download:
        press("Control+s")
    assert zipfile.is_zipfile(download.value.path())
    assert presses <= 40
