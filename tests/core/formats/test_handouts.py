"""Every hand-out opened by a reader of its own, and what was handed out read in again."""

import csv
import io
import json
import re
import zipfile
from dataclasses import replace
from pathlib import Path

import mido
import pytest
from fontTools.ttLib import TTFont
from hypothesis import given, settings
from PIL import Image

from tests.charts import chart_of, make_work, random_charts
from valley.errors import FormatError, ParameterError
from valley.formats.arrangement_json import dump_arrangement, read_arrangement
from valley.formats.chords_csv import dump_chords_csv, parse_chords_csv
from valley.formats.engraving import FONTS, engrave
from valley.formats.keyboard_svg import dump_keyboard_svg
from valley.formats.labels import dump_lab, parse_lab
from valley.formats.lesson_json import dump_lesson, read_lesson
from valley.formats.midi import dump_midi
from valley.formats.midi_in import read_midi, split_hands
from valley.formats.musicxml import dump_musicxml
from valley.formats.score_in import read_musicxml
from valley.fraction import Fraction as F
from valley.model.chart import Chart, Cue
from valley.model.choices import Choices
from valley.model.lesson import StepEdit
from valley.model.score import ScoreNote
from valley.pipeline.handouts import HANDOUTS, document_of, each_file, handout_named
from valley.pipeline.readers import read_any_song

CHART = replace(
    chart_of(["Bb", "F/A", "Gm7", "Ebmaj7 F"] * 2, key=("Bb", "major"), tune=[(i, 1, 70 + i % 5) for i in range(16)], parts=[(1, 4, None), (5, 4, 1)]),
    cues=(Cue(F(4), "river"), Cue(F(19, 2), "stone")),
)
WORK = make_work(CHART, Choices(style="fifth-and-melody", pattern="broken"))


@pytest.fixture(scope="module")
def files() -> dict[str, bytes]:
    return dict(each_file(WORK))


def test_the_manifest_lists_every_file(files: dict[str, bytes]) -> None:
    manifest = json.loads(files["manifest.json"])
    assert {f["name"] for f in manifest["files"]} == set(files) - {"manifest.json"} == {h.name for h in HANDOUTS} - {"hearing.json"}
    assert all(f["bytes"] == len(files[f["name"]]) for f in manifest["files"])
    assert dict(each_file(WORK))["score.musicxml"] == files["score.musicxml"]


def test_pdfs_are_pdfs_with_pages(files: dict[str, bytes]) -> None:
    for name in ("score.pdf", "lesson.pdf"):
        assert files[name].startswith(b"%PDF-1.") and len(files[name]) > 10_000


def test_captions_ascend_and_chapters_begin_at_nought(files: dict[str, bytes]) -> None:
    times = [float(h) * 3600 + float(m) * 60 + float(s) for h, m, s in re.findall(r"(\d\d):(\d\d):(\d\d\.\d{3}) -->", files["captions.vtt"].decode())]
    assert files["captions.vtt"].startswith(b"WEBVTT\n\n") and times == sorted(times) and len(times) > 20
    assert files["captions.srt"].decode().splitlines()[1].startswith("00:00:00,000 --> ")
    chapters = files["chapters.txt"].decode().splitlines()
    assert chapters[0] == "0:00 What you will learn" and len(chapters) == len(WORK.lesson.steps)


def test_pictures_of_every_grip(files: dict[str, bytes]) -> None:
    archive = zipfile.ZipFile(io.BytesIO(files["keyboards.zip"]))
    count = sum(len(p.grips) for p in WORK.arrangement.parts)
    assert len(archive.namelist()) == 2 * count
    picture = Image.open(io.BytesIO(archive.read(next(n for n in archive.namelist() if n.endswith(".png")))))
    assert picture.width > 400
    frames = zipfile.ZipFile(io.BytesIO(files["frames.zip"]))
    first = Image.open(io.BytesIO(frames.read("frame0001.png"))).convert("RGBA")
    assert first.getpixel((1, 1))[3] == 0  # transparent
    assert [f["chord"] for f in json.loads(frames.read("frames.json"))["frames"]] == [g.symbol for g in WORK.arrangement.parts[0].grips]


def test_a_keyboard_picture_shows_each_hand_in_its_shape() -> None:
    grip = WORK.arrangement.parts[0].grips[0]
    svg = dump_keyboard_svg(grip)
    assert svg.count('class="left"') == len(grip.left) and svg.count('class="right"') == len(grip.right)
    assert "B♭" in svg and "<title>" in svg
    assert 'fill="#F5F0E6"' not in dump_keyboard_svg(grip, transparent=True)


def test_midi_has_cues_and_the_tune(files: dict[str, bytes]) -> None:
    file = mido.MidiFile(file=io.BytesIO(files["hands.mid"]))
    assert [m.text for m in file.tracks[0] if m.type == "lyrics"] == ["river", "stone"]
    assert [t.name for t in file.tracks][1:] == ["Right hand", "Left hand", "Tune"]


def test_notation_shows_fingers_and_cue_words(files: dict[str, bytes]) -> None:
    text = files["score.musicxml"].decode()
    assert "<fingering" in text and ">river<" in text and ">stone<" in text and "<rehearsal" in text


@pytest.mark.parametrize(("meter", "notes"), [("4/4", "\ueca5"), ("12/8", "\ueca5\uecb7"), ("2/2", "\ueca3"), ("7/8", "\ueca7")])
def test_the_tempo_is_printed_with_the_note_that_is_counted(meter: str, notes: str) -> None:
    """In the font of signs that ships, not in the music font that no browser has."""
    work = make_work(chart_of(["C", "G"], meter=meter), Choices())
    (page,) = engrave(dump_musicxml(work.chart, work.arrangement))
    assert re.findall(r'font-family="Signs, Alegreya"[^>]*>([\ueca0-\uecbf]+)<', page) == [notes]
    cmap = TTFont(FONTS / "Signs.ttf").getBestCmap()
    assert all(ord(note) in cmap for note in notes)


def test_tables_and_labels(files: dict[str, bytes]) -> None:
    rows = list(csv.DictReader(io.StringIO(files["chords.csv"].decode())))
    assert [r["chord"] for r in rows][:4] == ["Bb", "F/A", "Gm7", "Ebmaj7"] and rows[0]["key"] == "Bb major"
    lab = files["chords.lab"].decode().splitlines()
    assert lab[0].split("\t")[2] == "Bb:maj" and lab[1].split("\t")[0] == lab[0].split("\t")[1]
    jams = json.loads(files["annotation.jams"])
    assert {a["namespace"] for a in jams["annotations"]} == {"beat", "chord", "key_mode", "segment_open", "note_midi"}


def test_hand_outs_are_found_by_short_names() -> None:
    assert [handout_named(n).name for n in ("musicxml", "midi", "vtt", "jams", "score.pdf", "chords", "lab")] == [
        "score.musicxml",
        "hands.mid",
        "captions.vtt",
        "annotation.jams",
        "score.pdf",
        "chords.txt",
        "chords.lab",
    ]
    with pytest.raises(ParameterError, match="choose one of"):
        handout_named("poster")


def test_the_whole_song_comes_back_without_loss() -> None:
    work = make_work(CHART, WORK.song.choices, edits=(StepEdit("chords", lines=("Four chords.",), over=("x",)),), order=(1,))
    back = read_lesson(json.loads(json.dumps(dump_lesson(document_of(work)))))
    assert back == document_of(work)
    assert read_arrangement(dump_arrangement(work.arrangement)) == work.arrangement
    ours = {"format": "valley-lesson", "version": 1}
    for broken, words in (({}, "another kind of file"), (ours | {"version": 9}, "version=9"), (ours, "chart is missing")):
        with pytest.raises(FormatError, match=words):
            read_lesson(broken)


def sounding(chart: Chart) -> list[tuple[F, F, str]]:
    return [(c.start, c.duration, c.label) for c in chart.chords]


@pytest.mark.parametrize("name", ["score.musicxml", "chords.txt", "chords.csv", "lesson.json", "chart.json"])
def test_what_is_handed_out_is_read_in_again(files: dict[str, bytes], name: str) -> None:
    back = read_any_song(files[name], name).chart
    assert sounding(back) == sounding(CHART)
    assert [(p.start_bar, p.bars) for p in back.parts] == [(1, 4), (5, 4)]
    assert str(back.keys[0].key) == "Bb major"


@given(random_charts())
@settings(max_examples=25)
def test_tables_round_trip(chart: Chart) -> None:
    assert sounding(parse_chords_csv(dump_chords_csv(chart))) == sounding(chart)


def test_labels_find_their_beat() -> None:
    back = parse_lab(dump_lab(CHART))
    assert [c.label for c in back.chords] == [c.label for c in CHART.chords]
    assert [c.duration / back.chords[0].duration for c in back.chords] == [c.duration / CHART.chords[0].duration for c in CHART.chords]


@given(random_charts())
@settings(max_examples=25)
def test_a_midi_file_comes_back_hand_by_hand(chart: Chart) -> None:
    work = make_work(chart, Choices(style="root-and-chord"))
    score = read_midi(dump_midi(chart, work.arrangement))
    scale = chart.grid.main_meter.quarters_per_beat
    for hand in ("left", "right"):
        theirs = {(n.start, n.midi) for n in score.notes if n.hand == hand}
        assert theirs == {(n.start * scale, n.midi) for p in work.arrangement.parts for n in p.notes if n.hand == hand}


def test_a_performance_is_quantised_split_and_named() -> None:
    file = mido.MidiFile(ticks_per_beat=480)
    track = mido.MidiTrack()
    file.tracks.append(track)
    events: list[tuple[int, str, int]] = []
    for bar, keys in enumerate([(36, 48, 64, 67, 72), (41, 53, 65, 69, 72), (43, 55, 62, 67, 71), (36, 48, 64, 67, 72)]):
        for i, key in enumerate(keys):
            events += [(bar * 1920 + 11 * i + 7, "note_on", key), (bar * 1920 + 1850, "note_off", key)]
    now = 0
    for at, kind, key in sorted(events):
        track.append(mido.Message(kind, note=key, velocity=60, time=at - now))
        now = at
    buffer = io.BytesIO()
    file.save(file=buffer)
    score = read_midi(buffer.getvalue())
    assert {n.start for n in score.notes} == {0, 4, 8, 12}
    assert all((n.hand == "left") == (n.midi < 60) for n in score.notes)
    chart = read_any_song(buffer.getvalue(), "take.mid").chart
    assert [c.label for c in chart.chords] == ["C:maj", "F:maj", "G:maj", "C:maj"]
    assert [n.midi for n in chart.melody] == [72, 72, 71, 72]


def test_hands_are_split_where_they_lie() -> None:
    notes = [ScoreNote(F(0), F(1), m) for m in (43, 50, 60, 64, 67)]
    assert [n.hand for n in split_hands(notes)] == ["left", "left", "right", "right", "right"]


@pytest.mark.parametrize(
    ("name", "data", "words"),
    [
        ("a.musicxml", b"<html></html>", "neither score-partwise"),
        ("a.musicxml", b"\xff\xfe", "not text in UTF-8"),
        ("a.musicxml", b'<?xml version="1.0"?><score-partwise><part', "cannot be read"),
        ("a.mxl", b"PK\x03\x04 broken", "damaged"),
        ("a.musicxml", b'<!DOCTYPE x [<!ENTITY a "b">]><score-partwise/>', "entities"),
        ("a.mid", b"MThd", "cannot be read"),
        ("a.mid", b"", "cannot be read"),
        ("a.csv", b"a,b\n1,2\n", "a column of chords is needed"),
        ("a.csv", b"beats,chord\n4,C\nx,G\n", "row 3"),
        ("a.lab", b"0 1 C:maj\n1 x G:maj\n", "line 2"),
        ("a.lab", b"", "no chords"),
        ("a.json", b"{", "line 1"),
        ("a.json", b'{"format": "other"}', "format='other'"),
        ("a.txt", b"| C | H? |", "line 1"),
    ],
)
def test_damaged_files_are_refused_with_the_place(name: str, data: bytes, words: str) -> None:
    with pytest.raises(FormatError, match=re.escape(words)):
        read_any_song(data, name)


def test_notation_of_others_is_read(tmp_path: Path) -> None:
    from music21 import chord, key, meter, note, stream

    score = stream.Score()
    for pitches in (["E5", "F5", "D5", "C5"], [["C3", "G3"], ["F2", "C3"], ["G2", "D3"], ["C3", "G3"]]):
        part = stream.Part()
        part.append([meter.TimeSignature("3/4"), key.KeySignature(0)])
        for p in pitches:
            part.append(chord.Chord(p, quarterLength=3) if isinstance(p, list) else note.Note(p, quarterLength=3))
        score.append(part)
    path = tmp_path / "theirs.musicxml"
    score.write("musicxml", fp=path)
    read = read_musicxml(path.read_bytes())
    assert [n.midi for n in read.notes if n.hand == "right"] == [76, 77, 74, 72] and read.meters == ((0, "3/4"),)
    chart = read_any_song(path.read_bytes(), path.name).chart
    assert chart.grid.bars == 4 and [n.midi for n in chart.melody] == [76, 77, 74, 72]
