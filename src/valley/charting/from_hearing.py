"""First chart of a song: what was heard, set on the grid. Pure, and without any choice of the user's."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from valley.charting.parts import relate_parts
from valley.charting.swing import write_even
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import Chart, ChartChord, Grid, KeyArea, MelodyNote, MeterChange, Part
from valley.model.hearing import HeardNote, Hearing
from valley.theory.meter import Meter

# The metres that share their beat, by the beats of a bar: the beat is a quarter, or a dotted one.
_METERS_BY_LENGTH = {2: {2: "2/4", 3: "3/4", 4: "4/4", 5: "5/4", 7: "7/4"}, 3: {2: "6/8", 3: "9/8", 4: "12/8"}}
_MOST_CHANGES = 1 / 4  # of the bars may be of another length than the one before: one bar in eight cut short


def make_chart(hearing: Hearing, title: str) -> Chart:
    """The chart of a hearing.

    Raises
    ------
    ParameterError
        fewer than two beats were heard
    """
    if len(hearing.beats) < 2:
        raise ParameterError(f"beats={len(hearing.beats)} must be at least 2; the recording may hold no steady beat")
    grid = _make_grid(hearing)
    starts = [grid.position(n.start) for n in hearing.melody]
    step = _choose_step(starts, grid)
    melody = _place_melody(hearing.melody, grid, starts, step)
    if step == _THIRDS and grid.main_meter.division == 2:
        grid, melody = replace(grid, feel="swing"), write_even(melody)
    chart = Chart(
        title=title,
        grid=grid,
        keys=_place_keys(hearing, grid),
        chords=_place_chords(hearing, grid),
        melody=melody,
        parts=(),
        tuning_cents=hearing.tuning_cents,
        bpm=hearing.bpm,
    )
    return relate_parts(chart, _place_parts(hearing, grid))


def _make_grid(hearing: Hearing) -> Grid:
    """Bars where the heard downbeats are, each with the metre of its length: a bar that was cut short stays so.

    Where bars are now so, now so long, beats were stumbled over, not counted: then all bars are equal, and bar 1 is where most downbeats agree.
    """
    usual = Meter(hearing.meter)
    index = {t: i for i, t in enumerate(hearing.beats)}
    downbeats = [index[t] for t in hearing.downbeats if t in index]
    lengths = [b - a for a, b in pairwise(downbeats)]
    names = _METERS_BY_LENGTH[usual.division]
    known = usual.name in names.values() and all(n in names for n in lengths)
    if known and lengths and 0 < sum(a != b for a, b in pairwise(lengths)) <= _MOST_CHANGES * len(lengths) and downbeats[0] < lengths[0]:
        last = names[lengths[-1]] if len(hearing.beats) - downbeats[-1] <= lengths[-1] else usual.name
        meters = [*(names[n] for n in lengths), last]
        changes = [MeterChange(at, now) for at, (before, now) in zip(downbeats[1:], pairwise(meters), strict=True) if now != before]
        return Grid(hearing.beats, meters[0], downbeats[0], tuple(changes))
    votes = Counter(at % usual.beats for at in downbeats)
    return Grid(hearing.beats, usual.name, votes.most_common(1)[0][0] if votes else 0)


def _nearest_beat(grid: Grid, seconds: float) -> int:
    return min(max(round(grid.position(seconds)), 0), len(grid.beats))


def _place_keys(hearing: Hearing, grid: Grid) -> tuple[KeyArea, ...]:
    areas: list[KeyArea] = []
    for region in hearing.keys:
        start = Fraction(_nearest_beat(grid, region.start)) if areas else Fraction(0)
        if areas and start <= areas[-1].start:  # shorter than a beat: the key that follows takes its place
            start = areas.pop().start
        areas.append(KeyArea(start, region.tonic, region.mode, region.confidence))
    return tuple(areas) or (KeyArea(Fraction(0), "C", "major", 0.0),)


def _place_chords(hearing: Hearing, grid: Grid) -> tuple[ChartChord, ...]:
    """Chords on whole beats, without gaps from the first beat to the last."""
    placed: list[ChartChord] = []
    end_of_grid = len(grid.beats)
    for i, heard in enumerate(hearing.chords):
        start = _nearest_beat(grid, heard.start) if placed else 0
        end = end_of_grid if i == len(hearing.chords) - 1 else _nearest_beat(grid, heard.end)
        start = int(placed[-1].end) if placed else start
        if end <= start:
            continue
        if placed and placed[-1].chord == heard.chord:
            last = placed.pop()
            start = int(last.start)
        placed.append(ChartChord(Fraction(start), Fraction(end - start), heard.chord, heard.confidence, heard.alternatives))
    if placed and placed[-1].end < end_of_grid:
        last = placed.pop()
        placed.append(replace(last, duration=end_of_grid - last.start))
    return tuple(placed) or (ChartChord(Fraction(0), Fraction(end_of_grid), None, 0.0),)


def _place_melody(notes: Sequence[HeardNote], grid: Grid, starts: Sequence[float], step: Fraction) -> tuple[MelodyNote, ...]:
    """Notes on the finest grid that their onsets follow: sixteenths, or thirds where the song swings."""
    placed: list[MelodyNote] = []
    for note, start in zip(notes, starts, strict=True):
        a = _snap(start, step)
        b = max(_snap(grid.position(note.end), step), a + step)
        if a < 0 or a >= len(grid.beats):
            continue
        if placed and placed[-1].start >= a:
            continue
        if placed and placed[-1].end > a:
            last = placed.pop()
            placed.append(MelodyNote(last.start, a - last.start, last.midi, last.confidence))
        placed.append(MelodyNote(a, min(b, Fraction(len(grid.beats))) - a, note.midi, note.confidence))
    return tuple(placed)


_THIRDS = Fraction(1, 3)


def _snap(position: float, step: Fraction) -> Fraction:
    return round(position / step) * step


def _choose_step(starts: Sequence[float], grid: Grid) -> Fraction:
    """The grid's step in beats. Off-beat notes at two thirds of the beat mean swing."""
    if grid.main_meter.division == 3:
        return Fraction(1, 6)
    if grid.main_meter.quarters_per_beat < 1:
        return Fraction(1, 2)  # sixteenths where eighths are counted
    off = [s % 1 for s in starts if 0.2 < s % 1 < 0.85]
    if len(off) >= 8:
        thirds = sum(min(abs(x - 1 / 3), abs(x - 2 / 3)) for x in off)
        quarters = sum(min(abs(x - 0.25), abs(x - 0.5), abs(x - 0.75)) * 1.35 for x in off)
        if thirds < quarters and sum(x > 0.5 for x in off) > 0.5 * len(off):
            return _THIRDS
    return Fraction(1, 4)


def _nearest_bar(grid: Grid, position: float) -> int:
    bar, into = grid.place(Fraction(position))
    return min(max(bar + (into * 2 >= grid.meter_of(bar).beats), 1), grid.bars)


def _place_parts(hearing: Hearing, grid: Grid) -> list[Part]:
    """Numbered parts over all bars, from the heard sections."""
    starts: list[tuple[int, str]] = []
    for section in hearing.sections:
        bar = _nearest_bar(grid, grid.position(section.start))
        if not starts:
            bar = 1
        if starts and bar <= starts[-1][0]:
            continue
        starts.append((bar, section.label))
    starts = starts or [(1, "1")]
    edges = [bar for bar, _ in starts] + [grid.bars + 1]
    first: dict[str, int] = {}
    parts = []
    for i, (bar, label) in enumerate(starts):
        same_as = first.get(label)
        first.setdefault(label, i + 1)
        parts.append(Part(i + 1, bar, edges[i + 1] - bar, same_as=same_as))
    return parts
