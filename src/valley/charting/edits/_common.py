"""What the corrections share: finding places, cutting a chord row without leaving gaps."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from valley.charting.parts import relate_parts
from valley.errors import ParameterError
from valley.model.chart import Chart, ChartChord


def say_place(chart: Chart, beat: Fraction) -> str:
    """ "bar 5, beat 3", or "bar 5, beat 3 &" between beats; for records and messages."""
    bar, into = chart.grid.place(beat)
    return f"{f'bar {bar}' if bar >= 1 else 'the pickup'}, beat {chart.grid.metre_of(bar).count(into)}"


def chord_index(chart: Chart, start: Fraction) -> int:
    """Which chord begins at a beat."""
    for i, chord in enumerate(chart.chords):
        if chord.start == start:
            return i
    raise ParameterError(f"start={start} must be a beat where a chord begins; the chart may have changed meanwhile")


def with_chords(chart: Chart, chords: tuple[ChartChord, ...] | list[ChartChord]) -> Chart:
    """The chart with another row of chords, its parts compared anew."""
    return relate_parts(replace(chart, chords=tuple(chords)), chart.parts)


def check_step(beat: Fraction, what: str) -> None:
    """Places are on whole or half beats, or on the thirds that compound time has."""
    if beat.denominator not in (1, 2, 3):
        raise ParameterError(f"{what}={beat} must be a whole beat, a half or a third of one; smaller steps are for the tune")
