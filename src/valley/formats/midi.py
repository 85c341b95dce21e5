"""Standard MIDI file: a conductor's track with the recording's tempo map, part markers and cue words, then a track a hand, then the tune."""

from __future__ import annotations

import io
from collections.abc import Sequence
from itertools import pairwise
from pathlib import Path
from typing import Final

import mido

from valley.formats._codec import save_bytes
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT, Arrangement, Pedal, PlayedNote
from valley.model.chart import Chart
from valley.theory.meter import Meter

TICKS_PER_QUARTER: Final = 480
_CLOCKS_PER_QUARTER: Final = 24  # MIDI clocks, by the standard
_VELOCITY, _MELODY_VELOCITY, _ACCENT_VELOCITY = 64, 84, 76
_SUSTAIN, _PEDAL_TICKS = 64, TICKS_PER_QUARTER // 8
_GRACE_TICKS = TICKS_PER_QUARTER // 8
TUNE: Final = "Tune"  # the melody by itself, beside the hands
_KEY_NAMES = {
    -7: "Cb",
    -6: "Gb",
    -5: "Db",
    -4: "Ab",
    -3: "Eb",
    -2: "Bb",
    -1: "F",
    0: "C",
    1: "G",
    2: "D",
    3: "A",
    4: "E",
    5: "B",
    6: "F#",
    7: "C#",
}


def dump_midi(chart: Chart, arrangement: Arrangement) -> bytes:
    """The arrangement as a type-1 MIDI file; the tempo follows the recording beat by beat."""
    file = mido.MidiFile(type=1, ticks_per_beat=TICKS_PER_QUARTER)
    file.tracks.append(_conductor(chart))
    notes = [n for part in arrangement.parts for n in part.notes]
    pedals = [p for part in arrangement.parts for p in part.pedals]
    for channel, (hand, title) in enumerate(((RIGHT, "Right hand"), (LEFT, "Left hand"))):
        file.tracks.append(_hand_track(chart, [n for n in notes if n.hand == hand], title, channel, pedals))
    if chart.melody:
        tune = [PlayedNote("tune", n.start, n.duration, n.midi, "", melody=True, grace=n.grace) for n in chart.melody]
        file.tracks.append(_hand_track(chart, tune, TUNE, 2))
    buffer = io.BytesIO()
    file.save(file=buffer)
    return buffer.getvalue()


def save_midi(chart: Chart, arrangement: Arrangement, path: str | Path) -> None:
    save_bytes(dump_midi(chart, arrangement), path)


def _ticks(chart: Chart, beat: Fraction) -> int:
    return int(chart.grid.quarters(beat) * TICKS_PER_QUARTER)


def _heard_ticks(chart: Chart, beat: Fraction) -> int:
    """Where a note sounds: a song that swings is written even, and played long and short."""
    return _ticks(chart, Fraction(chart.grid.sounds_at(beat)).limit_denominator(TICKS_PER_QUARTER))


def _track(title: str, events: list[tuple[int, int, mido.Message | mido.MetaMessage]]) -> mido.MidiTrack:
    """Events as (tick, order at the same tick, message), made relative."""
    track = mido.MidiTrack([mido.MetaMessage("track_name", name=title, time=0)])
    now = 0
    for tick, _, message in sorted(events, key=lambda e: e[:2]):
        track.append(message.copy(time=tick - now))
        now = tick
    track.append(mido.MetaMessage("end_of_track", time=0))
    return track


def _conductor(chart: Chart) -> mido.MidiTrack:
    events: list[tuple[int, int, mido.Message | mido.MetaMessage]] = []
    for beat, meter in ((0, chart.grid.meter), *((c.beat, c.meter) for c in chart.grid.changes)):
        bar = Meter(meter)
        clocks = int(_CLOCKS_PER_QUARTER * bar.quarters_per_beat)
        signature = mido.MetaMessage("time_signature", numerator=bar.numerator, denominator=bar.denominator, clocks_per_click=clocks)
        events.append((_ticks(chart, Fraction(beat)), 0, signature))
    for area in chart.keys:
        events.append((_ticks(chart, area.start), 1, mido.MetaMessage("key_signature", key=_midi_key(chart, area.start))))
    last = 0
    for i in range(len(chart.grid.beats) - 1):
        quarters = float(chart.grid.meter_at(Fraction(i)).quarters_per_beat)
        tempo = round((chart.grid.beats[i + 1] - chart.grid.beats[i]) / quarters * 1e6)
        if tempo != last:
            events.append((_ticks(chart, Fraction(i)), 2, mido.MetaMessage("set_tempo", tempo=min(max(tempo, 1), 0xFFFFFF))))
            last = tempo
    for part in chart.parts:
        title = f"Part {part.number}" + (f" {_latin(part.name)}" if part.name else "")
        events.append((_ticks(chart, chart.span(part)[0]), 3, mido.MetaMessage("marker", text=title)))
    for cue in chart.cues:
        events.append((_ticks(chart, cue.start), 4, mido.MetaMessage("lyrics", text=_latin(cue.text))))
    return _track(_latin(chart.title), events)


def _latin(text: str) -> str:
    """MIDI texts are Latin-1; other letters become question marks."""
    return text.encode("latin-1", "replace").decode("latin-1")


def _midi_key(chart: Chart, beat: Fraction) -> str:
    key = chart.key_at(beat)
    signature = min(max(key.signature, -7), 7)
    return _KEY_NAMES[signature] if not key.is_minor else _minor_name(signature)


def _minor_name(signature: int) -> str:
    names = ("Ab", "Eb", "Bb", "F", "C", "G", "D", "A", "E", "B", "F#", "C#", "G#", "D#", "A#")
    return names[signature + 7] + "m"


def _hand_track(chart: Chart, notes: list[PlayedNote], title: str, channel: int, pedals: Sequence[Pedal] = ()) -> mido.MidiTrack:
    events: list[tuple[int, int, mido.Message | mido.MetaMessage]] = [(0, 0, mido.Message("program_change", program=0, channel=channel))]
    struck = _strikes(notes)
    for note in notes:
        if (until := struck.get((note.start, note.midi, note.grace))) is None:
            continue  # the same key at the same time in another voice
        velocity = _MELODY_VELOCITY if note.melody else _ACCENT_VELOCITY if note.accent else _VELOCITY
        start, end = _heard_ticks(chart, note.start), _heard_ticks(chart, until)
        if note.grace:  # just before its place
            start, end = max(0, start - _GRACE_TICKS), max(start, _GRACE_TICKS)
        events.append((start, 2, mido.Message("note_on", note=note.midi, velocity=velocity, channel=channel)))
        events.append((end, 1, mido.Message("note_off", note=note.midi, velocity=0, channel=channel)))
    for pedal in pedals:  # it comes up with the new chord and goes down again just after it
        down, up = _ticks(chart, pedal.start) + (0 if pedal.written else _PEDAL_TICKS), _ticks(chart, pedal.end)
        if notes and down < up:
            events.append((down, 3, mido.Message("control_change", control=_SUSTAIN, value=127, channel=channel)))
            events.append((up, 0, mido.Message("control_change", control=_SUSTAIN, value=0, channel=channel)))
    return _track(title, events)


def _strikes(notes: Sequence[PlayedNote]) -> dict[tuple[Fraction, int, bool], Fraction]:
    """When each struck key is let go: at the end of its longest note, but no later than it is struck again."""
    ends: dict[tuple[Fraction, int, bool], Fraction] = {}
    for n in notes:
        place = (n.start, n.midi, n.grace)
        ends[place] = max(ends.get(place, n.end), n.end)
    for key in {n.midi for n in notes}:
        row = sorted(start for start, midi, grace in ends if midi == key and not grace)
        for start, again in pairwise(row):
            ends[start, key, False] = min(ends[start, key, False], again)
    return ends
