"""Where in the music each name of a talk stands, found over the whole talk at once.

Read sentence by sentence a talk can be lost: few notes fit in many places. But what is told follows a line of the music, and a talk mostly goes on from where
it was, or says it again, or turns to another line of the bar, or to the next; leaps are dear, and dearer within a list. Of all ways through all lines that of
the least cost is meant (a hidden Markov model in costs, looked through both ways: L. Rabiner, A tutorial on hidden Markov models, 1989). For every name the
least cost with the name right is held against the least with the name a slip.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from valley.lesson.proof._lines import Item
from valley.lesson.proof._scope import Found
from valley.lesson.proof._spoken_facts import BEAT, LENGTH, WHOLE_BAR, SpokenFact
from valley.lesson.proof._tracks import Tracks

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    Costs = npt.NDArray[np.float64]

# Costs; found by a search over twenty-one talks, each with the marks of a reader that had not seen it.
_SLIP = 1.58
_ON, _AGAIN, _OVER_ONE, _BACK, _IN_BAR, _NEXT_BAR = 0.01, 0.59, 1.09, 2.48, 1.36, 2.08
_AT_ONCE = 0.8  # to another key of the same handful
_LEAP, _LEAP_BETWEEN, _LEAP_TO_PLACE = 7.41, 2.9, 0.65  # within a sentence, between two, to a place that is named
_TURN = 1.15  # to the beginning of the part, where the talk turns to the other hand
_IN_LIST = 1.28  # more for every way but along the line, within a list
_NOT_THERE, _NOT_IN_PART = 2.41, 2.27  # outside the place that is named, outside the part that was named last
_NOT_AT_FIRST = 0.5  # outside the first part: a talk begins at the beginning
_OTHER_HAND, _NOT_LAST_HAND = 0.6, 0.24
_NOTE_FOR_CHORD, _OUTER = 0.86, 0.2
_LATE, _INTO_PART = 0.0125, 0.17  # a beat, at the beginning of a talk, and behind that of a part that was named
_AT_MOST_LATE = 0.6
NOT_SO = dict.fromkeys((LENGTH, BEAT, WHOLE_BAR), 1.3)  # what is said of a name is not so there
_NEVER = 1e9
NOWHERE = 1e6


@dataclass(frozen=True)
class Mention:
    """A name in a sentence.

    ``bars`` and ``part`` are named since the mention before, ``hand`` is named in the sentence; ``last_hand`` and ``last_part`` hold from before;
    ``joined``: it goes on a list; ``turns``: the talk turns to the other hand; ``counted``: its sentence says where it is or tells a change;
    ``of_tune``: the tune is told; ``of_fact``: a fact is told with it; ``several``: it is told as many ("two Ds").
    """

    row: Found
    start: int
    end: int
    bars: tuple[int, ...] = ()
    part: int | None = None
    hand: str | None = None
    last_hand: str | None = None
    last_part: int | None = None
    joined: bool = False
    counted: bool = False
    of_fact: bool = False
    several: bool = False
    facts: tuple[SpokenFact, ...] = ()
    turns: bool = False
    of_tune: bool = False

    @property
    def firm(self) -> bool:
        """Whether more is said of it than its name."""
        return self.counted or self.of_fact or self.several


@dataclass(frozen=True)
class Standing:
    """How much dearer it is to take a name for right than for a slip (below nothing: it is right), what stands there if it is one, and its place if not;
    ``through``: the least cost of all ways through each place."""

    doubt: float
    instead: Item
    meant: int | None
    through: Costs = field(repr=False, compare=False)


def align(tracks: Tracks, mentions: Sequence[Mention], told: Costs | None) -> tuple[list[Standing], Costs | None]:
    """How every name of a sentence stands, with all that was told before it; what is told later changes nothing.

    Parameters
    ----------
    mentions : of one sentence, in their order
    told : what it costs to be at each place after the sentences before, as this function gave it for the last of them; None where there was none

    Returns
    -------
    the standing of every mention, with ``doubt`` ``NOWHERE`` where the name is at no place of the song; and the costs after them
    """
    import numpy as np

    if not mentions or not tracks.items:
        return [], told
    costs = [_cost(tracks, m) for m in mentions]
    forth: list[Costs] = []
    for i, (m, cost) in enumerate(zip(mentions, costs, strict=True)):
        before = forth[-1] if i else told
        came = _first(tracks) if before is None else _move(tracks, before, m, leap=_LEAP if i else _LEAP_BETWEEN, back=False)
        forth.append(cost + came)
    back = np.zeros(len(tracks.items))
    out = []
    for i in range(len(mentions) - 1, -1, -1):
        if i + 1 < len(mentions):
            back = _move(tracks, back + costs[i + 1], mentions[i + 1], leap=_LEAP, back=True)
        through, fits = forth[i] + back, tracks.fits(mentions[i].row)
        slips = np.where(fits, _NEVER, through)
        at = int(np.argmin(slips))
        right = int(np.argmin(np.where(fits, through, _NEVER))) if fits.any() else None
        out.append(Standing(NOWHERE if right is None else float(through[right] - slips[at]), tracks.items[at], right, through))
    return out[::-1], forth[-1] - forth[-1].min()


def _first(tracks: Tracks) -> Costs:
    """What it costs to begin a talk at each place."""
    import numpy as np

    first: Costs = np.minimum(_AT_MOST_LATE, _LATE * tracks.starts) + _NOT_AT_FIRST * (tracks.part != tracks.part.min())
    return first


def _cost(tracks: Tracks, m: Mention) -> Costs:
    """What it costs to take a name for what stands at each place; shape (places,)."""
    import numpy as np

    cost: Costs = np.where(tracks.fits(m.row), 0.0, _SLIP) + _OUTER * tracks.outer
    cost += np.where(tracks.chordal, 0.0, _SLIP) if m.row.is_chord else _NOTE_FOR_CHORD * tracks.chordal
    hand, dear = (m.hand, _OTHER_HAND * (1 + m.of_tune)) if m.hand else (m.last_hand, _NOT_LAST_HAND)
    for other, theirs in tracks.hands.items():
        if hand and other != hand:
            cost += dear * theirs
    if m.bars:
        cost += _NOT_THERE * ((tracks.bar < min(m.bars)) | (tracks.bar > max(m.bars)))
    elif m.part:
        cost += _NOT_THERE * (tracks.part != m.part)
    elif m.last_part:
        cost += _NOT_IN_PART * (tracks.part != m.last_part)
    if m.part:
        cost += np.minimum(_AT_MOST_LATE, _INTO_PART * tracks.into_part)
    for fact in m.facts:
        cost += NOT_SO[fact.kind] * ~tracks.holds(fact)
    return cost


def _move(tracks: Tracks, cost: Costs, after: Mention, *, leap: float, back: bool) -> Costs:
    """The least cost of coming to each place from any other, or of going on from it to any other (``back``)."""
    import numpy as np

    def shifted(by: int) -> Costs:
        """The cost ``by`` places earlier on the same line, later where it is below nothing."""
        steps, same = abs(by), tracks.same[abs(by)]
        out = np.full(len(cost), _NEVER)
        if by > 0:
            out[steps:] = np.where(same[steps:], cost[:-steps], _NEVER)
        else:
            out[:-steps] = np.where(same[steps:], cost[steps:], _NEVER)
        return out

    way = -1 if back else 1
    best = np.minimum(cost + _AGAIN, shifted(way) + _ON)
    best = np.minimum(best, shifted(2 * way) + _OVER_ONE)
    best = np.minimum(best, shifted(3 * way) + 1.5 * _OVER_ONE)
    best = np.minimum(best, shifted(-way) + _BACK)
    bars = tracks.least_of_bars(cost, _NEVER)
    beside = np.concatenate([bars[1:], [_NEVER]]) if back else np.concatenate([[_NEVER], bars[:-1]])
    leap = _LEAP_TO_PLACE if after.bars or after.part else leap
    least: Costs = np.minimum(np.minimum(bars + _IN_BAR, beside + _NEXT_BAR)[tracks.bar], cost.min() + leap)
    least = np.minimum(least, (tracks.least_at_once(cost) + _AT_ONCE)[tracks.stroke])
    if after.turns:
        least = np.minimum(least, _turned(tracks, cost, back=back) + _TURN)
    moved: Costs = np.minimum(best, least + _IN_LIST * after.joined)
    return moved


def _turned(tracks: Tracks, cost: Costs, *, back: bool) -> Costs:
    """The least cost of coming from anywhere in a part to its first bar, or from there to anywhere in it (``back``)."""
    import numpy as np

    leaves, arrives = (tracks.begins, np.ones_like(tracks.begins)) if back else (np.ones_like(tracks.begins), tracks.begins)
    least = np.array([cost[leaves & (tracks.part == part)].min(initial=_NEVER) for part in range(tracks.part.max() + 1)])
    turned: Costs = np.where(arrives, least[tracks.part], _NEVER)
    return turned
