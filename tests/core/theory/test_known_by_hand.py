"""What every teacher can check with a pencil: chords with their spelled notes, inversions, scales, numerals, names of played keys."""

from __future__ import annotations

import pytest

from valley.theory.chord import parse_harte, parse_symbol
from valley.theory.key import Key
from valley.theory.naming import name_notes
from valley.theory.pitch import parse_pitch
from valley.theory.roman import write_roman

CHORDS = {
    # major
    "C": "C E G",
    "Db": "Db F Ab",
    "D": "D F# A",
    "Eb": "Eb G Bb",
    "E": "E G# B",
    "F": "F A C",
    "F#": "F# A# C#",
    "Gb": "Gb Bb Db",
    "G": "G B D",
    "Ab": "Ab C Eb",
    "A": "A C# E",
    "Bb": "Bb D F",
    "B": "B D# F#",
    "Cb": "Cb Eb Gb",
    "C#": "C# E# G#",
    # minor
    "Cm": "C Eb G",
    "C#m": "C# E G#",
    "Dm": "D F A",
    "D#m": "D# F# A#",
    "Ebm": "Eb Gb Bb",
    "Em": "E G B",
    "Fm": "F Ab C",
    "F#m": "F# A C#",
    "Gm": "G Bb D",
    "G#m": "G# B D#",
    "Abm": "Ab Cb Eb",
    "Am": "A C E",
    "Bbm": "Bb Db F",
    "Bm": "B D F#",
    # sevenths
    "C7": "C E G Bb",
    "D7": "D F# A C",
    "E7": "E G# B D",
    "F7": "F A C Eb",
    "G7": "G B D F",
    "A7": "A C# E G",
    "B7": "B D# F# A",
    "Bb7": "Bb D F Ab",
    "Eb7": "Eb G Bb Db",
    "Ab7": "Ab C Eb Gb",
    "Db7": "Db F Ab Cb",
    "F#7": "F# A# C# E",
    "C#7": "C# E# G# B",
    # major sevenths
    "Cmaj7": "C E G B",
    "Dmaj7": "D F# A C#",
    "Ebmaj7": "Eb G Bb D",
    "Emaj7": "E G# B D#",
    "Fmaj7": "F A C E",
    "Gmaj7": "G B D F#",
    "Abmaj7": "Ab C Eb G",
    "Amaj7": "A C# E G#",
    "Bbmaj7": "Bb D F A",
    "Dbmaj7": "Db F Ab C",
    # minor sevenths
    "Cm7": "C Eb G Bb",
    "Dm7": "D F A C",
    "Em7": "E G B D",
    "Fm7": "F Ab C Eb",
    "Gm7": "G Bb D F",
    "Am7": "A C E G",
    "Bm7": "B D F# A",
    "Bbm7": "Bb Db F Ab",
    "C#m7": "C# E G# B",
    "F#m7": "F# A C# E",
    "Ebm7": "Eb Gb Bb Db",
    # diminished and half-diminished
    "Bdim": "B D F",
    "F#dim": "F# A C",
    "C#dim": "C# E G",
    "G#dim": "G# B D",
    "Bm7b5": "B D F A",
    "F#m7b5": "F# A C E",
    "Em7b5": "E G Bb D",
    "Dm7b5": "D F Ab C",
    "C#m7b5": "C# E G B",
    "Bdim7": "B D F Ab",
    "C#dim7": "C# E G Bb",
    "G#dim7": "G# B D F",
    "F#dim7": "F# A C Eb",
    "Cdim7": "C Eb Gb Bbb",
    # augmented, suspended, sixths, ninths
    "Caug": "C E G#",
    "Gaug": "G B D#",
    "Ebaug": "Eb G B",
    "Csus4": "C F G",
    "Dsus4": "D G A",
    "Bbsus4": "Bb Eb F",
    "Asus2": "A B E",
    "Ebsus2": "Eb F Bb",
    "G7sus4": "G C D F",
    "C6": "C E G A",
    "Bb6": "Bb D F G",
    "Am6": "A C E F#",
    "Fm6": "F Ab C D",
    "Cadd9": "C E G D",
    "Bbadd9": "Bb D F C",
    "C9": "C E G Bb D",
    "G9": "G B D F A",
    "Cmaj9": "C E G B D",
    "Dm9": "D F A C E",
    "C69": "C E G A D",
    "G7b9": "G B D F Ab",
    "E7#9": "E G# B D F##",
    "C7#5": "C E G# Bb",
    "C7b5": "C E Gb Bb",
    "Cm(maj7)": "C Eb G B",
    "Fmaj7#11": "F A C E B",
    "G13": "G B D F A E",
    "E5": "E B",
}


@pytest.mark.parametrize(("symbol", "notes"), CHORDS.items())
def test_a_chord_has_its_notes_spelled(symbol: str, notes: str) -> None:
    chord = parse_symbol(symbol)
    assert chord is not None
    assert " ".join(str(n) for n in chord.members()) == notes
    assert parse_harte(chord.to_harte()) == chord
    assert parse_symbol(chord.to_symbol()) == chord


SCALES = {
    "C major": "C D E F G A B",
    "G major": "G A B C D E F#",
    "D major": "D E F# G A B C#",
    "A major": "A B C# D E F# G#",
    "E major": "E F# G# A B C# D#",
    "B major": "B C# D# E F# G# A#",
    "F# major": "F# G# A# B C# D# E#",
    "C# major": "C# D# E# F# G# A# B#",
    "F major": "F G A Bb C D E",
    "Bb major": "Bb C D Eb F G A",
    "Eb major": "Eb F G Ab Bb C D",
    "Ab major": "Ab Bb C Db Eb F G",
    "Db major": "Db Eb F Gb Ab Bb C",
    "Gb major": "Gb Ab Bb Cb Db Eb F",
    "Cb major": "Cb Db Eb Fb Gb Ab Bb",
    "A minor": "A B C D E F G",
    "E minor": "E F# G A B C D",
    "B minor": "B C# D E F# G A",
    "F# minor": "F# G# A B C# D E",
    "C# minor": "C# D# E F# G# A B",
    "G# minor": "G# A# B C# D# E F#",
    "D# minor": "D# E# F# G# A# B C#",
    "D minor": "D E F G A Bb C",
    "G minor": "G A Bb C D Eb F",
    "C minor": "C D Eb F G Ab Bb",
    "F minor": "F G Ab Bb C Db Eb",
    "Bb minor": "Bb C Db Eb F Gb Ab",
    "Eb minor": "Eb F Gb Ab Bb Cb Db",
    "Ab minor": "Ab Bb Cb Db Eb Fb Gb",
}


@pytest.mark.parametrize(("name", "scale"), SCALES.items())
def test_a_key_has_its_scale(name: str, scale: str) -> None:
    key = Key.of(*name.split())
    assert " ".join(str(n) for n in key.scale()) == scale
    assert [str(key.spell(n.pitch_class)) for n in key.scale()] == scale.split()


# What is played from the bottom up, in which key, and what it is.
PLAYED = [
    ("C3 E4 G4 C5", "C major", "C"),
    ("E3 G4 C5", "C major", "C/E"),
    ("G2 C4 E4", "C major", "C/G"),
    ("A2 C4 E4 G4", "C major", "Am7"),
    ("C3 E4 G4 A4", "C major", "C6"),
    ("G2 B2 D3 F3", "C major", "G7"),
    ("F2 G3 B3 D4", "C major", "G7/F"),
    ("B2 F4 G4 D4", "C major", "G7/B"),
    ("D3 F4 A4 C5", "C major", "Dm7"),
    ("F2 C4 A4", "F major", "F"),
    ("Bb2 D4 F4", "F major", "Bb"),
    ("D2 Bb3 F4", "F major", "Bb/D"),
    ("Eb2 Bb3 G4", "Eb major", "Eb"),
    ("G2 Bb3 Eb4", "Eb major", "Eb/G"),
    ("Ab2 C4 Eb4 G4", "Eb major", "Abmaj7"),
    ("C3 Eb4 G4 Bb4", "Eb major", "Cm7"),
    ("F#2 C4 E4 A4", "E minor", "F#m7b5"),
    ("D#3 F#4 A4 B4", "E minor", "B7/D#"),
    ("G#2 E4 B4", "E major", "E/G#"),
    ("C#3 E4 G#4", "E major", "C#m"),
    ("F#3 A#4 C#5", "B major", "F#"),
    ("Gb3 Bb4 Db5", "Db major", "Gb"),
    ("A2 D4 E4", "D major", "Asus4"),
    ("C3 D4 G4", "C major", "Csus2"),
    ("C3 E4 G#4", "A minor", "Caug"),
    ("B2 D4 F4 Ab4", "C minor", "Bdim7"),
]


@pytest.mark.parametrize(("keys", "key", "symbol"), PLAYED, ids=[f"{keys} in {key}" for keys, key, _ in PLAYED])
def test_played_keys_have_their_name(keys: str, key: str, symbol: str) -> None:
    midi = [parse_pitch(p)[1] for p in keys.split()]
    found = name_notes(midi, Key.of(*key.split()))
    assert found[0].chord.to_symbol() == symbol, [n.chord.to_symbol() for n in found]


NUMERALS = [
    ("C", "C major", "I"),
    ("Dm", "C major", "ii"),
    ("Em", "C major", "iii"),
    ("F", "C major", "IV"),
    ("G", "C major", "V"),
    ("G7", "C major", "V7"),
    ("Am", "C major", "vi"),
    ("Bdim", "C major", "vii°"),
    ("C/E", "C major", "I/3"),
    ("C/G", "C major", "I/5"),
    ("Bb", "C major", "bVII"),
    ("Ab", "C major", "bVI"),
    ("Fm", "C major", "iv"),
    ("Eb", "Eb major", "I"),
    ("Ab", "Eb major", "IV"),
    ("Bb7", "Eb major", "V7"),
    ("Cm", "Eb major", "vi"),
    ("Am", "A minor", "i"),
    ("Dm", "A minor", "iv"),
    ("E7", "A minor", "V7"),
    ("F", "A minor", "VI"),
    ("G", "A minor", "VII"),
]


@pytest.mark.parametrize(("symbol", "key", "numeral"), NUMERALS, ids=[f"{symbol} in {key}" for symbol, key, _ in NUMERALS])
def test_a_chord_has_its_numeral_in_a_key(symbol: str, key: str, numeral: str) -> None:
    chord = parse_symbol(symbol)
    assert chord is not None
    assert write_roman(chord, Key.of(*key.split())) == numeral


PITCHES = {
    "A0": 21,
    "C1": 24,
    "E2": 40,
    "C3": 48,
    "B3": 59,
    "Cb4": 59,
    "C4": 60,
    "B#3": 60,
    "C#4": 61,
    "Db4": 61,
    "Fb4": 64,
    "E#4": 65,
    "F##4": 67,
    "Abb4": 67,
    "A4": 69,
    "Bb4": 70,
    "B4": 71,
    "C5": 72,
    "C8": 108,
}


@pytest.mark.parametrize(("text", "midi"), PITCHES.items())
def test_a_pitch_has_its_key(text: str, midi: int) -> None:
    name, sounds = parse_pitch(text)
    assert sounds == midi
    assert name.at(midi) == text
