"""What the corrections share: finding chords, cutting a chord row without leaving gaps, typed chords at another pitch."""

from __future__ import annotations

from dataclasses import replace

from valley.charting.parts import relate_parts
from valley.charting.places import say_place
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord
from valley.theory.chord import Chord, parse_symbol
from valley.theory.pitch import PitchName


def chord_index(chart: Chart, start: Fraction) -> int:
    """Which chord begins at a beat."""
    for i, chord in enumerate(chart.chords):
        if chord.start == start:
            return i
    raise ParameterError(f"no chord begins at {say_place(chart, start)}; the chart may have changed meanwhile")


def with_chords(chart: Chart, chords: tuple[ChartChord, ...] | list[ChartChord]) -> Chart:
    """The chart with another row of chords, its parts compared anew."""
    return relate_parts(replace(chart, chords=tuple(chords)), chart.parts, chart)


def check_step(beat: Fraction, what: str) -> None:
    """Places are on halves or quarters of a beat, or on the thirds that compound time has, and their halves."""
    if beat.denominator not in (1, 2, 3, 4, 6):
        raise ParameterError(f"{what}={beat} must be a half, a third, a quarter or a sixth of a beat; smaller steps are for the tune")


def transpose_chord(chord: Chord | None, half_steps: int) -> Chord | None:
    """A chord some half steps higher; the key it lands in spells it anew."""
    if chord is None or half_steps % 12 == 0:
        return chord
    fifths = chord.root.fifths + (half_steps * 7 + 5) % 12 - 5
    fifths += 12 if fifths < -6 else -12 if fifths > 8 else 0
    return Chord(PitchName(fifths), chord.quality, chord.bass_interval)


def transpose_symbol(text: str, half_steps: int) -> str:
    """The same for a chord as it is typed.

    >>> transpose_symbol("Am7/G", 2)
    'Bm7/A'
    """
    chord = parse_symbol(text)
    moved = transpose_chord(chord, half_steps)
    return text if moved is chord or moved is None else moved.to_symbol()
