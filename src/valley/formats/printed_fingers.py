"""Fingers as they are printed: where a hand takes a new position and where the creator set one, not on every note.

A hand's position is which finger lies on which key. As long as it holds, a number would only say what the hand knows, and a grip that takes
the same fingers as the grip before – octaves, fifths, triads in a row – needs none; the usual way of editions for teaching is to print what changes.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import groupby

from valley.model.arrangement import HANDS, Arrangement, PlayedNote


def thin_fingers(arrangement: Arrangement) -> Arrangement:
    """The arrangement with the fingers that are printed; every part begins anew, so that it can be read by itself."""
    parts = []
    for part in arrangement.parts:
        bare = {id(n) for hand in HANDS for n in _known([n for n in part.notes if n.hand == hand])}
        parts.append(replace(part, notes=tuple(n.fingered(None) if id(n) in bare else n for n in part.notes)))
    return replace(arrangement, parts=tuple(parts))


def _known(notes: Sequence[PlayedNote]) -> list[PlayedNote]:
    """Notes of one hand whose finger follows from what was printed before."""
    known: list[PlayedNote] = []
    grip: tuple[int, ...] = ()  # fingers of the stroke before
    lies: dict[int, int] = {}  # finger → key
    for _, stroke in groupby(sorted(notes, key=lambda n: (n.start, not n.grace, n.midi)), key=lambda n: (n.start, n.grace)):
        struck = [n for n in stroke if n.finger is not None]
        wanted = {n.finger: n.midi for n in struck if n.finger is not None}
        if struck and all(lies.get(f) == k for f, k in wanted.items()) and not any(n.finger_set for n in struck):
            known += struck
            grip = tuple(wanted)
            continue
        holds = {k: f for f, k in lies.items()}
        if any(lies.get(f, k) != k or holds.get(k, f) != f for f, k in wanted.items()):
            lies = {}
        lies.update(wanted)
        if len(wanted) > 1 and tuple(wanted) == grip and not any(n.finger_set for n in struck):
            known += struck
        grip = tuple(wanted)
    return known
