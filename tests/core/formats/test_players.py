"""What is played back and shown in time: MIDI beside the arrangement, note by note, in the recording's own time; pictures that show the keys."""

import io
import re
from dataclasses import replace

import mido
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.charts import chart_of, random_charts
from valley.arranging.arrange import arrange
from valley.arranging.pattern_library import PATTERNS
from valley.arranging.styles import STYLES
from valley.errors import ValleyError
from valley.formats.keyboard_svg import dump_keyboard_svg
from valley.formats.labels import dump_lab
from valley.formats.midi import dump_midi
from valley.fraction import Fraction as F
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart, Cue
from valley.model.choices import Choices

slow = settings(max_examples=40)
asked = st.tuples(random_charts(), st.sampled_from(sorted(STYLES)), st.sampled_from(sorted(PATTERNS)))


def arranged(what: tuple[Chart, str, str]) -> tuple[Chart, Arrangement] | None:
    chart, style, pattern = what
    try:
        return chart, arrange(chart, Choices(style=style, pattern=pattern))
    except ValleyError:
        return None


def read_tracks(data: bytes) -> dict[str, list[tuple[int, int, int]]]:
    """By track: (start tick, end tick, key); every note that begins must end, and none may begin while it sounds."""
    tracks = {}
    for track in mido.MidiFile(file=io.BytesIO(data)).tracks:
        now, sounding, notes = 0, {}, []
        for message in track:
            now += message.time
            if message.type == "note_on" and message.velocity:
                assert message.note not in sounding, f"key {message.note} is struck while it is held"
                sounding[message.note] = now
            elif message.type in ("note_off", "note_on"):
                notes.append((sounding.pop(message.note), now, message.note))
        assert sounding == {}
        tracks[track.name] = sorted(notes)
    return tracks


def seconds_of(data: bytes, tick: int) -> float:
    """By the file's own tempo map."""
    file = mido.MidiFile(file=io.BytesIO(data))
    now, at, tempo, out = 0, 0.0, 500_000, 0.0
    for message in file.tracks[0]:
        step = min(message.time, tick - now)
        out += mido.tick2second(step, file.ticks_per_beat, tempo)
        now += step
        if now >= tick:
            return out
        if message.type == "set_tempo":
            tempo = message.tempo
        at += message.time
    return out + mido.tick2second(tick - now, file.ticks_per_beat, tempo)


@slow
@given(asked)
def test_midi_holds_each_hand_note_for_note(what: tuple[Chart, str, str]) -> None:
    if found := arranged(what):
        chart, arrangement = found
        tracks = read_tracks(dump_midi(chart, arrangement))
        quarter = chart.grid.main_meter.quarters_per_beat
        for hand, name in (("right", "Right hand"), ("left", "Left hand")):
            wanted = sorted((int(n.start * quarter * 480), n.midi) for p in arrangement.parts for n in p.notes if n.hand == hand and not n.grace)
            got = sorted((start, key) for start, _, key in tracks[name])
            assert {g[1] for g in got} >= {w[1] for w in wanted}
            assert [w for w in wanted if w not in got] == []


@slow
@given(asked)
def test_midi_lasts_as_long_as_the_notes_are_held(what: tuple[Chart, str, str]) -> None:
    if found := arranged(what):
        chart, arrangement = found
        quarter = chart.grid.main_meter.quarters_per_beat
        end = max((n.end for p in arrangement.parts for n in p.notes), default=F(0)) * quarter * 480
        last = max((e for notes in read_tracks(dump_midi(chart, arrangement)).values() for _, e, _ in notes), default=0)
        assert last <= max(end, chart.grid.bars * chart.grid.main_meter.beats * quarter * 480) + 1


@pytest.mark.parametrize("bpm", [60.0, 97.3, 120.0])
def test_midi_follows_the_recording_beat_by_beat(bpm: float) -> None:
    chart = chart_of(["C", "F", "G", "C"], bpm=bpm)
    # A recording that breathes: every beat is a little longer or shorter.
    beats = tuple(round(t + 0.03 * ((i * 7) % 5 - 2), 4) for i, t in enumerate(chart.grid.beats))
    chart = replace(chart, grid=replace(chart.grid, beats=beats))
    data = dump_midi(chart, arrange(chart, Choices(style="root-and-chord")))
    for i, time in enumerate(beats):
        assert seconds_of(data, 480 * i) == pytest.approx(time - beats[0], abs=0.002)


def test_midi_has_markers_for_parts_and_words_for_cues() -> None:
    chart = replace(chart_of(["C", "F", "G", "C"], parts=[(1, 2, None), (3, 2, None)]), cues=(Cue(F(4), "sails"), Cue(F(9), "höme")))
    file = mido.MidiFile(file=io.BytesIO(dump_midi(chart, arrange(chart, Choices(style="root-and-chord")))))
    assert [m.text for m in file.tracks[0] if m.type == "marker"] == ["Part 1", "Part 2"]
    assert [m.text for m in file.tracks[0] if m.type == "lyrics"] == ["sails", "höme"]
    assert [t.name for t in file.tracks[1:]] == ["Right hand", "Left hand"]


@slow
@given(asked)
def test_pictures_show_just_the_keys_of_the_grip(what: tuple[Chart, str, str]) -> None:
    if found := arranged(what):
        for grip in found[1].parts[0].grips:
            picture = dump_keyboard_svg(grip)
            if not grip.notes:
                continue
            for note in grip.notes:
                assert f">{note.pitch.replace('#', '♯').replace('b', '♭')[:-1]}" in picture or note.pitch in picture or note.pitch[0] in picture
            assert picture.count("<svg") == 1
            assert not re.search(r'="(?:nan|None|-?inf)"', picture)


@slow
@given(random_charts())
def test_labels_cover_the_song_without_gaps(chart: Chart) -> None:
    rows = [line.split("\t") for line in dump_lab(chart).splitlines()]
    assert len(rows) == len(chart.chords)
    times = [(float(a), float(b)) for a, b, _ in rows]
    assert all(a < b for a, b in times)
    assert all(b == pytest.approx(c, abs=1e-5) for (_, b), (c, _) in zip(times, times[1:], strict=False))
    assert [label for *_, label in rows] == [c.label for c in chart.chords]
