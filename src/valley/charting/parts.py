"""Parts and their repeats: what is the same, and every difference in words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from valley.fraction import Fraction
from valley.model.chart import Chart, Difference, Part
from valley.theory.chord import Chord

Placed = tuple[Fraction, Chord | None]
"""A chord of a bar and the beats into the bar at which it begins."""
Sound = tuple[Fraction, frozenset[int], int]
"""Beats into the bar, pitch classes and bass (-1 where nothing sounds)."""
Tune = frozenset[tuple[int, Fraction, int]]
"""Notes of a part: the bar, counted from 0, the beats into it, the pitch."""
Pairs = Sequence[tuple["_Bar", "_Bar"]]
"""Each bar of a model, and the bar of its repeat that goes with it."""


def relate_parts(chart: Chart, parts: Sequence[Part], before: Chart | None = None) -> Chart:
    """The chart with these parts, each repeat compared with the part that it repeats.

    ``before`` is the chart that this one was made from: where neither a repeat nor its model has changed, what was found there still holds.
    """
    with_parts = chart.with_parts(parts)
    by_number = {p.number: p for p in parts}
    untouched = _untouched(with_parts, before) if before is not None else set()
    heard = Heard(with_parts)
    related = []
    for part in parts:
        model = by_number.get(part.same_as) if part.same_as else None
        if model is None:
            related.append(replace(part, kinship="new", differences=(), new_bars=part.bars, moved=0))
        elif part.number in untouched and model.number in untouched:
            related.append(part)
        else:
            found = compare_parts(heard, model, part)
            related.append(replace(part, kinship=found.kinship, differences=found.differences, new_bars=found.new_bars, moved=found.moved))
    return with_parts.with_parts(related)  # with what was worked out for the comparison


def _untouched(chart: Chart, before: Chart) -> set[int]:
    """Numbers of the parts that hold the same chords and tune in two charts on one grid."""
    if before.grid is not chart.grid:
        return set()
    there = {(p.number, p.start_bar, p.bars, p.same_as) for p in before.parts}
    return {p.number for p in chart.parts if (p.number, p.start_bar, p.bars, p.same_as) in there and chart.holds(p) == before.holds(p)}


@dataclass(frozen=True)
class Comparison:
    """``kinship`` is "same", "moved" (the same at another pitch), "chords" (same chords, other tune) or "varied"."""

    kinship: str
    differences: tuple[Difference, ...]
    new_bars: int
    moved: int = 0


@dataclass(frozen=True)
class _Bar:
    """The chords of a bar and what sounds with them."""

    chords: Sequence[Placed]
    sounds: Sequence[Sound]

    def moved(self, up: int) -> Sequence[Sound]:
        return sounding(self.chords, up) if up else self.sounds


class Heard:
    """What sounds in a chart's bars and parts, each found once however many repeats are held against it."""

    def __init__(self, chart: Chart) -> None:
        self._chart = chart
        self._bars: dict[int, _Bar] = {}
        self._tunes: dict[tuple[int, int], Tune] = {}

    def bar(self, number: int) -> _Bar:
        if number not in self._bars:
            chords = self._chart.placed_in(number)
            self._bars[number] = _Bar(chords, sounding(chords))
        return self._bars[number]

    def tune(self, part: Part) -> Tune:
        bars = part.start_bar, part.end_bar
        if bars not in self._tunes:
            places = ((self._chart.grid.place(n.start), n.midi) for n in self._chart.melody_of(part))
            self._tunes[bars] = frozenset((bar - part.start_bar, into, midi) for (bar, into), midi in places if bar >= part.start_bar)
        return self._tunes[bars]


def compare_parts(heard: Heard, model: Part, repeat: Part) -> Comparison:
    """How a repeat stands to its model, bar by bar."""
    shared = min(model.bars, repeat.bars)
    pairs = [(heard.bar(model.start_bar + i), heard.bar(repeat.start_bar + i)) for i in range(shared)]
    moved = _find_move(pairs)
    chords = _compare_chords(pairs, model, repeat, moved)
    tune, tune_bars = _compare_melody(heard, model, repeat, shared, moved)
    length = repeat.bars - model.bars
    found = [Difference("pitch", amount=moved)] if moved else []
    found += chords
    if length:
        found.append(Difference("longer" if length > 0 else "shorter", amount=abs(length)))
    found += [tune] if tune else []
    # At another pitch other keys lie under the hands: every bar is new to them.
    new = set(range(shared)) if moved else {d.bars[0] - repeat.start_bar for d in chords}
    new |= set(range(shared, repeat.bars))
    if not found:
        kinship = "same"
    elif moved and not chords and not tune and not length:
        return Comparison("moved", tuple(found), len(new), moved)
    else:
        kinship = "chords" if not chords and not length and (tune is None or tune.kind != "notes") else "varied"
    return Comparison(kinship, tuple(found), len(new | tune_bars), moved)


def _compare_chords(pairs: Pairs, model: Part, repeat: Part, moved: int) -> list[Difference]:
    """A difference for every bar whose chords sound otherwise; the first of them is an ending where only the close is another."""
    other = [(i, then, now) for i, (then, now) in enumerate(pairs) if then.moved(moved) != now.sounds]
    closes = bool(other) and other[0][0] >= repeat.bars - (2 if repeat.bars >= 8 else 1) and repeat.bars == model.bars > 2
    return [
        Difference(
            "ending" if closes and k == 0 else "chords",
            (repeat.start_bar + i,),
            now=tuple(c for _, c in now.chords),
            then=tuple(c for _, c in then.chords),
            moved=moved != 0,
        )
        for k, (i, then, now) in enumerate(other)
    ]


def _find_move(pairs: Pairs) -> int:
    """Half steps, -5 to 6, by which the repeat's chords lie above the model's; 0 unless another pitch explains clearly more bars."""
    fits, bars = dict.fromkeys(range(-5, 7), 0), len(pairs)
    for then, now in pairs:
        for k in _possible_moves(then.chords, now.sounds):
            fits[k] += then.moved(k) == now.sounds
    best = max(fits, key=lambda k: (fits[k], k == 0, -abs(k)))
    return best if fits[best] >= max(2, 0.6 * bars) and fits[best] > fits[0] + 0.3 * bars else 0


def _possible_moves(then: Sequence[Placed], now: Sequence[Sound]) -> Sequence[int]:
    """The moves, -5 to 6, that bring the first bass to the other's place; every one where nothing sounds at first."""
    first = then[0][1] if then else None
    if first is None:
        return range(-5, 7)
    if not now or now[0][2] < 0:
        return ()
    return ((now[0][2] - first.bass.pitch_class + 5) % 12 - 5,)


def bar_chords(chart: Chart, part: Part, index: int) -> Sequence[Placed]:
    """Chords that sound in a bar of the part, counted from 0."""
    return chart.placed_in(part.start_bar + index)


def sound_of(chord: Chord | None, up: int = 0) -> tuple[frozenset[int], int]:
    """Sounding pitch classes and bass, ``up`` half steps higher, so that C6 and Am7/C do not count as different; -1 where nothing sounds."""
    if chord is None:
        return frozenset(), -1
    if not up:
        return chord.pitch_classes(), chord.bass.pitch_class
    return frozenset((pc + up) % 12 for pc in chord.pitch_classes()), (chord.bass.pitch_class + up) % 12


def sounding(chords: Sequence[Placed], up: int = 0) -> Sequence[Sound]:
    """Places, notes and bass of a bar, neighbours of one sound joined."""
    out: list[Sound] = []
    for place, chord in chords:
        row = (place, *sound_of(chord, up))
        if not out or out[-1][1:] != row[1:]:
            out.append(row)
    return out


def _compare_melody(heard: Heard, model: Part, repeat: Part, bars: int, moved: int) -> tuple[Difference | None, set[int]]:
    """How the tune differs, None where it is the same, and the bars of the repeat, counted from 0, in which it does."""

    def notes(part: Part, up: int = 0) -> Tune:
        tune = heard.tune(part)
        if not up and part.bars == bars:
            return tune
        return frozenset((bar, into, midi + up) for bar, into, midi in tune if bar < bars)

    now = notes(repeat)  # moved up a fifth may be sung a fourth lower: the octave is not a difference
    then = max((notes(model, up) for up in ({moved, moved - 12, moved + 12} if moved else {0})), key=lambda heard: len(heard & now))
    changed = now ^ then
    places = {bar for bar, _, _ in changed}
    if not changed:
        return None, places
    if len(changed) / max(len(then | now), 1) > 0.6:
        return Difference("tune" if then and now else "rests" if then else "added"), places
    numbers = tuple(sorted(place + repeat.start_bar for place in places))
    return Difference("notes", numbers, len(now - then) or len(then - now)), places
