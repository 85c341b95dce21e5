"""Left hand the whole chord in close position, right hand the tune alone."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from valley.arranging.styles._style import Limits, Moment, Shape, Style, close_shapes, core_members


def propose(moment: Moment, limits: Limits) -> Iterator[Shape]:
    """The bass at the bottom is preferred; an inversion may keep the hand still, but a slash bass stays below."""
    chord = moment.chord
    members = core_members(chord, 4)
    if chord.bass.pitch_class not in members:
        members = [chord.bass.pitch_class, *core_members(chord, 3)]
    right = () if moment.melody is None else (moment.melody,)
    top = min(limits.highest, 69 if moment.ceiling is None else moment.ceiling - 1)
    found = False
    for count in (len(members), 3, 2):
        for left in close_shapes(members[:count], max(limits.lowest, 43), top):
            if limits.fits(left):
                found = True
                wrong_bass = left[0] % 12 != chord.bass.pitch_class
                heavier = 9.0 if chord.bass_interval else 0.8  # a slash bass is followed, a root may be turned over
                yield Shape(left, right, cost=heavier * wrong_bass)
        if found:
            return
    # A tune that dips below the chord's room: the left hand keeps the bass alone, as low as needed.
    for bass in range(max(limits.lowest, 28), 56):
        if bass % 12 == chord.bass.pitch_class and (moment.ceiling is None or bass < moment.ceiling):
            yield replace(Shape((bass,), right), cost=4.0)


STYLE = Style(
    name="block-and-melody",
    title="Chord below, tune above",
    summary="Left hand the block chord, right hand the tune by itself. The first version most learners play.",
    melody="line",
    propose=propose,
)
