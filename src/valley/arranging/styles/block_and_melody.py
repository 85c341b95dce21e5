"""Left hand the whole chord in close position on its bass, right hand the tune alone."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    most = {EASIER: 2, FULLER: 5}.get(level, 4)
    yield from _hands.under_the_tune(moment, limits, most)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    yield from _hands.tune_alone(moment, limits)


STYLE = Style(
    name="block-and-melody",
    title="Chord below, tune above",
    summary="Left hand the block chord on its bass, right hand the tune by itself. The first version most learners play.",
    melody="line",
    left=left,
    right=right,
)
