"""Corrections of the tune: add, change, delete, split, join, transpose, snap."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from valley.charting.parts import relate_parts
from valley.charting.places import say_place
from valley.edits._edit import ChartEdit
from valley.edits._steps import say_half_steps
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, MelodyNote
from valley.model.rows import with_next
from valley.theory.pitch import spell_midi

LOWEST, HIGHEST = 21, 108


def _name(chart: Chart, note: MelodyNote) -> str:
    return spell_midi(note.midi, chart.key_at(note.start).tonic)


def _find(chart: Chart, start: Fraction) -> MelodyNote:
    note = next((n for n in chart.melody if n.start == start), None)
    if note is None:
        raise ParameterError(f"no note of the tune begins at {say_place(chart, start)}; the tune may have changed meanwhile")
    return note


def _with_tune(chart: Chart, notes: list[MelodyNote]) -> Chart:
    """The tune in order; a note that runs into the next ends where that begins."""
    ordered = sorted(notes, key=lambda n: n.start)
    for before, after in zip(ordered, ordered[1:], strict=False):
        if before.start == after.start:
            raise ParameterError(f"two notes would begin at {say_place(chart, after.start)}; the tune has one note at a time")
    cut = [replace(n, duration=min(n.end, after.start) - n.start) if after and n.end > after.start else n for n, after in with_next(ordered)]
    return relate_parts(replace(chart, melody=tuple(cut)), chart.parts, chart)


def _check(chart: Chart, start: Fraction, duration: Fraction, midi: int) -> None:
    """A note of these could stand in the song."""
    end = Fraction(len(chart.grid.beats))
    if not LOWEST <= midi <= HIGHEST:
        raise ParameterError(f"midi={midi} must be a key of the piano, {LOWEST} to {HIGHEST}")
    if not 0 <= start < end:
        raise ParameterError(f"a note {start} beats from the first would lie outside the song, which has {len(chart.grid.beats)}")
    if duration <= 0:
        raise ParameterError(f"a note must last more than 0 beats, not {duration}; take it out instead")


@dataclass(frozen=True)
class AddNote(ChartEdit):
    """A note where none sounds, or inside a longer one, which ends there."""

    start: Fraction
    duration: Fraction
    midi: int
    kind: Literal["add_note"] = "add_note"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def transposed(self, half_steps: int) -> Self:
        return replace(self, midi=self.midi + half_steps)

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        _check(chart, self.start, self.duration, self.midi)
        note = MelodyNote(self.start, self.duration, self.midi, 1.0, True)
        return _with_tune(chart, [*chart.melody, note]), f"tune, {say_place(chart, self.start)}: {_name(chart, note)} added"


@dataclass(frozen=True)
class DeleteNote(ChartEdit):
    start: Fraction
    kind: Literal["delete_note"] = "delete_note"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        note = _find(chart, self.start)
        return _with_tune(chart, [n for n in chart.melody if n is not note]), f"tune, {say_place(chart, self.start)}: {_name(chart, note)} taken out"


@dataclass(frozen=True)
class ChangeNote(ChartEdit):
    """Another pitch, place, length, or the mark of a grace note; what is not given stays."""

    start: Fraction
    to: Fraction | None = None
    duration: Fraction | None = None
    midi: int | None = None
    grace: bool | None = None
    kind: Literal["change_note"] = "change_note"
    PLACES: ClassVar[tuple[str, ...]] = ("start", "to")

    def transposed(self, half_steps: int) -> Self:
        return self if self.midi is None else replace(self, midi=self.midi + half_steps)

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        old = _find(chart, self.start)
        start = old.start if self.to is None else self.to
        duration = old.duration if self.duration is None else self.duration
        midi = old.midi if self.midi is None else self.midi
        _check(chart, start, duration, midi)
        new = MelodyNote(start, duration, midi, 1.0, True, old.grace if self.grace is None else self.grace)
        rest = [n for n in chart.melody if n is not old]
        if self.to is not None:  # what lies under the moved note gives way, but no note is lost unseen
            clash = next((n for n in rest if n.start == new.start), None)
            if clash:
                raise ParameterError(f"{_name(chart, clash)} already begins at {say_place(chart, new.start)}; delete or move it first")
        words = [f"{_name(chart, new)} instead of {_name(chart, old)}"] if new.midi != old.midi else [_name(chart, old)]
        words += [f"moved to {say_place(chart, new.start)}"] if new.start != old.start else []
        words += [f"lasts {new.duration} beats"] if new.duration != old.duration else []
        words += ["as a grace note" if new.grace else "as a full note"] if new.grace != old.grace else []
        return _with_tune(chart, [*rest, new]), f"tune, {say_place(chart, old.start)}: {', '.join(words)}"


@dataclass(frozen=True)
class SplitNote(ChartEdit):
    """Strike a held note again at a place inside it."""

    start: Fraction
    at: Fraction
    kind: Literal["split_note"] = "split_note"
    PLACES: ClassVar[tuple[str, ...]] = ("start", "at")

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        note = _find(chart, self.start)
        if not note.start < self.at < note.end:
            span = f"{say_place(chart, note.start)} to {say_place(chart, note.end)}"
            raise ParameterError(f"{say_place(chart, self.at)} does not lie inside the note, which lasts from {span}")
        halves = [replace(note, duration=self.at - note.start, locked=True), replace(note, start=self.at, duration=note.end - self.at, locked=True)]
        return _with_tune(
            chart, [*[n for n in chart.melody if n is not note], *halves]
        ), f"tune, {say_place(chart, self.at)}: {_name(chart, note)} struck again"


@dataclass(frozen=True)
class JoinNote(ChartEdit):
    """Hold a note through the next one."""

    start: Fraction
    kind: Literal["join_note"] = "join_note"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        note = _find(chart, self.start)
        after = next((n for n in chart.melody if n.start > note.start), None)
        if after is None:
            raise ParameterError("this is the last note of the tune; there is none to join it to")
        joined = replace(note, duration=after.end - note.start, locked=True)
        return _with_tune(
            chart, [*[n for n in chart.melody if n not in (note, after)], joined]
        ), f"tune, {say_place(chart, self.start)}: {_name(chart, note)} held on"


@dataclass(frozen=True)
class TransposeNotes(ChartEdit):
    """Move all notes that begin in a stretch, by octaves or any other step."""

    start: Fraction
    end: Fraction
    semitones: int
    kind: Literal["transpose_notes"] = "transpose_notes"
    PLACES: ClassVar[tuple[str, ...]] = ("start", "end")

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        def up(note: MelodyNote) -> MelodyNote:
            _check(chart, note.start, note.duration, note.midi + self.semitones)
            return replace(note, midi=note.midi + self.semitones, locked=True)

        return _in_stretch(chart, self.start, self.end, up), f"tune, {say_place(chart, self.start)} on: {say_half_steps(self.semitones)}"


@dataclass(frozen=True)
class SnapNotes(ChartEdit):
    """Set all notes that begin in a stretch on the nearest step of the count, such as 1/2 or 1/3 of a beat."""

    start: Fraction
    end: Fraction
    step: Fraction
    kind: Literal["snap_notes"] = "snap_notes"
    PLACES: ClassVar[tuple[str, ...]] = ("start", "end")

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        if not 0 < self.step <= 1:
            raise ParameterError(f"step={self.step} must be more than 0 and at most a beat, such as 1/2")
        inside = [n for n in chart.melody if self.start <= n.start < self.end]
        rest = [n for n in chart.melody if not self.start <= n.start < self.end]
        placed: dict[Fraction, MelodyNote] = {}
        for n in inside:
            start = round(n.start / self.step) * self.step
            while start in placed:
                start += self.step
            placed[start] = replace(n, start=start, duration=max(self.step, round(n.end / self.step) * self.step - start), locked=True)
        taken = {n.start for n in rest}
        kept = [n for start, n in placed.items() if start not in taken and start < len(chart.grid.beats)]
        if len(kept) < len(inside):
            raise ParameterError(f"{len(inside) - len(kept)} notes would fall on others at step={self.step}; take a smaller step or a shorter stretch")
        return _with_tune(chart, [*rest, *kept]), f"tune, {say_place(chart, self.start)} on: set on {_say_steps(self.step)}"


def _in_stretch(chart: Chart, start: Fraction, end: Fraction, change: Callable[[MelodyNote], MelodyNote]) -> Chart:
    if not any(start <= n.start < end for n in chart.melody):
        raise ParameterError(f"no note of the tune begins from {say_place(chart, start)} to {say_place(chart, end)}")
    return _with_tune(chart, [change(n) if start <= n.start < end else n for n in chart.melody])


def _say_steps(step: Fraction) -> str:
    """
    >>> _say_steps(Fraction(1, 2)), _say_steps(Fraction(1, 6))
    ('half beats', '6ths of a beat')
    """
    named = {Fraction(1): "beats", Fraction(1, 2): "half beats", Fraction(1, 3): "thirds of a beat", Fraction(1, 4): "quarters of a beat"}
    return named.get(step) or (f"{step.denominator}ths of a beat" if step.numerator == 1 else f"steps of {step} beats")
