"""Spreading a correction: the same place in the repeats of a part, and whether it is still the same there."""

from __future__ import annotations

from dataclasses import dataclass, fields, is_dataclass, replace
from fractions import Fraction
from functools import lru_cache
from typing import TypeVar

from valley.charting.parts import symbol_of
from valley.errors import ParameterError
from valley.model.chart import Chart, Part
from valley.theory.chord import Chord, parse_harte, parse_symbol
from valley.theory.pitch import PitchName

T = TypeVar("T")
_POSITIONS = ("start", "to", "at", "end")


@dataclass(frozen=True)
class Twin:
    """The same place in another occurrence of a part: ``shift`` beats on and ``up`` half steps higher; ``now`` says what differs."""

    part: int
    bar: int
    shift: Fraction
    same: bool
    now: str
    up: int = 0


def find_twins(chart: Chart, beat: Fraction) -> tuple[Twin, ...]:
    """Where a place comes again in the repeats of its part, in order."""
    bar, _ = chart.grid.place(beat)
    home = next((p for p in chart.parts if p.start_bar <= max(bar, 1) <= p.end_bar), None)
    if home is None:
        return ()
    root = home.same_as or home.number
    family = [p for p in chart.parts if p is not home and (p.number == root or p.same_as == root)]
    offset = max(bar, 1) - home.start_bar
    here = _bar(chart, home, offset)
    twins = []
    for part in family:
        if offset >= part.bars:
            continue
        shift = chart.grid.bar_start(part.start_bar + offset) - chart.grid.bar_start(home.start_bar + offset)
        up = part.moved - home.moved
        there = _bar(chart, part, offset)
        same = [(at, _sound(label)) for at, label in there] == [(at, _sound(label, up)) for at, label in here]
        said = " ".join(symbol_of(label) for _, label in there)
        twins.append(Twin(part.number, part.start_bar + offset, shift, same, "" if same else said, up))
    return tuple(twins)


def _bar(chart: Chart, part: Part, offset: int) -> list[tuple[Fraction, str]]:
    """Chords of a bar as beats into it and labels."""
    start = chart.grid.bar_start(part.start_bar + offset)
    return [(max(c.start, start) - start, c.label) for c in chart.sounding_in(part.start_bar + offset)]


@lru_cache(maxsize=4096)
def _sound(label: str, up: int = 0) -> tuple[frozenset[int], int]:
    chord = parse_harte(label)
    return (frozenset((pc + up) % 12 for pc in chord.pitch_classes()), (chord.bass.pitch_class + up) % 12) if chord else (frozenset(), -1)


def transpose_symbol(text: str, half_steps: int) -> str:
    """A typed chord, some half steps higher; the key it lands in spells it anew.

    >>> transpose_symbol("Am7/G", 2)
    'Bm7/A'
    """
    chord = parse_symbol(text)
    if chord is None or half_steps % 12 == 0:
        return text
    fifths = chord.root.fifths + (half_steps * 7 + 5) % 12 - 5
    fifths += 12 if fifths < -6 else -12 if fifths > 8 else 0
    return Chord(PitchName(fifths), chord.quality, chord.bass_interval).to_symbol()


def _transposed(edit: T, half_steps: int) -> T:
    """What an edit names, some half steps higher."""
    if not half_steps:
        return edit
    changes: dict[str, object] = {}
    if getattr(edit, "kind", "") in ("set_chord", "insert_chord"):
        changes["text"] = transpose_symbol(edit.text, half_steps)  # type: ignore[attr-defined]  # these kinds have a text
    if getattr(edit, "kind", "") == "set_bass" and edit.note.strip():  # type: ignore[attr-defined]
        changes["note"] = transpose_symbol(edit.note.strip(), half_steps)  # type: ignore[attr-defined]
    if getattr(edit, "midi", None) is not None:
        changes["midi"] = edit.midi + half_steps  # type: ignore[attr-defined]
    return replace(edit, **changes) if changes else edit  # type: ignore[type-var]


def shifted(edit: T, beats: Fraction, half_steps: int = 0) -> T:
    """The same edit some beats further on, and some half steps higher where a repeat lies at another pitch."""
    if not is_dataclass(edit) or isinstance(edit, type):
        raise ParameterError(f"{type(edit).__name__} has no place that could be moved")
    places = {f.name: getattr(edit, f.name) + beats for f in fields(edit) if f.name in _POSITIONS and getattr(edit, f.name) is not None}
    if not places:
        raise ParameterError(f"{type(edit).__name__} has no place in beats, so it cannot be spread to repeats")
    return _transposed(replace(edit, **places), half_steps)
