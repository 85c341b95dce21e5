"""Chords under a figure in words: what is done with each chord, and each new grip spelled once."""

from __future__ import annotations

from collections.abc import Container, Iterator, Sequence

from valley.fraction import Fraction
from valley.lesson.moves import tell_way
from valley.lesson.telling.figures import Figure, Rule, Slot
from valley.lesson.telling.memory import Memory
from valley.lesson.telling.tell_bars import HandTold, even_step
from valley.model.arrangement import HandNote, PlayedNote
from valley.model.chart import Grid
from valley.model.lesson import Line, LineNote
from valley.model.saying import Length, Numbers, Order, Pitches, Saying, Several, Value, own_words, say
from valley.theory.meter import Meter

_USUAL_FINGERS = {(5, 3, 1), (5, 2, 1), (5, 1), (1, 3, 5), (1, 2, 5), (1, 5)}


def tell_blocks(told: HandTold, rules: Sequence[Rule], *, first: bool) -> Line:
    """Each chord as a block. ``first``: a figure will be made of it later; then it is no more than a way of learning the keys."""
    slots = [s for r in rules for s in r.slots]
    held = not first and all(_lasts(told, s) for s in slots)
    said = say("blocks first" if first else "blocks held" if held else "blocks")
    return Line((said,), "rule", slots[0].start, told.hand, () if first else _notes(told, slots))


def _lasts(told: HandTold, slot: Slot) -> bool:
    """The keys stay down until the chord is nearly over."""
    return all(n.rings or n.duration * 10 >= slot.duration * 9 for n in notes_in(told, slot))


def notes_between(told: HandTold, start: Fraction, end: Fraction) -> list[PlayedNote]:
    """The hand's notes that begin from one beat on and before another."""
    bars = range(told.grid.place(start)[0], told.grid.place(end)[0] + 1)
    return [n for bar in bars for n in told.notes.get(bar, ()) if start <= n.start < end]


def notes_in(told: HandTold, slot: Slot) -> list[PlayedNote]:
    return notes_between(told, slot.start, slot.start + slot.duration)


def _notes(told: HandTold, slots: Sequence[Slot]) -> tuple[LineNote, ...]:
    return tuple(LineNote(n.start, told.hand, n.pitch) for s in slots for n in notes_in(told, s))


def tell_figure(told: HandTold, rule: Rule, meter: Meter, *, alone: bool) -> Line:
    """One figure for the chords that have it. ``alone``: it holds for every chord of the part."""
    figure = rule.figure
    which = say("each chord") if alone else say("on chords", chords=Several(tuple(own_words(n) for n in rule.grips), "list"))
    where = Several((which,))
    said = say("figure blocks", which=where) if figure.blocks else _tell_order(figure, meter, where)
    return Line((said,), "rule", rule.slots[0].start, told.hand, _notes(told, rule.slots))


def _tell_order(figure: Figure, meter: Meter, which: Several) -> Saying:
    rows, starts = tuple(row for _, row in figure.strokes), [at for at, _ in figure.strokes]
    cyclic = [*starts, figure.cycle] if figure.cycle else starts
    even = even_step(cyclic, meter.quarters_per_beat, fewest=2 if figure.cycle else 3) if starts[0] == 0 else None
    values: dict[str, Value] = {"which": which}
    if even:
        values |= {"value": Several((say(even[0]),)), "order": Order(rows, figure.size)}
        return say("figure even over" if figure.cycle else "figure even", **values)
    values["order"] = Order(rows, figure.size, tuple(meter.count(at) for at in starts))
    if figure.cycle:
        return say("figure counted over", **values, length=Length(figure.cycle))
    return say("figure counted", **values)


def tell_grips(told: HandTold, rules: Sequence[Rule], memory: Memory, *, fingers: str, ways: str) -> Iterator[Line]:
    """Each grip that a learner does not know by its chord's name, in the order in which they come."""
    known = memory.grips[told.hand]
    grips = {name: grip for r in rules for name, grip in r.grips.items()}
    slots = sorted((s for r in rules for s in r.slots), key=lambda s: s.start)
    before: tuple[HandNote, ...] = ()
    for slot in slots:
        notes = grip_of(told, slot)
        if known.get(slot.name) != grips[slot.name]:
            known[slot.name] = grips[slot.name]
            way = tell_way(before, notes) if ways and before and len(notes) > 1 else None
            if way and ways == "short" and way.phrase == "way keeps":
                way = None  # the keys themselves say so
            yield Line(
                (_spell(slot.name, notes, way, fingers=fingers),),
                "grip",
                slot.start,
                told.hand,
                tuple(LineNote(slot.start, told.hand, n.pitch) for n in notes),
                item=True,
            )
        before = notes


def tell_elsewhere(told: HandTold, rules: Sequence[Rule], slots: Sequence[Slot], bars: Sequence[int]) -> Iterator[tuple[tuple[int, ...], Line]]:
    """Bars in which one chord is played under its figure, but with other keys than its grip: "the same on F4, Bb4 and D5"."""
    for slot in slots:
        first, into = told.grid.place(slot.start)
        after, rest = told.grid.place(slot.start + slot.duration)
        mine = tuple(range(first, after))
        if into or rest or not mine or not slot.struck or any(bar not in bars or bar < 1 for bar in mine):
            continue
        rule = next((r for r in rules if len(rules) == 1 or slot.name in r.grips), None)
        if rule is None or not rule.figure.fits(slot.grip) or rule.figure.on(slot.grip, slot.duration) != slot.struck:
            continue
        where = say("bar n", bar=first) if len(mine) == 1 else say("bars n to m", first=first, last=mine[-1])
        notes = grip_of(told, slot)
        said = say("same on", where=Several((where,)), notes=Pitches(tuple(n.pitch for n in notes), tuple(n.pitch for n in notes if n.optional)))
        yield mine, Line((said,), "bars", slot.start, told.hand, _notes(told, [slot]), item=True)


def grip_of(told: HandTold, slot: Slot) -> tuple[HandNote, ...]:
    """The keys of a chord with their names, fingers and stars, from the bottom up."""
    row: dict[int, PlayedNote] = {}
    for n in notes_in(told, slot):
        row.setdefault(n.midi, n)
    return tuple(HandNote(n.pitch, n.midi, "", n.finger, n.optional) for _, n in sorted(row.items()))


def _spell(name: str, notes: Sequence[HandNote], way: Saying | None, *, fingers: str) -> Saying:
    values: dict[str, Value] = {"chord": name, "notes": Pitches(tuple(n.pitch for n in notes), tuple(n.pitch for n in notes if n.optional))}
    phrase, row = "chord is", tuple(n.finger for n in notes if n.finger is not None)
    if len(row) == len(notes) > 1 and (fingers == "all" or (fingers == "unusual" and row not in _USUAL_FINGERS)):
        phrase, values["fingers"] = "chord is fingered", Numbers(row, in_order=True)
    if way:
        phrase, values["way"] = f"{phrase} so", Several((way,))
    return say(phrase, **values)


def bars_covered(told: HandTold, rules: Sequence[Rule], slots: Sequence[Slot], wanted: Sequence[int], known: Container[str]) -> set[int]:
    """Bars in which nothing sounds but what the rules say. A chord without keys of its own must not have a ``known`` name: a learner would play it."""
    grid: Grid = told.grid
    covered = {s.start for r in rules for s in r.slots}
    silent = {s.start for s in slots if not s.struck and s.name not in known and not any(s.name in r.grips for r in rules)}
    spoiled: set[int] = set()
    for s in slots:
        if s.start not in covered | silent:
            spoiled |= set(range(grid.place(s.start)[0], grid.place(s.start + s.duration - Fraction(1, 96))[0] + 1))
    inside = [(s.start, s.start + s.duration) for s in slots]
    for bar in wanted:
        if any(not any(a <= n.start < b for a, b in inside) for n in told.notes.get(bar, ())):
            spoiled.add(bar)
    return {bar for bar in wanted if bar not in spoiled}
