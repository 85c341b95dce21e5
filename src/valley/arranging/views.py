"""A grip as it is played: the keys that a hand holds or touches while a chord lasts, read off the notes in time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from valley.arranging.reach import span_mm
from valley.arranging.tune import share_out
from valley.model.arrangement import LEFT, RIGHT, Grip, HandNote, PlayedNote
from valley.theory.chord import name_inversion


def view_grips(grips: Sequence[Grip], notes: Sequence[PlayedNote]) -> tuple[Grip, ...]:
    """The grips as the notes have them.

    What accompanies belongs to a grip with every key that it touches; of a tune, what sounds as the chord begins. Links and graces belong to none.
    The reach of a hand is what it spans at one time.
    """
    ordered = sorted((n for n in notes if not n.link and not n.grace), key=lambda n: (n.start, n.midi))
    spans = [(g.start, g.end) for g in grips]
    views = list(grips)
    for hand in (LEFT, RIGHT):
        shared = share_out([n for n in ordered if n.hand == hand], spans)
        views = [_view(grip, hand, here) for grip, here in zip(views, shared, strict=True)]
    return tuple(_describe(g) for g in views)


def _view(grip: Grip, hand: str, sounding: Sequence[PlayedNote]) -> Grip:
    touched: dict[int, PlayedNote] = {}
    tune = {(n.start, n.duration) for n in sounding if n.melody and n.start > grip.start}
    for note in sounding:
        if (note.start, note.duration) in tune:
            continue  # the tune goes on over the grip, with what goes along with it
        if note.start < grip.start and not note.melody and any(n.start == grip.start and not n.melody for n in sounding):
            continue  # it rings on from the chord before, and this chord has keys of its own
        touched.setdefault(note.midi, note)
    held = grip.left if hand == LEFT else grip.right
    proposed = {n.midi: n for n in held}
    row = tuple(_hand_note(grip, touched[midi], proposed.get(midi)) for midi in sorted(touched))
    reach = max((span_mm(keys) for keys in _together(grip, sounding)), default=0.0)
    return replace(grip, left=row, reach_left_mm=reach) if hand == LEFT else replace(grip, right=row, reach_right_mm=reach)


def _hand_note(grip: Grip, note: PlayedNote, proposed: HandNote | None) -> HandNote:
    star = note.optional or (proposed is not None and proposed.optional and note.source == "proposed")
    return HandNote(note.pitch, note.midi, grip.chord.member_word(note.midi % 12), note.finger, star)


def _together(grip: Grip, sounding: Sequence[PlayedNote]) -> list[list[int]]:
    """Keys that are down at the same time, at every stroke while the chord lasts."""
    strokes = {max(n.start, grip.start) for n in sounding}
    return [sorted({n.midi for n in sounding if n.start <= at < n.end or n.start == at}) for at in strokes]


def _describe(grip: Grip) -> Grip:
    chord, notes = grip.chord, (*grip.left, *grip.right)
    sounding = {n.midi % 12 for n in notes}
    wanted = dict.fromkeys((*chord.members(), chord.bass))
    omits = tuple(chord.member_word(n.pitch_class) for n in wanted if n.pitch_class not in sounding)
    return replace(grip, omits=omits, inversion=name_inversion(chord, min(n.midi for n in notes) if notes else None))
