"""Counting aloud."""

import pytest

from valley.errors import FormatError
from valley.fraction import Fraction as F
from valley.theory.meter import SUPPORTED, Meter


@pytest.mark.parametrize(
    ("meter", "place", "count"),
    [
        ("4/4", F(0), "1"),
        ("4/4", F(1, 2), "1 &"),
        ("4/4", F(9, 4), "3 e"),
        ("4/4", F(15, 4), "4 a"),
        ("3/4", F(2), "3"),
        ("4/4", F(2, 3), "1 let"),
        ("6/8", F(0), "1"),
        ("6/8", F(1), "4"),
        ("6/8", F(5, 3), "6"),
        ("6/8", F(1, 6), "1 &"),
        ("12/8", F(10, 3), "11"),
        ("9/8", F(2), "7"),
        ("5/4", F(9, 2), "5 &"),
        ("7/8", F(6), "7"),
        ("2/2", F(3, 2), "2 &"),
    ],
)
def test_counts(meter: str, place: F, count: str) -> None:
    assert Meter(meter).count(place) == count


def test_bars_hold_what_their_name_says() -> None:
    for name in SUPPORTED:
        upper, lower = map(int, name.split("/"))
        meter = Meter(name)
        assert meter.beats * meter.quarters_per_beat == F(upper * 4, lower)


def test_unknown_metres_are_refused_with_the_known_ones() -> None:
    with pytest.raises(FormatError, match=r"11/16.*2/4, 3/4, 4/4"):
        Meter("11/16")


def test_beats_of_a_bar_fall_into_groups() -> None:
    for name in SUPPORTED:
        assert sum(Meter(name).groups) == Meter(name).beats
