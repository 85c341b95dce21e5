"""Fingers for notes in time: lines, strokes, and what is struck while other keys are held. No finger is on two keys at once."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations, groupby, pairwise
from operator import attrgetter

from valley.arranging.fingering import finger_grip, finger_line
from valley.arranging.reach import Hand
from valley.arranging.tune import in_order
from valley.fraction import Fraction
from valley.model.arrangement import HANDS, RIGHT, PlayedNote

_WHITE_KEYS_PER_OCTAVE = 7
_TRIES = 3
_KEYS, _OCTAVE = 5, 12  # keys of one place of the hand, and how far apart they lie at most
_FEW = 2  # single notes that are part of the handful beside them, and no line


def finger_notes(notes: Sequence[PlayedNote], hand: Hand) -> list[PlayedNote]:
    """Fingers for every note: single notes as lines, notes struck together as grips, what is struck over held keys with what fingers are free.

    One that was set stays; where no finger is left, the note has none.
    """
    out: list[PlayedNote] = []
    for side in HANDS:
        fingered: list[PlayedNote] = []
        for voice in (1, 2):
            fingered += _finger_voice([n for n in notes if n.hand == side and n.voice == voice], side, hand)
        out += _untangle(fingered, side)
    return out


def _untangle(notes: Sequence[PlayedNote], side: str) -> list[PlayedNote]:
    """The notes of one hand with fingers that it has; a held key gets another finger from its start where no other is left for what is struck over it."""
    best, wishes = _go_through(notes, side)
    for _ in range(_TRIES):
        if not wishes:
            break
        notes = [n if n.finger_set else n.fingered(wishes.get((n.start, n.midi), n.finger)) for n in notes]
        tried, wishes = _go_through(notes, side)
        if _without(tried) < _without(best):
            best = tried
    return best


def _without(notes: Sequence[PlayedNote]) -> int:
    return sum(n.finger is None for n in notes)


def _finger_voice(notes: Sequence[PlayedNote], side: str, hand: Hand) -> list[PlayedNote]:
    out: list[PlayedNote] = []
    line: list[PlayedNote] = []
    beside: tuple[int, ...] = ()  # keys of the handful before the line
    for place in _places([sorted(group, key=lambda n: not n.grace) for _, group in groupby(in_order(notes), key=attrgetter("start"))]):
        if all(len(stroke) == 1 for stroke in place):
            line += [stroke[0] for stroke in place]
            continue
        keys = sorted(_keys_of(place))
        out += _finger_line(line, side, hand, (*beside, *keys))
        line, beside = [], tuple(keys)
        fingers = dict(zip(keys, finger_grip(keys, side, hand), strict=True)) if len(keys) <= _KEYS and _are_plain(place) else {}
        out += [n if n.finger or n.midi not in fingers else n.fingered(fingers[n.midi]) for stroke in place for n in stroke]
    return out + _finger_line(line, side, hand, beside)


def _places(strokes: Sequence[Sequence[PlayedNote]]) -> list[list[Sequence[PlayedNote]]]:
    """Strokes in a row that one place of the hand takes: "F and A together, then D" is held as a chord is, whose keys come one after the other.

    One or two single notes join the handful before them, else that after them, where the keys of both are no more than five within an octave.
    """
    places: list[list[Sequence[PlayedNote]]] = []
    for single, group in groupby(strokes, key=lambda stroke: len(stroke) == 1):
        run = list(group)
        last = places[-1] if places else []
        if single and len(run) <= _FEW and last and _are_plain(last) and _fits(_keys_of([*last, *run])):
            last += run
        elif single:
            places.append(run)
        else:
            for stroke in run:
                last = places[-1] if places else []
                short = len(last) <= _FEW and all(len(s) == 1 for s in last)
                keys = _keys_of([*last, stroke])
                if last and _fits(keys) and _are_plain([*last, stroke]) and (short or keys == _keys_of(last)):
                    last.append(stroke)
                else:
                    places.append([stroke])
    return places


def _keys_of(strokes: Sequence[Sequence[PlayedNote]]) -> set[int]:
    return {n.midi for stroke in strokes for n in stroke}


def _fits(keys: set[int]) -> bool:
    return len(keys) <= _KEYS and max(keys) - min(keys) <= _OCTAVE


def _are_plain(place: Sequence[Sequence[PlayedNote]]) -> bool:
    """Whether every stroke is struck from the bottom up with each key once: graces and doubled keys have no grip."""
    return all([n.midi for n in s] == sorted({n.midi for n in s}) for s in place)


def _finger_line(line: Sequence[PlayedNote], side: str, hand: Hand, beside: Sequence[int] = ()) -> list[PlayedNote]:
    """Fingers of single notes; one by itself that lies beyond the handfuls beside it has the outer finger of that side, as a bass under its chords."""
    if len(line) == 1 and beside and not min(beside) <= line[0].midi <= max(beside):
        outer = 5 if (line[0].midi < min(beside)) == (side != RIGHT) else 1
        return [line[0] if line[0].finger else line[0].fingered(outer)]
    return [n if n.finger else n.fingered(f) for n, f in zip(line, finger_line([n.midi for n in line], side, hand), strict=True)]


def _go_through(notes: Sequence[PlayedNote], side: str) -> tuple[list[PlayedNote], dict[tuple[Fraction, int], int]]:
    """At every stroke the fingers of all keys that are down rise with the keys (fall, in the left hand); and the fingers that held keys should have had."""
    out: list[PlayedNote] = []
    wishes: dict[tuple[Fraction, int], int] = {}
    down: list[PlayedNote] = []
    for at, together in groupby(in_order(notes), key=attrgetter("start")):
        stroke = list(together)
        down = [n for n in down if n.end > at]
        struck = [n for n in stroke if not n.grace]
        if len(struck) + len(down) > 1 and not _in_order([*down, *struck], side):
            before, struck = struck, _refinger(struck, down, side)
            if any(n.finger is None for n in struck):
                wishes |= _other_fingers(before, down, side)
        out += [*(n for n in stroke if n.grace), *struck]
        down += [n for n in struck if not n.rings]
    return out, wishes


def _other_fingers(struck: Sequence[PlayedNote], down: Sequence[PlayedNote], side: str) -> dict[tuple[Fraction, int], int]:
    """Fingers for the held keys that leave some for those that are struck, if there are any."""
    free = [n if n.finger_set else n.fingered(None) for n in down]
    found = _refinger([*free, *struck], [], side)[: len(free)]
    return {(n.start, n.midi): n.finger for n in found if n.finger}


def _in_order(notes: Sequence[PlayedNote], side: str) -> bool:
    row = sorted((n.midi, n.finger) for n in notes if n.finger is not None)
    fingers = [finger for _, finger in (row if side == RIGHT else reversed(row))]
    return len(row) == len(notes) and all(a < b for a, b in pairwise(fingers))


def _refinger(struck: Sequence[PlayedNote], down: Sequence[PlayedNote], side: str) -> list[PlayedNote]:
    """The struck notes with the fingers that lie best between those that are held; none where the hand has none for them."""
    row = sorted([*down, *struck], key=lambda n: n.midi if side == RIGHT else -n.midi)
    held = {id(n) for n in down}
    best: tuple[float, tuple[int, ...]] | None = None
    if len({n.midi for n in row}) == len(row) <= 5:
        for fingers in combinations(range(1, 6), len(row)):
            if any((id(n) in held or n.finger_set) and n.finger not in (None, f) for n, f in zip(row, fingers, strict=True)):
                continue
            wide = [abs(b.midi - a.midi) * _WHITE_KEYS_PER_OCTAVE / 12 for a, b in zip(row, row[1:], strict=False)]
            cost = sum((w - (b - a)) ** 2 for w, a, b in zip(wide, fingers, fingers[1:], strict=False))
            best = min(best, (cost, fingers)) if best else (cost, fingers)
    given = {id(n): f for n, f in zip(row, best[1], strict=True)} if best else {}
    return [n if n.finger_set else n.fingered(given.get(id(n))) for n in struck]
