"""Bass and seventh (or third) in the left; the rest thinly in the right."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == EASIER:
        yield from _hands.single_bass(moment, limits)
        return
    yield from _hands.shell(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=8.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    most = {EASIER: 2, FULLER: 4}.get(level, 3)
    yield from _hands.close_chord(moment, limits, most, low=55, high=76, left_has_third=True)


STYLE = Style(
    name="shell",
    title="Shell",
    summary="Left hand only the bass and the note that tells the chord, right hand two or three others. Transparent.",
    melody="none",
    left=left,
    right=right,
    weights={"thirds": 2.0},
)
