"""Left hand bass and fifth; right hand the tune with chord notes under it where the chord changes."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == FULLER:
        yield from _hands.fifth_and_octave(moment, limits)
    if level != EASIER:
        yield from _hands.fifth(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=0.0 if level == EASIER else 7.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    counts = {EASIER: (1,), FULLER: (3, 2)}.get(level, (2, 1))
    yield from _hands.tune_over(moment, limits, counts)


STYLE = Style(
    name="fifth-and-melody",
    title="Fifth below, tune over chord notes",
    summary="Left hand bass and fifth, right hand the tune with one or two chord notes under it. Fuller, still calm.",
    melody="top",
    left=left,
    right=right,
)
