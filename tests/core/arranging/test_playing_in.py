"""A pass that is played in: counts are found again, keys go to the hand that played them."""

from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import chart_of
from valley.arranging.arrange import arrange
from valley.arranging.on_grid import FEELS, set_on_grid
from valley.arranging.styles import STYLES
from valley.arranging.two_hands import Stroke, split_hands
from valley.edits import PlayedKey, TakePass, apply_edit
from valley.errors import ParameterError
from valley.fraction import Fraction as F
from valley.model.chart import MelodyNote
from valley.model.choices import Choices
from valley.song import SongState, Work


def strokes(*rows: tuple[object, object, int]) -> list[Stroke]:
    return [Stroke(F(str(a)), F(str(b)), m) for a, b, m in rows]


def loose(notes: list[Stroke], seed: int, spread: float = 0.025) -> list[Stroke]:
    """As a good player plays: every stroke a little off."""
    rng = Random(seed)
    return [Stroke(max(F(0), n.start + F(round(rng.gauss(0, spread) * 960), 960)), n.duration, n.midi) for n in notes]


@pytest.mark.parametrize(
    "places", [[0, 1, 2, 3], [0, "1/2", 1, "3/2"], [0, "1/4", "1/2", "3/4"], [0, "1/3", "2/3", 1, "4/3", "5/3"], ["1/2", "3/2", "5/2"]], ids=str
)
def test_counts_are_found_again(places: list[object]) -> None:
    bars = [Stroke(F(str(p)) + 4 * k, F(1, 4), 60 + i) for k in range(16) for i, p in enumerate(places)]
    found = {(s.start, s.midi) for s in set_on_grid(loose(bars, 7))}
    assert sum((s.start, s.midi) in found for s in bars) / len(bars) >= 0.98


def test_the_creator_says_how_time_is_set() -> None:
    played = strokes(("0.03", "0.4", 60), ("0.55", "0.4", 62), ("1.04", "0.9", 64))
    assert [s.start for s in set_on_grid(played)] == [0, F(1, 2), 1]
    assert [s.start for s in set_on_grid(played, feel="swing")] == [0, F(2, 3), 1]
    half = [float(s.start) for s in set_on_grid(played, strength=0.5)]
    assert half == pytest.approx([0.015, 0.525, 1.02], abs=0.01)
    assert [float(s.start) for s in set_on_grid(played, strength=0)] == pytest.approx([0.03, 0.55, 1.04], abs=0.003)
    eighths = strokes(("0.02", "0.3", 60), ("0.31", "0.3", 62), ("0.7", "0.3", 64))
    assert [s.start for s in set_on_grid(eighths, compound=True)] == [0, F(1, 3), F(2, 3)]
    with pytest.raises(ParameterError, match="strength 0 to 1"):
        set_on_grid(played, strength=2)


stroke = st.builds(Stroke, st.fractions(0, 16, max_denominator=60), st.fractions(F(1, 20), 4, max_denominator=60), st.integers(30, 90))


@given(st.lists(stroke, max_size=30), st.sampled_from(FEELS), st.floats(0, 1))
def test_no_key_is_lost_nor_down_when_it_is_struck_again(played: list[Stroke], feel: str, strength: float) -> None:
    placed = set_on_grid(played, feel=feel, strength=strength)  # type: ignore[arg-type]
    assert {s.midi for s in placed} == {s.midi for s in played}
    for a, b in zip(placed, placed[1:], strict=False):
        assert a.start <= b.start
    for midi in {s.midi for s in placed}:
        row = [s for s in placed if s.midi == midi]
        assert all(a.end <= b.start and a.duration > 0 for a, b in zip(row, row[1:], strict=False))
    assert len(split_hands(placed)) == len(placed)


def test_hands_are_told_apart_by_reach_and_register() -> None:
    tune_over_oompah = strokes(*[(i, "1/2", 43 if i % 2 == 0 else 55) for i in range(8)], *[(i, 1, 72 + (i % 3)) for i in range(8)])
    assert [h for s, h in zip(tune_over_oompah, split_hands(tune_over_oompah), strict=True) if s.midi < 60] == ["left"] * 8
    low_tune = strokes((0, 4, 36), (0, 4, 43), (0, 1, 55), (1, 1, 57), (2, 1, 59), (3, 1, 60))
    assert split_hands(low_tune)[:2] == ("left", "left") and split_hands(low_tune)[5] == "right"
    wide = strokes((0, 1, 48), (0, 1, 64), (0, 1, 67), (0, 1, 71), (0, 1, 76))
    assert split_hands(wide) == ("left", "right", "right", "right", "right")


def test_what_valley_plays_is_shared_out_as_it_was() -> None:
    chart = chart_of(["C", "Am7", "F", "G7"] * 2, tune=[(i, 1, 72 + (i * 5) % 7) for i in range(32)])
    right = total = 0
    for style in STYLES:
        notes = arrange(chart, Choices(style=style)).parts[0].notes
        shared = split_hands([Stroke(n.start, n.duration, n.midi) for n in notes])
        right += sum(a == n.hand for a, n in zip(shared, notes, strict=True))
        total += len(notes)
    assert right / total >= 0.95, right / total


def test_a_pass_becomes_the_hands_and_comes_back_by_undo() -> None:
    song = SongState(chart_of(["C", "F"]))
    keys = [PlayedKey(F(str(a)), F("0.9"), m) for a, m in (("0.02", 48), ("0.98", 67), ("2.03", 52), ("3.01", 67), ("4.0", 53))]
    done, said = apply_edit(song, TakePass(F(0), F(4), tuple(keys)))
    assert said == "bar 1: both hands as you played, 4 notes"
    mine = [(n.hand, n.start, n.midi) for n in Work(done).arrangement.parts[0].notes if n.source == "played"]
    assert mine == [("left", 0, 48), ("right", 1, 67), ("left", 2, 52), ("right", 3, 67)]
    left, _ = apply_edit(song, TakePass(F(0), F(4), tuple(keys), hands="left"))
    assert {p.hand for p in left.choices.passages} == {"left"}
    with pytest.raises(ParameterError, match="nothing was played"):
        apply_edit(song, TakePass(F(4), F(4), tuple(keys[:2])))


def test_a_piano_that_was_heard_becomes_two_hands() -> None:
    song = SongState(chart_of(["C", "F"]))
    heard = [MelodyNote(F(a, 24), F(1), m) for a, m in ((0, 36), (1, 48), (23, 64), (47, 67), (73, 72), (95, 53))]
    done, said = apply_edit(song, TakePass(F(0), F(4), heard=True), played=heard)
    assert said == "bar 1: both hands as heard in the recording, 5 notes"
    notes = [(n.hand, n.start, n.midi) for n in Work(done).arrangement.parts[0].notes if n.source == "played"]
    assert notes == [("left", 0, 36), ("left", 0, 48), ("right", 1, 64), ("right", 2, 67), ("right", 3, 72)]
    with pytest.raises(ParameterError, match="no keys were heard"):
        apply_edit(song, TakePass(F(0), F(4), heard=True))
