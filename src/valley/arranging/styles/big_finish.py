"""Octaves and full chords in both hands, for the last refrain."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level == FULLER:
        yield from _hands.fifth_and_octave(moment, limits)
    yield from _hands.octave(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=2.0 if level == EASIER else 12.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if moment.melody is None:
        yield from _hands.close_chord(moment, limits, 3 if level != FULLER else 4, low=55, high=76, double=True)
        yield from (Hold(h.notes, cost=3.0) for h in _hands.close_chord(moment, limits, 3, low=55, high=76))
        return
    low = moment.melody - 12
    for hold in _hands.tune_over(moment, limits, {EASIER: (2, 1), FULLER: (3, 2)}.get(level, (2, 1))):
        doubled = low >= limits.lowest and len(hold.notes) < 5 and hold.notes[0] > low
        if level != EASIER and doubled:
            yield Hold((low, *hold.notes), cost=hold.cost, optional=(low,))
        yield Hold(hold.notes, cost=hold.cost + (0.0 if level == EASIER else 3.0), optional=hold.optional)


STYLE = Style(
    name="big-finish",
    title="Big finish",
    summary="Both hands full: left octave with fifth, right the chord with its top note doubled. For the last refrain.",
    melody="top",
    left=left,
    right=right,
)
