"""What each hand strikes, bar by bar: the form in which lines are looked for."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
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

    def is_moved(self, other: Struck, by: int) -> bool:
        """Whether the other is the same so many half steps higher."""
        if self.at != other.at or len(self.keys) != len(other.keys) or len(self.graces) != len(other.graces):
            return False
        return all(b - a == by for a, b in zip(self.keys, other.keys, strict=True)) and all(b - a == by for a, b in zip(self.graces, other.graces, strict=True))


Bar = tuple[Struck, ...]
"""What a hand strikes in a bar, in order; empty where it rests."""


def bars_of(grid: Grid, notes: Iterable[PlayedNote]) -> dict[int, Bar]:
    """One hand's notes by the bars in which they begin; bar 0 is the pickup."""
    rows: dict[int, dict[Fraction, tuple[set[int], list[int]]]] = defaultdict(dict)
    for note in notes:
        bar, at = grid.place(note.start)
        keys, graces = rows[bar].setdefault(at, (set(), []))
        if note.grace:
            graces.append(note.midi)
        else:
            keys.add(note.midi)
    return {bar: tuple(Struck(at, tuple(sorted(keys)), tuple(graces)) for at, (keys, graces) in sorted(row.items())) for bar, row in rows.items()}


def moved_by(one: Bar, other: Bar) -> int | None:
    """By how many half steps the second lies above the first; None where they are not the same otherwise, or both rest.

    >>> moved_by((Struck(Fraction(0), (60,)),), (Struck(Fraction(0), (62,)),))
    2
    """
    if len(one) != len(other) or not one or not one[0].keys or not other[0].keys:
        return None
    by = other[0].keys[0] - one[0].keys[0]
    return by if is_moved(one, other, by) else None


def is_moved(one: Bar, other: Bar, by: int) -> bool:
    """Whether the second is the first so many half steps higher."""
    return len(one) == len(other) and all(a.is_moved(b, by) for a, b in zip(one, other, strict=True))


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
    return tuple(both[at] for at in sorted(both))
