"""The tune under the right hand: where it lies, what goes along with it, and what stands under it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import TypeVar

from valley.arranging.reach import Hand, widest_mm
from valley.arranging.styles import EASIER, FULLER, Style
from valley.fraction import Fraction
from valley.model.arrangement import RIGHT, Grip, PlayedNote
from valley.model.chart import Chart, MelodyNote
from valley.theory.chord import Chord
from valley.theory.key import Key

_ROOM = (58, 98)  # where the middle of a tune lies that a right hand plays: from A sharp 3 to D7
_HALF = Fraction(1, 2)


Timed = TypeVar("Timed", MelodyNote, PlayedNote)


def share_out(notes: Sequence[Timed], spans: Sequence[tuple[Fraction, Fraction]]) -> list[list[Timed]]:
    """For each span of beats the notes that sound in it; both in order of time, gone through once."""
    shared: list[list[Timed]] = []
    first = 0
    starts, ends = [float(n.start) for n in notes], [float(n.end) for n in notes]  # as exact as the fractions, and quicker to compare
    for begin, end in ((float(a), float(b)) for a, b in spans):
        while first < len(notes) and ends[first] <= begin and starts[first] < begin:
            first += 1
        here = []
        for i in range(first, len(notes)):
            if starts[i] >= end:
                break
            if ends[i] > begin or starts[i] == begin:
                here.append(notes[i])
        shared.append(here)
    return shared


def in_order(notes: Iterable[PlayedNote]) -> list[PlayedNote]:
    """By time, those struck together from the bottom up."""
    return [n for _, _, _, n in sorted((float(n.start), n.midi, i, n) for i, n in enumerate(notes))]


def octaves_of_tune(melody: Sequence[MelodyNote]) -> int:
    """By how many octaves a song's tune is moved: none, unless its middle lies below or above where a right hand plays; then as few as may be.

    One decision for the whole song, so that no part lies an octave away from another.
    """
    sounding = [n.midi for n in melody]
    if not sounding:
        return 0
    middle = (min(sounding) + max(sounding)) / 2
    octaves = 0
    while middle + 12 * octaves < _ROOM[0]:
        octaves += 1
    while middle + 12 * octaves > _ROOM[1]:
        octaves -= 1
    return octaves


def place_tune(melody: Sequence[MelodyNote], octaves: int, lowest: int, highest: int) -> tuple[MelodyNote, ...]:
    """The tune so many octaves away, all of it alike so that its shape stays; by more where keyboard or camera end before it does."""
    sounding = [n.midi for n in melody]
    if not sounding:
        return ()
    low, high, move = min(sounding), max(sounding), 12 * octaves
    while low + move < lowest and high + move + 12 <= highest:
        move += 12
    while high + move > highest and low + move - 12 >= lowest:
        move -= 12
    return tuple(replace(n, midi=n.midi + move) for n in melody)


def companion_of(midi: int, style: Style, level: str, chord: Chord | None, key: Key) -> tuple[int, ...]:
    """What goes along under a note of the tune: the third or sixth below in the scale (a chord note rather than a clash), or the octave."""
    if not style.companion or level == EASIER:
        return ()
    if style.companion == "octave":
        return (midi - 12,)
    scale = {n.pitch_class for n in key.scale()} | (chord.pitch_classes() if chord else frozenset())
    sizes = (3, 4, 5) if style.companion == "third" else (8, 9, 7)
    members = chord.pitch_classes() if chord else frozenset()
    options = [midi - s for s in sizes if (midi - s) % 12 in scale]
    options.sort(key=lambda k: (k % 12 not in members, midi - k == sizes[2]))
    return tuple(options[:1])


def set_tune(chart: Chart, grips: Sequence[Grip], melody: Sequence[MelodyNote], style: Style, level: str, hand: Hand) -> list[PlayedNote]:
    """The right hand in time.

    Where a chord changes, the tune's note takes the grip's lower notes with it; a note that is held over the change is struck
    again with them, so that the chord is heard. In a repeated style the lower notes are a voice of their own, struck on every half
    beat. Graces come just before their note.
    """
    notes: list[PlayedNote] = []
    over: dict[Fraction, list[Grip]] = {}
    shared = share_out(melody, [(g.start, g.end) for g in grips])
    for grip, here in zip(grips, shared, strict=True):
        for tune in here:
            over.setdefault(tune.start, []).append(grip)
    for tune in melody:
        if tune.grace:
            notes.append(PlayedNote(RIGHT, tune.start, tune.duration, tune.midi, _name(None, chart.key_at(tune.start), tune.midi), melody=True, grace=True))
        else:
            notes += _set_note(chart, tune, over.get(tune.start, []), style, level)
    for grip, sounding in zip(grips, shared, strict=True):
        if style.melody != "top" and not grip.locked:
            continue
        here = [n for n in sounding if not n.grace]
        covered = bool(here) and here[0].start <= grip.start
        if style.repeated:
            notes += _repeat_under(chart, grip, here, hand, covered=covered)
        elif not covered:
            length = (here[0].start if here else grip.end) - grip.start
            notes += [PlayedNote(RIGHT, grip.start, length, n.midi, n.pitch, finger=n.finger, optional=n.optional) for n in grip.right]
    return notes


def _set_note(chart: Chart, tune: MelodyNote, grips: Sequence[Grip], style: Style, level: str) -> list[PlayedNote]:
    """One note of the tune over the grips that sound with it."""
    notes: list[PlayedNote] = []
    chords = style.melody == "top" and not style.repeated
    pieces: list[tuple[Fraction, Grip | None, bool]] = [(tune.start, None, False)]
    for grip in grips:
        strikes = not style.repeated and (chords or grip.locked)
        if grip.start <= tune.start:
            pieces[0] = (tune.start, grip, strikes and grip.start == tune.start)
        elif strikes and any(n.midi != tune.midi for n in grip.right):
            pieces.append((grip.start, grip, True))
    ends = [start for start, _, _ in pieces[1:]] + [tune.end]
    quick = level != FULLER and tune.duration < _HALF  # quick notes go alone
    for (a, at, strikes), b in zip(pieces, ends, strict=True):
        chord = at.chord if at else None
        held = {n.midi: n for n in at.right if n.midi != tune.midi and (n.midi < tune.midi or at.locked)} if at and strikes else {}
        lower = set(held)
        if style.companion and not quick and len(lower) < 2:
            lower |= set(companion_of(tune.midi, style, level, chord, chart.key_at(a)))
        key = chart.key_at(a)
        for midi in sorted(lower):
            own = held.get(midi)
            notes.append(PlayedNote(RIGHT, a, b - a, midi, _name(chord, key, midi), finger=own.finger if own else None, optional=bool(own and own.optional)))
        same = next((n for n in at.right if n.midi == tune.midi), None) if at and a == at.start else None
        notes.append(PlayedNote(RIGHT, a, b - a, tune.midi, _name(chord, key, tune.midi), melody=True, finger=same.finger if same else None))
    return notes


def _repeat_under(chart: Chart, grip: Grip, melody: Sequence[MelodyNote], hand: Hand, *, covered: bool) -> list[PlayedNote]:
    """Thumb and index on every half beat (every third in compound time), below whatever the tune does meanwhile and within the hand's reach of it."""
    step = Fraction(1, 3) if chart.grid.meter_at(grip.start).division == 3 else _HALF
    held = grip.right[:-1] if covered and not grip.locked else grip.right
    notes: list[PlayedNote] = []
    at = grip.start
    while at < grip.end:
        length = min(step, grip.end - at)
        above = [n.midi for n in melody if n.start < at + length and n.end > at]
        struck = [n for n in held if n.midi not in above and (grip.locked or not above or n.midi < min(above))]
        if above and not grip.locked:
            struck = [n for n in struck if widest_mm(max(above) - n.midi) <= hand.most_mm]
        notes += [PlayedNote(RIGHT, at, length, n.midi, n.pitch, voice=2, finger=n.finger, optional=n.optional) for n in struck]
        at += length
    return notes


def _name(chord: Chord | None, key: Key, midi: int) -> str:
    return (chord.name_of(midi % 12, key) if chord else key.spell(midi % 12)).at(midi)
