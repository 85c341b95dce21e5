"""The choice of grips over a whole part, by dynamic programming.

Every chord has its style's shapes; the cheapest chain is taken, where cost is what each shape holds against itself (register,
muddy lows, strain, hands too close, chord notes lost or doubled) and what the way from the grip before asks of the fingers.
Least movement with kept common tones is the classical rule of voice leading; see D. Tymoczko, "A Geometry of Music", 2011,
chapter 2, for distance between chords as the least sum of moves. Low-interval limits as in W. Piston, "Orchestration", 1955,
and every arranger's table since.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from valley.arranging.reach import Hand, hand_travel, widest_interval, widest_mm
from valley.arranging.styles import EASIER, FULLER, STANDARD, Hold, Limits, Moment, Shape, Style, ease
from valley.errors import ParameterError
from valley.theory.chord import Chord

Costs = npt.NDArray[np.float32]


@dataclass(frozen=True)
class Weights:
    """What counts how much; one unit is about one semitone moved by one finger."""

    move: float = 1.0  # each semitone a finger travels
    leap: float = 0.6  # each semitone beyond a fourth that a hand's outer finger travels
    kept: float = 1.2  # reward for each key that stays down
    walk: float = 0.0  # reward for a bass that goes by a step
    strain: float = 0.08  # each millimetre beyond comfort
    muddy: float = 1.5  # each close interval in the low register
    low_third: float = 20.0  # each third or second on a key below C3
    cluster: float = 4.0  # each two seconds on top of one another in a hand
    far: float = 0.25  # each semitone outside the hand's usual register
    centre: float = 0.12  # each semitone of the lowest key from the middle of that register, so that every key has its octave
    crowded: float = 2.0  # the hands closer than a third
    lost_third: float = 6.0  # the note that makes the chord major, minor or suspended
    lost_colour: float = 2.0  # a seventh, ninth or sixth
    lost_root: float = 1.5
    lost_fifth: float = 0.4
    doubled: float = 2.0  # a leading tone or a seventh that sounds twice
    thirds: float = 0.3  # a third that sounds twice
    bass_third: float = 1.5  # a third that sounds twice, once as the bass
    keys: float = 0.0  # each key held


USUAL = Weights()
# Below these MIDI numbers an interval of so many semitones or fewer sounds muddy (low-interval limits).
_MUDDY = ((40, 7), (46, 5), (52, 3), (55, 2))
_CLEAR_FROM = max(roof for roof, _ in _MUDDY)  # from here up no interval is muddy
_NO_THIRDS_BELOW = 48
_LEFT_HOME, _RIGHT_HOME = (38, 57), (57, 77)
# An easier version holds few keys and does without fifth and colours; a fuller one likes every key.
_BY_LEVEL: dict[str, dict[str, float]] = {EASIER: {"keys": 0.9, "lost_fifth": 0.0, "lost_colour": 1.0, "lost_root": 0.8}, FULLER: {"keys": -1.0}}
_MOST_LEFT, _MOST_RIGHT, _MOST_SHAPES = 8, 12, 20
_NOBODY = 1e9


def choose_shapes(
    moments: Sequence[Moment],
    style: Style,
    limits: Limits,
    weights: Weights = USUAL,
    *,
    level: str = STANDARD,
    fixed: Mapping[int, Shape] | None = None,
) -> list[Shape]:
    """One shape for every moment, the cheapest chain of all.

    Parameters
    ----------
    level : easier, standard or fuller. An easier chain asks no wider reach of a hand than the standard one at any chord, and no more movement; a fuller
        one holds no fewer keys at any chord.
    fixed : shapes that the creator has set, by the index of their moment; the others are chosen around them

    Raises
    ------
    ParameterError
        a chord that no shape of the style fits on this keyboard and in this hand
    """
    held = tuple(sorted((fixed or {}).items()))
    return list(_choose(tuple(moments), style, limits, weights, level, held))


def weigh(style: Style, level: str, weights: Weights = USUAL) -> Weights:
    """The weights that hold for a style at a level."""
    return replace(weights, **{**_BY_LEVEL.get(level, {}), **dict(style.weights)})


@lru_cache(maxsize=512)
def _choose(moments: tuple[Moment, ...], style: Style, limits: Limits, weights: Weights, level: str, fixed: tuple[tuple[int, Shape], ...]) -> tuple[Shape, ...]:
    if not moments:
        return ()
    settled = dict(fixed)
    plain, weights = weights, weigh(style, level, weights)
    pools = [(settled[i],) if i in settled else pool_shapes(m, style, limits, weights, level) for i, m in enumerate(moments)]
    if level not in (EASIER, FULLER):
        return _cheapest_chain(pools, weights)
    standard = _choose(moments, style, limits, plain, STANDARD, fixed)
    if level == FULLER:
        full = [_no_fewer(pool, usual, moment, limits, weights) for pool, usual, moment in zip(pools, standard, moments, strict=True)]
        return _cheapest_chain([pools[i] if i in settled else pool for i, pool in enumerate(full)], weights)
    own = [
        (settled[i],) if i in settled else _no_wider(pool, usual, moment, limits, weights)
        for i, (pool, usual, moment) in enumerate(zip(pools, standard, moments, strict=True))
    ]
    for stillness in (1.0, 3.0, 9.0):  # a hand that holds less may have to go further: the stiller, the likelier it fits
        easier = _cheapest_chain(own, replace(weights, move=stillness * weights.move, leap=stillness * weights.leap))
        if is_no_harder(easier, standard, limits.hand):
            return easier
    return standard


def measure_effort(shapes: Sequence[Shape], hand: Hand) -> tuple[float, ...]:
    """How hard a chain is: widest reach of either hand in millimetres (from any key), semitones that fingers travel, semitones
    that the hands' outer notes travel, semitones that the left and the right hand as a whole must shift."""
    reach = max((_reach(h) for s in shapes for h in (s.left, s.right)), default=0.0)
    pairs = [(a, b) for x, y in zip(shapes, shapes[1:], strict=False) for a, b in ((x.left, y.left), (x.right, y.right)) if a and b]
    fingers = sum(min(abs(k - j) for j in a) for a, b in pairs for k in b)
    outer = sum(abs(b[0] - a[0]) + abs(b[-1] - a[-1]) for a, b in pairs)
    span = widest_interval(hand)
    return reach, float(fingers), float(outer), float(hand_travel((s.left for s in shapes), span)), float(hand_travel((s.right for s in shapes), span))


def is_no_harder(one: Sequence[Shape], other: Sequence[Shape], hand: Hand) -> bool:
    """Whether a chain asks no more reach and no more movement of a hand than another."""
    return all(a <= b for a, b in zip(measure_effort(one, hand), measure_effort(other, hand), strict=True))


def _reach(notes: tuple[int, ...]) -> float:
    return widest_mm(notes[-1] - notes[0]) if notes else 0.0


def _no_wider(pool: Sequence[Shape], standard: Shape, moment: Moment, limits: Limits, weights: Weights) -> tuple[Shape, ...]:
    """The easier shapes that span no more than the standard one, and what is left of the standard one with fewer notes."""
    left, right = _span(standard.left), _span(standard.right)
    narrow = [s for s in pool if _span(s.left) <= left and _span(s.right) <= right]
    return (*narrow, *(replace(s, cost=s.cost + 1.0) for s in _reduce(standard, moment, limits, weights)))


def _no_fewer(pool: Sequence[Shape], standard: Shape, moment: Moment, limits: Limits, weights: Weights) -> tuple[Shape, ...]:
    """The fuller shapes that hold no fewer keys than the standard one, and the standard one itself."""
    as_rich = [s for s in pool if len(s.left) + len(s.right) >= len(standard.left) + len(standard.right)]
    bare = replace(standard, cost=0.0)
    return (*as_rich, replace(bare, cost=rate_shape(bare, limits, weights, moment.chord)))


def _span(notes: tuple[int, ...]) -> int:
    return notes[-1] - notes[0] if notes else 0


def _reduce(shape: Shape, moment: Moment, limits: Limits, weights: Weights) -> list[Shape]:
    """A shape as it is, without its optional notes, and without the fifth in either hand."""
    fifth = moment.chord.root.up(1).pitch_class
    lefts, rights = {shape.left}, {shape.right}
    for hand, options in ((shape.left, lefts), (shape.right, rights)):
        options.add(tuple(n for n in hand if n not in shape.optional))
        options.add(tuple(n for i, n in enumerate(hand) if n % 12 != fifth or i in (0, len(hand) - 1)))
    out = []
    for left in lefts:
        for right in rights:
            if bool(left) == bool(shape.left) and bool(right) == bool(shape.right):
                bare = Shape(left, right, 0.0, tuple(n for n in shape.optional if n in left or n in right), shape.said)
                out.append(replace(bare, cost=rate_shape(bare, limits, weights, moment.chord)))
    return out


@lru_cache(maxsize=8192)
def pool_shapes(moment: Moment, style: Style, limits: Limits, weights: Weights, level: str) -> tuple[Shape, ...]:
    """The style's shapes for one chord that fit hands and keyboard, the best by their own cost; ``cost`` holds all that counts against it.

    Raises
    ------
    ParameterError
        none fits
    """
    lefts = _holds(style.left(moment, limits, level), limits, moment.chord, _LEFT_HOME, weights, _MOST_LEFT)
    rights = _holds(style.right(moment, limits, level), limits, moment.chord, _RIGHT_HOME, weights, _MOST_RIGHT, tune=moment.melody)
    duties = _duties(moment.chord, weights)
    found: list[Shape] = []
    for lower in lefts:
        for upper in rights:
            if lower.notes and upper.notes and lower.notes[-1] >= upper.notes[0]:
                continue
            cost = lower.cost + upper.cost + _rate_together(lower.notes, upper.notes, duties, weights)
            said = f"{lower.said}, {upper.said}" if lower.said and upper.said else lower.said or upper.said
            found.append(Shape(lower.notes, upper.notes, cost, (*lower.optional, *upper.optional), said))
    if not found:
        raise ParameterError(
            f"{moment.chord.to_symbol()} has no shape in style {style.name!r} for a {limits.hand.name} hand "
            f"in the room that keyboard and camera leave; choose a wider hand, a larger keyboard or frame, or another style"
        )
    return tuple(sorted(found, key=lambda s: (s.cost, s.left, s.right))[:_MOST_SHAPES])


def _holds(holds: object, limits: Limits, chord: Chord, home: tuple[int, int], weights: Weights, most: int, *, tune: int | None = None) -> list[Hold]:
    """One hand's holds with what counts against each, substitutes for what is out of reach, the best of them. The tune is in all of them that had it."""
    best: dict[tuple[int, ...], Hold] = {}
    for hold in holds:  # type: ignore[attr-defined]
        for eased in ease(hold, limits, chord):
            if not limits.inside(eased.notes) or (tune in hold.notes and tune not in eased.notes):
                continue
            cost = eased.cost + _rate_hand(eased.notes, home, limits, weights)
            if eased.notes not in best or best[eased.notes].cost > cost:
                best[eased.notes] = Hold(eased.notes, cost, tuple(n for n in eased.optional if n in eased.notes), eased.said)
    return sorted(best.values(), key=lambda h: h.cost)[:most]


def rate_shape(shape: Shape, limits: Limits, weights: Weights, chord: Chord | None = None) -> float:
    """What a shape costs by itself."""
    cost = sum(_rate_hand(notes, home, limits, weights) for notes, home in ((shape.left, _LEFT_HOME), (shape.right, _RIGHT_HOME)))
    return shape.cost + cost + _rate_together(shape.left, shape.right, _duties(chord, weights) if chord else (), weights)


def _rate_hand(notes: tuple[int, ...], home: tuple[int, int], limits: Limits, weights: Weights) -> float:
    if not notes:
        return 0.0
    away = max(0, home[0] - notes[0]) + max(0, notes[-1] - home[1])
    clusters = sum(c - b <= 2 and b - a <= 2 for a, b, c in zip(notes, notes[1:], notes[2:], strict=False))
    off = abs(notes[0] - (home[0] + home[1]) / 2)
    return weights.cluster * clusters + weights.far * away + weights.centre * off + weights.strain * max(0.0, _reach(notes) - limits.hand.comfort_mm)


@dataclass(frozen=True)
class _Duty:
    """A member of a chord: its pitch class, what its loss costs, what each doubling costs, and whether it is the third."""

    pitch_class: int
    lost: float
    twice: float
    third: bool


def _rate_together(left: tuple[int, ...], right: tuple[int, ...], duties: Sequence[_Duty], weights: Weights) -> float:
    """What the keys of both hands cost as one sound: mud in the bass, hands on top of each other, members lost or doubled."""
    together = left + right
    cost = weights.keys * len(together)
    for a, b in zip(together, together[1:], strict=False):
        if a < _CLEAR_FROM:
            cost += weights.muddy * _mud(a, b - a) + weights.low_third * (a < _NO_THIRDS_BELOW and b - a <= 4)
    if left and right and right[0] - left[-1] < 3:
        cost += weights.crowded
    sounding = [n % 12 for n in together]
    for duty in duties:
        times = sounding.count(duty.pitch_class)
        cost += duty.lost if not times else duty.twice * (times - 1)
    for duty in duties:
        if duty.third and together and sounding[0] == duty.pitch_class and sounding.count(duty.pitch_class) > 1:
            cost += weights.bass_third
    return cost


@lru_cache(maxsize=1 << 10)
def _mud(lower: int, gap: int) -> int:
    """How many of the limits for low intervals two neighbouring keys break."""
    return sum(lower < roof and gap <= narrow for roof, narrow in _MUDDY)


@lru_cache(maxsize=4096)
def _duties(chord: Chord, weights: Weights) -> tuple[_Duty, ...]:
    members = chord.quality.members
    leads = chord.quality.harte in ("7", "9")
    rows = []
    for i in members:
        if i in (4, -3) or (i in (-1, 2) and not {4, -3} & set(members)):
            lost = weights.lost_third
        else:
            lost = {0: weights.lost_root, 1: weights.lost_fifth}.get(i, weights.lost_colour)
        tendency = i in (-2, 5, -9) or (i == 4 and leads)
        twice = weights.doubled if tendency else weights.thirds if i in (4, -3) else 0.0
        rows.append(_Duty(chord.root.up(i).pitch_class, lost, twice, chord.root.up(i).pitch_class == chord.third))
    return tuple(rows)


def _cheapest_chain(pools: Sequence[Sequence[Shape]], weights: Weights) -> tuple[Shape, ...]:
    """Viterbi over the pools. A chord that comes again has the same pool, so every two of them are compared once."""
    if not pools:
        return ()
    by_id = {id(pool): pool for pool in pools}  # they live as long as this runs, so their identity is enough
    distinct, places = list(by_id.values()), {key: i for i, key in enumerate(by_id)}
    place = [places[id(pool)] for pool in pools]
    ways = [_Ways([[getattr(s, side) for s in pool] for pool in distinct], weights, bass=side == "left") for side in ("left", "right")]
    own = [np.array([s.cost for s in pool], dtype=np.float32) for pool in distinct]
    between: dict[tuple[int, int], tuple[Costs, Costs]] = {}
    total = own[place[0]]
    back: list[npt.NDArray[np.intp]] = []
    for before, here in zip(place, place[1:], strict=False):
        if (before, here) not in between:
            between[before, here] = ways[0].between(before, here), ways[1].between(before, here)
        options = total[:, None] + between[before, here][0] + between[before, here][1]
        back.append(options.argmin(axis=0))
        total = options.min(axis=0) + own[here]
    index = int(total.argmin())
    chosen = [index]
    for came in reversed(back):
        index = int(came[index])
        chosen.append(index)
    return tuple(pool[i] for pool, i in zip(pools, reversed(chosen), strict=True))


class _Ways:
    """What one hand's ways cost between every two of its holds: measured once, looked up pool by pool."""

    def __init__(self, pools: Sequence[Sequence[tuple[int, ...]]], weights: Weights, *, bass: bool) -> None:
        holds = tuple(dict.fromkeys(hold for pool in pools for hold in pool))
        places = {hold: i for i, hold in enumerate(holds)}
        self.index = [np.array([places[h] for h in pool]) for pool in pools]
        travelled, beyond, kept, stepped = _measure_ways(holds)
        self.cost = weights.move * travelled + weights.leap * beyond - weights.kept * kept
        if bass and weights.walk:
            self.cost = self.cost - weights.walk * stepped

    def between(self, before: int, after: int) -> Costs:
        """From every hold of one pool to every hold of another."""
        found: Costs = self.cost[self.index[before][:, None], self.index[after][None, :]]
        return found


@lru_cache(maxsize=64)
def _measure_ways(holds: tuple[tuple[int, ...], ...]) -> tuple[Costs, Costs, Costs, Costs]:
    """Between every two holds of a hand: semitones that fingers travel, semitones beyond a fourth that the outer ones go, keys that stay
    down, and whether the lowest note goes by a step. Nothing to or from an empty hand."""
    wide = max((len(h) for h in holds), default=1) or 1
    far = 999  # stands for a finger that holds nothing
    notes = np.array([[*h, *[-far] * (wide - len(h))] for h in holds], dtype=np.int16)
    have = notes > -far
    count = len(holds)
    from_any = np.full((wide, count, count), far, dtype=np.int16)  # for each finger after: to the nearest key before
    to_any = np.full((wide, count, count), far, dtype=np.int16)  # for each finger before: to the nearest key after
    for i in range(wide):
        for j in range(wide):  # small loops over fingers, wide arrays over holds
            gap = np.abs(notes[:, i][:, None] - notes[:, j][None, :])
            gap[~(have[:, i][:, None] & have[:, j][None, :])] = far
            np.minimum(from_any[j], gap, out=from_any[j])
            np.minimum(to_any[i], gap, out=to_any[i])
    kept = (from_any == 0).sum(axis=0)
    arrive = np.where(have.T[:, None, :], from_any, 0).sum(axis=0)
    leave = np.where(have.T[:, :, None], to_any, 0).sum(axis=0)
    first = np.array([h[0] if h else 0 for h in holds], dtype=np.float32)
    last = np.array([h[-1] if h else 0 for h in holds], dtype=np.float32)
    lowest = np.abs(first[:, None] - first[None, :])
    outer = np.maximum(lowest, np.abs(last[:, None] - last[None, :]))
    filled = np.array([bool(h) for h in holds])
    both = (filled[:, None] & filled[None, :]).astype(np.float32)
    stepped = (lowest == 1) | (lowest == 2)
    return both * (arrive + 0.5 * leave) / 1.5, both * np.maximum(0, outer - 5), both * kept, both * stepped


def rate_move(before: Shape, after: Shape, weights: Weights = USUAL) -> float:
    """What the way from one shape to the next costs."""
    return sum(float(_Ways([[getattr(before, side)], [getattr(after, side)]], weights, bass=side == "left").between(0, 1)[0, 0]) for side in ("left", "right"))
