"""What a learner knows at a point of the lesson: bars and grips of each hand, by what was told so far."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from valley.lesson.telling.hand_bars import Bar, is_moved, moved_by
from valley.model.arrangement import HANDS

_LEAST_ALIKE = 2  # strokes: fewer are sooner told again
_LEAST_MOVED = 3  # strokes: fewer are sooner told than moved in the head


@dataclass
class Memory:
    """``bars``: bars told, by hand; ``grips``: the last grip told under a chord's name, by hand; ``told``: what needs telling once only."""

    bars: dict[str, dict[int, Bar]] = field(default_factory=lambda: {hand: {} for hand in HANDS})
    grips: dict[str, dict[str, tuple[int, ...]]] = field(default_factory=lambda: {hand: {} for hand in HANDS})
    told: set[str] = field(default_factory=set)

    def first_time(self, what: str) -> bool:
        """Whether it was not told yet; it is from now on."""
        new = what not in self.told
        self.told.add(what)
        return new


@dataclass(frozen=True)
class Likeness:
    """Bars from ``first`` to ``last`` are like those from ``model`` on, ``moved`` so many half steps; ``each``: every one of them like that single bar."""

    first: int
    last: int
    model: int
    moved: int = 0
    each: bool = False


def find_likeness(bars: Mapping[int, Bar], wanted: list[int], known: Mapping[int, Bar], meters: Mapping[int, str]) -> Likeness | None:
    """The longest run of wanted bars, from the first of them on, that a learner knows already; None where the first is new.

    ``meters`` is the metre of each bar: bars of other metres are never alike. Rests are told as such.
    """
    first = wanted[0]
    if not bars[first]:
        return None
    run = [n for i, n in enumerate(wanted) if n == first + i]
    candidates = [n for n in known if n >= 1 and known[n] and meters.get(n) == meters[first]]
    best: Likeness | None = None
    for start in candidates:
        moved = moved_by(known[start], bars[first]) or 0
        length = _alike(bars, run, known, meters, start, moved)
        if sum(len(bars[first + i]) for i in range(length)) < (_LEAST_MOVED if moved else _LEAST_ALIKE):
            continue
        if best is None or _worth(length, moved, start) > _worth(best.last - best.first + 1, best.moved, best.model):
            best = Likeness(first, first + length - 1, start, moved)
    same = next((n for n in candidates if known[n] == bars[first]), None)
    if same is not None:
        row = 0
        while row < len(run) and bars[run[row]] == bars[first] and meters[run[row]] == meters[first]:
            row += 1
        if row > 1 and (best is None or row >= best.last - best.first + 1):
            return Likeness(first, first + row - 1, same, each=True)
    return best


def _worth(length: int, moved: int, start: int) -> tuple[int, bool, int]:
    return length, moved == 0, -start


def _alike(bars: Mapping[int, Bar], run: list[int], known: Mapping[int, Bar], meters: Mapping[int, str], start: int, moved: int) -> int:
    length = 0
    for i, bar in enumerate(run):
        model = known.get(start + i)
        if start + i >= run[0] or model is None or meters.get(start + i) != meters[bar]:
            break
        if not is_moved(model, bars[bar], moved):
            break
        length += 1
    return length
