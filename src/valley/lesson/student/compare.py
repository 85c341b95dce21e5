"""What a learner plays, held against what is to be played."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

from valley.fraction import Fraction
from valley.lesson.student.learner import HANDS, Heard
from valley.model.arrangement import Arrangement
from valley.model.chart import Grid


@dataclass(frozen=True)
class Untold:
    """A bar in which a hand plays otherwise than it should: keys that nobody tells, and keys told that are not to be played."""

    hand: str
    bar: int
    missing: tuple[int, ...]
    wrong: tuple[int, ...]


def compare_hands(heard: Heard, arrangement: Arrangement, grid: Grid, parts: Iterable[int]) -> tuple[Untold, ...]:
    """Every bar of the taught ``parts`` in which the words and the notes differ, by hand, key and count.

    A note whose count was not said (it lies between two anchors) is right wherever its key is played in its bar and at no count that was said.
    """
    wanted: dict[tuple[str, int], Counter[tuple[Fraction, int, bool]]] = {}
    bars: set[int] = set()
    for number in parts:
        for n in arrangement.of_part(number).notes:
            bar, at = grid.place(n.start)
            wanted.setdefault((n.hand, bar), Counter())[at, n.midi, n.grace] += 1
            bars.add(bar)
    found = []
    for hand in HANDS:
        for bar in sorted(bars | set(heard.played[hand])):
            missing, wrong = _differ(wanted.get((hand, bar), Counter()), heard.played[hand].get(bar, ()))
            if missing or wrong:
                found.append(Untold(hand, bar, missing, wrong))
    return tuple(found)


def _differ(wanted: Counter[tuple[Fraction, int, bool]], told: Iterable[tuple[Fraction | None, int, bool]]) -> tuple[tuple[int, ...], tuple[int, ...]]:
    told = list(told)
    rest = wanted - Counter((at, key, grace) for at, key, grace in told if at is not None)
    extra = list((Counter((at, key, grace) for at, key, grace in told if at is not None) - wanted).elements())
    loose = Counter((key, grace) for at, key, grace in told if at is None)
    missing = []
    for _, key, grace in rest.elements():
        if loose[key, grace]:
            loose[key, grace] -= 1
        else:
            missing.append(key)
    return tuple(missing), (*[key for _, key, _ in extra], *[key for key, _ in loose.elements()])
