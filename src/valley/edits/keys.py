"""Corrections of keys; the spelling of everything in their reach follows."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from valley.charting.places import say_place
from valley.edits._common import with_chords
from valley.edits._edit import ChartEdit
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord, KeyArea
from valley.theory.key import Key


def _respell(chart: Chart) -> Chart:
    """Every chord spelled as its key has it."""

    def spelled(c: ChartChord) -> ChartChord:
        chord = c.chord
        return replace(c, chord=chord.respelled(chart.key_at(c.start))) if chord else c

    return with_chords(chart, [spelled(c) for c in chart.chords])


def _joined(areas: list[KeyArea]) -> tuple[KeyArea, ...]:
    """Areas in order; one that says the same as the one before is no change."""
    out: list[KeyArea] = []
    for area in sorted(areas, key=lambda a: a.start):
        if not out or (out[-1].tonic, out[-1].mode) != (area.tonic, area.mode):
            out.append(area)
    return tuple(out)


@dataclass(frozen=True)
class SetKey(ChartEdit):
    """The key from a beat on: a new key change there, or another key where one already begins."""

    start: Fraction
    tonic: str
    mode: str
    kind: Literal["set_key"] = "set_key"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def transposed(self, half_steps: int) -> Self:
        key = Key.of(self.tonic, self.mode)
        return replace(self, tonic=str(Key.from_pitch_class(key.tonic.pitch_class + half_steps, self.mode).tonic))

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        key = Key.of(self.tonic, self.mode)
        if not 0 <= self.start < len(chart.grid.beats):
            raise ParameterError(f"start={self.start} must lie inside the song, beats 0 to {len(chart.grid.beats)}")
        if abs(key.signature) > 7:
            raise ParameterError(f"{key} would need {abs(key.signature)} signs; take the key that sounds the same with fewer")
        rest = [a for a in chart.keys if a.start != self.start]
        changed = replace(chart, keys=_joined([*rest, KeyArea(self.start, str(key.tonic), key.mode, 1.0)]))
        return _respell(changed), f"{say_place(chart, self.start)}: {key} from here on"


@dataclass(frozen=True)
class RemoveKey(ChartEdit):
    """Take a key change out; the key before goes on."""

    start: Fraction
    kind: Literal["remove_key"] = "remove_key"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        if self.start == 0 or all(a.start != self.start for a in chart.keys):
            raise ParameterError(f"at {say_place(chart, self.start)} no key begins after the first, which can only be changed")
        gone = next(a for a in chart.keys if a.start == self.start)
        changed = replace(chart, keys=_joined([a for a in chart.keys if a.start != self.start]))
        return _respell(changed), f"{say_place(chart, self.start)}: no change to {gone.key}"
