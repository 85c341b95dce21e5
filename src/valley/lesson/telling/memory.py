"""What a learner knows at a point of the lesson: bars and grips of each hand, by what was told so far."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from valley.fraction import Fraction
from valley.lesson.telling.hand_bars import Bar, base_of, is_moved, mark_of
from valley.model.arrangement import HANDS

_LEAST_ALIKE = 2  # strokes: fewer are sooner told again
_LEAST_MOVED = 3  # strokes: fewer are sooner told than moved in the head


class KnownBars(dict[int, Bar]):
    """Bars by their numbers, that tells those of a shape without looking at all of them."""

    def __init__(self) -> None:
        super().__init__()
        self._marked: defaultdict[int, dict[int, None]] = defaultdict(dict)

    def __setitem__(self, number: int, bar: Bar) -> None:
        if number in self:
            self._marked[mark_of(self[number])].pop(number, None)
        super().__setitem__(number, bar)
        self._marked[mark_of(bar)][number] = None

    def shaped_like(self, bar: Bar) -> Iterable[int]:
        """The numbers of bars that may be this one, wherever it lies, the first known first."""
        return tuple(self._marked.get(mark_of(bar), ()))


Held = frozenset[tuple[Fraction, int]]
"""Strokes of a bar whose keys stay down under others: (beats into the bar, half steps above its first key)."""


@dataclass
class Memory:
    """``bars``: bars told, by hand; ``grips``: the last grip told under a chord's name, by hand; ``told``: what needs telling once only."""

    bars: dict[str, KnownBars] = field(default_factory=lambda: {hand: KnownBars() for hand in HANDS})
    grips: dict[str, dict[str, tuple[int, ...]]] = field(default_factory=lambda: {hand: {} for hand in HANDS})
    told: set[str] = field(default_factory=set)
    holds: dict[str, set[tuple[int, Held]]] = field(default_factory=lambda: {hand: set() for hand in HANDS})

    def holds_anew(self, hand: str, bar: Bar, held: Held) -> bool:
        """Whether no bar of this shape was told yet whose keys are held in the same way; from now on one was."""
        mark = (mark_of(bar), held)
        new = mark not in self.holds[hand]
        self.holds[hand].add(mark)
        return new

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


def find_likeness(bars: Mapping[int, Bar], wanted: list[int], known: KnownBars, meters: Sequence[str]) -> Likeness | None:
    """The longest run of wanted bars, from the first of them on, that a learner knows already; None where the first is new.

    ``meters`` names the metre of each bar: bars of other metres are never alike. Rests are told as such.
    """
    first = wanted[0]
    if not bars[first]:
        return None
    run = [n for i, n in enumerate(wanted) if n == first + i]
    candidates = [n for n in known.shaped_like(bars[first]) if n >= 1 and meters[n] == meters[first]]
    # In the order in which of two equally long runs the first is the better one: after it only a longer one counts.
    moves = sorted(((base_of(bars[first]) - base_of(known[n]), n) for n in candidates), key=lambda row: (row[0] != 0, row[1]))
    best: Likeness | None = None
    length = 0
    for moved, start in moves:
        if length == len(run):
            break
        if length and not _is_alike(bars, run, known, meters, start, moved, length):
            continue
        found = _alike(bars, run, known, meters, start, moved)
        if found > length and sum(len(bars[first + i]) for i in range(found)) >= (_LEAST_MOVED if moved else _LEAST_ALIKE):
            best, length = Likeness(first, first + found - 1, start, moved), found
    same = next((n for n in candidates if known[n] == bars[first]), None)
    if same is not None:
        row = 0
        while row < len(run) and bars[run[row]] == bars[first] and meters[run[row]] == meters[first]:
            row += 1
        if row > 1 and (best is None or row >= best.last - best.first + 1):
            return Likeness(first, first + row - 1, same, each=True)
    return best


def _alike(bars: Mapping[int, Bar], run: Sequence[int], known: Mapping[int, Bar], meters: Sequence[str], start: int, moved: int) -> int:
    """How many bars of the run are those from ``start`` on."""
    length = 0
    while length < len(run) and _is_alike(bars, run, known, meters, start, moved, length):
        length += 1
    return length


def _is_alike(bars: Mapping[int, Bar], run: Sequence[int], known: Mapping[int, Bar], meters: Sequence[str], start: int, moved: int, at: int) -> bool:
    there, bar = start + at, run[at]
    model = known.get(there)
    return model is not None and there < run[0] and meters[there] == meters[bar] and is_moved(model, bars[bar], moved)
