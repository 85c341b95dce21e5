"""Corrections of chords: name, split, join, move, insert, delete, another bass."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from valley.charting.places import say_place
from valley.edits._common import check_step, chord_index, transpose_symbol, with_chords
from valley.edits._edit import ChartEdit
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord
from valley.theory.chord import Chord, parse_symbol, symbol_of
from valley.theory.pitch import parse_name


@dataclass(frozen=True)
class SetChord(ChartEdit):
    """Name the chord that begins at a beat, typed as people type chords or picked from its readings."""

    start: Fraction
    text: str
    kind: Literal["set_chord"] = "set_chord"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def transposed(self, half_steps: int) -> Self:
        return replace(self, text=transpose_symbol(self.text, half_steps))

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        chord, i = parse_symbol(self.text), chord_index(chart, self.start)
        old = chart.chords[i]
        chords = (*chart.chords[:i], replace(old, chord=chord, locked=True), *chart.chords[i + 1 :])
        said = "kept" if chord == old.chord else f"instead of {old.symbol}"
        return with_chords(chart, chords), f"{say_place(chart, self.start)}: {symbol_of(chord)} {said}"


@dataclass(frozen=True)
class SetBass(ChartEdit):
    """Keep the chord, put another note under it; an empty text gives the root back."""

    start: Fraction
    note: str
    kind: Literal["set_bass"] = "set_bass"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def transposed(self, half_steps: int) -> Self:
        return replace(self, note=transpose_symbol(self.note.strip(), half_steps)) if self.note.strip() else self

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        i = chord_index(chart, self.start)
        old = chart.chords[i]
        chord = old.chord
        if chord is None:
            raise ParameterError(f"{say_place(chart, self.start)} holds no chord, so it has no bass; name the chord first")
        if self.note.strip():
            bass = parse_name(self.note.strip())
            changed = parse_symbol(f"{chord.root}{chord.quality.suffix}/{bass}")
        else:
            changed = Chord(chord.root, chord.quality)
        chords = (*chart.chords[:i], replace(old, chord=changed, locked=True), *chart.chords[i + 1 :])
        return with_chords(chart, chords), f"{say_place(chart, self.start)}: {symbol_of(changed)}, another bass"


@dataclass(frozen=True)
class InsertChord(ChartEdit):
    """A new chord from a beat on, to the next change or to ``end``."""

    start: Fraction
    text: str
    end: Fraction | None = None
    kind: Literal["insert_chord"] = "insert_chord"
    PLACES: ClassVar[tuple[str, ...]] = ("start", "end")

    def transposed(self, half_steps: int) -> Self:
        return replace(self, text=transpose_symbol(self.text, half_steps))

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        check_step(self.start, "start")
        chord = parse_symbol(self.text)
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
                row.append(ChartChord(self.start, min(end, chart.chords[-1].end) - self.start, chord, 1.0, c.readings, True))
            if c.end > end:
                row.append(replace(c, start=end, duration=c.end - end))
        return with_chords(chart, row), f"{say_place(chart, self.start)}: {symbol_of(chord)} put in"


@dataclass(frozen=True)
class SplitChord(ChartEdit):
    """Cut the chord that sounds at a place in two, so that each half can be named."""

    at: Fraction
    kind: Literal["split_chord"] = "split_chord"
    PLACES: ClassVar[tuple[str, ...]] = ("at",)

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        check_step(self.at, "at")
        i = next((i for i, c in enumerate(chart.chords) if c.start < self.at < c.end), None)
        if i is None:
            raise ParameterError(f"at={self.at} must lie inside a chord, not at its edge; a chord already begins there or none sounds")
        c = chart.chords[i]
        halves = (replace(c, duration=self.at - c.start, locked=True), replace(c, start=self.at, duration=c.end - self.at, locked=True))
        return with_chords(chart, (*chart.chords[:i], *halves, *chart.chords[i + 1 :])), f"{say_place(chart, self.at)}: {c.symbol} split"


@dataclass(frozen=True)
class JoinChord(ChartEdit):
    """Let the chord before sound on through the one that begins here."""

    start: Fraction
    kind: Literal["join_chord"] = "join_chord"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        i = chord_index(chart, self.start)
        if i == 0:
            raise ParameterError("the first chord has none before it to be joined to; join the second one instead")
        before, here = chart.chords[i - 1], chart.chords[i]
        joined = replace(before, duration=here.end - before.start, locked=True)
        return with_chords(chart, (*chart.chords[: i - 1], joined, *chart.chords[i + 1 :])), f"{say_place(chart, self.start)}: {before.symbol} sounds on"


@dataclass(frozen=True)
class DeleteChord(ChartEdit):
    """Take a chord out; the one before fills its time, or the one after where it is the first."""

    start: Fraction
    kind: Literal["delete_chord"] = "delete_chord"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        i = chord_index(chart, self.start)
        here = chart.chords[i]
        if len(chart.chords) == 1:
            raise ParameterError("this is the song's only chord; name it N for no chord instead")
        if i > 0:
            return JoinChord(self.start).correct(chart)[0], f"{say_place(chart, self.start)}: {here.symbol} taken out"
        after = replace(chart.chords[1], start=here.start, duration=chart.chords[1].end - here.start, locked=True)
        return with_chords(chart, (after, *chart.chords[2:])), f"{say_place(chart, self.start)}: {here.symbol} taken out"


@dataclass(frozen=True)
class MoveChange(ChartEdit):
    """Move the place where a chord begins; its neighbours give or take the time."""

    start: Fraction
    to: Fraction
    kind: Literal["move_change"] = "move_change"
    PLACES: ClassVar[tuple[str, ...]] = ("start", "to")

    def correct(self, chart: Chart) -> tuple[Chart, str]:
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
            f"{here.symbol} moved from {say_place(chart, self.start)} to {say_place(chart, self.to)}",
        )
