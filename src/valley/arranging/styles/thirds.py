"""The tune goes along with a third below it; left hand bass and fifth."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == FULLER:
        yield from _hands.fifth_and_octave(moment, limits)
    if level != EASIER:
        yield from _hands.fifth(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=0.0 if level == EASIER else 3.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    del level  # how much of the tune is doubled is decided where it is set in time
    yield from _hands.tune_over(moment, limits, (1,), near=5, closest=3)


STYLE = Style(
    name="thirds",
    title="Tune in thirds",
    summary="Right hand the tune with the third below every note, left hand bass and fifth. Sweet and singing.",
    melody="top",
    left=left,
    right=right,
    companion="third",
)
