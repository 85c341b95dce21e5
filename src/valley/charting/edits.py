"""Corrections: each takes a chart and gives a new one; what the creator set is locked."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from valley.charting.parts import relate_parts
from valley.errors import ParameterError
from valley.model.chart import Chart
from valley.theory.chord import NO_CHORD, parse_symbol


def set_chord(chart: Chart, start: Fraction, text: str) -> Chart:
    """Name the chord that begins at a beat, typed as people type chords or picked from its readings.

    Raises
    ------
    FormatError
        the text is no chord
    ParameterError
        no chord begins at that beat
    """
    chord = parse_symbol(text)
    label = chord.to_harte() if chord else NO_CHORD
    index = next((i for i, c in enumerate(chart.chords) if c.start == start), None)
    if index is None:
        raise ParameterError(f"start={start} must be a beat where a chord begins; the chart may have changed meanwhile")
    changed = replace(chart.chords[index], label=label, locked=True)
    chords = (*chart.chords[:index], changed, *chart.chords[index + 1 :])
    return relate_parts(replace(chart, chords=chords), chart.parts)


def set_title(chart: Chart, title: str) -> Chart:
    """Another title for the same chart."""
    if not title.strip():
        raise ParameterError("title must not be empty; give the song a name")
    return replace(chart, title=title.strip())


def find_doubts(chart: Chart, *, below: float = 0.5) -> tuple[int, ...]:
    """Indices of chords to check, the most doubtful first; locked ones are done."""
    doubtful = [(c.confidence, i) for i, c in enumerate(chart.chords) if not c.locked and c.confidence < below]
    return tuple(i for _, i in sorted(doubtful))
