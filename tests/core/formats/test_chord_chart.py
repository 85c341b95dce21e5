"""Chord charts as text: what is read, what is refused, and that writing and reading agree."""

import pytest
from hypothesis import given

from tests.charts import random_charts
from valley.errors import FormatError
from valley.formats.chord_chart import dump_chord_chart, parse_chord_chart
from valley.fraction import Fraction as F
from valley.model.chart import Chart
from valley.phrases.differences import say_differences
from valley.pipeline.readers import mark_repeats

TEXT = """
title: Two Lanterns
key: F major
meter: 4/4
tempo: 76

[Verse]
| F | C/E | Dm:3 C:1 | Bb |
[Refrain]
key: G major
| G D | % | Em C:1 | C |
"""


def rows(chart: Chart) -> list[tuple[F, F, str]]:
    return [(c.start, c.duration, c.label) for c in chart.chords]


def test_headers_parts_and_beats_are_read() -> None:
    chart = parse_chord_chart(TEXT)
    assert (chart.title, chart.bpm, chart.grid.meter, chart.grid.bars) == ("Two Lanterns", 76.0, "4/4", 8)
    assert rows(chart)[:5] == [(0, 4, "F:maj"), (4, 4, "C:maj/3"), (8, 3, "D:min"), (11, 1, "C:maj"), (12, 4, "Bb:maj")]
    assert rows(chart)[5:9] == [(16, 2, "G:maj"), (18, 2, "D:maj"), (20, 2, "G:maj"), (22, 2, "D:maj")]
    assert rows(chart)[9:11] == [(24, 3, "E:min"), (27, 1, "C:maj")]
    assert [(p.name, p.start_bar, p.bars) for p in chart.parts] == [("Verse", 1, 4), ("Refrain", 5, 4)]
    assert str(chart.key_at(F(15))) == "F major" and str(chart.key_at(F(16))) == "G major"


def test_compound_time_counts_beats_or_eighths() -> None:
    beats = parse_chord_chart("meter: 6/8\n| C:1 G:1 | C:3 G:3 | C:4 G:2 | C G |")
    assert [c.duration for c in beats.chords] == [1, 1, 1, 1, F(4, 3), F(2, 3), 1, 1]


def test_a_change_of_metre_and_a_pickup() -> None:
    chart = parse_chord_chart("pickup: 1\n| G | C | F |\nmeter: 3/4\n| C | G7 |")
    assert chart.grid.pickup == 1 and chart.grid.bars == 4
    assert [chart.grid.meter_of(b).name for b in range(1, 5)] == ["4/4", "4/4", "3/4", "3/4"]
    assert chart.chords[-1].duration == 3


def test_repeats_are_marked_with_their_differences() -> None:
    chart = mark_repeats(parse_chord_chart("[A]\n| C | F | G | C |\n[B]\n| Am | Am | F | G |\n[A]\n| C | F | G | Am |\n[C]\n| D | G | A | D |"))
    assert [(p.same_as, p.kinship) for p in chart.parts] == [(None, "new"), (None, "new"), (1, "varied"), (1, "moved")]
    assert "Am instead of C" in say_differences(chart.parts[2].differences)[0]


def test_without_a_key_the_likeliest_one_is_taken() -> None:
    assert str(parse_chord_chart("| Am | Dm | E7 | Am |").keys[0].key) == "A minor"
    assert str(parse_chord_chart("| Eb | Ab | Bb7 | Eb |").keys[0].key) == "Eb major"


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("| C | Hm |", "line 1: 'Hm' is no chord"),
        ("| C:3 G:3 |", "counts 3 + 3 beats, but a bar of 4/4 has 4"),
        ("| G:7 |", "a number after : means beats"),
        ("meter: 5/16\n| C |", "line 1: metre '5/16'"),
        ("tempo: fast\n| C |", "line 1: tempo 'fast'"),
        ("key: H major\n| C |", "line 1: 'H'"),
        ("C F G", "line 1: 'C F G' is neither"),
        ("| % | C |", "% repeats the bar before"),
        ("", "holds no bars"),
        ("[Verse]", "holds no bars"),
        ("pickup: 4\n| C | G |", "must be shorter"),
    ],
)
def test_what_is_wrong_is_said_with_its_line(text: str, words: str) -> None:
    with pytest.raises(FormatError, match=words.replace("+", r"\+").replace("|", r"\|")):
        parse_chord_chart(text)


@given(random_charts())
def test_writing_and_reading_gives_the_same_chords(chart: Chart) -> None:
    back = parse_chord_chart(dump_chord_chart(chart))
    sounding = [(c.start, c.duration, c.label) for c in chart.chords]
    assert [(c.start, c.duration, c.label) for c in back.chords] == sounding
    assert back.keys[0].key == chart.keys[0].key and back.grid.meter == chart.grid.meter
    assert [(p.start_bar, p.bars) for p in back.parts] == [(p.start_bar, p.bars) for p in chart.parts]
