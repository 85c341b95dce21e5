"""Keys: signatures, scales and spelling against what every teacher knows."""

import pytest

from valley.theory.key import Key


@pytest.mark.parametrize(
    ("tonic", "mode", "signature", "scale"),
    [
        ("C", "major", 0, "C D E F G A B"),
        ("Eb", "major", -3, "Eb F G Ab Bb C D"),
        ("F#", "major", 6, "F# G# A# B C# D# E#"),
        ("Cb", "major", -7, "Cb Db Eb Fb Gb Ab Bb"),
        ("A", "minor", 0, "A B C D E F G"),
        ("C#", "minor", 4, "C# D# E F# G# A B"),
        ("Bb", "minor", -5, "Bb C Db Eb F Gb Ab"),
    ],
)
def test_scales_known_by_hand(tonic: str, mode: str, signature: int, scale: str) -> None:
    key = Key.of(tonic, mode)
    assert key.signature == signature
    assert " ".join(str(n) for n in key.scale()) == scale


def test_usual_keys_have_at_most_six_signs() -> None:
    for mode in ("major", "minor"):
        for pitch_class in range(12):
            key = Key.from_pitch_class(pitch_class, mode)
            assert key.tonic.pitch_class == pitch_class
            assert -6 <= key.signature <= 5


def test_borrowed_notes_are_spelled_as_they_are_taught() -> None:
    assert str(Key.of("C", "major").spell(10)) == "Bb"
    assert str(Key.of("C", "major").spell(6)) == "F#"
    assert str(Key.of("Eb", "major").spell(11)) == "Cb"
    assert str(Key.of("A", "minor").spell(8)) == "G#"
