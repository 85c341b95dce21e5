"""Left hand the chord in the inversion nearest to the last, right hand the tune alone."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    yield from _hands.under_the_tune(moment, limits, {EASIER: 2, FULLER: 5}.get(level, 4), turned=True)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    yield from _hands.tune_alone(moment, limits)


STYLE = Style(
    name="turned-blocks",
    title="Nearest chord below, tune above",
    summary="Left hand the chord in whatever inversion lies nearest, so that the hand stays still and the root is not always below; right hand the tune.",
    melody="line",
    left=left,
    right=right,
    turns=True,
)
