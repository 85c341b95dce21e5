"""Places of a song in words."""

from __future__ import annotations

from valley.fraction import Fraction
from valley.model.chart import Chart


def say_place(chart: Chart, beat: Fraction) -> str:
    """ "bar 5, beat 3", or "bar 5, beat 3 &" between beats; for records and messages."""
    bar, into = chart.grid.place(beat)
    return f"{f'bar {bar}' if bar >= 1 else 'the pickup'}, beat {chart.grid.meter_of(bar).count(into)}"
