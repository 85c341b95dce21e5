"""Played time set on the counts: straight, in triplets or swung, as strongly as the creator wants.

Every beat takes the division that its strokes lie nearest to, simple ones first: E. Cambouropoulos, "From MIDI to Traditional Musical Notation",
AAAI workshop 2000.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import sqrt
from typing import Final, Literal

from valley.arranging.two_hands import Stroke
from valley.errors import ParameterError
from valley.fraction import Fraction

Feel = Literal["auto", "straight", "triplet", "swing"]
FEELS: Final = ("auto", "straight", "triplet", "swing")
_SIMPLER: Final = 0.035  # of a beat: what a finer division must be nearer by
_SHORTEST: Final = Fraction(1, 8)
_RESOLUTION: Final = 192  # to the beat, where the played time is kept in part


def set_on_grid(strokes: Sequence[Stroke], *, feel: Feel = "auto", finest: int = 4, strength: float = 1.0, compound: bool = False) -> tuple[Stroke, ...]:
    """The strokes on the counts, in order.

    Parameters
    ----------
    strokes : in beats, as they were played
    feel : the divisions a beat may have: halves and quarters, thirds, long-short thirds, or whichever each beat lies nearest to
    finest : parts of a beat that are told apart, 1, 2 or 4 (of a third of it where the beat divides by three)
    strength : 1 sets every stroke on its count, 0 leaves it where it was played
    compound : the beat divides by three

    Raises
    ------
    ParameterError
        an unknown feel, a strength outside 0 to 1
    """
    if feel not in FEELS or not 0 <= strength <= 1 or finest not in (1, 2, 4):
        raise ParameterError(f"feel={feel!r}, strength={strength}, finest={finest}: feel is one of {', '.join(FEELS)}, strength 0 to 1, finest 1, 2 or 4")
    grids = _divisions(feel, finest, compound)
    by_beat: dict[int, list[Fraction]] = {}
    for s in strokes:
        by_beat.setdefault(int(s.start // 1), []).append(s.start % 1)
    chosen = {beat: min(grids, key=lambda g: _strain(g, places)) for beat, places in by_beat.items()}
    out: dict[tuple[Fraction, int], Stroke] = {}
    for s in sorted(strokes, key=lambda s: (s.start, s.midi)):
        grid = chosen[int(s.start // 1)]
        start = _blend(s.start, _snap(s.start, grid), strength)
        end = _blend(s.end, _snap(s.end, grid), strength)
        step = grid[1] if len(grid) > 1 else Fraction(1)
        placed = replace(s, start=max(start, Fraction(0)), duration=max(end - start, min(step, Fraction(1, 2)), _SHORTEST))
        before = out.get((placed.start, s.midi))
        if before is None or before.duration < placed.duration:
            out[placed.start, s.midi] = placed
    return _lift(sorted(out.values(), key=lambda s: (s.start, s.midi)))


def _divisions(feel: Feel, finest: int, compound: bool) -> list[tuple[Fraction, ...]]:
    """Places in a beat, the simplest first."""
    straight = [tuple(Fraction(k, n) for k in range(n)) for n in (1, 2, 4) if n <= finest]
    thirds = [tuple(Fraction(k, 3) for k in range(3))]
    swing = [(Fraction(0), Fraction(2, 3))]
    if compound:
        return [*thirds, *([tuple(Fraction(k, 6) for k in range(6))] if finest > 1 else [])]
    return {"straight": straight, "triplet": [straight[0], *thirds], "swing": [straight[0], *swing], "auto": [*straight, *thirds]}[feel]


def _strain(grid: Sequence[Fraction], places: Sequence[Fraction]) -> float:
    """How far strokes lie from a division, and how fine it is; more than half a step is as far as the next beat."""
    off = sum(min(abs(float(p - g)) for g in (*grid, Fraction(1))) for p in places)
    return off / len(places) + _SIMPLER * sqrt(len(grid) - 1)


def _snap(beat: Fraction, grid: Sequence[Fraction]) -> Fraction:
    whole = beat // 1
    return min((whole + g for g in (*grid, Fraction(1))), key=lambda place: (abs(place - beat), place))


def _blend(played: Fraction, count: Fraction, strength: float) -> Fraction:
    if strength == 1:
        return count
    return Fraction(round((float(played) + strength * float(count - played)) * _RESOLUTION), _RESOLUTION)


def _lift(strokes: Sequence[Stroke]) -> tuple[Stroke, ...]:
    """No key is down when it is struck again."""
    out = []
    after: dict[int, Fraction] = {}
    for s in reversed(strokes):
        again = after.get(s.midi)
        out.append(replace(s, duration=again - s.start) if again is not None and again < s.end else s)
        after[s.midi] = s.start
    return tuple(reversed(out))
