"""Waltz or six eighths: three beats counted as one, or each beat as three.

A slow song in 6/8 sounds like a fast waltz, whose bars are its beats; who plays it knows which it is.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from valley.edits.grid import GridEdit, Regrid, heard_third, median_bpm
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import MOST_BEATS, Chart, Grid
from valley.theory.feel import STRAIGHT
from valley.theory.meter import Meter

_FEWEST = 4  # beats of a song


def _require_one_meter(grid: Grid, said: str) -> None:
    other = next((c for c in grid.changes if c.meter != grid.meter), None)
    if other:
        raise ParameterError(f"the metre is {other.meter} from bar {grid.place(Fraction(other.beat))[0]} on; {said} where it is {grid.meter} throughout")


@dataclass(frozen=True)
class ThreeAsOne(GridEdit):
    """Count three beats as one: bars of 3/4 or 3/8 become beats of 6/8, two of them a bar."""

    kind: Literal["three_as_one"] = "three_as_one"

    def regrid(self, chart: Chart) -> Regrid:
        old = chart.grid
        if old.main_meter.beats != 3 or old.main_meter.division == 3:
            raise ParameterError(f"bars of {old.meter} cannot be beats of 6/8; three beats are counted as one where bars are 3/4 or 3/8")
        _require_one_meter(old, "three beats are counted as one")
        offset = old.pickup % 3
        beats = old.beats[offset::3]
        if len(beats) < _FEWEST:
            raise ParameterError(f"only {len(beats)} beats would be left; the song is too short to have three counted as one")
        lead = bool(offset and old.beats[0] > 0)  # what comes before bar 1 is the end of a beat, which begins as much earlier as there is time
        if lead:
            beats = (max(0.0, round(2 * beats[0] - beats[1], 4)), *beats)
        grid = replace(old, beats=beats, meter="6/8", pickup=int(lead), changes=(), feel=STRAIGHT)

        def place(beat: Fraction) -> Fraction:
            return (heard_third(old, beat) - offset) / 3 + lead

        return Regrid(grid, place, f"three beats counted as one, {median_bpm(beats):.0f} to the minute in 6/8")


@dataclass(frozen=True)
class OneAsThree(GridEdit):
    """Count each beat of 6/8, 9/8 or 12/8 as three: it becomes a bar of 3/4."""

    kind: Literal["one_as_three"] = "one_as_three"

    def regrid(self, chart: Chart) -> Regrid:
        old = chart.grid
        if old.main_meter.division != 3:
            raise ParameterError(f"beats of {old.meter} do not fall into three; each beat is counted as three in 6/8, 9/8 and 12/8")
        if any(Meter(c.meter).division != 3 for c in old.changes):
            _require_one_meter(old, "each beat is counted as three")
        if 3 * len(old.beats) > MOST_BEATS:
            raise ParameterError(f"{3 * len(old.beats)} beats would be more than the {MOST_BEATS} that a song can have")
        ends = (*old.beats, 2 * old.beats[-1] - old.beats[-2])
        beats = tuple(round(a + (b - a) * k / 3, 4) for a, b in zip(ends, ends[1:], strict=False) for k in range(3))
        grid = replace(old, beats=beats, meter="3/4", pickup=0, changes=(), feel=STRAIGHT)
        return Regrid(grid, lambda beat: 3 * beat, f"each beat counted as three, {median_bpm(beats):.0f} to the minute in 3/4")
