"""One sentence: what it is about, and everything in it that claims something, judged from its beginning to its end."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from functools import partial

from valley.lesson.proof._chords import judge_chord, judge_inversion, judge_key
from valley.lesson.proof._counts import judge_counting, judge_length, judge_place, judge_sum
from valley.lesson.proof._desk import Desk
from valley.lesson.proof._names import NameFinder, find_runs
from valley.lesson.proof._notes import judge_edge, judge_notes
from valley.lesson.proof._scope import Found
from valley.lesson.proof._words import (
    BARS,
    BEGINNING,
    EDGE,
    EVERY,
    IN_THE_BASS,
    INVERSION,
    LENGTH,
    NEGATED,
    NTH,
    RUN_OF_BARS,
    SUM,
    read_count,
)
from valley.model.arrangement import LEFT, RIGHT

Act = tuple[int, Callable[[], None]]
"""Where in the sentence something stands, and what is done when it is come to."""
_HANDS = re.compile(r"\b(left|right)(?:\s+hand)?\b|\b(LH|RH)\b|\bboth hands\b|\btogether\b", re.IGNORECASE)
_PLACE = re.compile(r"\bon\s+(?:(?:beat|count)\s+(?=one|two|three|four|five|six|\d)|(?=\d))(\d|[a-z]+)(\s?&|\s?and\b)?(?!\d)")
_COUNTING = re.compile(r"\b[Cc]ount(?:ing)?\s+((?:\d\s?(?:&|and|e|a)?[\s,]*)+)")
_COUNTS = ((LENGTH, 1, judge_length), (_PLACE, 1, judge_place), (SUM, 0, judge_sum), (_COUNTING, 1, judge_counting), (INVERSION, 0, judge_inversion))


def read_sentence(desk: Desk, names: NameFinder) -> None:
    """Judge every claim of the sentence on the desk."""
    if not desk.sentence.strip():
        desk.context.hand, desk.context.grips, desk.context.chord = None, (), None
        return
    _go_to_place(desk)
    acts = [*_hands(desk), *_names(desk, names), *_counts(desk)]
    for _, act in sorted(acts, key=lambda row: row[0]):
        act()


def _go_to_place(desk: Desk) -> None:
    """The part, bars or chord that the sentence speaks of; they hold until others are named."""
    context, scope = desk.context, desk.scope
    plain = re.split(r"\bexcept\b", desk.sentence, maxsplit=1)[0]
    part = scope.find_part(plain)
    bars = [read_count(n) for m in BARS.finditer(plain) for n in m.groups() if n]
    if part is not None and part != context.part:
        context.part, context.bars, context.grips, context.chord = part, (), (), None
    if bars:
        context.bars = tuple(range(bars[0], bars[-1] + 1)) if len(bars) == 2 else tuple(bars)
        context.grips, context.chord = (), None
    elif several := RUN_OF_BARS.search(plain):
        scope.go_to_run(several, context)
    elif counted := NTH.search(plain):
        scope.go_to_nth(counted, context)
    elif BEGINNING.search(plain) and not context.bars:
        context.grips = tuple(desk.grips_here()[:1])


def _hands(desk: Desk) -> Iterator[Act]:
    """From here on it is this hand, or both."""
    for m in _HANDS.finditer(desk.sentence):
        hand = {"left": LEFT, "lh": LEFT, "right": RIGHT, "rh": RIGHT}.get((m[1] or m[2] or "").lower())
        yield m.start(), partial(setattr, desk.context, "hand", hand)


def _names(desk: Desk, names: NameFinder) -> Iterator[Act]:
    """Keys, the outermost notes, chords and lists of notes. What is denied, or said of every chord, claims nothing."""
    sentence = desk.sentence
    found = [r for r in names.find(sentence) if not NEGATED.search(sentence[: r.start]) and not EVERY.search(sentence[: r.start])]
    keys = [r for r in found if desk.scope.is_key(r, sentence)]
    yield from ((row.start, partial(judge_key, desk, row)) for row in keys)
    found = _without(found, keys)
    desk.scope.name_roots(sentence, found, desk.context)
    edges = [(r, said[1]) for r in found if not r.is_chord and (said := EDGE.search(sentence[: r.start]))]
    edges += [(r, "bass") for r in found if not r.is_chord and IN_THE_BASS.match(sentence, r.end)]
    yield from ((row.start, partial(judge_edge, desk, row, edge)) for row, edge in edges)
    found = _without(found, [row for row, _ in edges])
    desk.named = found
    desk.told = {r.name.pitch_class for r in found if not r.is_chord}
    for run in find_runs(sentence, found):
        yield run[0].start, partial(judge_chord, desk, run[0]) if run[0].is_chord else partial(judge_notes, desk, run)


def _without(rows: list[Found], gone: list[Found]) -> list[Found]:
    return [r for r in rows if all(r is not g for g in gone)]


def _counts(desk: Desk) -> Iterator[Act]:
    for pattern, group, judge in _COUNTS:
        for m in pattern.finditer(desk.sentence):
            yield m.start(group), partial(judge, desk, m)
