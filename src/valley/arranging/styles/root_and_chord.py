"""Left hand the bass, alone, with its fifth or its octave; right hand the chord in the inversion nearest to the last."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == FULLER:
        yield from _hands.fifth_and_octave(moment, limits)
    elif level != EASIER:
        yield from _hands.octave(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=0.0 if level == EASIER else 12.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == FULLER:
        yield from _hands.close_chord(moment, limits, 3, double=True)
    yield from _hands.close_chord(moment, limits, 3 if level == EASIER else 4)


STYLE = Style(
    name="root-and-chord",
    title="Root below, chord above",
    summary="Left hand the bass or its octave, right hand the chord in the nearest inversion. For singing along.",
    melody="none",
    left=left,
    right=right,
)
