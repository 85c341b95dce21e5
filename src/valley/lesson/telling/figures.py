"""Chords under one figure: the order and the time in which the keys of a grip are struck, the same for every chord that has it.

A figure is taught on one grip and carried over to the next; a chord that lasts less long gets as much of it as fits.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from valley.fraction import Fraction
from valley.lesson.telling.hand_bars import Bar, Struck

_CYCLES = tuple(Fraction(n, 2) for n in range(1, 17))  # lengths after which a figure may begin again, in beats
_MOST_FIGURES = 3
_FINGERS = 5


@dataclass(frozen=True)
class Slot:
    """One chord under one hand: its name, where it begins in beats, how long it lasts, what is struck (``at`` from where the chord begins)."""

    name: str
    start: Fraction
    duration: Fraction
    struck: Bar

    @property
    def grip(self) -> tuple[int, ...]:
        """The keys that are touched, from the bottom up."""
        return tuple(sorted({k for s in self.struck for k in s.keys}))


@dataclass(frozen=True)
class Figure:
    """When which keys of a grip of ``size`` are struck: (beats from where the chord begins, keys by number from the lowest).

    ``size`` 0: all keys of any grip, every time. ``cycle``: after so many beats it begins again; None where it comes once.
    """

    size: int
    strokes: tuple[tuple[Fraction, tuple[int, ...]], ...]
    cycle: Fraction | None = None

    @property
    def blocks(self) -> bool:
        """All keys at once, as the chord begins."""
        return self == BLOCKS

    def on(self, grip: Sequence[int], duration: Fraction) -> Bar:
        """The figure on a grip for so long."""
        found, base = [], Fraction(0)
        while base < duration:
            found += [Struck(base + at, self._keys(grip, row)) for at, row in self.strokes if base + at < duration]
            if self.cycle is None:
                break
            base += self.cycle
        return tuple(found)

    def fits(self, grip: Sequence[int]) -> bool:
        return self.size in (0, len(grip))

    def _keys(self, grip: Sequence[int], row: tuple[int, ...]) -> tuple[int, ...]:
        return tuple(grip[i] for i in row) if self.size else tuple(grip)


BLOCKS = Figure(0, ((Fraction(0), ()),))


@dataclass(frozen=True)
class Rule:
    """A figure and what stands under it: the chords' names, and the grip of each."""

    figure: Figure
    grips: dict[str, tuple[int, ...]]
    slots: tuple[Slot, ...]


def read_figure(slot: Slot) -> Figure | None:
    """The figure of a chord, as short as it can be told; None where the hand rests or slides."""
    grip = slot.grip
    if not grip or any(s.graces for s in slot.struck):
        return None
    if len(grip) > _FINGERS and any(len(s.keys) > 1 for s in slot.struck):
        return None  # a run in octaves or thirds: no handful that is struck in an order
    number = {key: i for i, key in enumerate(grip)}
    full = len(grip) > 1 or len(slot.struck) == 1
    size = 0 if full and all(s.keys == grip for s in slot.struck) else len(grip)
    rows = tuple((s.at, tuple(number[k] for k in s.keys) if size else ()) for s in slot.struck)
    for cycle in _CYCLES:
        if cycle * 2 > slot.duration:
            break
        figure = Figure(size, tuple(row for row in rows if row[0] < cycle), cycle)
        if figure.strokes and figure.on(grip, slot.duration) == slot.struck:
            return figure
    return Figure(size, rows)


def find_rules(slots: Sequence[Slot], known: dict[str, tuple[int, ...]]) -> list[Rule]:
    """The figures under which most of the chords stand, with one grip for each name; ``known`` grips are kept where they serve as well."""
    left, rules = [s for s in slots if s.struck], []
    blocks = _rule(BLOCKS, [s for s in left if (f := read_figure(s)) and f.blocks], known)
    if len(blocks.slots) * 2 >= len(left) and blocks.slots:
        rules.append(blocks)
        left = [s for s in left if s not in blocks.slots]
    while left and len(rules) < _MOST_FIGURES:
        taken = {name for r in rules for name in r.grips}
        open_slots = [s for s in left if s.name not in taken]
        figures = dict.fromkeys(f for s in open_slots if (f := read_figure(s)))
        found = [_rule(f, [s for s in open_slots if f.fits(s.grip) and f.on(s.grip, s.duration) == s.struck], known) for f in figures]
        best = max(found, key=lambda r: sum(s.duration for s in r.slots), default=None)
        if best is None or (len(best.slots) < 2 and rules):
            break
        rules.append(best)
        left = [s for s in left if s not in best.slots]
    return rules


def _rule(figure: Figure, slots: Sequence[Slot], known: dict[str, tuple[int, ...]]) -> Rule:
    """One grip for each name: the one that serves most often, a known one first."""
    tally: dict[str, Counter[tuple[int, ...]]] = {}
    for s in slots:
        tally.setdefault(s.name, Counter())[s.grip] += 1
    grips = {name: max(row, key=lambda g: (row[g], known.get(name) == g)) for name, row in tally.items()}
    return Rule(figure, grips, tuple(s for s in slots if grips[s.name] == s.grip))
