"""Which finger takes which key, by an ergonomic cost model.

The hand is thought of in its five-finger position, one white key a finger; every pair of neighbouring fingers resents being
spread or squeezed by the square of its distance in white-key widths (physical distances: J. P. Jacobs, "Refinements to the
Ergonomic Model for Keyboard Fingering", Music Perception 18, 2001). Thumbs pass under the third and fourth finger, gladly from
black to white, and shun black keys; weak fingers and leaps cost (rules after R. Parncutt, J. Sloboda, E. Clarke, M. Raekallio &
P. Desain, "An Ergonomic Model of Keyboard Fingering for Melodic Fragments", Music Perception 14, 1997). The cheapest fingering
of a line is found by dynamic programming. A run that repeats at the octave is fingered as if it went on in both directions,
and begins with the thumb where its first key is white: the model then gives the standard fingerings of scales and arpeggios.

A left hand is computed as a right hand on the mirrored keyboard.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import combinations
from typing import Final

from valley.arranging.reach import HANDS, WHITE_MM, Hand, key_place_mm
from valley.errors import ParameterError
from valley.theory.pitch import BLACK_KEYS

_REFERENCE_MM: Final = HANDS["medium"].most_mm
# How much each pair of fingers minds being spread by one white key's width, squared; the thumb is free.
_PAIR: Final = {
    (1, 2): 0.3,
    (1, 3): 0.3,
    (1, 4): 0.3,
    (1, 5): 0.3,
    (2, 3): 1.05,
    (2, 4): 1.0,
    (2, 5): 1.0,
    (3, 4): 1.2,
    (3, 5): 1.0,
    (4, 5): 1.0,
}
_SLACK: Final = 0.4
_THUMB_ON_BLACK, _FIFTH_ON_BLACK = 4.0, 1.0
_WEAK = {4: 0.03, 5: 0.25}
_PASS, _PASS_FROM_WHITE, _PASS_TO_BLACK = 1.5, 1.3, 5.0
_LEAP, _CROWD, _SUBSTITUTE = 7.0, 9.0, 1.5
_FAR = 7.5  # white keys; beyond it the hand moves as a whole
_EARLY = 0.1  # for each note by which a run's thumb passes later than it could
_BEGIN = 3.0  # not beginning a run with the thumb although its first key is white


def finger_grip(notes: Sequence[int], hand_side: str, hand: Hand = HANDS["medium"]) -> tuple[int, ...]:
    """Fingers of notes held together, from the lowest note up; 1 is the thumb.

    >>> finger_grip([60, 64, 67], "right"), finger_grip([55, 60, 64], "left")
    ((1, 3, 5), (5, 2, 1))
    """
    keys = tuple(notes)
    if len(keys) > 5 or list(keys) != sorted(set(keys)):
        raise ParameterError(f"notes={list(notes)} must ascend and be five at most for one hand")
    if not hand.fingers_mm and (taught := _taught(keys, hand_side)):
        return taught
    if hand_side == "left":
        return tuple(reversed(_grip(tuple(_mirror(n) for n in reversed(keys)), hand)))
    return _grip(keys, hand)


_THIRD, _FOURTH = (3, 4), (5, 6)
# Close chords as every teacher fingers them, by the size of their steps from the bottom up: right hand, left hand.
_TAUGHT: Final = (
    ((_THIRD, _THIRD), (1, 3, 5), (5, 3, 1)),
    ((_THIRD, _FOURTH), (1, 2, 5), (5, 3, 1)),
    ((_FOURTH, _THIRD), (1, 3, 5), (5, 2, 1)),
    ((_THIRD, _THIRD, _THIRD), (1, 2, 3, 5), (5, 3, 2, 1)),
)


@lru_cache(maxsize=1 << 14)
def _taught(keys: tuple[int, ...], hand_side: str) -> tuple[int, ...] | None:
    steps = [b - a for a, b in zip(keys, keys[1:], strict=False)]
    for sizes, right, left in _TAUGHT:
        if len(sizes) == len(steps) and all(step in size for step, size in zip(steps, sizes, strict=True)):
            return right if hand_side == "right" else left
    return None


def finger_line(notes: Sequence[int], hand_side: str, hand: Hand = HANDS["medium"]) -> tuple[int, ...]:
    """Fingers of notes played one after the other.

    >>> finger_line([60, 62, 64, 65, 67, 69, 71, 72], "right")
    (1, 2, 3, 1, 2, 3, 4, 5)
    """
    if not notes:
        return ()
    keys = [_mirror(n) for n in notes] if hand_side == "left" else list(notes)
    rising = all(b > a for a, b in zip(keys, keys[1:], strict=False))
    falling = all(b < a for a, b in zip(keys, keys[1:], strict=False))
    if len(keys) > 2 and falling:  # the fingers of a run are the same up and down
        return tuple(reversed(_run(tuple(reversed(keys)), hand)))
    return _run(tuple(keys), hand) if rising and len(keys) > 2 else _line(tuple(keys), hand)


def _mirror(midi: int) -> int:
    """The key at the same place on the mirrored keyboard: D and G sharp are its mirrors' axes."""
    return 124 - midi


@lru_cache(maxsize=1 << 14)
def _place(midi: int) -> float:
    return key_place_mm(midi) / WHITE_MM


def _black(midi: int) -> bool:
    return midi % 12 in BLACK_KEYS


@lru_cache(maxsize=1 << 14)
def _grip(keys: tuple[int, ...], hand: Hand) -> tuple[int, ...]:
    scale = _REFERENCE_MM / hand.most_mm

    def cost(fingers: tuple[int, ...]) -> float:
        spread = sum(_spread(a, b, _place(y) - _place(x), scale) for a, b, x, y in zip(fingers, fingers[1:], keys, keys[1:], strict=False))
        held = list(zip(fingers, keys, strict=True))
        reach = sum(max(0.0, (_place(y) - _place(x)) * WHITE_MM - _span(a, b, hand)) for (a, x), (b, y) in combinations(held, 2))
        alone = len(keys) == 1 and fingers[0] in (4, 5)
        mixed = any(not _black(k) for k in keys)
        return spread + reach + alone + sum(_own(f, k, in_grip=True) for f, k in zip(fingers, keys, strict=True) if mixed or f != 1)

    return min(combinations((1, 2, 3, 4, 5), len(keys)), key=cost)


# The widest that two fingers other than the thumb are asked for, in half steps, where thumb and fifth finger take fifteen (Parncutt et al. 1997, table 1).
_WIDEST: Final = {(2, 3): 5, (2, 4): 7, (2, 5): 10, (3, 4): 4, (3, 5): 7, (4, 5): 5}


def _span(lower: int, upper: int, hand: Hand) -> float:
    """The widest span of two fingers, in millimetres."""
    return hand.spans_mm[upper - 2] if lower == 1 else hand.most_mm * _WIDEST[lower, upper] / 15


def _own(finger: int, key: int, *, in_grip: bool = False) -> float:
    cost = _WEAK.get(finger, 0.0)
    if _black(key):
        cost += {1: _THUMB_ON_BLACK, 5: _FIFTH_ON_BLACK}.get(finger, 0.0) * (0.1 if in_grip else 1.0)
    return cost


@lru_cache(maxsize=1 << 14)
def _spread(lower: int, upper: int, distance: float, scale: float) -> float:
    """What two fingers in order mind about keys so many white widths apart; the wider hand minds less."""
    off = abs(distance - (upper - lower)) * (scale if distance > upper - lower else 1.0)
    off = max(0.0, off - (_SLACK if distance < 1.9 else 0.0))  # steps fit any hand, black keys or white
    return _PAIR[lower, upper] * off * off


def _step(before: int, after: int, x: int, y: int, scale: float) -> float:
    """Cost of going from key ``x`` under one finger to key ``y`` under another."""
    if x == y:
        return 0.0 if before == after else _SUBSTITUTE
    low, high, lower, upper = (before, after, x, y) if y > x else (after, before, y, x)
    distance = _place(upper) - _place(lower)
    if low == high:
        return _CROWD if distance < _FAR else _LEAP
    if high > low:
        return min(_spread(low, high, distance, scale), _LEAP + 2.0)
    if high != 1 or low == 5:  # only the thumb goes under, and not under the fifth finger
        return _CROWD + _LEAP * (distance < _FAR)
    from_black, to_black = _black(lower), _black(upper)
    cost = _PASS + 0.4 * max(0.0, distance - 1) ** 2 * scale + (0.0 if from_black else _PASS_FROM_WHITE) + _PASS_TO_BLACK * (to_black and not from_black)
    if low == 4:
        cost += max(0.33 if from_black else 0.5, 2.5 * (distance - 1.7))
    elif low == 2:
        cost += 2.0
    return min(cost, _LEAP + 3.0)


@lru_cache(maxsize=1 << 12)
def _line(keys: tuple[int, ...], hand: Hand, thumb_at: tuple[int, ...] = (), period: int = 0) -> tuple[int, ...]:
    """The cheapest fingering. ``thumb_at`` are places that should have the thumb; ``period`` breaks ties the same way in every octave."""
    scale = _REFERENCE_MM / hand.most_mm
    fingers = (1, 2, 3, 4, 5)
    total = {f: _own(f, keys[0]) + _begin(0, f, thumb_at) for f in fingers}
    back: list[dict[int, int]] = []
    for i in range(1, len(keys)):
        came, now = {}, {}
        for f in fingers:
            tie = _EARLY * ((i % period) if period and f == 1 else 0)
            best = min(fingers, key=lambda g: total[g] + _step(g, f, keys[i - 1], keys[i], scale))
            came[f] = best
            now[f] = total[best] + _step(best, f, keys[i - 1], keys[i], scale) + _own(f, keys[i]) + _begin(i, f, thumb_at) + tie
        back.append(came)
        total = now
    finger = min(total, key=total.__getitem__)
    chosen = [finger]
    for came in reversed(back):
        finger = came[finger]
        chosen.append(finger)
    return tuple(reversed(chosen))


def _begin(index: int, finger: int, thumb_at: tuple[int, ...]) -> float:
    return _BEGIN if index in thumb_at and finger != 1 else 0.0


@lru_cache(maxsize=1 << 12)
def _run(keys: tuple[int, ...], hand: Hand) -> tuple[int, ...]:
    """A rising run. One that repeats at the octave is fingered as a piece of its endless continuation."""
    period = next((p for p in range(3, 8) if len(keys) > p and all(keys[i + p] == keys[i] + 12 for i in range(len(keys) - p))), 0)
    if not period:
        return _line(keys, hand)
    around = 2  # octaves on either side
    octave = [k - keys[0] for k in keys[:period]]
    count = (len(keys) + 2 * around * period) // period + 1
    endless = [keys[0] + 12 * (o - around) + step for o in range(count) for step in octave]
    first = around * period
    white_start = not _black(keys[0]) or all(_black(k) for k in keys)
    thumbs = tuple(range(0, len(endless), period)) if white_start else ()
    fingers = list(_line(tuple(endless), hand, thumbs, period)[first : first + len(keys)])
    if fingers[-1] == 1 and 2 < fingers[-2] < 5:  # the top note needs no thumb: the next finger is there already
        fingers[-1] = fingers[-2] + 1 if period == 7 else 5
    return tuple(fingers)
