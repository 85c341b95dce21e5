"""Values in words: each kind by hand, in the schools that change it."""

from __future__ import annotations

import pytest

from valley.errors import ParameterError
from valley.fraction import Fraction as F
from valley.model.lesson import Line, Step, own_line
from valley.model.saying import (
    Amount,
    Chords,
    Counts,
    Distance,
    KeyName,
    Length,
    Names,
    Numbers,
    Order,
    Pitches,
    Several,
    Sound,
    Stroke,
    Strokes,
    Times,
    Value,
    own_words,
    say,
)
from valley.model.schools import Schools
from valley.phrases import Words
from valley.theory.chord import parse_harte

GERMAN = Schools(naming="german")
SYLLABLES = Schools(naming="syllables")
LOW = Schools(octaves="c3")


def said(value: Value, schools: Schools | None = None) -> str:
    """A value alone, in the plainest of phrases."""
    return Words(schools).say(say("meter first", meter=value))


@pytest.mark.parametrize(
    ("value", "words"),
    [
        (Amount(F(1), "beat"), "1 beat"),
        (Amount(F(4), "beat"), "4 beats"),
        (Amount(F(2), "bar"), "2 bars"),
        (Amount(F(1), "part"), "1 part"),
        (Names(("Eb", "F", "G")), "Eb F G"),
        (Pitches(("C4",)), "C4"),
        (Pitches(("C4", "E4")), "C4 and E4"),
        (Pitches(("C4", "E4", "G4")), "C4, E4 and G4"),
        (Pitches(("C4", "E4", "G4"), starred=("E4",)), "C4, E4 if you like and G4"),
        (Pitches(("C4", "E4", "G4"), in_order=True), "C4, E4, G4"),
        (Sound(parse_harte("Bb:maj/3")), "Bb/D"),
        (Chords((parse_harte("C:maj"), parse_harte("G:maj/3"))), "C G/B"),
        (KeyName("Eb", "major"), "Eb major"),
        (Counts(("1", "2 &", "1 + 1/8")), "1, 2 and, 1/8 of a count after 1"),
        (Numbers((1, 2, 4)), "1, 2 and 4"),
        (Numbers((1, 2, 4), in_order=True), "1, 2, 4"),
        (Distance(5), "up a fourth"),
        (Distance(-12), "down an octave"),
        (Distance(19), "up an octave and a fifth"),
        (Length(F(4), F(4)), "a bar"),
        (Length(F(8), F(4)), "2 bars"),
        (Length(F(3, 2)), "1 beat and a half"),
        (Times(2), "twice"),
        (Times(4), "4 times"),
        (Strokes((Stroke("1", ("C4", "E4")), Stroke("2 &", ("G4",), ("F#4",)))), "C4 E4 on 1, F#4 into G4 on 2 and"),
        (Order(((0,), (1, 2), (0, 1, 2)), 3), "bottom, middle and top, all keys"),
        (Order(((3,), (0,)), 4, ("1", "3")), "fourth on 1, first on 3"),
        (Several((own_words("one"), own_words("two"))), "one, two"),
        (Several((own_words("one"), own_words("two")), "rows"), "one; two"),
        (Several((own_words("one"), own_words("two"), own_words("three")), "list"), "one, two and three"),
        (7, "7"),
        ("as it is", "as it is"),
    ],
    ids=str,
)
def test_a_value_in_plain_words(value: Value, words: str) -> None:
    assert said(value) == words


@pytest.mark.parametrize(
    ("value", "schools", "words"),
    [
        (Pitches(("Bb3", "B3")), GERMAN, "B3 and H3"),
        (Pitches(("Bb3",)), LOW, "Bb2"),
        (Pitches(("A4",)), SYLLABLES, "la4"),
        (Names(("Bb", "F#")), GERMAN, "B Fis"),
        (Sound(parse_harte("B:maj")), GERMAN, "H"),
        (Sound(parse_harte("C:maj/3")), Schools(inversions="words"), "C in first inversion"),
        (Sound(parse_harte("C:maj7")), Schools(major_seventh="M7"), "CM7"),
        (KeyName("Eb", "minor"), GERMAN, "Es minor"),
        (Pitches(("Bb3",)), Schools(flats="spoken"), "B flat 3"),
    ],
    ids=str,
)
def test_a_school_changes_the_words_and_not_the_value(value: Value, schools: Schools, words: str) -> None:
    assert said(value, schools) == words
    assert said(value) != words


def test_a_line_says_its_sayings_one_after_the_other_and_a_step_its_lines() -> None:
    line = Line((say("blocks held"), own_words("Breathe.")), kind="grip")
    step = Step(own_words("Slowly"), (line, own_line("Again.")))
    words = Words()
    assert words.line(line) == "Hold each chord as it comes. Breathe."
    assert words.title(step) == "Slowly"
    assert words.lines(step) == ("Hold each chord as it comes. Breathe.", "Again.")
    assert words.count(step) == 9


def test_a_sentence_that_comes_often_takes_turns_and_a_step_is_always_said_alike() -> None:
    words = Words()
    ways = [say("pattern", pattern=name, summary="Even.") for name in ("rocking", "broken", "rolled")]
    assert words.say(ways[0]) == "Now the pattern, rocking: Even."
    assert words.say(ways[0]) == "The same chords in the pattern, rocking: Even."
    step = Step(own_words("t"), tuple(Line((way,)) for way in ways))
    told = ("Now the pattern, rocking: Even.", "The same chords in the pattern, broken: Even.", "Now the pattern, rolled: Even.")
    assert words.lines(step) == words.lines(step) == told


def test_what_the_catalogue_or_the_shelf_of_languages_lacks_is_refused() -> None:
    with pytest.raises(ParameterError, match="phrase='wild'"):
        Words().say(say("wild"))
    with pytest.raises(ParameterError, match="language='xx' must be one of en, fr, de, es"):
        Words(language="xx")
