"""Repeats in words; functions in plain words."""

import pytest
from hypothesis import given

from tests.charts import C_MAJOR, chart_of, random_charts
from valley.charting.functions import describe_function
from valley.errors import ParameterError
from valley.fraction import Fraction as F
from valley.model.chart import Chart, ChartChord, Grid, KeyArea
from valley.phrases.differences import say_differences
from valley.theory.chord import parse_harte, symbol_of
from valley.theory.key import Key

VERSE = ["C", "Am", "F", "G"]


def test_an_equal_repeat_has_nothing_new() -> None:
    part = chart_of(VERSE * 2, parts=[(1, 4, None), (5, 4, 1)]).parts[1]
    assert (part.kinship, part.differences, part.new_bars) == ("same", (), 0)


def test_another_chord_is_named_with_its_bar() -> None:
    part = chart_of([*VERSE, "C", "Am", "Dm", "G"], parts=[(1, 4, None), (5, 4, 1)]).parts[1]
    assert part.kinship == "varied"
    assert say_differences(part.differences) == ("bar 7: Dm instead of F",)
    assert part.new_bars == 1


def test_a_shorter_repeat_stops_early() -> None:
    part = chart_of([*VERSE, "C", "Am"], parts=[(1, 4, None), (5, 2, 1)]).parts[1]
    assert say_differences(part.differences) == ("stops 2 bars early",)


def test_the_same_notes_under_another_name_are_no_difference() -> None:
    part = chart_of(["C6", "F", "Am7/C", "F"], parts=[(1, 2, None), (3, 2, 1)]).parts[1]
    assert part.kinship == "same"


def test_another_tune_over_the_same_chords_is_said() -> None:
    tune = [(0, 1, 60), (1, 1, 62), (16, 1, 72), (17, 1, 74)]
    part = chart_of(VERSE * 2, tune=tune, parts=[(1, 4, None), (5, 4, 1)]).parts[1]
    assert part.kinship == "chords"
    assert say_differences(part.differences) == ("another tune over the same chords",)


def test_few_changed_notes_are_counted_by_bar() -> None:
    first = [(i, 1, 60 + i) for i in range(8)]
    again = [(16 + i, 1, 60 + i if i != 5 else 80) for i in range(8)]
    part = chart_of(VERSE * 2, tune=[*first, *again], parts=[(1, 4, None), (5, 4, 1)]).parts[1]
    assert say_differences(part.differences) == ("tune: one note differs, bar 6",)
    assert part.kinship == "varied"


def test_charts_with_gaps_cannot_be_built() -> None:
    chord = ChartChord(F(0), F(1), C_MAJOR)
    with pytest.raises(ParameterError, match="follow each other"):
        Chart("T", Grid((0.0, 0.5), "4/4"), (KeyArea(F(0), "C", "major"),), (chord, ChartChord(F(2), F(1), C_MAJOR)))
    with pytest.raises(ParameterError, match="needs a key"):
        Chart("T", Grid((0.0, 0.5), "4/4"), (), (chord,))
    with pytest.raises(ParameterError, match="at least two beats"):
        Grid((0.0,), "4/4")
    with pytest.raises(ParameterError, match="pickup=4"):
        Grid((0.0, 1.0), "4/4", 4)
    with pytest.raises(ParameterError, match="longer than 0"):
        ChartChord(F(0), F(0), C_MAJOR)


@given(random_charts())
def test_every_bar_belongs_to_one_part_and_every_chord_to_its_part(chart: Chart) -> None:
    bars = [b for p in chart.parts for b in range(p.start_bar, p.end_bar + 1)]
    assert bars == list(range(1, chart.grid.bars + 1))
    total = sum((c.duration for p in chart.parts for c in chart.chords_of(p)), F(0))
    assert total == chart.chords[-1].end


@pytest.mark.parametrize(
    ("label", "key", "words"),
    [
        ("C:maj", ("C", "major"), "home"),
        ("A:min7", ("C", "major"), "the minor of home"),
        ("G:7", ("C", "major"), "on the fifth step, leads home"),
        ("A:7", ("C", "major"), "leads to the chord on the second step"),
        ("E:7", ("A", "minor"), "on the fifth step, leads home"),
        ("G:sus4", ("C", "major"), "suspended: wants its third"),
        ("Bb:maj", ("C", "major"), "on the lowered seventh: borrowed from minor"),
        ("N", ("C", "major"), ""),
        ("F#:maj7", ("C", "major"), "a colour from outside the key"),
    ],
)
def test_functions_in_plain_words(label: str, key: tuple[str, str], words: str) -> None:
    assert describe_function(parse_harte(label), Key.of(*key)) == words


def test_symbols_of_labels() -> None:
    assert symbol_of(parse_harte("F:maj/3")) == "F/A"
    assert symbol_of(parse_harte("N")) == "no chord"
