"""The lines of a whole song as columns of numbers, in which every name of a talk can be looked for at once."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import TYPE_CHECKING

from valley.fraction import Fraction
from valley.lesson.proof._lines import Item, row_midi
from valley.lesson.proof._scope import Found, Scope
from valley.lesson.proof._spoken_facts import BEAT, LENGTH, SpokenFact
from valley.model.arrangement import HANDS, RIGHT
from valley.theory.pitch import parse_pitch

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    Flags = npt.NDArray[np.bool_]
    Numbers = npt.NDArray[np.int64]

_REACH = 3  # places that a step along a line may take


class Tracks:
    """Every place of every line of a song, one after the other: each hand's keys from the bottom up, its lowest and highest, the tune, basses, chords.

    Attributes
    ----------
    items : what stands at each place
    starts : where it begins, in quarters; shape (places,)
    bar, part : its bar and part, counted from 1; shape (places,)
    stroke : those that begin at once have one number; shape (places,)
    chordal, outer : whether it is a chord, and whether it is one of several keys that are also told whole; shape (places,)
    hands : whether a place is the right or left hand's, or nobody's; each of shape (places,)
    same : by how many places on: whether that place is on the same line still; shape (places,)
    """

    def __init__(self, scope: Scope) -> None:
        import numpy as np

        chart = scope.chart
        rows = [(kind, hand, i, item) for kind, hand, items in _lines(scope) for i, item in enumerate(items)]
        self.items = [item for *_, item in rows]
        self._classes: Numbers = np.array([item.name.pitch_class for item in self.items], np.int64)
        starts = [item.start or Fraction(0) for item in self.items]
        self.starts = np.array([float(start) for start in starts])
        places = [chart.grid.place(start) for start in starts]
        self.bar: Numbers = np.array([bar for bar, _ in places], np.int64)
        self._bar_lengths = [Fraction(chart.grid.meter_of(bar).beats) for bar, _ in places]
        # Counted from 1 by the beats of the bar; dotted beats by their thirds, as "on four" is said in 6/8.
        self._counts = [Fraction(into) * (3 if chart.grid.meter_of(bar).division == 3 else 1) + 1 for bar, into in places]
        ends = [(chart.span(p), p.number) for p in chart.parts]
        self.part: Numbers = np.array([next((n for (a, b), n in ends if a <= start < b), 0) for start in starts], np.int64)
        first = {n: float(a) for (a, _), n in ends}
        self.into_part = np.array([start - first.get(int(n), 0.0) for start, n in zip(self.starts, self.part, strict=True)])
        opening = {p.number: p.start_bar for p in chart.parts}
        self.begins: Flags = np.array([opening.get(int(n)) == b for n, b in zip(self.part, self.bar, strict=True)])
        self.chordal: Flags = np.array([kind == "chords" for kind, *_ in rows])
        self.outer: Flags = np.array([kind == "outer" for kind, *_ in rows])
        self._lengths: dict[tuple[Fraction | None, int | None], set[Fraction]] = {}
        sounding = [(n.start, n.midi, n.duration) for n in scope.notes] + [(n.start, n.midi, n.duration) for n in chart.melody]
        for start, midi, duration in sounding:
            self._lengths.setdefault((start, midi), set()).add(duration)
        for _, grip in scope.grips:
            held = {n.duration for n in scope.notes if n.start == grip.start}
            self._lengths.setdefault((grip.start, None), set()).update((grip.duration, *held))
        self.hands: dict[str, Flags] = {hand: np.array([h == hand for _, h, *_ in rows]) for hand in HANDS}
        self.line: Numbers = np.cumsum([i == 0 for _, _, i, _ in rows]) if rows else np.zeros(0, np.int64)
        line = self.line
        self.same = {k: np.concatenate([np.zeros(min(k, len(line)), bool), line[:-k] == line[k:]]) for k in range(1, _REACH + 1)}
        self.stroke: Numbers = np.unique(self.starts, return_inverse=True)[1] if rows else np.zeros(0, np.int64)
        self._by_stroke = np.argsort(self.stroke, kind="stable")
        self._stroke_heads = np.unique(self.stroke[self._by_stroke], return_index=True)[1]
        self._by_bar = np.argsort(self.bar, kind="stable")
        self._bars, self._heads = np.unique(self.bar[self._by_bar], return_index=True)
        self._fits: dict[tuple[object, ...], Flags] = {}

    def least_of_bars(self, cost: npt.NDArray[np.float64], never: float) -> npt.NDArray[np.float64]:
        """The least cost in each bar, and ``never`` where there is nothing; shape (bars + 2,), the first for bar 0."""
        import numpy as np

        least = np.full(int(self._bars[-1]) + 2, never)
        least[self._bars] = np.minimum.reduceat(cost[self._by_bar], self._heads)
        return least

    def least_at_once(self, cost: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
        """The least cost among places that begin at once, by ``stroke``."""
        import numpy as np

        return np.minimum.reduceat(cost[self._by_stroke], self._stroke_heads)

    def lengths(self, place: int) -> set[Fraction]:
        """How long the note at a place lasts, in quarters, as it is played and as it stands in the tune; of a chord how long it stays."""
        return self._lengths.get((self.items[place].start, self.items[place].midi), set())

    def count(self, place: int) -> Fraction:
        """The count of the bar on which something comes: its beat, from 1; in compound time its third of a beat."""
        return self._counts[place]

    def holds(self, fact: SpokenFact) -> Flags:
        """Where what is said of a name is so; shape (places,)."""
        key = (fact.kind, fact.value)
        if key not in self._fits:
            import numpy as np

            if fact.kind == BEAT:
                self._fits[key] = np.array([count == fact.value for count in self._counts])
            else:
                said = [fact.value] * len(self.items) if fact.kind == LENGTH else self._bar_lengths
                self._fits[key] = np.array([beats in self.lengths(i) for i, beats in enumerate(said)])
        return self._fits[key]

    def fits(self, row: Found) -> Flags:
        """Where a name can stand; shape (places,)."""
        key = (row.name.pitch_class, row.octave and row_midi(row), row.quality, row.bass and row.bass.pitch_class)
        if key not in self._fits:
            import numpy as np

            there: Flags = self._classes == row.name.pitch_class
            for i in np.flatnonzero(there):
                there[i] = _fits(self.items[i], row)
            self._fits[key] = there
        return self._fits[key]


def _fits(item: Item, row: Found) -> bool:
    """Whether a name can mean what stands there, where that has its pitch class."""
    if row.is_chord:
        return item.chord is not None and item.fits(row, strict=False)
    return row.octave is None or item.midi in (None, row_midi(row))


def _lines(scope: Scope) -> Iterator[tuple[str, str | None, Sequence[Item]]]:
    chart = scope.chart
    notes = [n for n in scope.notes if not n.grace]
    for hand in HANDS:
        strokes = [list(group) for _, group in groupby((n for n in notes if n.hand == hand), key=lambda n: n.start)]
        lines = [("keys", [n for group in strokes for n in group])]
        if any(len(group) > 1 for group in strokes):
            lines += [("outer", [group[0] for group in strokes]), ("outer", [group[-1] for group in strokes])]
        for kind, line in lines:
            yield kind, hand, [Item(parse_pitch(n.pitch)[0], n.midi, start=n.start) for n in line]
    yield "tune", RIGHT, [Item(chart.key_at(n.start).spell(n.midi % 12), n.midi, start=n.start) for n in chart.melody]
    grips = [g for _, g in scope.grips]
    yield "chords", None, [Item(g.chord.root, chord=g.chord, start=g.start) for g in grips]
    yield "outer", None, [Item(g.chord.bass, start=g.start) for g in grips]
