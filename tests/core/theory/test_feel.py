"""Swing: written even, played long and short; triplets stay what they are."""

from __future__ import annotations

from dataclasses import replace
from io import BytesIO

import mido
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import chart_of, make_work
from valley.charting.swing import write_even
from valley.edits import DoubleTempo, HalveTempo, SetFeel, apply_edit
from valley.errors import FormatError, ParameterError
from valley.formats.chord_chart import dump_chord_chart, parse_chord_chart
from valley.formats.midi import dump_midi
from valley.formats.musicxml import dump_musicxml
from valley.formats.score_in import read_musicxml
from valley.fraction import Fraction as F
from valley.lesson.proof import read_proof
from valley.model.chart import Chart, Grid, MelodyNote, MeterChange
from valley.model.schools import Schools
from valley.phrases import say_lesson
from valley.pipeline.readers import read_any_song
from valley.song import SongState, Work
from valley.theory.feel import FEELS, feel_named
from valley.theory.meter import Meter

BEATS = tuple(0.5 * i for i in range(17))
CHART = chart_of(["C", "F", "G", "C"], tune=[(0, F(1, 2), 72), (F(1, 2), F(1, 2), 74), (1, 1, 76), (2, F(1, 2), 77), (F(5, 2), F(3, 2), 79)])
SWUNG = replace(CHART, grid=replace(CHART.grid, feel="swing"))


def test_the_second_of_two_eighths_comes_late_and_triplets_on_time() -> None:
    grid = Grid(BEATS, "4/4", feel="swing")
    assert [round(grid.seconds(x), 4) for x in (F(0), F(1, 3), F(1, 2), F(2, 3), F(3, 4), F(1))] == [0.0, 0.1667, 0.3333, 0.3333, 0.4167, 0.5]
    assert round(replace(grid, feel="light swing").seconds(F(1, 2)), 4) == 0.3
    sixteenths = replace(grid, feel="swung sixteenths")
    assert [round(sixteenths.seconds(x), 4) for x in (F(1, 4), F(1, 2), F(3, 4))] == [0.1667, 0.25, 0.4167]


@pytest.mark.parametrize(("meter", "pair"), [("4/4", 1), ("2/2", F(1, 2)), ("6/8", 0), ("7/8", 0), ("12/8", 0), ("3/4", 1)])
def test_what_swings_in_which_metre(meter: str, pair: F) -> None:
    assert FEELS["swing"].pair_in(Meter(meter)) == pair


def test_a_song_swings_only_where_its_metre_does() -> None:
    grid = Grid(BEATS, "4/4", changes=(MeterChange(4, "6/8"), MeterChange(8, "4/4")), feel="swing")
    assert grid.swung == ((0, 4, 1), (8, 17, 1))
    assert grid.seconds(F(9, 2)) == 2.25
    assert round(grid.seconds(F(17, 2)), 4) == 4.3333


@given(st.sampled_from(list(FEELS)), st.fractions(0, 15, max_denominator=8))
def test_later_written_is_never_heard_earlier_and_comes_back(feel: str, beat: F) -> None:
    grid = Grid(BEATS, "4/4", feel=feel)
    assert grid.seconds(beat) <= grid.seconds(beat + F(1, 8)) + 1e-9 or beat.denominator % 3 == 0 or (beat + F(1, 8)).denominator % 3 == 0
    if beat.denominator % 3:
        assert grid.position(grid.seconds(beat)) == pytest.approx(float(beat))


def test_an_unknown_feel_is_named() -> None:
    with pytest.raises(FormatError, match="'bouncy' is not one of straight"):
        feel_named("bouncy")


def test_triplets_long_and_short_are_written_even_and_real_ones_stay() -> None:
    notes = [(0, F(2, 3)), (F(2, 3), F(1, 3)), (1, F(1, 3)), (F(4, 3), F(1, 3)), (F(5, 3), F(1, 3)), (2, F(1, 3)), (F(8, 3), F(1, 3))]
    even = write_even([MelodyNote(F(start), F(length), 60) for start, length in notes])
    assert [(n.start, n.duration) for n in even] == [
        (0, F(1, 2)),
        (F(1, 2), F(1, 2)),
        (1, F(1, 3)),
        (F(4, 3), F(1, 3)),
        (F(5, 3), F(1, 3)),
        (2, F(1, 2)),
        (F(5, 2), F(1, 2)),
    ]


def test_saying_that_it_swings_changes_how_it_is_written_and_not_when_it_sounds() -> None:
    thirds = chart_of(["C"] * 2, tune=[(0, F(2, 3), 72), (F(2, 3), F(1, 3), 74), (1, F(2, 3), 76), (F(5, 3), F(1, 3), 77)])
    song, said = apply_edit(SongState(thirds), SetFeel("swing"))
    assert said == "played with swing"
    assert [n.start for n in song.chart.melody] == [0, F(1, 2), 1, F(3, 2)]
    heard = [[c.grid.seconds(n.start) for n in c.melody] for c in (thirds, song.chart)]
    assert heard[0] == pytest.approx(heard[1])
    straight, _ = apply_edit(song, SetFeel("straight"))
    assert [n.start for n in straight.chart.melody] == [0, F(1, 2), 1, F(3, 2)]
    with pytest.raises(ParameterError, match="straight as it is"):
        apply_edit(straight, SetFeel("straight"))
    halved, _ = apply_edit(song, HalveTempo())
    assert halved.chart.grid.feel == "swung sixteenths"
    assert [halved.chart.grid.seconds(n.start) for n in halved.chart.melody] == pytest.approx(heard[1])
    doubled, said = apply_edit(song, DoubleTempo())
    assert (doubled.chart.grid.feel, said.endswith("written straight")) == ("straight", True)
    assert [doubled.chart.grid.seconds(n.start) for n in doubled.chart.melody] == pytest.approx(heard[1], abs=1e-4)
    back, _ = apply_edit(halved, DoubleTempo())
    assert (back.chart.grid.feel, back.chart.melody[1].start) == ("swing", F(1, 2))


def test_nothing_swings_in_six_eight() -> None:
    with pytest.raises(ParameterError, match="nothing to swing"):
        apply_edit(SongState(replace(CHART, grid=Grid(BEATS, "6/8"), parts=())), SetFeel("shuffle"))


def test_the_file_of_midi_plays_it_and_the_printed_score_says_it() -> None:
    work = Work(SongState(SWUNG))
    track = mido.MidiFile(file=BytesIO(dump_midi(SWUNG, work.arrangement))).tracks[3]
    now, starts = 0, []
    for message in track:
        now += message.time
        if message.type == "note_on":
            starts.append(now)
    assert starts == [0, 320, 480, 960, 960 + 320]
    score = dump_musicxml(SWUNG, work.arrangement)
    assert b">Swing&#160;&#160;</words></direction-type><direction-type>" in b"".join(score.split())
    assert b"<swing><first>2</first><second>1</second><swing-type>eighth</swing-type></swing>" in score
    again = read_musicxml(score)
    assert again.feel == "swing"
    assert read_musicxml(dump_musicxml(CHART, Work(SongState(CHART)).arrangement)).feel == "straight"


@pytest.mark.parametrize("feel", [f for f in FEELS if f != "straight"])
def test_a_feel_comes_back_from_score_and_text(feel: str) -> None:
    chart = replace(CHART, grid=replace(CHART.grid, feel=feel))
    assert read_musicxml(dump_musicxml(chart, Work(SongState(chart)).arrangement)).feel == feel
    assert parse_chord_chart(dump_chord_chart(chart)).grid.feel == feel


@pytest.mark.parametrize(
    ("language", "said"),
    [("en", "Swing the eighths:"), ("fr", "Les croches swinguent"), ("de", "Die Achtel swingen:"), ("es", "Las corcheas llevan swing:")],
)
def test_the_lesson_says_it_once_and_straight_songs_say_nothing(language: str, said: str) -> None:
    told = {}
    for chart in (CHART, SWUNG):
        lesson = make_work(chart, schools=Schools(language=language)).lesson
        told[chart.grid.feel] = " ".join(" ".join((title, *lines)) for title, lines in say_lesson(lesson))
    assert told["swing"].count(said) == 1
    assert "wing" not in told["straight"]


def read(text: str) -> Chart:
    return read_any_song(text.encode(), "chart.txt").chart


@pytest.mark.parametrize(
    ("line", "feel", "title"),
    [
        ("Feel: swing", "swing", "Slow Gate"),
        ("Medium swing, 132 bpm", "swing", "Slow Gate"),
        ("shuffle", "shuffle", "Slow Gate"),
        ("Light swing", "light swing", "Slow Gate"),
        ("100 bpm, swung 16ths", "swung sixteenths", "Slow Gate"),
        ("90 bpm", "straight", "Slow Gate"),
    ],
)
def test_charts_as_people_write_them_say_that_they_swing(line: str, feel: str, title: str) -> None:
    chart = read(f"Slow Gate\n{line}\n\nVerse\nC Am F G\n")
    assert (chart.grid.feel, chart.title) == (feel, title)


def test_a_title_with_swing_in_it_is_a_title() -> None:
    chart = read("The Garden Swing\nKey: C\n\nVerse:\nC Am F G\n")
    assert (chart.grid.feel, chart.title) == ("straight", "The Garden Swing")


@pytest.mark.parametrize(
    ("feel", "words", "wrong"),
    [
        ("straight", "Swing the eighths a little here.", "Swing the eighths"),
        ("straight", "Remember, it's a shuffle.", "it's a shuffle"),
        ("straight", "Keep straight eighths all the way.", ""),
        ("straight", "Don't swing the eighths.", ""),
        ("swing", "Play straight eighths in the verse.", "straight eighths"),
        ("swing", "And swing the eighths, long and short.", ""),
        ("shuffle", "This is a shuffle, so take it easy.", ""),
        ("swung sixteenths", "The eighths are even, only the small ones swing.", ""),
    ],
)
def test_who_says_that_it_swings_is_held_to_it(feel: str, words: str, wrong: str) -> None:
    chart = replace(CHART, grid=replace(CHART.grid, feel=feel))
    work = Work(SongState(chart))
    marked = [c.text for c in read_proof(words, chart, work.arrangement) if c.verdict == "contradicts"]
    assert marked == ([wrong] if wrong else [])
