"""What a change of the hands is good for, in a few words for the logbook: measured from what the hands play before and after it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from valley.fraction import Fraction
from valley.model.arrangement import Arrangement, Grip
from valley.model.chart import Chart

_STILLER: Final = 2  # half steps of all fingers that are worth a word
_SMALLER: Final = 8.0  # mm of reach
_CLOSE: Final = 2  # half steps between the hands


def find_changed(before: Arrangement, after: Arrangement) -> tuple[Fraction, ...]:
    """Starts of the grips whose keys are others than before."""
    old = {g.start: _keys(g) for p in before.parts for g in p.grips}
    return tuple(g.start for p in after.parts for g in p.grips if g.start in old and old[g.start] != _keys(g))


def explain_change(chart: Chart, before: Arrangement, after: Arrangement) -> str:
    """The strongest reasons for a change of grips, or an empty text where none can be measured: "to keep the hand still (5 half steps less)".

    All changed grips are taken together; a change that makes one thing better and another worse says only what is better.
    """
    changed = set(find_changed(before, after))
    if not changed:
        return ""
    old, new = _line(before), _line(after)
    pairs = [(old[i], new[i]) for i in range(min(len(old), len(new))) if new[i].start in changed]
    reasons = []
    stiller = _travel(old) - _travel(new)
    if stiller >= _STILLER:
        reasons.append(f"to keep the hands still ({stiller} half steps less to move)")
    reach = max(max(o.reach_left_mm, o.reach_right_mm) for o, _ in pairs) - max(max(n.reach_left_mm, n.reach_right_mm) for _, n in pairs)
    if reach >= _SMALLER:
        reasons.append(f"for a smaller stretch ({reach:.0f} mm less)")
    if any(_gap(o) <= _CLOSE < _gap(n) for o, n in pairs):
        reasons.append("so that the hands do not run into each other")
    if any(_tune_on_top(chart, n) and not _tune_on_top(chart, o) for o, n in pairs):
        reasons.append("to have the tune on top")
    if not reasons:
        more = sum(len(n.notes) - len(o.notes) for o, n in pairs)
        if more:
            reasons.append("for a fuller sound" if more > 0 else "to make it lighter")
        elif all(_middle(n) < _middle(o) - 2 for o, n in pairs):
            reasons.append("for a deeper sound")
        elif all(_middle(n) > _middle(o) + 2 for o, n in pairs):
            reasons.append("for a brighter sound")
    return " and ".join(reasons[:2])


def _keys(grip: Grip) -> tuple[tuple[int, ...], tuple[int, ...]]:
    return tuple(n.midi for n in grip.left), tuple(n.midi for n in grip.right)


def _line(arrangement: Arrangement) -> list[Grip]:
    return [g for p in arrangement.parts for g in p.grips]


def _travel(grips: Sequence[Grip]) -> int:
    """Half steps that all fingers go, from grip to grip, each to the nearest key of the hand before."""
    total = 0
    for one, two in zip(grips, grips[1:], strict=False):
        for a, b in zip(_keys(one), _keys(two), strict=True):
            total += sum(min((abs(k - j) for j in a), default=0) for k in b)
    return total


def _gap(grip: Grip) -> int:
    left, right = _keys(grip)
    return right[0] - left[-1] if left and right else 99


def _middle(grip: Grip) -> float:
    return sum(n.midi for n in grip.notes) / max(1, len(grip.notes))


def _tune_on_top(chart: Chart, grip: Grip) -> bool:
    tune = next((n for n in chart.melody if n.start <= grip.start < n.start + n.duration), None)
    return bool(tune and grip.right and grip.right[-1].midi % 12 == tune.midi % 12)
