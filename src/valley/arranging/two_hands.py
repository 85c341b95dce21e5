"""Which hand played what: keys of a performance shared between two hands by reach, register and continuity.

At every stroke a border runs through the keyboard: what lies below it is the left hand's. The cheapest walk of that border over the whole
performance is found by dynamic programming; a border between two keys costs what the hands would have to span, how near it runs to a key, how far
it lies from the middle, and how far it moved. The idea of a moving split is J. Kilian & H. Hoos, "Voice Separation – A Local Optimisation
Approach", ISMIR 2002, kept to two voices that may be chords.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from valley.arranging.reach import widest_mm
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT

_BORDERS: Final = range(36, 86)
_MIDDLE: Final = 60
_WIDE_MM, _TOO_WIDE_MM = 185.0, 235.0
_WIDE, _TOO_WIDE, _FINGERS = 0.05, 6.0, 4.0  # for each millimetre beyond; for what no hand spans; for each key beyond five
_OFF_MIDDLE, _MOVED, _CLOSE, _GAP = 0.06, 0.22, 0.35, 7


@dataclass(frozen=True)
class Stroke:
    """A key as it was struck: where in beats of the song and how long, which key (MIDI), how hard."""

    start: Fraction
    duration: Fraction
    midi: int
    velocity: int = 64

    @property
    def end(self) -> Fraction:
        return self.start + self.duration


def split_hands(strokes: Sequence[Stroke]) -> tuple[str, ...]:
    """For each stroke the hand that plays it.

    Parameters
    ----------
    strokes : in any order

    >>> split_hands([Stroke(Fraction(0), Fraction(1), m) for m in (36, 43, 64, 67, 72)])
    ('left', 'left', 'right', 'right', 'right')
    """
    if not strokes:
        return ()
    times = sorted({s.start for s in strokes})
    ordered = sorted(strokes, key=lambda s: s.start)
    borders = np.array(_BORDERS)
    moved = _MOVED * np.abs(borders[:, None] - borders[None, :])
    total = np.zeros(len(borders))
    back = []
    held: list[Stroke] = []
    at = 0
    for time in times:
        held = [s for s in held if s.end > time]
        while at < len(ordered) and ordered[at].start == time:
            held.append(ordered[at])
            at += 1
        options = total[:, None] + moved
        back.append(options.argmin(axis=0))
        keys = sorted({s.midi for s in held})
        total = options.min(axis=0) + np.array([_cost(keys, border) for border in _BORDERS])
    place = int(total.argmin())
    walk = [place]
    for came in reversed(back[1:]):
        place = int(came[place])
        walk.append(place)
    border_at = dict(zip(times, (int(borders[i]) for i in reversed(walk)), strict=True))
    return tuple(LEFT if s.midi < border_at[s.start] else RIGHT for s in strokes)


def _cost(keys: Sequence[int], border: int) -> float:
    """What a border costs where these keys are down."""
    cost = _OFF_MIDDLE * abs(border - _MIDDLE)
    for hand in ([k for k in keys if k < border], [k for k in keys if k >= border]):
        if len(hand) > 1:
            span = widest_mm(hand[-1] - hand[0])
            cost += _WIDE * max(0.0, span - _WIDE_MM) + _TOO_WIDE * (span > _TOO_WIDE_MM)
        cost += _FINGERS * max(0, len(hand) - 5)
    below, above = max((k for k in keys if k < border), default=border - _GAP), min((k for k in keys if k >= border), default=border + _GAP)
    return cost + _CLOSE * max(0, _GAP - (above - below))
