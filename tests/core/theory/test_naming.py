"""Names for played notes: known examples by hand, then every chord in every key."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import random_chords
from valley.theory.chord import Chord, close_pitches, parse_symbol
from valley.theory.key import Key
from valley.theory.naming import judge_claim, name_notes

C = Key.of("C", "major")


@pytest.mark.parametrize(
    ("midi", "key", "symbol"),
    [
        ([48, 52, 55], C, "C"),
        ([52, 55, 60], C, "C/E"),
        ([45, 48, 52, 55], C, "Am7"),
        ([43, 53, 59, 62], C, "G7"),
        ([50, 53, 57], C, "Dm"),
        ([55, 60, 62], C, "Gsus4"),
        ([48, 55, 62], C, "Csus2"),
        ([53, 56, 59, 62], C, "Fdim7"),
        ([59, 62, 65, 69], C, "Bm7b5"),
        ([48, 55], C, "C5"),
        ([48, 52, 58], C, "C7"),
        ([56, 60, 63], Key.of("Eb", "major"), "Ab"),
        ([56, 60, 63], Key.of("E", "major"), "G#"),
        ([47, 50, 54, 57], Key.of("D", "major"), "Bm7"),
        ([48, 52, 56], C, "Caug"),
        ([41, 48, 52, 57], C, "Fmaj7"),
        ([43, 48, 52, 55], C, "C/G"),
        ([60, 64, 67, 74], C, "Cadd9"),
        ([38, 60, 64, 67, 71], C, "Cmaj7/D"),
    ],
)
def test_known_chords_are_named_as_a_teacher_would(midi: list[int], key: Key, symbol: str) -> None:
    assert name_notes(midi, key)[0].chord.to_symbol() == symbol


def test_two_names_for_one_sound_are_both_said() -> None:
    names = name_notes([48, 52, 55, 57], C)
    assert {n.chord.to_symbol() for n in names[:2]} == {"C6", "Am7/C"}
    assert "the same notes are" in names[0].why


def test_what_is_missing_and_added_is_said() -> None:
    assert "the fifth is left out" in name_notes([48, 52, 58], C)[0].why
    assert "C is the root, E is the third" in name_notes([48, 52, 58], C)[0].why
    assert "D is a bass that does not belong to it" in name_notes([38, 60, 64, 67, 71], C)[0].why
    assert name_notes([60], C) == ()
    assert name_notes([60, 72], C) == ()


@given(random_chords(), st.integers(0, 11))
def test_every_full_chord_is_found_by_its_notes(chord: Chord, tonic: int) -> None:
    key = Key.from_pitch_class(tonic, "major")
    names = name_notes(close_pitches(chord), key, at_most=40)
    assert any(n.chord.pitch_classes() == chord.pitch_classes() and n.chord.bass.pitch_class == chord.bass.pitch_class for n in names[:3])
    costs = [n.cost for n in names]
    assert costs == sorted(costs)


@pytest.mark.parametrize(
    ("claim", "midi", "verdict", "words"),
    [
        ("C", [48, 52, 55], "agrees", "every note"),
        ("C", [48, 51, 55], "contradicts", "Cm"),
        ("C7", [48, 52, 55], "partly", "Bb (seventh) is missing"),
        ("C", [48, 52, 55, 59], "partly", "B is added"),
        ("C", [48, 52], "partly", "G (fifth) is missing"),
        ("Am", [48, 52, 55], "contradicts", "the notes make C"),
        ("F/A", [45, 53, 60], "agrees", "every note"),
    ],
)
def test_a_claimed_name_is_judged(claim: str, midi: list[int], verdict: str, words: str) -> None:
    chord = parse_symbol(claim)
    assert chord is not None
    found, said = judge_claim(chord, midi, C)
    assert found == verdict
    assert words in said
