"""Bars of five and seven eighths: beats that a tracker finds there are split, and no other song is counted so."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
import pytest

from tests.sounds import SR, click, mix, tone
from valley.audio.decode import Sound
from valley.charting.from_hearing import make_chart
from valley.listening.odd_eighths import find_odd_bars, split_into_eighths
from valley.model.hearing import Hearing
from valley.pipeline.listen import hear_sound
from valley.pipeline.progress import Reporter, ignore_progress
from valley.theory.chord import parse_symbol

Doubles = npt.NDArray[np.float64]
FPS = 50.0


def struck(eighths: Doubles, frames: int) -> Doubles:
    begins = np.full(frames, 0.02)
    begins[np.round(eighths).astype(int)] = 1.0
    return np.convolve(begins, (0.5, 1.0, 0.5), mode="same")


@pytest.mark.parametrize(("parts", "rate"), [(5, 5.0), (7, 7.0), (7, 3.5)])
def test_a_bar_that_was_taken_for_a_beat_is_split(parts: int, rate: float) -> None:
    eighth = 10.0  # frames
    eighths = 20 + eighth * np.arange(40 * parts)
    beats = 20 + eighth * rate * np.arange(36)
    found = split_into_eighths(beats, 60 * FPS / (rate * eighth), np.zeros(len(eighths) * 12, np.float32), struck(eighths, len(eighths) * 12))
    assert found is not None
    assert np.abs((found - 20) / eighth - np.round((found - 20) / eighth)).max() < 1e-6


def test_beats_that_are_not_struck_in_fifths_or_sevenths_are_left() -> None:
    beats = 20 + 60.0 * np.arange(60)  # fifty to the minute, with halves
    assert split_into_eighths(beats, 50.0, np.zeros(4000, np.float32), struck(np.sort([*beats, *(beats + 30)]), 4000)) is None


def evidence(cycle: list[float], bars: int) -> Doubles:
    return np.array(cycle * bars) + np.random.default_rng(3).normal(0, 0.2, len(cycle) * bars)


@pytest.mark.parametrize(
    ("cycle", "meter"),
    [
        ([1.5, -0.5, 0.3, -0.5, 0.6, -0.7, -0.7], "7/8"),
        ([1.5, -0.5, -0.5, 0.6, -0.7], "5/8"),
        ([1.5, -0.5, 0.2, -0.5, 0.6, -0.5, 0.0, -0.5], None),
        ([1.5, -0.5, 0.0, 0.5, -0.5, 0.0], None),
        ([1.5, -0.5, 0.3, -0.5, 0.3, -0.5, 0.5, -0.5, 0.1, -0.5], None),
    ],
)
def test_odd_bars_are_counted_where_they_fit_clearly_better(cycle: list[float], meter: str | None) -> None:
    signs = evidence(cycle, 24)
    bars = find_odd_bars(signs, np.zeros(len(signs)), np.full(len(signs), 0.2))
    assert (bars and bars.meter) == meter
    if bars:
        assert bars.downbeats.tolist() == list(range(0, len(signs), len(cycle)))


def odd_song(symbols: list[str], groups: tuple[int, ...], eighth: float) -> Sound:
    """A chord a bar, struck on every eighth; the bass where a group begins."""
    length = sum(groups)
    y = np.zeros(int((len(symbols) * length * eighth + 1.2) * SR), np.float32)
    for bar, symbol in enumerate(symbols):
        chord = parse_symbol(symbol)
        assert chord is not None
        at = 0.3 + bar * length * eighth
        for k in range(length):
            mix(y, click(seed=bar * 7 + k), at + k * eighth, 0.3)
            for name in chord.members():
                mix(y, tone(55 + (name.pitch_class - 55) % 12, eighth), at + k * eighth, 0.25)
        for k, group in enumerate(groups):
            mix(y, tone(36 + chord.bass.pitch_class, group * eighth), at + sum(groups[:k]) * eighth, 0.6)
    return Sound((0.8 * y / np.abs(y).max()).astype(np.float32), SR)


@pytest.fixture(scope="module")
def in_seven() -> Hearing:
    hearing, *_ = hear_sound(odd_song(["Am", "F", "C", "G"] * 5, (2, 2, 3), 0.25), Reporter(ignore_progress))
    return hearing


def test_a_song_in_seven_eighths_is_heard_in_them(in_seven: Hearing) -> None:
    assert in_seven.meter == "7/8"
    assert in_seven.bpm == pytest.approx(240, rel=0.02)
    assert in_seven.tempi == ()
    wanted = 0.3 + 1.75 * np.arange(20)
    assert np.mean([np.abs(np.array(in_seven.downbeats) - t).min() < 0.07 for t in wanted]) >= 0.9


def test_and_its_chart_has_a_chord_a_bar(in_seven: Hearing) -> None:
    chart = make_chart(in_seven, "In seven")
    assert chart.grid.meter == "7/8"
    symbols = [c.chord.to_symbol() for c in chart.chords if c.chord]
    assert symbols[:8] == ["Am", "F", "C", "G"] * 2
    assert {int(c.duration) for c in chart.chords[1:7]} == {7}
