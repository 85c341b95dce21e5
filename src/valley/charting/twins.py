"""The same place in the repeats of a part, and whether it is still the same there."""

from __future__ import annotations

from dataclasses import dataclass

from valley.charting.parts import bar_chords, sound_of
from valley.fraction import Fraction
from valley.model.chart import Chart
from valley.theory.chord import symbol_of


@dataclass(frozen=True)
class Twin:
    """The same place in another occurrence of a part: ``shift`` beats on and ``up`` half steps higher; ``now`` says what differs."""

    part: int
    bar: int
    shift: Fraction
    same: bool
    now: str
    up: int = 0


def find_twins(chart: Chart, beat: Fraction) -> tuple[Twin, ...]:
    """Where a place comes again in the repeats of its part, in order."""
    bar, _ = chart.grid.place(beat)
    home = next((p for p in chart.parts if p.start_bar <= max(bar, 1) <= p.end_bar), None)
    if home is None:
        return ()
    root = home.same_as or home.number
    family = [p for p in chart.parts if p is not home and root in (p.number, p.same_as)]
    offset = max(bar, 1) - home.start_bar
    here = bar_chords(chart, home, offset)
    twins = []
    for part in family:
        if offset >= part.bars:
            continue
        shift = chart.grid.bar_start(part.start_bar + offset) - chart.grid.bar_start(home.start_bar + offset)
        up = part.moved - home.moved
        there = bar_chords(chart, part, offset)
        same = [(at, sound_of(chord)) for at, chord in there] == [(at, sound_of(chord, up)) for at, chord in here]
        said = " ".join(symbol_of(chord) for _, chord in there)
        twins.append(Twin(part.number, part.start_bar + offset, shift, same, "" if same else said, up))
    return tuple(twins)
