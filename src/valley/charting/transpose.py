"""A whole chart at another pitch: keys, chords with their readings, tune. What was heard lies ``transposed`` half steps below what is then taught."""

from __future__ import annotations

from dataclasses import replace

from valley.charting.parts import relate_parts
from valley.errors import ParameterError
from valley.model.chart import Chart, ChartChord, KeyArea
from valley.theory.chord import Chord
from valley.theory.key import Key
from valley.theory.pitch import PitchName

MOST_SIGNS = 7  # of a key signature
FURTHEST = 11  # half steps; an octave away is the same key


def fifths_between(old: Key, half_steps: int, tonic: PitchName | None = None) -> int:
    """How far names go on the line of fifths when a key goes up so many half steps, to this tonic or to the usual one.

    >>> fifths_between(Key.of("C", "major"), 1), fifths_between(Key.of("C", "major"), 1, PitchName(7))
    (-5, 7)
    """
    new = tonic or Key.from_pitch_class(old.tonic.pitch_class + half_steps, old.mode).tonic
    return new.fifths - old.tonic.fifths


def transpose_chart(chart: Chart, half_steps: int, tonic: PitchName | None = None) -> Chart:
    """The chart some half steps higher (below 0 lower).

    Parameters
    ----------
    half_steps : -11 to 11
    tonic : the first key's new one, where another than the usual name is wanted

    Raises
    ------
    ParameterError
        the tonic does not lie so many half steps away, or a key would need more than seven signs
    """
    if not half_steps:
        return chart
    first = chart.keys[0].key
    if tonic is not None and (tonic.pitch_class - first.tonic.pitch_class - half_steps) % 12:
        raise ParameterError(f"{tonic} is not {half_steps} half steps from {first.tonic}; name the tonic that is")
    fifths = fifths_between(first, half_steps, tonic)
    keys = tuple(_key(area, fifths) for area in chart.keys)
    moved = replace(chart, keys=keys, chords=())

    def chord_at(chord: Chord, c: ChartChord) -> Chord:
        return Chord(chord.root.up(_in_reach(chord.root, fifths)), chord.quality, chord.bass_interval).respelled(moved.key_at(c.start))

    def higher(c: ChartChord) -> ChartChord:
        readings = tuple(replace(r, label=chord_at(r.chord, c).to_harte()) if r.chord else r for r in c.readings)
        return replace(c, chord=chord_at(c.chord, c) if c.chord else None, readings=readings)

    melody = tuple(replace(n, midi=n.midi + half_steps) for n in chart.melody)
    away = chart.transposed + half_steps
    away -= 12 * (away > FURTHEST) - 12 * (away < -FURTHEST)
    return relate_parts(replace(moved, chords=tuple(higher(c) for c in chart.chords), melody=melody, transposed=away), chart.parts)


def _key(area: KeyArea, fifths: int) -> KeyArea:
    tonic = area.key.tonic.up(fifths)
    signs = Key(tonic, area.key.mode).signature
    if abs(signs) > MOST_SIGNS:  # the same sound with fewer
        tonic = tonic.up(-12 if signs > 0 else 12)
    return replace(area, tonic=str(tonic))


def _in_reach(name: PitchName, fifths: int) -> int:
    """The way that leaves a name with one sign at most, before the key spells it."""
    to = name.fifths + fifths
    return fifths - 12 if to > 12 else fifths + 12 if to < -8 else fifths
