"""Spelling, chords, inversions and keys, for everything there is: held against plain definitions that share no code with the theory."""

import itertools

import mir_eval.chord
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import random_chords
from valley.theory._chord_table import QUALITIES, Quality
from valley.theory.chord import Chord, close_pitches, name_inversion, parse_harte, parse_symbol
from valley.theory.key import Key
from valley.theory.names import name_chord, name_note, name_pitch
from valley.theory.naming import name_notes
from valley.theory.pitch import PitchName, parse_name, parse_pitch, spell_midi
from valley.theory.quality import FIFTHS, degrees_of

LETTERS = "CDEFGAB"
NATURAL = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
NAMES = [PitchName(f) for f in range(-8, 13)]
# Degrees as a theory book lists them: letters above the root, semitones above the root.
DEGREES = {
    "1": (0, 0),
    "b9": (1, 1),
    "2": (1, 2),
    "9": (1, 2),
    "#9": (1, 3),
    "b3": (2, 3),
    "3": (2, 4),
    "4": (3, 5),
    "11": (3, 5),
    "#11": (3, 6),
    "#4": (3, 6),
    "b5": (4, 6),
    "5": (4, 7),
    "#5": (4, 8),
    "6": (5, 9),
    "13": (5, 9),
    "bb7": (6, 9),
    "b13": (5, 8),
    "b7": (6, 10),
    "7": (6, 11),
}
BOOK = {
    "maj": "1 3 5",
    "min": "1 b3 5",
    "dim": "1 b3 b5",
    "aug": "1 3 #5",
    "sus4": "1 4 5",
    "sus2": "1 2 5",
    "maj6": "1 3 5 6",
    "min6": "1 b3 5 6",
    "7": "1 3 5 b7",
    "maj7": "1 3 5 7",
    "min7": "1 b3 5 b7",
    "minmaj7": "1 b3 5 7",
    "hdim7": "1 b3 b5 b7",
    "dim7": "1 b3 b5 bb7",
    "9": "1 3 5 b7 9",
    "maj9": "1 3 5 7 9",
    "min9": "1 b3 5 b7 9",
    "maj(9)": "1 3 5 9",
    "min(9)": "1 b3 5 9",
    "sus4(b7)": "1 4 5 b7",
    "5": "1 5",
    "7(b9)": "1 3 5 b7 b9",
    "7(#9)": "1 3 5 b7 #9",
    "maj6(9)": "1 3 5 6 9",
    "11": "1 3 5 b7 9 11",
    "min11": "1 b3 5 b7 9 11",
    "13": "1 3 5 b7 9 13",
    "aug(b7)": "1 3 #5 b7",
    "maj7(#4)": "1 3 5 7 #11",
    "(1,3,b5,b7)": "1 3 b5 b7",
    "maj(4)": "1 3 5 4",
    "min(4)": "1 b3 5 4",
    "7(#11)": "1 3 5 b7 #11",
    "7(b13)": "1 3 5 b7 b13",
    "aug(7)": "1 3 #5 7",
    "sus4(b7,9)": "1 4 5 b7 9",
    "sus4(b7,9,13)": "1 4 5 b7 9 13",
    "minmaj7(9)": "1 b3 5 7 9",
    "maj9(11)": "1 3 5 7 9 11",
    "maj9(13)": "1 3 5 7 9 13",
    "min9(13)": "1 b3 5 b7 9 13",
    "min6(9)": "1 b3 5 6 9",
    "sus4(2)": "1 2 4 5",
    "sus4(7)": "1 4 5 7",
    "(1,3,b7,b9,#9,#11,b13)": "1 3 b7 b9 #9 #11 b13",
}


def few(*names: str) -> list[Quality]:
    return [q for q in QUALITIES if q.harte in names]


def sounds(text: str) -> int:
    """Pitch class of a written name, from the letter and its signs alone."""
    return (NATURAL[text[0]] + text.count("#") - text[1:].count("b")) % 12


def above(root: PitchName, degree: str) -> tuple[str, int]:
    """Letter and pitch class of a degree above a root, by counting letters and semitones."""
    letters, semitones = DEGREES[degree]
    return LETTERS[(LETTERS.index(root.letter) + letters) % 7], (sounds(str(root)) + semitones) % 12


@pytest.mark.parametrize("name", NAMES, ids=str)
def test_names_sound_as_they_are_written(name: PitchName) -> None:
    assert name.pitch_class == sounds(str(name))
    assert parse_name(str(name)) == name
    for midi in range(21, 109):
        if midi % 12 == name.pitch_class:
            text = name.at(midi)
            assert parse_pitch(text) == (name, midi)
            # The octave number is that of the letter: Cb4 lies below C4, B#3 sounds C4.
            assert 12 * (int(text[-1]) + 1) + NATURAL[text[0]] + name.alter == midi


@pytest.mark.parametrize("quality", QUALITIES, ids=lambda q: q.harte)
def test_every_quality_is_spelled_as_the_book_has_it_on_every_root(quality: Quality) -> None:
    assert quality.harte in BOOK, "a new quality needs its line here"
    degrees = BOOK[quality.harte].split()
    for root in NAMES:
        members = Chord(root, quality).members()
        wanted = {above(root, d) for d in degrees}
        if max(abs(m.alter) for m in members) <= 2:
            assert {(m.letter, m.pitch_class) for m in members} == wanted, f"{root}{quality.suffix}"
        assert {m.pitch_class for m in members} == {pc for _, pc in wanted}


@pytest.mark.parametrize("quality", QUALITIES, ids=lambda q: q.harte)
def test_symbols_and_labels_are_read_back_on_every_root_and_bass(quality: Quality) -> None:
    for root in NAMES:
        for bass in (0, *quality.members):
            chord = Chord(root, quality, bass)
            assert parse_symbol(chord.to_symbol()) == chord, chord.to_symbol()
            assert parse_harte(chord.to_harte()) == chord, chord.to_harte()


@given(random_chords())
def test_another_library_hears_the_same_notes_in_our_labels(chord: Chord) -> None:
    root, bitmap, bass = mir_eval.chord.encode(chord.to_harte())
    theirs = {int(pc) for pc in (np.flatnonzero(bitmap) + root) % 12}
    ours = {m.pitch_class for m in chord.members()} | {chord.bass.pitch_class}
    assert theirs <= ours
    above = {"b9", "9", "#9", "11", "#11", "13", "b13"}
    assert ours - theirs <= {chord.root.up(FIFTHS[d]).pitch_class for d in degrees_of(chord.quality) if d in above}  # all that it leaves out
    assert (root + bass) % 12 == chord.bass.pitch_class


@given(random_chords(), st.integers(-6, 6))
def test_chords_move_without_changing_what_they_are(chord: Chord, fifths: int) -> None:
    moved = Chord(chord.root.up(fifths), chord.quality, chord.bass_interval)
    shift = 7 * fifths % 12
    assert {(m.pitch_class - shift) % 12 for m in moved.members()} == {m.pitch_class for m in chord.members()}
    if "in the bass" not in name_inversion(chord):  # a foreign bass is named by its letter
        assert name_inversion(moved) == name_inversion(chord)


@pytest.mark.parametrize("quality", few("maj", "min", "7", "min7", "maj7", "hdim7", "dim7", "dim", "aug"), ids=lambda q: q.harte)
def test_inversions_are_counted_from_the_bass(quality: Quality) -> None:
    words = ("root position", "first inversion", "second inversion", "third inversion")
    for root, place in itertools.product(NAMES[4:16], range(len(quality.members))):
        chord = Chord(root, quality, quality.members[place])
        assert name_inversion(chord) == words[place]
        lowest = 36 + chord.bass.pitch_class
        assert name_inversion(Chord(root, quality), lowest) == words[place]


@pytest.mark.parametrize("tonic", range(12))
@pytest.mark.parametrize("mode", ["major", "minor"])
def test_scales_have_seven_letters_and_the_right_steps(tonic: int, mode: str) -> None:
    key = Key.from_pitch_class(tonic, mode)
    scale = key.scale()
    assert sorted(n.letter for n in scale) == sorted(LETTERS)
    steps = [(b.pitch_class - a.pitch_class) % 12 for a, b in zip(scale, (*scale[1:], scale[0]), strict=True)]
    assert steps == {"major": [2, 2, 1, 2, 2, 2, 1], "minor": [2, 1, 2, 2, 1, 2, 2]}[mode]
    assert abs(key.signature) <= 7
    assert sum(n.alter for n in scale) == key.signature
    for pc in range(12):
        assert key.spell(pc).pitch_class == pc
        assert abs(key.spell(pc).alter) <= 2


@given(st.integers(21, 108), st.integers(0, 11), st.sampled_from(["major", "minor"]))
def test_keys_never_change_the_sound_of_a_note(midi: int, tonic: int, mode: str) -> None:
    key = Key.from_pitch_class(tonic, mode)
    assert parse_pitch(spell_midi(midi, key.tonic))[1] == midi


@pytest.mark.parametrize("name", [n for n in NAMES if abs(n.alter) <= 1], ids=str)
def test_no_two_notes_share_a_name_in_any_school(name: PitchName) -> None:
    for naming in ("letters", "syllables", "german"):
        for flats in ("written", "spoken"):
            said = name_note(name, naming=naming, flats=flats)
            same = [n for n in NAMES if n != name and abs(n.alter) <= 1 and name_note(n, naming=naming, flats=flats) == said]
            assert same == [], (naming, said)


@given(st.integers(21, 108), st.sampled_from(NAMES))
def test_octaves_of_both_schools_differ_by_one(midi: int, name: PitchName) -> None:
    text = name.at(midi - (midi - name.pitch_class) % 12)
    numbers = [int(name_pitch(text, octaves=school).removeprefix(str(name))) for school in ("c4", "c3")]
    assert numbers[0] - 1 == numbers[1]


@given(random_chords())
def test_a_close_grip_holds_the_chord_over_its_bass(chord: Chord) -> None:
    pitches = close_pitches(chord)
    assert pitches[0] % 12 == chord.bass.pitch_class
    assert {p % 12 for p in pitches} == chord.pitch_classes()
    assert list(pitches) == sorted(pitches)


@pytest.mark.parametrize("quality", few("maj", "min", "7", "min7", "maj7", "dim7", "hdim7", "sus4", "aug"), ids=lambda q: q.harte)
def test_what_is_played_is_named_by_what_it_is(quality: Quality) -> None:
    """In root position the first name is the chord itself, or one with the very same notes over the same bass."""
    key = Key.of("C", "major")
    for root in range(12):
        chord = Chord(key.spell(root), quality)
        keys = [48 + root, *(p for p in (60 + m.pitch_class for m in chord.members()) if p % 12 != root)]
        first = name_notes(sorted(keys), key)[0].chord
        assert first.pitch_classes() == chord.pitch_classes(), (chord.to_symbol(), first.to_symbol())
        assert first.bass.pitch_class == root


@given(random_chords(), st.sampled_from(["letters", "syllables", "german"]))
def test_spoken_chords_begin_with_their_root(chord: Chord, naming: str) -> None:
    assert name_chord(chord, naming=naming).lower().startswith(name_note(chord.root, naming=naming).lower()[:1])
