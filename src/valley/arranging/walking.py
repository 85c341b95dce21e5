"""A bass that walks: from one bass to the next by scale steps and chord notes, the cheapest line of all.

What bass players are taught – chord notes on the strong beats, steps between them, the last note a step from where the line goes – as costs, and
the best line by dynamic programming; see R. Brown, "Ray Brown's Bass Method", 1963, for the rules.
"""

from __future__ import annotations

from collections.abc import Sequence

from valley.theory.chord import Chord
from valley.theory.key import Key

_LEAPS = ((2, 0.0), (4, 0.6), (7, 1.2), (12, 2.6))  # half steps, cost up to there
_SAME, _FAR = 6.0, 9.0
_FOREIGN_ON_STRONG, _FOREIGN, _NO_LEADING, _CHROMATIC, _TURN = 1.2, 0.3, 3.0, 0.7, 0.15


def walk_line(start: int, goal: int | None, count: int, chord: Chord, key: Key, lowest: int, highest: int) -> list[int]:
    """So many keys that lead from a bass to the next.

    Parameters
    ----------
    start : MIDI number of the bass that was struck
    goal : of the bass that comes; None where nothing follows
    count : of keys between them
    chord, key : that hold meanwhile
    lowest, highest : MIDI numbers that the line keeps within

    >>> from valley.theory.chord import parse_symbol
    >>> walk_line(48, 53, 3, parse_symbol("C"), Key.of("C", "major"), 36, 60)
    [50, 52, 55]
    """
    if count < 1:
        return []
    members = chord.pitch_classes()
    scale = {n.pitch_class for n in key.scale()} | members
    near = range(max(lowest, start - 12), min(highest, start + 12) + 1)
    inside = [m for m in near if m % 12 in scale] or [start]
    leading = [goal - 1, goal + 1] if goal is not None else []
    best: list[dict[int, tuple[float, tuple[int, ...]]]] = [{start: (0.0, ())}]
    for place in range(count):
        last = place == count - 1
        row: dict[int, tuple[float, tuple[int, ...]]] = {}
        for midi in sorted({*inside, *(m for m in leading if last and m in near)}):
            own = _own(midi, place, members, scale, goal if last else None, last=last)
            options = [(cost + own + _way((start, *line), midi), (*line, midi)) for cost, line in best[-1].values()]
            row[midi] = min(options)
        best.append(row)
    return list(min(best[-1].values())[1])


def _own(midi: int, place: int, members: frozenset[int], scale: set[int], goal: int | None, *, last: bool) -> float:
    cost = 0.0
    if midi % 12 not in members:
        cost += _FOREIGN_ON_STRONG if place % 2 else _FOREIGN  # the first key of a line falls on the second beat
    if midi % 12 not in scale:
        cost += _CHROMATIC
    if last and goal is not None:
        cost += {0: _SAME, 1: 0.0, 2: 0.0}.get(abs(midi - goal), _NO_LEADING)
    return cost


def _way(line: Sequence[int], midi: int) -> float:
    gap = abs(midi - line[-1])
    cost = _SAME if gap == 0 else next((c for most, c in _LEAPS if gap <= most), _FAR)
    turns = len(line) > 1 and (line[-1] - line[-2]) * (midi - line[-1]) < 0
    return cost + _TURN * turns
