"""Heard times on the grid."""

from dataclasses import replace

import pytest

from valley.charting.from_hearing import make_chart
from valley.errors import ParameterError
from valley.fraction import Fraction as F
from valley.model.hearing import HeardChord, HeardNote, Hearing, KeyRegion, Reading, Section

BEATS = tuple(0.3 + 0.5 * i for i in range(34))
HEARING = Hearing(
    duration=17.5,
    tuning_cents=1.0,
    bpm=120.0,
    meter="4/4",
    beats=BEATS,
    downbeats=BEATS[2::4],
    keys=(KeyRegion(0, 9.3, "C", "major", 0.9), KeyRegion(9.3, 17.5, "D", "major", 0.7)),
    chords=(
        HeardChord(0, 1.3, "N", 1.0),
        HeardChord(1.3, 5.3, "C:maj", 0.9, (Reading("C:maj", 0.9), Reading("A:min7", 0.05))),
        HeardChord(5.3, 9.3, "F:maj/3", 0.6),
        HeardChord(9.3, 17.5, "D:maj", 0.8),
    ),
    melody=(HeardNote(1.31, 1.78, 67, 0.9), HeardNote(1.8, 2.5, 69, 0.8), HeardNote(2.42, 2.9, 71, 0.8)),
    bass=(),
    sections=(Section(1.3, 9.3, "1", None, 0.8), Section(9.3, 17.3, "1", 0, 0.6)),
)


def test_the_pickup_and_bar_one_follow_the_downbeats() -> None:
    chart = make_chart(HEARING, "Song")
    assert chart.grid.pickup == 2
    assert chart.grid.bars == 8
    assert chart.grid.place(F(2)) == (1, 0)
    assert chart.grid.place(F(0)) == (0, 2)
    assert chart.grid.seconds(F(5, 2)) == pytest.approx(1.55)
    assert chart.grid.position(1.55) == pytest.approx(2.5)


def heard_in(lengths: list[int], meter: str = "4/4", pickup: int = 0) -> Hearing:
    """A hearing with bars of these lengths and one bar begun behind them."""
    beats = tuple(0.3 + 0.5 * i for i in range(pickup + sum(lengths) + 2))
    starts = [pickup + sum(lengths[:i]) for i in range(len(lengths) + 1)]
    return replace(HEARING, meter=meter, beats=beats, downbeats=tuple(beats[i] for i in starts), duration=beats[-1] + 1)


def test_a_bar_that_was_cut_short_stays_so_and_all_behind_it_keep_their_place() -> None:
    grid = make_chart(heard_in([4] * 7 + [2] + [4] * 8, pickup=1), "Song").grid
    assert (grid.meter, grid.pickup) == ("4/4", 1)
    assert [(c.beat, c.meter) for c in grid.changes] == [(29, "2/4"), (31, "4/4")]
    assert grid.bar_start(9) == 31


def test_a_part_in_another_metre_has_it_from_its_first_bar() -> None:
    grid = make_chart(heard_in([4] * 8 + [3] * 8), "Song").grid
    assert [(c.beat, c.meter) for c in grid.changes] == [(32, "3/4")]
    grid = make_chart(heard_in([2] * 8 + [3] * 2 + [2] * 8, meter="6/8"), "Song").grid
    assert [(c.beat, c.meter) for c in grid.changes] == [(16, "9/8"), (22, "6/8")]


def test_a_song_in_five_is_charted_in_five() -> None:
    grid = make_chart(heard_in([5] * 8, meter="5/4", pickup=2), "Song").grid
    assert (grid.meter, grid.pickup, grid.changes, grid.bars) == ("5/4", 2, (), 9)


def test_beats_that_were_stumbled_over_are_counted_evenly() -> None:
    grid = make_chart(heard_in([4, 4, 3, 5, 4, 4, 2, 4, 4, 4, 3]), "Song").grid
    assert (grid.meter, grid.pickup, grid.changes) == ("4/4", 0, ())
    grid = make_chart(heard_in([4] * 7 + [6] + [4] * 8), "Song").grid  # no bar has six quarters
    assert grid.changes == ()


def test_parts_begin_at_the_bars_that_are_nearest_where_bars_differ() -> None:
    hearing = heard_in([4] * 7 + [2] + [4] * 8)
    second = hearing.beats[30]
    parts = (Section(0.3, second, "1", None, 0.8), Section(second - 0.2, hearing.beats[-1], "2", None, 0.6))
    assert [(p.start_bar, p.bars) for p in make_chart(replace(hearing, sections=parts), "Song").parts] == [(1, 8), (9, 9)]


def test_chords_cover_the_grid_without_gaps() -> None:
    chart = make_chart(HEARING, "Song")
    assert [(c.start, c.label) for c in chart.chords] == [(0, "N"), (2, "C:maj"), (10, "F:maj/3"), (18, "D:maj")]
    assert chart.chords[-1].end == len(BEATS)
    assert chart.chords[1].readings[1].label == "A:min7"


def test_keys_and_parts_stand_on_their_bars() -> None:
    chart = make_chart(HEARING, "Song")
    assert [(k.start, str(k.key)) for k in chart.keys] == [(0, "C major"), (18, "D major")]
    assert [(p.number, p.start_bar, p.bars, p.same_as) for p in chart.parts] == [(1, 1, 4, None), (2, 5, 4, 1)]
    assert chart.parts[1].kinship == "varied"


def test_the_tune_is_snapped_and_never_overlaps() -> None:
    melody = make_chart(HEARING, "Song").melody
    assert [(n.start, n.midi) for n in melody] == [(2, 67), (3, 69), (F(17, 4), 71)]
    assert all(a.end <= b.start for a, b in zip(melody, melody[1:], strict=False))


def test_a_song_that_swings_is_written_even_and_sounds_as_it_was_heard() -> None:
    swung = [HeardNote(0.3 + 0.5 * (i + s), 0.3 + 0.5 * (i + s) + 0.15, 60 + i % 5, 0.9) for i in range(20) for s in (0.0, 0.66)]
    chart = make_chart(replace(HEARING, melody=tuple(swung)), "Swing")
    assert chart.grid.feel == "swing"
    assert {n.start % 1 for n in chart.melody} == {F(0), F(1, 2)}
    off = [n for n in chart.melody if n.start % 1]
    assert all(abs(chart.grid.seconds(n.start) - chart.grid.seconds(n.start // 1) - 0.5 * 2 / 3) < 0.001 for n in off[:-1])


def test_hearings_that_cannot_be_charted_say_why() -> None:
    with pytest.raises(ParameterError, match="at least 2"):
        make_chart(replace(HEARING, beats=(1.0,), downbeats=()), "Song")
    with pytest.raises(ParameterError, match="ascend"):
        replace(HEARING, beats=(1.0, 0.5))
    with pytest.raises(ParameterError, match="same_as=1"):
        replace(HEARING, sections=(Section(0, 1, "1", 1, 1.0),))
    with pytest.raises(ParameterError, match="meter='5/16'"):
        replace(HEARING, meter="5/16")


def test_nothing_heard_still_makes_a_chart() -> None:
    chart = make_chart(replace(HEARING, keys=(), chords=(), melody=(), sections=()), "Bare")
    assert [c.label for c in chart.chords] == ["N"]
    assert len(chart.parts) == 1
