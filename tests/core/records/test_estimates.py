"""Estimates learn from the past, never fall below nothing, and say how sure they are."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valley.errors import ParameterError
from valley.records.estimates import Past, add_up, estimate_minutes, say_minutes, say_range
from valley.records.way import FILMED, LISTENED, STAGES, USUAL_SIZE, WAY, say_next, size_of, stage_named

times = st.lists(st.builds(Past, st.floats(1, 300), st.floats(1, 2000)), max_size=30)


def test_without_a_past_the_usual_time_stands() -> None:
    assert estimate_minutes(FILMED, 20).minutes == pytest.approx(20 * WAY[FILMED].usual)


@pytest.mark.parametrize("rate", [0.5, 3.0, 12.0])
def test_it_comes_near_to_a_steady_past(rate: float) -> None:
    past = [Past(size, size * rate) for size in (12.0, 20.0, 33.0) * 12]
    made = estimate_minutes(FILMED, 25, past)
    assert made.minutes == pytest.approx(25 * rate, rel=0.1)
    assert made.songs == 36


def test_one_odd_day_does_not_carry_the_estimate_away() -> None:
    odd = estimate_minutes(FILMED, 20, [Past(20, 600.0)]).minutes
    assert 60 < odd < 200


def test_a_steady_past_narrows_the_range_and_a_wild_one_widens_it() -> None:
    def width(past: list[Past]) -> float:
        made = estimate_minutes(FILMED, 20, past)
        return made.high / made.low

    assert width([Past(20, 60.0)] * 20) < width([])
    assert width([Past(20, 15.0), Past(20, 240.0)] * 10) > width([])


def test_four_of_five_of_drawn_songs_end_within_the_range() -> None:
    import random

    rng = random.Random(7)
    inside = 0
    for _ in range(400):
        rate = rng.lognormvariate(0.3, 0.3)
        past = [Past(20, 20 * WAY[FILMED].usual * rate * rng.lognormvariate(0, 0.35)) for _ in range(15)]
        truth = 20 * WAY[FILMED].usual * rate * rng.lognormvariate(0, 0.35)
        made = estimate_minutes(FILMED, 20, past)
        inside += made.low <= truth <= made.high
    assert 0.72 <= inside / 400 <= 0.9


@given(st.integers(1, 8), st.floats(1, 500), times)
def test_estimates_are_ordered_and_grow_with_the_song(stage: int, size: float, past: list[Past]) -> None:
    made = estimate_minutes(stage, size, past)
    assert 0 < made.low <= made.minutes <= made.high
    assert estimate_minutes(stage, 2 * size, past).minutes == pytest.approx(2 * made.minutes)


@given(st.lists(st.floats(1, 100), max_size=6))
def test_work_adds_up(sizes: list[float]) -> None:
    pieces = [estimate_minutes(FILMED, s) for s in sizes]
    total = add_up(pieces)
    assert total.minutes == pytest.approx(sum(p.minutes for p in pieces))
    assert 0 <= total.low <= total.minutes <= total.high
    assert total.high <= sum(p.high for p in pieces) + 1e-6


@pytest.mark.parametrize("bad", [(0.0, []), (-1.0, []), (5.0, [Past(0, 3.0)]), (5.0, [Past(3, 0.0)])])
def test_sizes_and_times_must_be_above_nothing(bad: tuple[float, list[Past]]) -> None:
    with pytest.raises(ParameterError, match="must be above 0"):
        estimate_minutes(FILMED, *bad)


@given(st.floats(0, 6000))
def test_times_are_said_near_to_what_they_are(minutes: float) -> None:
    said = say_minutes(minutes)
    number, _, unit = said.partition(" ")
    if said == "a moment":
        assert minutes < 3
        return
    value = float(number.replace("½", ".5") if number != "½" else 0.5) * (60 if unit.startswith("hour") else 1)
    assert abs(value - minutes) <= max(5.0, 0.3 * minutes)


def test_ranges_say_their_unit_once() -> None:
    assert say_range(120, 270) == "2 to 4½ hours"
    assert say_range(1, 20) == "a moment to 20 minutes"


def test_every_stage_says_what_is_next() -> None:
    assert len({say_next(s) for s in range(9)}) == 9
    assert say_next(7, corrections=2) == "answer 2 corrections"
    assert [stage_named(n) for n in STAGES] == list(range(9))
    with pytest.raises(ParameterError, match="stage='sung'"):
        stage_named("sung")


def test_a_song_without_a_chart_has_the_usual_size() -> None:
    assert size_of(FILMED, bars=0, bars_to_learn=0) == USUAL_SIZE["bars-to-learn"]
    assert size_of(FILMED, bars=40, bars_to_learn=16) == 16
    assert size_of(LISTENED, bars=40, bars_to_learn=16) == 1
