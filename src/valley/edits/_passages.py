"""Passages on another grid: every note goes where its sound goes, and none is lost but those that fall off the song."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from valley.edits._edit import Place
from valley.fraction import Fraction
from valley.model.choices import PedalMark
from valley.model.passage import Passage, WrittenNote

_SHORTEST = Fraction(1, 64)


def move_passages(passages: Sequence[Passage], place: Place, end: Fraction) -> tuple[Passage, ...]:
    """The passages of a song whose beats have gone elsewhere; each begins where the one before it in its hand has ended."""
    out: list[Passage] = []
    free: dict[tuple[str, str], Fraction] = {}
    for passage in passages:
        start = max(place(passage.start), free.get((passage.hand, passage.level), Fraction(0)))
        stop = min(place(passage.end), end)
        if stop <= start:
            continue
        notes: dict[tuple[Fraction, int, int, bool], WrittenNote] = {}
        for note in passage.notes:
            a = max(place(passage.start + note.start), start)
            if a < stop:
                b = min(max(place(passage.start + note.end), a + _SHORTEST), stop)
                notes.setdefault((a, note.voice, note.midi, note.grace), replace(note, start=a - start, duration=b - a))
        out.append(replace(passage, start=start, duration=stop - start, notes=tuple(notes.values())))
        free[passage.hand, passage.level] = stop
    return tuple(sorted(out, key=lambda p: (p.start, p.hand, p.level)))


def move_pedals(pedals: Sequence[PedalMark], place: Place, end: Fraction) -> tuple[PedalMark, ...]:
    """The pedal's marks where their sound goes."""
    out: list[PedalMark] = []
    for mark in pedals:
        start = max(place(mark.start), out[-1].end if out else Fraction(0))
        stop = min(place(mark.end), end)
        if start < stop:
            out.append(PedalMark(start, stop))
    return tuple(out)
