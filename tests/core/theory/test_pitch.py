"""Spelling on the line of fifths, by hand on known notes and by properties on all."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valley.errors import FormatError, ParameterError
from valley.theory.pitch import PitchName, parse_name, parse_pitch, spell_midi, spell_pitch_class


@pytest.mark.parametrize(
    ("text", "midi"),
    [("C4", 60), ("A4", 69), ("Bb2", 46), ("Cb4", 59), ("B#3", 60), ("F#5", 78), ("E##4", 66), ("Dbb4", 60), ("A0", 21), ("C8", 108), ("C-1", 0)],
)
def test_pitches_known_by_hand(text: str, midi: int) -> None:
    name, found = parse_pitch(text)
    assert found == midi
    assert name.at(midi) == text


@pytest.mark.parametrize("text", ["H4", "C", "4", "", "Cq4", "C4x"])
def test_what_is_no_pitch_is_refused_with_its_text(text: str) -> None:
    with pytest.raises(FormatError, match="is no pitch"):
        parse_pitch(text)


@pytest.mark.parametrize("text", ["H", "", "C4", "b b"])
def test_what_is_no_name_is_refused(text: str) -> None:
    with pytest.raises(FormatError, match="no note name"):
        parse_name(text)


def test_signs_are_read_like_letters() -> None:
    assert parse_name("E♭") == parse_name("Eb")
    assert parse_name("F♯") == parse_name("f#")


def test_a_name_refuses_a_pitch_it_does_not_sound() -> None:
    with pytest.raises(ParameterError, match="midi=61 does not sound C"):
        parse_name("C").octave_of(61)


@given(st.integers(0, 127), st.integers(-6, 6))
def test_spelling_always_sounds_the_pitch(midi: int, tonic: int) -> None:
    text = spell_midi(midi, PitchName(tonic))
    assert parse_pitch(text)[1] == midi


@given(st.integers(-6, 6))
def test_a_key_gives_every_sound_one_name(tonic: int) -> None:
    names = {spell_pitch_class(pc, PitchName(tonic)) for pc in range(12)}
    assert len(names) == 12
    assert all(tonic - 5 <= n.fifths <= tonic + 6 for n in names)


@given(st.integers(-14, 20))
def test_the_simple_name_sounds_the_same_with_one_sign_at_most(fifths: int) -> None:
    name = PitchName(fifths)
    simple = name.simple()
    assert simple.pitch_class == name.pitch_class
    assert str(simple) not in ("Cb", "Fb", "E#", "B#")
    assert abs(simple.alter) <= 1
