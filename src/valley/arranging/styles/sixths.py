"""The tune goes along with a sixth below it; left hand bass and fifth."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import Hold, Limits, Moment, Style


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    del level  # how much of the tune is doubled is decided where it is set in time
    yield from _hands.tune_over(moment, limits, (1,), near=9, closest=7, any_member=True)


STYLE = Style(
    name="sixths",
    title="Tune in sixths",
    summary="Right hand the tune with the sixth below every note, left hand bass and fifth. Wider and warmer than thirds.",
    melody="top",
    left=_hands.bass_and_fifth,
    right=right,
    companion="sixth",
)
