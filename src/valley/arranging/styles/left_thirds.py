"""Left hand bass and third; right hand the tune, with the missing chord note where there is room."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    yield from _hands.third(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=12.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == EASIER and moment.melody is not None:
        yield Hold((moment.melody,))
    else:
        yield from _hands.tune_over(moment, limits, (2, 1) if level == FULLER else (1,), left_has_third=True)


STYLE = Style(
    name="left-thirds",
    title="Thirds below, tune above",
    summary="Left hand the bass with the third above it, right hand the tune. Light, moves in parallel with ease.",
    melody="top",
    left=left,
    right=right,
)
