"""Pitch names on the line of fifths.

A name is one integer: F = -1, C = 0, G = 1, … B = 5, F# = 6; Bb = -2. Seven steps along the line
add a sharp, so letters, accidentals and intervals are plain additions, and no two spellings of one
sound are ever confused. Source: D. Temperley, "The Line of Fifths", Music Analysis 19 (2000).
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from valley.errors import FormatError, ParameterError

_LETTERS = "FCGDAEB"
BLACK_KEYS = frozenset({1, 3, 6, 8, 10})  # pitch classes
_NAME = re.compile(r"([A-Ga-g])(#{1,3}|x|b{1,3}|♯|♭|𝄪|𝄫)?(-?\d+)?$")
_ALTER = {None: 0, "#": 1, "♯": 1, "##": 2, "x": 2, "𝄪": 2, "###": 3, "b": -1, "♭": -1, "bb": -2, "𝄫": -2, "bbb": -3}


@dataclass(frozen=True, order=True)
class PitchName:
    """A pitch class with its spelling, as a place on the line of fifths."""

    fifths: int

    @property
    def letter(self) -> str:
        return _LETTERS[(self.fifths + 1) % 7]

    @property
    def alter(self) -> int:
        """Semitones that the accidental adds: -1 for a flat, 1 for a sharp."""
        return (self.fifths + 1) // 7

    @property
    def pitch_class(self) -> int:
        """0 for C to 11 for B."""
        return self.fifths * 7 % 12

    def up(self, interval: int) -> PitchName:
        """Moved by an interval on the line of fifths (4 = a major third up).

        Parameters
        ----------
        interval : steps on the line of fifths

        >>> str(PitchName(-3).up(4))
        'G'
        """
        return PitchName(self.fifths + interval)

    def simple(self) -> PitchName:
        """The easy name of the same sound: at most one accidental, never Cb, Fb, B# or E#."""
        fifths = self.fifths
        while fifths > 8:
            fifths -= 12
        while fifths < -6:
            fifths += 12
        name = PitchName(fifths)
        return PitchName(fifths - 12) if str(name) in ("E#", "B#") else name

    def octave_of(self, midi: int) -> int:
        """Octave number of a sounding pitch under this spelling (middle C = C4; Cb4 sounds B3).

        Parameters
        ----------
        midi : MIDI number, 60 is middle C

        >>> PitchName(-7).octave_of(59)
        4
        """
        if midi % 12 != self.pitch_class:
            raise ParameterError(f"midi={midi} does not sound {self}; it belongs to another pitch class")
        return (midi - self.alter) // 12 - 1

    def at(self, midi: int) -> str:
        """Name with octave, e.g. ``Bb2``.

        Parameters
        ----------
        midi : MIDI number, 60 is middle C
        """
        return _with_octave(self.fifths, midi)

    def __str__(self) -> str:
        return self.letter + ("#" * self.alter if self.alter > 0 else "b" * -self.alter)


@lru_cache(maxsize=1 << 12)
def _with_octave(fifths: int, midi: int) -> str:
    name = PitchName(fifths)
    return f"{name}{name.octave_of(midi)}"


@lru_cache(maxsize=1 << 10)
def parse_name(text: str) -> PitchName:
    """Read a pitch class such as ``Bb``, ``F#`` or ``C♭``.

    Parameters
    ----------
    text : a letter and its signs

    >>> parse_name("Eb").pitch_class
    3
    """
    match = _NAME.match(text.strip())
    if not match or match[3]:
        raise FormatError(f"{text!r} is no note name; write a letter A to G with # or b, such as Bb or F#")
    return PitchName(_LETTERS.index(match[1].upper()) - 1 + 7 * _ALTER[match[2]])


@lru_cache(maxsize=1 << 10)
def parse_pitch(text: str) -> tuple[PitchName, int]:
    """Read a pitch with octave; gives its name and MIDI number (C4 = 60).

    Parameters
    ----------
    text : a name and an octave number, middle C is C4

    >>> parse_pitch("Bb2")[1]
    46
    """
    match = _NAME.match(text.strip())
    if not match or not match[3]:
        raise FormatError(f"{text!r} is no pitch; write a note name with its octave, such as C4 or Bb2")
    name = parse_name(text.strip()[: match.start(3)])
    natural = PitchName(name.fifths - 7 * name.alter).pitch_class
    return name, 12 * (int(match[3]) + 1) + natural + name.alter


def spell_pitch_class(pitch_class: int, tonic: PitchName) -> PitchName:
    """Spell a pitch class near a tonic: from the flat second to the raised fourth of its key.

    The window of twelve fifths from tonic-5 to tonic+6 holds both modes' scales with their usual
    chromatic notes (b2 b3 b6 b7 and #4, and in minor the raised sixth and seventh).

    Parameters
    ----------
    pitch_class : 0 to 11, C is 0
    tonic : of the key that holds
    """
    low = tonic.fifths - 5
    return PitchName(low + (pitch_class * 7 - low) % 12)


def spell_midi(midi: int, tonic: PitchName) -> str:
    """Spelled pitch with octave of a MIDI number in the key of ``tonic``.

    Parameters
    ----------
    midi : MIDI number, 60 is middle C
    tonic : of the key that holds

    >>> spell_midi(66, parse_name("D")), spell_midi(66, parse_name("Db"))
    ('F#4', 'Gb4')
    """
    return spell_pitch_class(midi % 12, tonic).at(midi)
