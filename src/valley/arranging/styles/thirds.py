"""The tune goes along with a third below it; left hand bass and fifth."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import Hold, Limits, Moment, Style


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    del level  # how much of the tune is doubled is decided where it is set in time
    yield from _hands.tune_over(moment, limits, (1,), near=5, closest=3, any_member=True)


STYLE = Style(
    name="thirds",
    title="Tune in thirds",
    summary="Right hand the tune with the third below every note, left hand bass and fifth. Sweet and singing.",
    melody="top",
    left=_hands.bass_and_fifth,
    right=right,
    companion="third",
)
