"""Where bar lines fall when bars may differ."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from valley.listening._bar_lines import SHAPES, Doubles, place_bar_lines
from valley.listening.downbeats import Bars, find_bars


def begin(lengths: list[int]) -> Doubles:
    """1 at the beats where bars of such lengths begin."""
    out = np.zeros(sum(lengths))
    out[np.cumsum([0, *lengths[:-1]])] = 1
    return out


def heard(lengths: list[int], triple: tuple[float, float] = (-0.2, -0.2)) -> Bars:
    bars = begin(lengths)
    nothing = np.zeros(len(bars))
    return find_bars(2.4 * bars - 0.6, nothing, 0.05 + 0.9 * bars, nothing, triple, 100)


def found(lengths: list[int], triple: tuple[float, float] = (-0.2, -0.2)) -> list[int]:
    return [int(n) for n in np.diff(heard(lengths, triple).downbeats)]


@pytest.mark.parametrize(("beats", "meter"), [(2, "2/4"), (3, "3/4"), (4, "4/4"), (5, "5/4"), (7, "7/4")])
def test_every_metre_is_heard_where_its_bars_are_plain(beats: int, meter: str) -> None:
    bars = heard([beats] * 16)
    assert (bars.meter, np.diff(bars.downbeats).tolist()) == (meter, [beats] * 15)


@pytest.mark.parametrize(("beats", "meter"), [(2, "6/8"), (3, "9/8")])
def test_beats_in_thirds_make_bars_of_dotted_beats(beats: int, meter: str) -> None:
    bars = heard([beats] * 16, triple=(0.5, 0.5))
    assert (bars.meter, np.diff(bars.downbeats).tolist()) == (meter, [beats] * 15)


def test_four_dotted_beats_are_two_bars_of_six_eighths() -> None:
    assert found([4] * 12, triple=(0.5, 0.5)) == [2] * 23


@pytest.mark.parametrize(("beats", "odd"), [(4, 2), (4, 3), (4, 5), (3, 2), (3, 4), (2, 3)])
def test_one_bar_of_another_length_keeps_its_place(beats: int, odd: int) -> None:
    lengths = [beats] * 9 + [odd] + [beats] * 9
    assert found(lengths) == lengths[:-1]


def test_a_part_in_another_metre_keeps_its_bars() -> None:
    lengths = [4] * 12 + [3] * 16 + [4] * 12
    assert found(lengths) == lengths[:-1]


def test_one_loud_beat_makes_no_odd_bar() -> None:
    bars = begin([4] * 16)
    bars[34] = 1
    nothing = np.zeros(len(bars))
    assert set(find_bars(2.4 * bars - 0.6, nothing, 0.05 + 0.6 * bars, nothing, (-0.2, -0.2), 100).downbeats % 4) == {0}


def test_the_last_bars_are_not_bent_for_one_loud_beat_behind_them() -> None:
    assert set(heard([4] * 12 + [2, 4]).downbeats % 4) == {0}


@given(st.integers(0, 2**32 - 1), st.integers(1, 60))
def test_whatever_is_heard_every_bar_is_whole_and_of_a_known_length(seed: int, count: int) -> None:
    rng = np.random.default_rng(seed)
    lines = place_bar_lines([rng.normal(size=(count, s.beats)) for s in SHAPES])
    places = [(int(s), int(p)) for s, p in zip(lines.shapes, lines.positions, strict=True)]
    for (shape, place), (after, following) in pairwise(places):
        if place + 1 < SHAPES[shape].beats:
            assert (after, following) == (shape, place + 1)
        else:
            assert following == 0


@given(st.integers(0, 2**32 - 1), st.integers(8, 40))
def test_a_higher_price_never_makes_more_odd_bars_worth_their_while(seed: int, count: int) -> None:
    rng = np.random.default_rng(seed)
    fits = [rng.normal(size=(count, s.beats)) for s in SHAPES]
    values = [place_bar_lines(fits, odd=price, change=3 * price).value for price in (0.0, 2.0, 20.0)]
    assert values == sorted(values, reverse=True)
