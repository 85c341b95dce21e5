"""Accompaniment patterns as data: what a hand does with the notes of a grip, on an exact grid of beats."""

from __future__ import annotations

from dataclasses import dataclass

from valley.fraction import Fraction


@dataclass(frozen=True)
class Slot:
    """One stroke or rest. ``keys`` name notes of the grip (see ``arranging.patterns``), none for a rest; ``duration`` in beats."""

    duration: Fraction
    keys: tuple[str, ...]
    rings: bool = False
    accent: bool = False


@dataclass(frozen=True)
class Form:
    """A pattern in one metre: for each hand slots one after the other, as many beats as ``cell`` allows to be cut off.

    A hand without slots holds its grip.
    """

    meter: str
    left: tuple[Slot, ...]
    right: tuple[Slot, ...]
    cell: Fraction

    @property
    def beats(self) -> Fraction:
        return max(sum((s.duration for s in hand), Fraction(0)) for hand in (self.left, self.right))


@dataclass(frozen=True)
class Pattern:
    """Forms in one or more metres. ``runs_on``: it goes on through the bar where the chord changes, rather than beginning anew."""

    name: str
    title: str
    summary: str
    forms: tuple[Form, ...]
    runs_on: bool = False
