"""How a hand gets from grip to grip, as it feels it: the shape that moves, the key that stays, the one that goes.

What is said is the nearest true description; a leap that has no such is told by where it lands, never in half steps.
"""

from __future__ import annotations

from collections.abc import Sequence

from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote
from valley.model.saying import Distance, Pitches, Saying, Several, Value, say
from valley.phrases import Words

THUMB = 1


def tell_move(before: Grip, after: Grip) -> tuple[Saying, ...]:
    """What each hand does between two grips, the right hand first; a hand that holds nothing before or after says nothing."""
    hands = ((RIGHT, before.right, after.right), (LEFT, before.left, after.left))
    told = []
    for hand, old, new in hands:
        if not old or not new:
            continue
        way = tell_way(old, new) or say("way lands", notes=_pitches(new))
        told.append(say(f"{hand} does", way=Several((way,))))
    for hand, came, gone, stayed in ((LEFT, after.left, before.right, after.right), (RIGHT, after.right, before.left, after.left)):
        passed = [n for n in came if n.midi in _midi(gone) and n.midi not in _midi(stayed)]
        if passed:
            told.append(say("passed", notes=_pitches(passed), hand=Several((say(f"to the {hand}"),))))
    return tuple(told)


def _midi(notes: Sequence[HandNote]) -> set[int]:
    return {n.midi for n in notes}


def describe_move(before: Grip, after: Grip) -> str:
    """The same in words, letters and octaves as usual."""
    words = Words()
    return " ".join(words.say(s) for s in tell_move(before, after))


def tell_way(before: Sequence[HandNote], after: Sequence[HandNote]) -> Saying | None:
    """How one hand goes from keys to keys; None where no short description is true."""
    old, new = [n.midi for n in before], [n.midi for n in after]
    if old == new:
        return say("way stays")
    stay = [n for n in after if n.midi in old]
    if len(old) == len(new):
        if stay:
            return _tell_some_stay(before, after, stay)
        return _tell_shape(before, after)
    arrive, leave = [n for n in after if n.midi not in old], [n for n in before if n.midi not in new]
    if stay and not leave:
        return say("way adds", notes=_pitches(arrive))
    if stay and not arrive:
        return say("way leaves", notes=_pitches(stay))
    return _keeps(before, stay) if stay else None


def _tell_some_stay(before: Sequence[HandNote], after: Sequence[HandNote], stay: Sequence[HandNote]) -> Saying:
    moving = [(a, b) for a, b in zip(before, after, strict=True) if a.midi != b.midi]
    if len(moving) == 1:
        one, other = moving[0]
        return _far("way one key", one, other, old=_pitches([one]), new=_pitches([other]))
    return _keeps(before, stay)


def _keeps(before: Sequence[HandNote], stay: Sequence[HandNote]) -> Saying:
    """What stays down; the thumb by its name where it is the thumb before and after."""
    thumb = len(stay) == 1 and stay[0].finger == THUMB and any(n.midi == stay[0].midi and n.finger == THUMB for n in before)
    return say("way thumb stays", note=_pitches(stay)) if thumb else say("way keeps", notes=_pitches(stay))


def _tell_shape(before: Sequence[HandNote], after: Sequence[HandNote]) -> Saying | None:
    """The same shape elsewhere, or every finger a step along."""
    steps = {b.midi - a.midi for a, b in zip(before, after, strict=True)}
    letters = {_letters_up(a, b) for a, b in zip(before, after, strict=True)}
    first, landed = before[0], after[0]
    if len(before) > 1 and len(steps) == 1:
        return _far("way same shape", first, landed, note=_pitches([landed]))
    if len(before) > 1 and letters in ({1}, {-1}):
        return say("way steps up" if letters == {1} else "way steps down")
    if len(before) == 1:
        return _far("way alone", first, landed, note=_pitches(after))
    return None


def _far(phrase: str, one: HandNote, other: HandNote, **values: Value) -> Saying:
    """With the distance where it has a name as it is spelled; else only where it lands."""
    distance = Distance(other.midi - one.midi, _letters_apart(one, other))
    return say(phrase, way=distance, **values) if distance.fits else say(f"{phrase} on", **values)


def _pitches(notes: Sequence[HandNote]) -> Pitches:
    return Pitches(tuple(n.pitch for n in notes))


def _place(note: HandNote) -> int:
    """Letters from C0: C4 is 28."""
    return 7 * int(note.pitch.lstrip("ABCDEFG#b")) + "CDEFGAB".index(note.pitch[0])


def _letters_up(one: HandNote, other: HandNote) -> int:
    return _place(other) - _place(one)


def _letters_apart(one: HandNote, other: HandNote) -> int:
    """Letters between two spelled notes: C4 to E4 is 2."""
    return abs(_letters_up(one, other))
