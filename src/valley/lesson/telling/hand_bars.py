"""What each hand strikes, bar by bar: the form in which lines are looked for."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from functools import cached_property
from typing import NamedTuple

from valley.fraction import Fraction
from valley.model.arrangement import PlayedNote
from valley.model.chart import Grid


class Struck(NamedTuple):
    """Keys that a hand strikes together, ``at`` so many beats into its bar; ``graces`` slide into it."""

    at: Fraction
    keys: tuple[int, ...]
    graces: tuple[int, ...] = ()

    def moved(self, by: int) -> Struck:
        """The same so many half steps higher."""
        return Struck(self.at, tuple(k + by for k in self.keys), tuple(k + by for k in self.graces))


Bar = tuple[Struck, ...]
"""What a hand strikes in a bar, in order; empty where it rests."""
Shape = tuple[tuple[Fraction, tuple[int, ...], tuple[int, ...]], ...]
"""A bar wherever it lies: its times, and its keys as half steps above its first one."""


class _Kept(tuple[Struck, ...]):
    """A bar that measures its shape once: a lesson compares each with all that was told before."""

    @cached_property
    def shape(self) -> Shape:
        return _measure(self)

    @cached_property
    def mark(self) -> int:
        return hash(self.shape)


def _measure(bar: Bar) -> Shape:
    base = base_of(bar)
    return tuple((s.at, tuple(k - base for k in s.keys), tuple(k - base for k in s.graces)) for s in bar)


def base_of(bar: Bar) -> int:
    """The lowest key struck first; 0 where there is none."""
    return bar[0].keys[0] if bar and bar[0].keys else 0


class Placed(NamedTuple):
    """A note and where it begins: ``at`` so many beats into its bar (0 is the pickup); ``part`` is the one that plays it."""

    note: PlayedNote
    bar: int
    at: Fraction
    part: int = 0


def place(grid: Grid, notes: Iterable[PlayedNote]) -> list[Placed]:
    return [Placed(n, *grid.place(n.start)) for n in notes]


def bars_of(notes: Iterable[Placed]) -> dict[int, Bar]:
    """One hand's notes by the bars in which they begin; bar 0 is the pickup."""
    rows: dict[int, dict[Fraction, tuple[set[int], list[int]]]] = defaultdict(dict)
    for note, bar, at, _ in notes:
        keys, graces = rows[bar].setdefault(at, (set(), []))
        if note.grace:
            graces.append(note.midi)
        else:
            keys.add(note.midi)
    return {bar: _Kept(Struck(at, tuple(sorted(keys)), tuple(graces)) for at, (keys, graces) in sorted(row.items())) for bar, row in rows.items()}


def moved_by(one: Bar, other: Bar) -> int | None:
    """By how many half steps the second lies above the first; None where they are not the same otherwise, or both rest.

    >>> moved_by((Struck(Fraction(0), (60,)),), (Struck(Fraction(0), (62,)),))
    2
    """
    if len(one) != len(other) or not one or not one[0].keys or not other[0].keys:
        return None
    return base_of(other) - base_of(one) if _shape(one) == _shape(other) else None


def is_moved(one: Bar, other: Bar, by: int) -> bool:
    """Whether the second is the first so many half steps higher."""
    return one == other if by == 0 else moved_by(one, other) == by


def _shape(bar: Bar) -> Shape:
    return bar.shape if isinstance(bar, _Kept) else _measure(bar)


def would_be(one: Bar, other: Bar, by: int) -> bool:
    """Whether who plays the first so many half steps higher plays the second; rests are rests at any pitch."""
    if by == 0 or not one or not other:
        return one == other
    if one[0].keys and other[0].keys:
        return moved_by(one, other) == by
    return tuple(s.moved(by) for s in one) == other


def mark_of(bar: Bar) -> int:
    """The same number for bars of the same shape."""
    return bar.mark if isinstance(bar, _Kept) else hash(_measure(bar))


def changed(one: Bar, other: Bar) -> tuple[Struck, ...]:
    """The strokes of the second that are not in the first, and those only in the first without their keys."""
    before = {s.at: s for s in one}
    after = {s.at: s for s in other}
    gone = [Struck(at, ()) for at in before if at not in after]
    return tuple(sorted((*gone, *[s for at, s in after.items() if before.get(at) != s]), key=lambda s: s.at))


def merged(one: Bar, other: Bar) -> Bar:
    """Both together."""
    rows: Mapping[Fraction, Struck] = {s.at: s for s in one}
    both = dict(rows)
    for s in other:
        here = both.get(s.at)
        both[s.at] = Struck(s.at, tuple(sorted({*here.keys, *s.keys})), (*here.graces, *s.graces)) if here else s
    return _Kept(both[at] for at in sorted(both))
