"""Spreading a correction: the same place in the repeats of a part, and whether it is still the same there."""

from __future__ import annotations

from dataclasses import dataclass, fields, is_dataclass, replace
from fractions import Fraction
from typing import TypeVar

from valley.charting.parts import symbol_of
from valley.errors import ParameterError
from valley.model.chart import Chart, Part

T = TypeVar("T")
_POSITIONS = ("start", "to", "at", "end")


@dataclass(frozen=True)
class Twin:
    """The same place in another occurrence of a part: ``shift`` beats away; ``now`` says what stands there if it differs."""

    part: int
    bar: int
    shift: Fraction
    same: bool
    now: str


def find_twins(chart: Chart, beat: Fraction) -> tuple[Twin, ...]:
    """Where a place comes again in the repeats of its part, in order."""
    bar, _ = chart.grid.place(beat)
    home = next((p for p in chart.parts if p.start_bar <= max(bar, 1) <= p.end_bar), None)
    if home is None:
        return ()
    root = home.same_as or home.number
    family = [p for p in chart.parts if p is not home and (p.number == root or p.same_as == root)]
    offset = max(bar, 1) - home.start_bar
    here = _bar(chart, home, offset)
    twins = []
    for part in family:
        if offset >= part.bars:
            continue
        shift = chart.grid.bar_start(part.start_bar + offset) - chart.grid.bar_start(home.start_bar + offset)
        there = _bar(chart, part, offset)
        said = " ".join(symbol_of(label) for _, label in there)
        twins.append(Twin(part.number, part.start_bar + offset, shift, there == here, "" if there == here else said))
    return tuple(twins)


def _bar(chart: Chart, part: Part, offset: int) -> list[tuple[Fraction, str]]:
    """Chords of a bar as beats into it and labels."""
    start, end = (chart.grid.bar_start(part.start_bar + offset + k) for k in (0, 1))
    return [(max(c.start, start) - start, c.label) for c in chart.chords if c.start < end and c.end > start]


def shifted(edit: T, beats: Fraction) -> T:
    """The same edit some beats further on."""
    if not is_dataclass(edit) or isinstance(edit, type):
        raise ParameterError(f"{type(edit).__name__} has no place that could be moved")
    places = {f.name: getattr(edit, f.name) + beats for f in fields(edit) if f.name in _POSITIONS and getattr(edit, f.name) is not None}
    if not places:
        raise ParameterError(f"{type(edit).__name__} has no place in beats, so it cannot be spread to repeats")
    return replace(edit, **places)
