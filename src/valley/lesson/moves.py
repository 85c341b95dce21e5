"""How a hand gets from grip to grip, in words."""

from __future__ import annotations

from collections.abc import Sequence

from valley.model.arrangement import Grip, HandNote

_STEPS = {1: "a semitone", 2: "a tone", 3: "a minor third", 4: "a major third", 5: "a fourth", 6: "a tritone", 7: "a fifth", 12: "an octave"}
_LETTERS = {3: 2, 4: 2, 5: 3, 7: 4, 12: 7}  # by how many letters the named intervals go


def join_names(names: Sequence[str]) -> str:
    """ "A, C and E"."""
    return "" if not names else names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def say_distance(semitones: int, letters: int | None = None) -> str:
    """A distance as a player says it: "up a fourth". Where the spelling makes another interval of it, the keys are counted: Ab to B is no third.

    ``letters`` is how many letters the spelled notes lie apart; None where they are not spelled.

    >>> say_distance(-5), say_distance(3, letters=2), say_distance(3, letters=1)
    ('down a fourth', 'up a minor third', 'up 3 semitones')
    """
    size = abs(semitones)
    fits = letters is None or _LETTERS.get(size, letters) == letters
    return f"{'up' if semitones > 0 else 'down'} {_STEPS[size] if fits and size in _STEPS else f'{size} semitones'}"


def _apart(one: HandNote, other: HandNote) -> int:
    """Letters between two spelled notes: C4 to E4 is 2."""
    places = [7 * int(n.pitch[-1]) + "CDEFGAB".index(n.pitch[0]) for n in (one, other)]
    return abs(places[0] - places[1])


def describe_move(before: Grip, after: Grip) -> str:
    """What stays and what moves between two grips, each hand in one clause."""
    return " ".join(s for s in (_hand("Right hand", before.right, after.right), _hand("Left hand", before.left, after.left)) if s)


def count_changed(before: Grip, after: Grip) -> int:
    """How many keys change between two grips: those newly pressed."""
    held = {n.midi for n in before.notes}
    return sum(n.midi not in held for n in after.notes)


def _hand(title: str, before: Sequence[HandNote], after: Sequence[HandNote]) -> str:
    if not before or not after:
        return ""
    stay = [n.pitch for n in after if n.midi in {m.midi for m in before}]
    leave = [n for n in before if n.midi not in {m.midi for m in after}]
    arrive = [n for n in after if n.midi not in {m.midi for m in before}]
    if not arrive and not leave:
        return f"{title}: stay."
    clauses = [f"keep {join_names(stay)}"] if stay else []
    if len(leave) == len(arrive):
        clauses += [f"{a.pitch} goes {say_distance(b.midi - a.midi, _apart(a, b))} to {b.pitch}" for a, b in zip(leave, arrive, strict=True)]
    else:
        if leave:
            clauses.append(f"let go of {join_names([n.pitch for n in leave])}")
        if arrive:
            clauses.append(f"{'add' if stay else 'play'} {join_names([n.pitch for n in arrive])}")
    return f"{title}: {', '.join(clauses)}."
