"""Played and sequenced files in: Standard MIDI, read by mido, set on the grid and shared between two hands."""

from __future__ import annotations

import io
import statistics
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field, replace
from itertools import groupby
from typing import Any, Final

import mido
from mido.midifiles.meta import KeySignatureError

from valley.errors import FormatError
from valley.formats.midi import TUNE
from valley.formats.score_in import known_meters, one_line
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT
from valley.model.score import Score, ScoreNote

_FINEST: Final = (Fraction(1, 4), Fraction(1, 3))  # of a quarter: sixteenths, or triplets
# Of a quarter: notes down to sixty-fourths, triplets and sextuplets, quintuplets, septuplets. Who plays is near one by chance once in three times.
_VALUES: Final = tuple(Fraction(1, n) for n in (1, 2, 3, 4, 6, 5, 8, 7, 12, 10, 16, 24))
_WRITTEN, _TELLING = 0.95, 12
_MOST_NOTES: Final = 100_000
_MOST_QUARTERS: Final = 20_000
_SUSTAIN: Final = 64  # the controller of the pedal
_HALF_DOWN: Final = 64  # its value from which it is down
_DRUMS: Final = 9  # the channel of drums, counted from 0


@dataclass
class _Track:
    """What one track holds: notes as (start, end, midi) in ticks, the rest in quarters."""

    notes: list[tuple[int, int, int]] = field(default_factory=list)
    meters: list[tuple[Fraction, str]] = field(default_factory=list)
    keys: list[tuple[Fraction, int, str]] = field(default_factory=list)
    tempi: list[tuple[Fraction, float]] = field(default_factory=list)
    marks: list[tuple[Fraction, str]] = field(default_factory=list)
    pedals: list[tuple[Fraction, Fraction]] = field(default_factory=list)
    name: str | None = None


def _read_track(messages: Iterable[Any], per_quarter: int) -> _Track:
    timed: list[tuple[int, Any]] = []
    now = 0
    for message in messages:
        now += message.time
        timed.append((now, message))
    out = _Track(notes=_read_notes(timed), pedals=_read_pedal(timed, per_quarter))
    for now, message in timed:
        place = Fraction(now, per_quarter)
        if message.type == "time_signature":
            out.meters.append((place, f"{message.numerator}/{message.denominator}"))
        elif message.type == "set_tempo":
            out.tempi.append((place, min(max(round(mido.tempo2bpm(max(message.tempo, 1)), 3), 10.0), 1000.0)))
        elif message.type == "key_signature":
            out.keys.append((place, *_read_key(message.key)))
        elif message.type == "marker":
            out.marks.append((place, message.text))
        elif message.type == "track_name":
            out.name = message.name
    return out


def _read_notes(timed: Iterable[tuple[int, Any]]) -> list[tuple[int, int, int]]:
    """Notes as (start, end, midi) in ticks; a key that is struck again before it was let go ends there."""
    notes: list[tuple[int, int, int]] = []
    down: dict[tuple[int, int], int] = {}
    for now, message in timed:
        if message.type not in ("note_on", "note_off"):
            continue
        key = (message.channel, message.note)
        start = down.pop(key, None)
        if start is not None and (now > start or message.type == "note_off" or not message.velocity):
            notes.append((start, max(now, start + 1), message.note))
        if message.type == "note_on" and message.velocity and message.channel != _DRUMS:
            down[key] = now
    return notes


def _read_pedal(timed: Iterable[tuple[int, Any]], per_quarter: int) -> list[tuple[Fraction, Fraction]]:
    """Where the pedal goes down and comes up, in quarters."""
    found: list[tuple[Fraction, Fraction]] = []
    pressed: int | None = None
    for now, message in timed:
        if message.type != "control_change" or message.control != _SUSTAIN:
            continue
        if message.value < _HALF_DOWN and pressed is not None:
            found.append((Fraction(pressed, per_quarter), Fraction(now, per_quarter)))
            pressed = None
        elif message.value >= _HALF_DOWN and pressed is None:
            pressed = now
    return found


def read_midi(data: bytes, *, title: str = "Untitled") -> Score:
    """A performance or a sequenced file: what was written in exact note values stays as it is, what was played lies on the nearest sixteenth or triplet
    of the file's own tempo; hands by track, else by where they lie.

    Raises
    ------
    FormatError
        the file is damaged, holds no notes or a metre that cannot be charted
    """
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
    except (OSError, EOFError, ValueError, LookupError, TypeError, KeySignatureError) as error:
        raise FormatError(f"the MIDI file cannot be read: {one_line(error) or 'it breaks off'}") from error
    per_quarter = file.ticks_per_beat or 480
    for track in file.tracks:
        if sum(message.time for message in track) > _MOST_QUARTERS * per_quarter:
            raise FormatError(f"the MIDI file goes on beyond {_MOST_QUARTERS} quarters; a song has at most so many")
    tracks = [_read_track(track, per_quarter) for track in file.tracks]
    raw = [(i, *note) for i, track in enumerate(tracks) for note in track.notes]
    names = {i: track.name for i, track in enumerate(tracks) if track.name is not None}
    if not raw:
        raise FormatError("the MIDI file holds no notes")
    if len(raw) > _MOST_NOTES:
        raise FormatError(f"the MIDI file holds {len(raw)} notes; at most {_MOST_NOTES} are read")
    raw = _without_tune(raw, names)
    snap = _choose_grid([Fraction(start, per_quarter) for _, start, _, _ in raw], Fraction(1, per_quarter))
    hands = _hands_by_track(raw, names)
    notes = []
    for track_index, start, end, midi in raw:
        a, shortest = snap(Fraction(start, per_quarter))
        b = max(snap(Fraction(end, per_quarter))[0], a + shortest)
        notes.append(ScoreNote(a, b - a, midi, hands.get(track_index, "")))
    if not hands:
        notes = split_hands(notes)
    heading = next((n for i, n in sorted(names.items()) if n.strip() and hands.get(i) is None), title)
    ordered = tuple(sorted(set(notes), key=lambda n: (n.start, n.midi)))
    meters = known_meters([m for t in tracks for m in t.meters])
    keys, tempi, marks = (tuple(x for t in tracks for x in getattr(t, name)) for name in ("keys", "tempi", "marks"))
    pedals = tuple(sorted({(down, up) for t in tracks for down, up in t.pedals}))
    return Score(heading if heading.strip() else title, ordered, meters, keys, tempi, (), marks, pedals=pedals)


def _read_key(text: str) -> tuple[int, str]:
    """Fifths and mode of a MIDI key such as "F#m"."""
    from valley.theory.key import Key

    key = Key.of(text.removesuffix("m"), "minor" if text.endswith("m") else "major")
    return key.signature, key.mode


def _snap(position: Fraction, step: Fraction) -> Fraction:
    return round(position / step) * step


def _choose_grid(starts: Sequence[Fraction], tick: Fraction) -> Callable[[Fraction], tuple[Fraction, Fraction]]:
    """From a place to where it was meant, and the shortest note from there: exact note values where nearly all places are such, else one step for all."""
    exact = sum(abs(_nearest_value(s)[0] - s) <= tick for s in starts)
    if len(starts) >= _TELLING and exact >= _WRITTEN * len(starts):
        return _nearest_value
    step = _choose_step(starts)
    return lambda place: (_snap(place, step), step)


def _nearest_value(place: Fraction) -> tuple[Fraction, Fraction]:
    """The nearest place of a written note value, the plainest of those that are as near."""
    step = min(_VALUES, key=lambda step: (abs(place - _snap(place, step)) > Fraction(1, 200), -step))
    return _snap(place, step), step


def _choose_step(starts: Sequence[Fraction]) -> Fraction:
    """Sixteenths or triplets: whichever the beginnings lie nearer to."""
    return min(_FINEST, key=lambda step: (statistics.mean(float(abs(s - _snap(s, step)) / step) for s in starts), -step))


def _without_tune(raw: list[tuple[int, int, int, int]], names: dict[int, str]) -> list[tuple[int, int, int, int]]:
    """Beside tracks for both hands, a track of the tune says the same again."""
    hands = {t for t, *_ in raw if LEFT in names.get(t, "").lower() or RIGHT in names.get(t, "").lower()}
    tunes = {t for t, *_ in raw if names.get(t, "") == TUNE}
    return [row for row in raw if row[0] not in tunes] if len(hands) == 2 else raw


def _hands_by_track(raw: Sequence[tuple[int, int, int, int]], names: dict[int, str]) -> dict[int, str]:
    """Two tracks with notes are two hands, by their names or the higher one is the right."""
    tracks = sorted({t for t, *_ in raw})
    said = {t: hand for t in tracks for hand in (LEFT, RIGHT) if hand in names.get(t, "").lower()}
    if len(said) == len(tracks):
        return said
    if len(tracks) != 2:
        return {}
    middle = {t: statistics.mean(m for u, _, _, m in raw if u == t) for t in tracks}
    low, high = sorted(tracks, key=lambda t: middle[t])
    return {low: LEFT, high: RIGHT}


def split_hands(notes: Sequence[ScoreNote], *, span: int = 14) -> list[ScoreNote]:
    """Share notes between two hands: at every beginning the cut that keeps each hand within its span, near to where the hands were, at the widest gap.

    Chosen from the start on, one beginning after the other: where the hands were tells more than where they will be.
    """
    ordered = sorted(notes, key=lambda n: (n.start, n.midi))
    groups = [list(group) for _, group in groupby(ordered, key=lambda n: n.start)]
    places = {LEFT: 48.0, RIGHT: 67.0}
    out: list[ScoreNote] = []
    for group in groups:
        keys = [n.midi for n in group]

        def cost(cut: int, keys: list[int] = keys) -> float:
            low, high = keys[:cut], keys[cut:]
            total = 0.0
            for hand, side in ((low, LEFT), (high, RIGHT)):
                if hand:
                    total += 4.0 * max(0, hand[-1] - hand[0] - span) + 0.25 * abs(sum(hand) / len(hand) - places[side])
            if low and high:
                total -= 0.15 * min(12, high[0] - low[-1])
            return total

        cut = min(range(len(keys) + 1), key=cost)
        for i, note in enumerate(group):
            side = LEFT if i < cut else RIGHT
            out.append(replace(note, hand=side))
        for side, hand in ((LEFT, keys[:cut]), (RIGHT, keys[cut:])):
            if hand:
                places[side] = 0.7 * places[side] + 0.3 * sum(hand) / len(hand)
    return out
