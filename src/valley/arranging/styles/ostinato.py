"""Thumb and index finger repeat root and third under the tune, which the upper fingers play."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == FULLER:
        yield from _hands.octave(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=3.0 if level == FULLER else 0.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if moment.melody is None:
        yield from _hands.close_chord(moment, limits, 2 if level == EASIER else 3)
        return
    members = moment.chord.members()
    root, third = members[0].pitch_class, members[1].pitch_class
    top = moment.melody
    for low in range(max(limits.lowest, top - 14), top - 1):
        if low % 12 not in (root, third):
            continue
        other = low + ((root + third - low) % 12 - low) % 12
        if level != EASIER and low < other < top - 1:
            yield Hold((low, other, top), cost=0.15 * (top - other > 9) + 0.5 * (low % 12 != root))
        yield Hold((low, top), cost=0.0 if level == EASIER else 2.5)
    yield Hold((top,), cost=6.0)


STYLE = Style(
    name="ostinato",
    title="Thumb and index repeat, tune above",
    summary="Thumb and index repeat the root and third of the chord while the upper fingers play the tune; left hand the long bass.",
    melody="top",
    left=left,
    right=right,
    repeated=True,
)
