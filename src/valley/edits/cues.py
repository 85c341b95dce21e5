"""Cue words: the creator's own words at a beat, to find the place by."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from valley.charting.places import say_place
from valley.edits._edit import ChartEdit
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, Cue

LONGEST = 80  # letters: a line of text to find the place by, not a verse


@dataclass(frozen=True)
class SetCue(ChartEdit):
    """A cue word at a beat; an empty text takes it away."""

    start: Fraction
    text: str
    kind: Literal["set_cue"] = "set_cue"
    PLACES: ClassVar[tuple[str, ...]] = ("start",)

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        text = " ".join(self.text.split())
        if len(text) > LONGEST:
            raise ParameterError(f"a cue of {len(text)} letters is too long; it is a line to find the place by, {LONGEST} letters at most")
        if not 0 <= self.start < len(chart.grid.beats):
            raise ParameterError(f"start={self.start} must lie inside the song, beats 0 to {len(chart.grid.beats)}")
        cues = [c for c in chart.cues if c.start != self.start] + ([Cue(self.start, text)] if text else [])
        said = f"cue “{text}”" if text else "cue taken away"
        return replace(chart, cues=tuple(sorted(cues, key=lambda c: c.start))), f"{say_place(chart, self.start)}: {said}"
