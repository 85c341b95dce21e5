"""The tune on top of the full chord in the right hand; left hand the bass octave."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == FULLER:
        yield from _hands.fifth_and_octave(moment, limits)
    if level != EASIER:
        yield from _hands.octave(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=0.0 if level == EASIER else 12.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    counts = {EASIER: (2, 1), FULLER: (4, 3)}.get(level, (3, 2))
    yield from _hands.tune_over(moment, limits, counts)


STYLE = Style(
    name="full-melody",
    title="Tune on the full chord",
    summary="Right hand the tune with the whole chord under it where the chord changes, left hand octave. Full and clear.",
    melody="top",
    left=left,
    right=right,
)
