"""Corrections of the grid: tempo level, metre, bar 1, single beats, a tapped tempo. Everything on it keeps its sound, the hands' choices too."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from statistics import median
from typing import Literal, TypeVar

from valley.charting.parts import relate_parts
from valley.charting.places import say_place
from valley.edits._edit import ChartEdit, Edit, Place
from valley.edits._passages import move_passages, move_pedals
from valley.edits._renumber import renumbered
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.chart import MOST_BEATS, Chart, ChartChord, Cue, Grid, KeyArea, MelodyNote, MeterChange, Part
from valley.model.choices import Choices, ChordPattern, GripChoice, LinkChoice
from valley.song.state import SongState
from valley.theory.feel import STRAIGHT
from valley.theory.meter import Meter

Placed = TypeVar("Placed", GripChoice, LinkChoice, ChordPattern)


def median_bpm(beats: tuple[float, ...]) -> float:
    """Beats a minute."""
    return round(60 / median(b - a for a, b in zip(beats, beats[1:], strict=False)), 3)


@dataclass(frozen=True)
class Regrid:
    """Another grid for the song: where its beats go, those of the tune maybe finer, and what was done."""

    grid: Grid
    place: Place
    said: str
    tune_place: Place | None = None


class GridEdit(Edit):
    """Lays the whole song on another grid."""

    def regrid(self, chart: Chart) -> Regrid:
        raise NotImplementedError

    def apply(self, song: SongState, played: Sequence[MelodyNote] = ()) -> tuple[SongState, str]:
        done = self.regrid(song.chart)
        end = Fraction(len(done.grid.beats))

        def held(beat: Fraction) -> Fraction:
            return min(max(done.place(beat), Fraction(0)), end)

        chart, numbers = _rebuild(song.chart, done.grid, held, done.tune_place or done.place)
        choices = _move_choices(song.choices, held, end)
        place = done.tune_place or done.place
        choices = replace(choices, passages=move_passages(song.choices.passages, place, end), pedals=move_pedals(song.choices.pedals, place, end))
        return renumbered(replace(song, choices=choices), chart, numbers), done.said


def _move_choices(choices: Choices, held: Place, end: Fraction) -> Choices:
    """What was chosen at a beat goes with it; of two that meet on one beat the first stays."""

    def moved(rows: Sequence[Placed]) -> tuple[Placed, ...]:
        out: dict[Fraction, Placed] = {}
        for row in rows:
            start = held(row.start)
            if start < end:
                out.setdefault(start, replace(row, start=start))
        return tuple(out[start] for start in sorted(out))

    links = {(held(k.start), k.kind): k for k in reversed(choices.taken_links)}
    return replace(
        choices,
        meant=tuple(replace(m, start=None if m.start is None else held(m.start)) for m in choices.meant),
        grips=moved(choices.grips),
        chord_patterns=moved(choices.chord_patterns),
        taken_links=tuple(replace(link, start=start) for (start, _), link in sorted(links.items(), key=lambda row: row[0]) if start < end),
    )


def _rebuild(chart: Chart, grid: Grid, held: Place, on_grid: Place) -> tuple[Chart, dict[int, int]]:
    """The chart on another grid, and the new numbers of its parts, which go to the nearest bar."""
    rebuilt = replace(
        chart,
        grid=grid,
        chords=_move_chords(chart, grid, held),
        keys=_move_keys(chart, grid, held),
        melody=_move_tune(chart, grid, on_grid),
        cues=_move_cues(chart, grid, held),
        bpm=median_bpm(grid.beats),
        parts=(),
    )
    parts, numbers = _move_parts(chart, grid, held)
    return relate_parts(rebuilt, parts), numbers


def _move_chords(chart: Chart, grid: Grid, held: Place) -> tuple[ChartChord, ...]:
    end = Fraction(len(grid.beats))
    chords: list[ChartChord] = []
    for c in chart.chords:
        start, stop = chords[-1].end if chords else Fraction(0), held(c.end)
        if stop > start:
            chords.append(replace(c, start=start, duration=stop - start))
    if chords and chords[-1].end < end:
        chords[-1] = replace(chords[-1], duration=end - chords[-1].start)
    return tuple(chords)


def _move_keys(chart: Chart, grid: Grid, held: Place) -> tuple[KeyArea, ...]:
    keys: list[KeyArea] = []
    for a in chart.keys:
        start = held(a.start) if keys else Fraction(0)
        if keys and start <= keys[-1].start:
            start = keys.pop().start
        if start < len(grid.beats):
            keys.append(replace(a, start=start))
    return tuple(keys)


def _move_tune(chart: Chart, grid: Grid, on_grid: Place) -> tuple[MelodyNote, ...]:
    end = Fraction(len(grid.beats))
    melody: list[MelodyNote] = []
    for n in chart.melody:
        start, stop = on_grid(n.start), on_grid(n.end)
        if 0 <= start < end and (not melody or start > melody[-1].start):
            melody.append(replace(n, start=start, duration=max(min(stop, end) - start, Fraction(1, 8))))
    for i in range(len(melody) - 1):
        if melody[i].end > melody[i + 1].start:
            melody[i] = replace(melody[i], duration=melody[i + 1].start - melody[i].start)
    return tuple(melody)


def _move_cues(chart: Chart, grid: Grid, held: Place) -> tuple[Cue, ...]:
    """Words that meet on one beat stand there together: none is lost."""
    cues: dict[Fraction, str] = {}
    for cue in chart.cues:
        start = held(cue.start)
        if start < len(grid.beats):
            cues[start] = f"{cues[start]} {cue.text}" if start in cues else cue.text
    return tuple(Cue(start, text) for start, text in sorted(cues.items()))


def _move_parts(chart: Chart, grid: Grid, place: Place) -> tuple[list[Part], dict[int, int]]:
    """Parts with their edges on the nearest bars of another grid, and their new numbers; one that would be empty joins its neighbour."""
    starts: list[tuple[int, Part]] = []
    for part in chart.parts:
        at = place(chart.grid.bar_start(part.start_bar))
        bar = 1 if not starts else min(range(1, grid.bars + 1), key=lambda b: abs(grid.bar_start(b) - at))
        if starts and bar <= starts[-1][0]:
            continue
        starts.append((bar, part))
    number = {part.number: i + 1 for i, (_, part) in enumerate(starts)}
    edges = [bar for bar, _ in starts] + [grid.bars + 1]
    parts = [Part(i + 1, bar, edges[i + 1] - bar, part.name, number.get(part.same_as) if part.same_as else None) for i, (bar, part) in enumerate(starts)]
    return parts, number


@dataclass(frozen=True)
class DoubleTempo(GridEdit):
    """Count twice as fast: a beat is put between every two."""

    kind: Literal["double_tempo"] = "double_tempo"

    def regrid(self, chart: Chart) -> Regrid:
        old = chart.grid.beats
        if 2 * len(old) > MOST_BEATS:
            raise ParameterError(f"{2 * len(old)} beats would be more than the {MOST_BEATS} that a song can have")
        beats = [t for a, b in zip(old, old[1:], strict=False) for t in (a, round((a + b) / 2, 4))]
        last = old[-1] + (old[-1] - old[-2]) / 2
        grid = Grid(
            (*beats, old[-1], round(last, 4)),
            chart.grid.meter,
            (2 * chart.grid.pickup) % chart.grid.main_meter.beats,
            tuple(MeterChange(2 * c.beat, c.meter) for c in chart.grid.changes),
            "swing" if chart.grid.feel == "swung sixteenths" else STRAIGHT,
        )
        said = f"counted twice as fast, {median_bpm(grid.beats):.0f} to the minute"
        if chart.grid.feel in (STRAIGHT, "swung sixteenths"):
            return Regrid(grid, lambda beat: 2 * beat, said)
        # Pairs of whole beats do not swing: what was long and short stands in thirds from now on.
        return Regrid(grid, lambda beat: 2 * beat, f"{said}; written straight", lambda beat: 2 * heard_third(chart.grid, beat))


def heard_third(grid: Grid, beat: Fraction) -> Fraction:
    """Where a note of a song that swings is heard, to the nearest sixth of a beat; one that is not moved stays as it is written."""
    heard = grid.sounds_at(beat)
    return beat if heard == beat else Fraction(round(6 * heard), 6)


@dataclass(frozen=True)
class HalveTempo(GridEdit):
    """Count half as fast: every second beat goes; the first of the two that bar 1 begins on stays."""

    kind: Literal["halve_tempo"] = "halve_tempo"

    def regrid(self, chart: Chart) -> Regrid:
        offset = chart.grid.pickup % 2
        beats = chart.grid.beats[offset::2]
        if len(beats) < 4:
            raise ParameterError(f"only {len(beats)} beats would be left; the song is too short to be counted half as fast")
        pickup = ((chart.grid.pickup - offset) // 2) % chart.grid.main_meter.beats
        changes = tuple(MeterChange((c.beat - offset) // 2, c.meter) for c in chart.grid.changes if (c.beat - offset) // 2 > pickup)
        grid = Grid(beats, chart.grid.meter, pickup, changes, STRAIGHT if chart.grid.feel in (STRAIGHT, "swung sixteenths") else "swung sixteenths")

        def halved(beat: Fraction) -> Fraction:
            return (beat - offset) / 2

        said = f"counted half as fast, {median_bpm(beats):.0f} to the minute"
        return Regrid(grid, lambda b: Fraction(round(halved(b) * 2), 2), said, halved)


def _recount(grid: Grid, first: int, last: int, finer: bool) -> tuple[Grid, Place]:
    """The beats from ``first`` up to ``last`` counted twice as fast or half as fast, all others as they were; and where places go.

    Where an odd number is to be halved, the last one lasts as long as it did.
    """
    old = grid.beats
    ends = (*old, 2 * old[-1] - old[-2])
    span = [t for i in range(first, last) for t in (ends[i], round((ends[i] + ends[i + 1]) / 2, 6))] if finer else list(ends[first:last:2])
    factor = Fraction(2) if finer else Fraction(1, 2)
    beats = (*old[:first], *span, *old[last:])
    if len(beats) > MOST_BEATS:
        raise ParameterError(f"{len(beats)} beats would be more than the {MOST_BEATS} that a song can have")

    def place(beat: Fraction) -> Fraction:
        if beat <= first:
            return beat
        if beat >= last:
            return beat - last + first + len(span)
        return first + (beat - first) * factor

    return replace(grid, beats=beats), place


@dataclass(frozen=True)
class SetMeter(GridEdit):
    """The metre from a bar on; bar 1 sets it for the whole song up to the next change.

    Beats of another note value are counted anew, so that the quarter lasts as long as before: 7/8 counts eighths, 2/2 half notes.
    """

    bar: int
    meter: str
    kind: Literal["set_meter"] = "set_meter"

    def regrid(self, chart: Chart) -> Regrid:
        grid, meter = chart.grid, Meter(self.meter)
        if not 1 <= self.bar <= grid.bars:
            raise ParameterError(f"bar={self.bar} must be one of the {grid.bars} bars")
        first = 0 if self.bar == 1 else int(grid.bar_start(self.bar))
        last = next((c.beat for c in grid.changes if c.beat > first), len(grid.beats))
        old = grid.meter_of(self.bar)
        grid, place = self._in_note_values(grid, first, last, old, meter)
        changes = tuple(MeterChange(int(place(Fraction(c.beat))), c.meter) for c in chart.grid.changes if c.beat != first)
        if self.bar == 1:
            pickup = int(place(Fraction(grid.pickup))) % meter.beats
            changed = replace(grid, meter=self.meter, pickup=pickup, changes=tuple(c for c in changes if c.beat > pickup))
        else:
            before = chart.grid.meter_of(self.bar - 1).name
            mine = (MeterChange(first, self.meter),) if self.meter != before else ()
            changed = replace(grid, changes=tuple(sorted((*changes, *mine), key=lambda c: c.beat)))
        return Regrid(changed, place, f"bar {self.bar}: {self.meter} from here on")

    def _in_note_values(self, grid: Grid, first: int, last: int, old: Meter, new: Meter) -> tuple[Grid, Place]:
        """The span counted in the note value of the new metre. Dotted beats are felt as beats before, and stay."""
        bare = replace(grid, changes=())
        ratio = old.quarters_per_beat / new.quarters_per_beat
        place: Place = Fraction
        if old.division != new.division:
            return bare, place
        steps = [True] * (int(ratio).bit_length() - 1) if ratio > 1 else [False] * (int(1 / ratio).bit_length() - 1)
        first += 0 if not steps or steps[0] else grid.pickup % 2 * (first == 0)  # a single beat before bar 1 stays one
        for finer in steps:
            bare, step = _recount(bare, first, last, finer)
            place, last = _after(place, step), int(step(Fraction(last)))
        return bare, place


def _after(one: Place, other: Place) -> Place:
    return lambda beat: other(one(beat))


@dataclass(frozen=True)
class SetBarOne(GridEdit):
    """Say on which beat (counted from 0) bar 1 begins; what stands before it is the pickup."""

    beat: int
    kind: Literal["set_bar_one"] = "set_bar_one"

    def regrid(self, chart: Chart) -> Regrid:
        beats = chart.grid.main_meter.beats
        if not 0 <= self.beat < len(chart.grid.beats):
            raise ParameterError(f"beat={self.beat} must be one of the {len(chart.grid.beats)} beats")
        pickup = self.beat % beats
        changes = tuple(replace(c, beat=c.beat + pickup - chart.grid.pickup) for c in chart.grid.changes)
        grid = replace(chart.grid, pickup=pickup, changes=tuple(c for c in changes if pickup < c.beat < len(chart.grid.beats)))
        words = f"with a pickup of {pickup} beat{'s' if pickup > 1 else ''}" if pickup else "with no pickup"
        return Regrid(grid, lambda b: b, f"bar lines moved: bar 1 {words}")


@dataclass(frozen=True)
class NudgeBeat(ChartEdit):
    """Move one beat in the recording by some seconds; with ``follow`` all later ones move with it."""

    beat: int
    seconds: float
    follow: bool = True
    kind: Literal["nudge_beat"] = "nudge_beat"

    def correct(self, chart: Chart) -> tuple[Chart, str]:
        old = chart.grid.beats
        if not 0 <= self.beat < len(old):
            raise ParameterError(f"beat={self.beat} must be one of the {len(old)} beats")
        beats = [round(t + self.seconds, 4) if i == self.beat or (self.follow and i > self.beat) else t for i, t in enumerate(old)]
        if beats[0] < 0 or any(b - a < 0.05 for a, b in zip(beats, beats[1:], strict=False)):
            raise ParameterError(f"seconds={self.seconds} would bring two beats within a twentieth of a second, or one before the start; nudge less")
        side = "later" if self.seconds > 0 else "earlier"
        more = " and all after it" if self.follow else ""
        changed = replace(chart, grid=replace(chart.grid, beats=tuple(beats)), bpm=median_bpm(tuple(beats)))
        return relate_parts(changed, chart.parts), f"{say_place(chart, Fraction(self.beat))}{more}: {abs(self.seconds):.2g} seconds {side}"


@dataclass(frozen=True)
class TapTempo(GridEdit):
    """Beats as the creator tapped them, in seconds of the recording; before and after the taps the tempo goes on as tapped."""

    taps: tuple[float, ...]
    kind: Literal["tap_tempo"] = "tap_tempo"

    def regrid(self, chart: Chart) -> Regrid:
        taps = sorted(self.taps)
        if len(taps) < 4:
            raise ParameterError(f"{len(taps)} taps are too few to find a tempo; tap at least four beats")
        gaps = [b - a for a, b in zip(taps, taps[1:], strict=False)]
        step = median(gaps)
        if not 0.2 <= step <= 2.0:
            raise ParameterError(f"taps {step:.2f} s apart are {60 / step:.0f} to the minute; 30 to 300 can be used")
        even = _even_out(taps, step)
        step = (even[-1] - even[0]) / (len(even) - 1)
        first, last = chart.grid.beats[0], chart.grid.beats[-1]
        while even[0] - step > max(0.0, first - 0.5 * step):
            even.insert(0, even[0] - step)
        while even[-1] + step < last + 0.5 * step:
            even.append(even[-1] + step)
        beats = tuple(round(t, 4) for t in even)
        feel, old = chart.grid.feel, replace(chart.grid, feel=STRAIGHT)  # by what is written: a half stays a half
        down = old.seconds(Fraction(old.pickup))
        nearest = min(range(len(beats)), key=lambda i: abs(beats[i] - down))
        grid = Grid(beats, old.meter, nearest % old.main_meter.beats)

        def by_time(unit: int) -> Place:
            return lambda beat: Fraction(round(grid.position(old.seconds(beat)) * unit), unit)

        said = f"tempo tapped, {median_bpm(beats):.0f} to the minute"
        return Regrid(replace(grid, feel=feel), by_time(1), said, by_time(12 if old.main_meter.division == 3 else 4))


def _even_out(taps: list[float], step: float) -> list[float]:
    """Hands shake: each tap moves halfway to where its neighbours put it, and a missed tap is filled in."""
    filled = [taps[0]]
    for t in taps[1:]:
        missed = round((t - filled[-1]) / step)
        if missed < 1:
            continue
        start = filled[-1]
        filled += [start + (t - start) * k / missed for k in range(1, missed + 1)]
    middle = [0.5 * b + 0.25 * (a + c) for a, b, c in zip(filled, filled[1:], filled[2:], strict=False)]
    return [filled[0], *middle, filled[-1]]
