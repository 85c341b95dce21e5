"""What edits of several bars share: where bars lie, how they are told, a stretch of the tune laid over another."""

from __future__ import annotations

from dataclasses import replace

from valley.charting.parts import relate_parts
from valley.charting.places import say_place
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, MelodyNote
from valley.model.rows import with_next


def edges_of(chart: Chart, bar: int) -> tuple[Fraction, Fraction]:
    """Where a bar begins and ends; the recording may cut the last one short."""
    return chart.grid.bar_start(bar), min(chart.grid.bar_start(bar + 1), Fraction(len(chart.grid.beats)))


def with_tune(chart: Chart, new: list[MelodyNote], start: Fraction, end: Fraction) -> Chart:
    """The chart with other notes between two beats; what sounds into them, or out of them, ends at the edge."""
    before = [replace(n, duration=min(n.end, start) - n.start) for n in chart.melody if n.start < start]
    after = [n for n in chart.melody if n.start >= end]
    limit = after[0].start if after else Fraction(len(chart.grid.beats))
    inside = [replace(n, duration=min(n.end, limit) - n.start) for n in new]
    inside = [replace(n, duration=min(n.end, later.start) - n.start) if later else n for n, later in with_next(inside)]
    return relate_parts(replace(chart, melody=(*before, *inside, *after)), chart.parts, chart)


def bar_at(chart: Chart, beat: Fraction) -> int:
    """The number of the bar that begins at a beat; 0 is the pickup."""
    if not 0 <= beat < len(chart.grid.beats):
        raise ParameterError(f"beat {beat} must lie inside the song, which has {len(chart.grid.beats)}")
    bar, _ = chart.grid.place(beat)
    if chart.grid.bar_start(bar) != beat:
        raise ParameterError(f"{say_place(chart, beat)} is no beginning of a bar; choose the bar's first beat")
    return bar


def say_bars(first: int, count: int) -> str:
    if count == 1:
        return f"bar {first}" if first else "the pickup"
    return f"bars {first} to {first + count - 1}" if first else f"the pickup to bar {count - 1}"
