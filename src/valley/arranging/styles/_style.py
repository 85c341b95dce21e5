"""What a voicing style is: it proposes shapes for one chord; the choice over the whole part is made elsewhere."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import product

from valley.arranging.reach import Hand, span_mm
from valley.theory.chord import Chord


@dataclass(frozen=True)
class Limits:
    """What hands and keyboard allow."""

    hand: Hand
    lowest: int
    highest: int

    def fits(self, notes: tuple[int, ...]) -> bool:
        return not notes or (notes[0] >= self.lowest and notes[-1] <= self.highest and span_mm(notes) <= self.hand.most_mm)


@dataclass(frozen=True)
class Moment:
    """A chord where it occurs: ``melody`` is the tune's note sounding at its start, ``ceiling`` the lowest
    note the tune touches while it lasts (the left hand stays below)."""

    chord: Chord
    melody: int | None = None
    ceiling: int | None = None


@dataclass(frozen=True)
class Shape:
    """MIDI numbers of both hands, ascending; ``cost`` is what the style itself holds against it."""

    left: tuple[int, ...]
    right: tuple[int, ...]
    cost: float = 0.0


@dataclass(frozen=True)
class Style:
    """``melody``: "none" (the tune is not played), "line" (right hand alone) or "top" (over chord notes)."""

    name: str
    title: str
    summary: str
    melody: str
    propose: Callable[[Moment, Limits], Iterator[Shape]]


def pitches_of(pitch_class: int, low: int, high: int) -> list[int]:
    """MIDI numbers of a pitch class within a range.

    >>> pitches_of(0, 48, 72)
    [48, 60, 72]
    """
    first = low + (pitch_class - low) % 12
    return list(range(first, high + 1, 12))


def core_members(chord: Chord, most: int) -> list[int]:
    """Pitch classes to keep when only ``most`` notes are played: third and seventh before root, fifth last.

    >>> from valley.theory.chord import parse_harte
    >>> core_members(parse_harte("C:9"), 3)
    [4, 10, 2]
    """
    rank = {4: 0, -3: 0, -1: 0, -2: 1, 5: 1, -9: 1, 3: 2, 2: 2, 0: 3, -6: 2, 8: 2, 1: 4}
    if 2 in chord.quality.members and len(chord.quality.members) == 3:
        rank = rank | {2: 0}
    kept = sorted(chord.quality.members, key=lambda i: rank.get(i, 3))[:most]
    return [chord.root.up(i).pitch_class for i in kept]


def close_shapes(pitch_classes: list[int], low: int, high: int) -> Iterator[tuple[int, ...]]:
    """Every close position (all notes within an octave) of a set of pitch classes whose lowest note is in range."""
    wanted = sorted(set(pitch_classes))
    for bottom_class in wanted:
        for bottom in pitches_of(bottom_class, low, high):
            notes = tuple(sorted(bottom + (pc - bottom) % 12 for pc in wanted))
            if notes[-1] <= high:
                yield notes


def pair_shapes(lefts: list[tuple[int, ...]], rights: list[tuple[int, ...]], limits: Limits) -> Iterator[Shape]:
    """Both hands together where each fits, and the left stays below the right."""
    for left, right in product(lefts, rights):
        if limits.fits(left) and limits.fits(right) and (not left or not right or left[-1] < right[0]):
            yield Shape(left, right)
