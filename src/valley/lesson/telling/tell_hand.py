"""One hand of a part as lines, and what a learner knows afterwards."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from valley.fraction import Fraction
from valley.lesson.telling.figures import Rule, Slot, find_rules
from valley.lesson.telling.hand_bars import Struck
from valley.lesson.telling.holds import tell_holds
from valley.lesson.telling.memory import Memory, find_likeness
from valley.lesson.telling.tell_bars import HandTold, tell_bars
from valley.lesson.telling.tell_rules import bars_covered, notes_between, tell_blocks, tell_elsewhere, tell_figure, tell_grips
from valley.model.arrangement import PlayedNote
from valley.model.lesson import Line
from valley.model.saying import say

_LEAST_COVERED = 0.5  # of the bars: below it they are told one by one


@dataclass(frozen=True)
class HandLines:
    """``keys``: what is learned first; ``figures``: what is made of it, where that is another thing than blocks."""

    keys: tuple[Line, ...]
    figures: tuple[Line, ...] = ()
    progression: bool = False  # the lines speak of "each chord"


@dataclass(frozen=True)
class Manner:
    """How lines are told. ``blocks_first``: figures come later; ``fingers`` and ``ways`` are said of new grips."""

    blocks_first: bool = True
    fingers: str = "unusual"  # "all", "unusual" or ""
    ways: str = "short"  # "all", "short" for those that say more than the keys do, or ""


@dataclass(frozen=True)
class ChordTold:
    """A chord by the name under which it is known, where it begins, how long it lasts, and what a figure may strike in it (pitch classes)."""

    name: str
    start: Fraction
    duration: Fraction
    members: frozenset[int]


@dataclass(frozen=True)
class Stretch:
    """What is to be told: bars, and the chords in them."""

    bars: tuple[int, ...]
    chords: tuple[ChordTold, ...] = ()


def slots_of(told: HandTold, stretch: Stretch) -> tuple[list[Slot], list[Slot]]:
    """The chords under this hand, and those of them that can stand under a figure: without the tune, and without keys that only lead elsewhere."""
    slots, playable = [], []
    for chord in stretch.chords:
        struck: dict[Fraction, list[PlayedNote]] = {}
        for n in notes_between(told, chord.start, chord.start + chord.duration):
            struck.setdefault(n.start - chord.start, []).append(n)
        row = tuple(
            Struck(at, tuple(sorted({n.midi for n in here if not n.grace})), tuple(n.midi for n in here if n.grace)) for at, here in sorted(struck.items())
        )
        slot = Slot(chord.name, chord.start, chord.duration, row)
        slots.append(slot)
        if all(not n.melody and n.midi % 12 in chord.members for here in struck.values() for n in here):
            playable.append(slot)
    return slots, playable


def tell_hand(told: HandTold, stretch: Stretch, memory: Memory, manner: Manner) -> HandLines:
    """The lines of one hand, and how long its keys are held where that is more than until the next; nothing where it rests throughout."""
    lines = _tell_strokes(told, stretch, memory, manner)
    held = tuple(tell_holds(told, stretch.bars, memory)) if lines.keys else ()
    if lines.figures:
        return replace(lines, figures=(*lines.figures, *held))
    return replace(lines, keys=(*lines.keys, *held))


def _tell_strokes(told: HandTold, stretch: Stretch, memory: Memory, manner: Manner) -> HandLines:
    if not any(told.notes.get(bar) for bar in stretch.bars):
        _remember(told, stretch.bars, memory)
        return HandLines(())
    if _known(told, stretch, memory):
        return HandLines(tuple(tell_bars(told, stretch.bars, memory)))
    slots, playable = slots_of(told, stretch)
    rules = find_rules(playable, memory.grips[told.hand])
    covered = bars_covered(told, rules, slots, stretch.bars, memory.grips[told.hand]) if rules else set()
    if not rules or len(covered) < _LEAST_COVERED * len(stretch.bars):
        return HandLines(tuple(tell_bars(told, stretch.bars, memory)))
    return _by_rules(told, stretch, memory, manner, rules, slots, covered)


def _by_rules(told: HandTold, stretch: Stretch, memory: Memory, manner: Manner, rules: Sequence[Rule], slots: Sequence[Slot], covered: set[int]) -> HandLines:
    meter = told.grid.meter_of(stretch.bars[-1])
    plain = len(rules) == 1 and rules[0].figure.blocks
    later = manner.blocks_first and any(r.figure.size for r in rules)  # the same grip again and again needs no blocks first
    grips = tuple(tell_grips(told, rules, memory, fingers=manner.fingers, ways=manner.ways))
    figures = () if plain else tuple(tell_figure(told, rule, meter, alone=len(rules) == 1) for rule in rules)
    elsewhere = dict(tell_elsewhere(told, rules, slots, [bar for bar in stretch.bars if bar not in covered]))
    covered = covered | {bar for bars in elsewhere for bar in bars}
    _remember(told, sorted(covered), memory)
    rest = tuple(elsewhere.values()) + tuple(tell_bars(told, [bar for bar in stretch.bars if bar not in covered], memory))
    if later:
        return HandLines((tell_blocks(told, rules, first=True), *grips), (*figures, *rest), progression=True)
    head = (tell_blocks(told, rules, first=False),) if plain else figures
    return HandLines((*head, *grips, *rest), progression=True)


def _known(told: HandTold, stretch: Stretch, memory: Memory) -> bool:
    """The whole stretch is like bars that were told before."""
    wanted = [bar for bar in stretch.bars if bar >= 1]
    known = memory.bars[told.hand]
    bars = {n: told.bars.get(n, ()) for n in wanted}
    like = find_likeness(bars, wanted, known, told.grid.meter_names) if wanted == list(stretch.bars) else None
    return like is not None and like.last == wanted[-1] and not like.each


def _remember(told: HandTold, bars: Sequence[int], memory: Memory) -> None:
    for bar in bars:
        memory.bars[told.hand][bar] = told.bars.get(bar, ())


def heading(hand: str) -> Line:
    return Line((say(f"{hand} heading"),), "heading", None, hand)
