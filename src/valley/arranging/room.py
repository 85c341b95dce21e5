"""Hands that keep out of each other's way: what accompanies goes round the keys that the other hand plays meanwhile."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from valley.arranging.tune import share_out
from valley.fraction import Fraction
from valley.model.arrangement import LEFT, RIGHT, Grip, PlayedNote


def keep_apart(notes: Sequence[PlayedNote], grips: Sequence[Grip], lowest: int) -> list[PlayedNote]:
    """The notes with the left hand's own below the right hand's, key by key and at every moment.

    What would stand on or above the right hand comes down by octaves, while it stays above the chord's bass; else it becomes the nearest key of the
    grip that is free, else it is left out where another key is struck with it. What the creator wrote or set, what is asked to cross, the bass and
    the links stay where they are.
    """
    right = sorted((n for n in notes if n.hand == RIGHT and not n.grace), key=lambda n: n.start)
    fixed = [g for g in grips if g.locked]
    out = [n for n in notes if n.hand != LEFT or _stays(n, fixed)]
    movable = sorted((n for n in notes if n.hand == LEFT and not _stays(n, fixed)), key=lambda n: (n.start, n.midi))
    above = share_out(right, [(n.start, n.end) for n in movable])
    spans = {(g.start, g.end): g for g in grips}
    at = sorted(spans)
    index = 0
    struck: dict[Fraction, set[int]] = {}
    for note, over in zip(movable, above, strict=True):
        while index < len(at) and at[index][1] <= note.start:
            index += 1
        grip = spans[at[index]] if index < len(at) and at[index][0] <= note.start else None
        ceiling = min((n.midi for n in over), default=128)
        taken = struck.setdefault(note.start, set())
        placed = _below(note, ceiling, grip, taken, lowest)
        if placed is not None:
            taken.add(placed.midi)
            out.append(placed)
    return out


def _stays(note: PlayedNote, fixed: Sequence[Grip]) -> bool:
    return note.source != "proposed" or note.crosses or note.link or note.grace or note.melody or any(g.start <= note.start < g.end for g in fixed)


def _below(note: PlayedNote, ceiling: int, grip: Grip | None, taken: set[int], lowest: int) -> PlayedNote | None:
    if note.midi < ceiling and note.midi not in taken:
        return note
    bass = grip.left[0].midi if grip and grip.left else lowest
    if note.midi == bass and note.midi not in taken:
        return note  # the tune has come down to the bass; a finding says so
    for midi in range(note.midi - 12, max(bass, lowest) - 1, -12):
        if midi < ceiling and midi not in taken:
            return replace(note, midi=midi, pitch=_octaves_down(note.pitch, (note.midi - midi) // 12))
    free = [n for n in (grip.left if grip else ()) if n.midi < ceiling and n.midi not in taken]
    if free:
        near = min(free, key=lambda n: abs(n.midi - note.midi))
        return replace(note, midi=near.midi, pitch=near.pitch)
    return None if taken else note


def _octaves_down(pitch: str, octaves: int) -> str:
    name = pitch.rstrip("-0123456789")
    return f"{name}{int(pitch[len(name) :]) - octaves}"
