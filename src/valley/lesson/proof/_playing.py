"""What the hands do in the bars that words are about: which hand, which strokes."""

from __future__ import annotations

import re
from itertools import groupby

from valley.fraction import Fraction
from valley.lesson.proof._desk import Desk
from valley.model.arrangement import HANDS, RIGHT

Stroke = tuple[Fraction, frozenset[int]]


def bars_here(desk: Desk) -> list[int]:
    """The bars that the words are about: those named, else those of the part, else all."""
    if desk.context.bars:
        return list(desk.context.bars)
    part = desk.context.part
    return [b for p in desk.scope.chart.parts if part in (None, p.number) for b in range(p.start_bar, p.end_bar + 1)]


def bars_now(desk: Desk) -> list[int]:
    """The bars of the chord that the talk has come to, where it has come to one; else those that the words are about."""
    place, now = desk.scope.chart.grid.place, desk.context.now
    if not desk.context.grips and not desk.context.bars and now is not None:
        return [bar for bar in (place(now)[0], place(now)[0] + 1) if bar in bars_here(desk)] or bars_here(desk)
    if not desk.context.grips or len(desk.context.bars) == 1:
        return bars_here(desk)
    return sorted({place(g.start)[0] for g in desk.context.grips})


def hand_said(desk: Desk) -> str | None:
    """The hand that the sentence speaks of, before or after what it claims; else the one that was named last."""
    named = {m[1].lower() for m in re.finditer(r"\b(left|right)(?: hand)?\b", desk.sentence, re.IGNORECASE)}
    return named.pop() if len(named) == 1 else desk.context.hand


def hand_meant(desk: Desk) -> str | None:
    """The hand that a note is meant of: that of the tune while it is told and the sentence names no hand; else the one in force."""
    told = desk.context.of_tune and not re.search(r"\b(?:left|right)\b", desk.sentence, re.IGNORECASE)
    return RIGHT if told else desk.context.hand


def hands_said(desk: Desk) -> tuple[str, ...]:
    """That hand, or both."""
    hand = hand_said(desk)
    return (hand,) if hand else HANDS


def strokes_of(desk: Desk, bar: int, hand: str) -> list[Stroke]:
    """What a hand strikes in a bar: the beat and its keys."""
    notes = [n for n in desk.scope.notes if n.hand == hand and not n.grace and desk.scope.chart.grid.place(n.start)[0] == bar]
    return [(start, frozenset(n.midi for n in group)) for start, group in groupby(notes, key=lambda n: n.start)]
