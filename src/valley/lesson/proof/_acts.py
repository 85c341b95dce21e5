"""What the names in a sentence claim: each kind of claim takes the names that are its own, and what is left are chords and lists of notes."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from functools import partial
from itertools import pairwise

from valley.lesson.proof._beats import find_struck, judge_struck
from valley.lesson.proof._chords import find_bass, go_to_bass, go_to_chord, go_to_end, go_to_final, judge_chord, judge_in_bars, judge_key, judge_run_of_chords
from valley.lesson.proof._counts import judge_length_of
from valley.lesson.proof._desk import Desk, overlaps
from valley.lesson.proof._ends import find_end_notes, judge_end_note
from valley.lesson.proof._facts import find_signs, judge_signs
from valley.lesson.proof._fingers import judge_fingers
from valley.lesson.proof._lists import find_lists, judge_list
from valley.lesson.proof._names import NameFinder, find_runs
from valley.lesson.proof._notes import judge_edge, judge_notes, judge_octave_on
from valley.lesson.proof._onward import is_onward, judge_move_of_tune, judge_onward, judge_way_back
from valley.lesson.proof._scope import Found
from valley.lesson.proof._told import find_becoming, judge_becoming, judge_staying
from valley.lesson.proof._words import (
    BAR_NUMBER,
    CHORD_THERE,
    EDGE,
    EDGE_AFTER,
    EDGE_STAYS,
    END_CHORD,
    EVERY,
    FINAL,
    HAS_SIGNS,
    HEDGED,
    IN_THE_BASS,
    LANDMARK,
    LENGTH_ON,
    NAMES_MIDDLE,
    NEGATED,
    OCTAVE_AFTER,
    OCTAVE_ON,
    OVER_CHORD,
    RUN_OF_CHORDS,
    STAYS_PUT,
    STAYS_THERE,
    goes_on,
    has_edge,
    read_count,
)
from valley.model.arrangement import LEFT, RIGHT

Act = tuple[int, Callable[[], None]]
"""Where in the sentence something stands, and what is done when it is come to."""
Taken = tuple[list[Act], Sequence[Found]]
"""What is done, and the names that are thereby told."""


def read_names(desk: Desk, names: NameFinder) -> Iterator[Act]:
    """All that is claimed with names. What is denied, or said of every chord, claims nothing."""
    if NAMES_MIDDLE.match(desk.sentence):
        return  # "Middle C is C4, the C nearest the middle of the keyboard"
    found = [r for r in _claimed(desk.sentence, names.find(desk.sentence)) if not overlaps((r.start, r.end), desk.taken)]
    found = [r for r in found if not HAS_SIGNS.match(desk.sentence, r.end)]  # "C minor has three flats": theory, whatever the song's key
    desk.named = found
    for take in _TAKES:
        acts, told = take(desk, found)
        yield from acts
        found = _without(found, told)


def _claimed(sentence: str, found: Sequence[Found]) -> list[Found]:
    """Names without those that are denied, and without what goes on from one that another stands for: "D, E, D instead of D, D, B"."""
    kept: list[Found] = []
    replaced: Found | None = None
    for row in found:
        if replaced is not None and not row.is_chord and re.fullmatch(r"\s*,\s*(?:and\s+)?|\s+and\s+", sentence[replaced.end : row.start]):
            replaced = row
        elif _AGAIN.search(sentence[: row.start]) and not row.is_chord and any(r.name == row.name for r in kept):
            continue  # "G, A, G, E, and the first G's dotted": one of those that were told
        elif _claims(sentence[: row.start]):
            kept.append(row)
        else:
            replaced = row if _REPLACED.search(sentence[: row.start]) else None
    return kept


_AGAIN = re.compile(r"\bthe (?:first|second|last|other) $", re.IGNORECASE)
_REPLACED = re.compile(r"\b(?:rather than|instead of|in place of)\s+(?:an?\s+|the\s+)?$", re.IGNORECASE)


def _claims(before: str) -> bool:
    return not any(pattern.search(before) for pattern in (NEGATED, LANDMARK, HEDGED, EVERY))


def _keys(desk: Desk, found: list[Found]) -> Taken:
    keys = [r for r in found if desk.scope.is_key(r, desk.sentence)]
    return [(row.start, partial(judge_key, desk, row)) for row in keys], keys


def _signs(desk: Desk, found: list[Found]) -> Taken:
    signs = find_signs(desk.sentence, found)
    return [(signs[0].start, partial(judge_signs, desk, signs))] if signs else [], signs


def _ends(desk: Desk, found: list[Found]) -> Taken:
    ends = find_end_notes(desk, found)
    acts: list[Act] = [(row.start, partial(judge_end_note, desk, row, line, end)) for row, line, end in ends]
    return [*acts, (len(desk.sentence), partial(judge_fingers, desk, list(found)))], [row for row, _, _ in ends]


def _basses(desk: Desk, found: list[Found]) -> Taken:
    bass = find_bass(desk, found)
    return ([(0, partial(go_to_bass, desk, bass))], [bass]) if bass else ([], [])


def _places(desk: Desk, found: list[Found]) -> Taken:
    """Which bare letters are chords, and where what is told stands or how long it lasts: no name is told by that alone."""
    sentence = desk.sentence
    desk.scope.name_roots(sentence, found, desk.context)
    acts: list[Act] = []
    over = [r for r in found if r.is_chord and (OVER_CHORD.search(sentence[: r.start]) or CHORD_THERE.search(sentence[: r.start]))]
    if len(over) == 1 and any(not r.is_chord for r in found):
        acts.append((0, partial(go_to_chord, desk, over[0])))
    for row in found:
        if FINAL.search(sentence[: row.start]) and row.octave is None and not re.search(r"\b(?:tune|melody)\b", sentence, re.IGNORECASE):
            acts.append((row.start, partial(go_to_final, desk)))
        elif (end := END_CHORD.search(sentence[: row.start])) and row.octave is None:
            acts.append((row.start, partial(go_to_end, desk, end)))
        elif length := LENGTH_ON.search(sentence[: row.start]):
            acts.append((row.start, partial(judge_length_of, desk, row, length)))
    return acts, []


def _octaves(desk: Desk, found: list[Found]) -> Taken:
    rows = [r for r in found if not r.is_chord and (OCTAVE_ON.search(desk.sentence[: r.start]) or OCTAVE_AFTER.match(desk.sentence, r.end))]
    for before, row in pairwise(found):  # "octaves on G and C"
        many = before in rows and re.search(r"\boctaves (?:on|of) ", desk.sentence[: before.start], re.IGNORECASE) is not None
        if many and not row.is_chord and row not in rows and goes_on(desk.sentence[before.end : row.start]):
            rows.append(row)
    return [(row.start, partial(judge_octave_on, desk, row)) for row in rows], rows


def _struck(desk: Desk, found: list[Found]) -> Taken:
    struck = find_struck(desk.sentence, found)
    rows = [row for group in struck for row in group.rows]
    desk.taken += [(group.start, group.end) for group in struck]
    return [(rows[-1].start, partial(judge_struck, desk, struck))] if rows else [], rows


def _edges(desk: Desk, found: list[Found]) -> Taken:
    """The lowest and the highest; what is told so is remembered as told with the rest."""
    sentence, notes = desk.sentence, [r for r in found if not r.is_chord]
    desk.told = {r.name.pitch_class for r in notes}
    if len(notes) >= 3:
        desk.context.spelled = tuple(r.name.pitch_class for r in notes)
    edges = [(r, said[1]) for r in notes if (said := EDGE.search(sentence[: r.start]))]
    edges += [(r, said[1]) for r in notes if (said := EDGE_AFTER.match(sentence, r.end)) and has_edge(sentence[: r.start])]
    edges += [(r, said[1]) for r in notes if (said := EDGE_STAYS.search(sentence[: r.start])) and STAYS_THERE.match(sentence, r.end)]
    edges += [(r, "bass") for r in notes if IN_THE_BASS.match(sentence, r.end) and not _are_both_below(sentence, notes, r)]
    return [(row.start, partial(judge_edge, desk, row, edge)) for row, edge in edges], [row for row, _ in edges]


def _are_both_below(sentence: str, notes: list[Found], row: Found) -> bool:
    """Whether "with D and A in the bass" tells both keys of the hand, and not the lowest."""
    before = [r for r in notes if r.end <= row.start]
    return (
        bool(before)
        and sentence[before[-1].end : row.start].strip() == "and"
        and (len(before) == 1 or re.search(r"\bwith\s+$", sentence[: before[-1].start]) is not None)
    )


def _runs_of_chords(desk: Desk, found: list[Found]) -> Taken:
    run = RUN_OF_CHORDS.search(desk.sentence)
    rows = [r for r in found if run and r.start >= run.end()]
    told = rows if run and len(rows) == read_count(run[2]) else []
    desk.named = _without(desk.named, told)
    return [(rows[0].start, partial(judge_run_of_chords, desk, rows, run[1].lower()))] if run and told else [], told


_IN_BARS = re.compile(rf"\bin bars ({BAR_NUMBER}) and ({BAR_NUMBER})(?=\s*[.,;!]|$)", re.IGNORECASE)


def _in_bars(desk: Desk, found: list[Found]) -> Taken:
    """A chord that comes in several bars is held against each of them, beside where it is named."""
    bars = _IN_BARS.search(desk.sentence)
    chords = [r for r in found if r.is_chord]
    comes = re.search(r"\b(?:comes|appears|is|there's|happens|used|have|get)\b", desk.sentence, re.IGNORECASE)
    if bars is None or len(chords) != 1 or len(found) != 1 or not comes or chords[0].start > bars.start():
        return [], []
    return [(bars.start(), partial(judge_in_bars, desk, chords[0], bars))], []


def _becoming(desk: Desk, found: list[Found]) -> Taken:
    pairs = find_becoming(desk.sentence, found)
    acts: list[Act] = []
    for pair in pairs:
        both = partial(_judge_told, desk, list(pair), partial(_judge_runs, desk, list(pair)))
        acts.append((pair[0].start, partial(judge_becoming, desk, pair, both, partial(_judge_runs, desk, [pair[1]]))))
    return acts, [row for pair in pairs for row in pair]


def _lists(desk: Desk, found: list[Found]) -> Taken:
    desk.loose = [(r.start, r.end) for r in found]
    lists, acts = find_lists(desk.sentence, found), list[Act]()
    for above, below in pairwise(lists):
        if len(above) > 1 and desk.sentence[above[-1].end : below[0].start].strip() == "over":  # the right hand over the left
            acts.append((above[0].start - 1, partial(setattr, desk.context, "hand", RIGHT)))
            acts.append((below[0].start - 1, partial(setattr, desk.context, "hand", LEFT)))
    for rows in lists:
        one_by_one = partial(_judge_runs, desk, rows)
        acts.append((rows[0].start, partial(_judge_told, desk, rows, partial(judge_list, desk, rows, one_by_one) if len(rows) > 1 else one_by_one)))
    return acts, found


def _staying(desk: Desk, found: list[Found]) -> Taken:
    rows = [r for r in found if not r.is_chord and _THE.search(desk.sentence[: r.start]) and STAYS_PUT.match(desk.sentence, r.end)]
    return [(row.start, partial(judge_staying, desk, row)) for row in rows], rows


_THE = re.compile(r"\b(?:the|that|your) $", re.IGNORECASE)
_TAKES = (_keys, _signs, _ends, _basses, _places, _octaves, _struck, _edges, _staying, _runs_of_chords, _in_bars, _becoming, _lists)


def _judge_told(desk: Desk, rows: list[Found], by_itself: Callable[[], None]) -> None:
    """Names that go on from those before them, or stand by themselves."""
    onward = (is_onward(desk, rows) and judge_onward(desk, rows)) or (len(rows) == 1 and judge_way_back(desk, rows[0]))
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
