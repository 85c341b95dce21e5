"""Chord names as people write them: any stack is read, and printed one way only."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valley.errors import FormatError
from valley.formats.harmony import Step, read_kind, write_kind
from valley.theory.chord import parse_harte, parse_symbol
from valley.theory.key import Key
from valley.theory.naming import name_notes
from valley.theory.quality import combine, degrees_of, quality_of_harte, read_suffix


@pytest.mark.parametrize(
    ("typed", "printed", "notes"),
    [
        ("Cadd4", "Cadd4", "C E G F"),
        ("C(add11)", "Cadd11", "C E G F"),
        ("Bb(#11)", "Bb(#11)", "Bb D F E"),
        ("C7#11", "C7#11", "C E G Bb F#"),
        ("C7alt", "C7alt", "C E Bb Db D# F# Ab"),
        ("C7b13", "C7b13", "C E G Bb Ab"),
        ("Cmaj13", "Cmaj13", "C E G B D A"),
        ("Cm13", "Cm13", "C Eb G Bb D A"),
        ("C13sus4", "C13sus4", "C F G Bb D A"),
        ("C9sus4", "C9sus4", "C F G Bb D"),
        ("Cm(maj9)", "Cm(maj9)", "C Eb G B D"),
        ("CmMaj9", "Cm(maj9)", "C Eb G B D"),
        ("Cmaj7#5", "Cmaj7#5", "C E G# B"),
        ("C6/9", "C69", "C E G A D"),
        ("C(no3)", "C5", "C G"),
        ("C7(no3)", "C7(no3)", "C G Bb"),
        ("Cmaj7(no5)", "Cmaj7(no5)", "C E B"),
        ("C7(b9,#11)", "C7(b9,#11)", "C E G Bb Db F#"),
        ("C7#9#5", "C7(#5,#9)", "C E G# Bb D#"),
        ("Cø9", "Cm9b5", "C Eb Gb Bb D"),
        ("Cm(b6)", "Cm(b6)", "C Eb G Ab"),
        ("C(9)", "Cadd9", "C E G D"),
        ("Cmadd9", "Cm(add9)", "C Eb G D"),
        ("C13b9", "C13b9", "C E G Bb Db A"),
        ("Csus2sus4", "Csus2sus4", "C D F G"),
        ("C7 omit 5", "C7(no5)", "C E Bb"),
    ],
)
def test_any_stack_is_read_and_printed_once(typed: str, printed: str, notes: str) -> None:
    chord = parse_symbol(typed)
    assert chord is not None
    assert chord.to_symbol() == printed
    assert " ".join(str(n) for n in chord.members()) == notes


@pytest.mark.parametrize("typed", ["C8", "C7b3", "Cm7#9", "Cmm", "C7(no7x)", "Cno9", "Cadd", "C##b", "Csusx"])
def test_what_is_no_stack_is_refused(typed: str) -> None:
    with pytest.raises(FormatError):
        parse_symbol(typed)


DEGREES = ("b3", "3", "2", "4", "b5", "5", "#5", "b6", "6", "bb7", "b7", "7", "b9", "9", "#9", "11", "#11", "b13", "13")


@given(st.sets(st.sampled_from(DEGREES), min_size=1, max_size=7))
def test_every_stack_has_one_label_and_one_symbol_of_its_own(degrees: set[str]) -> None:
    quality = combine({"1", *degrees})
    if quality is None:
        return
    assert quality_of_harte(quality.harte) == quality
    again = read_suffix(quality.suffix)
    assert again is not None, quality
    assert set(again.members) == set(quality.members), (quality, again)
    assert combine(degrees_of(quality)) == quality


@given(st.sets(st.sampled_from(DEGREES), min_size=1, max_size=7))
def test_a_kind_with_its_degrees_is_the_same_chord_without_its_text(degrees: set[str]) -> None:
    quality = combine({"1", *degrees})
    if quality is None or not set(degrees) & {"3", "b3", "4", "2", "5"}:
        return
    kind, steps = write_kind(quality)
    read = read_kind(kind, "", steps)
    assert read is not None, (quality, kind, steps)
    assert set(read.members) == set(quality.members), (quality, kind, steps)
    assert read_kind(kind, quality.suffix, steps) == read_suffix(quality.suffix)


def test_a_kind_without_text_keeps_its_quality() -> None:
    assert read_kind("minor", "", ()) == read_suffix("m")
    assert read_kind("dominant", "7", [Step("add", 9, -1)]) == read_suffix("7b9")
    assert read_kind("other", "m7", ()) == read_suffix("m7")
    assert read_kind("other", "?", ()) is None


@pytest.mark.parametrize(("typed", "bass"), [("Am/F", "F"), ("Em/C", "C"), ("C/Eb", "Eb"), ("C/D#", "D#"), ("Caug/Ab", "Ab"), ("G/A", "A"), ("D/Gb", "F#")])
def test_a_bass_is_called_as_it_was_typed(typed: str, bass: str) -> None:
    chord = parse_symbol(typed)
    assert chord is not None
    assert str(chord.bass) == bass
    assert parse_harte(chord.to_harte()) == chord


def test_what_sounds_has_the_name_a_teacher_gives() -> None:
    names = [n.chord.to_symbol() for n in name_notes([40, 47, 52, 55, 57, 59, 64], Key.of("E", "minor"))]
    assert names[0] == "Em(add4)"
    assert name_notes([61, 64, 67, 70], Key.of("C", "major"))[0].chord.to_symbol() == "C#dim7"
    assert name_notes([61, 64, 67, 70], Key.of("Ab", "major"))[0].chord.to_symbol() in ("Dbdim7", "C#dim7")
