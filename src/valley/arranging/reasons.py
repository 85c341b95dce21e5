"""Why a grip was chosen, what to mind, and the easy way to see it: one sentence each, as a player says it."""

from __future__ import annotations

from collections.abc import Sequence

from valley.arranging.reach import Hand
from valley.arranging.styles import Style
from valley.model.arrangement import Grip, HandNote
from valley.theory.chord import Chord, name_inversion

_SIZES = {1: "a semitone", 2: "a whole tone"}


def join_words(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def _moves(before: Sequence[HandNote], after: Sequence[HandNote]) -> int:
    """Widest way that a finger goes, in semitones."""
    return max((min(abs(a.midi - b.midi) for b in before) for a in after), default=0) if before else 0


def explain_grip(chord: Chord, left: Sequence[HandNote], right: Sequence[HandNote], before: Grip | None, style: Style, said: str, *, tune: bool) -> str:
    """The strongest reason first: a substitution, the first grip, kept keys, nearness, the tune, the bass."""
    reason = _main_reason(chord, left, right, before, style, tune=tune)
    return f"{reason[:-1]}; for this hand {said}." if said else reason


def _main_reason(chord: Chord, left: Sequence[HandNote], right: Sequence[HandNote], before: Grip | None, style: Style, *, tune: bool) -> str:
    if before is None:
        return f"Begins in the middle of the keyboard, {name_inversion(chord, (*left, *right)[0].midi if left or right else None)}."
    held = {n.midi for n in before.notes}
    kept = [n.pitch for n in (*left, *right) if n.midi in held]
    if kept and len(kept) == len(left) + len(right):
        return "The same keys stay down."
    farthest = max(_moves(before.left, left), _moves(before.right, right))
    way = f"no finger goes further than {_SIZES.get(farthest, f'{farthest} semitones')}"
    if kept:
        stays = f"{join_words(kept)} {'stays' if len(kept) == 1 else 'stay'} down"
        return f"{stays}, and {way}." if farthest <= 5 else f"{stays}."
    if style.weights.get("walk") and left and before.left and 0 < abs(left[0].midi - before.left[0].midi) <= 2:
        return f"The bass walks {'up' if left[0].midi > before.left[0].midi else 'down'} a step to {left[0].pitch}."
    if farthest <= 4:
        return f"Nothing stays, but {way}."
    if tune and style.melody == "top" and right:
        return f"The tune's {right[-1].pitch} stays on top, with the chord close under it."
    if left:
        return f"The left hand goes to {left[0].pitch} for the bass; the right hand stays near."
    return "The nearest grip that holds this chord."


def warn_of_reach(reach_left: float, reach_right: float, hand: Hand) -> str:
    """A caution where a stretch is beyond comfort, or an empty text."""
    widest, which = max((reach_left, "left"), (reach_right, "right"))
    if widest <= hand.comfort_mm:
        return ""
    return (
        f"The {which} hand spans {widest:.0f} mm here; {hand.comfort_mm:.0f} mm is comfortable for it. Leave out a starred note or roll the grip; "
        "stop and rest if it hurts, and ask a teacher or a clinician about pain."
    )
