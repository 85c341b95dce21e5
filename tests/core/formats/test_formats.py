"""Files out and in again, read back by independent readers."""

import io
import json
from pathlib import Path
from xml.etree import ElementTree
from xml.etree.ElementTree import Element

import mido
import partitura
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.charts import chart_of, random_charts
from tests.core.charting.test_from_hearing import HEARING
from valley.arranging.arrange import arrange
from valley.arranging.styles import STYLES
from valley.errors import FormatError
from valley.formats import _codec
from valley.formats.arrangement_json import dump_arrangement, read_arrangement
from valley.formats.chart_json import dump_chart, load_chart, read_chart, save_chart
from valley.formats.hearing_json import dump_hearing, load_hearing, read_hearing, save_hearing
from valley.formats.lesson_text import dump_lesson_text
from valley.formats.midi import dump_midi
from valley.formats.musicxml import bars_of, dump_musicxml
from valley.fraction import Fraction as F
from valley.lesson.script import build_lesson
from valley.model.arrangement import LEFT
from valley.model.chart import Chart
from valley.model.choices import Choices

HEARING_FIELDS = [
    "format",
    "version",
    "duration",
    "tuning_cents",
    "bpm",
    "meter",
    "beats",
    "downbeats",
    "keys",
    "chords",
    "melody",
    "bass",
    "sections",
    "notes",
    "tempi",
    "beat_confidence",
    "meter_confidence",
]


def test_hearing_has_exactly_its_documented_fields(tmp_path: Path) -> None:
    save_hearing(HEARING, tmp_path / "hearing.json")
    data = json.loads((tmp_path / "hearing.json").read_text())
    assert list(data) == HEARING_FIELDS
    assert list(data["chords"][0]) == ["start", "end", "label", "confidence", "alternatives"]
    assert list(data["sections"][0]) == ["start", "end", "label", "same_as", "confidence"]
    assert data["chords"][1]["alternatives"][1] == {"label": "A:min7", "probability": 0.05}
    assert load_hearing(tmp_path / "hearing.json") == HEARING


@given(random_charts())
@settings(max_examples=50)
def test_charts_come_back_as_they_were(chart: Chart) -> None:
    assert read_chart(json.loads(json.dumps(dump_chart(chart)))) == chart


@given(random_charts(), st.sampled_from(sorted(STYLES)))
@settings(max_examples=30)
def test_arrangements_come_back_as_they_were(chart: Chart, style: str) -> None:
    arrangement = arrange(chart, Choices(style=style))
    assert read_arrangement(json.loads(json.dumps(dump_arrangement(arrangement)))) == arrangement


@pytest.mark.parametrize(
    ("change", "message"),
    [
        ({"format": "other"}, "format='other'"),
        ({"version": 9}, "version=9"),
        ({"beats": [1, "x"]}, r"beats\.1"),
        ({"meter": "5/16"}, "meter='5/16'"),
        ({"chords": [{"start": 0}]}, r"chords\.0"),
    ],
)
def test_malformed_documents_name_the_place(change: dict[str, object], message: str) -> None:
    with pytest.raises(FormatError, match=message):
        read_hearing(dump_hearing(HEARING) | change)


def test_files_that_are_no_json_are_refused(tmp_path: Path) -> None:
    (tmp_path / "chart.json").write_text("{broken")
    with pytest.raises(FormatError, match=r"chart\.json.*not JSON"):
        load_chart(tmp_path / "chart.json")
    with pytest.raises(FormatError, match="format='list'"):
        read_chart([])


def test_a_save_that_fails_leaves_the_old_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    target = tmp_path / "chart.json"
    save_chart(chart_of(["C"]), target)
    before = target.read_bytes()

    def full(*args: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(_codec.os, "fsync", full)
    with pytest.raises(OSError, match="No space"):
        save_chart(chart_of(["F"]), target)
    assert target.read_bytes() == before
    assert list(tmp_path.iterdir()) == [target]


def score_notes(data: bytes, tmp_path: Path) -> list[tuple[float, float, int, int]]:
    path = tmp_path / "song.musicxml"
    path.write_bytes(data)
    array = partitura.load_musicxml(str(path)).note_array(include_staff=True)
    return sorted((round(float(n["onset_quarter"]), 4), round(float(n["duration_quarter"]), 4), int(n["pitch"]), int(n["staff"])) for n in array)


def expected_notes(chart: Chart, style: str) -> list[tuple[float, float, int, int]]:
    quarter = chart.grid.main_meter.quarters_per_beat
    shift = -(chart.grid.pickup * quarter)  # the reader counts from bar 1
    notes = [n for p in arrange(chart, Choices(style=style)).parts for n in p.notes]
    return sorted((round(float(n.start * quarter + shift), 4), round(float(n.duration * quarter), 4), n.midi, 2 if n.hand == LEFT else 1) for n in notes)


CHARTS = {
    "plain": chart_of(["C", "Am F", "G7", "C"], tune=[(0, 1, 72), (F(3, 2), F(1, 2), 74), (2, F(9, 4), 76), (14, 2, 72)]),
    "waltz": chart_of(["Gm", "D7/F#", "Gm"], key=("G", "minor"), meter="3/4", tune=[(0, 2, 74), (2, 2, 72), (5, 4, 70)]),
    "compound": chart_of(["Dm", "A7", "Dm"], key=("D", "minor"), meter="6/8", tune=[(0, F(2, 3), 74), (F(2, 3), F(1, 3), 76), (1, F(4, 3), 77)]),
    "flats": chart_of(["Gb", "Cbmaj7", "Abm7 Db7"], key=("Gb", "major"), tune=[(0, 3, 83), (4, 4, 78)]),
    "rich": chart_of(["Bbadd9 C7sus4", "F#m7b5 Bdim7", "Caug Dm(maj7)", "E5 N", "G6 Am6"], tune=[(0, 1, 70)]),
}


@pytest.mark.parametrize("style", STYLES)
@pytest.mark.parametrize("name", CHARTS)
def test_sheet_music_has_the_same_notes_for_another_reader(name: str, style: str, tmp_path: Path) -> None:
    chart = CHARTS[name]
    assert score_notes(dump_musicxml(chart, arrange(chart, Choices(style=style))), tmp_path) == expected_notes(chart, style)


def test_sheet_music_shows_symbols_key_metre_and_parts(tmp_path: Path) -> None:
    chart = chart_of(["D", "A/C#", "Bm7", "G"], key=("D", "major"), meter="3/4", parts=[(1, 2, None), (3, 2, None)])
    text = dump_musicxml(chart, arrange(chart)).decode()
    assert text.count("<staves>2</staves>") >= 1
    assert "<fifths>2</fifths>" in text
    assert "<beats>3</beats>" in text
    assert text.count("<harmony") == 4
    assert "<bass-step>C</bass-step>" in text.replace(" ", "")
    assert text.count("<rehearsal") == 2


def test_a_pickup_bar_is_short(tmp_path: Path) -> None:
    chart = chart_of(["C", "G"], pickup=1, tune=[(0, 1, 67), (1, 2, 72)])
    found = score_notes(dump_musicxml(chart, arrange(chart, Choices(style="block-and-melody"))), tmp_path)
    tune = [n for n in found if n[3] == 1]
    assert [n[2] for n in tune] == [67, 72]
    assert tune[1][0] - tune[0][0] == 1


def test_midi_has_a_track_a_hand_and_the_recordings_tempo() -> None:
    chart = chart_of(["C", "Am", "F", "G"], bpm=90, tune=[(0, 1, 72)], parts=[(1, 2, None), (3, 2, None)])
    arrangement = arrange(chart, Choices(style="block-and-melody"))
    file = mido.MidiFile(file=io.BytesIO(dump_midi(chart, arrangement)))
    assert [t.name for t in file.tracks] == ["Test", "Right hand", "Left hand", "Tune"]
    assert file.length == pytest.approx(16 * 60 / 90, rel=0.01)
    assert [m.text for m in file.tracks[0] if m.type == "marker"] == ["Part 1", "Part 2"]
    for track, hand in ((file.tracks[1], "right"), (file.tracks[2], "left")):
        struck = sorted(m.note for m in track if m.type == "note_on")
        assert struck == sorted(n.midi for p in arrangement.parts for n in p.notes if n.hand == hand)
        assert sum(m.type == "note_on" for m in track) == sum(m.type == "note_off" for m in track)


def test_midi_takes_titles_in_any_script() -> None:
    from dataclasses import replace

    chart = replace(chart_of(["C"], key=("A", "minor")), title="Łódź ♪")
    assert mido.MidiFile(file=io.BytesIO(dump_midi(chart, arrange(chart)))).tracks[0].name.endswith("?")


def test_the_text_numbers_its_steps() -> None:
    chart = chart_of(["C", "F"])
    text = dump_lesson_text(build_lesson(chart, arrange(chart)))
    assert text.startswith("Test\n====\n\n1. What you will learn\n")
    assert "\n\n2. The chords\n" in text


@settings(max_examples=8)
@given(random_charts())
def test_a_part_alone_has_the_bars_that_it_has_in_the_song(chart: Chart) -> None:
    """Written by itself it says again what holds there: clef, metre, key; its bars are those of the whole, note for note."""
    arrangement = arrange(chart, Choices())
    whole = _bars(dump_musicxml(chart, arrangement, fold=False))
    written: list[str] = []
    for part in chart.parts:
        alone = _bars(dump_musicxml(chart, arrangement, bars=bars_of(chart, part)))
        first = next(iter(alone.values()))
        assert all(first.findall(f"attributes/{what}") for what in ("clef", "time", "key"))
        for number, bar in alone.items():
            assert [_sound(n) for n in bar.iter("note")] == [_sound(n) for n in whole[number].iter("note")], number
        written += list(alone)
    assert written == list(whole)


def _bars(data: bytes) -> dict[str, Element]:
    return {bar.get("number", ""): bar for bar in ElementTree.fromstring(data).iter("measure")}  # noqa: S314 - written by Valley itself


def _sound(note: Element) -> tuple[str | None, ...]:
    return tuple(note.findtext(what) for what in ("pitch/step", "pitch/alter", "pitch/octave", "duration", "type", "voice", "staff"))
