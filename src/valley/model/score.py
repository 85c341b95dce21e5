"""What a score or a played file holds, before it is charted: notes by hand, symbols, metres and keys. Positions are quarter notes from the start."""

from __future__ import annotations

from dataclasses import dataclass

from valley.fraction import Fraction
from valley.theory.feel import STRAIGHT


@dataclass(frozen=True)
class ScoreNote:
    start: Fraction
    duration: Fraction
    midi: int
    hand: str = ""  # "left", "right" or, where nobody says, empty
    grace: bool = False
    pitch: str = ""  # as it is spelled, where somebody says
    finger: int | None = None
    voice: int = 1
    accent: bool = False


@dataclass(frozen=True)
class Score:
    """``meters``, ``keys`` (fifths, mode), ``tempi`` (quarters to the minute) and ``marks`` (names of parts) with where they begin.

    ``harmonies`` are Harte labels; ``pickup`` quarters stand before the first whole bar; ``pedals`` are where the pedal goes down and comes up;
    ``feel`` is how the halves of a beat are played (``theory.feel``).
    """

    title: str
    notes: tuple[ScoreNote, ...]
    meters: tuple[tuple[Fraction, str], ...] = ()
    keys: tuple[tuple[Fraction, int, str], ...] = ()
    tempi: tuple[tuple[Fraction, float], ...] = ()
    harmonies: tuple[tuple[Fraction, str], ...] = ()
    marks: tuple[tuple[Fraction, str], ...] = ()
    pickup: Fraction = Fraction(0)
    pedals: tuple[tuple[Fraction, Fraction], ...] = ()
    feel: str = STRAIGHT
