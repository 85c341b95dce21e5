"""Where bar lines fall when bars may differ: one search over metres and places in the bar.

A bar-pointer model over beats (N. Whiteley, A. Cemgil & S. Godsill, "Bayesian Modelling of Temporal Structure in Musical Audio", ISMIR 2006) with
metres as states. Most songs keep one; many drop or add beats in a bar or two, which has a price a bar; some change for a part, which has a higher one.
"""

from __future__ import annotations

from typing import Final, NamedTuple

import numpy as np
import numpy.typing as npt

Doubles = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int_]


class Shape(NamedTuple):
    """A kind of bar: its beats, how usual it is (log odds a beat), and the beat (from 0) that begins its second half, if it has one."""

    beats: int
    prior: float
    half: int | None


SHAPES: Final = (
    Shape(4, 0.0, 2),
    Shape(3, -0.12, None),
    Shape(2, -0.6, None),
    Shape(5, -0.35, 3),
    Shape(5, -0.35, 2),
    Shape(7, -0.5, 4),
    Shape(7, -0.5, 3),
)
ODD_BAR: Final = 20.0  # price of a bar whose length is not that of the metre
CHANGE: Final = 40.0  # price of another metre from here on
EDGE: Final = 12  # beats at either end, where an odd bar costs twice as much: too little goes on from it


class BarLines(NamedTuple):
    """Each beat's kind of bar (its place in ``shapes``) and its place in the bar, and what the way through them is worth a beat."""

    shapes: Ints
    positions: Ints
    value: float


def place_bar_lines(emissions: list[Doubles], shapes: tuple[Shape, ...] = SHAPES, odd: float = ODD_BAR, change: float = CHANGE) -> BarLines:
    """The likeliest bars.

    Parameters
    ----------
    emissions : for each shape the log odds of every beat at every place of such a bar, shape (count, beats of the bar)
    shapes : the kinds of bars; each can be the metre, and each an odd bar in another
    odd, change : what one bar of another length costs, and what another metre costs
    """
    count, kinds = len(emissions[0]), range(len(shapes))
    bars = [(m, s) for m in kinds for s in kinds if m == s or shapes[m].beats != shapes[s].beats]  # a metre and a bar within it
    metre = np.concatenate([np.full(shapes[s].beats, m) for m, s in bars])
    shape_of = np.concatenate([np.full(shapes[s].beats, s) for _, s in bars])
    place = np.concatenate([np.arange(shapes[s].beats) for _, s in bars])
    fit = np.concatenate([emissions[s] + shapes[m].prior for m, s in bars], axis=1)
    firsts = np.nonzero(place == 0)[0]
    lasts = np.append(firsts[1:], len(place)) - 1
    own = metre[firsts]
    price = np.where(shape_of[firsts] == own, 0.0, odd)
    score, back = fit[0] - np.where(shape_of == metre, 0.0, 2 * odd), np.zeros((count, len(place)), int)
    inside = np.arange(len(place)) - 1
    ends = [np.nonzero(own == m)[0] for m in kinds]
    for t in range(1, count):
        at_end = score[lasts]
        best = np.array([rows[at_end[rows].argmax()] for rows in ends])  # of each metre
        any_metre = int(at_end.argmax())
        come = np.where(at_end[any_metre] - change > at_end[best], any_metre, best)
        worth = np.maximum(at_end[any_metre] - change, at_end[best])
        before, follow = inside.copy(), score[inside]
        before[firsts], follow[firsts] = lasts[come[own]], worth[own] - price * (1 + (t < EDGE or t >= count - EDGE))
        back[t], score = before, follow + fit[t]
    path = np.empty(count, int)
    path[-1] = int(score.argmax())
    for t in range(count - 1, 0, -1):
        path[t - 1] = back[t, path[t]]
    return BarLines(shape_of[path], place[path], float(score.max()) / max(count, 1))
