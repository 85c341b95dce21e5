"""The creator's own notes at another level than they were written for: thinned for the easier one, added to for the fuller one.

What is left out is what players leave out: doublings first, then inner notes; never the left hand's bass, never the tune on top of the right hand.
What is added may be left out again, and is starred.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Final

from valley.arranging.styles import EASIER, FULLER, LEVELS
from valley.fraction import Fraction
from valley.model.arrangement import LEFT
from valley.model.passage import Passage, WrittenNote

_MOST = 2  # keys of a stroke in the easier version
_LONG: Final = Fraction(1)  # beats: what is shorter is not doubled
_LOWEST, _ROOM = 28, 60  # no octave below E1 for the left hand, below C4 for the right


def notes_at(passage: Passage, level: str, start: Fraction, end: Fraction) -> tuple[WrittenNote, ...]:
    """The notes of a passage at a level, from one of its beats to another: as they are at its own."""
    notes = passage.between(start, end)
    if level == passage.level:
        return notes
    strokes: dict[Fraction, list[WrittenNote]] = {}
    for note in notes:
        strokes.setdefault(note.start, []).append(note)
    change = _thin if LEVELS.index(level) < LEVELS.index(passage.level) else _fill
    if change is _thin and passage.level == FULLER and level != EASIER:
        return tuple(n for n in notes if not n.optional)
    changed = (note for stroke in strokes.values() for note in change(stroke, passage.hand))
    return tuple(sorted(changed, key=lambda n: (n.start, n.voice, n.midi)))


def _thin(stroke: Sequence[WrittenNote], hand: str) -> list[WrittenNote]:
    graces = [n for n in stroke if n.grace]
    keys = sorted((n for n in stroke if not n.grace), key=lambda n: n.midi if hand == LEFT else -n.midi)  # what must stay comes first
    kept: list[WrittenNote] = []
    for note in keys:
        if all(note.midi % 12 != other.midi % 12 for other in kept):
            kept.append(note)
    if len(kept) > _MOST:
        kept = [kept[0], kept[-1]]
    return [*graces, *kept]


def _fill(stroke: Sequence[WrittenNote], hand: str) -> list[WrittenNote]:
    keys = [n for n in stroke if not n.grace]
    if len(keys) != 1 or keys[0].duration < _LONG:
        return [*stroke]
    octave = keys[0].midi - 12
    if octave < (_LOWEST if hand == LEFT else _ROOM):
        return [*stroke]
    return [*stroke, replace(keys[0], midi=octave, pitch="", finger=None, optional=True)]
