"""Passages: what the creator writes for a hand, note by note, and how long it holds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from valley.arranging.arrange import arrange
from valley.arranging.passages import level_at
from valley.arranging.reach import keyboard_range
from valley.charting.hand_text import read_hand
from valley.edits._edit import HandsEdit
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.arrangement import HANDS, Arrangement
from valley.model.chart import Chart, MelodyNote
from valley.model.choices import Choices
from valley.model.passage import Passage, WrittenNote
from valley.song.state import SongState
from valley.song.work import follow_schools
from valley.theory.pitch import PitchName, spell_midi

_SHORTEST = Fraction(1, 1024)
Hand = Literal["left", "right"]
Source = Literal["written", "imported", "played"]


@dataclass(frozen=True)
class WritePassage(HandsEdit):
    """What a hand plays from ``start`` on for ``duration`` beats: note by note, or as ``text`` of counts and notes.

    ``times``: the parts in whose repeats it holds besides this one; None is every one.
    """

    start: Fraction
    hand: Hand
    duration: Fraction
    notes: tuple[WrittenNote, ...] = ()
    text: str = ""
    times: tuple[int, ...] | None = ()
    source: Source = "written"
    kind: Literal["write_passage"] = "write_passage"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def transposed(self, half_steps: int) -> Self:
        if self.text:
            raise ParameterError("a passage that was typed is moved to a repeat at another pitch by saying that it holds there")
        return replace(self, notes=tuple(replace(n, midi=n.midi + half_steps, pitch="") for n in self.notes))

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        chart, choices = song.chart, song.choices
        if self.duration <= 0 or self.start + self.duration > len(chart.grid.beats):
            raise ParameterError(f"duration={self.duration} must be longer than 0 and end with the song, at beat {len(chart.grid.beats)}")
        notes = read_hand(self.text, chart.grid, self.start, self.duration) if self.text else self.notes
        passage = Passage(self.hand, self.start, self.duration, notes, self.times, self.source, level_at(chart, choices, self.start))
        check_keys(choices, notes)
        count = len(notes)
        said = f"{count} note{'' if count == 1 else 's'}" if count else "rests"
        return lay_in(choices, passage), f"bar {chart.grid.place(self.start)[0]}: the {self.hand} hand as it was {self.source}, {said}{_where(passage)}"


@dataclass(frozen=True)
class ForgetPassage(HandsEdit):
    """Back to what Valley proposes for a hand: from ``start`` on for ``duration`` beats, wherever a passage stands there."""

    start: Fraction
    hand: Hand
    duration: Fraction
    kind: Literal["forget_passage"] = "forget_passage"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        choices = song.choices
        over = [p for p in choices.passages if p.hand == self.hand and p.start < self.start + self.duration and p.end > self.start]
        if not over:
            raise ParameterError(f"nothing is written for the {self.hand} hand there; Valley's own notes stand already")
        kept = [piece for p in choices.passages for piece in ([p] if p not in over else cut_out(p, self.start, self.start + self.duration))]
        return replace(choices, passages=in_order(kept)), f"bar {song.chart.grid.place(self.start)[0]}: the {self.hand} hand as Valley proposes it"


@dataclass(frozen=True)
class ChangePlayed(HandsEdit):
    """One note of those that a hand plays, as the creator wants it; the bar that it stands in becomes a passage of the creator's.

    ``start`` and ``midi`` name the note. ``to`` is another beat, ``lasting`` another length, ``key`` another key, ``finger`` a finger (0 takes it
    away), ``other_hand`` gives it to the other hand, ``star`` stars it or takes the star away, ``remove`` takes it out. With ``add`` there is no such
    note yet.
    """

    start: Fraction
    hand: Hand
    midi: int
    to: Fraction | None = None
    lasting: Fraction | None = None
    key: int | None = None
    finger: int | None = None
    star: bool = False
    other_hand: bool = False
    remove: bool = False
    add: bool = False
    times: tuple[int, ...] | None = ()
    kind: Literal["change_played"] = "change_played"
    PLACES: ClassVar[tuple[str, ...]] = ("start", "to")

    def transposed(self, half_steps: int) -> Self:
        return replace(self, midi=self.midi + half_steps, key=None if self.key is None else self.key + half_steps)

    def choose(self, song: SongState, played: Sequence[MelodyNote]) -> tuple[Choices, str]:
        chart = song.chart
        first, last = bar_span(chart, self.start)
        to = self.start if self.to is None else self.to
        if not first <= to < last:
            raise ParameterError(f"to={to} must lie in the same bar, from beat {first} to {last}; write the note in its own bar instead")
        arrangement = arrange(chart, follow_schools(song.choices, song.teaching.schools), played=played)
        hands = HANDS if self.other_hand else (self.hand,)
        first, last = _stretch(chart, arrangement, hands, first, max(last, min(to + (self.lasting or 0), Fraction(len(chart.grid.beats)))))
        mine = notes_in(arrangement, self.hand, first, last)
        note = next((n for n in mine if first + n.start == self.start and n.midi == self.midi), None)
        if self.add == (note is not None):
            have = "strikes already" if self.add else "does not strike"
            where = f"in bar {chart.grid.place(self.start)[0]} on {chart.grid.count(self.start)}"
            raise ParameterError(
                f"{_key_name(chart, self.start, self.midi)} is a key that the {self.hand} hand {have} {where}; the song may have changed since"
            )
        old = note or WrittenNote(self.start - first, self.lasting or Fraction(1), self.midi)
        lasting = self.lasting or min(old.duration, last - to)
        new = replace(
            old,
            start=to - first,
            duration=min(lasting, last - to),
            midi=old.midi if self.key is None else self.key,
            pitch=old.pitch if self.key in (None, old.midi) else "",
            finger=old.finger if self.finger is None else self.finger or None,
            optional=old.optional != self.star,
        )
        rest = [n for n in mine if n != note]
        bar = chart.grid.place(self.start)[0]
        what = f"bar {bar}: {self._tell(chart, old, new)}"
        if self.remove:
            return self._write(song, first, last, self.hand, rest, song.choices), what
        if not self.other_hand:
            return self._write(song, first, last, self.hand, [*rest, new], song.choices), what
        other: Hand = "right" if self.hand == "left" else "left"
        theirs = notes_in(arrangement, other, first, last)
        choices = self._write(song, first, last, self.hand, rest, song.choices)
        if any(n.start == new.start and n.midi == new.midi for n in theirs):
            raise ParameterError(f"the {other} hand strikes {_key_name(chart, self.start, new.midi)} there already; a key is struck by one hand")
        return self._write(song, first, last, other, [*theirs, replace(new, finger=None)], choices), what

    def _write(self, song: SongState, first: Fraction, last: Fraction, hand: Hand, notes: Sequence[WrittenNote], choices: Choices) -> Choices:
        check_keys(choices, notes)
        ordered = tuple(sorted(notes, key=lambda n: (n.start, n.voice, n.midi)))
        return lay_in(choices, Passage(hand, first, last - first, ordered, self.times, level=level_at(song.chart, choices, first)))

    def _tell(self, chart: Chart, old: WrittenNote, new: WrittenNote) -> str:
        at = chart.grid.count(self.start)

        def name(note: WrittenNote) -> str:
            return note.pitch or _key_name(chart, self.start, note.midi)

        if self.remove:
            return f"{name(old)} on {at} taken out"
        if self.add:
            return f"{name(new)} put in on {at}"
        if self.other_hand:
            return f"{name(old)} on {at} given to the other hand"
        said = []
        if new.midi != old.midi:
            said.append(f"moved to {name(new)}")
        if new.start != old.start:
            said.append(f"moved to {chart.grid.count(chart.grid.bar_start(chart.grid.place(self.start)[0]) + new.start)}")
        if new.duration != old.duration:
            said.append(f"lasts {new.duration} beat{'' if new.duration == 1 else 's'}")
        if new.finger != old.finger:
            said.append(f"with finger {new.finger}" if new.finger else "with any finger")
        if new.optional != old.optional:
            said.append("starred" if new.optional else "no longer starred")
        return f"{name(old)} on {at} {', '.join(said) or 'stays'}"


def _key_name(chart: Chart, beat: Fraction, midi: int) -> str:
    return spell_midi(midi, chart.key_at(beat).tonic)


def bar_span(chart: Chart, beat: Fraction) -> tuple[Fraction, Fraction]:
    """First beat of the bar in which a beat lies, and the beat after it; a pickup is a bar of its own."""
    bar = chart.grid.place(beat)[0]
    first = chart.grid.bar_start(bar)
    last = Fraction(chart.grid.pickup) if bar == 0 else chart.grid.bar_start(bar + 1)
    return first, min(last, Fraction(len(chart.grid.beats)))


def _stretch(chart: Chart, arrangement: Arrangement, hands: Sequence[str], first: Fraction, last: Fraction) -> tuple[Fraction, Fraction]:
    """The bars around a stretch, as far as keys are held over its bar lines: what is tied stays tied when one of its bars is written."""
    rows = [(n.start, n.end) for p in arrangement.parts for n in p.notes if n.hand in hands and not n.grace]
    while True:
        begin = min((start for start, end in rows if start < first < end), default=first)
        stop = max((end for start, end in rows if start < last < end), default=last)
        wider = bar_span(chart, begin)[0], bar_span(chart, stop - _SHORTEST)[1]
        if wider == (first, last):
            return wider
        first, last = wider


def hand_in(song: SongState, hand: str, first: Fraction, last: Fraction, played: Sequence[MelodyNote]) -> list[WrittenNote]:
    """What a hand of a song plays in a stretch, as notes of a passage that begins there."""
    return notes_in(arrange(song.chart, follow_schools(song.choices, song.teaching.schools), played=played), hand, first, last)


def notes_in(arrangement: Arrangement, hand: str, first: Fraction, last: Fraction) -> list[WrittenNote]:
    """What a hand of an arrangement plays in a stretch, as notes of a passage that begins there; what sounds beyond it is cut.

    Of the fingers only those that the creator set go along: the others are found anew around them.
    """
    rows = [n for p in arrangement.parts for n in p.notes if n.hand == hand and first <= n.start < last]
    written = {}
    for n in rows:
        lasting = min(n.duration, last - n.start) or Fraction(1, 4)  # a grace has a written length
        note = WrittenNote(n.start - first, lasting, n.midi, n.pitch, n.finger if n.finger_set else None, n.optional, n.accent, n.grace, n.rings, n.voice)
        written[n.start, n.voice, n.midi, n.grace] = note
    return list(written.values())


def check_keys(choices: Choices, notes: Sequence[WrittenNote]) -> None:
    low, high = keyboard_range(choices.keyboard)
    outside = [n.midi for n in notes if not low <= n.midi <= high]
    if outside:
        name = spell_midi(outside[0], PitchName(0))
        raise ParameterError(f"{name} lies outside the keyboard of {choices.keyboard} keys; choose a longer one, or another octave")


def lay_in(choices: Choices, passage: Passage) -> Choices:
    """The choices with a passage in them; what others of its hand and level say about its stretch is cut out of them."""
    others = [
        piece for p in choices.passages for piece in ([p] if (p.hand, p.level) != (passage.hand, passage.level) else cut_out(p, passage.start, passage.end))
    ]
    return replace(choices, passages=in_order([*others, passage]))


def in_order(passages: Sequence[Passage]) -> tuple[Passage, ...]:
    return tuple(sorted(passages, key=lambda p: (p.start, p.hand, p.level)))


def cut_out(passage: Passage, start: Fraction, end: Fraction) -> list[Passage]:
    """What is left of a passage outside a stretch: all of it, a piece at either side, or nothing. A note that sounds into the stretch ends there."""
    pieces = []
    for a, b in ((passage.start, min(passage.end, start)), (max(passage.start, end), passage.end)):
        if a >= b:
            continue
        inside = [n for n in passage.notes if a <= passage.start + n.start < b]
        notes = [replace(n, start=passage.start + n.start - a, duration=min(n.duration, b - passage.start - n.start)) for n in inside]
        pieces.append(replace(passage, start=a, duration=b - a, notes=tuple(notes)))
    return pieces


def _where(passage: Passage) -> str:
    if passage.times is None:
        return ", every time"
    return f", and in part{'s' if len(passage.times) > 1 else ''} {', '.join(str(t) for t in passage.times)}" if passage.times else ""


__all__ = ["ChangePlayed", "ForgetPassage", "WritePassage"]
