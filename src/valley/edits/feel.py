"""Correction of how the halves of a beat are played: even, or long and short."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from valley.charting.parts import relate_parts
from valley.charting.swing import write_even
from valley.edits._edit import Edit
from valley.errors import ParameterError
from valley.model.chart import MelodyNote
from valley.song.state import SongState
from valley.theory.feel import FEELS, STRAIGHT, feel_named


@dataclass(frozen=True)
class SetFeel(Edit):
    """Straight, or swung. What was written in triplets, long and short, is written in even notes where the eighths of a straight song begin to swing."""

    feel: str
    kind: Literal["set_feel"] = "set_feel"

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        feel, chart = feel_named(self.feel), song.chart
        if feel.name == chart.grid.feel:
            raise ParameterError(f"the song is played {said(feel.name)} as it is")
        if feel.name != STRAIGHT and not any(feel.pair_in(chart.grid.meter_of(bar)) for bar in range(1, chart.grid.bars + 1)):
            raise ParameterError(f"in {chart.grid.meter} there is nothing to swing: its beats fall into three, or are eighths")
        swings = chart.grid.feel == STRAIGHT and feel.pair == 1
        changed, choices = replace(chart, grid=replace(chart.grid, feel=feel.name)), song.choices
        if swings:
            changed = replace(changed, melody=write_even(chart.melody))
            passages = (replace(p, notes=write_even(p.notes)) if p.start.denominator == 1 else p for p in choices.passages)
            choices = replace(choices, passages=tuple(passages))
        return replace(song, chart=relate_parts(changed, changed.parts), choices=choices), f"played {said(feel.name)}"


def said(feel: str) -> str:
    """How a feel is told after "played".

    >>> said("swing"), said("shuffle")
    ('with swing', 'as a shuffle')
    """
    return _SAID[feel]


_SAID = dict(zip(FEELS, ("straight", "with a light swing", "with swing", "as a shuffle", "with swung sixteenths"), strict=True))
