"""The tune in octaves; left hand the bass with its octave."""

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
    if moment.melody is None:
        yield from _hands.tune_over(moment, limits, (3,))
        return
    low = moment.melody - 12
    yield Hold((moment.melody,), cost=0.0 if level == EASIER else 6.0)
    if level != EASIER and low >= limits.lowest:
        yield Hold((low, moment.melody), optional=(low,))


STYLE = Style(
    name="octaves",
    title="Tune in octaves",
    summary="Right hand the tune doubled an octave below, left hand bass octave. Strong, for a refrain.",
    melody="top",
    left=left,
    right=right,
    companion="octave",
)
