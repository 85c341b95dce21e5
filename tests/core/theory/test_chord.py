"""Chord symbols: read, printed, spelled, inverted."""

import mir_eval.chord
import numpy as np
import pytest
from hypothesis import given

from tests.charts import random_chords
from valley.errors import FormatError
from valley.theory._chord_table import QUALITIES
from valley.theory.chord import Chord, close_pitches, name_inversion, parse_harte, parse_symbol
from valley.theory.key import Key
from valley.theory.pitch import parse_name


@pytest.mark.parametrize(
    ("typed", "harte", "notes"),
    [
        ("C", "C:maj", "C E G"),
        ("Am", "A:min", "A C E"),
        ("am7", "A:min7", "A C E G"),
        ("Ebmaj7", "Eb:maj7", "Eb G Bb D"),
        ("F#m7b5/C", "F#:hdim7/b5", "F# A C E"),
        ("Bbadd2", "Bb:maj(9)", "Bb D F C"),
        ("c half-diminished", "C:hdim7", "C Eb Gb Bb"),
        ("Gsus4", "G:sus4", "G C D"),
        ("D/F#", "D:maj/3", "D F# A"),
        ("Ab/B#", "Ab:maj/3", "Ab C Eb"),
        ("Bdim7", "B:dim7", "B D F Ab"),
        ("Caug", "C:aug", "C E G#"),
        ("Dm(maj7)", "D:minmaj7", "D F A C#"),
        ("E7sus4", "E:sus4(b7)", "E A B D"),
        ("B♭m9", "Bb:min9", "Bb Db F Ab C"),
        ("CM7", "C:maj7", "C E G B"),
        ("Cm7", "C:min7", "C Eb G Bb"),
        ("F5", "F:5", "F C"),
    ],
)
def test_chords_as_people_type_them(typed: str, harte: str, notes: str) -> None:
    chord = parse_symbol(typed)
    assert chord is not None
    assert chord.to_harte() == harte
    assert " ".join(str(n) for n in chord.members()) == notes


@pytest.mark.parametrize("typed", ["N", "n.c.", "no chord", "None"])
def test_no_chord_has_names_too(typed: str) -> None:
    assert parse_symbol(typed) is None


@pytest.mark.parametrize("typed", ["", "H7", "Cxyz", "C/", "/C", "12", "C//E"])
def test_what_is_no_chord_is_refused_with_an_example(typed: str) -> None:
    with pytest.raises(FormatError, match="Cm7"):
        parse_symbol(typed)


@pytest.mark.parametrize("label", ["C:foo", "C:maj/19", "Q:maj"])
def test_labels_that_are_not_hartes_are_refused(label: str) -> None:
    with pytest.raises(FormatError):
        parse_harte(label)


@given(random_chords())
def test_both_texts_read_back_as_the_same_chord(chord: Chord) -> None:
    assert parse_harte(chord.to_harte()) == chord
    again = parse_symbol(chord.to_symbol())
    assert again is not None
    assert again.pitch_classes() == chord.pitch_classes()
    assert again.bass.pitch_class == chord.bass.pitch_class


@given(random_chords())
def test_the_fields_own_reader_hears_the_same_notes(chord: Chord) -> None:
    label = chord.to_harte().replace(":5", ":(1,5)")
    root, bitmap, bass = mir_eval.chord.encode(label, reduce_extended_chords=False)
    if any(n in chord.quality.harte for n in ("9", "11", "13")):  # the reference writes these outside its octave
        return
    expected = {(root + int(i)) % 12 for i in np.flatnonzero(bitmap)}
    assert expected == {n.pitch_class for n in chord.members()}
    assert (root + bass) % 12 == chord.bass.pitch_class


@given(random_chords())
def test_respelling_keeps_the_sound(chord: Chord) -> None:
    for tonic in ("Gb", "E", "C"):
        assert chord.respelled(Key.of(tonic, "major")).pitch_classes() == chord.pitch_classes()


@given(random_chords())
def test_the_listening_grip_holds_every_note_over_its_bass(chord: Chord) -> None:
    bass, *upper = close_pitches(chord)
    assert bass % 12 == chord.bass.pitch_class
    assert {p % 12 for p in (bass, *upper)} == chord.pitch_classes()
    assert list(upper) == sorted(upper)


@pytest.mark.parametrize(
    ("label", "words"),
    [("C:maj", "root position"), ("C:maj/3", "first inversion"), ("C:maj/5", "second inversion"), ("C:7/b7", "third inversion"), ("C:maj/2", "D in the bass")],
)
def test_inversions_in_words(label: str, words: str) -> None:
    chord = parse_harte(label)
    assert chord is not None
    assert name_inversion(chord) == words


def test_a_note_is_named_as_the_chords_member_before_the_key() -> None:
    chord = parse_harte("Ab:min")
    assert chord is not None
    assert str(chord.name_of(11, Key.of("Eb", "major"))) == "Cb"
    assert chord.member_word(11) == "minor third"
    assert chord.member_word(2) == ""


def test_no_two_qualities_share_a_name() -> None:
    assert len({q.harte for q in QUALITIES}) == len({q.suffix for q in QUALITIES}) == len(QUALITIES)
    assert parse_name("C").fifths == 0


@pytest.mark.parametrize(
    ("label", "pitch_class", "word"),
    [
        ("G:sus2", 9, "second"),
        ("G:sus4", 0, "fourth"),
        ("C:9", 2, "ninth"),
        ("C:maj(9)", 2, "ninth"),
        ("C:11", 5, "eleventh"),
        ("C:13", 9, "thirteenth"),
        ("C:maj6", 9, "sixth"),
        ("C:maj6(9)", 9, "sixth"),
        ("C:maj7(#4)", 6, "raised eleventh"),
        ("D:sus4(b7)", 7, "fourth"),
    ],
)
def test_a_member_is_called_as_it_stands_in_its_chord(label: str, pitch_class: int, word: str) -> None:
    chord = parse_harte(label)
    assert chord is not None
    assert chord.member_word(pitch_class) == word
