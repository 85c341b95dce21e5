"""Corrections of chords: name, split, join, move, insert, delete, another bass."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Literal

from valley.charting.edits._common import check_step, chord_index, say_place, with_chords
from valley.charting.parts import symbol_of
from valley.errors import ParameterError
from valley.model.chart import Chart, ChartChord
from valley.theory.chord import NO_CHORD, Chord, parse_harte, parse_symbol
from valley.theory.pitch import parse_name


def _label(text: str) -> str:
    chord = parse_symbol(text)
    return chord.to_harte() if chord else NO_CHORD


@dataclass(frozen=True)
class SetChord:
    """Name the chord that begins at a beat, typed as people type chords or picked from its readings."""

    start: Fraction
    text: str
    kind: Literal["set_chord"] = "set_chord"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        label, i = _label(self.text), chord_index(chart, self.start)
        old = chart.chords[i]
        chords = (*chart.chords[:i], replace(old, label=label, locked=True), *chart.chords[i + 1 :])
        return with_chords(chart, chords), f"{say_place(chart, self.start)}: {symbol_of(label)} instead of {symbol_of(old.label)}"


@dataclass(frozen=True)
class SetBass:
    """Keep the chord, put another note under it; an empty text gives the root back."""

    start: Fraction
    note: str
    kind: Literal["set_bass"] = "set_bass"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        i = chord_index(chart, self.start)
        old = chart.chords[i]
        chord = parse_harte(old.label)
        if chord is None:
            raise ParameterError(f"{say_place(chart, self.start)} holds no chord, so it has no bass; name the chord first")
        if self.note.strip():
            bass = parse_name(self.note.strip())
            label = _label(f"{chord.root}{chord.quality.suffix}/{bass}")
        else:
            label = Chord(chord.root, chord.quality).to_harte()
        chords = (*chart.chords[:i], replace(old, label=label, locked=True), *chart.chords[i + 1 :])
        return with_chords(chart, chords), f"{say_place(chart, self.start)}: {symbol_of(label)}, another bass"


@dataclass(frozen=True)
class InsertChord:
    """A new chord from a beat on, to the next change or to ``end``."""

    start: Fraction
    text: str
    end: Fraction | None = None
    kind: Literal["insert_chord"] = "insert_chord"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        check_step(self.start, "start")
        label = _label(self.text)
        before = next((c for c in chart.chords if c.start <= self.start < c.end), None)
        if before is None:
            raise ParameterError(f"start={self.start} must lie inside the song, whose chords end at beat {chart.chords[-1].end}")
        end = before.end if self.end is None else self.end
        if end <= self.start:
            raise ParameterError(f"end={end} must come after start={self.start}")
        row: list[ChartChord] = []
        for c in chart.chords:
            if c.end <= self.start or c.start >= end:
                row.append(c)
                continue
            if c.start < self.start:
                row.append(replace(c, duration=self.start - c.start))
            if c.start <= self.start:
                row.append(ChartChord(self.start, min(end, chart.chords[-1].end) - self.start, label, 1.0, c.readings, True))
            if c.end > end:
                row.append(replace(c, start=end, duration=c.end - end))
        return with_chords(chart, row), f"{say_place(chart, self.start)}: {symbol_of(label)} put in"


@dataclass(frozen=True)
class SplitChord:
    """Cut the chord that sounds at a place in two, so that each half can be named."""

    at: Fraction
    kind: Literal["split_chord"] = "split_chord"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        check_step(self.at, "at")
        i = next((i for i, c in enumerate(chart.chords) if c.start < self.at < c.end), None)
        if i is None:
            raise ParameterError(f"at={self.at} must lie inside a chord, not at its edge; a chord already begins there or none sounds")
        c = chart.chords[i]
        halves = (replace(c, duration=self.at - c.start, locked=True), replace(c, start=self.at, duration=c.end - self.at, locked=True))
        return with_chords(chart, (*chart.chords[:i], *halves, *chart.chords[i + 1 :])), f"{say_place(chart, self.at)}: {symbol_of(c.label)} split"


@dataclass(frozen=True)
class JoinChord:
    """Let the chord before sound on through the one that begins here."""

    start: Fraction
    kind: Literal["join_chord"] = "join_chord"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        i = chord_index(chart, self.start)
        if i == 0:
            raise ParameterError("the first chord has none before it to be joined to; join the second one instead")
        before, here = chart.chords[i - 1], chart.chords[i]
        joined = replace(before, duration=here.end - before.start, locked=True)
        return with_chords(
            chart, (*chart.chords[: i - 1], joined, *chart.chords[i + 1 :])
        ), f"{say_place(chart, self.start)}: {symbol_of(before.label)} sounds on"


@dataclass(frozen=True)
class DeleteChord:
    """Take a chord out; the one before fills its time, or the one after where it is the first."""

    start: Fraction
    kind: Literal["delete_chord"] = "delete_chord"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        i = chord_index(chart, self.start)
        here = chart.chords[i]
        if len(chart.chords) == 1:
            raise ParameterError("this is the song's only chord; name it N for no chord instead")
        if i > 0:
            return JoinChord(self.start).apply(chart)[0], f"{say_place(chart, self.start)}: {symbol_of(here.label)} taken out"
        after = replace(chart.chords[1], start=here.start, duration=chart.chords[1].end - here.start, locked=True)
        return with_chords(chart, (after, *chart.chords[2:])), f"{say_place(chart, self.start)}: {symbol_of(here.label)} taken out"


@dataclass(frozen=True)
class MoveChange:
    """Move the place where a chord begins; its neighbours give or take the time."""

    start: Fraction
    to: Fraction
    kind: Literal["move_change"] = "move_change"

    def apply(self, chart: Chart) -> tuple[Chart, str]:
        check_step(self.to, "to")
        i = chord_index(chart, self.start)
        if i == 0:
            raise ParameterError("the first chord begins with the song and cannot be moved; move bar 1 on the grid instead")
        before, here = chart.chords[i - 1], chart.chords[i]
        if not before.start < self.to < here.end:
            raise ParameterError(
                f"to={self.to} must lie between beats {before.start} and {here.end}, or a chord would have no time left; join or delete it instead"
            )
        moved = (
            replace(before, duration=self.to - before.start),
            replace(here, start=self.to, duration=here.end - self.to, locked=True),
        )
        return (
            with_chords(chart, (*chart.chords[: i - 1], *moved, *chart.chords[i + 1 :])),
            f"{symbol_of(here.label)} moved from {say_place(chart, self.start)} to {say_place(chart, self.to)}",
        )
