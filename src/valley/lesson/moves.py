"""How a hand gets from grip to grip, as sayings."""

from __future__ import annotations

from collections.abc import Sequence

from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote
from valley.model.saying import Distance, Pitches, Saying, Several, say
from valley.phrases import Words


def tell_move(before: Grip, after: Grip) -> tuple[Saying, ...]:
    """What stays and what moves between two grips, each hand in one sentence."""
    hands = ((RIGHT, before.right, after.right), (LEFT, before.left, after.left))
    return tuple(told for hand, old, new in hands if (told := _tell_hand(hand, old, new)) is not None)


def describe_move(before: Grip, after: Grip) -> str:
    """The same in words, letters and octaves as usual."""
    words = Words()
    return " ".join(words.say(s) for s in tell_move(before, after))


def count_changed(before: Grip, after: Grip) -> int:
    """How many keys change between two grips: those newly pressed."""
    held = {n.midi for n in before.notes}
    return sum(n.midi not in held for n in after.notes)


def _tell_hand(hand: str, before: Sequence[HandNote], after: Sequence[HandNote]) -> Saying | None:
    if not before or not after:
        return None
    stay = [n for n in after if n.midi in {m.midi for m in before}]
    leave = [n for n in before if n.midi not in {m.midi for m in after}]
    arrive = [n for n in after if n.midi not in {m.midi for m in before}]
    if not arrive and not leave:
        return say(f"{hand} stays")
    clauses = [say("keep", notes=_pitches(stay))] if stay else []
    if len(leave) == len(arrive):
        clauses += [_tell_note(a, b) for a, b in zip(leave, arrive, strict=True)]
    else:
        clauses += [say("let go", notes=_pitches(leave))] if leave else []
        clauses += [say("add" if stay else "play", notes=_pitches(arrive))] if arrive else []
    return say(f"{hand} moves", clauses=Several(tuple(clauses)))


def _tell_note(old: HandNote, new: HandNote) -> Saying:
    way = Distance(new.midi - old.midi, _letters_apart(old, new))
    return say("goes", old=_pitches([old]), way=way, new=_pitches([new]))


def _pitches(notes: Sequence[HandNote]) -> Pitches:
    return Pitches(tuple(n.pitch for n in notes))


def _letters_apart(one: HandNote, other: HandNote) -> int:
    """Letters between two spelled notes: C4 to E4 is 2."""
    places = [7 * int(n.pitch[-1]) + "CDEFGAB".index(n.pitch[0]) for n in (one, other)]
    return abs(places[0] - places[1])
