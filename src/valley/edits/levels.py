"""How else a song's beats can be counted, and how likely each is by ear."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from valley.edits.grid import DoubleTempo, HalveTempo, median_bpm
from valley.edits.thirds import OneAsThree, ThreeAsOne
from valley.errors import ParameterError
from valley.model.chart import Chart
from valley.model.hearing import Tempo

_SAME = 0.06  # share by which two tempi may differ and be one
_FASTEST, _SLOWEST = 250.0, 30.0  # beats a minute that anybody counts


Recount = HalveTempo | DoubleTempo | ThreeAsOne | OneAsThree


@dataclass(frozen=True)
class Level:
    """Another way to count: the edit that does it, beats to the minute and metre then, and how likely it is by ear (0 to 1), where that is known."""

    edit: Recount
    bpm: float
    meter: str
    odds: float | None


def offer_levels(chart: Chart, heard: Sequence[Tempo] = ()) -> tuple[Level, ...]:
    """The other ways to count a song that can be meant.

    Parameters
    ----------
    heard : tempi with their probabilities, as the recording was heard
    """
    offered = []
    ways: tuple[Recount, ...] = (HalveTempo(), DoubleTempo(), ThreeAsOne(), OneAsThree())
    for edit in ways:
        try:
            grid = edit.regrid(chart).grid
        except ParameterError:
            continue  # it cannot be counted so
        bpm = median_bpm(grid.beats)
        if _SLOWEST <= bpm <= _FASTEST:
            offered.append(Level(edit, bpm, grid.meter, rate_tempo(bpm, heard)))
    return tuple(offered)


def rate_tempo(bpm: float, heard: Sequence[Tempo]) -> float | None:
    """How likely a tempo is by ear; None where the ear said nothing of it."""
    return next((t.probability for t in heard if abs(t.bpm / bpm - 1) < _SAME), None)
