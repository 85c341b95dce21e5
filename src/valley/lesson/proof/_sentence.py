"""One sentence: what it is about, and everything in it that claims something, judged from its beginning to its end."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from functools import lru_cache, partial

from valley.lesson.proof._acts import Act, read_names
from valley.lesson.proof._changes import CHANGES
from valley.lesson.proof._chords import judge_inversion, judge_member_in_bass
from valley.lesson.proof._counts import judge_counting, judge_length, judge_length_of_each, judge_place, judge_sum
from valley.lesson.proof._degrees import DEGREES
from valley.lesson.proof._desk import Desk, overlaps
from valley.lesson.proof._facts import FACTS
from valley.lesson.proof._intervals import INTERVALS, judge_leap
from valley.lesson.proof._names import NameFinder
from valley.lesson.proof._place import go_to_place, go_to_voice
from valley.lesson.proof._strokes import STROKES
from valley.lesson.proof._told import TOLD
from valley.lesson.proof._words import INVERSION, LENGTH, LENGTH_EACH, MEMBER_IN_BASS, QUESTION, SUM
from valley.model.arrangement import LEFT, RIGHT

_HANDS = re.compile(r"\b(left|right)(?:\s+hand)?\b|\b(LH|RH)\b|\bboth hands\b|\b(?:hands|it|that|them|all|everything) together\b", re.IGNORECASE)
_UNDER = re.compile(r"\b(?:underneath|beneath|under (?:that|this|it)|below (?:that|this|it))\b", re.IGNORECASE)
_BASS_DOES = re.compile(
    r"(?<!\bin )(?<!\bas )\bthe bass(?: line| part)? (?:is|plays|does|has|just|here|holds|stays)\b|(?<!\bin )\bthe bass(?:'s|’s) ", re.IGNORECASE
)
_PLACE = re.compile(
    r"\bon\s+(?:(?:beat|count)\s+(?=one|two|three|four|five|six|\d)|(?=\d)"
    r"|(?=(?:one|two|three|four)(?:\s*[,.;]|\s+(?:and on|you|we|it)\b)))(\d|[a-z]+)(\s?&|\s?and\b)?(?!\d)"
)
_COUNTING = re.compile(r"\b[Cc]ount(?:ing)?\s+((?:\d\s?(?:&|and|e|a)?[\s,]*)+)")
_COUNTS = (
    (LENGTH, 0, judge_length),
    (LENGTH_EACH, 0, judge_length_of_each),
    (_PLACE, 1, judge_place),
    (SUM, 0, judge_sum),
    (_COUNTING, 1, judge_counting),
    (INVERSION, 0, judge_inversion),
    (MEMBER_IN_BASS, 1, judge_member_in_bass),
)


def read_sentence(desk: Desk, names: NameFinder) -> None:
    """Judge every claim of the sentence on the desk."""
    turned = go_to_voice(desk)
    if QUESTION.search(desk.sentence):
        return
    if not desk.sentence.strip():
        desk.context.hand, desk.context.grips, desk.context.chord = None, (), None
        return
    if not turned:
        go_to_place(desk)
    facts = [*_facts(desk)]
    desk.taken = [span for span, _ in facts]
    acts = [*_hands(desk), *(act for _, act in facts), *read_names(desk, names), *_counts(desk)]
    for _, act in sorted(acts, key=lambda row: row[0]):
        act()


def _hands(desk: Desk) -> Iterator[Act]:
    """From here on it is this hand, or both."""
    for m in _HANDS.finditer(desk.sentence):
        hand = {"left": LEFT, "lh": LEFT, "right": RIGHT, "rh": RIGHT}.get((m[1] or m[2] or "").lower())
        yield m.start(), partial(setattr, desk.context, "hand", hand)
    if (bass := _BASS_DOES.search(desk.sentence)) and not _HANDS.search(desk.sentence):
        yield bass.start(), partial(setattr, desk.context, "hand", LEFT)
    under = _UNDER.search(desk.sentence)
    if under and not _HANDS.search(desk.sentence) and (desk.context.of_tune or desk.context.hand == RIGHT):
        yield under.start(), partial(setattr, desk.context, "hand", LEFT)
        yield len(desk.sentence), partial(setattr, desk.context, "hand", desk.context.hand)  # an aside: the talk is of the hand that it was of


def _facts(desk: Desk) -> Iterator[tuple[tuple[int, int], Act]]:
    """What is said of the song and of how the hands play, each with the words that it takes."""
    for judge, m, span in _told_facts(desk.sentence):
        yield span, (len(desk.sentence) if judge is judge_leap else m.start(), partial(judge, desk, m))


@lru_cache(maxsize=64)
def _told_facts(sentence: str) -> tuple[tuple[Callable[[Desk, re.Match[str]], None], re.Match[str], tuple[int, int]], ...]:
    """What a sentence says wherever it is meant: it is read in several places."""
    rows: list[tuple[Callable[[Desk, re.Match[str]], None], re.Match[str], tuple[int, int]]] = []
    for pattern, judge in (*FACTS, *STROKES, *CHANGES, *DEGREES, *INTERVALS, *TOLD):
        for m in pattern.finditer(sentence):
            group = next((g for g in ("said", "times", "both", "list", "n") if m.groupdict().get(g)), 0)
            if not any(judge is other and m.span(group) == span for other, _, span in rows):  # it is said once, whatever patterns fit
                rows.append((judge, m, m.span(group)))
    return tuple(rows)


def _counts(desk: Desk) -> Iterator[Act]:
    for pattern, group, judge in _COUNTS:
        for m in pattern.finditer(desk.sentence):
            if not overlaps(m.span(), desk.taken):
                yield m.end() if judge is judge_length else m.start(group), partial(judge, desk, m)
