"""The choice of grips over a whole part, by dynamic programming.

Every chord has its style's shapes; the cheapest chain is taken, where cost is what each shape holds against
itself (register, muddy lows, strain, hands too close) and what the way from the grip before asks of the
fingers. Least movement with kept common tones is the classical rule of voice leading; see D. Tymoczko,
"A Geometry of Music", 2011, chapter 2, for distance between chords as the least sum of moves.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from valley.arranging.reach import span_mm
from valley.arranging.styles import Limits, Moment, Shape, Style
from valley.errors import ParameterError


@dataclass(frozen=True)
class Weights:
    """What counts how much; one unit is about one semitone moved by one finger."""

    move: float = 1.0  # each semitone a finger travels
    leap: float = 0.6  # each semitone beyond a fourth that a hand's outer finger travels
    kept: float = 1.2  # reward for each key that stays down
    strain: float = 0.08  # each millimetre beyond comfort
    muddy: float = 1.5  # each close interval in the low register
    far: float = 0.25  # each semitone outside the hand's usual register
    crowded: float = 2.0  # the hands closer than a third


# Below these MIDI numbers an interval of so many semitones or fewer sounds muddy (low-interval limits).
_MUDDY = ((40, 7), (46, 5), (52, 3), (55, 2))
_LEFT_HOME, _RIGHT_HOME = (38, 57), (57, 77)


def choose_shapes(moments: Sequence[Moment], style: Style, limits: Limits, weights: Weights = Weights()) -> list[Shape]:  # noqa: B008 - frozen
    """One shape for every moment, the cheapest chain of all.

    Raises
    ------
    ParameterError
        a chord that no shape of the style fits on this keyboard and in this hand
    """
    layers: list[list[Shape]] = []
    for moment in moments:
        shapes = list(style.propose(moment, limits))
        if not shapes:
            raise ParameterError(
                f"{moment.chord.to_symbol()} has no shape in style {style.name!r} for a {limits.hand.name} hand "
                f"on keys {limits.lowest} to {limits.highest}; choose a wider hand, a larger keyboard or another style"
            )
        layers.append(_prune(shapes, limits, weights))
    if not layers:
        return []
    own = [[rate_shape(s, limits, weights) for s in layer] for layer in layers]
    total = own[0]
    back: list[list[int]] = []
    for t in range(1, len(layers)):
        came, now = [], []
        for shape, cost in zip(layers[t], own[t], strict=True):
            options = [total[i] + _move(before, shape, weights) for i, before in enumerate(layers[t - 1])]
            best = min(range(len(options)), key=options.__getitem__)
            came.append(best)
            now.append(options[best] + cost)
        back.append(came)
        total = now
    index = min(range(len(total)), key=total.__getitem__)
    chosen = [index]
    for came in reversed(back):
        index = came[index]
        chosen.append(index)
    return [layer[i] for layer, i in zip(layers, reversed(chosen), strict=True)]


def _prune(shapes: list[Shape], limits: Limits, weights: Weights, most: int = 60) -> list[Shape]:
    """The best by their own cost: what is far worse by itself is never on the best chain."""
    return sorted(shapes, key=lambda s: rate_shape(s, limits, weights))[:most]


def rate_shape(shape: Shape, limits: Limits, weights: Weights) -> float:
    """What a shape costs by itself."""
    cost = shape.cost
    for notes, (low, high) in ((shape.left, _LEFT_HOME), (shape.right, _RIGHT_HOME)):
        if notes:
            cost += weights.far * (max(0, low - notes[0]) + max(0, notes[-1] - high))
            cost += weights.strain * max(0.0, span_mm(notes) - limits.hand.comfort_mm)
    together = (*shape.left, *shape.right)
    for a, b in zip(together, together[1:], strict=False):
        cost += weights.muddy * sum(a < roof and b - a <= gap for roof, gap in _MUDDY)
    if shape.left and shape.right and shape.right[0] - shape.left[-1] < 3:
        cost += weights.crowded
    return cost


def _move(before: Shape, after: Shape, weights: Weights) -> float:
    return _hand_move(before.left, after.left, weights) + _hand_move(before.right, after.right, weights)


@lru_cache(maxsize=1 << 17)
def _hand_move(before: tuple[int, ...], after: tuple[int, ...], weights: Weights) -> float:
    """Semitones that the fingers travel, outer leaps dearer, kept keys rewarded."""
    if not before or not after:
        return 0.0
    travelled = sum(min(abs(a - b) for b in before) for a in after) + 0.5 * sum(min(abs(a - b) for a in after) for b in before)
    outer = max(abs(after[0] - before[0]), abs(after[-1] - before[-1]))
    kept = len(set(before) & set(after))
    return weights.move * travelled / 1.5 + weights.leap * max(0, outer - 5) - weights.kept * kept
