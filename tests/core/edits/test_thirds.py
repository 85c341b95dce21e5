"""A slow song in six eighths that was heard as a waltz: three beats are counted as one, and back."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction as F

import pytest
from hypothesis import given

from tests.charts import chart_of, random_charts
from valley.edits import Edit, OneAsThree, SetFeel, SetMeter, ThreeAsOne, apply_edit
from valley.edits.levels import offer_levels
from valley.errors import ParameterError
from valley.model.chart import Chart
from valley.model.hearing import Tempo
from valley.song.state import SongState


def correct(chart: Chart, edit: Edit) -> tuple[Chart, str]:
    song, said = apply_edit(SongState(chart), edit)
    return song.chart, said


WALTZ = chart_of(["Am", "F", "C", "G"], meter="3/4", tune=[(0, 2, 69), (2, 1, 72), (3, F(3, 2), 77)], bpm=138, parts=[(1, 2, None), (3, 2, None)])


def test_bars_of_a_waltz_become_beats_of_six_eighths() -> None:
    slow, said = correct(WALTZ, ThreeAsOne())
    assert said == "three beats counted as one, 46 to the minute in 6/8"
    assert (slow.grid.meter, slow.grid.bars, slow.grid.pickup) == ("6/8", 2, 0)
    assert slow.grid.beats == WALTZ.grid.beats[::3]
    assert [(c.symbol, c.start) for c in slow.chords][:3] == [("Am", 0), ("F", 1), ("C", 2)]
    assert [(n.start, n.duration, n.midi) for n in slow.melody] == [(0, F(2, 3), 69), (F(2, 3), F(1, 3), 72), (1, F(1, 2), 77)]
    assert [(p.start_bar, p.bars) for p in slow.parts] == [(1, 1), (2, 1)]


def test_and_back_again() -> None:
    back, said = correct(correct(WALTZ, ThreeAsOne())[0], OneAsThree())
    assert said == "each beat counted as three, 138 to the minute in 3/4"
    assert [(c.symbol, c.start, c.duration) for c in back.chords] == [(c.symbol, c.start, c.duration) for c in WALTZ.chords]
    assert [(n.start, n.duration, n.midi) for n in back.melody] == [(n.start, n.duration, n.midi) for n in WALTZ.melody]
    assert back.grid.beats == pytest.approx(WALTZ.grid.beats, abs=2e-3)


@given(random_charts())
def test_whatever_way_is_offered_the_tune_stays_where_it_sounds(chart: Chart) -> None:
    heard = [n for n in chart.melody if chart.grid.pickup <= n.start < len(chart.grid.beats) - 3]
    for level in offer_levels(chart):
        if level.edit.kind == "halve_tempo" and len(chart.grid.beats) % 2:
            continue  # the last beat lasts twice as long
        after = correct(chart, level.edit)[0]
        sounding = {(n.midi, round(after.grid.seconds(n.start), 1)) for n in after.melody}
        assert {(n.midi, round(chart.grid.seconds(n.start), 1)) for n in heard} <= sounding | {(m, round(t + d, 1)) for m, t in sounding for d in (-0.1, 0.1)}
        assert [c.symbol for c in after.chords if c.chord] == [c.symbol for c in chart.chords if c.chord]


def test_a_pickup_is_the_end_of_a_beat() -> None:
    chart = chart_of(["Am", "F", "C", "G"], meter="3/4", pickup=1, tune=[(0, 1, 64), (1, 3, 69)], bpm=120)
    later = replace(chart, grid=replace(chart.grid, beats=tuple(t + 3 for t in chart.grid.beats)))
    slow = correct(later, ThreeAsOne())[0]
    assert slow.grid.pickup == 1
    assert [(n.start, n.midi) for n in slow.melody] == [(F(2, 3), 64), (1, 69)]
    assert [slow.grid.seconds(n.start) for n in slow.melody] == pytest.approx([3.25, 3.75])


def test_a_waltz_that_swings_is_written_as_it_sounds() -> None:
    swung, _ = correct(chart_of(["Am", "F", "C", "G"], meter="3/4", tune=[(0, F(1, 2), 69), (F(1, 2), F(1, 2), 72)]), SetFeel("swing"))
    slow = correct(swung, ThreeAsOne())[0]
    assert slow.grid.feel == "straight"
    assert [n.start for n in slow.melody] == [0, F(2, 9)]


@pytest.mark.parametrize(
    ("chart", "edit", "why"),
    [
        (chart_of(["C", "F"]), ThreeAsOne(), "bars of 4/4 cannot be beats of 6/8"),
        (chart_of(["C", "F", "G"], meter="3/4"), ThreeAsOne(), "only 3 beats would be left"),
        (correct(chart_of(["C"] * 6, meter="3/4"), SetMeter(4, "2/4"))[0], ThreeAsOne(), "the metre is 2/4 from bar 4 on"),
        (chart_of(["C", "F"], meter="3/4"), OneAsThree(), "beats of 3/4 do not fall into three"),
        (correct(chart_of(["C"] * 6, meter="6/8"), SetMeter(4, "4/4"))[0], OneAsThree(), "the metre is 4/4 from bar 4 on"),
    ],
)
def test_what_cannot_be_counted_so_is_refused_with_a_reason(chart: Chart, edit: ThreeAsOne | OneAsThree, why: str) -> None:
    with pytest.raises(ParameterError, match=why):
        correct(chart, edit)


def test_other_ways_to_count_are_offered_with_what_the_ear_says_of_them() -> None:
    heard = (Tempo(138.2, 0.8), Tempo(69.1, 0.2), Tempo(276.4, 0.0))
    offered = {level.edit.kind: (round(level.bpm), level.meter, level.odds) for level in offer_levels(WALTZ, heard)}
    assert offered == {"halve_tempo": (69, "3/4", 0.2), "three_as_one": (46, "6/8", None)}  # 276 to the minute is counted by nobody


def test_what_was_heard_stays_true_when_it_is_counted_otherwise() -> None:
    heard = (Tempo(100.0, 0.7), Tempo(50.0, 0.3))
    chart = chart_of(["C", "F", "G", "C"], bpm=50)
    assert {level.edit.kind: level.odds for level in offer_levels(chart, heard)} == {"double_tempo": 0.7}
