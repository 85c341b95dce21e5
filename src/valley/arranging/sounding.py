"""How long keys sound: as long as they are held, by finger or by pedal."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from valley.fraction import Fraction
from valley.model.arrangement import Grip, PartArrangement, PlayedNote


def hold_on(notes: Sequence[PlayedNote], grips: Sequence[Grip]) -> list[PlayedNote]:
    """The notes where no pedal is pressed: what rings on is held by its finger until the chord ends, or until its key is struck again."""
    ends = [(g.start, g.end) for g in grips]
    out = []
    for note in notes:
        end = next((b for a, b in ends if a <= note.start < b), note.end)
        if note.rings and not note.grace and end > note.end:
            again = min((n.start for n in notes if n.midi == note.midi and n.hand == note.hand and note.start < n.start < end), default=end)
            note = replace(note, duration=max(note.duration, again - note.start))
        out.append(note)
    return out


def sounding_end(part: PartArrangement, note: PlayedNote) -> Fraction:
    """The beat at which a note falls silent: where it is let go, or with the pedal down where the pedal comes up."""
    lift = next((p.end for p in part.pedals if p.start <= note.start < p.end or p.start < note.end < p.end), note.end)
    return note.end if note.grace else max(note.end, lift)
