"""Left hand the bass, alone or with its octave; right hand the chord in the inversion nearest to the last."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from valley.arranging.styles._style import Limits, Moment, Shape, Style, close_shapes, core_members, pair_shapes, pitches_of


def propose(moment: Moment, limits: Limits) -> Iterator[Shape]:
    """The octave is preferred where the hand spans it; a chord of five notes leaves its root to the left hand."""
    chord = moment.chord
    basses = pitches_of(chord.bass.pitch_class, max(limits.lowest, 33), 55)
    lefts: list[tuple[int, ...]] = [(b,) for b in basses] + [(b - 12, b) for b in basses if b - 12 >= max(limits.lowest, 28)]
    rights = list(close_shapes(core_members(chord, 4), 52, min(limits.highest, 79)))
    for shape in pair_shapes(lefts, rights, limits):
        yield replace(shape, cost=0.0 if len(shape.left) == 2 else 1.5)


STYLE = Style(
    name="root-and-chord",
    title="Root below, chord above",
    summary="Left hand the bass or its octave, right hand the chord in the nearest inversion. For singing along.",
    melody="none",
    propose=propose,
)
