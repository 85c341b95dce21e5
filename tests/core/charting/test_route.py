"""Suggested repeats, vocabulary by key, plans of lessons."""

import pytest

from tests.charts import chart_of, correct
from valley.charting.route import suggest_repeats
from valley.charting.vocabulary import common_notes, explain_unusual, list_vocabulary
from valley.edits import SetKey
from valley.fraction import Fraction as F
from valley.phrases.differences import say_differences
from valley.theory.chord import parse_harte, parse_symbol
from valley.theory.key import Key
from valley.theory.roman import write_roman

VERSE = ["C", "Am", "F", "G"]


def test_parts_that_resemble_earlier_ones_are_suggested_at_any_pitch() -> None:
    chart = chart_of([*VERSE, "Dm", "Dm", "Em", "Em", "D", "Bm", "G", "A", *VERSE], parts=[(1, 4, None), (5, 4, None), (9, 4, None), (13, 4, None)])
    found = suggest_repeats(chart)
    assert [(s.number, s.model) for s in found] == [(3, 1), (4, 1)]
    assert found[0].why == "a whole step higher"
    assert found[1].why == "the same, note for note"


def test_another_ending_is_called_so() -> None:
    part = chart_of([*VERSE, "C", "Am", "F", "C"], parts=[(1, 4, None), (5, 4, 1)]).parts[1]
    assert say_differences(part.differences) == ("another ending, bar 8: C instead of G",)


def test_the_vocabulary_goes_key_by_key_with_neighbours_and_reasons() -> None:
    chart = correct(chart_of(["C", "Am", "Fm", "C", "D", "A7", "Bm", "D"]), SetKey(F(16), "D", "major"))[0]
    entries = list_vocabulary(chart)
    assert [(e.key, e.chord.to_harte()) for e in entries][:3] == [("C major", "C:maj"), ("C major", "A:min"), ("C major", "F:min")]
    c = entries[0]
    assert (c.times, c.beats, c.bars, c.roman, c.unusual) == (2, 8, (1, 4), "I", "")
    assert (c.after[0].chord.to_harte(), c.after[0].common) == ("A:min", ("C", "E"))
    fm = entries[2]
    assert fm.roman == "iv"
    assert fm.unusual == "Ab is borrowed from C minor, which darkens it"
    assert next(e for e in entries if e.chord.to_harte() == "A:7").function == "on the fifth step, leads home"


@pytest.mark.parametrize(
    ("symbol", "key", "words"),
    [
        ("C", ("C", "major"), ""),
        ("Gsus4", ("C", "major"), "suspended"),
        ("D7", ("C", "major"), "leans into G"),
        ("E7", ("A", "minor"), "raised to lead home"),
        ("Bb", ("C", "major"), "borrowed from C minor"),
        ("D", ("A", "minor"), "borrowed from A major"),
        ("F#dim7", ("C", "major"), "passing tension"),
        ("Gmaj7", ("C", "major"), "raised fourth"),
        ("Dmaj7", ("C", "major"), "not in C major"),
        ("Ab7", ("C", "major"), "not in C major"),
    ],
)
def test_why_a_chord_stands_out(symbol: str, key: tuple[str, str], words: str) -> None:
    chord = parse_symbol(symbol)
    assert chord is not None
    said = explain_unusual(chord, Key.of(*key))
    assert words in said
    assert bool(words) == bool(said)


@pytest.mark.parametrize(
    ("symbol", "key", "roman"),
    [
        ("Dm7", ("C", "major"), "ii7"),
        ("G7", ("C", "major"), "V7"),
        ("Bdim", ("C", "major"), "vii°"),
        ("Bm7b5", ("C", "major"), "viiø7"),
        ("Eb", ("C", "major"), "bIII"),
        ("F#m7b5", ("C", "major"), "#ivø7"),
        ("C/E", ("C", "major"), "I/3"),
        ("Am", ("A", "minor"), "i"),
        ("G", ("A", "minor"), "VII"),
        ("G#dim", ("A", "minor"), "#vii°"),
        ("Bb", ("A", "minor"), "bII"),
        ("Cmaj7", ("C", "major"), "Imaj7"),
        ("Fm6", ("C", "major"), "iv6"),
        ("Caug", ("C", "major"), "I+"),
    ],
)
def test_roman_numerals(symbol: str, key: tuple[str, str], roman: str) -> None:
    chord = parse_symbol(symbol)
    assert chord is not None
    assert write_roman(chord, Key.of(*key)) == roman


def test_common_notes_are_spelled_as_the_first_chord_has_them() -> None:
    assert common_notes(parse_harte("C:maj"), parse_harte("A:min")) == ("C", "E")
