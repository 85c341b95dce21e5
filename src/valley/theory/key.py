"""Keys: tonic and mode, signature, scale, spelling, functions of chords."""

from __future__ import annotations

from dataclasses import dataclass

from valley.errors import ParameterError
from valley.theory.pitch import PitchName, parse_name, spell_pitch_class
from valley.values import derived

# How many fifths a mode's tonic lies above that of the major key with the same signature.
_ABOVE_MAJOR = {"major": 0, "minor": 3, "dorian": 2, "phrygian": 4, "lydian": -1, "mixolydian": 1, "locrian": 5}
_OTHER_NAMES = {"ionian": "major", "aeolian": "minor", "maj": "major", "min": "minor", "natural minor": "minor"}
MODES = tuple(_ABOVE_MAJOR)


@dataclass(frozen=True)
class Key:
    """A major or minor key, or one of the church modes.

    >>> str(Key.of("Eb", "major")), Key.of("Eb", "major").signature
    ('Eb major', -3)
    >>> [str(n) for n in Key.of("D", "dorian").scale()], Key.of("D", "dorian").signature
    (['D', 'E', 'F', 'G', 'A', 'B', 'C'], 0)
    """

    tonic: PitchName
    mode: str

    def __post_init__(self) -> None:
        if self.mode not in MODES:
            raise ParameterError(f"mode={self.mode!r} must be one of {', '.join(MODES)}; write the nearest of them")

    @classmethod
    def of(cls, tonic: str, mode: str) -> Key:
        """A key by its tonic's name.

        Parameters
        ----------
        tonic : such as "Bb"
        mode : "major", "minor" or a church mode; "ionian" is major, "aeolian" minor
        """
        plain = " ".join(mode.lower().split())
        return cls(parse_name(tonic), _OTHER_NAMES.get(plain, plain))

    @classmethod
    def from_pitch_class(cls, pitch_class: int, mode: str) -> Key:
        """The usual key of a sounding tonic: the spelling with the fewest accidentals.

        Ties (six sharps or six flats) go to Gb major and Eb minor, which pianists read more often.

        Parameters
        ----------
        pitch_class : of the tonic, 0 to 11
        mode : one of MODES
        """
        shift = _ABOVE_MAJOR[mode]
        fifths = (pitch_class * 7 - shift) % 12
        return cls(PitchName((fifths - 12 if fifths > 5 else fifths) + shift), mode)

    @property
    def signature(self) -> int:
        """Sharps (positive) or flats (negative) of the key signature."""
        return self.tonic.fifths - _ABOVE_MAJOR[self.mode]

    @property
    def is_minor(self) -> bool:
        """Whether its third is minor: what holds for minor keys holds for it."""
        return _ABOVE_MAJOR[self.mode] >= 2

    @classmethod
    def of_signature(cls, fifths: int, mode: str) -> Key:
        """The key of a mode with so many sharps (positive) or flats (negative).

        >>> str(Key.of_signature(0, "phrygian"))
        'E phrygian'
        """
        return cls(PitchName(fifths + _ABOVE_MAJOR[mode]), mode)

    def scale(self) -> tuple[PitchName, ...]:
        """The seven notes from the tonic up (natural minor), strictly spelled."""
        return self._scale

    @derived
    def _scale(self) -> tuple[PitchName, ...]:
        lowest = self.signature - 1  # the fourth of the major key with this signature begins its seven fifths
        return tuple(sorted((PitchName(lowest + i) for i in range(7)), key=lambda n: self.degree(n.pitch_class)))

    @derived
    def _spelled(self) -> dict[int, PitchName]:
        return {n.pitch_class: n for n in self._scale}

    def spell(self, pitch_class: int) -> PitchName:
        """The name this key gives to a pitch class.

        Parameters
        ----------
        pitch_class : 0 to 11, C is 0
        """
        return self._spelled.get(pitch_class % 12) or spell_pitch_class(pitch_class % 12, self.tonic)

    def degree(self, pitch_class: int) -> int:
        """Semitones above the tonic, 0 to 11.

        Parameters
        ----------
        pitch_class : 0 to 11, C is 0
        """
        return (pitch_class - self.tonic.pitch_class) % 12

    def __str__(self) -> str:
        return f"{self.tonic} {self.mode}"
