"""Bars told one by one: like an earlier one, like it but for one stroke, in even notes, in the counts of the bar before, or stroke by stroke."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from valley.fraction import Fraction
from valley.lesson.telling.hand_bars import Bar, Struck, changed
from valley.lesson.telling.memory import Likeness, Memory, find_likeness
from valley.model.arrangement import PlayedNote
from valley.model.chart import Grid
from valley.model.lesson import Line, LineNote
from valley.model.saying import Counts, Distance, Saying, Several, Stroke, Strokes, Times, Value, say
from valley.theory.pitch import PitchName, parse_pitch

_EVEN = {Fraction(1): "quarters", Fraction(1, 2): "eighths", Fraction(1, 4): "sixteenths", Fraction(1, 3): "triplets", Fraction(2): "halves"}
_LEAST_FOR_BUT = 3  # a bar of fewer strokes is told anew


@dataclass(frozen=True)
class HandTold:
    """One hand of the song as it is told: its bars, and the notes in them. ``anchors``: counts off the beat are not said."""

    hand: str
    grid: Grid
    bars: Mapping[int, Bar]
    notes: Mapping[int, Sequence[PlayedNote]]
    anchors: bool = False

    def meter(self, bar: int) -> str:
        return self.grid.meter_of(bar).name

    def name(self, bar: int, at: Fraction, key: int) -> str:
        """How a key is spelled in a bar."""
        here = [n for n in self.notes.get(bar, ()) if n.midi == key]
        return next((n.pitch for n in here if self.grid.place(n.start)[1] == at), here[0].pitch)

    def starred(self, bar: int, stroke: Struck) -> tuple[str, ...]:
        return tuple(n.pitch for n in self.notes.get(bar, ()) if n.optional and n.midi in stroke.keys and self.grid.place(n.start)[1] == stroke.at)

    def speaks_for(self, first: int, last: int) -> tuple[LineNote, ...]:
        return tuple(LineNote(n.start, self.hand, n.pitch) for bar in range(first, last + 1) for n in self.notes.get(bar, ()))

    def beat(self, bar: int) -> Fraction:
        return self.notes[bar][0].start if self.notes.get(bar) else self.grid.bar_start(bar)


def tell_bars(told: HandTold, wanted: Sequence[int], memory: Memory) -> Iterator[Line]:
    """The wanted bars, each in as few words as will do; the learner's memory grows with them."""
    known, rest = memory.bars[told.hand], list(wanted)
    bars = {n: told.bars.get(n, ()) for n in wanted}
    before: int | None = None
    pairs = ""
    while rest:
        first = rest[0]
        likeness = find_likeness(bars, rest, known, told.grid.meter_names) if first >= 1 else None
        if likeness:
            last, said, before = likeness.last, _tell_likeness(likeness), None
        elif not bars[first]:
            last, before = first, None
            while last + 1 in rest and not bars[last + 1]:
                last += 1
            said = say("rest", where=Several((_where(first, last),)))
        else:
            last = first
            near = _tell_near(told, first, known)
            said, before = (near, None) if near else (_tell_anew(told, first, before), first)
        others, pairs = pairs, in_pairs(told, first) if before == first else ""
        for n in range(first, last + 1):
            known[n] = bars[n]
        rest = [n for n in rest if n > last]
        sayings = (said, say(pairs)) if pairs and pairs != others else (said,)
        yield Line(sayings, "bars", told.beat(first), told.hand, told.speaks_for(first, last), item=True)


_PAIRS = {2: "in thirds", 3: "in fourths", 4: "in fifths", 5: "in sixths", 7: "in octaves", 9: "in tenths"}  # by letters between the two


def in_pairs(told: HandTold, bar: int) -> str:
    """The interval in which a hand plays throughout a bar, two keys at a time; nothing where it does not."""
    strokes = told.bars[bar]
    if len(strokes) < _LEAST_FOR_BUT or any(len(s.keys) != 2 for s in strokes):
        return ""
    names = [[parse_pitch(told.name(bar, s.at, key)) for key in s.keys] for s in strokes]
    steps = {_letters(high) - _letters(low) for low, high in names}
    return _PAIRS.get(steps.pop(), "") if len(steps) == 1 else ""


def _letters(pitch: tuple[PitchName, int]) -> int:
    """How many letters a pitch lies above C0, whatever its sign."""
    name, midi = pitch
    natural = PitchName(name.fifths - 7 * name.alter).pitch_class
    return 7 * ((midi - name.alter - natural) // 12) + "CDEFGAB".index(name.letter)


def _where(first: int, last: int) -> Saying:
    if first < 1:
        return say("before bar 1")
    return say("bar n", bar=first) if first == last else say("bars n to m", first=first, last=last)


def _tell_likeness(like: Likeness) -> Saying:
    values: dict[str, Value] = {"where": Several((_where(like.first, like.last),))}
    if like.each or like.first == like.last:
        phrase, values["model"] = ("each like bar" if like.each else "like bar"), like.model
    else:
        phrase, values["from_bar"], values["to_bar"] = "like bars", like.model, like.model + like.last - like.first
    if like.moved:
        phrase, values["distance"] = f"{phrase} moved", Distance(like.moved)
    return say(phrase, **values)


def _tell_near(told: HandTold, bar: int, known: Mapping[int, Bar]) -> Saying | None:
    """Like a known bar but for one stroke."""
    near = _nearest(told, bar, known)
    if near is None:
        return None
    model, stroke = near
    if told.anchors and stroke.at.denominator != 1:
        return None  # it has no count by which it could be told from the others
    where, count = Several((_where(bar, bar),)), told.grid.meter_of(bar).count(stroke.at)
    if not stroke.keys and not stroke.graces:
        return say("like bar without", where=where, model=model, count=Counts((count,)))
    return say("like bar but", where=where, model=model, strokes=Strokes((_stroke(told, bar, stroke, count),)))


def _tell_anew(told: HandTold, bar: int, before: int | None) -> Saying:
    """Stroke by stroke; ``before`` is the bar told last in the same way, whose counts may serve again."""
    strokes, where = told.bars[bar], Several((_where(bar, bar),))
    even = tell_even(told, bar, strokes)
    if even:
        return even
    same = before is not None and told.meter(before) == told.meter(bar) and len(strokes) > 1
    if same and before is not None and [s.at for s in told.bars[before]] == [s.at for s in strokes]:
        return say("bar same counts", where=where, strokes=Strokes(tuple(_stroke(told, bar, s, "") for s in strokes)))
    return say("bar", where=where, strokes=tell_strokes(told, bar, strokes))


def _nearest(told: HandTold, bar: int, known: Mapping[int, Bar]) -> tuple[int, Struck] | None:
    """A known bar from which only one stroke differs."""
    strokes = told.bars[bar]
    if len(strokes) < _LEAST_FOR_BUT or bar < 1:
        return None
    for model in sorted(known, reverse=True):
        there = known[model]
        if model < 1 or len(there) < _LEAST_FOR_BUT or abs(len(there) - len(strokes)) > 1 or told.meter(model) != told.meter(bar):
            continue
        differ = changed(there, strokes)
        if len(differ) == 1:
            return model, differ[0]
    return None


def tell_strokes(told: HandTold, bar: int, strokes: Sequence[Struck]) -> Strokes:
    """Strokes with their counts; between the beats without one where only anchors are counted."""
    meter = told.grid.meter_of(bar)
    rows = []
    for s in strokes:
        count = "" if told.anchors and s.at.denominator != 1 else meter.count(s.at)
        rows.append(_stroke(told, bar, s, count))
    return Strokes(tuple(rows))


def _stroke(told: HandTold, bar: int, s: Struck, count: str) -> Stroke:
    pitches, graces = (tuple(told.name(bar, s.at, k) for k in keys) for keys in (s.keys, s.graces))
    return Stroke(count, pitches, graces, told.starred(bar, s))


def even_step(starts: Sequence[Fraction], quarters: Fraction, *, fewest: int = 3) -> tuple[str, Fraction] | None:
    """The note value, and its beats, in which strokes follow one another; None where they do not come evenly."""
    if len(starts) < fewest:
        return None
    step = starts[1] - starts[0]
    value = _EVEN.get(step * quarters)
    return (value, step) if value and all(b - a == step for a, b in zip(starts, starts[1:], strict=False)) else None


def tell_even(told: HandTold, bar: int, strokes: Bar) -> Saying | None:
    """A bar whose strokes come evenly, with what repeats inside it counted."""
    meter = told.grid.meter_of(bar)
    even = even_step([s.at for s in strokes], meter.quarters_per_beat)
    if even is None:
        return None
    times, cell = 1, strokes
    for size in range(1, len(strokes) // 2 + 1):
        rows = [(s.keys, s.graces) for s in strokes]
        if len(strokes) % size == 0 and rows == rows[:size] * (len(strokes) // size):
            times, cell = len(strokes) // size, strokes[:size]
            break
    values: dict[str, Value] = {"where": Several((_where(bar, bar),)), "value": Several((say(even[0]),))}
    values["strokes"] = Strokes(tuple(_stroke(told, bar, s, "") for s in cell))
    phrase = "bar even"
    if strokes[0].at:
        phrase, values["count"] = "bar even from", Counts((meter.count(strokes[0].at),))
    if times > 1:
        phrase, values["times"] = f"{phrase} times", Times(times)
    return say(phrase, **values)
