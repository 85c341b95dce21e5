"""Left hand bass, fifth and tenth, or the ninth where the chord has one; right hand the tune or a thin chord."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == EASIER:
        yield from _hands.fifth(moment, limits)
    else:
        yield from _hands.tenth(moment, limits, with_fifth=True)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=7.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == EASIER and moment.melody is not None:
        yield Hold((moment.melody,))
    else:
        yield from _hands.tune_over(moment, limits, (2, 1) if level == FULLER else (1,), closest=3)


STYLE = Style(
    name="open-tenths",
    title="Open tenths below",
    summary="Left hand spread wide: bass, fifth and the tenth (or ninth); right hand the tune. Needs a large hand or comes down by itself.",
    melody="top",
    left=left,
    right=right,
)
