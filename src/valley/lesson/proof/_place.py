"""What a sentence says it is about: the part, bars or chord that it names or counts to, and whether it tells the tune."""

from __future__ import annotations

import re
from dataclasses import replace

from valley.lesson.proof._desk import Desk
from valley.lesson.proof._playing import bars_here, strokes_of
from valley.lesson.proof._words import (
    BAR_NUMBER,
    BARS,
    BEGINNING,
    CHORD_NUMBER,
    HALF_OF,
    IT_GOES,
    KIND_OF_CHORD,
    LIKE_BAR,
    LINE_ENDS,
    NOT_TUNE,
    NTH,
    NTH_LINE,
    NTH_OF,
    NTH_ONE,
    ORDINALS,
    RUN_OF_BARS,
    THAT_BAR,
    THE_ENDING,
    TUNE,
    read_count,
)
from valley.model.arrangement import HANDS, LEFT, RIGHT


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
        if not context.of_tune and not _HAND.search(plain):
            context.hand = None  # the tune has taken over from the hand that was told
        context.of_tune = True
    elif part not in (None, context.part) or (NOT_TUNE.search(plain) and not (context.of_tune and IT_GOES.match(plain))):
        context.of_tune = False
    if part is not None:
        context.part, context.bars, context.grips, context.chord = part, (), (), None
    ahead = context.ahead or desk.scope.ahead_of(plain)
    if bars := tuple(bar + ahead for bar in _bars(plain)):
        context.bars, context.grips, context.chord = _with_counted(desk, plain, bars), (), None
    elif not _go_to_half(desk, plain) and not _go_to_counted(desk, plain) and BEGINNING.search(plain) and not context.bars:
        context.grips = tuple(desk.grips_here()[:1])


_ANNOUNCES = re.compile(
    r"\b(?:now|next|okay|ok|alright|right,|cool|great|good|let's|let’s|let us|on to|onto|time for|as for|add|mov(?:e|ing) on|show|what does|what do|what's"
    r"|what about|how about|look at)\b",
    re.IGNORECASE,
)
_DONE = re.compile(r"\b(?:that's|that’s|that is|that was|done|finished|know)\b", re.IGNORECASE)
_HAND = re.compile(r"\b(?:left|right|hands?|bass)\b", re.IGNORECASE)
_VOICE = re.compile(r"\b(?:(left|right) hand|(?:(?:the|our|your) )?(?:tune|melody|top line|singer|vocals?|vocal line|bass(?: line)?))\b", re.IGNORECASE)
_MOSTLY = 0.8
_LINE = 4  # bars of a line of a tune
_A_CALL = 3  # words of one that only calls it
_A_TURN = 14  # words of a sentence that does no more than turn to a voice


def turns_to_voice(sentence: str) -> str | None:
    """The hand, "tune" or "bass" that a sentence turns to and says nothing of yet: "okay, the melody", "now what does the right hand do?".

    >>> turns_to_voice("Okay, melody."), turns_to_voice("Now the left hand."), turns_to_voice("So that's the left hand done.")
    ('tune', 'left', None)
    """
    voice = _VOICE.search(sentence)
    size = len(sentence.split())
    if voice is None or size > _A_TURN or (size > _A_CALL and _ANNOUNCES.search(sentence) is None) or _DONE.search(sentence) or BARS.search(sentence):
        return None
    if re.search(r"\b(?-i:[B-G])\b|\b(?:same|unchanged|stays?|keeps?|again|above|below|over|under|without|with the)\b", sentence):
        return None
    return (voice[1] or ("bass" if "bass" in voice[0].lower() else "tune")).lower()


def go_to_voice(desk: Desk) -> bool:
    """Back to the beginning of the part, where the sentence turns to another voice; whether it does."""
    voice = turns_to_voice(desk.sentence)
    context = desk.context
    called = len(desk.sentence.split()) <= _A_CALL
    if (
        voice is None
        or (not called and voice == ("tune" if context.of_tune else context.hand))
        or NTH.search(desk.sentence)
        or desk.scope.find_part(desk.sentence) is not None
    ):
        return False
    context.of_tune = voice == "tune"
    context.hand = voice if voice in HANDS else LEFT if voice == "bass" else None
    context.bars, context.grips, context.chord = (), (), None
    context.of_tune = context.of_tune or (voice == RIGHT and _is_one_line(desk))
    if voice == "tune":
        context.part = desk.scope.part_with_tune(context.part)
    part = next((p for p in desk.scope.chart.parts if p.number == context.part), None)
    context.now = desk.scope.chart.span(part)[0] if part is not None else None
    context.opening = True
    return True


def _is_one_line(desk: Desk) -> bool:
    """Whether the right hand plays one key at a time, but for a few, where the talk is: it has the tune then."""
    strokes = [keys for bar in bars_here(desk) for _, keys in strokes_of(desk, bar, RIGHT)]
    return bool(strokes) and sum(len(keys) == 1 for keys in strokes) > _MOSTLY * len(strokes)


def _plain(sentence: str) -> str:
    """A sentence without the bars that it only compares with."""
    return LIKE_BAR.sub("", re.split(r"\bexcept\b", sentence, maxsplit=1)[0])


def _bars(plain: str) -> tuple[int, ...]:
    numbers = [read_count(n) for m in BARS.finditer(plain) for n in m.groups() if n]
    apart = re.search(rf"\bbars {BAR_NUMBER} and {BAR_NUMBER}\b", plain, re.IGNORECASE) is not None  # "in bars two and six": those, and none between
    return tuple(range(numbers[0], numbers[-1] + 1)) if len(numbers) == 2 and numbers[0] < numbers[1] and not apart else tuple(numbers)


def _with_counted(desk: Desk, plain: str, bars: tuple[int, ...]) -> tuple[int, ...]:
    """The bars by their numbers and those that are counted to: "in the fifth bar F, and in bar 6 C"."""
    counted: list[int] = []
    for match in NTH.finditer(plain):
        if match[2].lower() in ("bar", "measure"):
            there = replace(desk.context, bars=(), claims=[])
            desk.scope.go_to_nth(match[1], match[2], there)
            counted += there.bars
    return tuple(sorted({*bars, *counted}))


def _go_to_half(desk: Desk, plain: str) -> bool:
    half = HALF_OF.search(plain)
    if half is None or desk.context.part is None:
        return False
    desk.scope.go_to_half(half[1], desk.context)
    return True


def _line_of_part(desk: Desk, index: int) -> tuple[int, ...]:
    """The bars of a line of the part: four to a line, where the part has whole lines."""
    part = next((p for p in desk.scope.chart.parts if p.number == desk.context.part), None)
    if part is None or part.bars % _LINE or part.bars // _LINE <= index:
        return ()
    first = part.start_bar + _LINE * index
    return tuple(range(first, first + _LINE))


def _number_of_chord(desk: Desk, plain: str) -> str:
    """ "Chord number two", "for the second one" while no tune is told: its ordinal, else nothing."""
    if counted := CHORD_NUMBER.search(plain):
        number = read_count(counted[1])
        return ORDINALS[number - 1] if 0 < number <= len(ORDINALS) else ""
    if desk.context.of_tune:
        return ""
    if counted := NTH_OF.search(plain):
        return ORDINALS[read_count(counted[2]) - 1] if counted[1].lower() == "last" else counted[1]
    counted = NTH_ONE.match(plain)
    return counted[1] if counted else ""


def _go_to_counted(desk: Desk, plain: str) -> bool:
    """ "The last four bars", "the third chord", "the sus chord"; the whole of a tune or song that is said to begin or end."""
    context, scope = desk.context, desk.scope
    if line := LINE_ENDS.search(plain):
        context.bars, context.grips, context.chord = (), (), None
        part = next((p for p in scope.chart.parts if p.number == context.part), None)
        if part is not None and "end" not in line[0] and "finish" not in line[0]:
            context.now = scope.chart.span(part)[0]
    elif THE_ENDING.search(plain) and context.part is not None:
        end = next(p.end_bar for p in scope.chart.parts if p.number == context.part)
        context.bars, context.grips, context.chord = (end,), (), None
    elif (line := NTH_LINE.search(plain)) and (bars := _line_of_part(desk, ORDINALS.index(line[1].lower()))):
        context.bars, context.grips, context.chord = bars, (), None
    elif several := RUN_OF_BARS.search(plain):
        scope.go_to_run(several, context)
    elif len(bars := _with_counted(desk, plain, ())) > 1:
        context.bars, context.grips, context.chord = bars, (), None
    elif counted := NTH.search(plain):
        scope.go_to_nth(counted[1], counted[2], context)
        desk.pinned = bool(context.grips)
    elif nth := _number_of_chord(desk, plain):
        scope.go_to_nth(nth, "chord", context)
        desk.pinned = bool(context.grips)
    elif kind := KIND_OF_CHORD.search(plain):
        scope.go_to_kind(kind[1].lower(), context)
        desk.pinned = bool(context.grips)
    else:
        return False
    return True
