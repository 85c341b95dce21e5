"""A row of notes typed over the tune."""

from collections.abc import Sequence

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import chart_of, random_charts
from valley.edits import WriteTune
from valley.errors import ValleyError
from valley.fraction import Fraction as F
from valley.model.chart import Chart

TUNE = [(0, 2, 64), (2, 4, 72), (8, 4, 60), (12, 4, 62)]


def write(text: str, bar: int = 2, *, tune: Sequence[tuple[int, int, int]] = TUNE, meter: str = "4/4") -> list[tuple[F, F, int]]:
    chart = chart_of(["C", "F", "G", "C"], tune=tune, meter=meter)
    return [(n.start, n.duration, n.midi) for n in WriteTune(chart.grid.bar_start(bar), text).correct(chart)[0].melody]


@pytest.mark.parametrize(
    ("text", "inside"),
    [
        ("E5 D5 C5 D5", [(4, 1, 76), (5, 1, 74), (6, 1, 72), (7, 1, 74)]),
        ("E D C:2", [(4, 1, 76), (5, 1, 74), (6, 2, 72)]),  # nearest to the C5 that sounds before
        ("G _ - A", [(4, 2, 67), (7, 1, 69)]),
        ("B:1/2 A:1/2 G#:3", [(4, F(1, 2), 71), (F(9, 2), F(1, 2), 69), (5, 3, 68)]),
        ("-", []),
        ("%", [(4, 2, 64), (6, 2, 72)]),
    ],
)
def test_a_row_is_typed_over_one_bar_and_the_rest_stands(text: str, inside: list[tuple[F, F, int]]) -> None:
    # What sounded into the bar ends where it begins.
    assert write(text) == [(0, 2, 64), (2, 2, 72), *inside, (8, 4, 60), (12, 4, 62)]


def test_a_row_over_several_bars_with_a_note_held_over_the_line() -> None:
    assert write("| C5:3 B | _ A | G |", tune=[])[:] == [(4, 3, 72), (7, 3, 71), (10, 2, 69), (12, 4, 67)]


def test_notes_go_the_nearest_way() -> None:
    assert [m for _, _, m in write("C5 G C F", 1, tune=[])] == [72, 67, 72, 77]
    assert [m for _, _, m in write("C G", 1, tune=[(4, 4, 48)])] == [48, 43, 48]


def test_compound_time_counts_eighths() -> None:
    assert write("E4:3 D:1 C:2", 1, tune=[], meter="6/8") == [(0, 1, 64), (1, F(1, 3), 62), (F(4, 3), F(2, 3), 60)]


@pytest.mark.parametrize(
    ("text", "bar", "words"),
    [
        ("H E", 1, "'H' is no note"),
        ("E:3 D:3", 1, "counts 3 \\+ 3 beats"),
        ("E | D | C", 3, "holds 3 bars, but from bar 3 on the song has 2"),
        ("%", 1, "there is none of the same metre before bar 1"),
        ("", 1, "type the notes of 1 to 64"),
        ("C9 D", 1, "outside the piano"),
    ],
)
def test_a_row_that_does_not_fit_says_why(text: str, bar: int, words: str) -> None:
    with pytest.raises(ValleyError, match=words):
        write(text, bar)


@given(random_charts(), st.lists(st.sampled_from(["C", "Eb", "F#4", "G5", "_", "-"]), min_size=1, max_size=8))
def test_any_row_leaves_a_tune_that_is_one_and_the_rest_untouched(chart: Chart, words: list[str]) -> None:
    after = WriteTune(chart.grid.bar_start(1), " ".join(words)).correct(chart)[0]  # a chart checks that notes ascend and do not overlap
    start, end = chart.grid.bar_start(1), min(chart.grid.bar_start(2), F(len(chart.grid.beats)))
    assert [(n.start, n.midi) for n in after.melody if not start <= n.start < end] == [(n.start, n.midi) for n in chart.melody if not start <= n.start < end]
    assert len(after.notes_between(start, end)) == sum(w not in "_-" for w in words)
