"""A grip changed where the creator's own notes stand: the notes change, because they are what sounds."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Literal

from valley.arranging.passages import level_at
from valley.edits.passages import check_keys, cut_out, hand_in, in_order, lay_in
from valley.errors import ParameterError
from valley.fraction import Fraction
from valley.model.arrangement import HANDS, LEFT, RIGHT, Grip
from valley.model.chart import MelodyNote
from valley.model.choices import Choices
from valley.model.passage import Passage, WrittenNote
from valley.song.state import SongState

Notes = list[WrittenNote]


def forget_notes(choices: Choices, grip: Grip) -> Choices:
    """The choices without what is written while a grip lasts, in both hands."""
    pieces = [piece for p in choices.passages for piece in cut_out(p, grip.start, grip.end)]
    return replace(choices, passages=in_order(pieces))


def change_notes(
    song: SongState,
    grip: Grip,
    played: Sequence[MelodyNote],
    *,
    action: str,
    hand: Literal["left", "right"],
    midi: int,
    by: int,
    taken: tuple[tuple[int, ...], tuple[int, ...]],
    everywhere: str,
) -> Choices:
    """Every note of one key, or the whole hand, changed while a grip lasts."""
    if everywhere == "chord":
        raise ParameterError("these notes were written for this place; change them here or in the repeats, or let Valley propose them again first")
    hands = {side: hand_in(song, side, grip.start, grip.end, played) for side in HANDS}
    changed = {side for side in HANDS if action == "take" or side == hand}
    if action == "take":
        hands = {side: [WrittenNote(Fraction(0), grip.duration, k) for k in keys] for side, keys in zip(HANDS, taken, strict=True)}
    else:
        mine = [n for n in hands[hand] if n.midi == midi]
        if action != "invert" and not mine:
            raise ParameterError(f"the {hand} hand does not touch key {midi} there")
        if action == "other-hand":
            other = RIGHT if hand == LEFT else LEFT
            changed.add(other)
            hands[other] = [*hands[other], *(replace(n, finger=None) for n in mine)]
        hands[hand] = _change(hands[hand], mine, action, by)
    choices = song.choices
    for side in sorted(changed):
        unique = {(n.start, n.voice, n.midi, n.grace): n for n in hands[side]}
        notes = tuple(unique[k] for k in sorted(unique))
        check_keys(choices, notes)
        choices = lay_in(
            choices, Passage(side, grip.start, grip.duration, notes, None if everywhere == "repeats" else (), level=level_at(song.chart, choices, grip.start))
        )
    return choices


def _change(notes: Notes, mine: Notes, action: str, by: int) -> Notes:
    if action in ("drop", "other-hand"):
        return [n for n in notes if n not in mine]
    if action == "double":
        return notes + [_to_key(n, n.midi + (12 if by >= 0 else -12), star=True) for n in mine]
    if action == "invert":
        keys = sorted({n.midi for n in notes})
        if len(keys) < 2:
            raise ParameterError("a single note cannot be turned over; move it by an octave instead")
        gone, step = (keys[0], 12) if by >= 0 else (keys[-1], -12)
        return [_to_key(n, gone + step) if n.midi == gone else n for n in notes]
    if action == "finger" and not 1 <= by <= 5:
        raise ParameterError(f"finger {by} must be 1 (thumb) to 5")
    done: dict[str, Callable[[WrittenNote], WrittenNote]] = {
        "move": lambda n: _to_key(n, n.midi + by),
        "star": lambda n: replace(n, optional=not n.optional),
        "finger": lambda n: replace(n, finger=by),
    }
    return [done[action](n) if n in mine else n for n in notes]


def _to_key(note: WrittenNote, midi: int, *, star: bool = False) -> WrittenNote:
    return replace(note, midi=midi, pitch="", finger=None, optional=note.optional or star)
