"""Why a grip was chosen, in one sentence a player understands."""

from __future__ import annotations

from collections.abc import Sequence

from valley.model.arrangement import Grip, HandNote
from valley.theory.chord import Chord, name_inversion

_SIZES = {1: "a semitone", 2: "a whole tone"}


def _join(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def _moves(before: Sequence[HandNote], after: Sequence[HandNote]) -> int:
    """Widest way that a finger goes, in semitones."""
    return max((min(abs(a.midi - b.midi) for b in before) for a in after), default=0) if before else 0


def explain_grip(chord: Chord, left: Sequence[HandNote], right: Sequence[HandNote], before: Grip | None, *, melody_on_top: bool) -> str:
    """The strongest reason first: the first grip, kept keys, nearness, the tune, the bass."""
    if before is None:
        return f"Begins in the middle of the keyboard, {name_inversion(chord)}."
    kept = [n.pitch for n in (*left, *right) if n.midi in {m.midi for m in (*before.left, *before.right)}]
    if kept and len(kept) == len(left) + len(right):
        return "The same keys stay down."
    farthest = max(_moves(before.left, left), _moves(before.right, right))
    way = f"no finger goes further than {_SIZES.get(farthest, f'{farthest} semitones')}"
    if kept:
        stays = f"{_join(kept)} {'stays' if len(kept) == 1 else 'stay'} down"
        return f"{stays}, and {way}." if farthest <= 5 else f"{stays}."
    if farthest <= 4:
        return f"Nothing stays, but {way}."
    if melody_on_top and right:
        return f"The tune's {right[-1].pitch} stays on top, with the chord close under it."
    if left:
        return f"The left hand goes to {left[0].pitch} for the bass; the right hand stays near."
    return "The nearest grip that holds this chord."
