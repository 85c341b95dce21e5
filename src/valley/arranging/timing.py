"""Grips set in time: the pattern under each, the tune over them, and the fingers of it all."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from valley.arranging.pattern_library import HELD, pattern_named
from valley.arranging.patterns import PatternError, fit_form, form_for, make_form, play_form, run_on
from valley.arranging.reach import Hand
from valley.arranging.styles import Style
from valley.arranging.tune import set_tune
from valley.fraction import Fraction
from valley.model.arrangement import Grip, PlayedNote
from valley.model.chart import Chart, MelodyNote
from valley.model.choices import Choices
from valley.model.pattern import Form
from valley.model.rows import with_next


@dataclass(frozen=True)
class Timing:
    """How one part's grips are set in time."""

    chart: Chart
    choices: Choices
    style: Style
    level: str
    pattern: str
    hand: Hand
    lowest: int
    highest: int
    rolled_end: bool = False


def set_in_time(ask: Timing, grips: Sequence[Grip], tune: Sequence[MelodyNote], notices: list[str]) -> list[PlayedNote]:
    """The pattern under every grip, and the tune with the chord notes that stand under it; sentences about patterns that do not fit go to ``notices``."""
    notes: list[PlayedNote] = []
    with_tune = ask.style.melody != "none" or not grips
    single = {p.start: p.pattern for p in ask.choices.chord_patterns}
    for grip, after in with_next(grips):
        name = single.get(grip.start, ask.pattern)
        if after is None and ask.rolled_end:
            name = "rolled"
        key, meter = ask.chart.key_at(grip.start), ask.chart.grid.meter_at(grip.start).name
        form = _hold(meter, grip.duration)
        try:
            if name != HELD:
                form = _form(ask, name, meter, grip)
        except PatternError as error:
            notices.append(f"Bar {ask.chart.grid.place(grip.start)[0]}: {grip.symbol} is held, because {error}.")
        notes += play_form(form, grip, after, key, ask.lowest, ask.highest, right=not with_tune)
    if with_tune:
        notes += set_tune(ask.chart, grips, tune, ask.style, ask.level, ask.hand)
    return sorted(notes, key=lambda n: (n.start, n.hand, n.voice, n.midi))


def _form(ask: Timing, name: str, meter: str, grip: Grip) -> Form:
    """A pattern's form as long as a grip lasts, from the bar's place on where it runs on."""
    pattern = pattern_named(name, ask.choices.patterns)
    form = form_for(pattern, meter)
    if pattern.runs_on:
        grid = ask.chart.grid
        form = run_on(replace(form, cell=Fraction(0)), grip.start - grid.bar_start(grid.place(grip.start)[0]))
    return fit_form(form, grip.duration, name)


@lru_cache(maxsize=256)
def _hold(meter: str, beats: Fraction) -> Form:
    return make_form(meter, f"all@{beats}", f"all@{beats}")
