"""What a check found: where, how grave, in a sentence, and the edit that mends it where one way is sure."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from valley.edits import Edit
from valley.fraction import Fraction
from valley.model.chart import Chart

Severity = Literal["error", "warning", "note"]
ERROR: Severity = "error"  # wrong
WARNING: Severity = "warning"  # likely wrong, or hard
NOTE: Severity = "note"
About = Literal["chart", "parts", "hands", "lesson"]


@dataclass(frozen=True)
class Mend:
    """An edit that sets a finding right, and what it does in a few words."""

    edit: Edit
    words: str


@dataclass(frozen=True)
class Finding:
    """``about`` says what it is about, and so on which page it is shown; ``alike`` is the same for findings that say one thing of several places."""

    check: str
    about: About
    severity: Severity
    sentence: str
    part: int | None = None
    bar: int | None = None
    start: Fraction | None = None
    step: str = ""
    mend: Mend | None = None
    alike: str = ""


def bar_at(chart: Chart, beat: Fraction) -> int:
    """The bar of a beat; a pickup belongs to bar 1."""
    return max(1, chart.grid.place(beat)[0])


def part_at(chart: Chart, beat: Fraction) -> int | None:
    return next((p.number for p in chart.parts if chart.span(p)[0] <= beat < chart.span(p)[1]), None)
