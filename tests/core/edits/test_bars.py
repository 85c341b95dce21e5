"""Several bars at once: a row typed over them, a stretch copied."""

from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.charts import chart_of, random_charts
from valley.edits import CopyBars, WriteBars
from valley.errors import ValleyError
from valley.fraction import Fraction as F
from valley.model.chart import Chart, MeterChange

SONG = ["C", "Am", "F", "G", "C", "Am", "F", "G"]


def row(chart: Chart) -> list[str]:
    return [f"{c.symbol}:{c.duration}" for c in chart.chords]


def write(chart: Chart, bar: int, text: str) -> Chart:
    return WriteBars(chart.grid.bar_start(bar), text).correct(chart)[0]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("| Dm | E7 |", ["C:4", "Dm:4", "E7:4", "G:4"]),
        ("Dm E7", ["C:4", "Dm:4", "E7:4", "G:4"]),
        ("| Dm E7 |", ["C:4", "Dm:2", "E7:2", "F:4", "G:4"]),
        ("Dm:3 E7:1 | %", ["C:4", "Dm:3", "E7:1", "Dm:3", "E7:1", "G:4"]),
        ("Dm | | E", ["C:4", "Dm:8", "E:4"]),
        ("_ Dm |", ["C:6", "Dm:2", "F:4", "G:4"]),
        ("%", ["C:4", "C:4", "F:4", "G:4"]),
        ("N", ["C:4", "no chord:4", "F:4", "G:4"]),
    ],
)
def test_a_row_is_typed_over_bars(text: str, expected: list[str]) -> None:
    assert row(write(chart_of(SONG[:4]), 2, text)) == expected


def test_what_was_typed_stays_when_the_song_is_heard_again() -> None:
    assert [c.locked for c in write(chart_of(SONG[:4]), 2, "Dm | E").chords] == [False, True, True, False]


@pytest.mark.parametrize(
    ("bar", "text", "words"),
    [
        (3, "C | F | G", "holds 3 bars, but from bar 3 on the song has 2"),
        (1, "%", "there is none before bar 1"),
        (1, "", "holds 0 bars"),
        (1, "C | Hopla", "Hopla"),
        (1, "C:3 F:3", "counts 3 \\+ 3 beats, but a bar of 4/4 has 4"),
        (1, " | ".join(["C"] * 65), "1 to 64"),
    ],
)
def test_a_row_that_does_not_fit_says_why(bar: int, text: str, words: str) -> None:
    with pytest.raises(ValleyError, match=words):
        write(chart_of(SONG[:4]), bar, text)


def test_a_row_begins_with_a_bar() -> None:
    with pytest.raises(ValleyError, match="bar 1, beat 3 is no beginning of a bar"):
        WriteBars(F(2), "C").correct(chart_of(SONG))


def test_a_row_at_another_pitch() -> None:
    assert WriteBars(F(0), "C | Am:3 _ | %").moved(F(4), 3).text == "| Eb | Cm:3 _ | % |"


TUNE = [(0, 2, 64), (2, 2, 65), (7, F(3, 2), 67), (16, 4, 72)]


def test_bars_are_copied_with_their_tune() -> None:
    chart = chart_of(SONG, tune=TUNE)
    after = CopyBars(F(0), F(8), F(8)).correct(chart)[0]
    assert row(after) == ["C:4", "Am:4", "C:4", "Am:4", "C:4", "Am:4", "F:4", "G:4"]
    # The note that sounded from bar 2 into bar 3 ends where the copy begins, and so does its copy before bar 5.
    assert [(n.start, n.duration, n.midi) for n in after.melody] == [(0, 2, 64), (2, 2, 65), (7, 1, 67), (8, 2, 64), (10, 2, 65), (15, 1, 67), (16, 4, 72)]


def test_chords_alone_are_copied_several_times_and_higher() -> None:
    chart = chart_of(SONG, tune=TUNE)
    after, said = CopyBars(F(0), F(4), F(8), times=3, half_steps=2, tune=False).correct(chart)
    assert [c.symbol for c in after.chords] == ["C", "Am", "D", "D", "D", "Am", "F", "G"]
    assert after.melody == chart.melody
    assert said == "bar 1 copied to bars 3 to 5, 2 half steps higher"


def test_bars_are_moved_where_they_stand() -> None:
    """A stretch copied over itself, higher or lower: told as what it is, and the other way round it is what it was."""
    chart = chart_of(["C", "Am", "F", "G"], tune=[(4, 2, 69), (8, 4, 72)])
    up, said = CopyBars(F(4), F(12), F(4), half_steps=2).correct(chart)
    assert said == "bars 2 to 3: 2 half steps up"
    assert [c.symbol for c in up.chords] == ["C", "Bm", "G", "G"]
    assert [n.midi for n in up.melody] == [71, 74]
    back, said = CopyBars(F(4), F(12), F(4), half_steps=-2).correct(up)
    assert said == "bars 2 to 3: 2 half steps down"
    assert [(c.symbol, c.start) for c in back.chords] == [(c.symbol, c.start) for c in chart.chords]


def test_a_chord_that_is_held_over_the_bar_line_is_held_in_the_copy() -> None:
    chart = write(chart_of(SONG), 1, "C | _ F")
    assert row(CopyBars(F(0), F(8), F(16)).correct(chart)[0])[-4:] == ["C:6", "F:2", "F:4", "G:4"]


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        (CopyBars(F(0), F(8), F(28)), "bars 1 to 2 would be copied to bars 8 to 9, but the song has 8"),
        (CopyBars(F(4), F(4), F(8)), "must come after"),
        (CopyBars(F(0), F(3), F(8)), "no beginning of a bar"),
        (CopyBars(F(0), F(4), F(8), times=99), "1 to 16"),
    ],
)
def test_a_copy_that_does_not_fit_says_why(edit: CopyBars, words: str) -> None:
    with pytest.raises(ValleyError, match=words):
        edit.correct(chart_of(SONG))


def test_bars_of_other_metres_are_not_copied_onto_each_other() -> None:
    chart = chart_of(SONG)
    chart = replace(chart, grid=replace(chart.grid, changes=(MeterChange(16, "2/4"),)))
    with pytest.raises(ValleyError, match="bar 1 and bar 5 have other metres"):
        CopyBars(F(0), F(4), F(16)).correct(chart)


@given(random_charts(), st.data())
def test_a_copy_is_its_model_and_the_rest_stands(chart: Chart, data: st.DataObject) -> None:
    grid = chart.grid
    bars = [b for b in range(1, grid.bars) if grid.bar_start(b + 1) <= len(grid.beats)]
    assume(bars)
    one, other = data.draw(st.sampled_from(bars)), data.draw(st.sampled_from(bars))
    start, there = grid.bar_start(one), grid.bar_start(other)
    try:
        after = CopyBars(start, grid.bar_start(one + 1), there).correct(chart)[0]
    except ValleyError:
        assert grid.meter_of(one) != grid.meter_of(other)
        return

    def sounding(song: Chart, beat: F) -> object:
        return next((c.chord for c in song.chords if c.start <= beat < c.end), "nothing")

    length = grid.bar_start(one + 1) - start
    for k in range(0, int(length) * 4):
        assert sounding(after, there + F(k, 4)) == sounding(chart, start + F(k, 4))
    for k in range(0, 4 * len(grid.beats)):
        if not there <= F(k, 4) < there + length:
            assert sounding(after, F(k, 4)) == sounding(chart, F(k, 4))
    begun = [(n.start - there, n.midi) for n in after.notes_between(there, there + length)]
    assert begun == [(n.start - start, n.midi) for n in chart.notes_between(start, start + length)]
