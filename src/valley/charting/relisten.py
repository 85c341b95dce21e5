"""Listening again: a new hearing under the creator's corrections. What was set is kept; disagreements are told."""

from __future__ import annotations

from dataclasses import dataclass, replace

from valley.charting.from_hearing import make_chart
from valley.charting.parts import relate_parts, sound_of
from valley.charting.places import say_place
from valley.charting.transpose import transpose_chart
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord, Grid, MelodyNote
from valley.model.hearing import Hearing, Reading
from valley.model.rows import with_next


@dataclass(frozen=True)
class Disagreement:
    """Where the new hearing reads otherwise than the creator set."""

    start: Fraction
    place: str
    yours: str
    heard: str


def listen_again(chart: Chart, hearing: Hearing) -> tuple[Chart, tuple[Disagreement, ...]]:
    """The chart with everything that was not set by hand heard anew.

    The grid, the keys, the parts and their names are the creator's once there is a chart: they stay. Chords and notes
    that are not locked come from the new hearing, set on that grid.
    """
    fresh = transpose_chart(_on_grid(make_chart(hearing, chart.title), chart.grid), chart.transposed)
    chords: list[ChartChord] = []
    told: list[Disagreement] = []
    for chord in chart.chords:
        if not chord.locked:
            chords += [
                replace(c, start=max(c.start, chord.start), duration=min(c.end, chord.end) - max(c.start, chord.start))
                for c in fresh.chords
                if c.start < chord.end and c.end > chord.start
            ]
            continue
        middle = chord.start + chord.duration / 2
        heard = next((c for c in fresh.chords if c.start <= middle < c.end), None)
        readings = heard.readings if heard else chord.readings
        chords.append(replace(chord, readings=readings))
        if heard and sound_of(heard.chord) != sound_of(chord.chord):
            told.append(Disagreement(chord.start, say_place(chart, chord.start), chord.symbol, heard.symbol))
    mine = [n for n in chart.melody if n.locked]
    tune: list[MelodyNote] = sorted([*mine, *[n for n in fresh.melody if not any(m.start < n.end and m.end > n.start for m in mine)]], key=lambda n: n.start)
    changed = replace(chart, chords=tuple(_joined(chords)), melody=tuple(tune), tuning_cents=hearing.tuning_cents)
    return relate_parts(changed, chart.parts), tuple(told)


def _joined(chords: list[ChartChord]) -> list[ChartChord]:
    """Neighbours of one name that nobody set become one chord again."""
    out: list[ChartChord] = []
    for c in chords:
        if out and out[-1].chord == c.chord and not c.locked and not out[-1].locked:
            out[-1] = replace(out[-1], duration=c.end - out[-1].start)
        else:
            out.append(c)
    return out


def _on_grid(fresh: Chart, grid: Grid) -> Chart:
    """A new hearing's chords and tune carried over, through time, to the chart's own grid."""
    if fresh.grid == grid:
        return fresh
    end = Fraction(len(grid.beats))

    def place(beat: Fraction, unit: int) -> Fraction:
        return min(max(Fraction(round(grid.position(fresh.grid.seconds(beat)) * unit), unit), Fraction(0)), end)

    chords: list[ChartChord] = []
    for c in fresh.chords:
        start = chords[-1].end if chords else Fraction(0)
        stop = place(c.end, 2) if c is not fresh.chords[-1] else end
        if stop > start:
            chords.append(replace(c, start=start, duration=stop - start))
    unit = 12 if grid.main_meter.division == 3 else 4
    melody: list[MelodyNote] = []
    for n in fresh.melody:
        start, stop = place(n.start, unit), place(n.end, unit)
        if start < end and (not melody or start > melody[-1].start):
            melody.append(replace(n, start=start, duration=max(stop - start, Fraction(1, unit))))
    cut = [replace(n, duration=min(n.end, m.start) - n.start) if m else n for n, m in with_next(melody)]
    return replace(
        fresh,
        grid=grid,
        chords=tuple(chords) or (ChartChord(Fraction(0), end, None, 0.0, (Reading("N", 1.0),)),),
        melody=tuple(cut),
        keys=fresh.keys[:1],
        parts=(),
    )
