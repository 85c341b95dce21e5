"""A part that repeats another, held against it by what sounds: the hand that differs is taught, the other said to be unchanged."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from valley.fraction import Fraction
from valley.lesson._teacher import Teacher, line, pitches
from valley.lesson.part_steps import base_step, introduce, name_part, progression_line, titled
from valley.lesson.telling.hand_bars import Bar, would_be
from valley.lesson.telling.tell_bars import HandTold, tell_bars
from valley.lesson.telling.tell_hand import heading, tell_hand
from valley.model.arrangement import HANDS, LEFT, RIGHT
from valley.model.chart import Part
from valley.model.lesson import Line, LineNote, Step
from valley.model.saying import Distance, Numbers, Saying, Several, Value, say
from valley.phrases.differences import tell_difference

_MOST_CHANGED = 0.5  # of its bars: a hand that differs in more is taught in full
_MOST_REASONS = 4


def teach_repeat(t: Teacher, part: Part) -> list[Step]:
    """One step: how it goes with its model, then what is new in each hand."""
    assert part.same_as is not None
    model = t.chart.parts[part.same_as - 1]
    wanted = {hand: t.hand(hand) for hand in HANDS}
    moved = {hand: _moved(t, wanted[hand], part, model) for hand in HANDS}
    differ = {hand: _differing(t, wanted[hand], part, model, moved[hand]) for hand in HANDS}
    key = f"part-{part.number}/repeat"
    bars = t.bars(part)
    sounding = [hand for hand in HANDS if any(wanted[hand].bars.get(b) for b in (*bars, *t.bars(model)))]
    step = replace(base_step(t, part), key=key, kind="repeat", plays=0 if t.short else 1)
    if not any(differ.values()) and len({moved[hand] for hand in sounding}) <= 1:
        by = moved[sounding[0]] if sounding else 0
        lines = [line(_again(part, by), kind="repeat", beat=step.start, notes=_notes(wanted, bars))]
        for hand in HANDS:
            _learn(t, wanted[hand], bars)
        return [replace(step, lines=(*lines, *_new_grips(t, part, by)), plays=1 if by and not t.short else 0)]
    lines = [introduce(part), *_reasons(t, part)]
    for hand in (RIGHT, LEFT):
        if hand in sounding:
            lines += _tell(t, wanted[hand], part, differ[hand], moved[hand])
    anew = any(_taught_anew(differ[hand], bars) for hand in HANDS)
    start, end = _played(t, part, () if anew else sorted({*differ[LEFT], *differ[RIGHT]}))
    return [replace(step, title=titled("repeat", part), lines=tuple(lines), start=start, end=end, speed=0.85, plays=1)]


def _taught_anew(differ: Sequence[int], bars: Sequence[int]) -> bool:
    return len(differ) > _MOST_CHANGED * len(bars)


def _played(t: Teacher, part: Part, differ: Sequence[int]) -> tuple[Fraction, Fraction]:
    """What is played of a repeat: the bars that differ, with the one before them to come from."""
    start, end = t.chart.span(part)
    if not differ:
        return start, end
    grid = t.chart.grid
    return max(start, grid.bar_start(differ[0] - 1)), min(end, grid.bar_start(differ[-1] + 1))


def _moved(t: Teacher, hand: HandTold, part: Part, model: Part) -> int:
    """By how many half steps a hand lies above its model: as the part does, an octave off, or where most bars fit."""
    ways = dict.fromkeys((part.moved, 0, part.moved - 12, part.moved + 12))
    return min(ways, key=lambda by: len(_differing(t, hand, part, model, by)))


def _differing(t: Teacher, hand: HandTold, part: Part, model: Part, by: int) -> list[int]:
    """Bars of a repeat that a learner would play wrong who plays its model, so many half steps higher."""
    return [bar for bar in t.bars(part) if not would_be(_model_bar(t, hand, part, model, bar), hand.bars.get(bar, ()), by)]


def _model_bar(t: Teacher, hand: HandTold, part: Part, model: Part, bar: int) -> Bar:
    """What is known of the bar of the model that goes with one of its repeat."""
    there = model.start_bar + bar - part.start_bar
    if bar < 1 or there > model.end_bar or hand.meter(there) != hand.meter(bar):
        return ()
    return t.memory.bars[hand.hand].get(there, ())


def _again(part: Part, by: int) -> Saying:
    values: dict[str, Value] = {"part": Several((name_part(part),)), "first": part.start_bar, "last": part.end_bar, "model": part.same_as or 1}
    return say("part again moved", **values, distance=Distance(by)) if by else say("part again", **values)


def _notes(hands: dict[str, HandTold], bars: Sequence[int]) -> list[LineNote]:
    return [note for hand in HANDS for bar in bars for note in hands[hand].speaks_for(bar, bar)]


def _learn(t: Teacher, hand: HandTold, bars: Sequence[int]) -> None:
    for bar in bars:
        t.memory.bars[hand.hand][bar] = hand.bars.get(bar, ())


def _reasons(t: Teacher, part: Part) -> list[Line]:
    """Why it differs, in the chart's words: another chord, another ending, shorter."""
    reasons = [d for d in part.differences if d.kind not in ("notes", "pitch")][:_MOST_REASONS]
    return [line(say("difference", difference=Several((tell_difference(d),))), kind="difference", item=True) for d in reasons]


def _tell(t: Teacher, hand: HandTold, part: Part, differ: Sequence[int], by: int) -> list[Line]:
    bars = t.bars(part)
    assert part.same_as is not None
    if _taught_anew(differ, bars):
        told = tell_hand(hand, t.stretch(part), t.memory, replace(t.manner, blocks_first=False))
        chords = [progression_line(t, part)] if told.progression else []
        return [heading(hand.hand), *chords, *told.keys] if told.keys else [line(say(f"{hand.hand} rests"), kind="rest", hands=hand.hand)]
    values: dict[str, Value] = {"model": part.same_as}
    phrase = f"{hand.hand} as in"
    if by:
        phrase, values["distance"] = f"{phrase} moved", Distance(by)
    if differ:
        phrase, values["bars"] = f"{phrase} but", Several((say("in bar" if len(differ) == 1 else "in bars", bars=Numbers(tuple(differ))),))
    same = [bar for bar in bars if bar not in differ]
    _learn(t, hand, same)
    notes = [note for bar in same for note in hand.speaks_for(bar, bar)]
    head = line(say(phrase, **values), kind="repeat", hands=hand.hand, notes=notes)
    return [head, *tell_bars(hand, differ, t.memory)]


def _new_grips(t: Teacher, part: Part, by: int) -> list[Line]:
    """The grips of a part that lies at another pitch, each spelled once."""
    if not by or t.short:
        return []
    lines = []
    for hand in (RIGHT, LEFT):
        for grip in t.arranged(part).grips:
            keys = grip.right if hand == RIGHT else grip.left
            if len(keys) < 2 or any(n.melody for n in t.arranged(part).notes if n.hand == hand and grip.start <= n.start < grip.end):
                continue
            name, row = t.name(grip.chord), tuple(n.midi for n in keys)
            if t.memory.grips[hand].get(name) != row:
                t.memory.grips[hand][name] = row
                notes = tuple(LineNote(grip.start, hand, n.pitch) for n in keys)
                said = say("chord is", chord=name, notes=pitches(keys))
                lines.append(Line((said,), "grip", grip.start, hand, notes, item=True))
    if not lines:
        return []
    headed: list[Line] = []
    for hand in (LEFT, RIGHT):
        mine = [row for row in lines if row.hands == hand]
        headed += [heading(hand), *mine] if mine else []
    return headed
