"""A grip as it is played: the keys that a hand holds or touches while a chord lasts, read off the notes in time."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from valley.arranging.reach import Hand, span_mm
from valley.arranging.reasons import warn_of_reach
from valley.arranging.tune import in_order, share_out
from valley.model.arrangement import HANDS, Grip, HandNote, PlayedNote
from valley.theory.chord import name_inversion
from valley.values import copied


def view_grips(grips: Sequence[Grip], notes: Sequence[PlayedNote], hand: Hand) -> tuple[Grip, ...]:
    """The grips as the notes have them.

    What accompanies belongs to a grip with every key that it touches; of a tune, what sounds as the chord begins. Links and graces belong to none.
    The reach of a hand is what it spans at one time.
    """
    spans = [(g.start, g.end) for g in grips]
    lefts, rights = (share_out(in_order(n for n in notes if n.hand == side and not n.link and not n.grace), spans) for side in HANDS)
    return tuple(_view(grip, left, right, hand) for grip, left, right in zip(grips, lefts, rights, strict=True))


def _view(grip: Grip, left: Sequence[PlayedNote], right: Sequence[PlayedNote], hand: Hand) -> Grip:
    seen = copied(grip, left=_row(grip, grip.left, left), right=_row(grip, grip.right, right))
    return describe(seen, (_reach(grip, left), _reach(grip, right)), hand, {n.midi % 12 for n in (*left, *right)})


def describe(grip: Grip, reach: tuple[float, float], hand: Hand, meanwhile: Collection[int] = ()) -> Grip:
    """A grip with what its keys tell: how far the hands span, what of the chord never sounds while it lasts, the inversion, what to mind.

    Parameters
    ----------
    grip : with its keys in both hands
    reach : widest span of the left and of the right hand, in millimetres
    hand : whose hand it is
    meanwhile : pitch classes that sound besides while the chord lasts, as the tune's
    """
    chord, notes = grip.chord, grip.notes
    sounding = {*(n.midi % 12 for n in notes), *meanwhile}
    return copied(
        grip,
        reach_left_mm=reach[0],
        reach_right_mm=reach[1],
        omits=tuple(chord.member_word(k) for k in chord.wanted() if k not in sounding),
        caution=warn_of_reach(*reach, hand),
        inversion=name_inversion(chord, min(n.midi for n in notes) % 12 if notes else None),
    )


def _row(grip: Grip, held: Sequence[HandNote], sounding: Sequence[PlayedNote]) -> tuple[HandNote, ...]:
    """The keys of one hand that are the grip's, from the bottom up."""
    proposed = {n.midi: n for n in held}
    touched: dict[int, PlayedNote] = {}
    if all(n.start == grip.start for n in sounding):  # one stroke: every key of it
        touched = {n.midi: n for n in reversed(sounding)}
        return tuple(_hand_note(grip, touched[midi], proposed.get(midi)) for midi in sorted(touched))
    tune = {(n.start, n.duration) for n in sounding if n.melody and n.start > grip.start}
    anew = any(n.start == grip.start and not n.melody for n in sounding)
    for note in sounding:
        if (note.start, note.duration) in tune:
            continue  # the tune goes on over the grip, with what goes along with it
        if anew and note.start < grip.start and not note.melody:
            continue  # it rings on from the chord before, and this chord has keys of its own
        touched.setdefault(note.midi, note)
    return tuple(_hand_note(grip, touched[midi], proposed.get(midi)) for midi in sorted(touched))


def _reach(grip: Grip, sounding: Sequence[PlayedNote]) -> float:
    """The widest that the hand spans at any stroke while the chord lasts, in millimetres."""
    if all(n.start <= grip.start for n in sounding):  # one stroke, and all of it held
        return span_mm([n.midi for n in sounding])
    strokes = {max(n.start, grip.start) for n in sounding}
    return max(span_mm([n.midi for n in sounding if n.start <= at < n.end or n.start == at]) for at in strokes)


def _hand_note(grip: Grip, note: PlayedNote, proposed: HandNote | None) -> HandNote:
    star = note.optional or (proposed is not None and proposed.optional and note.source == "proposed")
    return HandNote(note.pitch, note.midi, grip.chord.member_word(note.midi % 12), note.finger, star)
