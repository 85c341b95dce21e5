"""Which bars of a score can be written once and played twice: neighbouring blocks of parts that go alike, with two endings where only their
ends differ.

Only what is the same note for note is folded; fingers are those of the first time, and cue words are kept for both.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Hashable
from dataclasses import dataclass
from typing import Final

from valley.fraction import Fraction
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart

_MOST_PARTS: Final = 6  # in one block
_LEAST_SAVED: Final = 2  # bars for which a repeat sign is worth reading


@dataclass(frozen=True)
class Fold:
    """Bars ``first`` to ``first + length - 1`` are played again as the next ``length`` bars; the first ``same`` of them are alike.

    Where ``same`` is ``length`` it is a plain repeat, else there are two endings.
    """

    first: int
    length: int
    same: int

    @property
    def again(self) -> int:
        """The first bar of the second time."""
        return self.first + self.length

    @property
    def last(self) -> int:
        """The last bar of the second time."""
        return self.first + 2 * self.length - 1

    @property
    def skipped(self) -> range:
        """Bars that are not written, because the repeat plays them."""
        return range(self.again, self.again + self.same)


def find_folds(chart: Chart, arrangement: Arrangement) -> tuple[Fold, ...]:
    """Folds that do not overlap, in order; where several begin at one part, the one that saves most bars."""
    marks = _mark_bars(chart, arrangement)
    parts = list(chart.parts)
    folds: list[Fold] = []
    i = 0
    while i < len(parts):
        best, used = None, 1
        for count in range(1, min(_MOST_PARTS, (len(parts) - i) // 2) + 1):
            fold = _fold(parts[i].start_bar, parts[i + count - 1].end_bar, parts[i + count].start_bar, parts[i + 2 * count - 1].end_bar, marks)
            if fold and (best is None or fold.same > best.same):
                best, used = fold, 2 * count
        if best:
            folds.append(best)
        i += used
    return tuple(folds)


def _fold(first: int, last: int, again: int, end: int, marks: dict[int, tuple[Hashable, Hashable]]) -> Fold | None:
    length = last - first + 1
    if first < 1 or again != last + 1 or end - again + 1 != length:
        return None
    frames = {marks[bar][0] for bar in range(first, end + 1)}
    if len(frames) > 1:  # a change of key or metre on the way would have to be taken back
        return None
    same = 0
    while same < length and marks[first + same] == marks[again + same]:
        same += 1
    if same < _LEAST_SAVED or 2 * same < length:
        return None
    return Fold(first, length, same)


def _mark_bars(chart: Chart, arrangement: Arrangement) -> dict[int, tuple[Hashable, Hashable]]:
    """Of each bar its key with metre, and all that is written in it, from its own beginning."""
    grid = chart.grid
    notes = [n for part in arrangement.parts for n in part.notes]
    bars = range(0 if grid.pickup else 1, grid.bars + 1)
    spans = {bar: (grid.bar_start(bar), grid.bar_start(bar + 1)) for bar in bars}
    inside: dict[int, list[Hashable]] = defaultdict(list)
    for n in notes:
        for bar in range(grid.place(n.start)[0], grid.bars + 1):
            start, end = spans[bar]
            if n.start >= end:
                continue
            if n.start < start and n.start + n.duration <= start:
                break
            tied = (n.start < start, n.start + n.duration > end)
            inside[bar].append((n.hand, n.voice, max(n.start, start) - start, min(n.end, end) - start, n.midi, n.pitch, n.grace, n.accent, tied))
            if n.start + n.duration <= end:
                break
    marks: dict[int, tuple[Hashable, Hashable]] = {}
    for bar in bars:
        start, end = spans[bar]
        symbols = tuple((c.start - start, c.label) for c in chart.chords if start <= c.start < end)
        frame = (str(chart.key_at(start)), grid.meter_of(bar).name, Fraction(end - start))
        marks[bar] = (frame, (symbols, tuple(sorted(inside[bar], key=repr))))
    return marks
