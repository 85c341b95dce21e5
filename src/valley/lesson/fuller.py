"""The whole song in a plain version first; then each part as it is played, told as what is new against that.

Teachers differ on when the accompaniment comes: with each part, or once the song can be played through. Here it comes last.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from valley.lesson._teacher import Teacher, line
from valley.lesson.leads import Leads
from valley.lesson.part_steps import base_step, link_step, name_pattern, progression_line, star_line, titled
from valley.lesson.repeat_steps import teach_repeat
from valley.lesson.telling.tell_bars import HandTold, tell_bars
from valley.lesson.telling.tell_hand import heading, tell_hand
from valley.model.arrangement import LEFT, RIGHT
from valley.model.chart import Part
from valley.model.lesson import Line, Step
from valley.model.saying import say

_MOST_CHANGED = 0.5  # of its bars: a hand that differs in more is told in full
_SPEED = 0.7


def make_fuller(t: Teacher, taught: Sequence[Part]) -> list[Step]:
    """Every part as it is played, for a learner whose memory holds the plain version; nothing where nothing is new.

    Parameters
    ----------
    t : with the arrangement as it is played, and the memory of what was taught
    taught : in their order, repeats with their models
    """
    steps: list[Step] = []
    leads = Leads(t, taught)
    for part in taught:
        new = _repeat(t, part) if part.same_as else list(_new(t, part))
        steps += [*new, *(replace(s, key=f"fuller/{s.key}") for s in leads.tell(part))]
    if steps:
        steps[0] = replace(steps[0], lines=(line(say("now fuller"), kind="fuller"), *steps[0].lines))
    return steps


def _repeat(t: Teacher, part: Part) -> list[Step]:
    if not any(_differing(t, t.hand(hand), part) for hand in (LEFT, RIGHT)):
        return []
    return [replace(s, key=f"fuller/{s.key}") for s in teach_repeat(t, part)]


def _differing(t: Teacher, told: HandTold, part: Part) -> list[int]:
    known = t.memory.bars[told.hand]
    return [bar for bar in t.bars(part) if known.get(bar, ()) != told.bars.get(bar, ())]


def _new(t: Teacher, part: Part) -> Iterator[Step]:
    hands = {hand: t.hand(hand, "plain") for hand in (RIGHT, LEFT)}
    differ = {hand: _differing(t, told, part) for hand, told in hands.items()}
    if any(differ.values()):
        lines: list[Line] = [*star_line(t, part), *name_pattern(t, part)]
        for hand, told in hands.items():
            if differ[hand]:
                lines += _tell(t, told, part, differ[hand])
            elif any(told.bars.get(bar) for bar in t.bars(part)):
                lines.append(line(say(f"{hand} stays"), kind="unchanged", hands=hand))
        yield replace(base_step(t, part), title=titled("fuller", part), lines=tuple(lines), key=f"fuller/part-{part.number}", kind="fuller", speed=_SPEED)
    yield from (replace(s, key=f"fuller/{s.key}") for s in link_step(t, part, t.bars(part), f"part-{part.number}/links"))


def _tell(t: Teacher, told: HandTold, part: Part, differ: Sequence[int]) -> list[Line]:
    if len(differ) <= _MOST_CHANGED * len(t.bars(part)):
        return [heading(told.hand), *tell_bars(told, differ, t.memory)]
    rows = tell_hand(told, t.stretch(part), t.memory, replace(t.manner, blocks_first=False))
    if not rows.keys:
        return [line(say(f"{told.hand} rests"), kind="rest", hands=told.hand)]
    chords = [progression_line(t, part)] if rows.progression else []
    return [heading(told.hand), *chords, *rows.keys, *rows.figures]
