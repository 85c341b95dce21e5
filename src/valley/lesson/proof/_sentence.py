"""One sentence: what it is about, and everything in it that claims something, judged from its beginning to its end."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from functools import partial
from itertools import pairwise

from valley.lesson.proof._beats import find_struck, judge_struck
from valley.lesson.proof._changes import CHANGES
from valley.lesson.proof._chords import find_bass, go_to_bass, go_to_chord, go_to_end, go_to_final, judge_chord, judge_inversion, judge_key, judge_run_of_chords
from valley.lesson.proof._counts import judge_counting, judge_length, judge_length_of, judge_length_of_each, judge_place, judge_sum
from valley.lesson.proof._degrees import DEGREES
from valley.lesson.proof._desk import Desk
from valley.lesson.proof._ends import find_end_notes, judge_end_note
from valley.lesson.proof._facts import FACTS, find_signs, judge_signs
from valley.lesson.proof._fingers import judge_fingers
from valley.lesson.proof._lists import find_lists, judge_list
from valley.lesson.proof._names import NameFinder, find_runs
from valley.lesson.proof._notes import judge_edge, judge_notes, judge_octave_on
from valley.lesson.proof._onward import is_onward, judge_move_of_tune, judge_onward
from valley.lesson.proof._place import go_to_place
from valley.lesson.proof._scope import Found
from valley.lesson.proof._strokes import STROKES
from valley.lesson.proof._told import TOLD, find_becoming, judge_becoming
from valley.lesson.proof._words import (
    CHORD_THERE,
    EDGE,
    EDGE_AFTER,
    END_CHORD,
    EVERY,
    FINAL,
    HAS_SIGNS,
    HEDGED,
    IN_THE_BASS,
    INVERSION,
    LANDMARK,
    LENGTH,
    LENGTH_EACH,
    LENGTH_ON,
    NEGATED,
    OCTAVE_ON,
    OVER_CHORD,
    QUESTION,
    RUN_OF_CHORDS,
    SUM,
    has_edge,
    read_count,
)
from valley.model.arrangement import LEFT, RIGHT

Act = tuple[int, Callable[[], None]]
"""Where in the sentence something stands, and what is done when it is come to."""
_HANDS = re.compile(r"\b(left|right)(?:\s+hand)?\b|\b(LH|RH)\b|\bboth hands\b|\b(?:hands|it|that|them|all|everything) together\b", re.IGNORECASE)
_PLACE = re.compile(r"\bon\s+(?:(?:beat|count)\s+(?=one|two|three|four|five|six|\d)|(?=\d))(\d|[a-z]+)(\s?&|\s?and\b)?(?!\d)")
_COUNTING = re.compile(r"\b[Cc]ount(?:ing)?\s+((?:\d\s?(?:&|and|e|a)?[\s,]*)+)")
_COUNTS = (
    (LENGTH, 0, judge_length),
    (LENGTH_EACH, 0, judge_length_of_each),
    (_PLACE, 1, judge_place),
    (SUM, 0, judge_sum),
    (_COUNTING, 1, judge_counting),
    (INVERSION, 0, judge_inversion),
)


def read_sentence(desk: Desk, names: NameFinder) -> None:
    """Judge every claim of the sentence on the desk."""
    if QUESTION.search(desk.sentence):
        return
    if not desk.sentence.strip():
        desk.context.hand, desk.context.grips, desk.context.chord = None, (), None
        return
    go_to_place(desk)
    facts = [*_facts(desk)]
    taken = [span for span, _ in facts]
    acts = [*_hands(desk), *(act for _, act in facts), *_names(desk, names, taken), *_counts(desk, taken)]
    for _, act in sorted(acts, key=lambda row: row[0]):
        act()


def _hands(desk: Desk) -> Iterator[Act]:
    """From here on it is this hand, or both."""
    for m in _HANDS.finditer(desk.sentence):
        hand = {"left": LEFT, "lh": LEFT, "right": RIGHT, "rh": RIGHT}.get((m[1] or m[2] or "").lower())
        yield m.start(), partial(setattr, desk.context, "hand", hand)


def _facts(desk: Desk) -> Iterator[tuple[tuple[int, int], Act]]:
    """What is said of the song and of how the hands play, each with the words that it takes."""
    for pattern, judge in (*FACTS, *STROKES, *CHANGES, *DEGREES, *TOLD):
        for m in pattern.finditer(desk.sentence):
            group = next((g for g in ("said", "times", "both", "list", "n") if m.groupdict().get(g)), 0)
            yield m.span(group), (m.start(), partial(judge, desk, m))


def _overlaps(span: tuple[int, int], taken: list[tuple[int, int]]) -> bool:
    return any(span[0] < end and start < span[1] for start, end in taken)


def _names(desk: Desk, names: NameFinder, taken: list[tuple[int, int]]) -> Iterator[Act]:
    """Keys, the outermost notes, chords and lists of notes. What is denied, or said of every chord, claims nothing."""
    sentence = desk.sentence
    found = [
        r
        for r in names.find(sentence)
        if not NEGATED.search(sentence[: r.start])
        and not LANDMARK.search(sentence[: r.start])
        and not HEDGED.search(sentence[: r.start])
        and not EVERY.search(sentence[: r.start])
        and not _overlaps((r.start, r.end), taken)
    ]
    found = [r for r in found if not HAS_SIGNS.match(sentence, r.end)]  # "C minor has three flats": theory, whatever the song's key
    keys = [r for r in found if desk.scope.is_key(r, sentence)]
    yield from ((row.start, partial(judge_key, desk, row)) for row in keys)
    found = _without(found, keys)
    if signs := find_signs(sentence, found):
        yield signs[0].start, partial(judge_signs, desk, signs)
        found = _without(found, signs)
    ends = find_end_notes(desk, found)
    yield from ((row.start, partial(judge_end_note, desk, row, line, end)) for row, line, end in ends)
    yield (len(sentence), partial(judge_fingers, desk, list(found)))
    found = _without(found, [row for row, _, _ in ends])
    if (bass := find_bass(desk, found)) is not None:
        yield 0, partial(go_to_bass, desk, bass)
        found = _without(found, [bass])
    desk.scope.name_roots(sentence, found, desk.context)
    over = [r for r in found if r.is_chord and (OVER_CHORD.search(sentence[: r.start]) or CHORD_THERE.search(sentence[: r.start]))]
    if len(over) == 1 and any(not r.is_chord for r in found):
        yield 0, partial(go_to_chord, desk, over[0])
    for row in found:
        if FINAL.search(sentence[: row.start]) and row.octave is None and not re.search(r"\b(?:tune|melody)\b", sentence, re.IGNORECASE):
            yield row.start, partial(go_to_final, desk)
        elif (end := END_CHORD.search(sentence[: row.start])) and row.octave is None:
            yield row.start, partial(go_to_end, desk, end)
        elif length := LENGTH_ON.search(sentence[: row.start]):
            yield row.start, partial(judge_length_of, desk, row, length)
    edges = [(r, said[1]) for r in found if not r.is_chord and (said := EDGE.search(sentence[: r.start]))]
    edges += [(r, said[1]) for r in found if not r.is_chord and (said := EDGE_AFTER.match(sentence, r.end)) and has_edge(sentence[: r.start])]
    edges += [(r, "bass") for r in found if not r.is_chord and IN_THE_BASS.match(sentence, r.end)]
    yield from ((row.start, partial(judge_edge, desk, row, edge)) for row, edge in edges)
    octaves = [r for r in found if not r.is_chord and OCTAVE_ON.search(sentence[: r.start])]
    yield from ((row.start, partial(judge_octave_on, desk, row)) for row in octaves)
    found = _without(found, octaves)
    if struck := find_struck(sentence, found):
        rows = [row for group in struck for row in group.rows]
        taken += [(group.start, group.end) for group in struck]
        yield rows[-1].start, partial(judge_struck, desk, struck)
        found = _without(found, rows)
    desk.told = {r.name.pitch_class for r in found if not r.is_chord}
    if len(spelled := tuple(r.name.pitch_class for r in found if not r.is_chord)) >= 3:
        desk.context.spelled = spelled
    found = _without(found, [row for row, _ in edges])
    run = RUN_OF_CHORDS.search(sentence)
    if run and (rows := [r for r in found if r.start >= run.end()]) and len(rows) == read_count(run[2]):
        yield rows[0].start, partial(judge_run_of_chords, desk, rows, run[1].lower())
        found = _without(found, rows)
    desk.named = found
    for pair in find_becoming(sentence, found):
        yield pair[0].start, partial(judge_becoming, desk, pair, partial(_judge_told, desk, list(pair), partial(_judge_runs, desk, list(pair))))
        found = _without(found, pair)
    lists = find_lists(sentence, found)
    for above, below in pairwise(lists):
        if len(above) > 1 and sentence[above[-1].end : below[0].start].strip() == "over":  # the right hand over the left
            yield above[0].start - 1, partial(setattr, desk.context, "hand", RIGHT)
            yield below[0].start - 1, partial(setattr, desk.context, "hand", LEFT)
    for rows in lists:
        one_by_one = partial(_judge_runs, desk, rows)
        yield rows[0].start, partial(_judge_told, desk, rows, partial(judge_list, desk, rows, one_by_one) if len(rows) > 1 else one_by_one)


def _judge_told(desk: Desk, rows: list[Found], by_itself: Callable[[], None]) -> None:
    """Names that go on from those before them, or stand by themselves."""
    onward = is_onward(desk, rows) and judge_onward(desk, rows)
    if not onward and not (len(rows) == 1 and not rows[0].is_chord and judge_move_of_tune(desk, rows[0])):
        by_itself()
        desk.context.last_told = ()
    if not any(r.is_chord for r in rows):
        desk.context.last_told = (*desk.context.last_told, *rows)


def _judge_runs(desk: Desk, rows: list[Found]) -> None:
    """Name by name: chords as chords, notes that are told together as a grip."""
    for run in find_runs(desk.sentence, rows):
        if run[0].is_chord:
            judge_chord(desk, run[0])
        else:
            judge_notes(desk, run)


def _without(rows: list[Found], gone: Sequence[Found]) -> list[Found]:
    return [r for r in rows if all(r is not g for g in gone)]


def _counts(desk: Desk, taken: list[tuple[int, int]]) -> Iterator[Act]:
    for pattern, group, judge in _COUNTS:
        for m in pattern.finditer(desk.sentence):
            if not _overlaps(m.span(), taken):
                yield m.end() if judge is judge_length else m.start(group), partial(judge, desk, m)
