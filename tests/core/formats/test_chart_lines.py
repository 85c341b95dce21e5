"""A whole two-handed lesson as text: hands, tune and cue words under the bars."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.songs import charts_in_parts, random_passages
from valley.arranging.arrange import arrange
from valley.errors import FormatError
from valley.formats.chord_chart import dump_chord_chart, parse_chord_chart, parse_song_chart
from valley.fraction import Fraction as F
from valley.model.chart import Chart, Cue
from valley.model.choices import Choices
from valley.model.passage import Passage

TEXT = """title: Slow Ferry
key: C major
meter: 4/4
tempo: 80

[Verse]
| C | Am | F | G |
R: 1 E4 2 G4 3 E4:2* | 1 A4=6 | - |
L: 1 C3 G3 2& E4 4 .. | | 3 F2~ (E2) | 1 G2 B2 / 2 D3
T: 1 E5=4 | | 1 (B4) C5
W: 1 "river" 3 "on the bridge"

[Verse again]
| C | Am | F | G |
L*: 1 C2
"""


def test_a_lesson_is_read_from_its_text() -> None:
    chart, passages = parse_song_chart(TEXT)
    assert [(n.start, n.duration, n.midi, n.grace) for n in chart.melody][0] == (0, 4, 76, False)
    assert chart.melody[1].grace and chart.melody[1].start == F(63, 8) and chart.melody[2].midi == 72 and chart.melody[2].duration == 4
    assert chart.cues == (Cue(F(0), "river"), Cue(F(2), "on the bridge"))
    spans = [(p.hand, p.start, p.end, p.times) for p in passages]
    assert ("left", F(0), F(3), ()) in spans and ("left", F(10), F(16), ()) in spans
    assert ("right", F(0), F(12), ()) in spans and ("left", F(16), F(20), None) in spans
    upper = next(p for p in passages if p.hand == "right")
    assert [(n.start, n.duration, n.midi, n.finger, n.optional) for n in upper.notes] == [
        (0, 1, 64, None, False),
        (1, 1, 67, None, False),
        (2, 2, 64, 2, True),
        (4, 6, 69, None, False),
    ]
    arrangement = arrange(chart, Choices(passages=passages))
    assert [n.midi for n in arrangement.parts[0].notes if n.hand == "left" and n.start < 3] == [48, 55, 64]


@given(charts_in_parts(), st.data())
@settings(max_examples=40)
def test_what_is_written_out_reads_the_same(chart: Chart, data: st.DataObject) -> None:
    passages = data.draw(random_passages(len(chart.grid.beats)))
    again, read = parse_song_chart(dump_chord_chart(chart, passages))
    assert [(n.start, n.duration, n.midi) for n in again.melody if not n.grace] == [(n.start, n.duration, n.midi) for n in chart.melody if not n.grace]
    assert again.cues == chart.cues

    def notes(rows: tuple[Passage, ...]) -> list[tuple[object, ...]]:
        return sorted(
            (p.hand, p.times or (), p.start + n.start, n.voice, n.midi, n.duration, n.finger or 0, n.optional, n.accent, n.grace, n.rings)
            for p in rows
            for n in p.notes
        )

    assert notes(read) == notes(passages)
    assert {(p.hand, p.times) for p in read} <= {(p.hand, p.times) for p in passages}


def test_held_chords_stay_held_and_struck_ones_are_struck_again() -> None:
    chart = parse_chord_chart("key: C major\n| C | | G:2 F:2 | _:2 C:1 C:1 | Abmaj7:8 |\n")
    rows = [(c.start, c.duration, c.symbol) for c in chart.chords]
    assert rows == [(0, 8, "C"), (8, 2, "G"), (10, 4, "F"), (14, 1, "C"), (15, 1, "C"), (16, 8, "Abmaj7")]
    again = parse_chord_chart(dump_chord_chart(chart))
    assert [(c.start, c.duration, c.symbol) for c in again.chords] == rows


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("L: 1 C3 | 1 D3 | 1 E3", "3 cells and stands under 2 bars"),
        ("L: C3", "no count"),
        ("R: 1 H4", "neither a count"),
        ("L: 1 C3 9 D3", "beyond the bar"),
        ("W: river", "no cue"),
        ("T: 1 C5=40", "would last"),
        ("L: 1 C3\nL*: 1 D3", "notes for this hand already"),
        ("L: 1 C3\nL: 1 D3", "notes for this hand already"),
    ],
)
def test_what_cannot_be_read_says_its_line(line: str, words: str) -> None:
    with pytest.raises(FormatError, match=words) as raised:
        parse_song_chart(f"key: C major\n| C | F |\n{line}\n")
    assert "line " in str(raised.value)
