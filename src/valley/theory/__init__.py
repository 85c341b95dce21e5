"""Pitch, keys, chords and metre: small immutable values and tables, no sound."""

from valley.theory.chord import Chord, close_pitches, name_inversion, parse_harte, parse_symbol
from valley.theory.key import Key
from valley.theory.meter import Meter
from valley.theory.pitch import PitchName, parse_pitch, spell_midi

__all__ = [
    "Chord",
    "Key",
    "Meter",
    "PitchName",
    "close_pitches",
    "name_inversion",
    "parse_harte",
    "parse_pitch",
    "parse_symbol",
    "spell_midi",
]
