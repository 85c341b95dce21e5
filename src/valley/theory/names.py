"""How notes and chords are named: letters, fixed-do syllables or German letters; written or spoken; with octaves counted or in words."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from valley.theory.chord import Chord, name_inversion
from valley.theory.pitch import PitchName, parse_pitch

SYLLABLES: Final = {"C": "do", "D": "re", "E": "mi", "F": "fa", "G": "sol", "A": "la", "B": "si"}
GERMAN: Final = {-1: {"E": "Es", "A": "As", "B": "B"}, 0: {"B": "H"}}
REGISTERS: Final = {0: "ground {}", 1: "lowest {}", 2: "deep {}", 3: "low {}", 4: "middle {}", 5: "high {}", 6: "higher {}", 7: "highest {}", 8: "last {}"}
"""The octave of a key in words, each from its C on."""
_SPOKEN = {0: "", 1: " sharp", 2: " double sharp", 3: " triple sharp", -1: " flat", -2: " double flat", -3: " triple flat"}
_SIGNS = {0: "", 1: "#", 2: "##", 3: "###", -1: "b", -2: "bb", -3: "bbb"}


def name_note(name: PitchName, *, naming: str = "letters", flats: str = "written", spelling: str = "strict") -> str:
    """A pitch class in a school.

    Parameters
    ----------
    name : the spelled note
    naming : letters, syllables or german
    flats : "written" (Bb) or "spoken" (B flat)
    spelling : "strict", or "simple" without double signs and white keys with one

    >>> b_flat = PitchName(-2)
    >>> name_note(b_flat), name_note(b_flat, flats="spoken"), name_note(b_flat, naming="syllables"), name_note(b_flat, naming="german")
    ('Bb', 'B flat', 'sib', 'B')
    >>> name_note(PitchName(5), naming="german"), name_note(PitchName(6), naming="german"), name_note(PitchName(-7), spelling="simple")
    ('H', 'Fis', 'B')
    """
    if spelling == "simple":
        name = name.simple()
    if naming == "german":
        return _german(name)
    base = SYLLABLES[name.letter] if naming == "syllables" else name.letter
    return base + (_SPOKEN if flats == "spoken" else _SIGNS)[name.alter]


def _german(name: PitchName) -> str:
    fixed = GERMAN.get(name.alter, {}).get(name.letter)
    if fixed:
        return fixed
    base = "H" if name.letter == "B" else name.letter
    if name.alter > 0:
        return base + "is" * name.alter
    if name.alter < 0:
        flats = "es" * -name.alter
        return base + (flats[1:] if base in "EA" else flats)  # Es, Eses; As, Ases
    return base


def name_pitch(
    text: str, *, naming: str = "letters", flats: str = "written", spelling: str = "strict", octaves: str = "c4", registers: Mapping[int, str] = REGISTERS
) -> str:
    """A pitch with its octave in a school; ``text`` has middle C as C4.

    Parameters
    ----------
    text : a name with its octave
    naming : letters, syllables or german
    flats : "written" or "spoken"
    spelling : "strict" or "simple"
    octaves : "c4" or "c3" (what middle C is called), or "words" (middle C is the C of the middle octave, low and deep are below it)
    registers : how the octaves are called, where they are in words

    >>> name_pitch("Bb3"), name_pitch("Bb3", octaves="c3"), name_pitch("Bb3", octaves="words"), name_pitch("A4", naming="syllables")
    ('Bb3', 'Bb2', 'low Bb', 'la4')
    """
    name, midi = parse_pitch(text)
    if spelling == "simple":
        name = name.simple()
    said = name_note(name, naming=naming, flats=flats)
    octave = name.octave_of(midi) - (octaves == "c3")
    if octaves == "words":
        return registers[min(max(octave, 0), 8)].format(said)
    return f"{said} {octave}" if " " in said else f"{said}{octave}"


def name_chord(
    chord: Chord,
    *,
    naming: str = "letters",
    flats: str = "written",
    spelling: str = "strict",
    added: str = "add9",
    suspended: str = "sus2",
    major_seventh: str = "maj7",
    half_diminished: str = "m7b5",
    inversions: str = "slash",
) -> str:
    """A chord's symbol in a school.

    Parameters
    ----------
    chord : None where none sounds
    naming : letters, syllables or german
    flats : "written" or "spoken"
    spelling : "strict" or "simple"
    added : how an added ninth is written
    suspended : how a suspended second is written
    major_seventh : how a major seventh is written
    half_diminished : how a half-diminished seventh is written
    inversions : "slash", or "words" ("C with E in the bass")

    >>> from valley.theory.chord import parse_symbol
    >>> name_chord(parse_symbol("Bbmaj7/D"), naming="german", major_seventh="M7"), name_chord(parse_symbol("F/A"), inversions="words")
    ('BM7/D', 'F in first inversion')
    """

    def note(name: PitchName) -> str:
        return name_note(name, naming=naming, flats=flats, spelling=spelling)

    suffix = chord.quality.suffix
    suffix = suffix.replace("add9", added).replace("maj7", major_seventh)
    suffix = {"sus2": suspended, "m7b5": half_diminished}.get(suffix, suffix)
    root = note(chord.root)
    apart = (flats == "spoken" and " " in root) or (naming == "syllables" and suffix[:1].isalpha())
    gap = " " if apart and suffix and not suffix.startswith("(") else ""
    said = f"{root}{gap}{suffix}"
    if not chord.bass_interval:
        return said
    if inversions == "words" and chord.bass_interval in chord.quality.members:
        return f"{said} in {name_inversion(chord)}"
    return f"{said}/{note(chord.bass)}"
