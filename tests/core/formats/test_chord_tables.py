"""Tables of chords as others write them: by bars, by beats, by times, with whatever between the columns."""

from __future__ import annotations

import pytest

from valley.errors import FormatError
from valley.model.chart import Chart
from valley.pipeline.readers import read_any_song


def read(text: str) -> Chart:
    return read_any_song(text.encode(), "song.csv").chart


def told(chart: Chart) -> list[str]:
    return [f"{c.chord.to_symbol() if c.chord else 'N'}:{c.duration}" for c in chart.chords]


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("Bar,Chord\n1,C\n2,Am\n4,G7\n", ["C:4", "Am:8", "G7:4"]),
        ("bar;beat;chord\n1;1;C\n1;3;G/B\n2;1;Am\n", ["C:2", "G/B:2", "Am:4"]),
        ("Takt\tAkkord\n1\tCm\n2\tFm\n", ["Cm:4", "Fm:4"]),
        ("measure,count,symbol,meter\n1,1,D,3/4\n1,3,A7,3/4\n2,1,D,3/4\n", ["D:2", "A7:1", "D:3"]),
        ("bar,chord\n1,C\n1,F\n2,G\n", ["C:2", "F:2", "G:4"]),
        ("time;chord\n0;C\n2.0;Am\n4.0;F\n6.0;G\n", ["C:2", "Am:2", "F:2", "G:2"]),
        ("start,end,label\n0.0,2.0,C:maj\n2.0,4.0,A:min/b3\n", ["C:2", "Am/C:2"]),
        ("onset,chord\n0:00,C\n0:02,F\n0:04,N.C.\n", ["C:2", "F:2", "N:2"]),
    ],
)
def test_a_table_means_what_its_columns_say(text: str, wanted: list[str]) -> None:
    chart = read(text)
    lengths = [c.duration for c in chart.chords]
    scale = (
        lengths[0] / int(wanted[0].rpartition(":")[2]) if "bar" not in text.lower() and "takt" not in text.lower() else 1
    )  # how beats are counted in seconds
    assert [f"{row.rpartition(':')[0]}:{c.duration / scale}" for row, c in zip(told(chart), chart.chords, strict=True)][: len(wanted)] == wanted


def test_parts_and_key_come_along() -> None:
    chart = read("part,bar,chord,key\nVerse,1,Dm,D minor\nVerse,2,A,D minor\nChorus,3,F,D minor\n")
    assert [(p.name, p.start_bar) for p in chart.parts] == [("Verse", 1), ("Chorus", 3)]
    assert str(chart.keys[0].key) == "D minor"


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("bar,chord\n1,C\nx,F\n", "row 3"),
        ("bar,chord\n0,C\n", "bar '0' must be 1 to 2000"),
        ("bar,beat,chord\n1,5,C\n", "beat 5 is not in a bar of 4/4"),
        ("bar,chord\n1,Hello\n", "row 2"),
        ("time,chord\nsoon,C\n", "'soon' is no time"),
        ("a,b\n1,2\n", "a column of chords is needed"),
        ("bar,chord\n99999999,C\n", "must be 1 to 2000"),
    ],
)
def test_what_cannot_be_is_told_with_its_row(text: str, said: str) -> None:
    with pytest.raises(FormatError) as error:
        read(text)
    assert said in str(error.value)


def test_labels_may_be_symbols() -> None:
    chart = read_any_song(b"0.0 2.0 C\n2.0 4.0 Am\n4.0 6.0 F:maj7\n6.0 8.0 N\n", "song.lab").chart
    assert [c.chord.to_symbol() if c.chord else "N" for c in chart.chords] == ["C", "Am", "Fmaj7", "N"]
    with pytest.raises(FormatError, match="line 1"):
        read_any_song(b"0.0 2.0 Hello\n", "song.lab")
