"""Close chords that stay clear below: no interval narrower than its register carries."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == EASIER:
        yield from _hands.single_bass(moment, limits)
        return
    yield from _hands.fifth(moment, limits)
    if level == FULLER:
        yield from _hands.fifth_and_octave(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=1.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    yield from _hands.close_chord(moment, limits, 3 if level == EASIER else 4, low=57, high=76)


STYLE = Style(
    name="low-safe",
    title="Close and clear",
    summary="Both hands near each other, but nothing close in the low register: every interval is as wide as its place asks.",
    melody="none",
    left=left,
    right=right,
    weights={"muddy": 60.0},
)
