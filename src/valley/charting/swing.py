"""Notes that were found or written in triplets, long and short, as they are written in a song that swings: even."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TypeVar

from valley.fraction import Fraction
from valley.model.chart import MelodyNote
from valley.model.passage import WrittenNote
from valley.theory.feel import write_swung

_THIRD, _HALF = Fraction(1, 3), Fraction(1, 2)
N = TypeVar("N", MelodyNote, WrittenNote)


def write_even(notes: Sequence[N]) -> tuple[N, ...]:
    """Long and short become halves of the beat; real triplets stay.

    Parameters
    ----------
    notes : of a tune or a hand, ``start`` counted from a beat
    """
    place = write_swung(n.start for n in notes)
    return tuple(_moved(n, place) for n in notes)


def _moved(note: N, place: Callable[[Fraction], Fraction]) -> N:
    start, end = place(note.start), place(note.end)
    if end % 1 == _THIRD and place(end + _THIRD) != end + _THIRD and note.start % 1 != _THIRD:
        end += _HALF - _THIRD  # it ends with the long one
    return replace(note, start=start, duration=end - start) if start < end else note
