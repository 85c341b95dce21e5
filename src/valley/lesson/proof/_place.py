"""What a sentence says it is about: the part, bars or chord that it names or counts to, and whether it tells the tune."""

from __future__ import annotations

import re
from dataclasses import replace

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._words import (
    BARS,
    BEGINNING,
    HALF_OF,
    IT_GOES,
    KIND_OF_CHORD,
    LIKE_BAR,
    LINE_ENDS,
    NOT_TUNE,
    NTH,
    RUN_OF_BARS,
    THAT_BAR,
    TUNE,
    read_count,
)


def names_place(desk: Desk) -> bool:
    """Whether the sentence on the desk says itself which bars or part it is about; what it counts to ("the last chord") may be counted from elsewhere."""
    plain = _plain(desk.sentence)
    return desk.scope.find_part(plain) is not None or BARS.search(plain) is not None or (bool(desk.context.bars) and THAT_BAR.search(plain) is not None)


def go_to_place(desk: Desk) -> None:
    """The part, bars or chord that the sentence speaks of; they hold until others are named."""
    context = desk.context
    desk.pinned = False
    plain = _plain(desk.sentence)
    part = desk.scope.find_part(plain)
    if TUNE.search(plain):
        context.of_tune = True
    elif part not in (None, context.part) or (NOT_TUNE.search(plain) and not (context.of_tune and IT_GOES.match(plain))):
        context.of_tune = False
    if part is not None:
        context.part, context.bars, context.grips, context.chord = part, (), (), None
    if bars := _bars(plain):
        context.bars, context.grips, context.chord = _with_counted(desk, plain, bars), (), None
    elif not _go_to_half(desk, plain) and not _go_to_counted(desk, plain) and BEGINNING.search(plain) and not context.bars:
        context.grips = tuple(desk.grips_here()[:1])


def _plain(sentence: str) -> str:
    """A sentence without the bars that it only compares with."""
    return LIKE_BAR.sub("", re.split(r"\bexcept\b", sentence, maxsplit=1)[0])


def _bars(plain: str) -> tuple[int, ...]:
    numbers = [read_count(n) for m in BARS.finditer(plain) for n in m.groups() if n]
    return tuple(range(numbers[0], numbers[-1] + 1)) if len(numbers) == 2 and numbers[0] < numbers[1] else tuple(numbers)


def _with_counted(desk: Desk, plain: str, bars: tuple[int, ...]) -> tuple[int, ...]:
    """The bars by their numbers and those that are counted to: "in the fifth bar F, and in bar 6 C"."""
    counted: list[int] = []
    for match in NTH.finditer(plain):
        if match[2].lower() in ("bar", "measure"):
            there = replace(desk.context, bars=(), claims=[])
            desk.scope.go_to_nth(match, there)
            counted += there.bars
    return tuple(sorted({*bars, *counted}))


def _go_to_half(desk: Desk, plain: str) -> bool:
    half = HALF_OF.search(plain)
    if half is None or desk.context.part is None:
        return False
    desk.scope.go_to_half(half[1], desk.context)
    return True


def _go_to_counted(desk: Desk, plain: str) -> bool:
    """ "The last four bars", "the third chord", "the sus chord"; the whole of a tune or song that is said to begin or end."""
    context, scope = desk.context, desk.scope
    if LINE_ENDS.search(plain):
        context.bars, context.grips, context.chord = (), (), None
    elif several := RUN_OF_BARS.search(plain):
        scope.go_to_run(several, context)
    elif len(bars := _with_counted(desk, plain, ())) > 1:
        context.bars, context.grips, context.chord = bars, (), None
    elif counted := NTH.search(plain):
        scope.go_to_nth(counted, context)
        desk.pinned = bool(context.grips)
    elif kind := KIND_OF_CHORD.search(plain):
        scope.go_to_kind(kind[1].lower(), context)
        desk.pinned = bool(context.grips)
    else:
        return False
    return True
