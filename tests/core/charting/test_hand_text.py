"""Counts and notes as a teacher says them: read exactly, written so that they read the same again, refused with their place."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import chart_of
from tests.songs import written_notes
from valley.charting.hand_text import count_of_place, place_of_count, read_hand, write_hand
from valley.errors import FormatError
from valley.fraction import Fraction as F
from valley.model.chart import Grid
from valley.model.passage import WrittenNote
from valley.theory.meter import SUPPORTED, Meter
from valley.theory.pitch import parse_name, spell_pitch_class

FOUR = chart_of(["C"] * 4).grid
SIX = chart_of(["C"] * 4, meter="6/8").grid


def rows(text: str, grid: Grid = FOUR, start: int = 0, duration: int = 4) -> list[tuple[F, F, str]]:
    return [(n.start, n.duration, n.pitch) for n in read_hand(text, grid, F(start), F(duration))]


def test_notes_last_to_the_next_count_or_to_the_bar_line() -> None:
    assert rows("1 C3 G3  2& E4  4 -") == [(F(0), F(3, 2), "C3"), (F(0), F(3, 2), "G3"), (F(3, 2), F(3, 2), "E4")]
    assert rows("3 bb2") == [(F(2), F(2), "Bb2")]
    assert rows("1 C3 | 1 - 2 D3", duration=8) == [(F(0), F(4), "C3"), (F(5), F(3), "D3")]
    assert rows("1 C3 4 D3", SIX, duration=2) == [(F(0), F(1), "C3"), (F(1), F(1), "D3")]
    assert rows("1 C4 1trip D4 1let E4", duration=1) == [(F(0), F(1, 3), "C4"), (F(1, 3), F(1, 3), "D4"), (F(2, 3), F(1, 3), "E4")]


def test_what_stands_on_a_note() -> None:
    (note,) = read_hand("2 F#4:3=5*>~ | ", FOUR, F(0), F(8))
    assert note == WrittenNote(F(1), F(5), 66, "F#4", 3, optional=True, accent=True, rings=True)
    grace, after = read_hand("1 (B3) C4", FOUR, F(0), F(4))
    assert grace.grace and grace.pitch == "B3" and not after.grace
    low, high = read_hand("1 C3 / 1& E3", FOUR, F(0), F(4))
    assert (low.voice, low.duration, high.voice, high.duration) == (1, 4, 2, F(7, 2))
    assert read_hand("", FOUR, F(0), F(4)) == ()


def test_a_pickup_is_counted_as_the_end_of_a_bar() -> None:
    grid = chart_of(["C", "F"], pickup=1).grid
    assert rows("4 G3 | 1 C4", grid, 0, 5) == [(F(0), F(1), "G3"), (F(1), F(4), "C4")]
    notes = read_hand("4 G3 | 1 C4", grid, F(0), F(5))
    assert write_hand(notes, grid, F(0), F(5)) == "4 G3 | 1 C4"


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("C3", "bar 1: 'C3' stands before any count; begin with a count, such as 1 C3"),
        ("1 H3", "bar 1: 'H3' is neither a count"),
        ("1 C", "'C' is neither a count .* nor a note with its octave"),
        ("5 C3", "count 5 is beyond the bar; a bar of 4/4 is counted 1 to 4"),
        ("2 C3 1 D3", "count 1 must come after the count before it"),
        ("1 C3=9", "C3 would last to beat 9, and what is written ends at beat 4"),
        ("1 C3 | 1 D3", "bar 2: the text goes on beyond the 4 beats"),
        ("1 C3 / 1 D3 / 1 E3", "two lines at most"),
        ("1 (C3", "neither a count"),
        ("1 C3:9", "neither a count"),
    ],
)
def test_what_cannot_be_read_is_told_with_its_bar(text: str, words: str) -> None:
    with pytest.raises(FormatError, match=words):
        read_hand(text, FOUR, F(0), F(4))


@given(st.data(), st.sampled_from(SUPPORTED), st.sampled_from(["C", "Eb", "F#"]))
def test_what_is_written_reads_the_same(data: st.DataObject, meter: str, tonic: str) -> None:
    grid = chart_of(["C"] * 5, meter=meter).grid
    start, duration = F(data.draw(st.integers(0, 2 * Meter(meter).beats))), F(data.draw(st.integers(1, 2 * Meter(meter).beats)))
    drawn = data.draw(written_notes(duration))
    notes = [replace(n, pitch=spell_pitch_class(n.midi % 12, parse_name(tonic)).at(n.midi)) for n in drawn]
    notes = sorted(notes, key=lambda n: (n.start, n.voice, not n.grace, n.midi))
    text = write_hand(notes, grid, start, duration)
    assert list(read_hand(text, grid, start, duration)) == notes, text
    assert write_hand(read_hand(text, grid, start, duration), grid, start, duration) == text


@given(st.sampled_from(SUPPORTED), st.integers(0, 96))
def test_every_place_has_a_count_that_reads_back(meter: str, at: int) -> None:
    place = F(at, 24) % Meter(meter).beats
    assert place_of_count(count_of_place(place, Meter(meter)), Meter(meter)) == place
